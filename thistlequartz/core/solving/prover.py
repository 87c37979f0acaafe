"""Questions about every record at once: witness, impossible with its reasons, or undecided."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property
from typing import Any, Final

import z3

from thistlequartz.core.candidates.texts import texts_for
from thistlequartz.core.cases.observing import noon_of
from thistlequartz.core.engines.solver import TruthTerm, ValueTerm
from thistlequartz.core.engines.solver.terms import all_of, any_of, equal, none_of, number_of
from thistlequartz.core.engines.traced import traced
from thistlequartz.core.judging import CompiledForm, Judgement
from thistlequartz.core.kernel import NotTranslated, nodes
from thistlequartz.core.ruleset import CaseCircumstances, Moment, usual_role
from thistlequartz.core.translation import tr

from .answer_cache import AnswerCache, CachedAnswer
from .facts import FREE, RecordFacts
from .query import QueryParts, SolverQuery, limited
from .record_variables import RecordVariables
from .settled_terms import FreeTerm, SettledRecord
from .witness import SolverModel, Witness

MOST_LOOKS: Final = 6
"""Witnesses that turn out to be none before it is given up."""
MOST_LEMMAS: Final = 60
"""Facts about texts that are learnt for one question before it is given up."""
NUMBERS: Final = ("1", "2", "3")
"""By which witnesses refer to other records."""
Confirms = Callable[[Judgement], bool]
Shows = Callable[[Witness], bool]
_NOTHING: Final[Mapping[str, Sequence[Any]]] = {}
_YEARS: Final = 10 * 365
_LARGEST_PLAIN: Final = 1_000_000
_PLAIN: Final[Mapping[str, Callable[[date], tuple[int, int]]]] = {
    "number": lambda today: (0, _LARGEST_PLAIN),
    "date": lambda today: (today.toordinal() - _YEARS, today.toordinal() + _YEARS),
}
"""Between what numbers and days lie that people enter, seen from a day."""


@dataclass(frozen=True, slots=True)
class Satisfiable:
    """There is such a record: this one, judged."""

    witness: Witness
    judged: Judgement


@dataclass(frozen=True, slots=True)
class Unsatisfiable:
    """There is none; these rules that stop a record make it so, together with the form itself."""

    rules: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Undecided:
    """What stands in the way."""

    why: str


Answer = Satisfiable | Unsatisfiable | Undecided


@dataclass(frozen=True, slots=True)
class RuleAssumptions:
    """Which rules a record keeps: those that stop it at a moment, but for some."""

    moment: Moment | None = None
    """None: any record, whatever stops it."""
    without: frozenset[str] = frozenset()
    only: frozenset[str] | None = None
    also: tuple[str, ...] = field(default=())
    """Rules that are kept although they stop nobody."""


ANY: Final = RuleAssumptions()


class Prover:
    """Asks the solver about the records of one form.

    Each question gets no more than bears on it: what holds of the fields it speaks of, and of the
    rules that a record has to satisfy those that a witness turned out to violate.
    """

    def __init__(
        self,
        form: CompiledForm,
        today: date,
        *,
        memory: AnswerCache | None = None,
    ) -> None:
        self.form = form
        self.memory = memory or AnswerCache()
        self.world = RecordVariables(form, today, self.memory.texts)
        self._samples: dict[str, list[int]] = {}
        self._know_some_texts()
        self.record = SettledRecord(self.world)
        self._facts = RecordFacts()
        self._free_by_name: dict[str, FreeTerm] = {}
        self._told = self._others = self._free_known = 0
        given = (self.world.entered, self.world.stored, self.world.second)
        for term in (self.world.role, *(one for terms in given for one in terms.values())):
            self._facts.keep_together(*self.world.parts_of(term))
        self._numbers = [self.world.texts.number(one) for one in NUMBERS]
        self._noon = number_of(noon_of(today, form))
        self._usually = Witness(CaseCircumstances(as_of=today))
        through = self.ask(z3.BoolVal(True), RuleAssumptions("submit"))
        if isinstance(through, Satisfiable):
            # What a question is not about is as in a record that goes through.
            self._usually = through.witness

    @property
    def usually(self) -> Witness:
        """A record that goes through, where there is one."""
        return self._usually

    def _know_some_texts(self) -> None:
        """Texts that rules may tell apart, so that witnesses need not be invented."""
        conditions = [node for one in self.form.rules for node in one.conditions]
        for key, declared in self.form.fields.items():
            if declared.type.is_free_text:
                texts = texts_for(key, conditions)
                self._samples[key] = [self.world.texts.number(text) for text in texts]
        for number in (*NUMBERS, usual_role(self.form.form)):
            self.world.texts.number(number)

    def kept(self, under: RuleAssumptions) -> list[str]:
        """The rules that a record keeps."""
        keys = [
            key
            for key in (self._stopping[under.moment] if under.moment else ())
            if key not in under.without and (under.only is None or key in under.only)
        ]
        return [*keys, *(key for key in under.also if key in self.record.rules)]

    @cached_property
    def _stopping(self) -> dict[Moment, list[str]]:
        """By moment: the rules that stop a record at it."""
        moments: tuple[Moment, ...] = ("save", "submit")
        return {
            moment: [
                one.rule.key
                for one in self.form.rules
                if one.rule.enabled and self.record.stops(one, moment)
            ]
            for moment in moments
        }

    def ask(
        self,
        goal: Any,
        under: RuleAssumptions = ANY,
        confirms: Confirms | None = None,
        shows: Shows | None = None,
    ) -> Answer:
        """Whether there is a record of which `goal` is so and that keeps those rules.

        `confirms` looks again at what the evaluator says of a witness, and `shows` at the witness
        itself; without them it is believed where the evaluator lets it pass as it should, and the
        goal is so with what the evaluator makes of the parts that were left free.
        """
        if z3.is_false(goal):
            return Unsatisfiable()
        kept = self.kept(under)

        def passes(witness: Witness, judged: Judgement) -> bool:
            return (
                not judged.has_faults
                and (confirms is None or confirms(judged))
                and (shows is None or shows(witness))
            )

        looked_at: list[str] = []
        unconfirmed = learnt = 0
        unmade: tuple[str, ...] = ()
        anew = False
        """Whether the solver is asked itself: a witness that is none is learnt from its model."""
        while unconfirmed < MOST_LOOKS:
            asked = self._asked(goal, looked_at)
            said = None if anew else self._known(asked)
            model = None
            if said is None:
                question = asked.question()
                if not question.has_record() and question.undecided:
                    break
                said, model, lemmas = self._said(asked, question)
                if lemmas:
                    learnt += len(lemmas)
                    if learnt > MOST_LEMMAS:
                        break
                    for one in lemmas:
                        self.world.assume(one)
                    continue
            if said is None:
                break
            if said.witness is None:
                return Unsatisfiable(said.rules)
            witness = said.witness
            judged = witness.judged(self.form)
            violated = [key for key in kept if judged.findings[key].is_violated]
            further = [key for key in violated if key not in looked_at]
            if further:
                looked_at += further
                anew = False
                continue
            if not violated and passes(witness, judged):
                if confirms or shows:
                    return Satisfiable(witness, judged)
                said.stands = said.stands or self._stands(asked, model, judged)
                if said.stands:
                    return Satisfiable(witness, judged)
            if model is None:
                anew = True
                continue
            unconfirmed += 1
            unmade = model.unmade
            if not self._learn(model, judged):
                break
        return Undecided(self.in_the_way(bool(unconfirmed), unmade))

    def _known(self, asked: QueryParts) -> CachedAnswer | None:
        """What was said to this very question, where it would be said again."""
        said = self.memory.of(asked.premises)
        like_now = said is None or said.witness is None or said.usually == self._usually
        return said if like_now else None

    def _said(
        self, asked: QueryParts, question: SolverQuery
    ) -> tuple[CachedAnswer | None, SolverModel | None, list[Any]]:
        """What the solver says to a question that it decides, kept for later looks; or what it did
        not know of texts, and is to be asked with again.
        """
        terms = (asked.goal, *asked.facts, *asked.rules.values(), *asked.usual)
        if question.is_impossible:
            said, model = CachedAnswer(terms, rules=question.smallest()), None
        else:
            model = SolverModel(self.world, self.record, question.model(), asked.names)
            if lemmas := model.make_texts():
                return None, None, lemmas
            said = CachedAnswer(terms, model.witness(self._usually), self._usually)
        self.memory.keep(asked.premises, said)
        return said, model, []

    def question(
        self, goal: Any, keys: Sequence[str], known: Mapping[str, Sequence[Any]] | None = None
    ) -> SolverQuery:
        """Return one question, with the rules `keys` satisfied and all that bears on it.

        `known` is what is known of each rule beside that.
        """
        return self._asked(goal, keys, known or _NOTHING).question()

    def _asked(
        self, goal: Any, keys: Sequence[str], known: Mapping[str, Sequence[Any]] = _NOTHING
    ) -> QueryParts:
        self._tell_more()
        rules = {
            key: all_of((none_of(self.record.rules[key].violated), *known.get(key, ())))
            for key in keys
        }
        facts, names = self._facts.about(self._facts.names_in(goal, *rules.values()))
        return QueryParts(goal, rules, facts, names, self._usual(names))

    def _tell_more(self) -> None:
        for terms in list(self.world.others.values())[self._others :]:
            for term in terms.values():
                self._facts.keep_together(*self.world.parts_of(term))
        self._others = len(self.world.others)
        for one in (*self.world.assumed[self._told :], *self.world.texts.new_facts()):
            self._facts.add(one)
        self._told = len(self.world.assumed)

    def _usual(self, names: frozenset[str]) -> list[Any]:
        """What a witness should be like, if it can: of today, at the desk, new, of known texts."""
        world = self.world
        here = {
            "today": world.today == world.from_day.toordinal(),
            "entry_point": world.is_entry_point("desk"),
            "role": world.is_role(usual_role(self.form.form)),
            "layout": world.layout == 0,
            "event": world.is_new,
            "now": all_of((world.today == world.from_day.toordinal(), world.now == self._noon)),
        }
        plain, known = [], []
        for prefix, terms in (("", world.entered), ("stored.", world.stored)):
            for key, term in terms.items():
                if f"{prefix}{key}" not in names or not isinstance(term, ValueTerm):
                    continue
                type_ = self.form.fields[key].type
                if type_.is_free_text:
                    plain.append(any_of(term.at == one for one in self._samples[key]))
                    known.append(term.at < world.texts.known)
                elif type_.referred_form:
                    known.append(any_of(term.at == one for one in self._numbers))
                elif term.kind in _PLAIN:
                    low, high = _PLAIN[term.kind](world.from_day)
                    plain.append(all_of((term.at >= low, term.at <= high)))
        usual = (all_of(one for name, one in here.items() if name in names), all_of(plain))
        return [one for one in (*usual, all_of(known)) if not z3.is_true(one)]

    def _stands(self, asked: QueryParts, model: SolverModel | None, judged: Judgement) -> bool:
        """Whether the goal is so also with what the parts that were left free really come to, for
        this record; where they bear on it, that is seen in its model alone. The rules that are kept
        the evaluator has judged.
        """
        facts, names = self._facts.about(self._facts.names_in(asked.goal))
        free = self._left_free(names)
        if not free or model is None:
            return not free
        really = (self._really(one, judged) for one in free)
        looked = z3.Solver()
        limited(looked)
        looked.add(asked.goal, *facts, *model.given())
        looked.add(*(same for same in really if same is not None))
        return bool(looked.check() == z3.sat)

    def _left_free(self, names: frozenset[str]) -> list[FreeTerm]:
        """The parts that bear some of these names."""
        for one in self.record.free[self._free_known :]:
            for name in self._facts.names_in(*self.world.parts_of(one.term)):
                self._free_by_name.setdefault(name, one)
        self._free_known = len(self.record.free)
        found = (self._free_by_name.get(name) for name in names if name.startswith(FREE))
        return list({id(one): one for one in found if one is not None}.values())

    def _really(self, one: FreeTerm, judged: Judgement) -> Any | None:
        """That a part is what the evaluator makes of it; None where the two cannot be compared."""
        reads = (node for node in nodes.walk(one.node) if isinstance(node, nodes.Read))
        if not isinstance(one.term, TruthTerm | ValueTerm) or any(
            node.source in ("other", "variable") for node in reads
        ):
            return None
        try:
            really = self.record.constant(traced(one.node)(judged.settled.environment))
        except NotTranslated:
            return None
        return equal(one.term, really)

    def _learn(self, model: SolverModel, judged: Judgement) -> bool:
        """What the parts that were left free really come to for this record; False: nothing new."""
        environment, learnt = judged.settled.environment, False
        for one in list(self.record.free):
            same = self._really(one, judged)
            if same is None or model.satisfies(same):
                continue
            try:
                given = [
                    equal(self.record.term(node), self.record.constant(traced(node)(environment)))
                    for node in nodes.walk(one.node)
                    if isinstance(node, nodes.Read)
                ]
            except NotTranslated:
                continue
            if any(part is None for part in given):
                continue
            self.world.assume(z3.Implies(all_of(given), same))
            learnt = True
        return learnt

    def in_the_way(self, unconfirmed: bool, unmade: Sequence[str] = ()) -> str:
        """Return why something is not decided.

        A text that could not be made for the fields `unmade`, a part that has no translation,
        witnesses that failed for an unknown reason, or time.
        """
        if not unconfirmed:
            return tr("it took too long")
        if unmade:
            labels = (self.form.fields[key].label for key in unmade)
            return tr(
                "it hangs on a text for {listed} that could not be made", listed=_listed(labels)
            )
        names = dict.fromkeys(one.why for one in self.record.free)
        if names:
            return tr("it hangs on {listed}", listed=_listed(names))
        return tr("no example record could be confirmed")


def _listed(names: Iterable[str]) -> str:
    return ", ".join(f"“{name}”" for name in list(names)[:3])
