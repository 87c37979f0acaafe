"""Jobs: what was asked for, how far it is, and what came of it."""

from django.conf import settings
from django.db import models

from thistlequartz.server.forms.models import DraftForm


class JobState(models.TextChoices):
    """Where a job stands."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


UNDER_WAY = (JobState.WAITING, JobState.RUNNING)


class Job(models.Model):
    """One piece of work on one form."""

    kind = models.CharField(max_length=20)
    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="jobs")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    """Who asked for it; None: it began by itself."""
    state = models.CharField(max_length=10, choices=JobState.choices, default=JobState.WAITING)
    stop_wanted = models.BooleanField(default=False)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    fingerprint = models.CharField(max_length=100, default="", blank=True)
    """The state of what it works on."""
    runner = models.CharField(max_length=32, default="", blank=True)
    """Who works on it: drawn anew each time it is taken up."""
    heartbeat_at = models.DateTimeField(null=True)
    """When whoever works on it last showed that they do."""
    attempts = models.PositiveSmallIntegerField(default=0)
    """How often it has been taken up."""
    asked = models.JSONField(default=dict)
    """What was asked for, as the kind of job needs it."""
    result = models.JSONField(null=True)
    """What came of it; of one that was refused, what is to be corrected."""
    trouble = models.TextField(default="", blank=True)
    created_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-id",)
        indexes = (models.Index(fields=["form", "kind", "-id"]),)
