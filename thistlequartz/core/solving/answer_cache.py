"""What the solver has said, remembered from one look at a form to the next.

A question is known again by its terms: the solver gives the same number to the same term as long as
one of them is kept. So what is looked up is the very same question, and its answer is the one that
the solver would give now, whatever the form has become elsewhere: what an edit does not touch is
not asked twice. What comes of an answer (whether its witness violates a rule) is judged anew.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Final

from .witness import Witness

MOST_TEXTS: Final = 20_000
"""Texts with numbers of their own, past which a memory begins anew."""
Premises = tuple[int, frozenset[int], frozenset[tuple[str, int]], tuple[int, ...]]
"""The numbers of a goal, of what is known, of the rules that are kept, by key, and of what a
witness should be like."""


@dataclass(slots=True)
class CachedAnswer:
    """An answer of the solver."""

    terms: Sequence[Any]
    """What the question was made of: kept, so that their numbers stay their own."""
    witness: Witness | None = None
    usually: Witness | None = None
    """What the witness is like where the question was about nothing."""
    rules: tuple[str, ...] = ()
    """Without a witness: as few rules as make it impossible."""
    stands: bool = False
    """Whether its witness was seen to be what was asked for, with all that was left free."""
    used: bool = True


@dataclass
class AnswerCache:
    """What was said of one form."""

    texts: dict[str, int] = field(default_factory=dict)
    """The numbers of texts: the same from look to look."""
    _said: dict[Premises, CachedAnswer] = field(default_factory=dict)

    def of(self, premises: Premises) -> CachedAnswer | None:
        """What was said to a question."""
        found = self._said.get(premises)
        if found is not None:
            found.used = True
        return found

    def keep(self, premises: Premises, said: CachedAnswer) -> None:
        """Remember an answer."""
        self._said[premises] = said

    def forget_unused(self) -> None:
        """A look is over: what it had no use for is forgotten."""
        self._said = {key: one for key, one in self._said.items() if one.used}
        for one in self._said.values():
            one.used = False
        if len(self.texts) > MOST_TEXTS:
            self._said, self.texts = {}, {}


def premises_of(
    goal: Any, facts: Sequence[Any], rules: Mapping[str, Any], usual: Sequence[Any]
) -> Premises:
    """By what a question is known again."""
    return (
        goal.get_id(),
        frozenset(one.get_id() for one in facts),
        frozenset((key, one.get_id()) for key, one in rules.items()),
        tuple(one.get_id() for one in usual),
    )
