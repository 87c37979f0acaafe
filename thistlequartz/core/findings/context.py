"""What every kind of finding looks at: the form, its words, and the solver."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property
from typing import Any

from thistlequartz.core.candidates.entries import Candidates
from thistlequartz.core.engines.solver import CodesTerm
from thistlequartz.core.engines.solver.terms import FALSE, all_of, any_of, equal, none_of
from thistlequartz.core.judging import CompiledForm, CompiledRule, Judgement
from thistlequartz.core.ruleset import SEVERITIES, Field, RuleSet
from thistlequartz.core.solving.prover import Answer, Confirms, Prover, RuleAssumptions, Undecided
from thistlequartz.core.solving.settled_terms import RuleTerms
from thistlequartz.core.translation import listed, tr
from thistlequartz.core.types import show_value

from .finding import Finding, UndecidedSearch

Value = Any


@dataclass(frozen=True, slots=True)
class Rights:
    """Whether anybody may do what rules ask to be done; None where that is not known."""

    lift_holds: bool | None = None
    approve: bool | None = None


@dataclass
class SearchContext:
    """One look at a form."""

    ruleset: RuleSet
    form: CompiledForm
    today: date
    made_prover: Prover | None = None
    rights: Rights = Rights()
    samples: Mapping[str, tuple[Value, ...]] = field(default_factory=dict)
    """By field: values that stored records or samples hold."""
    absent: dict[str, int] = field(default_factory=dict)
    """By code: how often it was proved that there is nothing to find."""
    undecided: list[UndecidedSearch] = field(default_factory=list)
    situations: dict[str, Callable[[Judgement], bool]] = field(default_factory=dict)
    """By the mark of a finding: whether a record is in a situation that its fix is meant to
    change. A fix without one changes nothing of any record.
    """
    explained: set[tuple[str, str]] = field(default_factory=set)
    """Codes and rules that another finding has spoken of already."""
    candidates: Candidates | None = None
    """What is tried in the fields of records that are drawn, once that was worked out."""
    focus: frozenset[str] | None = None
    """The keys of the rules that are looked at; None: all of them."""

    @cached_property
    def prover(self) -> Prover:
        """What is asked about every record; made when the first question comes."""
        return self.made_prover or Prover(self.form, self.today)

    @property
    def rules(self) -> list[CompiledRule]:
        """Those that are switched on and can be used, in the order of the form."""
        focus = self.focus
        return [
            one
            for one in self.form.rules
            if one.rule.enabled and (focus is None or one.rule.key in focus)
        ]

    @property
    def checks(self) -> list[CompiledRule]:
        """Those of them that check, and say something on saving or submitting."""
        return [one for one in self.rules if not one.is_effect and not is_silent(one)]

    def part(self, part: str) -> list[CompiledRule]:
        """Those of them with an effect of that sort."""
        return [one for one in self.rules if one.part == part]

    def terms(self, one: CompiledRule) -> RuleTerms:
        """What a rule says, in the solver's terms."""
        return self.prover.record.rules[one.rule.key]

    def ask(
        self,
        code: str,
        about: tuple[str, ...],
        goal: Any,
        under: RuleAssumptions,
        confirms: Confirms | None = None,
        fields: tuple[str, ...] = (),
    ) -> Answer:
        """Ask the solver; what is not decided is noted."""
        answer = self.prover.ask(goal, under, confirms)
        if isinstance(answer, Undecided):
            self.not_decided(code, about, fields, answer.why)
        return answer

    def not_decided(
        self, code: str, rules: tuple[str, ...], fields: tuple[str, ...], why: str
    ) -> None:
        """Note a question without an answer."""
        self.undecided.append(UndecidedSearch(code, rules, fields, why))

    def meant(self, finding: Finding, situation: Callable[[Judgement], bool]) -> Finding:
        """A finding whose fix is meant to change what happens in some situations."""
        self.situations[finding.fingerprint] = situation
        return finding

    def nothing(self, code: str) -> None:
        """Note that there is nothing to find, which is proved."""
        self.absent[code] = self.absent.get(code, 0) + 1

    def there(self, keys: tuple[str, ...]) -> Any:
        """That one of the fields is relevant."""
        return any_of(map(self.prover.record.is_relevant, keys))

    def has_value(self, key: str, value: Value) -> Any:
        """That a relevant field holds a value; None is blank. Of several choices: that one."""
        record = self.prover.record
        term = record.values[key]
        relevant = record.is_relevant(key)
        if value is None:
            return all_of((relevant, term.blank))
        if isinstance(term, CodesTerm):
            return all_of((relevant, term.members.get(value, FALSE)))
        same = equal(term, record.constant(value))
        return all_of((relevant, FALSE if same is None else same))

    def enterable(self, key: str) -> Any:
        """That a person can enter a field."""
        record = self.prover.record
        shut = any_of((record.locked.get(key, FALSE), record.derived.get(key, FALSE)))
        return all_of(
            (record.is_relevant(key), none_of(shut), none_of(record.waiting.get(key, FALSE)))
        )

    def behind(self, keys: set[str]) -> set[str]:
        """Fields, and those that they hang on by rules with an effect, however far."""
        reached = set(keys)
        while True:
            more = {
                key
                for one in self.form.rules
                if one.rule.enabled
                if one.is_effect and one.part != "proposing" and reached & set(one.rule.targets)
                for key in one.reads
            }
            if more <= reached:
                return reached
            reached |= more

    # In words.

    def label(self, key: str) -> str:
        """What people know a field by."""
        return self.form.fields[key].label if key in self.form.fields else key

    def name(self, key: str) -> str:
        """The name of a rule, between quotation marks."""
        return f"“{self.names.get(key, key)}”"

    @cached_property
    def names(self) -> dict[str, str]:
        """The names of the rules, by key."""
        return {one.key: one.name for one in self.form.form.rules}

    def named(self, keys: tuple[str, ...]) -> str:
        """Several rules by their names."""
        return listed([self.name(key) for key in keys])

    def labels(self, keys: tuple[str, ...]) -> str:
        """Several fields by their labels."""
        return listed([self.label(key) for key in keys])

    def shown(self, key: str, value: Value) -> str:
        """A value as people read it."""
        if value is None:
            return tr("blank")
        type_ = self.form.fields[key].type
        return show_value(value, type_.item_type() if isinstance(value, str) else type_)

    def because(self, statement: str, proof: tuple[str, ...]) -> str:
        """A statement as a sentence, with the rules that make it so; none: the form alone does."""
        if not proof:
            return tr("{statement}.", statement=statement)
        return tr("{statement}, because of {rules}.", statement=statement, rules=self.named(proof))

    @cached_property
    def fields(self) -> dict[str, Field]:
        """The fields as they are written, by key."""
        return {one.key: one for one in self.form.form.fields}

    def answers(self, key: str) -> list[Value]:
        """What can be chosen in a field: its choices, or yes and no; none of another field."""
        type_, field = self.form.fields[key].type, self.fields[key]
        retired = {one.code for one in getattr(field, "choices", ()) if one.retired}
        every = type_.item_type().entries()
        return [one for one in every if isinstance(one, str | bool) and one not in retired]


