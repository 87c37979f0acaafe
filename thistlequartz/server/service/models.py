"""API tokens, and the answers that were given under an idempotency key."""

from django.conf import settings
from django.db import models

from thistlequartz.server.forms.models import DraftForm

LONGEST_HASH = 64


class ApiToken(models.Model):
    """What another system shows instead of a name and a password; it acts for whoever made it."""

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="service_tokens"
    )
    name = models.CharField(max_length=100)
    """What it is for."""
    begins = models.CharField(max_length=12)
    """How it begins, so that it can be told from others."""
    hash = models.CharField(max_length=LONGEST_HASH, unique=True)
    """SHA-256 of the token, which itself is kept nowhere: it is long and drawn at random."""
    acts = models.JSONField()
    forms = models.ManyToManyField(DraftForm, related_name="service_tokens")
    created_at = models.DateTimeField(auto_now_add=True)
    ends_at = models.DateTimeField(null=True)
    """Until when it counts; blank: until it is ended."""
    ended_at = models.DateTimeField(null=True)
    last_used_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-id",)


class IdempotentAnswer(models.Model):
    """What was answered to a call with a key: sent again, it is done once and answered the same."""

    token = models.ForeignKey(ApiToken, on_delete=models.CASCADE, related_name="answers")
    key = models.CharField(max_length=100)
    asked = models.CharField(max_length=LONGEST_HASH)
    """SHA-256 of the call."""
    status = models.PositiveSmallIntegerField(default=0)
    body = models.JSONField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=["token", "key"], name="one_answer_of_a_key"),
        )
        indexes = (models.Index(fields=["token", "created_at"]),)
