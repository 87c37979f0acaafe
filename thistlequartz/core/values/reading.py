"""Reading: from what people type, or what JSON carries, to exact values.

People are read kindly (spaces in numbers, written months, labels of choices); what stays
ambiguous is a fault that shows both readings. Nothing here raises.
"""

import re
from dataclasses import replace
from datetime import date, datetime, time
from decimal import Decimal

from thistlequartz.core.translation import listed, tr

from .calendar import read_clock, read_date, read_instant
from .fault import Fault, quoted
from .numbers import MAX_DIGITS, TOO_MANY_DIGITS, read_number
from .reading_settings import PLAIN, ReadingSettings, normalised
from .types import (
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    ReferenceType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
)

Value = str | bool | Decimal | date | time | datetime | tuple[str, ...]
"""Several choices are a tuple of codes in the order of the choices."""
Reading = Value | Fault | None
"""None is blank: absent, null, text with nothing left after trimming, an empty list."""

MAX_TEXT = 20_000
"""Code points in one text value."""
_LONGEST_GIVEN = MAX_TEXT * 4
"""Code points that are looked at; normalising may bring them down to the most a text can have."""
MAX_TICKED = 5_000
"""Choices that can be ticked in one field."""
_LARGEST = 10**MAX_DIGITS
_YES = frozenset({"yes", "y", "true"})
_NO = frozenset({"no", "n", "false"})
_HALF_CHARACTER = re.compile("[\ud800-\udfff]")


def read_value(given: object, type_: ValueType, settings: ReadingSettings = PLAIN) -> Reading:
    """Read `given` as `type_`: a value, None for blank, or a Fault that says how to correct it."""
    if given is None:
        return None
    if type(given) is int and not -_LARGEST < given < _LARGEST:
        return TOO_MANY_DIGITS  # Python would not even write it out
    if isinstance(type_, ChoicesType):
        return _read_choices(given, type_)
    if isinstance(given, list | tuple | dict | set | frozenset):
        return Fault(tr("Several values were given where one is expected: give one."))
    if isinstance(given, str):
        if not given or given.isspace():
            return None
        if len(given) > _LONGEST_GIVEN:
            return _too_long(given)
        if _HALF_CHARACTER.search(given):
            return Fault(tr("This text has half a character: type it again."))
        if "\x00" in given:
            return Fault(tr("This text has a character that cannot be stored (NUL): remove it."))
        if isinstance(type_, TextType):
            given = normalised(given, settings)
        else:
            given = normalised(given, PLAIN)
    return _read_one(given, type_, settings)


def read_written(given: object, type_: ValueType, settings: ReadingSettings = PLAIN) -> Reading:
    """Read a value that a steward writes into a rule or a form.

    Numbers as the product shows them (2,500 or 80 000), then by the field's own settings.
    """
    shown = read_value(given, type_, replace(settings, decimal_mark="point"))
    return read_value(given, type_, settings) if isinstance(shown, Fault) else shown


def _read_one(given: object, type_: ValueType, settings: ReadingSettings) -> Reading:
    assert not isinstance(type_, ChoicesType)
    match type_:
        case TextType():
            return _read_text(given)
        case NumberType():
            return read_number(given, type_, settings)
        case DateType():
            return read_date(given, settings.date_order)
        case TimeType():
            return read_clock(given)
        case DateTimeType(zone):
            return read_instant(given, zone, settings.date_order)
        case YesNoType():
            return _read_yes_no(given)
        case ReferenceType():
            return _read_reference(given)
        case ChoiceType():
            return _read_choice(given, type_)


def _read_text(given: object) -> Reading:
    if not isinstance(given, str):
        return Fault(tr("A text is expected here: write it between quotation marks."))
    if len(given) > MAX_TEXT:
        return _too_long(given)
    return given


def _read_reference(given: object) -> Reading:
    """The number of a record, or what else it is known by, in one form: 7 and not 007."""
    read = _read_text(str(given) if type(given) is int else given)
    if isinstance(read, str) and read.isascii() and read.isdigit():
        return read.lstrip("0") or "0"
    return read


def _too_long(text: str) -> Fault:
    return Fault(
        tr(
            "This text has {count:,} characters: shorten it to {max_text:,}.",
            count=len(text),
            max_text=MAX_TEXT,
        )
    )


def _read_yes_no(given: object) -> Reading:
    if isinstance(given, bool):
        return given
    word = str(given).casefold()
    if word in _YES:
        return True
    return (
        False
        if word in _NO
        else Fault(tr("{given} is neither yes nor no: choose one.", given=quoted(given)))
    )


def _read_choice(given: object, type_: ChoiceType) -> Reading:
    text = str(given)
    fitting = type_.fitting(text)
    if len(fitting) == 1:
        return fitting[0]
    if fitting:
        several = listed(fitting[:3], "or")
        return Fault(
            tr(
                "{text} fits several choices: write the code, {several}.",
                text=quoted(text),
                several=several,
            )
        )
    return Fault(tr("{text} is not among the choices: choose one of them.", text=quoted(text)))


def _read_choices(given: object, type_: ChoicesType) -> Reading:
    """A set of codes, from a list or from text with semicolons between them."""
    if isinstance(given, dict):
        return Fault(tr("A list of choices is expected here: give their codes."))
    if isinstance(given, list | tuple | set | frozenset):
        parts = list(given)
    else:
        parts = str(given).split(";")
    if len(parts) > MAX_TICKED:
        return Fault(
            tr(
                "This list has {count:,} choices: shorten it to {max_ticked:,}.",
                count=len(parts),
                max_ticked=MAX_TICKED,
            )
        )
    ticked: set[str] = set()
    single = ChoiceType(type_.choices)
    for part in parts:
        read = read_value(part, single)
        if isinstance(read, Fault):
            return read
        if isinstance(read, str):
            ticked.add(read)
    return tuple(choice.code for choice in type_.choices if choice.code in ticked) or None
