"""Numbers with check digits: judged by python-stdnum, explained here."""

import re
from collections.abc import Callable
from itertools import product
from types import SimpleNamespace
from typing import Any

from stdnum import iban, imei, isil, mac
from stdnum.exceptions import (
    InvalidChecksum,
    InvalidComponent,
    InvalidFormat,
    InvalidLength,
    ValidationError,
)
from stdnum.iso7064 import mod_11_2

from thistlequartz.core.translation import tr, tr_count

from . import lists

_ALPHABET = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ*"
_ORCID = re.compile(r"[0-9]{4}-[0-9]{4}-[0-9]{4}-[0-9]{3}[0-9X]")
_ISIL = re.compile(r"[A-Za-z0-9]{1,4}-[A-Za-z0-9:/-]{1,11}")
_BIC = re.compile(r"[A-Z0-9]{4}([A-Z]{2})[A-Z0-9]{2}(?:[A-Z0-9]{3})?")
_BIC_LENGTHS = (8, 11)
_KOSOVO = "XK"
"""Used by banks, and no code of ISO 3166-1."""
_IMEI_DIGITS = 15
_SHORTEST = 3
"""Characters below which a check digit says nothing."""
MAX_LENGTH = 100
"""Characters of any number with check digits."""


SHAPES = {
    "isbn": r"(?:97[89][- ]?)?(?=(?:[- ]?[0-9]){9}[- ]?[0-9X]\Z)"
    r"(?:[0-9]{9}|[0-9]+(?:-[0-9]+){2}-|[0-9]+(?: [0-9]+){2} )[0-9X]",
    "ean": r"[0-9]{8}|[0-9]{12,14}|"
    r"[0-9]{4} [0-9]{4}|[0-9] [0-9]{6} [0-9]{6}|[0-9](?: [0-9]{5}){2} [0-9]",
    "issn": r"[0-9]{4}-?[0-9]{3}[0-9X]",
    "iban": r"[A-Z]{2}[0-9]{2}(?:[A-Z0-9]{11,30}|(?: [A-Z0-9]{4}){2,7}(?: [A-Z0-9]{1,4})?)",
    "lei": r"[A-Z0-9]{18}[0-9]{2}",
    "isin": r"[A-Z]{2}[A-Z0-9]{9}[0-9]",
    "casrn": r"[0-9]{2,7}-[0-9]{2}-[0-9]",
    "container": r"[A-Z]{3}[UJZ] ?[0-9]{6} ?[0-9]",
    "mac": r"(?:[0-9A-F]{2}(?::[0-9A-F]{2}){5}|[0-9A-F]{2}(?:-[0-9A-F]{2}){5})",
}
"""How some numbers are written, capitals or not: the library takes signs between them anywhere."""


def by_library(
    module: Any, label: str, example: str, check: slice | None, shape: str | None = None
) -> Callable[[str, str | None], str | None]:
    """Why a text is not the number that `module` of python-stdnum knows, written in a `shape`."""
    compact = getattr(module, "compact", str)
    written = re.compile(shape, re.IGNORECASE | re.ASCII) if shape else None

    def why_not(text: str, _: str | None = None) -> str | None:
        if len(text) > MAX_LENGTH:
            return tr(
                "It is too long for {with_article}: write it like {example}.",
                with_article=with_article(label),
                example=example,
            )
        try:
            module.validate(text)
            if written and not written.fullmatch(text):
                return tr("Its parts are not written so: write it like {example}.", example=example)
        except InvalidLength:
            there, wanted = len(compact(text)), len(compact(example))
            return tr_count(
                "It has {count} character; {example} has {wanted}. Look for one too many or few.",
                "It has {count} characters; {example} has {wanted}. Look for one too many or few.",
                there,
                example=example,
                wanted=wanted,
            )
        except InvalidChecksum:
            return _expected(module, compact(text), check) or (
                tr("Its check digits do not fit the rest: look for a slip in copying.")
            )
        except InvalidFormat:
            return tr(
                "Some of it cannot stand in {with_article}: write it like {example}.",
                with_article=with_article(label),
                example=example,
            )
        except InvalidComponent:
            return tr("A part of it is not in use: compare it with {example}.", example=example)
        except (ValidationError, ValueError, IndexError, KeyError):
            return tr(
                "It is not {with_article}: write it like {example}.",
                with_article=with_article(label),
                example=example,
            )
        return None

    return why_not


