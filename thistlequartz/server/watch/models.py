"""How often records were tried, and how often each rule spoke, counted by day.

The values that were tried are not kept: of what was stopped only the count remains.
"""

from django.conf import settings
from django.db import models

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.records.models import Record
from thistlequartz.server.releases.models import Release

LONGEST_ENTRY_POINT = 20


class _Counted(models.Model):
    """What was counted on one day, under the same circumstances."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="+")
    day = models.DateField()
    """By the clock of the form's zone."""
    release = models.ForeignKey(Release, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.CASCADE, related_name="+"
    )
    entry_point = models.CharField(max_length=LONGEST_ENTRY_POINT)
    """The entry point."""
    moment = models.CharField(max_length=10)
    """`save` or `submit`."""

    class Meta:
        abstract = True


class AttemptCount(_Counted):
    """How often somebody tried to save or submit."""

    tried = models.PositiveIntegerField(default=0)
    stopped = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = (
            models.UniqueConstraint(
                fields=["form", "day", "release", "person", "entry_point", "moment"],
                name="one_count_of_attempts",
            ),
        )


class RuleCount(_Counted):
    """How often a rule spoke; with a blank key, how often something could not be read."""

    rule_key = models.CharField(max_length=60, blank=True)
    noted = models.PositiveIntegerField(default=0)
    warned = models.PositiveIntegerField(default=0)
    blocked = models.PositiveIntegerField(default=0)
    passed = models.PositiveIntegerField(default=0)
    """Of these, how often the record was stored all the same."""
    waived = models.PositiveIntegerField(default=0)
    """Of these, how often with a reason."""

    class Meta:
        constraints = (
            models.UniqueConstraint(
                fields=["form", "day", "release", "person", "entry_point", "moment", "rule_key"],
                name="one_count_of_a_rule",
            ),
        )


class GivenReason(models.Model):
    """A reason with which a warning was passed."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="+")
    rule_key = models.CharField(max_length=60)
    day = models.DateField()
    release = models.ForeignKey(Release, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.CASCADE, related_name="+"
    )
    record = models.ForeignKey(Record, on_delete=models.CASCADE, related_name="+")
    text = models.TextField()

    class Meta:
        indexes = (models.Index(fields=["form", "rule_key", "-id"]),)
