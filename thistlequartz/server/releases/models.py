"""Releases of forms."""

from django.conf import settings
from django.db import models
from django.utils import timezone

from thistlequartz.server.forms.models import DraftForm


class Release(models.Model):
    """A form as it was released: one immutable document, known by its hash."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="releases")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    hash = models.CharField(max_length=64)
    note = models.TextField()
    released_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    released_at = models.DateTimeField(default=timezone.now)
    in_force_from = models.DateTimeField(default=timezone.now)
    """From when on records are judged by it. At most one release of a form waits for its moment, so
    that a later number is never in force earlier."""
    brought_at = models.DateTimeField(null=True)
    """When what it asks of stored records was done; blank before it comes into force."""
    known = models.JSONField(default=list)
    """What whoever released it knew of it (see `knowing.Concern`)."""
    withdrawn_at = models.DateTimeField(null=True)
    """When it was withdrawn, before it ever came into force."""
    withdrawn_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    withdrawn_why = models.TextField(default="", blank=True)

    class Meta:
        ordering = ("form", "-number")
        constraints = (
            models.UniqueConstraint(fields=["form", "number"], name="one_release_of_a_number"),
        )
