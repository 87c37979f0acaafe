"""Values in canonical form: read strictly, or quickly where all others are read kindly.

For any value the quick way gives what `read_value` gives (a property test holds both together).
"""

import json
import re
from collections.abc import Callable, Mapping
from datetime import date, datetime, time
from decimal import Decimal
from functools import cache
from typing import Final, NamedTuple

from thistlequartz.core.translation import tr

from .fault import Fault
from .numbers import MAX_DIGITS
from .reading import MAX_TEXT, MAX_TICKED, Reading, read_value
from .reading_settings import PLAIN, ReadingSettings, normalised
from .showing import to_json
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


def read_canonical(given: object, type_: ValueType, settings: ReadingSettings = PLAIN) -> Reading:
    """Read a value in its one canonical spelling, as other systems send it.

    Any other spelling is a fault. Texts are normalised as typed ones; a number may be a JSON
    number.
    """
    read = read_value(given, type_, settings.as_stored())
    if isinstance(read, Fault) or given is None or given == [] or isinstance(type_, TextType):
        return read
    wanted = to_json(read)
    if isinstance(given, list) and isinstance(wanted, list):
        same = sorted(map(str, given)) == sorted(wanted)
    elif isinstance(given, int | float | Decimal) and not isinstance(given, bool):
        same = str(given) == wanted
    else:
        same = type(given) is type(wanted) and given == wanted
    if same:
        return read
    written = json.dumps(given, ensure_ascii=False, default=str)
    meant = json.dumps(wanted, ensure_ascii=False)
    return Fault(
        tr(
            "{written} is not in canonical form: send {meant}.",
            written=written[:_LONGEST_TOLD],
            meant=meant,
        )
    )


_LONGEST_TOLD: Final = 60
NOT_CANONICAL: Final = object()
"""What a quick reader gives where it cannot answer."""
Quick = Callable[[object], object]
_DAY = re.compile(r"[0-9]{4}-[0-9]{2}-[0-9]{2}", re.ASCII)
_CLOCK = re.compile(r"[0-9]{2}:[0-9]{2}(?::[0-9]{2})?", re.ASCII)
_INSTANT = re.compile(
    r"(?!0001|9999)[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}Z", re.ASCII
)
_DIGITS = 17
"""The most on either side of the point that are read the quick way."""
_LARGE = 10**_DIGITS
_OF_NUMBERS = frozenset("0123456789.-")


def quick_reader(type_: ValueType, settings: ReadingSettings = PLAIN) -> Quick:
    """For values of a field that are not None: the value of what is canonical, or NOT_CANONICAL.

    It never gives a fault: what it cannot answer, `read_value` is asked.
    """
    match type_:
        case ReferenceType():
            return _reference
        case TextType():
            settled = settings
            plain = settled.trim and not settled.collapse and settled.letter_case is None
            return _text if plain else _never
        case NumberType():
            return _number_of(type_, settings)
        case DateType():
            return _day
        case TimeType():
            return _clock
        case DateTimeType():
            return _instant
        case YesNoType():
            return lambda given: given if given is True or given is False else NOT_CANONICAL
        case ChoiceType(choices):
            codes = frozenset(one.code for one in choices if _stays(one.code))
            return lambda given: given if type(given) is str and given in codes else NOT_CANONICAL
        case ChoicesType(choices):
            return _choices_of(tuple(one.code for one in choices))


class UsualSpelling(NamedTuple):
    """The spelling that most values of a field have, for a reader that is generated.

    Python source over `given`: where `test` holds, `value` is what `read_value` gives. Neither
    raises. The names in braces stand for `names`.
    """

    test: str
    value: str
    names: Mapping[str, object]
    pattern: str | None = None
    """Of texts in ASCII of fewer than `MAX_TEXT` characters, for RE2 and for Python alike."""
    matched: str = ""
    """What `read_value` gives where a text matches the pattern."""


def usual_spelling(type_: ValueType, settings: ReadingSettings = PLAIN) -> UsualSpelling | None:
    """None where a type has no spelling that is worth a test of its own."""
    match type_:
        case ReferenceType():
            return UsualSpelling(f"{_TEXT_TEST} and '0' < given[:1]", "given.strip()", {})
        case TextType():
            plain = settings.trim and not settings.collapse and settings.letter_case is None
            value = "given.strip() or None"
            return UsualSpelling(_TEXT_TEST, value, {}, PRINTABLE, "given") if plain else None
        case NumberType():
            if _unit_looks_like_a_number(type_):
                return None
            return _matching(_written_as(type_, settings), Decimal)
        case DateType():
            return _matching(re.compile(_DAY_THERE, re.ASCII), date.fromisoformat)
        case TimeType():
            return _matching(re.compile(rf"{_CLOCK_THERE}(?::[0-5][0-9])?"), time.fromisoformat)
        case DateTimeType():
            instant = rf"{_DAY_THERE}T{_CLOCK_THERE}:[0-5][0-9]Z"
            return _matching(re.compile(instant), datetime.fromisoformat)
        case YesNoType():
            return UsualSpelling("given is True or given is False", "given", {})
        case ChoiceType(choices):
            codes = frozenset(one.code for one in choices if _stays(one.code))
            test = "type(given) is str and given in {codes}"
            return UsualSpelling(test, "given", {"codes": codes})
        case ChoicesType():
            return None


