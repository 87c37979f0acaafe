"""The log of changes."""

from django.conf import settings
from django.db import models


class Activity(models.Model):
    """One change, written in the transaction that made it."""

    at = models.DateTimeField(auto_now_add=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    act = models.CharField(max_length=40)
    form_key = models.CharField(max_length=60)
    subject = models.CharField(max_length=200)
    note = models.TextField(default="")
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)

    part = models.CharField(max_length=20, default="", blank=True)
    """What kind of part of a draft was changed; blank: none, so it cannot be undone."""
    part_key = models.CharField(max_length=60, default="", blank=True)
    position = models.PositiveIntegerField(null=True)
    """Where the part stood, or stands since it was added."""
    batch = models.CharField(max_length=32, default="", blank=True)
    """What was changed together is undone together."""
    state = models.CharField(max_length=10, default="done")
    """`done`, `undone`, or `dropped`: undone, and something else was changed since."""

    class Meta:
        ordering = ("-id",)
        indexes = (models.Index(fields=["form_key", "-id"]),)
