"""What a kind of rule is: the parts that every one of them must say, with no default.

A kind that lacks a part does not start, since each part is required of its record here.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Generic, Literal, NamedTuple, TypeVar

from thistlequartz.core.language import Segment, Vocabulary, tree
from thistlequartz.core.types import ValueType

from .common import CheckBase, EffectBase, RuleBase
from .formulas import FormulaReader
from .lowered import Check, Effect, Lowered
from .mutations import Kind as Mistake

RuleT = TypeVar("RuleT", bound=RuleBase)
CheckT = TypeVar("CheckT", bound=CheckBase)
EffectT = TypeVar("EffectT", bound=EffectBase)

Must = tuple[tuple[str, ...], tree.Node]
"""What must hold, after the targets that its message belongs to."""
Neighbour = Literal["values", "blank", "second_entry", "another_record"]


class FormulaSlot(NamedTuple, Generic[RuleT]):
    """A place in a rule where a formula stands."""

    text: str
    put: Callable[[str], RuleT]
    """The rule with another formula there."""
    typed: bool = False
    """Whether a plain value, as people type it, may stand there, too."""


class RuleMutation(NamedTuple):
    """A rule with one small mistake in it, and what the mistake is, in words."""

    mistake: Mistake
    words: str
    rule: Any


class KindPlaceholder(NamedTuple):
    """A place in a message that only rules of this kind can fill: its name, and what is put in."""

    name: str
    says: str
    bound: Callable[[Check], tree.Node | None]
    """What gives the value."""
    shown_as: Callable[[Any, ValueType], ValueType | None]
    """The type the value is shown by, from the rule and the type of its target."""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Kind(Generic[RuleT]):
    document: type[RuleT]
    """What a steward writes; its docstring says what it means."""
    formulas: Callable[[RuleT], Iterator[FormulaSlot[RuleT]]]
    """Its formulas beside its condition."""
    names: Callable[[RuleT], tuple[str, ...]]
    """The keys of fields that it names beside targets, watched fields and formulas."""
    renamed: Callable[[RuleT, Mapping[str, str]], RuleT]
    """With other keys for those."""
    mutations: Callable[[RuleT], Iterator[RuleMutation]]
    """Its own small mistakes, beside those of formulas, conditions, severities and moments."""

    @property
    def name(self) -> str:
        """What documents call it."""
        name: str = self.document.model_fields["kind"].default
        return name


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckKind(_Kind[CheckT]):
    """A kind of rule that checks."""

    musts: Callable[[CheckT, FormulaReader], list[Must]]
    """What must hold, in the trees that people write; problems are noted by the reader."""
    judges_blanks: bool
    """Whether missing values are its business, so that a blank leaves something to judge."""
    marks: bool
    """Whether it asks for its targets to be filled, and so marks them."""
    agreement: bool
    """Whether it asks for a yes that only whoever agrees can give."""
    hints: bool
    """Whether it says what can be entered in a field."""
    second_entry: bool
    """Whether its targets are entered a second time, which it waits for while typing."""
    other_records: bool
    """Whether it holds the record against others of the form."""
    claims_key: bool
    """Whether the values of its targets, taken together, belong to one record."""
    obligation: Callable[[Lowered[CheckT], Vocabulary], list[Segment]]
    """Its sentence, from its targets on."""
    told: Callable[[Check, Vocabulary], list[Segment]]
    """What a drafted message says of one of its checks."""
    placeholders: Callable[[CheckT], tuple[KindPlaceholder, ...]]
    """What its message may hold beside what every message may."""
    neighbour: Neighbour
    """What a drafted case of it stands beside: other values, a blank, another entry or record."""


class EffectSeen(NamedTuple):
    """What a rule with an effect does to its targets in one record."""

    targets: str
    """Their labels."""
    is_one: bool
    waiting_for: str
    """Why a target waits; blank where none does."""
    values: Callable[[], str]
    """The targets with their values, in words."""


Part = Literal["opening", "closing", "locking", "waiting", "deriving", "starting", "proposing"]
"""Where in the order of one evaluation an effect has its place."""


@dataclass(frozen=True, slots=True, kw_only=True)
class EffectKind(_Kind[EffectT]):
    """A kind of rule with an effect."""

    effect: Callable[[EffectT, tree.Node | None, FormulaReader], Effect]
    """What it gives, or waits for; its condition, read, is handed in."""
    part: Part
    decides: Literal["state", "value"] | None
    """What of its targets it settles; None: neither."""
    told_out_of_play: bool
    """Whether there is something to say of it while its targets are not relevant."""
    on_creation_only: bool
    can_be_unconditional: bool
    """Whether leaving its condition out is a mistake that people make."""
    obligation: Callable[[Lowered[EffectT], Vocabulary], list[Segment]]
    in_effect: Callable[[EffectSeen], str]
    """What it does here, in words."""


def no_effect(rule: EffectBase, when: tree.Node | None, reader: FormulaReader) -> Effect:
    """Of a kind that gives no value and waits for nothing."""
    return Effect()


def no_formulas(rule: RuleT) -> Iterator[FormulaSlot[RuleT]]:
    """Of a kind without formulas of its own."""
    yield from ()


def formula_in(name: str) -> Callable[[RuleT], Iterator[FormulaSlot[RuleT]]]:
    """Of a kind whose one formula stands under `name`."""

    def slots(rule: RuleT) -> Iterator[FormulaSlot[RuleT]]:
        text = getattr(rule, name)
        if text:
            yield FormulaSlot(text, lambda new: rule.model_copy(update={name: new}))

    return slots


def no_names(rule: RuleBase) -> tuple[str, ...]:
    """Of a kind that names no field beside its targets."""
    return ()


def as_it_is(rule: RuleT, names: Mapping[str, str]) -> RuleT:
    """Of a kind that names no field beside its targets."""
    return rule


def no_mutations(rule: RuleBase) -> Iterator[RuleMutation]:
    """Of a kind without small mistakes of its own."""
    yield from ()


def no_placeholders(rule: CheckBase) -> tuple[KindPlaceholder, ...]:
    """Of a kind whose message holds what every message may."""
    return ()
