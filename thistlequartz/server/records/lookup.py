"""What conditions ask of other records, answered from the database."""

from collections.abc import Iterable, Iterator, Mapping

from thistlequartz.core.engines.rows import EVERY, Where, about, at_most, fields_of
from thistlequartz.core.judging import (
    NUMBER,
    ReferredRecord,
)
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import claims_key
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.pieces import values_in_pieces
from thistlequartz.server.releases.services import compiled_release

from .models import IndexedField, Record, UniqueKey
from .unique_keys import digest_of
from .value_index import records_where, type_named

ROWS_AT_ONCE = 500
ROWS_AT_FIRST = 20
"""Mostly one of the first tells already."""
MOST_TESTS = 20
"""Each is a part of the query; more of them make it longer and tell little more."""
LONGEST_NUMBER = 9
"""Digits of a record's number."""


def number_in(text: str) -> int | None:
    """The number of a record as people write it; None where it is none."""
    written = text.isascii() and text.isdigit() and len(text) <= LONGEST_NUMBER
    return int(text) if written else None


def keys_in_force(form_key: str) -> frozenset[tuple[str, ...]]:
    """Fields that no two records may hold alike by the release in force: their keys are kept."""
    release = release_in_force(get_draft(form_key))
    rules = compiled_release(release).form.rules if release else ()
    return frozenset(rule.targets for rule in rules if claims_key(rule) and rule.enabled)


class BlindLookup:
    """A lookup for people who may know nothing of other records: any number may be one.

    Rules on other records are left out, so that nothing else is asked.
    """

    discreet = True

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """A record of which nothing is known, where that may be its number."""
        return None if number_in(number) is None else ReferredRecord({})

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        """None is known to."""
        return False

    def holder(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> str | None:
        """None is known to."""
        return None

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        """None are known."""
        return iter(())


class DatabaseLookup:
    """The other records in the database; `own` is the primary key of the judged one.

    A `discreet` lookup never tells which record it was.
    """

    def __init__(self, form_key: str, own: int | None = None, *, discreet: bool = False) -> None:
        self._form_key = form_key
        self._own = own
        self.discreet = discreet

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record of that number."""
        wanted = number_in(number)
        if wanted is None:
            return None
        found = Record.objects.filter(form__key=form, number=wanted).first()
        return ReferredRecord(found.values, found.on_hold) if found else None

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

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        """The values of the form's other records of which `where` may be so, with their numbers.

        A field that is read otherwise than by the newest release is not asked for in the index.
        """
        rows = Record.objects.filter(form__key=self._form_key).order_by("pk")
        rows = rows.exclude(pk=self._own) if self._own else rows
        form, indexed = self._indexed(fields, fields_of(where))
        asked = at_most(about(where, indexed), MOST_TESTS)
        if asked == EVERY:
            chosen = values_in_pieces(rows, "number", "values")
            yield from ({**values, NUMBER: number} for number, values in chosen)
            return
        found = list(rows.filter(records_where(form, asked)).values_list("pk", flat=True))
        begin, size = 0, ROWS_AT_FIRST
        while begin < len(found):
            some = Record.objects.filter(pk__in=found[begin : begin + size])
            for number, values in some.order_by("pk").values_list("number", "values"):
                yield {**values, NUMBER: number}
            begin, size = begin + size, ROWS_AT_ONCE

    def _indexed(self, fields: Vocabulary, asked: Iterable[str]) -> tuple[int, frozenset[str]]:
        """The primary key of the form, and those of the fields asked for that the index holds."""
        rows = IndexedField.objects.filter(form__key=self._form_key, key__in=asked)
        known = list(rows.values_list("form", "key", "type"))
        same = (key for _, key, type_ in known if type_ == type_named(fields, key))
        return (known[0][0] if known else 0), frozenset(same)
