"""Addresses of the network."""

import ipaddress
import re
import uuid as standard_uuid
from urllib.parse import urlsplit

from email_validator import EmailNotValidError, validate_email

from thistlequartz.core.translation import later, tr

_LABEL = re.compile(r"(?!-)[A-Za-z0-9-]{1,63}(?<!-)")
_TOP = re.compile(r"[A-Za-z]{2,63}|[Xx][Nn]--[A-Za-z0-9-]{1,59}")
"""The last label is alphabetic (RFC 1123, clause 2.1), or the ASCII form of one that is."""
_DOI = re.compile(r"10\.[0-9]{4,9}(\.[0-9]+)*/\S+")
_URL = re.compile(r"(?:[A-Za-z0-9._~:/?#\[\]@!$&'()*+,;=-]|%[0-9A-Fa-f]{2})+")
"""What can stand in a URI (RFC 3986, clause 2)."""
_UUID = re.compile(r"[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}")
_LONGEST_DOMAIN = 253
LIBRARY_REASONS = (
    later("An email address must have an @-sign."),
    later("There must be something before the @-sign."),
    later("There must be something after the @-sign."),
    later("An email address cannot have two periods in a row."),
    later("An email address cannot start with a period."),
    later("An email address cannot have a period immediately before the @-sign."),
    later("An email address cannot have a period immediately after the @-sign."),
    later("An email address cannot end with a period."),
    later("There can't be anything after the email address."),
    later("The email address contains an invalid character."),
    later("The part after the @-sign is not valid. It should have a period."),
    later("The part after the @-sign is not valid. It is not within a valid top-level domain."),
)
"""What the library says most; what it says with parts of the text in it stays in English."""


def email(text: str, _: str | None = None) -> str | None:
    """Why a text is not an e-mail address; whether anybody reads it is not asked."""
    try:
        validate_email(
            text,
            check_deliverability=False,
            strict=True,
            allow_quoted_local=True,
            allow_domain_literal=True,
        )
        host = text.rpartition("@")[2]
        if host.isascii() and not host.startswith("["):
            return domain(host)
    except EmailNotValidError as error:
        reason = tr(str(error)).rstrip(".")
        return tr("{reason}: write it like m.quist@example.org.", reason=reason)
    return None


def domain(text: str, _: str | None = None) -> str | None:
    """Why a text is not a domain name."""
    labels = text.removesuffix(".").split(".")
    fits = len(text) <= _LONGEST_DOMAIN and len(labels) > 1 and _TOP.fullmatch(labels[-1])
    if fits and all(_LABEL.fullmatch(one) for one in labels):
        return None
    return tr("A domain name is words joined by points: write it like herbarium.example.org.")


def url(text: str, _: str | None = None) -> str | None:
    """Why a text is not the address of a web page."""
    try:
        parts = urlsplit(text)
        host = parts.hostname or ""
        port = parts.port
    except ValueError:
        return tr("Its host or port cannot be read: write it like https://example.org/herbarium.")
    if port == 0:
        return tr("Nothing answers at port 0: write another, or remove it.")
    if parts.netloc.endswith(":"):
        return tr("Its port is missing after the colon: write it, or take the colon out.")
    if "#" in parts.fragment:
        return tr("A second “#” stands in it: write %23 for it.")
    if parts.scheme not in ("http", "https"):
        return tr("A web address begins with https:// or http://: add it.")
    if any(character.isspace() for character in text):
        return tr("A web address has no spaces: write %20 in their place.")
    if not _URL.fullmatch(text):
        return tr(
            'It has a character that web addresses write as % and two hex digits: “%22” for “"”.'
        )
    if host == "localhost" or domain(host) is None or ipv4(host) is None or ipv6(host) is None:
        return None
    return tr("Its host is not a domain name or an IP address: write it like https://example.org/.")


def ipv4(text: str, _: str | None = None) -> str | None:
    """Why a text is not an IPv4 address."""
    try:
        ipaddress.IPv4Address(text)
    except ValueError:
        return tr("An IPv4 address is four numbers from 0 to 255: write it like 192.0.2.17.")
    return None


def ipv6(text: str, _: str | None = None) -> str | None:
    """Why a text is not an IPv6 address."""
    try:
        zone = ipaddress.IPv6Address(text).scope_id
    except ValueError:
        return tr(
            "An IPv6 address is up to eight groups of hex digits: write it like 2001:db8::17."
        )
    return (
        tr("An address that others can reach has no zone: leave out what follows %.")
        if zone
        else None
    )


def uuid(text: str, _: str | None = None) -> str | None:
    """Why a text is not a UUID."""
    if _UUID.fullmatch(text):
        standard_uuid.UUID(text)
        return None
    return tr("A UUID is 32 hex digits in groups of 8, 4, 4, 4 and 12, joined by hyphens.")


def doi(text: str, _: str | None = None) -> str | None:
    """Why a text is not a DOI."""
    if _DOI.fullmatch(text):
        return None
    return tr("A DOI begins with 10., a number and a slash: write it like 10.1000/182.")
