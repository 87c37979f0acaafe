"""What conditions ask of other records, answered from the database."""

from collections.abc import Iterator, Mapping

from thistlequartz.core.evaluation import Found
from thistlequartz.core.evaluation.lookup import NUMBER

from .models import Record, UniqueKey
from .uniqueness import digest_of

ROWS_AT_ONCE = 500
LONGEST_NUMBER = 9
"""Digits of a record's number."""


def number_in(text: str) -> int | None:
    """The number of a record as people write it; None where it is none."""
    written = text.isascii() and text.isdigit() and len(text) <= LONGEST_NUMBER
    return int(text) if written else None


class DatabaseLookup:
    """The other records as the one being judged sees them; `own` is its primary key, if stored."""

    def __init__(self, form_key: str, own: int | None = None) -> None:
        self._form_key = form_key
        self._own = own

    def record(self, form: str, number: str) -> Found | None:
        """The record of that number."""
        wanted = number_in(number)
        if wanted is None:
            return None
        found = Record.objects.filter(form__key=form, number=wanted).first()
        return Found(found.values, found.on_hold) if found else None

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        """Whether another record holds the same values in these fields."""
        rows = UniqueKey.objects.filter(digest=digest_of(self._form_key, keys, folded))
        return rows.exclude(record_id=self._own).exists() if self._own else rows.exists()

    def holder(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> str | None:
        """The number of a record that holds the same values."""
        rows = UniqueKey.objects.filter(digest=digest_of(self._form_key, keys, folded))
        rows = rows.exclude(record_id=self._own) if self._own else rows
        number = rows.values_list("record__number", flat=True).first()
        return None if number is None else str(number)

    def others(self) -> Iterator[Mapping[str, object]]:
        """The values of the form's other records, with their numbers."""
        rows = Record.objects.filter(form__key=self._form_key).exclude(pk=self._own)
        for number, values in rows.values_list("number", "values").iterator(ROWS_AT_ONCE):
            yield {**values, NUMBER: number}
