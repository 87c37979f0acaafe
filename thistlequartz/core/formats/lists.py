"""Codes from published lists: countries, currencies, languages, time zones, postal codes."""

import re
import zoneinfo
from functools import cache
from typing import Any

import pycountry

_POSTAL_CODES: dict[str, str] = {
    "AT": "[1-9][0-9]{3}",
    "AU": "[0-9]{4}",
    "BE": "[1-9][0-9]{3}",
    "CA": "[ABCEGHJ-NPRSTVXY][0-9][ABCEGHJ-NPRSTV-Z] ?[0-9][ABCEGHJ-NPRSTV-Z][0-9]",
    "CH": "[1-9][0-9]{3}",
    "CZ": "[0-9]{3} ?[0-9]{2}",
    "DE": "[0-9]{5}",
    "DK": "[0-9]{4}",
    "ES": "(0[1-9]|[1-4][0-9]|5[0-2])[0-9]{3}",
    "FI": "[0-9]{5}",
    "FR": "[0-9]{5}",
    "GB": "(GIR ?0AA|[A-Z]{1,2}[0-9][A-Z0-9]? ?[0-9][A-Z]{2})",
    "IE": "[AC-FHKNPRTV-Y][0-9][0-9W] ?[0-9AC-FHKNPRTV-Y]{4}",
    "IN": "[1-9][0-9]{2} ?[0-9]{3}",
    "IT": "[0-9]{5}",
    "JP": "[0-9]{3}-?[0-9]{4}",
    "NL": "[1-9][0-9]{3} ?[A-Z]{2}",
    "NO": "[0-9]{4}",
    "NZ": "[0-9]{4}",
    "PL": "[0-9]{2}-[0-9]{3}",
    "PT": "[0-9]{4}-[0-9]{3}",
    "SE": "[0-9]{3} ?[0-9]{2}",
    "US": "[0-9]{5}(-[0-9]{4})?",
}
"""By country: the shapes that the Universal Postal Union publishes (S42), from memory."""
POSTAL_COUNTRIES = frozenset(_POSTAL_CODES)


def _listed(database: Any, **code: str) -> bool:
    return database.get(**code) is not None


def country(text: str, _: str | None = None) -> str | None:
    """Why a text is not a country code of two letters."""
    if _listed(pycountry.countries, alpha_2=text) and text.isupper():
        return None
    return "It is not a country code of ISO 3166-1: write two capitals, such as NZ."


def country_alpha_3(text: str, _: str | None = None) -> str | None:
    """Why a text is not a country code of three letters."""
    if _listed(pycountry.countries, alpha_3=text) and text.isupper():
        return None
    return "It is not a country code of ISO 3166-1: write three capitals, such as NZL."


def subdivision(text: str, _: str | None = None) -> str | None:
    """Why a text is not the code of a state or province."""
    if _listed(pycountry.subdivisions, code=text) and text.isupper():
        return None
    return "It is not a code of ISO 3166-2: write it like CH-GR."


def currency(text: str, _: str | None = None) -> str | None:
    """Why a text is not a currency code."""
    if _listed(pycountry.currencies, alpha_3=text) and text.isupper():
        return None
    return "It is not a currency code of ISO 4217: write three capitals, such as CHF."


def language(text: str, _: str | None = None) -> str | None:
    """Why a text is not a language code of two or three letters."""
    code = {f"alpha_{len(text)}": text}
    if text.islower() and len(text) in (2, 3) and _listed(pycountry.languages, **code):
        return None
    return "It is not a language code of ISO 639: write two or three small letters, such as en."


@cache
def _zones() -> frozenset[str]:
    return frozenset(zoneinfo.available_timezones())


def time_zone(text: str, _: str | None = None) -> str | None:
    """Why a text is not the name of a time zone."""
    if text in _zones():
        return None
    return "It is not a time zone by name: write it like Europe/Zurich."


def postal_code(text: str, country_code: str | None) -> str | None:
    """Why a text is not a postal code of a country."""
    shape = _POSTAL_CODES.get(country_code or "")
    if shape is None or re.fullmatch(shape, text.upper()):
        return None
    return f"Postal codes of {country_code} are not written like this: compare it with a letter."
