"""Files of records that came in, and their rows."""

from django.conf import settings
from django.db import models

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.records.models import Record

LONGEST_NAME = 200
LONGEST_HASH = 64


class RecordFile(models.Model):
    """A file of records, how it is to be read, and what came of it."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="record_files")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    name = models.CharField(max_length=LONGEST_NAME)
    kind = models.CharField(max_length=10)
    size = models.PositiveIntegerField()
    """Bytes."""
    hash = models.CharField(max_length=LONGEST_HASH)
    """SHA-256 of what it holds: by this and its number a row is known again."""
    plan = models.JSONField()
    """How it is read and what is done with its rows (`plan.ImportPlan`)."""
    job = models.ForeignKey(Job, null=True, on_delete=models.SET_NULL, related_name="+")
    """What works through it, or did last."""
    came = models.JSONField(null=True)
    """What came of it last (`plan.Came`)."""
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("-id",)
        indexes = (models.Index(fields=["form", "-id"]),)


class FilePiece(models.Model):
    """A piece of what a file holds."""

    file = models.ForeignKey(RecordFile, on_delete=models.CASCADE, related_name="pieces")
    place = models.PositiveIntegerField()
    content = models.BinaryField()

    class Meta:
        ordering = ("place",)
        constraints = (
            models.UniqueConstraint(fields=["file", "place"], name="one_piece_of_a_place"),
        )


class ImportedRow(models.Model):
    """A row that was stored, known by what its file holds: written with its record."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="+")
    hash = models.CharField(max_length=LONGEST_HASH)
    row = models.PositiveIntegerField()
    record = models.ForeignKey(Record, on_delete=models.CASCADE, related_name="+")
    run = models.PositiveBigIntegerField(default=0)
    """The job that stored it: begun again after a restart, it tells of all it has stored."""
    added = models.BooleanField(default=True)
    """Whether its record was new."""
    left_out = models.BooleanField(default=False)
    """Whether something of the row did not count."""

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=["form", "hash", "row"], name="one_taking_of_a_row"),
        )


class RejectedRow(models.Model):
    """A row that was not stored, and why."""

    file = models.ForeignKey(RecordFile, on_delete=models.CASCADE, related_name="refused_rows")
    row = models.PositiveIntegerField()
    cells = models.JSONField()
    """As they stand in the file, by head."""
    reasons = models.JSONField()
    """Objects with a head (or the label of a field without a column, or blank) and a text."""

    class Meta:
        ordering = ("row",)
        constraints = (
            models.UniqueConstraint(fields=["file", "row"], name="one_refusal_of_a_row"),
        )
