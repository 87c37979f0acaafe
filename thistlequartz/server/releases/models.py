"""Releases of forms."""

from django.conf import settings
from django.db import models

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
    released_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("form", "-number")
        constraints = (
            models.UniqueConstraint(fields=["form", "number"], name="one_release_of_a_number"),
        )
