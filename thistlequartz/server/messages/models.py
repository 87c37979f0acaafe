"""Messages as they are written, those that wait, and the mail that the outbox keeps."""

from typing import Final

from django.conf import settings
from django.db import models
from django.utils import timezone

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs.retrying import Dispatch
from thistlequartz.server.records.models import Record

MAIL_DOMAIN: Final = "thistlequartz.invalid"
"""Reserved (RFC 2606): nothing that is sent from here is anybody's."""
LONGEST_SUBJECT: Final = 500
LONGEST_ADDRESS: Final = 254


class Template(models.Model):
    """A message as it is written: on which occasions, to whom, and what it says."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="templates")
    name = models.CharField(max_length=100)
    enabled = models.BooleanField(default=True)
    document = models.JSONField()
    """What else it says (`writing.WrittenMessage`)."""
    revision = models.PositiveIntegerField(default=1)
    changed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ("id",)
        constraints = (
            models.UniqueConstraint(fields=["form", "name"], name="one_template_of_a_name"),
        )


class OutgoingMessage(Dispatch):
    """A message about one record: written with what was done, sent after it."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="+")
    template = models.ForeignKey(Template, null=True, on_delete=models.SET_NULL, related_name="+")
    record = models.ForeignKey(Record, null=True, on_delete=models.SET_NULL, related_name="+")
    number = models.PositiveIntegerField()
    """Of the record."""
    revision = models.PositiveIntegerField()
    """Of the record, when it was written: of one version and occasion it is written once."""
    occasion = models.CharField(max_length=12)
    to = models.JSONField(default=list)
    copies = models.JSONField(default=list)
    """Pairs of a name, which may be blank, and an address."""
    reply_to = models.CharField(max_length=LONGEST_ADDRESS, default="", blank=True)
    subject = models.CharField(max_length=LONGEST_SUBJECT)
    text = models.TextField()
    page = models.TextField()
    """The same as HTML."""

    @property
    def message_id(self) -> str:
        """By what its mail is known, however often it is sent."""
        return f"<message-{self.pk}@{MAIL_DOMAIN}>"

    class Meta:
        ordering = ("-id",)
        constraints = (
            models.UniqueConstraint(
                fields=["template", "record", "revision", "occasion"],
                name="one_message_of_an_occasion",
            ),
        )
        indexes = (
            models.Index(fields=["state", "next_at"]),
            models.Index(fields=["form", "-id"]),
            models.Index(fields=["form", "state", "-id"]),
        )


class Mail(models.Model):
    """A mail in the outbox, as it went out."""

    message_id = models.CharField(max_length=200, unique=True)
    sender = models.CharField(max_length=LONGEST_ADDRESS)
    subject = models.CharField(max_length=LONGEST_SUBJECT)
    raw = models.BinaryField()
    """All of it, by RFC 5322."""
    sent_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-id",)


class Delivery(models.Model):
    """A mail in somebody's box."""

    mail = models.ForeignKey(Mail, on_delete=models.CASCADE, related_name="deliveries")
    address = models.CharField(max_length=LONGEST_ADDRESS)
    """In lower case."""

    class Meta:
        ordering = ("-mail_id",)
        indexes = (models.Index(fields=["address", "-mail"]),)
        constraints = (
            models.UniqueConstraint(fields=["mail", "address"], name="one_delivery_to_an_address"),
        )
