"""Other records as a draft asks for them: with rules of uniqueness not yet in force."""

from collections.abc import Collection, Iterator, Mapping
from functools import cached_property
from itertools import islice
from typing import Final

from django.db.models import QuerySet
from django.utils import timezone

from thistlequartz.core.engines.rows import EVERY, Where, about
from thistlequartz.core.enumerations import STORING_ROLES
from thistlequartz.core.judging import (
    NUMBER,
    Circumstances,
    CompiledForm,
    RecordSettling,
    ReferredRecord,
    settles_like,
    stored_key,
)
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.types import FieldType
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.pieces import values_in_pieces
from thistlequartz.server.releases.services import compiled_release

from .lookup import DatabaseLookup, keys_in_force
from .models import Record

LOOKED_THROUGH: Final = 2_000
"""Records up to which every one is read: for doubles by letters that only casefolding takes for
the same, and for what the draft derives otherwise. Among more a draft may miss a double while it
is tried; impact and a release do not.
"""
_Key = tuple[str, ...]


class DraftLookup(DatabaseLookup):
    """Other records for a draft: by keys where the release keeps them, else record by record.

    Of the latter only those that hold about the same are read.
    """

    def __init__(
        self,
        form_key: str,
        form: CompiledForm,
        own: int | None = None,
        hidden: Collection[str] = (),
    ) -> None:
        """`hidden` are forms of whose records nothing is told, as who asks may not look at them."""
        super().__init__(form_key, own)
        self._hidden = frozenset(hidden)
        self._form = form
        self._kept: frozenset[_Key] | None = None

    @cached_property
    def _settling(self) -> RecordSettling | None:
        """How the draft settles records, where that differs from how they were settled."""
        draft, now = get_draft(self._form_key), timezone.now()
        release = release_in_force(draft)
        if release is not None and settles_like(compiled_release(release), self._form):
            return None
        at = Circumstances(self._form.today_at(now), now, "update", role=STORING_ROLES[0])
        return RecordSettling(self._form, at)

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record of that number."""
        return None if form in self._hidden else super().record(form, number)

    def taken(self, keys: _Key, folded: _Key) -> bool:
        """Whether another record holds the same values in these fields."""
        return self.holder(keys, folded) is not None

    def holder(self, keys: _Key, folded: _Key) -> str | None:
        """The number of a record that does."""
        if self._kept is None:
            self._kept = keys_in_force(self._form_key)
        settled = self._settling is not None and self._settling.decides(keys)
        if settled:
            return self._first_settled(keys, folded)
        if keys in self._kept:
            return super().holder(keys, folded)
        every = Record.objects.filter(form__key=self._form_key).exclude(pk=self._own or 0)
        alike = {
            f"values__{key}__iexact": part
            for key, part in zip(keys, folded, strict=True)
            if _is_stored_as_compared(self._form.fields[key].type)
        }
        found = self._first(every.filter(**alike), keys, folded)
        # The database takes fewer letters for the same: ß and ss, for one.
        if found is None and alike and every[LOOKED_THROUGH:].first() is None:
            found = self._first(every, keys, folded)
        return found

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        """Yield the others for which `where` may be true, as the draft settles them.

        Where it settles what is asked, the first LOOKED_THROUGH.
        """
        settling = self._settling
        if settling is None:
            yield from super().others(where, fields)
            return
        wanted = about(where, fields.keys() - settling.keys)
        found = super().others(wanted, fields)
        for one in islice(found, LOOKED_THROUGH) if wanted == EVERY else found:
            yield settling.of_stored(one, self)

    def _first_settled(self, keys: _Key, folded: _Key) -> str | None:
        for one in self.others(EVERY, self._form.fields):
            if stored_key(self._form.fields, keys, one) == folded:
                return str(one[NUMBER])
        return None

    def _first(self, rows: QuerySet[Record], keys: _Key, folded: _Key) -> str | None:
        for number, values in values_in_pieces(rows, "number", "values"):
            if stored_key(self._form.fields, keys, values) == folded:
                return str(number)
        return None


def _is_stored_as_compared(type_: FieldType) -> bool:
    """Whether the text that uniqueness compares is what is stored: of a list or a yes it is not,
    nor of an amount in another unit.
    """
    return type_.kind not in ("boolean", "list") and type_.formula_type() is type_
