"""Findings that somebody has dismissed."""

from django.conf import settings
from django.db import models

from thistlequartz.server.forms.models import DraftForm


class Dismissal(models.Model):
    """A finding that is as it should be, and why. It returns when what it rests on changes."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="dismissals")
    fingerprint = models.CharField(max_length=16)
    """Of the finding."""
    basis_fingerprint = models.CharField(max_length=64)
    """What changes whenever what the finding rests on does."""
    reason = models.TextField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    who = models.CharField(max_length=200)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=["form", "fingerprint"], name="one_reason_each"),
        )
