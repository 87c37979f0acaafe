"""Telephone numbers, by the numbering plans that the library phonenumbers keeps."""

import re
from functools import cache

import phonenumbers

from thistlequartz.core.translation import tr

from .lists import COUNTRIES

_DIALLED = re.compile(r"\+?[0-9\s().\u2010-\u2015/-]+(?:(?:ext\.?|x|#|;ext=)\s*[0-9]{1,11})?", re.I)
"""With an extension of up to eleven digits, which is the most that exchanges have (E.164)."""
_TOO = {
    phonenumbers.ValidationResult.TOO_SHORT: tr("It has too few digits: look for a missing one."),
    phonenumbers.ValidationResult.TOO_LONG: tr("It has too many digits: look for one too many."),
    phonenumbers.ValidationResult.INVALID_COUNTRY_CODE: tr("Its country code is not in use."),
}


def international(text: str, _: str | None = None) -> str | None:
    """Why a text is not a telephone number with its country (ITU-T E.164)."""
    if not text.startswith("+"):
        return tr("It must begin with + and the country code: write it like +44 20 7946 0958.")
    return _why_not(text, None)


def national(text: str, country: str | None) -> str | None:
    """Why a text is not a telephone number as it is dialled within a country."""
    return _why_not(text, country)


@cache
def examples() -> dict[str, str]:
    """By country: a number as it is dialled there, from the library."""
    found = {country: phonenumbers.example_number(country) for country in COUNTRIES}
    national = phonenumbers.PhoneNumberFormat.NATIONAL
    return {
        country: phonenumbers.format_number(number, national)
        for country, number in found.items()
        if number is not None
    }


def _why_not(text: str, country: str | None) -> str | None:
    if not _DIALLED.fullmatch(text):
        return tr(
            "A telephone number is digits, spaces and marks, and at most an extension: ext. 12."
        )
    try:
        number = phonenumbers.parse(text, country)
    except phonenumbers.NumberParseException as error:
        if error.error_type == phonenumbers.NumberParseException.TOO_LONG:
            return tr("It has too many digits: look for one too many.")
        return tr("This is not a telephone number: write digits, with spaces where they help.")
    length = phonenumbers.is_possible_number_with_reason(number)
    if length in _TOO:
        return _TOO[length]
    if country and phonenumbers.country_code_for_region(country) != number.country_code:
        return tr(
            "It belongs to another country than {country}: write it as dialled there.",
            country=country,
        )
    if not phonenumbers.is_valid_number(number):
        return tr("No such number is given out there: compare it digit by digit.")
    return None
