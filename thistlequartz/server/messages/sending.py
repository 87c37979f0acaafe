"""Sending what waits, a message at a time, and trying again what failed."""

import logging
from email.utils import formataddr
from smtplib import SMTPException
from typing import Any, Final

from django.core.mail import BadHeaderError, EmailMultiAlternatives
from django.db import DatabaseError, transaction
from django.http import Http404
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.jobs.retrying import DispatchState
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal

from .mailing import MESSAGE_ID
from .models import OutgoingMessage

AT_ONCE: Final = 200
"""Messages sent before something else has its turn."""
_FAILURES: Final = (OSError, SMTPException, BadHeaderError)
_log = logging.getLogger(__name__)


def send_due_now(sender: Any = None, **_: Any) -> None:
    """Send what is due by now."""
    for _turn in range(AT_ONCE):
        if not _send_next():
            return


@transaction.atomic
def _send_next() -> bool:
    """Send one message. The outbox is part of the same database, so that it is sent and marked as
    sent together: a fault between the two is neither lost nor sent twice.
    """
    now = timezone.now()
    due = OutgoingMessage.objects.filter(state=DispatchState.WAITING, next_at__lte=now).order_by(
        "next_at"
    )
    message = due.select_for_update(skip_locked=True).first()
    if message is None:
        return False
    message.attempts += 1
    try:
        with transaction.atomic():
            mail_of(message).send()
    except _FAILURES as error:
        _log.warning("A message could not be sent: %s", error)
        message.has_failed(tr("It could not be sent: {error}", error=error), now)
    except DatabaseError:
        raise
    except Exception as error:
        # One that cannot be written as a mail never will be: it is put aside, and the others go on.
        _log.warning("A message could not be written: %s", error)
        message.state = DispatchState.FAILED
        message.trouble = tr("It could not be written as a mail: {error}", error=error)
    else:
        message.has_been_sent(now)
    message.save()
    return True


def mail_of(message: OutgoingMessage) -> EmailMultiAlternatives:
    """A message as a mail: plain text, and the same as HTML."""
    mail = EmailMultiAlternatives(
        message.subject,
        message.text,
        to=[formataddr((name, address)) for name, address in message.to],
        cc=[formataddr((name, address)) for name, address in message.copies],
        reply_to=[message.reply_to] if message.reply_to else None,
        headers={MESSAGE_ID: message.message_id},
    )
    mail.attach_alternative(message.page, "text/html")
    return mail


@transaction.atomic
def send_again(person: Person, form_key: str, pk: int) -> OutgoingMessage:
    """Have a message that failed tried again, from the first wait on; raises Http404, a Refusal."""
    found = OutgoingMessage.objects.select_for_update().filter(form__key=form_key, pk=pk)
    message = found.first()
    if message is None:
        raise Http404(pk)
    if message.state == DispatchState.SENT:
        raise Refusal(
            409,
            "sent-already",
            tr("This message has been sent."),
            tr("There is nothing to try again."),
        )
    if not message.to:
        raise Refusal(
            409,
            "nobody-to-send-to",
            tr("There was nobody to send this message to."),
            tr("Correct what is named with it: the next message of its kind goes to them."),
        )
    message.begin_again()
    message.save()
    log(person, "send message again", form_key, message.subject)
    return message
