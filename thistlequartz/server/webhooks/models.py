"""Webhooks: systems that are called, and the calls."""

import uuid

from django.db import models

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs.retrying import Dispatch


class Webhook(models.Model):
    """Another system that is called when something becomes of a record."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="call_targets")
    name = models.CharField(max_length=100)
    address = models.CharField(max_length=500, default="", blank=True)
    """Blank: the stand-in that ships with the product."""
    secret = models.CharField(max_length=100)
    """What calls are signed with; shown once, and kept as it is needed for each call."""
    occasions = models.JSONField()
    enabled = models.BooleanField(default=True)
    fails = models.PositiveSmallIntegerField(default=0)
    """How many calls the stand-in will refuse, so that trying again can be seen."""
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("id",)


class WebhookCall(Dispatch):
    """A call to another system: written with what was done, made after it."""

    target = models.ForeignKey(Webhook, on_delete=models.CASCADE, related_name="calls")
    number = models.PositiveIntegerField()
    """Of the record."""
    occasion = models.CharField(max_length=12)
    message_id = models.UUIDField(default=uuid.uuid4)
    body = models.TextField()
    """As it is sent, so that it is the same each time."""
    answer_status = models.PositiveSmallIntegerField(null=True)
    answer = models.TextField(default="", blank=True)

    @property
    def webhook_id(self) -> str:
        """By what its receiver knows it when it arrives again."""
        return f"msg_{self.message_id.hex}"

    class Meta:
        ordering = ("-id",)
        indexes = (
            models.Index(fields=["state", "next_at"]),
            models.Index(fields=["target", "-id"]),
            models.Index(fields=["target", "state"]),
        )


class ReceivedWebhookCall(models.Model):
    """A call whose signature fitted, as the stand-in has received it."""

    target = models.ForeignKey(Webhook, on_delete=models.CASCADE, related_name="received")
    webhook_id = models.CharField(max_length=100)
    taken = models.BooleanField()
    body = models.TextField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("-id",)
        indexes = (models.Index(fields=["target", "-id"]),)
