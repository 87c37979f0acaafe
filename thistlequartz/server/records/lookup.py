"""What conditions ask of other records, answered from the database."""

from collections.abc import Iterator, Mapping

from thistlequartz.core.evaluation import Found

from .models import Record, UniqueKey
from .uniqueness import digest_of

ROWS_AT_ONCE = 500


class DatabaseLookup:
    """The other records as the one being judged sees them; `own` is its primary key, if stored."""

    def __init__(self, form_key: str, own: int | None = None) -> None:
        self._form_key = form_key
        self._own = own

    def record(self, form: str, number: str) -> Found | None:
        """The record of that number."""
        if not number.isascii() or not number.isdigit() or len(number) > 9:
            return None
        found = Record.objects.filter(form__key=form, number=int(number)).first()
        return Found(found.values, found.on_hold) if found else None

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        """Whether another record holds the same values in these fields."""
        rows = UniqueKey.objects.filter(digest=digest_of(self._form_key, keys, folded))
        return rows.exclude(record_id=self._own).exists() if self._own else rows.exists()

    def others(self) -> Iterator[Mapping[str, object]]:
        """The values of the form's other records."""
        rows = Record.objects.filter(form__key=self._form_key).exclude(pk=self._own)
        return rows.values_list("values", flat=True).iterator(ROWS_AT_ONCE)
