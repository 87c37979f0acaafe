"""Why a rule came out as it did: its conditions part by part, each with its value here."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.enumerations import Status
from thistlequartz.core.functions.operations import UNREADABLE, RangeValue
from thistlequartz.core.judging.compiling.compiled_rule import CompiledRule
from thistlequartz.core.judging.evaluation import Evaluation
from thistlequartz.core.judging.settled import Settled
from thistlequartz.core.judging.wording.reason_wording import ReasonWording
from thistlequartz.core.language import (
    FormulaError,
    Vocabulary,
    condition_words,
    plain,
    tree,
    value_words,
    write_formula,
)
from thistlequartz.core.translation import tr
from thistlequartz.core.types import ValueType, show_value
from thistlequartz.core.values import Months, show_length

_CONDITIONS = (
    tree.And
    | tree.Or
    | tree.Not
    | tree.NamedConditionUse
    | tree.Comparison
    | tree.Membership
    | tree.MatchesFormat
    | tree.MatchesPattern
    | tree.Quantified
    | tree.InstanceOf
    | tree.ChangedField
    | tree.Filled
    | tree.EnteredTwice
    | tree.Unique
    | tree.NoOther
    | tree.AllAmong
    | tree.ValueByAnswer
)
_LITERALS = (
    tree.Null
    | tree.Boolean
    | tree.Number
    | tree.Text
    | tree.Date
    | tree.Time
    | tree.DateTime
    | tree.Duration
)
_NAMING = tree.For | tree.Quantified | tree.Filter | tree.Context | tree.NoOther
"""Nodes whose parts are asked once for each item or record, so none of them has one value."""


@dataclass(frozen=True, slots=True)
class TraceStep:
    """One part of a condition or formula, and what came of it for this record."""

    words: str
    formula: str | None
    """As FEEL; None for what only rules ask, such as being unique."""
    answer: str
    """“yes”, “no” and “no answer” for conditions; a value as people read it."""
    parts: tuple["TraceStep", ...] = ()


@dataclass(frozen=True, slots=True)
class CheckTrace:
    """One condition that must hold, or one value that the rule gives, at these fields."""

    fields: tuple[str, ...]
    step: TraceStep
    wanting: tuple[str, ...] = ()
    """The blank fields that leave nothing to check."""


@dataclass(frozen=True, slots=True)
class Explanation:
    """How one rule came to its status, whatever the moment."""

    rule: str
    status: Status
    reason: str
    when: TraceStep | None
    """Its condition; None where it always applies, or its formulas cannot be used."""
    until: TraceStep | None
    """Of a rule that lets fields wait: what they wait for."""
    judgements: tuple[CheckTrace, ...]
    values: Mapping[str, str]
    """Every field it targets or reads, with its value here in words."""


def explanation(compiled: CompiledRule, finding: Evaluation, words: ReasonWording) -> Explanation:
    """The trace of one rule for one record."""
    settled, vocabulary = words.settled, words.vocabulary
    tracer = _Tracer(settled, vocabulary)
    lowered = compiled.lowered
    checks = [
        CheckTrace(
            check.check.targets,
            tracer.step(check.check.must),
            tuple(key for key in check.needed if settled.environment[key] is None),
        )
        for check in compiled.checks
    ]
    gives = [
        CheckTrace((key,), tracer.step(node, vocabulary[key].type)) for key, node in lowered.values
    ]
    return Explanation(
        rule=compiled.rule.key,
        status=finding.status,
        reason=words.of(compiled.rule.key, finding.reason),
        when=tracer.step(lowered.when) if lowered.when else None,
        until=tracer.step(lowered.until) if lowered.until else None,
        judgements=(*checks, *gives),
        values={key: tracer.field(key) for key in compiled.reads},
    )


class _Tracer:
    def __init__(self, settled: Settled, vocabulary: Vocabulary) -> None:
        self.settled = settled
        self.vocabulary = vocabulary

    def field(self, key: str) -> str:
        """The value of a field in words."""
        if key in self.settled.closed:
            return tr("not asked")
        return _shown(self.settled.environment.get(key), self.vocabulary[key].type)

    def step(self, node: tree.Node, type_: ValueType | None = None) -> TraceStep:
        """`node` and its parts, with what they come to; `type_` says how a value is shown."""
        value = interpret(node, self.vocabulary)(self.settled.environment)
        if isinstance(node, tree.Field):
            answer = self.field(node.key)
        elif isinstance(node, _CONDITIONS):
            answer = "yes" if value is True else "no" if value is False else tr("no answer")
        else:
            answer = _shown(value, type_ or self._type_of(node))
        return TraceStep(
            self._words(node), _formula(node), answer, tuple(self.step(one) for one in parts(node))
        )

    def _words(self, node: tree.Node) -> str:
        if isinstance(node, _CONDITIONS):
            return plain(condition_words(node, self.vocabulary))
        return plain(value_words(node, "", self.vocabulary))

    def _type_of(self, node: tree.Node) -> ValueType | None:
        match node:
            case tree.StoredValue(key) | tree.OtherField(key):
                return self.vocabulary[key].type
            case tree.Referred(tree.Field(key), _, name):
                inner = (self.vocabulary[key].fields or {}).get(name)
                return inner.type if inner else None
            case _:
                return None


def parts(node: tree.Node) -> Iterator[tree.Node]:
    """The parts of `node` that have a value of their own, literals left out."""
    if isinstance(node, _NAMING):
        return
    for child in tree.children(node):
        match child:
            case tree.Interval() | tree.UnaryTest() | tree.AllowedValuesRow():
                yield from parts(child)
            case _ if not isinstance(child, _LITERALS):
                yield child


def _formula(node: tree.Node) -> str | None:
    try:
        return write_formula(node)
    except FormulaError:
        return None


def _shown(value: Any, type_: ValueType | None) -> str:
    match value:
        case None:
            return tr("blank")
        case timedelta() | Months():
            return show_length(value)
        case bool() | Decimal() | str() | date() | time() | datetime():
            return show_value(value, type_)
        case list():
            if type_ is not None and all(isinstance(one, str) for one in value):
                return show_value(tuple(value), type_) if value else tr("blank")
            return "[" + ", ".join(_shown(one, None) for one in value) + "]"
        case RangeValue():
            return tr(
                "from {low} to {high}", low=_shown(value.low, type_), high=_shown(value.high, type_)
            )
        case dict():
            return (
                "{" + ", ".join(f"{key}: {_shown(one, None)}" for key, one in value.items()) + "}"
            )
        case _:
            return tr("unreadable") if value is UNREADABLE else str(value)
