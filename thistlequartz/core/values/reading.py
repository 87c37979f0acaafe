"""Reading: from what people type, or what JSON carries, to exact values.

People are read kindly (spaces in numbers, written months, labels of choices); what stays
ambiguous is a fault that shows both readings. Nothing here raises.
"""

import calendar
import re
import unicodedata
from dataclasses import dataclass
from datetime import date
from decimal import Context, Decimal

from .types import ChoiceType, DateType, NumberType, TextType, ValueType, YesNoType

Value = str | bool | Decimal | date
Blank = None
"""How a blank value is written: absent, null, or text with nothing left after trimming."""


@dataclass(frozen=True, slots=True)
class Fault:
    """What was given cannot be read as the field's type: neither blank nor a value."""

    message: str


Reading = Value | Fault | None

MAX_DIGITS = 34
"""Significant digits of a number: IEEE 754 decimal128."""
MAX_TEXT = 20_000
"""Code points in one text value."""

_TOO_MANY_DIGITS = f"This number has more than {MAX_DIGITS} digits: shorten it."
_EXACT = Context(prec=MAX_DIGITS * 2)
_SHOWN = 40
_MONTHS = {name.casefold(): n for n, name in enumerate(calendar.month_name) if name}
_MONTHS |= {name.casefold(): n for n, name in enumerate(calendar.month_abbr) if name}
_YES = frozenset({"yes", "y", "true"})
_NO = frozenset({"no", "n", "false"})
_PLAIN_NUMBER = re.compile(r"[+-]?(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)")
_GROUPED = re.compile(r"[+-]?[0-9]{1,3}(?:,[0-9]{3})+\.[0-9]+|[+-]?[0-9]{1,3}(?:,[0-9]{3}){2,}")
_ONE_COMMA = re.compile(r"[+-]?[0-9]+,[0-9]+")
_ISO_DATE = re.compile(r"([0-9]{4})-([0-9]{2})-([0-9]{2})")
_WRITTEN_DATE = re.compile(r"([0-9]{1,2})\.?\s+([^\W\d_]+)\.?\s+([0-9]{4})")


def read_value(given: object, type_: ValueType) -> Reading:
    """Read `given` as `type_`: a value, None for blank, or a Fault that says how to mend it."""
    if given is None:
        return Blank
    if isinstance(given, list | tuple | dict | set):
        return Fault("Several values were given where one is expected: give one.")
    if isinstance(given, str):
        if any("\ud800" <= character <= "\udfff" for character in given):
            return Fault("This text holds half a character: type it again.")
        given = unicodedata.normalize("NFC", given).strip()
        if not given:
            return Blank
    match type_:
        case TextType():
            return _read_text(given)
        case NumberType():
            return _read_number(given, type_)
        case DateType():
            return _read_date(given)
        case YesNoType():
            return _read_yes_no(given)
        case ChoiceType():
            return _read_choice(given, type_)


def _quoted(given: object) -> str:
    text = str(given)
    return f"“{text[:_SHOWN]}…”" if len(text) > _SHOWN else f"“{text}”"


def _read_text(given: object) -> Reading:
    if not isinstance(given, str):
        return Fault("A text is expected here: write it between quotation marks.")
    if len(given) > MAX_TEXT:
        return Fault(f"This text has {len(given):,} characters: shorten it to {MAX_TEXT:,}.")
    return given


def _read_number(given: object, type_: NumberType) -> Reading:
    if isinstance(given, bool):
        return Fault("A number is expected here, not yes or no: write digits, such as 12.")
    if isinstance(given, int) and abs(given) >= 10**MAX_DIGITS:
        return Fault(_TOO_MANY_DIGITS)
    if isinstance(given, Decimal):
        number = given
    else:
        read = _number_from_text(str(given))
        if isinstance(read, Fault):
            return read
        number = read
    if not number.is_finite() or number.adjusted() >= MAX_DIGITS or _digits(number) > MAX_DIGITS:
        return Fault(_TOO_MANY_DIGITS)
    return _fit_to_scale(number, type_.scale)


def _digits(number: Decimal) -> int:
    """Digits needed to write the number without an exponent."""
    _, digits, exponent = number.as_tuple()
    assert isinstance(exponent, int)
    return max(len(digits) + max(exponent, 0), -exponent)


def _number_from_text(text: str) -> Decimal | Fault:
    compact = "".join(text.split()).replace("−", "-")
    if _GROUPED.fullmatch(compact):
        compact = compact.replace(",", "")
    elif _ONE_COMMA.fullmatch(compact):
        grouped, pointed = compact.replace(",", ""), compact.replace(",", ".")
        if re.search(r",[0-9]{3}$", compact):
            return Fault(
                f"{_quoted(text)} can be read as {grouped} or as {pointed}: "
                "write it without a comma."
            )
        return Fault(f"{_quoted(text)} has a comma: write {pointed}, with a point.")
    if not _PLAIN_NUMBER.fullmatch(compact):
        return Fault(f"{_quoted(text)} is not a number: write digits, such as 12 or 0.5.")
    if len(compact) > MAX_DIGITS * 4:
        return Fault(_TOO_MANY_DIGITS)
    return Decimal(compact)


def _fit_to_scale(number: Decimal, scale: int | None) -> Reading:
    number = number.normalize(_EXACT)
    exponent = number.as_tuple().exponent
    assert isinstance(exponent, int)
    if number == 0 or exponent > 0:
        number = Decimal(int(number))
    if scale is not None and -exponent > scale:
        if scale == 0:
            return Fault(f"{number} is not a whole number: leave out what follows the point.")
        return Fault(f"{number} has more than {scale} digits after the point: round it.")
    return number


def _read_date(given: object) -> Reading:
    if isinstance(given, date):
        return given
    text = str(given)
    if iso := _ISO_DATE.fullmatch(text):
        year, month, day = (int(part) for part in iso.groups())
    elif (written := _WRITTEN_DATE.fullmatch(text)) and written[2].casefold() in _MONTHS:
        year, month, day = int(written[3]), _MONTHS[written[2].casefold()], int(written[1])
    else:
        return Fault(f"{_quoted(text)} is not a date: write it as 2026-06-11 or 11 June 2026.")
    if year < 1 or not 1 <= month <= 12:
        return Fault(f"{_quoted(text)} does not exist: months run from 01 to 12, years from 0001.")
    last = calendar.monthrange(year, month)[1]
    if not 1 <= day <= last:
        named = f"{calendar.month_name[month]} {year}"
        return Fault(f"{_quoted(text)} does not exist: {named} has {last} days.")
    return date(year, month, day)


def _read_yes_no(given: object) -> Reading:
    if isinstance(given, bool):
        return given
    word = str(given).casefold()
    if word in _YES:
        return True
    return False if word in _NO else Fault(f"{_quoted(given)} is neither yes nor no: choose one.")


def _read_choice(given: object, type_: ChoiceType) -> Reading:
    text = str(given)
    if any(choice.code == text for choice in type_.choices):
        return text
    for choice in type_.choices:
        if choice.label.casefold() == text.casefold():
            return choice.code
    return Fault(f"{_quoted(text)} is not among the choices: choose one of them.")