_TEXT_TEST = (
    f"type(given) is str and given.isascii() and given.isprintable() and len(given) <= {MAX_TEXT}"
)
PRINTABLE: Final = "[!-~](?:[ -~]*[!-~])?"
"""Texts in ASCII without control characters, and with nothing to trim."""
_DAY_THERE = "[12][0-9]{3}-(?:0[1-9]|1[0-2])-(?:0[1-9]|1[0-9]|2[0-8])"
"""Days that every month has."""
_CLOCK_THERE = "(?:[01][0-9]|2[0-3]):[0-5][0-9]"


def _matching(form: re.Pattern[str], read: Callable[[str], object]) -> UsualSpelling:
    names = {"fits": form.fullmatch, "read": read}
    test = "type(given) is str and {fits}(given)"
    return UsualSpelling(test, "{read}(given)", names, form.pattern, "{read}(given)")


def _never(given: object) -> object:
    return NOT_CANONICAL


def _stays(code: str) -> bool:
    return bool(code) and normalised(code, PLAIN) == code


def _reference(given: object) -> object:
    return NOT_CANONICAL if type(given) is str and given.lstrip()[:1] == "0" else _text(given)


def _text(given: object) -> object:
    if type(given) is not str or not given.isascii() or len(given) > MAX_TEXT:
        return NOT_CANONICAL
    return NOT_CANONICAL if "\x00" in given else given.strip() or None


def _number_of(type_: NumberType, settings: ReadingSettings) -> Quick:
    if _unit_looks_like_a_number(type_):
        return _never
    scale = type_.scale
    exact, typed = _written_to(scale).fullmatch, _written_as(type_, settings).fullmatch

    def from_decimal(given: Decimal) -> object:
        sign, digits, exponent = given.as_tuple()
        if type(exponent) is not int or exponent > 0 or len(digits) > MAX_DIGITS:
            return NOT_CANONICAL
        if exponent and (digits[-1] == 0 or -exponent > MAX_DIGITS):
            return NOT_CANONICAL
        if (scale is not None and -exponent > scale) or (sign and not given):
            return NOT_CANONICAL
        return given

    def number(given: object) -> object:
        if type(given) is str:
            if typed(given):
                return Decimal(given)
            # Spaces group thousands.
            compact = "".join(given.split()) if given.isascii() else ""
            return Decimal(compact) if typed(compact) else NOT_CANONICAL
        if type(given) is Decimal:
            return from_decimal(given)
        if type(given) is float or (type(given) is int and -_LARGE < given < _LARGE):
            text = str(given)
            return Decimal(text) if exact(text) else NOT_CANONICAL
        return NOT_CANONICAL

    return number


def _unit_looks_like_a_number(type_: NumberType) -> bool:
    """Whether taking the unit off may take a part of the number."""
    return type_.unit is not None and not _OF_NUMBERS.isdisjoint(type_.unit)


def _written_as(type_: NumberType, settings: ReadingSettings) -> re.Pattern[str]:
    # Where a comma is the decimal mark, a point groups thousands.
    return _written_to(0 if settings.decimal_mark == "comma" else type_.scale)


@cache
def _written_to(scale: int | None) -> re.Pattern[str]:
    """Plain digits, to so many after the point, the last of them no nought."""
    most = _DIGITS if scale is None else min(scale, _DIGITS)
    after = "" if most == 0 else rf"\.[0-9]{{0,{most - 1}}}[1-9]"
    whole = rf"-?[1-9][0-9]{{0,{_DIGITS - 1}}}"
    forms = [rf"{whole}(?:{after})?", f"-?0{after}", "0"] if after else [whole, "0"]
    return re.compile("|".join(forms), re.ASCII)


def _day(given: object) -> object:
    if type(given) is date:
        return given
    return _from_iso(given, _DAY, date.fromisoformat)


def _clock(given: object) -> object:
    return _from_iso(given, _CLOCK, time.fromisoformat)


def _instant(given: object) -> object:
    return _from_iso(given, _INSTANT, datetime.fromisoformat)


def _from_iso(given: object, form: re.Pattern[str], read: Callable[[str], object]) -> object:
    if type(given) is not str or not form.fullmatch(given):
        return NOT_CANONICAL
    try:
        return read(given)
    except ValueError:
        return NOT_CANONICAL


def _choices_of(codes: tuple[str, ...]) -> Quick:
    known = frozenset(code for code in codes if _stays(code))

    def choices(given: object) -> object:
        if type(given) not in (list, tuple) or len(given) > MAX_TICKED:  # type: ignore[arg-type]
            return NOT_CANONICAL
        if not all(type(one) is str and one in known for one in given):  # type: ignore[attr-defined]
            return NOT_CANONICAL
        ticked = frozenset(given)  # type: ignore[call-overload]
        return tuple(code for code in codes if code in ticked) or None

    return choices
