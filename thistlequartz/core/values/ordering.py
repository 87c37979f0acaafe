"""Values as short texts that sort as the values do, for indexes over any type.

Texts sort by code point. Numbers are written as sign, exponent and digits, which sort as decimals
do (the exponent first, then the digits; turned round where negative). Dates, times and instants are
ISO 8601, all of one length. Values of different types have different first letters.
"""

from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from typing import Final

from .temporal import Months

LONGEST_ORDER_KEY: Final = 150
"""Characters; longer texts are cut, so that those that begin alike have one key."""
_MICROSECOND: Final = timedelta(microseconds=1)
_OFFSET = 10_000
"""More than any exponent of a decimal of 34 digits, so that all are written without a sign."""
_TURNED = str.maketrans("0123456789", "9876543210")
_LAST = "~"
"""Sorts after every digit, so that of two negative numbers the longer comes first."""


def order_key(value: object) -> str | None:
    """The key of any value that has an order, of a code and of yes and no; None for others."""
    match value:
        case bool():
            return f"b{value:d}"
        case str():
            return f"t{value}"[:LONGEST_ORDER_KEY]
        case Decimal():
            return f"n{_number(value)}"
        case datetime():
            if value.tzinfo is None:
                return None
            return f"i{value.astimezone(UTC).strftime('%Y-%m-%dT%H:%M:%S.%f').zfill(26)}"
        case date():
            return f"d{value.isoformat()}"
        case timedelta():
            return f"l{_number(Decimal(value // _MICROSECOND))}"
        case Months():
            return f"m{_number(Decimal(value.count))}"
        case time():
            return f"c{value.isoformat(timespec='microseconds')}"
        case _:
            return None


def is_cut(key: str) -> bool:
    """Whether other values may have the same key."""
    return len(key) == LONGEST_ORDER_KEY


def _number(value: Decimal) -> str:
    if not value:
        return "5"
    digits = "".join(map(str, value.as_tuple().digits)).lstrip("0").rstrip("0")
    exponent = f"{value.adjusted() + _OFFSET:05d}"
    if value > 0:
        return f"6{exponent}{digits}"
    return f"4{exponent.translate(_TURNED)}{digits.translate(_TURNED)}{_LAST}"
