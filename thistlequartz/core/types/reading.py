"""Reading: from what people type, or what JSON carries, to exact values.

People are read kindly (spaces in numbers, written months, labels of choices); what stays
ambiguous is a fault that shows both readings. Nothing here raises.
"""

import re
from dataclasses import replace

from thistlequartz.core.translation import tr
from thistlequartz.core.values.fault import Fault
from thistlequartz.core.values.numbers import MAX_DIGITS, TOO_MANY_DIGITS
from thistlequartz.core.values.reading_settings import PLAIN, ReadingSettings, normalised
from thistlequartz.core.values.value import Reading, Value

from .base import FieldType, one_value

MAX_TEXT = 20_000
"""Code points in one text value."""
_LONGEST_GIVEN = MAX_TEXT * 4
"""Code points that are looked at; normalising may bring them down to the most a text can have."""
_LARGEST = 10**MAX_DIGITS
_HALF_CHARACTER = re.compile("[\ud800-\udfff]")


def read_value(given: object, type_: FieldType, settings: ReadingSettings = PLAIN) -> Reading:
    """Read `given` as `type_`: a value, None for blank, or a Fault that says how to correct it."""
    if given is None:
        return None
    if type(given) is int and not -_LARGEST < given < _LARGEST:
        return TOO_MANY_DIGITS  # Python would not even write it out
    if type_.holds_several:
        return type_.read(given, settings)
    if several := one_value(given):
        return several
    if isinstance(given, str):
        if not given or given.isspace():
            return None
        if len(given) > _LONGEST_GIVEN:
            return too_long(given)
        if _HALF_CHARACTER.search(given):
            return Fault(tr("This text has half a character: type it again."))
        if "\x00" in given:
            return Fault(tr("This text has a character that cannot be stored (NUL): remove it."))
        given = normalised(given, settings if type_.is_free_text else PLAIN)
    return type_.read(given, settings)


def read_written(given: object, type_: FieldType, settings: ReadingSettings = PLAIN) -> Reading:
    """Read a value that a steward writes into a rule or a form.

    Numbers as the product shows them (2,500 or 80 000), then by the field's own settings.
    """
    shown = read_value(given, type_, replace(settings, decimal_mark="point"))
    return read_value(given, type_, settings) if isinstance(shown, Fault) else shown


def read_computed(value: object, type_: FieldType, settings: ReadingSettings) -> Value | None:
    """Return a computed value read as a stored one is; None where it cannot be."""
    read = read_value(value, type_, settings.as_stored())
    return None if isinstance(read, Fault) else read


def too_long(text: str) -> Fault:
    """The fault of a text that has more characters than a value may have."""
    return Fault(
        tr(
            "This text has {count:,} characters: shorten it to {max_text:,}.",
            count=len(text),
            max_text=MAX_TEXT,
        )
    )
