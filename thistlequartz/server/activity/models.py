"""The log of changes: only ever added to, each act bound to the one before it."""

from typing import Any, NoReturn

from django.conf import settings
from django.db import models


class Unchangeable(Exception):
    """Somebody tried to change what was done, or to remove it of the history."""

    def __init__(self) -> None:
        super().__init__("What was done stays in the history as it was written.")


class _AddedTo(models.QuerySet["AuditEntry"]):
    """Rows that can be read and added to."""

    def update(self, **_: Any) -> NoReturn:
        raise Unchangeable

    def delete(self) -> NoReturn:
        raise Unchangeable


class AuditEntry(models.Model):
    """One change, written in the transaction that made it, and never changed afterwards.

    `hash` is made of the act and of the hash of the one before it in the same chain: of its form,
    or of the accounts. Whoever changes, takes out or puts in an act breaks the chain.
    """

    at = models.DateTimeField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    who = models.CharField(max_length=200, default="", blank=True)
    """What the person was called then; blank: the server did it by itself."""
    act = models.CharField(max_length=40)
    form_key = models.CharField(max_length=60)
    subject = models.CharField(max_length=200)
    note = models.TextField(default="")
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)

    part = models.CharField(max_length=20, default="", blank=True)
    """What kind of part of a draft was changed; blank: none, so it cannot be undone."""
    part_key = models.CharField(max_length=60, default="", blank=True)
    position = models.PositiveIntegerField(null=True)
    """Where the part stood, or stands since it was added."""
    batch = models.CharField(max_length=32, default="", blank=True)
    """What was changed together is undone together."""
    place = models.PositiveBigIntegerField()
    """Its place in the chain, from 1."""
    hash = models.CharField(max_length=64)

    objects = _AddedTo.as_manager()

    class Meta:
        ordering = ("-id",)
        indexes = (
            models.Index(fields=["form_key", "-id"]),
            models.Index(fields=["form_key", "act", "-id"]),
            models.Index(fields=["form_key", "person", "-id"]),
            models.Index(fields=["form_key", "-at"]),
            models.Index(fields=["form_key", "part", "part_key"]),
        )
        constraints = (
            models.UniqueConstraint(fields=["form_key", "place"], name="one_act_of_a_place"),
        )

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Store a new act; raises Unchangeable for one that is stored."""
        if not self._state.adding:
            raise Unchangeable
        super().save(*args, **kwargs)

    def delete(self, *args: Any, **kwargs: Any) -> NoReturn:
        """Raises Unchangeable."""
        raise Unchangeable


class AuditChain(models.Model):
    """The end of a chain: of the acts on one form, or with a blank key of those on accounts."""

    form_key = models.CharField(max_length=60, unique=True)
    length = models.PositiveBigIntegerField(default=0)
    hash = models.CharField(max_length=64, default="", blank=True)


class UndoState(models.Model):
    """How a change to a part of a draft stands: undoing it is an act of its own."""

    entry = models.OneToOneField(
        AuditEntry, on_delete=models.CASCADE, primary_key=True, related_name="undo_state"
    )
    state = models.CharField(max_length=10, default="done")
    """`done`, `undone`, or `dropped`: undone, and something else was changed since."""
