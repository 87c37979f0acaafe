"""The other records that a case knows of, as the record being judged sees them."""

from collections.abc import Iterator, Mapping

from thistlequartz.core.engines.rows import Where
from thistlequartz.core.judging import NUMBER, CompiledForm, ReferredRecord, stored_key
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import OtherRecord


class CaseRecords:
    """A lookup over the other records of one case; there are no more than these."""

    def __init__(self, form: CompiledForm, others: tuple[OtherRecord, ...]) -> None:
        self._form = form
        own = [one for one in others if one.form in (None, form.form.key)]
        self._own = [{**one.values, **({NUMBER: one.number} if one.number else {})} for one in own]
        self._found = {
            (one.form or form.form.key, one.number): ReferredRecord(one.values, one.on_hold)
            for one in others
        }

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record that a reference points to."""
        return self._found.get((form, number))

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        """Whether one of the others holds the same values in these fields."""
        return any(stored_key(self._form.fields, keys, values) == folded for values in self._own)

    def holder(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> str | None:
        """The number of one that does, where the case gives it one."""
        holding = (one for one in self._own if stored_key(self._form.fields, keys, one) == folded)
        return next((str(one[NUMBER]) for one in holding if NUMBER in one), None)

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        """The values of the others of the same form."""
        return iter(self._own)
