"""A part of a list of records, and how many there are in all.

The records of a page are found in one narrow index first and fetched then, so that a list costs
the same however much each record holds.
"""

from dataclasses import dataclass
from typing import Final

from django.db.models import Prefetch

from thistlequartz.server.releases.models import Release

from .models import Record, RecordBook
from .search import RecordSearch

PAGE: Final = 50
"""Records in one part of a list."""
COUNTED_TO: Final = 3_000
"""Where counting means to look at each record, more are not counted."""
_WIDE = ("values", "reasons", "applied")


@dataclass(frozen=True, slots=True)
class RecordSlice:
    """Some records of a list, and how many it has; or that it has more than so many."""

    records: list[Record]
    total: int
    more: bool = False


def page_of(form: int, found: RecordSearch, offset: int, *, values: bool) -> RecordSlice:
    """A part of a list, with all that is shown of each; their values only where asked for."""
    keys = list(found.records.values_list("pk", flat=True)[offset : offset + PAGE + 1])
    if len(keys) <= PAGE and (keys or offset == 0):
        total, more = offset + len(keys), False
    else:
        total, more = _how_many(form, found)
    return RecordSlice(_fetched(keys[:PAGE], values=values), total, more)


def _how_many(form: int, found: RecordSearch) -> tuple[int, bool]:
    if found.wanted.everything:
        book = RecordBook.objects.filter(form=form).first()
        if book is not None:
            return book.stored, False
    if found.in_index is not None:
        return found.in_index.count(), False
    records = found.records.order_by().values("pk")
    if not found.wanted.where:
        return records.count(), False
    counted = records[: COUNTED_TO + 1].count()
    return min(counted, COUNTED_TO), counted > COUNTED_TO


def _fetched(keys: list[int], *, values: bool) -> list[Record]:
    records = Record.objects.filter(pk__in=keys).prefetch_related(
        "changed_by",
        "keeper",
        "violations",
        Prefetch("release", Release.objects.defer("document")),
    )
    records = records.defer("reasons", "applied") if values else records.defer(*_WIDE)
    by_key = {record.pk: record for record in records}
    return [by_key[key] for key in keys if key in by_key]
