"""Django's mail, kept in the database and never sent over a net: the outbox of this product."""

from collections.abc import Sequence
from email.utils import getaddresses, parseaddr
from typing import Final

from django.core.mail import EmailMessage
from django.core.mail.backends.base import BaseEmailBackend
from django.db import transaction

from .models import LONGEST_SUBJECT, Delivery, Mail

MESSAGE_ID: Final = "Message-ID"


class OutboxBackend(BaseEmailBackend):
    """Keeps each mail whole, with a delivery for each of its receivers."""

    def send_messages(self, email_messages: Sequence[EmailMessage]) -> int:
        """Keep mails; return how many. One with a known Message-ID is kept once.

        So what is sent again after a fault arrives once.
        """
        with transaction.atomic():
            for mail in email_messages:
                _keep(mail)
        return len(email_messages)


def _keep(mail: EmailMessage) -> None:
    written = mail.message()  # raises BadHeaderError for a header of two lines
    kept, new = Mail.objects.get_or_create(
        message_id=written[MESSAGE_ID],
        defaults={
            "sender": parseaddr(mail.from_email)[1],
            "subject": str(mail.subject)[:LONGEST_SUBJECT],
            "raw": written.as_bytes(),
        },
    )
    if new:
        addresses = {address.lower() for _, address in getaddresses(mail.recipients())}
        Delivery.objects.bulk_create(
            Delivery(mail=kept, address=address) for address in sorted(addresses)
        )
