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

    class Meta:
        ordering = ("-id",)
        indexes = (models.Index(fields=["form_key", "-id"]),)
