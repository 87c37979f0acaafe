"""Looking into the outbox: all that goes out of a form, or what has arrived for somebody."""

import email
import email.policy
from dataclasses import dataclass
from email.message import EmailMessage
from typing import Final

from django.db.models import QuerySet
from django.http import Http404

from thistlequartz.server.people.models import Person

from .models import Delivery, Mail, OutgoingMessage

PAGE: Final = 50


@dataclass(frozen=True, slots=True)
class RenderedMail:
    """A mail as its receiver reads it."""

    headers: list[tuple[str, str]]
    text: str
    page: str


def messages_of(form_key: str, state: str, search: str) -> QuerySet[OutgoingMessage]:
    """What was to be said of records of a form, the newest first."""
    found = OutgoingMessage.objects.filter(form__key=form_key).select_related("template")
    if state:
        found = found.filter(state=state)
    if search:
        found = found.filter(subject__icontains=search)
    return found


def box_of(address: str) -> QuerySet[Delivery]:
    """What has arrived for an address, the newest first."""
    return Delivery.objects.filter(address=address.lower()).select_related("mail")


def letter_of_message(message: OutgoingMessage) -> RenderedMail | None:
    """The mail that was made of a message, once it has gone out."""
    mail = Mail.objects.filter(message_id=message.message_id).first()
    return _letter(mail) if mail else None


def letter_for(person: Person, pk: int) -> RenderedMail:
    """A mail that has arrived for somebody; raises Http404."""
    found = box_of(person.email).filter(pk=pk).first() if person.email else None
    if found is None:
        raise Http404(pk)
    return _letter(found.mail)


_SHOWN: Final = ("From", "To", "Cc", "Reply-To", "Subject", "Date")


def _letter(mail: Mail) -> RenderedMail:
    read = email.message_from_bytes(bytes(mail.raw), policy=email.policy.default)
    assert isinstance(read, EmailMessage)
    parts = {kind: read.get_body((kind,)) for kind in ("plain", "html")}
    plain, page = (str(one.get_content()) if one else "" for one in parts.values())
    # A long header begins on its second line.
    headers = [(name, str(read[name]).strip()) for name in _SHOWN if read[name]]
    return RenderedMail(headers, plain, page)
