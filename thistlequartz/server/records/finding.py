"""Finding records: search, filters by how far a record has come and by what it holds, and sorting.

The records of a page are found in one narrow index first and fetched then, so that a list costs
the same however much each record holds.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from typing import Final, Literal, get_args
from zoneinfo import ZoneInfo

from django.db.models import Prefetch, Q, QuerySet
from django.db.models.functions import Lower, Substr

from thistlequartz.core.engines.rows import Filled, Held, Holds, OneOf, Where
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import nearest
from thistlequartz.core.values import Fault, TextType, read_value
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.releases.models import Release

from .indexing import indexed_types, records_where
from .lookup import number_in
from .models import Breach, IndexedValue, Record

Relation = Literal["is", "not", "from", "to", "contains", "blank", "filled"]
Order = Literal["number", "-number", "title", "-title", "changed", "-changed"]
PAGE: Final = 50
"""Records in one part of a list."""
MOST_CONDITIONS: Final = 8
_ORDERS: dict[str, tuple[str, ...]] = {
    "number": ("number",),
    "-number": ("-number",),
    "title": ("title", "-number"),
    "-title": ("-title", "-number"),
    "changed": ("changed_at", "-number"),
    "-changed": ("-changed_at", "-number"),
}


@dataclass(frozen=True, slots=True)
class Wanted:
    """Which records are looked for. What is blank or None does not count."""

    state: str | None = None
    outcome: str | None = None
    on_hold: bool | None = None
    search: str = ""
    rule: str = ""
    """The key of a rule that it breaks."""
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
        return self == Wanted(order=self.order)


def find(form: int, compiled: CompiledForm | None, wanted: Wanted) -> QuerySet[Record]:
    """The records of a form, by its primary key; without a release there are no fields to ask of.

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
        broken = Breach.objects.filter(rule_key=wanted.rule, record__form=form)
        records = records.filter(pk__in=broken.values("record"))
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
    for condition in _conditions(compiled, wanted.where):
        records = records.filter(_asked(form, condition))
    return records.order_by(*_ORDERS[wanted.order])


def _begin(day: date, zone: tzinfo) -> datetime:
    return datetime.combine(day, time.min, tzinfo=zone)


def page_of(found: QuerySet[Record], offset: int, *, values: bool) -> list[Record]:
    """A part of a list, with all that is shown of each; their values only where asked for."""
    numbers = list(found.values_list("pk", flat=True)[offset : offset + PAGE])
    records = Record.objects.filter(pk__in=numbers).prefetch_related(
        "changed_by",
        "keeper",
        "breaches",
        Prefetch("release", Release.objects.defer("document")),
    )
    records = records.defer("reasons", "applied") if values else records.defer(*_WIDE)
    by_key = {record.pk: record for record in records}
    return [by_key[key] for key in numbers if key in by_key]


_WIDE = ("values", "reasons", "applied")


def can_be_asked(compiled: CompiledForm) -> list[str]:
    """The fields by which a list can be filtered."""
    helpers = {one.key for one in compiled.form.fields if one.helper}
    return [key for key in indexed_types(compiled) if key not in helpers]


@dataclass(frozen=True, slots=True)
class _Condition:
    key: str
    relation: Relation
    value: Held


def _asked(form: int, condition: _Condition) -> Q:
    key, value = condition.key, condition.value
    where: Where
    match condition.relation:
        case "blank" | "filled":
            where = Filled(key, condition.relation == "filled")
        case "from":
            where = Holds(key, ">=", value)
        case "to":
            where = Holds(key, "<=", value)
        case "contains":
            # Without the first letter, which says the type.
            texts = IndexedValue.objects.annotate(text=Lower(Substr("value", 2)))
            found = texts.filter(form=form, field=key, text__contains=str(value).lower())
            return Q(pk__in=found.values("record"))
        case "not":
            return ~records_where(form, OneOf(key, frozenset({value})))
        case _:
            where = OneOf(key, frozenset({value}))
    return records_where(form, where)


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
            "The list cannot be filtered like this.",
            "Mend or take out what is named below.",
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
            f"The list cannot be filtered by “{key[:60]}”.",
            f"Did you mean “{near}”?" if near else "Choose a field of the newest release.",
        )
    if relation not in get_args(Relation):
        return f"“{relation[:20]}” is no way to compare.", f"Use {', '.join(get_args(Relation))}."
    asked: Relation = relation  # type: ignore[assignment]
    if asked in ("blank", "filled"):
        return _Condition(key, asked, "")
    declared = compiled.fields[key]
    if asked == "contains" and not isinstance(declared.type, TextType):
        return f"{declared.label} is not a text.", "Use is, from or to."
    value = read_value(typed, declared.type, declared.settings)
    if isinstance(value, Fault):
        return f"{declared.label}: {value.message}", "Write the value as the form takes it."
    if value is None or isinstance(value, tuple):
        return f"{declared.label} is compared with nothing.", "Give a value, or ask for blank."
    return _Condition(key, asked, value)
