"""Records, and which rules each of them violates."""

from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from thistlequartz.core.language.feel.keys import MAX_KEY
from thistlequartz.core.translation import tr
from thistlequartz.core.values import LONGEST_ORDER_KEY
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.releases.models import Release

LONGEST_TITLE = 200
"""Characters of a title that are kept."""
LONGEST_FINGERPRINT = 32
LONGEST_IDEMPOTENCY_KEY = 40


class State(models.TextChoices):
    """How far a record has come."""

    IN_PROGRESS = "in_progress"
    SUBMITTED = tr("submitted")
    APPROVED = tr("approved")
    RETURNED = tr("returned")


STATE_WORDS = {
    State.IN_PROGRESS: tr("in progress"),
    State.SUBMITTED: tr("submitted"),
    State.APPROVED: tr("approved"),
    State.RETURNED: tr("returned"),
}
"""How far a record has come, as people say it."""
AT_REST = (State.SUBMITTED, State.APPROVED)
"""What is not changed any more, unless it is taken back or returned."""


class RecordOutcome(models.TextChoices):
    """What the rules said when the record was last stored."""

    CLEAR = "clear"
    NOTED = "noted"
    WARNED = "warned"


class Record(models.Model):
    """One record: its values as one document, and the release they were judged by."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="records")
    number = models.PositiveIntegerField()
    values = models.JSONField()
    title = models.CharField(
        max_length=LONGEST_TITLE, default="", db_collation="utf8mb4_unicode_ci"
    )
    """Searched and sorted without regard to upper and lower case."""
    state = models.CharField(max_length=20, choices=State.choices, default=State.IN_PROGRESS)
    outcome = models.CharField(max_length=20, choices=RecordOutcome.choices)
    on_hold = models.BooleanField(default=False)
    held_since = models.DateTimeField(null=True)
    """Since when it is on hold; blank where it is not."""
    reasons = models.JSONField(default=dict)
    """Why warnings were passed, by rule: text, basis, who and when."""
    applied = models.JSONField(default=list)
    """The rules whose proposals were applied."""
    release = models.ForeignKey(Release, on_delete=models.PROTECT, related_name="+")
    keeper = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    """Who is to go on with it: who began it, or to whom it was returned."""
    submitted_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    submitted_at = models.DateTimeField(null=True)
    decided_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    """Who approved it or sent it back last."""
    decided_at = models.DateTimeField(null=True)
    remark = models.TextField(default="", blank=True)
    """Why it was returned."""
    revision = models.PositiveIntegerField(default=1)
    values_revision = models.PositiveIntegerField(default=1)
    """The version since which its values have been as they are: who began from that one, or from a
    later one, has seen all of them.
    """
    changed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    changed_at = models.DateTimeField(default=timezone.now)
    idempotency_key = models.CharField(max_length=LONGEST_IDEMPOTENCY_KEY, default="", blank=True)
    """The mark of the sending that was stored last: sent again, it is known."""
    keys_fingerprint = models.CharField(max_length=LONGEST_FINGERPRINT, default="", blank=True)
    """What its unique keys were made for (see `uniqueness.generation_of`)."""

    class Meta:
        ordering = ("-number",)
        constraints = (
            models.UniqueConstraint(fields=["form", "number"], name="one_record_of_a_number"),
        )
        indexes = (
            models.Index(fields=["form", "state", "-number"]),
            models.Index(fields=["form", "outcome", "-number"]),
            models.Index(fields=["form", "on_hold", "-number"]),
            models.Index(fields=["form", "keys_fingerprint"]),
            models.Index(fields=["form", "idempotency_key"]),
            # Holds all that a search asks of a record itself, so that it reads nothing else.
            models.Index(
                fields=["form", "-number", "title", "state", "outcome", "on_hold"],
                name="what_a_search_reads",
            ),
            models.Index(fields=["form", "-changed_at", "-number"]),
            models.Index(fields=["form", "changed_by", "-changed_at", "-number"]),
            models.Index(fields=["form", "title", "-number"]),
            models.Index(fields=["form", "keeper", "state", "-number"]),
        )

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Store it, as changed now, unless it is told which columns are stored."""
        if kwargs.get("update_fields") is None:
            self.changed_at = timezone.now()
        super().save(*args, **kwargs)


class SavedList(models.Model):
    """A list of a form's records that somebody has named, to come back to."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=60)
    asked = models.TextField()
    """What is asked, as it stands in the address of the screen."""

    class Meta:
        ordering = ("name",)
        constraints = (
            models.UniqueConstraint(
                fields=["form", "person", "name"], name="one_list_of_a_name_and_person"
            ),
        )


class RecordBook(models.Model):
    """Where the numbers of a form's records come from, and how many there are."""

    form = models.OneToOneField(DraftForm, on_delete=models.CASCADE, related_name="record_book")
    last_number = models.PositiveIntegerField(default=0)
    stored = models.PositiveIntegerField(default=0)
    """Kept, as counting a hundred thousand takes as long as everything else in a list."""
    keys_fingerprint = models.CharField(max_length=LONGEST_FINGERPRINT, default="", blank=True)
    """What the unique keys in force are made for. A record that is marked for another one has been
    prepared for a release to come, and has those in force as well."""


class UniqueKey(models.Model):
    """What a record holds in the fields of a rule of uniqueness, folded and hashed.

    `digest` is looked up; `claim` is the same where the rule blocks, and blank (null) elsewhere, so
    that of two racing saves the database lets exactly one through. Keys made for another generation
    of the rules, which is not in force yet or no longer, claim beside those that are.
    """

    record = models.ForeignKey(Record, on_delete=models.CASCADE, related_name="unique_keys")
    rule_key = models.CharField(max_length=60)
    keys_fingerprint = models.CharField(max_length=LONGEST_FINGERPRINT, default="", blank=True)
    digest = models.CharField(max_length=64, db_index=True)
    claim = models.CharField(max_length=64, unique=True, null=True)


class RecordViolation(models.Model):
    """A rule that a stored record violates, so that lists filter in the database."""

    record = models.ForeignKey(Record, on_delete=models.CASCADE, related_name="violations")
    rule_key = models.CharField(max_length=60)
    rule_name = models.CharField(max_length=200)
    severity = models.CharField(max_length=10)

    class Meta:
        indexes = (
            models.Index(fields=["rule_key", "severity"]),
            models.Index(fields=["rule_key", "record"]),
        )


class IndexedField(models.Model):
    """A field whose values stand in the index, for every record of its form."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="indexed_fields")
    key = models.CharField(max_length=MAX_KEY)
    type = models.CharField(max_length=20)
    """The type by which the values were read."""

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=["form", "key"], name="one_index_of_a_field"),
        )


class IndexedValue(models.Model):
    """The value of a field as a text that sorts as the value does; blank has no row.

    So that a question about other records is asked of the database, however many there are.
    """

    pk = models.CompositePrimaryKey("record", "field")
    record = models.ForeignKey(
        Record, on_delete=models.CASCADE, related_name="indexed_values", db_index=False
    )
    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="+", db_index=False)
    field = models.CharField(max_length=MAX_KEY)
    value = models.CharField(max_length=LONGEST_ORDER_KEY, db_collation="utf8mb4_nopad_bin")

    class Meta:
        indexes = (models.Index(fields=["form", "field", "value"], name="records_of_a_value"),)
