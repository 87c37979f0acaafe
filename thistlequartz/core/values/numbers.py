"""Reading numbers as people type them: spaces, thousands marks, currency signs and units."""

import re
import unicodedata
from decimal import ROUND_HALF_EVEN, Context, Decimal
from math import isfinite
from typing import Final

from thistlequartz.core.translation import tr

from .fault import Fault, quoted
from .reading_settings import DecimalMark

MAX_DIGITS = 34
"""Significant digits of a number: IEEE 754 decimal128."""
TOO_MANY_DIGITS = Fault(
    tr("This number has more than {max_digits} digits: shorten it.", max_digits=MAX_DIGITS)
)
_LONGEST = MAX_DIGITS * 4
"""Characters of a number that are looked at."""
_EXACT = Context(prec=MAX_DIGITS * 2)
ARITHMETIC: Final = Context(
    prec=MAX_DIGITS, rounding=ROUND_HALF_EVEN, Emin=-6143, Emax=6144, clamp=1, traps=[]
)
"""IEEE 754 decimal128, as DMN 1.4 clause 10.3.2.3.1 asks; nothing traps."""
_PLAIN = re.compile(r"[+-]?(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)")
_GROUPS = r"[+-]?[1-9][0-9]{0,2}(?:\M[0-9]{3})+"
"""A group never begins with nought: 0.125 is no 125."""
_APOSTROPHES = str.maketrans("", "", "'’ʼ")
_MARKS: dict[DecimalMark, tuple[str, str]] = {"point": (".", ","), "comma": (",", ".")}
"""Each decimal mark with the mark of thousands that goes with it."""


def read_number(
    given: object, scale: int | None, unit: str | None, mark: DecimalMark | None
) -> Decimal | Fault:
    """An exact decimal with at most `scale` digits after the point, or a fault."""
    if isinstance(given, bool):
        return Fault(tr("A number is expected here, not yes or no: write digits, such as 12."))
    if isinstance(given, Decimal):
        number: Decimal | Fault = given
    elif isinstance(given, str):
        number = _from_text(given, scale, unit, mark)
    elif isinstance(given, int) or (isinstance(given, float) and isfinite(given)):
        number = Decimal(str(given))  # what JSON wrote, as 1e-05 for 0.00001
    else:
        number = Fault(
            tr("{given} is not a number: write digits, such as 12 or 0.5.", given=quoted(given))
        )
    if isinstance(number, Fault):
        return number
    if not number.is_finite() or number.adjusted() >= MAX_DIGITS or _digits(number) > MAX_DIGITS:
        return TOO_MANY_DIGITS
    return _fit_to_scale(number, scale)


def _digits(number: Decimal) -> int:
    """Digits needed to write the number without an exponent."""
    _, digits, exponent = number.as_tuple()
    assert isinstance(exponent, int)
    return max(len(digits) + max(exponent, 0), -exponent)


def _from_text(
    text: str, scale: int | None, unit: str | None, mark: DecimalMark | None
) -> Decimal | Fault:
    bare = _without_unit(text, unit)
    compact = "".join(bare.split())
    if compact.isascii():
        compact = compact.replace("'", "")
    else:
        compact = compact.replace("−", "-").translate(_APOSTROPHES)
    if mark != "comma" and "," not in compact and _PLAIN.fullmatch(compact):
        # A point alone is the decimal mark of stored values, unless the field says otherwise.
        return TOO_MANY_DIGITS if len(compact) > _LONGEST else Decimal(compact)
    readings = dict.fromkeys(
        read for one in ((mark,) if mark else _MARKS) if (read := _by_mark(compact, one))
    )
    if not readings and mark == "comma" and _PLAIN.fullmatch(compact):
        other = compact.replace(".", ",")
        return Fault(
            tr(
                "{text} is not a number here: write a comma, as in {other}.",
                text=quoted(text),
                other=other,
            )
        )
    if not readings:
        return Fault(
            tr("{text} is not a number: write digits, such as 12 or 0.5.", text=quoted(text))
        )
    if len(readings) > 1 and scale == 0:
        # Nobody writes three noughts after the point of a whole number: the comma groups.
        readings = {min(readings, key=lambda read: "." in read): None}
    if len(readings) > 1:
        shown = tr(" or as ").join(readings)
        return Fault(
            tr(
                "{text} can be read as {shown}: write it without a comma.",
                text=quoted(text),
                shown=shown,
            )
        )
    (only,) = readings
    if len(only) > _LONGEST:
        return TOO_MANY_DIGITS
    return Decimal(only)


def _without_unit(text: str, unit: str | None) -> str:
    if text.isascii():
        text = text.replace("$", "").strip()  # the one sign of a currency in ASCII
    else:
        text = "".join(c for c in text if unicodedata.category(c) != "Sc").strip()
    if unit:
        for cut in (text.removesuffix(unit), text.removeprefix(unit)):
            if cut != text:
                return cut
    return text


def _by_mark(compact: str, mark: DecimalMark) -> str | None:
    """The number in plain digits and a point, read by one decimal mark; None where it is none."""
    decimal, thousands = _MARKS[mark]
    whole, found, fraction = compact.partition(decimal)
    if thousands in whole:
        if not re.fullmatch(_GROUPS.replace("M", thousands), whole):
            return None
        whole = whole.replace(thousands, "")
    plain = f"{whole}.{fraction}" if found else whole
    return plain if _PLAIN.fullmatch(plain) else None


def _fit_to_scale(number: Decimal, scale: int | None) -> Decimal | Fault:
    number = number.normalize(_EXACT)
    exponent = number.as_tuple().exponent
    assert isinstance(exponent, int)
    if number == 0 or exponent > 0:
        number = Decimal(int(number))
    if scale is not None and -exponent > scale:
        if scale == 0:
            return Fault(
                tr(
                    "{number} is not a whole number: leave out what follows the point.",
                    number=number,
                )
            )
        return Fault(
            tr(
                "{number} has more than {scale} digits after the point: round it.",
                number=number,
                scale=scale,
            )
        )
    return number