def _compact_bic(text: str) -> str:
    return text.strip().upper()


def _validate_bic(text: str) -> str:
    """ISO 9362:2014: four letters or digits, a country, two of a place, three of a branch."""
    found = _BIC.fullmatch(_compact_bic(text))
    if len(_compact_bic(text)) not in _BIC_LENGTHS:
        raise InvalidLength
    if not found:
        raise InvalidFormat
    if found[1] != _KOSOVO and lists.country(found[1]) is not None:
        raise InvalidComponent
    return _compact_bic(text)


bic_of_any_party = SimpleNamespace(compact=_compact_bic, validate=_validate_bic)
mac_of_any_maker = SimpleNamespace(
    compact=mac.compact, validate=lambda text: mac.validate(text, validate_manufacturer=False)
)
iban_of_any_country = SimpleNamespace(
    compact=iban.compact,
    # The registry's own examples do not all keep the check digits that a country has besides.
    validate=lambda text: iban.validate(text, check_country=False),
)
"""ISO 13616 alone, without what national banks ask further."""


def _fifteen_digits(text: str) -> str:
    if len(imei.compact(text)) != _IMEI_DIGITS:
        raise InvalidLength
    number: str = imei.validate(text)
    return number


fifteen_digits = SimpleNamespace(compact=imei.compact, validate=_fifteen_digits)
"""An IMEI with its check digit, and no software version (3GPP TS 23.003, clause 6.2)."""


def _library_code(text: str) -> str:
    if not _ISIL.fullmatch(isil.compact(text)):
        raise InvalidFormat
    code: str = isil.validate(text)
    return code


library_code = SimpleNamespace(compact=isil.compact, validate=_library_code)
"""ISO 15511: a prefix, a hyphen, and at least one character of the library's own."""
_SPOKEN_AS_WORDS = ("FIGI", "MAC")
"""Capitals that are not spelt out when they are spoken."""


def with_article(label: str) -> str:
    """“an IBAN”, “a UUID”, “a MAC address”: by how the beginning is spoken."""
    word = label.split(maxsplit=1)[0]
    spelt = word.isupper() and word not in _SPOKEN_AS_WORDS
    spoken = "AEFHILMNORSX" if spelt else "AEIOaeio"
    return tr("an {label}", label=label) if word[0] in spoken else tr("a {label}", label=label)


def _expected(module: Any, number: str, check: slice | None) -> str | None:
    """Which check digits would fit, found by trying them all."""
    if check is None or len(number) < _SHORTEST:
        return None
    begin, end, _ = check.indices(len(number))
    alphabet = _ALPHABET if end - begin == 1 else _ALPHABET[:10]
    for tried in product(alphabet, repeat=end - begin):
        digits = "".join(tried)
        try:
            module.validate(number[:begin] + digits + number[end:])
        except (ValidationError, ValueError, IndexError, KeyError):
            continue
        return tr_count(
            "If the rest is right, the check digit should be {digits}: compare each character.",
            "If the rest is right, the check digits should be {digits}: compare each character.",
            len(digits),
            digits=digits,
        )
    return None


def orcid(text: str, _: str | None = None) -> str | None:
    """Why a text is not an ORCID: sixteen characters in fours, the last by ISO 7064 MOD 11-2."""
    if not _ORCID.fullmatch(text):
        return tr(
            "An ORCID is four groups of four with hyphens: write it like 0000-0002-1825-0097."
        )
    number = text.replace("-", "")
    if mod_11_2.is_valid(number):
        return None
    return _expected(mod_11_2, number, slice(-1, None))