def is_violated(key: str) -> Confirms:
    """What looks whether a rule is violated by a witness."""

    def violated(judged: Judgement) -> bool:
        return judged.findings[key].is_violated

    return violated


def is_silent(one: CompiledRule) -> bool:
    """Whether a check says nothing on saving and on submitting."""
    return one.severities["save"] == "none" and one.severities["submit"] == "none"


def blocks(one: CompiledRule) -> bool:
    """Whether a check stops who saves or who submits."""
    return "block" in (one.severities["save"], one.severities["submit"])


def hardness(one: CompiledRule) -> tuple[int, int]:
    """How hard it speaks on saving and on submitting, which counts both."""
    save = SEVERITIES.index(one.severities["save"])
    return save, max(save, SEVERITIES.index(one.severities["submit"]))


def is_demand(one: CompiledRule) -> bool:
    """Whether it asks for its targets to be filled in."""
    return one.check_kind is not None and one.check_kind.marks


def is_agreement(one: CompiledRule) -> bool:
    """Whether it asks for a yes that only whoever agrees can give."""
    return one.check_kind is not None and one.check_kind.agreement


def is_about_missing(one: CompiledRule) -> bool:
    """Whether missing values are its business."""
    return one.check_kind is not None and one.check_kind.judges_blanks


def is_about_others(one: CompiledRule) -> bool:
    """Whether it holds the record against others of the form."""
    return one.check_kind is not None and one.check_kind.other_records


def claims_key(one: CompiledRule) -> bool:
    """Whether the values of its targets belong to one record."""
    return one.check_kind is not None and one.check_kind.claims_key


def each_pair(items: list[Any]) -> Iterator[tuple[Any, Any]]:
    """Every two of them, the earlier first."""
    for place, one in enumerate(items):
        for other in items[place + 1 :]:
            yield one, other
