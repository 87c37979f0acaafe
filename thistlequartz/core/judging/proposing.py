"""Proposals: what rules offer, and which of those applied still stand."""

from collections.abc import Collection, Iterator, Mapping
from typing import Any, cast

from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import ProposeRule
from thistlequartz.core.values import Value

from .compiling.compiled_rule import CompiledRule
from .other_records.records import for_conditions
from .program import Program
from .settled import Settled
from .settling import coerced
from .verdicts.verdict import Proposal

Offer = tuple[CompiledRule, dict[str, Value]]


def offers_of(program: Program, settled: Settled, fields: Vocabulary) -> list[Offer]:
    """The values that rules propose now. For each field, the first rule that matches wins."""
    claimed: set[str] = set()
    offers: list[Offer] = []
    for one, proposed in matching(program, settled, fields):
        values = {key: value for key, value in proposed.items() if key not in claimed}
        if values:
            claimed.update(values)
            offers.append((one, values))
    return offers


def matching(program: Program, settled: Settled, fields: Vocabulary) -> Iterator[Offer]:
    """Every rule that matches, with all that it would propose, also behind an earlier one."""
    for one in program.proposing:
        if all(key in settled.closed for key in one.rule.targets):
            continue
        if not one.applies(settled.environment):
            continue
        values: dict[str, Value] = {}
        for key, evaluate in one.values:
            value = coerced(evaluate(settled.environment), fields[key])
            if value is not None and key not in settled.closed:
                values[key] = value
        yield one, values


def values_applied(
    offers: list[Offer], applied: Collection[str], fields: Vocabulary
) -> dict[str, Any]:
    """The values of the offers that were applied, as conditions read them, by field."""
    return {
        key: for_conditions(value, fields[key].type)
        for one, values in offers
        if one.rule.key in applied
        for key, value in values.items()
    }


def proposals_of(
    program: Program, offers: list[Offer], applied: Collection[str], settled: Settled
) -> tuple[Proposal, ...]:
    """Every proposal to show: offered, applied, or applied and overtaken since."""
    offered = {one.rule.key: values for one, values in offers}
    shown = []
    for one in program.proposing:
        key = one.rule.key
        if key in applied:
            state = "applied" if key in offered else "overtaken"
            shown.append(_proposal(one, offered.get(key, {}), state))
        elif key in offered and any(
            settled.value_of(name) != value for name, value in offered[key].items()
        ):
            shown.append(_proposal(one, offered[key], "offered"))
    return tuple(shown)


def _proposal(one: CompiledRule, values: Mapping[str, Value], state: Any) -> Proposal:
    rule = cast("ProposeRule", one.rule)
    return Proposal(rule.key, rule.title, rule.explanation, rule.targets, values, state)
