"""The named formats: for each its standard, an example, and why a text does not fit.

The knowledge is in well-kept libraries; here stand the names, the standards and the words.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from stdnum import (
    casrn,
    cusip,
    damm,
    ean,
    figi,
    imo,
    isan,
    isbn,
    isin,
    ismn,
    isni,
    iso6346,
    iso11649,
    isrc,
    issn,
    lei,
    luhn,
    vatin,
    verhoeff,
)
from stdnum.iso7064 import (
    mod_11_2,
    mod_11_10,
    mod_37_2,
    mod_37_36,
    mod_97_10,
)

from thistlequartz.core.translation import tr

from . import internet, lists, telephone
from .check_digits import (
    SHAPES,
    bic_of_any_party,
    by_library,
    fifteen_digits,
    iban_of_any_country,
    library_code,
    mac_of_any_maker,
    orcid,
)
from .plain import why_not_plain

Why = Callable[[str, str | None], str | None]
"""From a text, and a country where the format needs one, to why it does not fit; None: it does."""


@dataclass(frozen=True, slots=True)
class NamedFormat:
    """One format that people know by name."""

    key: str
    label: str
    standard: str
    example: str
    rule: Why
    needs_country: bool = False
    """Whether it is judged by the rules of one country (ISO 3166-1 alpha-2)."""
    examples: Callable[[], Mapping[str, str]] = dict
    """By country: an example of its own, where the format is known."""

    def example_in(self, country: str | None) -> str:
        """An example, of a country where the format is judged by its rules."""
        return self.examples().get(country or "", self.example)

    def why_not(self, text: str, country: str | None = None) -> str | None:
        """Why a text does not fit; None: it does."""
        return why_not_plain(text) or self.rule(text, country)


def _digits(
    key: str, label: str, standard: str, example: str, module: Any, check: slice | None = None
) -> NamedFormat:
    """A format that a module of python-stdnum knows; `check` is where its check digits stand."""
    return NamedFormat(
        key, label, standard, example, by_library(module, label, example, check, SHAPES.get(key))
    )


_LAST = slice(-1, None)
_LAST_TWO = slice(-2, None)
_AFTER_LETTERS = slice(2, 4)

_ALL = (
    # writing to people
    NamedFormat("email", tr("e-mail address"), "RFC 5321, RFC 5322", "m.quist@example.org",
                internet.email),
    NamedFormat("phone_international", tr("telephone number with country"), "ITU-T E.164",
                "+44 20 7946 0958", telephone.international),
    NamedFormat("phone_national", tr("national telephone number"), "ITU-T E.164, national plans",
                "020 7946 0958", telephone.national, needs_country=True,
                examples=telephone.examples),
    NamedFormat("postal_code", tr("postal code"), tr("Universal Postal Union S42"), "EC1A 1BB",
                lists.postal_code, needs_country=True, examples=lists.postal_examples),
    # the network
    NamedFormat("url", tr("web address"), "RFC 3986", "https://example.org/herbarium",
                internet.url),
    NamedFormat("domain", tr("domain name"), "RFC 1123", "herbarium.example.org", internet.domain),
    NamedFormat("ipv4", tr("IPv4 address"), "RFC 791", "192.0.2.17", internet.ipv4),
    NamedFormat("ipv6", tr("IPv6 address"), "RFC 4291", "2001:db8::17", internet.ipv6),
    NamedFormat("uuid", "UUID", "RFC 9562", "f81d4fae-7dec-11d0-a765-00a0c91e6bf6", internet.uuid),
    _digits("mac", tr("MAC address"), "IEEE 802", "D0:50:99:84:A2:A0", mac_of_any_maker),
    # money and trade
    _digits("iban", "IBAN", "ISO 13616", "GB82 WEST 1234 5698 7654 32",
            iban_of_any_country, _AFTER_LETTERS),
    _digits("bic", "BIC", "ISO 9362", "AGRIFRPP882", bic_of_any_party),
    _digits("creditor_reference", tr("creditor reference"), "ISO 11649", "RF18 5390 0754 7034",
            iso11649, _AFTER_LETTERS),
    _digits("lei", "LEI", "ISO 17442", "213800KUD8LAJWSQ9D15", lei, _LAST_TWO),
    _digits("isin", "ISIN", "ISO 6166", "US0378331005", isin, _LAST),
    _digits("cusip", "CUSIP", "ANSI X9.6", "037833100", cusip, _LAST),
    _digits("figi", "FIGI", "ANSI X9.145", "BBG000BLNNH6", figi, _LAST),
    _digits("vat", tr("VAT number with country"), tr("national tax law"), "ATU57194903", vatin),
    _digits("ean", tr("EAN or GTIN"), tr("GS1 General Specifications"), "73513537", ean, _LAST),
    _digits("container", tr("container number"), "ISO 6346", "CSQU3054383", iso6346, _LAST),
    # books, works, people
    _digits("isbn", "ISBN", "ISO 2108", "978-0-306-40615-7", isbn, _LAST),
    _digits("issn", "ISSN", "ISO 3297", "0378-5955", issn, _LAST),
    _digits("ismn", "ISMN", "ISO 10957", "979-0-2600-0043-8", ismn, _LAST),
    _digits("isan", "ISAN", "ISO 15706", "0000-0000-D07A-0090-Q", isan),
    _digits("isrc", "ISRC", "ISO 3901", "US-SKG-19-12345", isrc),
    _digits("isil", tr("library code (ISIL)"), "ISO 15511", "IT-RM0267", library_code),
    NamedFormat("orcid", "ORCID", "ISO 7064 MOD 11-2", "0000-0002-1825-0097", orcid),
    _digits("isni", "ISNI", "ISO 27729", "0000 0001 2281 955X", isni, _LAST),
    NamedFormat("doi", "DOI", "ISO 26324", "10.1000/182", internet.doi),
    # things and substances
    _digits("casrn", tr("CAS number"), tr("CAS Registry"), "7732-18-5", casrn, _LAST),
    _digits("imei", "IMEI", "3GPP TS 23.003", "49-015420-323751-8",
            fifteen_digits, _LAST),
    _digits("imo", tr("ship number (IMO)"), "IMO Resolution A.1117(30)", "IMO 9319466", imo, _LAST),
    # families of check digits
    _digits("luhn", tr("Luhn number"), "ISO/IEC 7812-1", "79927398713", luhn, _LAST),
    _digits("verhoeff", tr("Verhoeff number"), "Verhoeff 1969", "2363", verhoeff, _LAST),
    _digits("damm", tr("Damm number"), "Damm 2004", "5724", damm, _LAST),
    _digits("mod_11_2", tr("number checked by MOD 11-2"), "ISO 7064", "07940", mod_11_2, _LAST),
    _digits("mod_37_2", tr("number checked by MOD 37-2"), "ISO 7064", "G123489654321Y",
            mod_37_2, _LAST),
    _digits("mod_97_10", tr("number checked by MOD 97-10"), "ISO 7064",
            "9999123456789012141490", mod_97_10, _LAST_TWO),
    _digits("mod_11_10", tr("number checked by MOD 11,10"), "ISO 7064", "07945", mod_11_10, _LAST),
    _digits("mod_37_36", tr("number checked by MOD 37,36"), "ISO 7064", "A12425GABC1234002M",
            mod_37_36, _LAST),
    # codes of lists
    NamedFormat("country", tr("country code"), "ISO 3166-1 alpha-2", "NZ", lists.country),
    NamedFormat("country_alpha_3", tr("country code of three letters"), "ISO 3166-1 alpha-3", "NZL",
                lists.country_alpha_3),
    NamedFormat("subdivision", tr("code of a state or province"), "ISO 3166-2", "CH-GR",
                lists.subdivision),
    NamedFormat("currency", tr("currency code"), "ISO 4217", "CHF", lists.currency),
    NamedFormat("language", tr("language code"), "ISO 639-1 or 639-3", "en", lists.language),
    NamedFormat("time_zone", tr("time zone"), tr("IANA Time Zone Database"), "Europe/Zurich",
                lists.time_zone),
)  # fmt: skip

NAMED_FORMATS: dict[str, NamedFormat] = {named.key: named for named in _ALL}
