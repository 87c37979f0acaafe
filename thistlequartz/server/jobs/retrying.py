"""Delivery later, retried with bounded exponential backoff."""

from datetime import datetime, timedelta
from typing import Final

from django.db import models
from django.utils import timezone

WAITS: Final = tuple(timedelta(minutes=minutes) for minutes in (0.25, 1, 5, 30, 120, 480))
"""Before the second attempt, the third, and so on."""


class DispatchState(models.TextChoices):
    """How far something to be sent has come."""

    WAITING = "waiting"
    SENT = "sent"
    FAILED = "failed"


class Dispatch(models.Model):
    """Something to be sent, with how far it has come."""

    state = models.CharField(
        max_length=10, choices=DispatchState.choices, default=DispatchState.WAITING
    )
    trouble = models.TextField(default="", blank=True)
    """Why it could not be sent, or not to everybody."""
    attempts = models.PositiveSmallIntegerField(default=0)
    next_at = models.DateTimeField(default=timezone.now)
    written_at = models.DateTimeField(default=timezone.now)
    sent_at = models.DateTimeField(null=True)

    class Meta:
        abstract = True

    @property
    def again_at(self) -> datetime | None:
        """When it is tried again; None: it is not, or it was not tried yet."""
        waits = self.state == DispatchState.WAITING and self.attempts > 0
        return self.next_at if waits else None

    def has_been_sent(self, now: datetime) -> None:
        """Note that it has; it is not stored here."""
        self.state, self.sent_at = DispatchState.SENT, now

    def has_failed(self, why: str, now: datetime) -> None:
        """Note a failed attempt, and when the next one is due, if any. Not stored here."""
        self.trouble = why
        if self.attempts <= len(WAITS):
            self.next_at = now + WAITS[self.attempts - 1]
        else:
            self.state = DispatchState.FAILED

    def begin_again(self) -> None:
        """Have it tried at once, and from the first wait on; it is not stored here."""
        self.state, self.attempts, self.next_at = DispatchState.WAITING, 0, timezone.now()
