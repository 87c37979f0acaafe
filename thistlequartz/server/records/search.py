"""Search of records: text, filters by state and value, and sorting."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from typing import Final, Literal, get_args
from zoneinfo import ZoneInfo

from django.db.models import Exists, OuterRef, Q, QuerySet
from django.db.models.functions import Lower, Substr

from thistlequartz.core.engines.rows import Held, RowComparison, RowFilled
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import nearest
from thistlequartz.core.translation import tr
from thistlequartz.core.types import read_value
from thistlequartz.core.values import Fault
from thistlequartz.server.problems import ProblemItem, Refusal

from .lookup import number_in
from .models import IndexedValue, Record, RecordViolation
from .value_index import indexed_types, records_where, rows_holding

Relation = Literal["is", "not", "from", "to", "contains", "blank", "filled"]
Order = Literal["number", "-number", "title", "-title", "changed", "-changed"]
FEW: Final = 1_000
"""Rows of the index that are gathered before their records are sorted."""
MOST_CONDITIONS: Final = 8
_ORDERS: dict[str, tuple[str, ...]] = {
    "number": ("number",),
    "-number": ("-number",),
    # Each the other one backwards, so that one index answers both.
    "title": ("title", "-number"),
    "-title": ("-title", "number"),
    "changed": ("changed_at", "number"),
    "-changed": ("-changed_at", "-number"),
}


@dataclass(frozen=True, slots=True)
class RecordQuery:
    """Which records are looked for. What is blank or None does not count."""

    state: str | None = None
    outcome: str | None = None
    on_hold: bool | None = None
    search: str = ""
    rule: str = ""
    """The key of a rule that it violates."""
    keeper: str = ""
    """The account name of who is to go on with it."""
    by: str = ""
    """The account name of who stored it last."""
    since: date | None = None
    until: date | None = None
    """Days of the form's zone, both included, on which it was stored last."""
    where: Sequence[str] = field(default_factory=tuple)
    """What fields hold: `key~relation~value`, the value as people type it."""
    order: Order = "-number"

    @property
    def everything(self) -> bool:
        """Whether every record of the form is looked for."""
        return self == RecordQuery(order=self.order)


@dataclass(frozen=True, slots=True)
class RecordSearch:
    """The records of a list, in its order."""

    wanted: RecordQuery
    records: QuerySet[Record]
    in_index: QuerySet[IndexedValue] | None
    """As many rows of the index, where what a field holds is all that is asked."""


def find(form: int, compiled: CompiledForm | None, wanted: RecordQuery) -> RecordSearch:
    """Return the matching records of a form; without a release there are no fields to filter by.

    Raises a Refusal (422) that names each condition on a field that cannot be asked.
    """
    records = Record.objects.filter(form=form)
    if wanted.state:
        records = records.filter(state=wanted.state)
    if wanted.outcome:
        records = records.filter(outcome=wanted.outcome)
    if wanted.on_hold is not None:
        records = records.filter(on_hold=wanted.on_hold)
    if wanted.keeper:
        records = records.filter(keeper__username=wanted.keeper)
    if wanted.by:
        records = records.filter(changed_by__username=wanted.by)
    if wanted.rule:
        violations = RecordViolation.objects.filter(rule_key=wanted.rule, record__form=form)
        records = records.filter(pk__in=violations.values("record"))
    zone: tzinfo = ZoneInfo(compiled.form.zone) if compiled else UTC
    if wanted.since:
        records = records.filter(changed_at__gte=_begin(wanted.since, zone))
    if wanted.until:
        records = records.filter(changed_at__lt=_begin(wanted.until, zone) + timedelta(days=1))
    if wanted.search:
        sought = Q(title__icontains=wanted.search)
        number = number_in(wanted.search)
        if number is not None:
            sought |= Q(number=number)
        records = records.filter(sought)
    conditions = _conditions(compiled, wanted.where)
    records = records.filter(_asked_beside(form, conditions))
    rows = [_rows_held(form, conditions, key) for key in _held_keys(conditions)]
    for some in rows:
        records = records.filter(_those_with(some))
    alone = replace(wanted, where=(), order=RecordQuery().order) == RecordQuery()
    in_index = rows[0] if alone and len(rows) == 1 and _all_held(conditions) else None
    return RecordSearch(wanted, records.order_by(*_ORDERS[wanted.order]), in_index)


