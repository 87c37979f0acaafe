"""The other records that a case knows of, as the record being judged sees them."""

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

from thistlequartz.core.evaluation import Found, folded_key
from thistlequartz.core.ruleset import OtherRecord
from thistlequartz.core.values import Fault, Value

if TYPE_CHECKING:
    from thistlequartz.core.evaluation import CompiledForm


class CaseRecords:
    """A lookup over the other records of one case; there are no more than these."""

    def __init__(self, form: "CompiledForm", others: tuple[OtherRecord, ...]) -> None:
        self._form = form
        self._own = [one.values for one in others if one.form in (None, form.form.key)]
        self._found = {
            (one.form or form.form.key, one.number): Found(one.values, one.on_hold)
            for one in others
        }

    def record(self, form: str, number: str) -> Found | None:
        """The record that a reference points to."""
        return self._found.get((form, number))

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        """Whether one of the others holds the same values in these fields."""
        return any(self._key_of(values, keys) == folded for values in self._own)

    def others(self) -> Iterator[Mapping[str, object]]:
        """The values of the others of the same form."""
        return iter(self._own)

    def _key_of(self, values: Mapping[str, object], keys: tuple[str, ...]) -> tuple[str, ...]:
        readings = self._form.read({key: values.get(key) for key in keys}).readings
        held: list[Value] = []
        for key in keys:
            reading = readings[key]
            if reading is None or isinstance(reading, Fault):
                return ()
            held.append(reading)
        return folded_key(held)
