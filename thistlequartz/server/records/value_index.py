"""Values of records as indexed rows, for questions about other records."""

from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping

from django.db import transaction
from django.db.models import Q, QuerySet

from thistlequartz.core.engines.rows import (
    AllOf,
    AnyOf,
    RowComparison,
    RowFilled,
    RowMembership,
    Where,
)
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.types import read_value
from thistlequartz.core.values import Value, is_cut, order_key
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.inserting import insert

from .models import IndexedField, IndexedValue, Record

RECORDS_AT_ONCE = 200
_COLUMNS = ("record", "form", "field", "value")


def indexed_types(form: CompiledForm) -> dict[str, str]:
    """Return the types of the indexed fields: all but long texts and several choices."""
    long = {field.key for field in form.form.fields if getattr(field, "long", False)}
    return {
        key: type_named(form.fields, key)
        for key, declared in form.fields.items()
        if key not in long and not declared.type.holds_several
    }


def type_named(fields: Vocabulary, key: str) -> str:
    """The key of its type, with what formulas see of it."""
    type_ = fields[key].type
    return f"{type_.name}/{type_.kind}"


def index_record(record: Record, form: CompiledForm, values: Mapping[str, Value]) -> None:
    """Keep the rows of one record that has been stored, as far as they have changed."""
    wanted = {key: order_key(values.get(key)) for key in indexed_types(form)}
    held = dict(record.indexed_values.values_list("field", "value"))
    gone = [key for key, value in held.items() if wanted.get(key) != value]
    if gone:
        record.indexed_values.filter(field__in=gone).delete()
    IndexedValue.objects.bulk_create(
        IndexedValue(record=record, form_id=record.form_id, field=key, value=value)
        for key, value in wanted.items()
        if value is not None and held.get(key) != value
    )


def unindexed(draft: DraftForm, form: CompiledForm) -> list[str]:
    """The fields that should be indexed by what `form` says, and are not yet."""
    held = dict(draft.indexed_fields.values_list("key", "type"))
    return [key for key, type_ in indexed_types(form).items() if held.get(key) != type_]


def drop_changed_fields(draft: DraftForm, form: CompiledForm) -> None:
    """No longer ask in the index for fields that are gone, or are read otherwise now."""
    wanted = indexed_types(form)
    held = draft.indexed_fields.values_list("key", "type")
    gone = [key for key, type_ in held if wanted.get(key) != type_]
    draft.indexed_fields.filter(key__in=gone).delete()


def index_fields(
    draft: DraftForm,
    form: CompiledForm,
    told: Callable[[Iterable[int], int], Iterable[int]] | None = None,
) -> int:
    """Index the fields that are not yet indexed; return how many.

    Records stored meanwhile index themselves.
    """
    new = unindexed(draft, form)
    if not new:
        return 0
    everything = draft.records.order_by("pk")
    pieces = _index_pieces(everything, form.fields, new)
    for _ in told(pieces, everything.count()) if told else pieces:
        pass
    types = indexed_types(form)
    IndexedField.objects.bulk_create(
        [IndexedField(form=draft, key=key, type=types[key]) for key in new],
        update_conflicts=True,
        update_fields=["type"],
    )
    return len(new)


def _index_pieces(records: QuerySet[Record], fields: Vocabulary, keys: list[str]) -> Iterator[int]:
    last = 0
    while True:
        with transaction.atomic():
            piece = records.select_for_update().filter(pk__gt=last)[:RECORDS_AT_ONCE]
            some = list(piece.values_list("pk", "form", "values"))
            done = [pk for pk, _, _ in some]
            IndexedValue.objects.filter(record__in=done, field__in=keys).delete()
            insert(IndexedValue, _COLUMNS, _rows(some, fields, keys))
        if not done:
            return
        last = done[-1]
        yield from done


def _rows(
    records: Iterable[tuple[int, int, Mapping[str, object]]], fields: Vocabulary, keys: list[str]
) -> Iterator[tuple[int, int, str, str]]:
    for record, form, values in records:
        for key in keys:
            declared = fields[key]
            read = read_value(values.get(key), declared.type, declared.settings.as_stored())
            value = order_key(read)
            if value is not None:
                yield record, form, key, value


def records_where(form: int, where: Where) -> Q:
    """What `where` says of the records of a form (by its primary key), as a condition on them."""
    match where:
        case AllOf(parts):
            held = defaultdict[str, list[RowComparison]](list)
            found = Q()
            for part in parts:
                if isinstance(part, RowComparison):
                    held[part.key].append(part)
                else:
                    found &= records_where(form, part)
            for key, asked in held.items():
                found &= Q(pk__in=rows_holding(form, key, asked).values("record"))
            return found
        case AnyOf(parts):
            found = Q(pk__in=[])
            for part in parts:
                found |= records_where(form, part)
            return found
        case RowFilled(key, filled):
            there = Q(pk__in=rows_holding(form, key, ()).values("record"))
            return there if filled else ~there
        case RowMembership(key, values):
            some = rows_holding(form, key, ()).filter(value__in=sorted(map(_key, values)))
            return Q(pk__in=some.values("record"))
        case RowComparison():
            return records_where(form, AllOf(frozenset((where,))))


def rows_holding(form: int, key: str, asked: Iterable[RowComparison]) -> QuerySet[IndexedValue]:
    """Return the rows of a field that hold all that is asked: one range of the index.

    One row for each record in which the field is filled.
    """
    rows = IndexedValue.objects.filter(form=form, field=key)
    for one in asked:
        rows = rows.filter(**_range(one.relation, _key(one.value)))
    return rows


def _key(value: object) -> str:
    key = order_key(value)
    assert key is not None
    return key


def _range(relation: str, key: str) -> dict[str, str]:
    """What a row holds; all values of one type begin with the same letter."""
    match relation:
        case "=":
            return {"value": key}
        case "<" | "<=":
            end = "value__lt" if relation == "<" and not is_cut(key) else "value__lte"
            return {"value__gte": key[0], end: key}
        case _:
            begin = "value__gt" if relation == ">" and not is_cut(key) else "value__gte"
            return {begin: key, "value__lt": chr(ord(key[0]) + 1)}
