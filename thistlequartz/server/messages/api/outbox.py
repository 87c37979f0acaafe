"""The outbox: what went out of a form, and what has arrived for whoever looks."""

from datetime import datetime
from typing import Annotated, Literal, cast

from django.http import Http404, HttpRequest
from ninja import Query, Router
from pydantic import BaseModel, Field

from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.messages.search import (
    PAGE,
    box_of,
    letter_for,
    letter_of_message,
    messages_of,
)
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.records.events import Occasion

from ..composing import headers_of
from ..models import Delivery, OutgoingMessage
from ..sending import send_again
from .templates import RenderedMailView, letter_view

router = Router()
State = Literal["waiting", "sent", "failed"]


class OutboxFilter(BaseModel):
    """Which messages are wanted."""

    state: State | Literal[""] = ""
    search: Annotated[str, Field(max_length=200)] = ""
    offset: Annotated[int, Field(ge=0, le=10_000_000)] = 0


class MessageLine(BaseModel):
    """A message that is to be sent, or was."""

    id: int
    name: str
    """Of what it was written by; blank where that is gone."""
    number: int
    """Of the record."""
    occasion: Occasion
    to: list[str]
    subject: str
    state: State
    trouble: str
    attempts: int
    next_at: datetime | None
    """When it is tried again."""
    written_at: datetime
    sent_at: datetime | None


class OutboxPage(BaseModel):
    """Some messages, and whether there are more."""

    messages: list[MessageLine]
    more: bool


class MessageDetails(BaseModel):
    """A message with all it says, as its receivers get it."""

    line: MessageLine
    letter: RenderedMailView


class InboxLine(BaseModel):
    """A mail in one's own box."""

    id: int
    sender: str
    subject: str
    sent_at: datetime


class InboxPage(BaseModel):
    """What has arrived for whoever looks."""

    address: str
    """Blank: the account has none, so nothing can arrive."""
    mails: list[InboxLine]
    more: bool


def _line(message: OutgoingMessage) -> MessageLine:
    return MessageLine(
        id=message.pk,
        name=message.template.name if message.template else "",
        number=message.number,
        occasion=cast(Occasion, message.occasion),
        to=[name or address for name, address in message.to],
        subject=message.subject,
        state=cast(State, message.state),
        trouble=message.trouble,
        attempts=message.attempts,
        next_at=message.again_at,
        written_at=message.written_at,
        sent_at=message.sent_at,
    )


@router.get("/forms/{form_key}/outbox", response={200: OutboxPage})
def list_messages(request: HttpRequest, form_key: str, asked: Query[OutboxFilter]) -> OutboxPage:
    """What was to be said of records of a form, the newest first, fifty at a time."""
    person_with(request, Right.WATCH)
    get_draft(form_key)
    found = messages_of(form_key, asked.state, asked.search)
    some = list(found[asked.offset : asked.offset + PAGE + 1])
    return OutboxPage(messages=[_line(one) for one in some[:PAGE]], more=len(some) > PAGE)


@router.get("/forms/{form_key}/outbox/{message_id}", response={200: MessageDetails})
def show_message(request: HttpRequest, form_key: str, message_id: int) -> MessageDetails:
    """A message as its receivers see it, or would."""
    person_with(request, Right.WATCH)
    message = messages_of(form_key, "", "").filter(pk=message_id).first()
    if message is None:
        raise Http404(message_id)
    letter = letter_of_message(message)
    if letter is not None:
        view = letter_view(letter.headers, letter.text, letter.page)
    else:
        headers = headers_of(message.to, message.copies, message.reply_to, message.subject)
        view = letter_view(headers, message.text, message.page)
    return MessageDetails(line=_line(message), letter=view)


@router.post("/forms/{form_key}/outbox/{message_id}/again", response={200: MessageLine})
def try_again(request: HttpRequest, form_key: str, message_id: int) -> MessageLine:
    """Have a message that could not be sent tried again."""
    return _line(send_again(person_with(request, Right.RELEASE), form_key, message_id))


class InboxFilter(BaseModel):
    """Which part of one's box is wanted."""

    offset: Annotated[int, Field(ge=0, le=10_000_000)] = 0


@router.get("/box", response={200: InboxPage})
def list_box(request: HttpRequest, asked: Query[InboxFilter]) -> InboxPage:
    """What has arrived for whoever asks, the newest first, fifty at a time."""
    address = person_with(request, Right.READ).email
    found = box_of(address) if address else Delivery.objects.none()
    some = list(found[asked.offset : asked.offset + PAGE + 1])
    lines = [
        InboxLine(
            id=one.pk,
            sender=one.mail.sender,
            subject=one.mail.subject,
            sent_at=one.mail.sent_at,
        )
        for one in some[:PAGE]
    ]
    return InboxPage(address=address, mails=lines, more=len(some) > PAGE)


@router.get("/box/{delivery_id}", response={200: RenderedMailView})
def show_mail(request: HttpRequest, delivery_id: int) -> RenderedMailView:
    """A mail that has arrived for whoever asks."""
    letter = letter_for(person_with(request, Right.READ), delivery_id)
    return letter_view(letter.headers, letter.text, letter.page)