def _those_with(rows: QuerySet[IndexedValue]) -> Q:
    """The records of some rows: gathered where they are few; otherwise each record is probed, in
    the order of the list, until a page is full (`exists_to_in` is off for that in the settings).
    """
    some = list(rows.values_list("record", flat=True)[:FEW])
    if len(some) < FEW:
        return Q(pk__in=some)
    return Q(Exists(rows.filter(record=OuterRef("pk"))))


def _begin(day: date, zone: tzinfo) -> datetime:
    return datetime.combine(day, time.min, tzinfo=zone)


def can_be_asked(compiled: CompiledForm) -> list[str]:
    """The fields by which a list can be filtered."""
    helpers = {one.key for one in compiled.form.fields if one.helper}
    return [key for key in indexed_types(compiled) if key not in helpers]


@dataclass(frozen=True, slots=True)
class _Condition:
    key: str
    relation: Relation
    value: Held


_HELD: dict[Relation, Literal["=", ">=", "<="]] = {"is": "=", "from": ">=", "to": "<="}
"""What rows of the index are asked for, those of one field at once."""


def _all_held(conditions: Sequence[_Condition]) -> bool:
    return all(one.relation in _HELD for one in conditions)


def _held_keys(conditions: Iterable[_Condition]) -> list[str]:
    return list(dict.fromkeys(one.key for one in conditions if one.relation in _HELD))


def _rows_held(form: int, conditions: Iterable[_Condition], key: str) -> QuerySet[IndexedValue]:
    """The rows of a field that hold what all conditions on it ask."""
    asked = [
        RowComparison(key, _HELD[one.relation], one.value)
        for one in conditions
        if one.key == key and one.relation in _HELD
    ]
    return rows_holding(form, key, asked)


def _asked_beside(form: int, conditions: Iterable[_Condition]) -> Q:
    """What is asked otherwise: of what is not held, or of a part of it."""
    found = Q()
    for condition in conditions:
        key, value = condition.key, condition.value
        match condition.relation:
            case "blank" | "filled":
                found &= records_where(form, RowFilled(key, condition.relation == "filled"))
            case "contains":
                # Without the first letter, which says the type.
                texts = rows_holding(form, key, ()).annotate(text=Lower(Substr("value", 2)))
                some = texts.filter(text__contains=str(value).lower())
                found &= _those_with(some)
            case "not":
                found &= ~records_where(form, RowComparison(key, "=", value))
    return found


def _conditions(compiled: CompiledForm | None, written: Iterable[str]) -> list[_Condition]:
    conditions, errors = [], []
    for place, text in enumerate(written):
        read = _condition(compiled, text)
        if isinstance(read, _Condition):
            conditions.append(read)
        else:
            said, remedy = read
            errors.append(ProblemItem(place=f"where.{place}", message=said, remedy=remedy))
    if errors:
        raise Refusal(
            422,
            "bad-filter",
            tr("The list cannot be filtered like this."),
            tr("Correct or remove what is named below."),
            errors,
        )
    return conditions


def _condition(compiled: CompiledForm | None, text: str) -> _Condition | tuple[str, str]:
    key, _, rest = text.partition("~")
    relation, _, typed = rest.partition("~")
    known = can_be_asked(compiled) if compiled else []
    if compiled is None or key not in known:
        near = nearest(key, known)
        return (
            tr("The list cannot be filtered by “{key}”.", key=key[:60]),
            tr("Did you mean “{near}”?", near=near)
            if near
            else tr("Choose a field of the newest release."),
        )
    if relation not in get_args(Relation):
        return tr("“{relation}” is no way to compare.", relation=relation[:20]), tr(
            "Use {get_args}.", get_args=", ".join(get_args(Relation))
        )
    asked: Relation = relation  # type: ignore[assignment]
    if asked in ("blank", "filled"):
        return _Condition(key, asked, "")
    declared = compiled.fields[key]
    if asked == "contains" and not declared.type.is_free_text:
        return tr("{label} is not a text.", label=declared.label), tr("Use is, from or to.")
    value = read_value(typed, declared.type, declared.settings)
    if isinstance(value, Fault):
        return f"{declared.label}: {value.message}", tr("Write the value as the form takes it.")
    if value is None or isinstance(value, tuple):
        return tr("{label} is compared with nothing.", label=declared.label), tr(
            "Give a value, or ask for blank."
        )
    return _Condition(key, asked, value)
