"""Files of records that came in, links, tokens of other systems, and calls that go out to them."""

import uuid

from django.conf import settings
from django.db import models

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.jobs.retrying import Dispatch
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


class TakenRow(models.Model):
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


class RefusedRow(models.Model):
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


class ServiceToken(models.Model):
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


class ServiceAnswer(models.Model):
    """What was answered to a call with a key: sent again, it is done once and answered the same."""

    token = models.ForeignKey(ServiceToken, on_delete=models.CASCADE, related_name="answers")
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


class CallTarget(models.Model):
    """Another system that is called when something becomes of a record."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="call_targets")
    name = models.CharField(max_length=100)
    address = models.CharField(max_length=500, default="", blank=True)
    """Blank: the stand-in that ships with the product."""
    secret = models.CharField(max_length=100)
    """What calls are signed with; shown once, and kept as it is needed for each call."""
    occasions = models.JSONField()
    enabled = models.BooleanField(default=True)
    fails = models.PositiveSmallIntegerField(default=0)
    """How many calls the stand-in will refuse, so that trying again can be seen."""
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("id",)


class OutgoingCall(Dispatch):
    """A call to another system: written with what was done, made after it."""

    target = models.ForeignKey(CallTarget, on_delete=models.CASCADE, related_name="calls")
    number = models.PositiveIntegerField()
    """Of the record."""
    occasion = models.CharField(max_length=12)
    mark = models.UUIDField(default=uuid.uuid4)
    body = models.TextField()
    """As it is sent, so that it is the same each time."""
    answer_status = models.PositiveSmallIntegerField(null=True)
    answer = models.TextField(default="", blank=True)

    @property
    def webhook_id(self) -> str:
        """By what its receiver knows it when it arrives again."""
        return f"msg_{self.mark.hex}"

    class Meta:
        ordering = ("-id",)
        indexes = (
            models.Index(fields=["state", "next_at"]),
            models.Index(fields=["target", "-id"]),
            models.Index(fields=["target", "state"]),
        )


class ReceivedCall(models.Model):
    """A call whose signature fitted, as the stand-in has received it."""

    target = models.ForeignKey(CallTarget, on_delete=models.CASCADE, related_name="received")
    webhook_id = models.CharField(max_length=100)
    taken = models.BooleanField()
    body = models.TextField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("-id",)
        indexes = (models.Index(fields=["target", "-id"]),)


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


class LinkMinute(models.Model):
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

    mark = models.CharField(max_length=64, unique=True)
    used_at = models.DateTimeField(auto_now_add=True, db_index=True)
