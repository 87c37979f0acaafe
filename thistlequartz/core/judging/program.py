"""The rules of a form that count under some circumstances, laid out for evaluation."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from thistlequartz.core.engines.answers import CheckQuery
from thistlequartz.core.enumerations import Status
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import asks_to_be_filled

from .circumstances import Circumstances
from .compiling.check_runner import CheckRunner
from .compiling.compiled_rule import CompiledRule
from .compiling.dependencies import Node
from .compiling.scoping import out_of_scope, switched_off
from .evaluation import FixedEvaluations, prepared
from .field_plan import FieldPlan, field_plan

Outside = Mapping[str, tuple[Status, str]]


@dataclass(frozen=True, slots=True)
class Program:
    """What is evaluated, in order."""

    checks: tuple[CompiledRule, ...]
    effects: tuple[CompiledRule, ...]
    proposing: tuple[CompiledRule, ...]
    plans: Mapping[str, FieldPlan]
    """By field; fields without a plan are relevant and hold what was entered."""
    order: tuple[Node, ...]
    """The states and values to settle, each after what it depends on."""
    outside: Outside
    """The rules that do not count, with why."""
    by_key: Mapping[str, CompiledRule]
    """Those that check, by key."""
    prepared: tuple[FixedEvaluations, ...]
    """What each of them says the same of every record."""
    marking: tuple[CompiledRule, ...]
    """Those that ask for a field to be filled."""
    holding: tuple[str, ...]
    """The keys of those that hold a record."""
    helpers: tuple[str, ...]
    """The fields that are never shown and never stored."""
    zone: str
    """In which days and clocks are taken."""
    answering: CheckRunner
    """What answers the checks."""


def build_program(
    rules: Iterable[CompiledRule],
    unusable: Outside,
    order: tuple[Node, ...],
    circumstances: Circumstances,
    vocabulary: Vocabulary,
    helpers: tuple[str, ...],
    zone: str,
) -> Program:
    """The rules that count under `circumstances`; `unusable` are those that never do."""
    outside = dict(unusable)
    checks, effects, proposing = [], [], []
    by_field: dict[str, list[CompiledRule]] = {}
    for one in rules:
        why_not = _why_not(one, circumstances)
        if why_not:
            outside[one.rule.key] = why_not
        elif not one.is_effect:
            checks.append(one)
        else:
            effects.append(one)
            if one.part == "proposing":
                proposing.append(one)
                continue
            for key in one.rule.targets:
                by_field.setdefault(key, []).append(one)
    plans = {key: field_plan(effects_on, circumstances) for key, effects_on in by_field.items()}
    needed = tuple(node for node in order if node[1] in plans)
    ordered = {key for _, key in needed}
    lone: tuple[Node, ...] = tuple(("value", key) for key in plans if key not in ordered)
    return Program(
        tuple(checks),
        tuple(effects),
        tuple(proposing),
        plans,
        (*needed, *lone),
        outside,
        {one.rule.key: one for one in checks},
        tuple(prepared(one) for one in checks),
        tuple(one for one in checks if asks_to_be_filled(one.rule)),
        tuple(one.rule.key for one in checks if one.check_rule.hold),
        helpers,
        zone,
        CheckRunner(
            [
                CheckQuery(
                    one.lowered.applies, tuple(check.satisfied for check in one.lowered.checks)
                )
                for one in checks
            ],
            vocabulary,
            circumstances.today,
            frozenset(key for key, plan in plans.items() if plan.is_closable),
        ),
    )


def _why_not(one: CompiledRule, circumstances: Circumstances) -> tuple[Status, str] | None:
    if not one.rule.enabled:
        return "disabled", switched_off()
    outside = out_of_scope(one.rule, circumstances)
    return ("out_of_scope", outside) if outside else None


def touched_by_deriving(touched: frozenset[str], program: Program) -> frozenset[str]:
    """The derived fields that are computed, by whatever steps, from a touched one."""
    found: set[str] = set()
    for kind, key in program.order:
        if kind == "value":
            sources = {
                read for one in program.plans[key].settlement.deriving for read in one.sources
            }
            if sources & (touched | found):
                found.add(key)
    return frozenset(found)
