"""The order in which fields are settled, and the circles that prevent it."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from graphlib import CycleError, TopologicalSorter
from itertools import pairwise
from typing import Literal

from thistlequartz.core.kinds import EFFECT_KINDS
from thistlequartz.core.language import Problem, Vocabulary, tree
from thistlequartz.core.ruleset import LoweredRule
from thistlequartz.core.translation import BETWEEN, listed, tr

MAX_NAMED = 8
"""Fields and rules of a circle that are named."""
MAX_EDGES = 400
"""Beyond so many it is not looked for where a cut leaves the fewest circles."""
Node = tuple[Literal["state", "value"], str]
"""state(f): relevant, locked, waiting. value(f): derived, stored or entered."""


@dataclass(frozen=True, slots=True)
class DependencyCycle:
    """Fields that decide about one another, and the rules by which they do."""

    fields: tuple[str, ...]
    rules: tuple[str, ...]
    cut: str
    """The rule of them without which the fewest circles are left; of several, the last one."""
    reads: tuple[str, ...]
    """The fields of the circle that this rule reads."""


def settling_order(rules: Iterable[LoweredRule]) -> tuple[tuple[Node, ...], list[DependencyCycle]]:
    """The states and values that rules decide, each after those it depends on.

    Every field that a rule on a field reads counts, whatever the rule's scope. Rules that go
    round in a circle are left out of the order and returned.
    """
    usable = {lowered.rule.key: lowered for lowered in rules}
    circles: list[DependencyCycle] = []
    while True:
        edges = _edges(usable.values())
        sorter: TopologicalSorter[Node] = TopologicalSorter()
        for (before, after), _ in edges.items():
            sorter.add(after, before)
        for lowered in usable.values():
            for key in lowered.rule.targets if _decides(lowered) else ():
                sorter.add(("value", key), ("state", key))
        try:
            return tuple(sorter.static_order()), circles
        except CycleError as error:
            circle = _circle(error.args[1], edges, usable)
            circles.append(circle)
            for key in circle.rules:
                del usable[key]


def _edges(rules: Iterable[LoweredRule]) -> dict[tuple[Node, Node], list[str]]:
    """From what is read to what it decides, with the rules that do so."""
    edges: dict[tuple[Node, Node], list[str]] = {}
    for lowered in rules:
        kind = _decides(lowered)
        if kind is None:
            continue
        read = set(lowered.governors)
        if lowered.until is not None:
            read |= tree.fields_read(lowered.until)
        read.update(key for _, node in lowered.values for key in tree.fields_read(node))
        for target in lowered.rule.targets:
            for key in read:
                edges.setdefault((("value", key), (kind, target)), []).append(lowered.rule.key)
    return edges


def _decides(lowered: LoweredRule) -> Literal["state", "value"] | None:
    kind = EFFECT_KINDS.get(lowered.rule.kind)
    return kind.decides if kind else None


def _circle(
    nodes: list[Node],
    edges: Mapping[tuple[Node, Node], list[str]],
    usable: Mapping[str, LoweredRule],
) -> DependencyCycle:
    fields = tuple(dict.fromkeys(key for _, key in nodes))
    links = [(one[0][1], rule) for one in pairwise(nodes) for rule in edges.get(one, [])]
    rules = tuple(dict.fromkeys(rule for _, rule in links))
    cut = _best_cut([key for key in usable if key in rules], edges)
    reads = tuple(dict.fromkeys(read for read, rule in links if rule == cut))
    return DependencyCycle(fields, rules, cut, reads)


def _best_cut(rules: Sequence[str], edges: Mapping[tuple[Node, Node], list[str]]) -> str:
    if len(rules) > MAX_NAMED or len(edges) > MAX_EDGES:
        return rules[-1]
    return min(reversed(rules), key=lambda one: _fields_in_circles(edges, one))


def _fields_in_circles(edges: Mapping[tuple[Node, Node], list[str]], without: str) -> int:
    """How many fields are still reached from themselves once a rule is left out."""
    reads: dict[str, set[str]] = {}
    for (before, after), rules in edges.items():
        if any(one != without for one in rules):
            reads.setdefault(after[1], set()).add(before[1])
    count = 0
    for key, behind in reads.items():
        seen: set[str] = set()
        waiting = [*behind]
        while waiting and key not in seen:
            one = waiting.pop()
            if one not in seen:
                seen.add(one)
                waiting.extend(reads.get(one, ()))
        count += key in seen
    return count


def circle_problems(
    circle: DependencyCycle, names: Mapping[str, str], fields: Vocabulary
) -> Iterator[tuple[str, Problem]]:
    """Return the compile errors of the rules of a circle, by key.

    The first, in the order of `names`, names the fields and rules; the others point to it. Each
    says where to cut it.
    """
    ordered = [key for key in names if key in circle.rules]
    says, how = circle_words(circle, names, fields)
    yield ordered[0], Problem(says, how, "when")
    for key in ordered[1:]:
        said = tr("It is part of the circle that “{names}” stands in.", names=names[ordered[0]])
        remedy = how
        if key == circle.cut:
            remedy = tr(
                "Cut it here: let it no longer look at {read}.", read=_read_by(circle, fields)
            )
        yield key, Problem(said, remedy, "when")


def circle_words(
    circle: DependencyCycle, names: Mapping[str, str], fields: Vocabulary
) -> tuple[str, str]:
    """What a circle is, and where to cut it."""
    labels = [fields[key].label for key in circle.fields]
    said = (
        tr("{fields} would be decided by itself, by {rules}.")
        if len(labels) == 1
        else tr("{fields} decide about one another in a circle, by {rules}.")
    )
    ordered = [f"“{names[key]}”" for key in names if key in circle.rules]
    return (
        said.format(fields=_named(labels), rules=_named(ordered)),
        tr(
            "Cut it at “{rule}”: let it no longer look at {read}. To let only one of several be "
            "filled, use the group rule “exactly one of”. To look at what a field held before, "
            "read stored.{field}.",
            rule=names[circle.cut],
            read=_read_by(circle, fields),
            field=circle.fields[0],
        ),
    )


def _read_by(circle: DependencyCycle, fields: Vocabulary) -> str:
    return _named([fields[key].label for key in circle.reads])


def _named(names: Sequence[str]) -> str:
    if len(names) > MAX_NAMED:
        return tr(
            "{names} and {count} more",
            names=BETWEEN.join(names[:MAX_NAMED]),
            count=len(names) - MAX_NAMED,
        )
    return listed(names)
