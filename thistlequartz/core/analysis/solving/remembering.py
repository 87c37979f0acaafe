"""Answers that are remembered from one look at a form to the next.

A question is looked up by its terms: the solver gives the same number to the same term as long as
one of them is kept. That no record is as it asks is remembered with everything from which it
followed, and so it follows again; a witness is judged again by the form as it is now. Whatever the
form has become, an answer from here is as good as a new one, and what an edit does not touch is
not asked twice.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Final

from .witness import Witness

MOST_TEXTS: Final = 20_000
"""Texts with numbers of their own, past which a memory begins anew."""
About = tuple[int, object]
"""The number of a goal, and which rules a record keeps."""
Premises = tuple[int, frozenset[int], frozenset[tuple[str, int]]]
"""The numbers of a goal, of what is known, and of the rules kept, by key."""


@dataclass(slots=True)
class _Remembered:
    goal: Any
    """Kept, so that its number stays its own."""
    witness: Witness | None = None
    usually: Witness | None = None
    """What it was made like, where the question was about nothing."""
    looked_at: tuple[str, ...] = ()
    """The rules with which no record was left, in the order in which they were added."""
    premises: Premises | None = None
    terms: Sequence[Any] = ()
    """What the premises are the numbers of, kept as well."""
    rules: tuple[str, ...] = ()
    """As few of them as make it impossible."""
    used: bool = True


@dataclass
class Memory:
    """What was found out about one form."""

    texts: dict[str, int] = field(default_factory=dict)
    """The numbers of texts: the same from look to look."""
    hits: int = 0
    asked: int = 0
    _known: dict[About, _Remembered] = field(default_factory=dict)

    def of(self, goal: Any, under: object) -> _Remembered | None:
        """What is remembered of a question."""
        self.asked += 1
        found = self._known.get((goal.get_id(), under))
        if found is not None:
            found.used = True
        return found

    def keep_witness(self, goal: Any, under: object, witness: Witness, usually: Witness) -> None:
        """Remember a record that is as a question asks, and otherwise as `usually`."""
        self._known[goal.get_id(), under] = _Remembered(goal, witness, usually)

    def keep_impossible(
        self,
        goal: Any,
        under: object,
        facts: Sequence[Any],
        rules: Mapping[str, Any],
        needed: tuple[str, ...],
    ) -> None:
        """Remember that no record is so: it follows from `facts` and `rules`."""
        self._known[goal.get_id(), under] = _Remembered(
            goal,
            looked_at=tuple(rules),
            premises=premises(goal, facts, rules),
            terms=(*facts, *rules.values()),
            rules=needed,
        )

    def forget_unused(self) -> None:
        """A look is over: what it had no use for is forgotten."""
        self._known = {key: one for key, one in self._known.items() if one.used}
        for one in self._known.values():
            one.used = False
        self.hits = self.asked = 0
        if len(self.texts) > MOST_TEXTS:
            self._known, self.texts = {}, {}


def premises(goal: Any, facts: Sequence[Any], rules: Mapping[str, Any]) -> Premises:
    """From what an answer follows, by the numbers of the terms."""
    return (
        goal.get_id(),
        frozenset(one.get_id() for one in facts),
        frozenset((key, one.get_id()) for key, one in rules.items()),
    )
