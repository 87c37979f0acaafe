"""Addresses to which messages can be sent."""

from email.errors import MessageError
from email.utils import formataddr

from django.core.mail import EmailMessage

from thistlequartz.core.formats import NAMED_FORMATS
from thistlequartz.core.translation import tr
from thistlequartz.server.problems import ProblemItem, Refusal


def address_fault(address: str) -> str | None:
    """Why nothing can be sent to an address; None: it can."""
    if any(not one.isprintable() or one.isspace() for one in address):
        return tr("An address has no spaces in it, and stands in one line.")
    return NAMED_FORMATS["email"].why_not(address) or _mail_fault(address)


def _mail_fault(address: str) -> str | None:
    """Why no mail can be written to an address, by the library that writes them."""
    try:
        EmailMessage("", "", "from@example.org", [formataddr(("", address))]).message().as_bytes()
    except (ValueError, LookupError, MessageError):  # UnicodeError is a ValueError
        return tr("No mail can be written to this address: write it in plain letters and signs.")
    return None


def refuse_unfit_address(address: str) -> None:
    """Raise a Refusal (422) where an account's address is none; blank is allowed."""
    fault = address_fault(address) if address else None
    if fault:
        said = tr("“{address}” is no e-mail address.", address=address[:80])
        raise Refusal(
            422,
            "no-address",
            said,
            tr("{fault} Or leave it blank: then no messages arrive.", fault=fault),
            [ProblemItem(place="email", message=said, remedy=fault)],
        )
