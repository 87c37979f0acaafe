"""Links by which a form is filled in without an account."""

from django.conf import settings
from django.db import models

from thistlequartz.server.forms.models import DraftForm


class FormLink(models.Model):
    """An address by which a form is filled in without an account."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="links")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    """Who made it."""
    key = models.CharField(max_length=40, unique=True, db_collation="utf8mb4_bin")
    """The end of its address, drawn at random."""
    name = models.CharField(max_length=100)
    document = models.JSONField(default=dict)
    """What it says (`link_writing.LinkEntry`)."""
    ends_at = models.DateTimeField(null=True)
    most = models.PositiveIntegerField(null=True)
    taken = models.PositiveIntegerField(default=0)
    """Records that came in by it."""
    revision = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-id",)


class LinkUse(models.Model):
    """How often a link was used in a minute."""

    link = models.ForeignKey(FormLink, on_delete=models.CASCADE, related_name="+")
    use = models.CharField(max_length=10)
    who = models.CharField(max_length=32, default="", blank=True)
    """What tells an address from others within the minute; blank: everybody together."""
    minute = models.DateTimeField(db_index=True)
    count = models.PositiveIntegerField()

    class Meta:
        constraints = (
            models.UniqueConstraint(
                fields=["link", "use", "who", "minute"], name="one_count_of_a_minute"
            ),
        )


class SolvedPuzzle(models.Model):
    """A solution that has been used."""

    challenge = models.CharField(max_length=64, unique=True)
    used_at = models.DateTimeField(auto_now_add=True, db_index=True)
