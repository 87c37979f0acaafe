"""Questions about every record at once: found with a witness that was judged, impossible with what
makes it so, or not decided with what stands in the way.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any, Final

import z3

from thistlequartz.core.analysis.texts import texts_for
from thistlequartz.core.engines.solver import Truth, Value
from thistlequartz.core.engines.solver.terms import all_of, equal, none_of
from thistlequartz.core.engines.traced import traced
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.judging.judged import Judged
from thistlequartz.core.kernel import NotTranslated, nodes
from thistlequartz.core.ruleset import Moment
from thistlequartz.core.values import ReferenceType, TextType

from .settled_record import SettledRecord
from .witness import Model, Witness
from .world import World

TIME_LIMIT: Final = 1_500
"""Milliseconds for one look."""
MOST_LOOKS: Final = 6
"""Witnesses that turn out to be none before it is given up."""
NUMBERS: Final = ("1", "2", "3")
"""By which witnesses refer to other records."""
Confirms = Callable[[Judged], bool]


@dataclass(frozen=True, slots=True)
class Found:
    """There is such a record: this one, judged."""

    witness: Witness
    judged: Judged


@dataclass(frozen=True, slots=True)
class Impossible:
    """There is none; these rules that stop a record make it so, together with the form itself."""

    rules: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class NotDecided:
    """What stands in the way."""

    why: str


Answer = Found | Impossible | NotDecided


@dataclass(slots=True)
class Asked:
    """How often the solver was asked."""

    questions: int = 0
    looks: int = 0


@dataclass(frozen=True, slots=True)
class Under:
    """Which rules a record keeps: those that stop it at a moment, but for some."""

    moment: Moment | None = None
    """None: any record, whatever stops it."""
    without: frozenset[str] = frozenset()
    only: frozenset[str] | None = None
    also: tuple[str, ...] = field(default=())
    """Rules that are kept although they stop nobody."""


ANY: Final = Under()


class Prover:
    """Asks the solver about the records of one form."""

    def __init__(self, form: CompiledForm, today: date, *, time_limit: int = TIME_LIMIT) -> None:
        self.form = form
        self.world = World(form, today)
        self._know_some_texts()
        self.record = SettledRecord(self.world)
        self.asked = Asked()
        self._solver = z3.Solver()
        self._solver.set("timeout", time_limit)
        self._told = 0
        self._literals: dict[str, Any] = {}
        for key, terms in self.record.rules.items():
            self._literals[key] = z3.Bool(f"kept {key}")
            self._solver.add(z3.Implies(self._literals[key], none_of(terms.violated)))
        self._goals = 0
        self._usual = self._what_is_usual()

    def _know_some_texts(self) -> None:
        """Texts that rules may tell apart, so that witnesses need not be invented."""
        conditions = [node for one in self.form.rules for node in one.conditions]
        for key, declared in self.form.fields.items():
            if isinstance(declared.type, TextType):
                for text in texts_for(key, conditions):
                    self.world.texts.number(text)
        for number in (*NUMBERS, "clerk"):
            self.world.texts.number(number)

    def _what_is_usual(self) -> list[Any]:
        """What a witness should be like, if it can: of today, at the desk, of known texts."""
        world = self.world
        texts, numbers = world.texts, [world.texts.number(one) for one in NUMBERS]
        at_the_desk = [
            world.today == world.from_day.toordinal(),
            world.is_entry_point("desk"),
            world.is_role("clerk"),
            world.layout == 0,
        ]
        known = []
        for terms in (world.entered, world.stored):
            for key, term in terms.items():
                type_ = self.form.fields[key].type
                if isinstance(type_, TextType) and isinstance(term, Value):
                    known.append(term.at < texts.known)
                elif isinstance(type_, ReferenceType) and isinstance(term, Value):
                    known.append(z3.Or([term.at == one for one in numbers]))
        return [
            self._as_literal("at the desk", all_of(at_the_desk)),
            self._as_literal("a new record", world.is_new),
            self._as_literal("known texts", all_of(known)),
        ]

    def _as_literal(self, name: str, condition: Any) -> Any:
        literal = z3.Bool(name)
        self._solver.add(z3.Implies(literal, condition))
        return literal

    def kept(self, under: Under) -> list[str]:
        """The rules that a record keeps."""
        keys = [
            one.rule.key
            for one in self.form.rules
            if one.rule.key in self._literals
            and one.rule.key not in under.without
            and (under.only is None or one.rule.key in under.only)
            and under.moment is not None
            and self.record.stops(one, under.moment)
        ]
        return [*keys, *(key for key in under.also if key in self._literals)]

    def ask(self, goal: Any, under: Under = ANY, confirms: Confirms | None = None) -> Answer:
        """Whether there is a record of which `goal` is so and that keeps those rules.

        `confirms` looks again at what the evaluator says of a witness; without it a witness is
        believed where the evaluator lets it pass as it should.
        """
        self.asked.questions += 1
        self._goals += 1
        literal = z3.Bool(f"goal {self._goals}")
        self._solver.add(z3.Implies(literal, goal))
        try:
            return self._answer(literal, self.kept(under), under, confirms)
        finally:
            self._solver.add(none_of(literal))

    def _answer(
        self, goal: Any, kept: Sequence[str], under: Under, confirms: Confirms | None
    ) -> Answer:
        must = [goal, *(self._literals[key] for key in kept)]
        unconfirmed = False
        for _ in range(MOST_LOOKS):
            looked = z3.unknown
            for usual in (self._usual, self._usual[2:], []):
                looked = self._look([*must, *usual])
                if looked == z3.sat:
                    break
            if looked == z3.unsat:
                return Impossible(self._smallest(goal, kept))
            if looked != z3.sat:
                break
            model = Model(self.world, self.record, self._solver.model())
            witness = model.witness()
            judged = witness.judged(self.form)
            if self._stands(judged, under) and (confirms is None or confirms(judged)):
                return Found(witness, judged)
            unconfirmed = True
            if not self._learn(model, judged):
                break
        return NotDecided(self._in_the_way(unconfirmed))

    def _look(self, assumptions: list[Any]) -> Any:
        self._tell_more()
        self.asked.looks += 1
        return self._solver.check(*assumptions)

    def _tell_more(self) -> None:
        for one in (*self.world.assumed[self._told :], *self.world.texts.new_facts()):
            self._solver.add(one)
        self._told = len(self.world.assumed)

    def _smallest(self, goal: Any, kept: Sequence[str]) -> tuple[str, ...]:
        """As few of the rules as make it impossible, none of which can be left out."""
        core = {str(one) for one in self._solver.unsat_core()}
        needed = [key for key in kept if str(self._literals[key]) in core]
        for key in list(needed):
            fewer = [one for one in needed if one != key]
            if self._look([goal, *(self._literals[one] for one in fewer)]) == z3.unsat:
                needed = fewer
        return tuple(needed)

    def _stands(self, judged: Judged, under: Under) -> bool:
        """Whether the evaluator, too, says that it keeps the rules it has to keep."""
        if judged.has_faults:
            return False
        return all(judged.findings[key].status != "broken" for key in self.kept(under))

    def _learn(self, model: Model, judged: Judged) -> bool:
        """What the parts that were left free really come to for this record; False: nothing new."""
        environment, learnt = judged.settled.environment, False
        for one in list(self.record.free):
            if not isinstance(one.term, Truth | Value):
                continue
            reads = [node for node in nodes.walk(one.node) if isinstance(node, nodes.Read)]
            if any(node.source in ("other", "variable") for node in reads):
                continue
            try:
                really = self.record.constant(traced(one.node)(environment))
                same = equal(one.term, really)
                given = [
                    equal(self.record.term(node), self.record.constant(traced(node)(environment)))
                    for node in reads
                ]
            except NotTranslated:
                continue
            if same is None or model.holds(same) or any(part is None for part in given):
                continue
            self.world.assume(z3.Implies(all_of(given), same))
            learnt = True
        return learnt

    def _in_the_way(self, unconfirmed: bool) -> str:
        names = dict.fromkeys(one.why for one in self.record.free)
        if unconfirmed and names:
            return f"it hangs on {_listed(names)}"
        return "it hangs on a text that could not be made" if unconfirmed else "it took too long"


def _listed(names: Iterable[str]) -> str:
    return ", ".join(f"“{name}”" for name in list(names)[:3])
