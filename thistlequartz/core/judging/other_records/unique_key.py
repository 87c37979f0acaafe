"""The key by which records are unique: one comparison, and one rule for blanks."""

import unicodedata
from collections.abc import Iterable, Mapping

from thistlequartz.core.language import Vocabulary
from thistlequartz.core.types import FieldType, read_value
from thistlequartz.core.values import Fault, Reading, Value, folded, to_json


def unique_key(
    fields: Vocabulary, keys: tuple[str, ...], readings: Iterable[Reading]
) -> tuple[str, ...] | None:
    """Return the values of the fields `keys` as uniqueness compares them.

    None where one of them is blank or cannot be read: such a record never collides.
    """
    held: list[Value] = []
    for reading in readings:
        if reading is None or isinstance(reading, Fault):
            return None
        held.append(reading)
    return folded_key(fields, keys, held)


def stored_key(
    fields: Vocabulary, keys: tuple[str, ...], stored: Mapping[str, object]
) -> tuple[str, ...] | None:
    """Return the unique key of a record by its canonical values; None as in `unique_key`."""
    declared = ((fields[key], stored.get(key)) for key in keys)
    return unique_key(
        fields,
        keys,
        (read_value(held, one.type, one.settings.as_stored()) for one, held in declared),
    )


def folded_key(fields: Vocabulary, keys: Iterable[str], values: Iterable[Value]) -> tuple[str, ...]:
    """Return the values of the fields `keys` as uniqueness compares them.

    Canonical, as formulas see them: an amount in another unit is the same. Texts, but no codes,
    without regard to case.
    """
    return tuple(
        _folded_part(value, fields[key].type) for key, value in zip(keys, values, strict=True)
    )


def _folded_part(value: Value, type_: FieldType) -> str:
    evaluated, fold = type_.evaluated(), type_.is_free_text
    written = to_json(evaluated(value) if evaluated else value)
    match written:
        case bool():
            return "yes" if written else "no"
        case list():
            return "\x1f".join(sorted(written))
        case _:
            return folded(_visible(str(written))) if fold else str(written)


def _visible(text: str) -> str:
    """A text without the signs that nobody sees: two that differ by these alone are the same."""
    if text.isascii():
        return text
    shown = (
        " " if unicodedata.category(one) == "Zs" else one
        for one in text
        if unicodedata.category(one) != "Cf"
    )
    return "".join(shown)
