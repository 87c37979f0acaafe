"""Tiers: rules of one kind and target by conditions on one field, with gaps or overlaps.

Where every condition compares the field with constants, the evaluator is asked at each of them and
between each two: that is exact.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal
from typing import Any, Final

from thistlequartz.core.engines.solver.terms import all_of
from thistlequartz.core.engines.traced import traced
from thistlequartz.core.judging import CompiledRule, Judgement
from thistlequartz.core.kernel import nodes
from thistlequartz.core.language import tree
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable
from thistlequartz.core.translation import tr

from .bounds_moved import meeting
from .context import SearchContext, each_pair, is_about_missing, is_about_others
from .finding import Finding, SuggestedFix

_NOT_DIRECT: Final = tr("a condition does more than compare the field with a value")
_WORDS: Final = {
    "key",
    "name",
    "why",
    "when",
    "title",
    "explanation",
    "message",
    "severity",
    "enabled",
}


@dataclass(frozen=True, slots=True)
class TierInterval:
    """A point, or all between two points, on which the same rules apply."""

    low: Any
    high: Any
    """None: without end. For a point both are the same."""
    rules: tuple[CompiledRule, ...]
    inside: Any
    """A value in it."""

    @property
    def is_point(self) -> bool:
        """Whether it is one value."""
        return bool(self.low == self.high)


def tiers(look: SearchContext) -> Iterator[Finding]:
    """F10: a gap. F11: an overlap with different outcomes. F12: a single point of either."""
    groups: dict[tuple[str, tuple[str, ...], str], list[CompiledRule]] = {}
    for one in look.rules:
        if _is_tiered(one) and len(one.governors) == 1 and one.lowered.applies is not None:
            about = (one.rule.kind, tuple(sorted(one.rule.targets)), one.governors[0])
            groups.setdefault(about, []).append(one)
    for (_, targets, key), rules in groups.items():
        type_ = look.form.fields[key].type
        if len(rules) < 2 or type_.kind not in ("number", "date"):
            continue
        points = _points(rules, key)
        if points is None:
            for code in ("F10", "F11", "F12"):
                look.not_decided(code, tuple(one.rule.key for one in rules), (key,), _NOT_DIRECT)
            continue
        if not points:
            continue  # nothing is compared
        otherwise = any(
            type(one.rule) is type(rules[0].rule)
            and set(one.rule.targets) >= set(targets)
            and one.lowered.applies is None
            for one in look.rules
        )
        stretches = _merged(_stretches(look, rules, key, points))
        group = _Group(look, rules, targets, key, otherwise)
        found = list(_found(group, stretches))
        if not found:
            for code in ("F10", "F11", "F12"):
                look.nothing(code)
        yield from found


def _is_tiered(one: CompiledRule) -> bool:
    """Whether it gives values, or bounds them: what it says differs from tier to tier."""
    if one.is_effect:
        return one.part in ("proposing", "deriving")
    return not is_about_missing(one) and not is_about_others(one)


def _points(rules: list[CompiledRule], key: str) -> list[Any] | None:
    """The values that conditions compare the field with; None where they do something else."""
    points: set[Any] = set()
    field = nodes.Read("field", key)
    for one in rules:
        assert one.lowered.applies is not None
        for node in nodes.walk(one.lowered.applies):
            match node:
                case nodes.Order(_, left, right) | nodes.Equal(left, right):
                    for side, other in ((left, right), (right, left)):
                        if isinstance(side, nodes.Constant) and _is(other, field):
                            points.add(side.value)
                            break
                    else:
                        return None
                case nodes.Among(value, constants):
                    if not _is(value, field):
                        return None
                    points.update(constants)
                case nodes.And() | nodes.Or() | nodes.Not() | nodes.IsBlank() | nodes.Constant():
                    continue
                case nodes.Read() if _is(node, field):
                    continue
                case _:
                    return None
    return sorted(points) if len({type(one) for one in points}) <= 1 else None


def _is(node: nodes.Node, field: nodes.Read) -> bool:
    return isinstance(node, nodes.Read) and (node.source, node.key) == (field.source, field.key)


def _step(look: SearchContext, key: str) -> Any:
    held = look.form.fields[key].type.solver_range()
    if look.form.fields[key].type.kind == "number" and held:
        return Decimal(1).scaleb(-held.digits)
    return timedelta(days=1)


def _stretches(
    look: SearchContext, rules: list[CompiledRule], key: str, points: list[Any]
) -> Iterator[TierInterval]:
    asked = [(one, traced(one.lowered.applies)) for one in rules if one.lowered.applies is not None]
    step = _step(look, key)

    def at(value: Any) -> tuple[CompiledRule, ...]:
        return tuple(one for one, applies in asked if applies({key: value}) is True)

    if not _ends(points[0], step, below=True):
        yield TierInterval(None, points[0], at(points[0] - step), points[0] - step)
    for place, point in enumerate(points):
        if place and points[place - 1] + step < point:
            inside = points[place - 1] + step
            yield TierInterval(points[place - 1], point, at(inside), inside)
        yield TierInterval(point, point, at(point), point)
    if not _ends(points[-1], step, below=False):
        yield TierInterval(points[-1], None, at(points[-1] + step), points[-1] + step)


def _merged(stretches: Iterator[TierInterval]) -> list[TierInterval]:
    """Neighbours on which the same rules apply as one."""
    merged: list[TierInterval] = []
    for one in stretches:
        before = merged[-1] if merged else None
        if before is not None and before.rules == one.rules:
            merged[-1] = TierInterval(before.low, one.high, one.rules, before.inside)
        else:
            merged.append(one)
    return merged


def _ends(point: Any, step: Any, *, below: bool) -> bool:
    """Whether nothing lies beyond it."""
    return isinstance(point, date) and point == (date.min if below else date.max)


@dataclass(frozen=True, slots=True)
class _Group:
    """Tiers of one field."""

    look: SearchContext
    rules: list[CompiledRule]
    targets: tuple[str, ...]
    key: str
    otherwise: bool
    """Whether another rule counts where none of them does."""

    def faults(self, rules: Sequence[CompiledRule]) -> frozenset[tuple[Any, ...]]:
        """The gaps and overlaps that they would have as `rules`."""
        points = _points(list(rules), self.key)
        if not points:
            return frozenset({("all",)})  # nothing would be compared any more
        stretches = _merged(_stretches(self.look, list(rules), self.key, points))
        return frozenset(
            (one.low, one.high, *(rule.rule.key for rule in one.rules))
            for one in (stretches[place] for place in _faulty(stretches, self.otherwise))
        )

    def is_faulty(self, judged: Judgement) -> bool:
        """Whether none of them applies to a record, or several do."""
        applying = [one for one in self.rules if one.applies(judged.settled.environment) is True]
        return len(applying) != 1

    def fix(self, about: tuple[str, ...], one: TierInterval) -> SuggestedFix | None:
        """One bound of these rules moved to the other, where that makes them meet."""
        return meeting(self.look, self.rules, about, (one.high, one.low), self.faults)


def _faulty(stretches: list[TierInterval], otherwise: bool) -> Iterator[int]:
    """The places of gaps and of overlaps with different outcomes."""
    handled = [place for place, one in enumerate(stretches) if one.rules]
    for place in range(handled[0], handled[-1] + 1) if handled else ():
        rules = stretches[place].rules
        if (not rules and not otherwise) or any(_differ(*two) for two in each_pair(list(rules))):
            yield place


def _found(group: _Group, stretches: list[TierInterval]) -> Iterator[Finding]:
    for place in _faulty(stretches, group.otherwise):
        one = stretches[place]
        finding = _overlap(group, one) if one.rules else _gap(group, stretches, place)
        yield group.look.meant(finding, group.is_faulty)


def _differ(one: CompiledRule, other: CompiledRule) -> bool:
    """Whether two rules of one kind say different things of a field: another value, or another
    bound on the same side. Conditions beside one another that differ may both be meant, and where
    nothing meets both, that is a contradiction.
    """
    if one.check_kind is not None and not one.check_kind.hints:
        return False
    first, second = _bounds(one), _bounds(other)
    if first is not None and second is not None:
        (measured, *sides), (other_measured, *other_sides) = first, second
        pairs = zip(sides, other_sides, strict=True)
        return measured == other_measured and any(
            None not in pair and pair[0] != pair[1] for pair in pairs
        )
    said, also = (each.rule.model_dump(exclude=set(_WORDS)) for each in (one, other))
    return said != also


def _bounds(one: CompiledRule) -> tuple[tree.Node, Any, Any] | None:
    """What a rule holds between bounds, with its lowest and highest; None of one that does not."""
    match [check.must for check in one.lowered.checks]:
        case [tree.Membership(measured, (tree.Interval(low, high, with_low, with_high),))]:
            return measured, (low, with_low), (high, with_high)
        case [tree.Comparison((">" | ">=") as operator, measured, low)]:
            return measured, (low, operator == ">="), None
        case [tree.Comparison(("<" | "<=") as operator, measured, high)]:
            return measured, None, (high, operator == "<=")
        case _:
            return None


def overlapping_answers(look: SearchContext) -> Iterator[Finding]:
    """F11 by answers: two rules of one kind and target that both apply with one answer."""
    for key in look.form.fields:
        rules = [one for one in look.rules if one.governors == (key,) and _is_tiered(one)]
        for one, other in each_pair(rules if look.answers(key) else []):
            shared = tuple(name for name in one.rule.targets if name in other.rule.targets)
            # Which of several derivations counts is asked of all of them, whatever they read.
            of_a_kind = type(one.rule) is type(other.rule) and one.part in ("proposing", None)
            if not of_a_kind or not shared or not _differ(one, other):
                continue
            about = (one.rule.key, other.rule.key)
            applies = all_of((look.terms(one).applies, look.terms(other).applies))
            for answer in look.answers(key):
                goal = all_of((applies, look.there(shared), look.has_value(key, answer)))
                found = look.ask("F11", about, goal, RuleAssumptions(), fields=(key, *shared))
                if isinstance(found, Satisfiable):
                    yield Finding(
                        "F11",
                        "doubtful",
                        tr(
                            "When {label} is {key}, both {named} apply, and they say different "
                            "things about {about}.",
                            label=look.label(key),
                            key=look.shown(key, answer),
                            named=look.named(about),
                            about=_about(look, shared, about),
                        ),
                        tr("Let each answer be named in one of them only."),
                        about,
                        (key, *shared),
                        found.witness,
                    )
                    break
            else:
                look.nothing("F11")


def _gap(group: _Group, stretches: list[TierInterval], place: int) -> Finding:
    look, targets, key, one = group.look, group.targets, group.key, stretches[place]
    around = dict.fromkeys(
        rule.rule.key
        for near in (stretches[:place][::-1], stretches[place + 1 :])
        for rule in next((other.rules for other in near if other.rules), ())
    )
    code = "F12" if one.is_point else "F10"
    return Finding(
        code,
        "wrong",
        tr(
            "For {label} {where} none of {named} says anything about {about}, though below and "
            "above it they do.",
            label=look.label(key),
            where=_where(look, key, one),
            named=look.named(tuple(around)),
            about=_about(look, targets, tuple(around)),
        ),
        tr("Let one of the two reach to the other."),
        tuple(around),
        (key, *targets),
        _shown(look, key, one.inside),
        fix=group.fix(tuple(around), one),
    )


def _overlap(group: _Group, one: TierInterval) -> Finding:
    look, targets, key = group.look, group.targets, group.key
    rules = tuple(rule.rule.key for rule in one.rules)
    return Finding(
        "F12" if one.is_point else "F11",
        "wrong",
        tr(
            "For {label} {where} both {named} apply, and they say different things about {about}.",
            label=look.label(key),
            where=_where(look, key, one),
            named=look.named(rules),
            about=_about(look, targets, rules),
        ),
        tr("Let one of them end where the other begins."),
        rules,
        (key, *targets),
        _shown(look, key, one.inside),
        fix=group.fix(rules, one),
    )


def _about(look: SearchContext, targets: tuple[str, ...], rules: tuple[str, ...]) -> str:
    """What the tiers are about: the fields they set, or their targets."""
    given = (key for rule in rules for key, _ in look.form.usable[rule].lowered.values)
    return look.labels(tuple(dict.fromkeys(given)) or targets)


def _where(look: SearchContext, key: str, one: TierInterval) -> str:
    if one.is_point:
        return look.shown(key, one.low)
    if one.low is None:
        return tr("below {key}", key=look.shown(key, one.high))
    if one.high is None:
        return tr("above {key}", key=look.shown(key, one.low))
    return tr(
        "between {low} and {high}", low=look.shown(key, one.low), high=look.shown(key, one.high)
    )


def _shown(look: SearchContext, key: str, value: Any) -> Any:
    answer = look.prover.ask(look.has_value(key, value), RuleAssumptions("save"))
    if not isinstance(answer, Satisfiable):
        answer = look.prover.ask(look.has_value(key, value))
    return answer.witness if isinstance(answer, Satisfiable) else None
