"""Tiers of proposals as a table: each row ends where the next one begins.

A row without a value proposes nothing, so that a gap is there to be seen.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator
from decimal import Decimal
from itertools import pairwise
from typing import Annotated, NamedTuple, cast

from pydantic import Field as Setting
from pydantic import field_validator, model_validator

from thistlequartz.core.documents import MAX_LABEL, Document, Formula, Key, Line
from thistlequartz.core.language import (
    FormulaError,
    Problem,
    Vocabulary,
    read_formula,
    tree,
    write_formula,
)
from thistlequartz.core.language.clauses import literal
from thistlequartz.core.ruleset import Form, ProposedValue, ProposeRule, Rule, part_of
from thistlequartz.core.translation import tr
from thistlequartz.core.types import read_written
from thistlequartz.core.values import Fault

from .keys import drawn_key


class Tier(Document):
    """One row: up to which amount what is proposed."""

    upto: Line = ""
    """As people type it; blank in the last row: without end."""
    included: bool = True
    """Whether that amount itself belongs to this row, and not to the next."""
    value: Formula | None = None
    """The FEEL value that is proposed; None: nothing."""
    title: Annotated[Line, Setting(max_length=MAX_LABEL)] = ""
    """What the proposal is called; blank: as the table is."""

    @property
    def untouched(self) -> bool:
        """Whether nothing has been written into the row."""
        return not (self.upto or self.value or self.title)


class Tiers(Document):
    """A whole table, from the lowest amount up."""

    governor: Key
    """The field that decides."""
    field: Key
    """The field for which a value is proposed."""
    title: Annotated[Line, Setting(max_length=MAX_LABEL)]
    begin: Line = ""
    """The lowest amount; blank: no lowest."""
    begin_included: bool = False
    rows: Annotated[tuple[Tier, ...], Setting(min_length=1, max_length=100)]

    @field_validator("rows")
    @classmethod
    def _without_untouched_rows(cls, rows: tuple[Tier, ...]) -> tuple[Tier, ...]:
        """Rows at the end into which nothing was written say nothing."""
        last = max((n for n, row in enumerate(rows, 1) if not row.untouched), default=1)
        return rows[:last]

    @model_validator(mode="after")
    def _only_the_last_is_open(self) -> "Tiers":
        if any(not row.upto for row in self.rows[:-1]):
            raise ValueError(tr("Only the last row can be without an end: give the others one."))
        return self


_Ends = tuple[tree.Node | None, bool, tree.Node | None, bool]
"""The lower end of a row and whether it belongs to it, and the upper end likewise."""


def tiers_rules(
    tiers: Tiers, vocabulary: Vocabulary, form: Form, replaced: tuple[str, ...] = ()
) -> tuple[ProposeRule, ...]:
    """The rules that the table stands for; the keys of `replaced` rules are taken up in order.

    Raises FormulaError with the place of every bound that cannot work.
    """
    bounds = _bounds(tiers, vocabulary)
    written = {rule.key: rule for rule in form.rules}
    free = list(_proposals(written[key] for key in replaced if key in written))
    taken = set(written)
    label = vocabulary[tiers.field].label
    made = []
    for number, (row, ends) in enumerate(zip(tiers.rows, bounds, strict=True), 1):
        if not row.value:
            continue
        parts = {
            "when": write_formula(_condition(tiers.governor, ends)),
            "title": row.title or tiers.title,
            "sets": (ProposedValue(field=tiers.field, value=_value(row.value, vocabulary, tiers)),),
        }
        if free:
            # What the table does not say of a rule stays: its explanation, whom it counts for, ...
            made.append(free.pop(0).model_copy(update=parts))
            continue
        name = tr("{label}, tier {number}", label=label[: MAX_LABEL - 20], number=number)
        key = drawn_key(name, taken, "rule")
        taken.add(key)
        made.append(ProposeRule(key=key, name=name, targets=(tiers.governor,), **parts))
    return tuple(made)


def _value(written: str, vocabulary: Vocabulary, tiers: Tiers) -> str:
    """What is proposed, as a formula: a number may be written as the product shows it."""
    type_ = vocabulary[tiers.field].type
    read = read_written(written, type_) if type_.kind == "number" else None
    return f"{read:f}" if isinstance(read, Decimal) else written


class TierReading(NamedTuple):
    """A table that rules make, with their keys in order, and what does not meet in them."""

    tiers: Tiers
    rules: tuple[str, ...]
    findings: tuple[str, ...]


def tiers_in(rules: Iterable[Rule]) -> tuple[TierReading, ...]:
    """Return the tier tables that proposals among `rules` form.

    An amount that falls in two rows goes to the lower one; a finding says so.
    """
    found: dict[tuple[str, str], list[tuple[_Ends, ProposeRule]]] = defaultdict(list)
    for rule in _proposals(rules):
        if len(rule.sets) == 1:
            read = _read(rule)
            if read:
                found[read[0], rule.sets[0].field].append((read[1], rule))
    tables = []
    for (governor, field), rows in found.items():
        table = _table(governor, field, rows) if len(rows) > 1 else None
        if table:
            tables.append(table)
    return tuple(tables)


def _bounds(tiers: Tiers, vocabulary: Vocabulary) -> list[_Ends]:
    problems = []
    for key, place in ((tiers.governor, "governor"), (tiers.field, "field")):
        if key not in vocabulary or vocabulary[key].condition:
            said = tr("There is no field “{key}” in this form.", key=key)
            problems.append(Problem(said, tr("Choose one."), place))
    if problems:
        raise FormulaError(problems)
    declared = vocabulary[tiers.governor]
    if declared.type.kind != "number":
        said = tr("{label} is not a number, so it has no tiers.", label=declared.label)
        raise FormulaError([Problem(said, tr("Choose a number."), "governor")])
    for number, row in enumerate(tiers.rows):
        if row.value and not (row.title or tiers.title):
            said = tr("This proposal has no title.")
            problems.append(Problem(said, tr("Say what it is called."), f"rows.{number}.title"))
    nodes: list[tree.Node | None] = []
    begin = ("begin", tiers.begin)
    for place, text in (begin, *((f"rows.{n}.upto", r.upto) for n, r in enumerate(tiers.rows))):
        value = read_written(text, declared.type, declared.settings) if text else None
        if isinstance(value, Fault):
            problems.append(Problem(value.message, tr("Correct this bound."), place))
        nodes.append(None if value is None or isinstance(value, Fault) else literal(value))
    for number, (low, high) in enumerate(pairwise(nodes)):
        if low and high and low.value >= high.value:  # type: ignore[attr-defined]
            said = tr("This bound is not above the one before it.")
            place = f"rows.{number}.upto"
            problems.append(Problem(said, tr("Put the bounds in rising order."), place))
    if nodes[0] is None and nodes[1] is None and not problems:
        said = tr("One row without a beginning and without an end is no tier.")
        problems.append(Problem(said, tr("Say up to which amount it goes."), "rows.0.upto"))
    if problems:
        raise FormulaError(problems)
    inclusions = [not tiers.begin_included, *(row.included for row in tiers.rows)]
    return [
        (low, not below, high, upto)
        for (low, high), (below, upto) in zip(pairwise(nodes), pairwise(inclusions), strict=True)
    ]


def _condition(governor: str, ends: _Ends) -> tree.Node:
    low, low_included, high, high_included = ends
    subject = tree.Field(governor)
    if low and high:
        return tree.Membership(subject, (tree.Interval(low, high, low_included, high_included),))
    if low:
        return tree.Comparison(">=" if low_included else ">", subject, low)
    assert high is not None
    return tree.Comparison("<=" if high_included else "<", subject, high)


def _proposals(rules: Iterable[Rule]) -> Iterator[ProposeRule]:
    return (cast("ProposeRule", one) for one in rules if part_of(one) == "proposing")


def _read(rule: ProposeRule) -> tuple[str, _Ends] | None:
    try:
        node = read_formula(rule.when or "true")
    except FormulaError:
        return None
    match node:
        case tree.Membership(tree.Field(key), (tree.Interval(low, high, first, last),)):
            return key, (low, first, high, last)
        case tree.Comparison(">" | ">=", tree.Field(key), low):
            return key, (low, node.operator == ">=", None, False)
        case tree.Comparison("<" | "<=", tree.Field(key), high):
            return key, (None, False, high, node.operator == "<=")
        case tree.And(
            (
                tree.Comparison(">" | ">=" as above, tree.Field(key), low),
                tree.Comparison("<" | "<=" as below, tree.Field(again), high),
            )
        ) if key == again:
            return key, (low, above == ">=", high, below == "<=")
        case _:
            return None


def _table(governor: str, field: str, rows: list[tuple[_Ends, ProposeRule]]) -> TierReading | None:
    """The table of the rows, with a row for each gap; None where they overlap or are no numbers."""
    if not all(isinstance(end, tree.Number | None) for ends, _ in rows for end in ends[::2]):
        return None
    rows = sorted(rows, key=lambda row: _number(row[0][0], "-Infinity"))
    (begin, begin_included, _, _), first = rows[0]
    tiers: list[Tier] = []
    findings: list[str] = []
    reached, reached_included = begin, not begin_included
    for (low, low_included, high, high_included), rule in rows:
        if tiers:
            gap = _gap(low, reached)
            if gap is None:
                return None  # more than one amount falls in two rows
            if gap == 0 and low_included and reached_included:
                findings.append(tr("{low} falls in two tiers.", low=_shown(low)))
            elif gap > 0 or low_included == reached_included:
                findings.append(
                    tr(
                        "Nothing is proposed between {reached} and {low}.",
                        reached=_shown(reached),
                        low=_shown(low),
                    )
                )
                tiers.append(Tier(upto=_text(low), included=not low_included))
        value = rule.sets[0].value
        tiers.append(Tier(upto=_text(high), included=high_included, value=value, title=rule.title))
        reached, reached_included = high, high_included
    table = Tiers(
        governor=governor,
        field=field,
        title=first.title,
        begin=_text(begin),
        begin_included=begin_included,
        rows=tuple(tiers),
    )
    return TierReading(table, tuple(rule.key for _, rule in rows), tuple(findings))


def _gap(low: tree.Node | None, reached: tree.Node | None) -> Decimal | None:
    """How far `low` lies above what has been reached; None where it lies below."""
    if not isinstance(low, tree.Number) or not isinstance(reached, tree.Number):
        return None
    gap = low.value - reached.value
    return gap if gap >= 0 else None


def _number(node: tree.Node | None, otherwise: str) -> Decimal:
    return node.value if isinstance(node, tree.Number) else Decimal(otherwise)


def _text(node: tree.Node | None) -> str:
    return f"{node.value:f}" if isinstance(node, tree.Number) else ""


def _shown(node: tree.Node | None) -> str:
    return f"{node.value:,f}" if isinstance(node, tree.Number) else ""
