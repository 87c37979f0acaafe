"""Named formats against two outside opinions each, on thousands of values.

The first is the npm package `validator`, the others are `validators`, `idutils`, `stdnum` and
Python's own `ipaddress` and `uuid`. Where both agree with one another, so do we, but for what the
standard itself says otherwise, which stands here with its clause.
"""

import ipaddress
import json
import random
import re
import string
import subprocess
from collections.abc import Callable
from pathlib import Path
from typing import Any

import idutils
import pytest
import validators
from hypothesis import given, settings
from hypothesis import strategies as st
from stdnum import bic, imei, isrc

from tests.examples import ALIKE, SEARCHING, few
from thistlequartz.core.formats import NAMED_FORMATS

HERE = Path(__file__).parent
VALUES = few(300)
"""Of each family."""


OTHERWISE = {
    # ISO 2108, clause 4.4: three or four parts with one sign between each two, all of them or none.
    "isbn": r"(?!(?:97[89][- ]?)?(?=(?:[- ]?\d){9}[- ]?[\dX]\Z)(?:\d{9}|\d+-\d+-\d+-|\d+ \d+ \d+ )[\dX]\Z).*[ -].*",
    # GS1 General Specifications, 2.1 and 4.14: twelve and fourteen digits too, spaced as in print.
    "ean": r"\d{12}|\d{14}|\d{4} \d{4}|\d \d{6} \d{6}|\d \d{5} \d{5} \d",
    # ISO 6166, clause 5.2: the prefix is a country's, or one that is named there.
    "isin": r"(?!US|GB)[A-Za-z]{2}.*",
    # ISO 9362:2014: the first four may be digits.
    "bic": r"(?=.{0,3}\d).*",
    # RFC 1034, clause 3.1: a name may end in the point of the root.
    "domain": r".*\.",
    # RFC 3986, clause 3.5: a fragment holds no “#”; hosts as above.
    "url": r".*#.*#.*|https?://[^/]*\.(?::\d+)?(?:/.*)?",
    # RFC 5322, clause 3.2.3: no point at an end of the local part, nor two together.
    "email": r"\.|.*\.@.*|.*\.\..*",
}
"""By format: the texts of which the standard says otherwise than both opinions, with its clause."""


FAMILIES: dict[str, tuple[list[Any], Callable[[str], Any], list[str]]] = {
    "isbn": (["isISBN"], idutils.is_isbn, ["978-0-306-40615-7", "0-306-40615-2", "080442957X"]),
    "issn": (["isISSN"], idutils.is_issn, ["0378-5955", "2434-561X"]),
    "ean": (["isEAN"], idutils.is_ean, ["73513537", "4006381333931"]),
    "iban": (["isIBAN"], validators.iban, ["GB82WEST12345698765432", "DE89370400440532013000"]),
    "bic": (["isBIC"], bic.is_valid, ["AGRIFRPP882", "DEUTDEFF"]),
    "isin": (["isISIN"], validators.isin, ["US0378331005", "GB0002634946"]),
    "mac": (["isMACAddress"], validators.mac_address, ["D0:50:99:84:A2:A0", "00-1b-63-84-45-e6"]),
    "uuid": (["isUUID", "loose"], validators.uuid, ["f81d4fae-7dec-11d0-a765-00a0c91e6bf6"]),
    "ipv4": (["isIP", 4], ipaddress.IPv4Address, ["192.0.2.17", "10.0.0.255"]),
    "ipv6": (["isIP", 6], ipaddress.IPv6Address, ["2001:db8::17", "::ffff:192.0.2.1", "fe80::1"]),
    "domain": (["isFQDN"], validators.domain, ["herbarium.example.org", "xn--bcher-kva.example"]),
    "email": (["isEmail"], validators.email, ["m.quist@example.org", "a+b@sub.example.org"]),
    "url": (["isURL", {"protocols": ["http", "https"], "require_protocol": True}],
            validators.url, ["https://example.org/a?b=c#d", "http://example.org:8080/x"]),
    "luhn": (["isLuhnNumber"], validators.card_number, ["79927398713", "4111111111111111"]),
    "isrc": (["isISRC"], isrc.is_valid, ["USSKG1912345"]),
    "imei": (["isIMEI", {"allow_hyphens": True}], imei.is_valid, ["49-015420-323751-8", "490154203237518"]),
    "country": (["isISO31661Alpha2"], lambda one: validators.country_code(one, iso_format="alpha2"), ["NZ", "CH"]),
    "country_alpha_3": (["isISO31661Alpha3"], lambda one: validators.country_code(one, iso_format="alpha3"), ["NZL"]),
    "currency": (["isISO4217"], validators.currency, ["CHF", "EUR"]),
}  # fmt: skip
"""By format: the function of `validator` with what it is given, the other opinion, and what is
begun from."""


def varied(seeds: list[str], draw: random.Random) -> str:
    """A text like one of the seeds: some signs changed, moved, dropped, doubled or put between."""
    text = draw.choice(seeds)
    for _ in range(draw.choice((0, 1, 1, 1, 2, 3))):
        at = draw.randrange(len(text) + 1) if text else 0
        sign = text[at : at + 1]
        match draw.randrange(6):
            case 0 if sign.isdigit():
                text = text[:at] + draw.choice(string.digits) + text[at + 1 :]
            case 1 if sign.isalpha():
                text = text[:at] + draw.choice(string.ascii_letters) + text[at + 1 :]
            case 2:
                text = text[:at] + text[at + 1 :]
            case 3:
                text = text[:at] + sign + text[at:]
            case 4:
                text = text[:at] + text[at + 1 : at + 2] + sign + text[at + 2 :]
            case _:
                text = text[:at] + draw.choice("-.: /_0X") + text[at:]
    return text


def takes(function: Callable[[str], Any], text: str) -> bool:
    """Whether a library takes a text: it answers or gives back something true, and raises nothing."""
    try:
        found = function(text)
    except ValueError:
        return False
    return bool(found)


@pytest.mark.parametrize("key", FAMILIES)
@settings(max_examples=8 if SEARCHING else 1, derandomize=ALIKE)
@given(seed=st.integers(0, 2**32))
def test_where_two_outside_opinions_agree_so_do_we(key, seed):
    asked, other, seeds = FAMILIES[key]
    draw = random.Random(seed)
    texts = sorted({varied(seeds, draw) for _ in range(VALUES)} | set(seeds))
    given = json.dumps([[asked[0], text, *asked[1:]] for text in texts])
    command = ["node", str(HERE / "validator.mjs")]
    answer = subprocess.run(command, input=given, capture_output=True, text=True, check=True)
    agreed, differ = set(), []
    for text, first in zip(texts, json.loads(answer.stdout), strict=True):
        if first != takes(other, text):
            continue
        agreed.add(first)
        ours = NAMED_FORMATS[key].why_not(text) is None
        if ours != first and not re.fullmatch(OTHERWISE.get(key, "(?!)"), text, re.DOTALL):
            differ.append((text, first))
    assert differ == []
    assert agreed == {True, False}
