"""The drafts of forms, as rows. Each field and rule is a document of the core."""

import hashlib
import secrets

from django.conf import settings
from django.db import models


def first_fingerprint() -> str:
    """That of a draft nobody has edited yet, unlike that of any other."""
    return secrets.token_hex(8)


def next_fingerprint(former: str, *edit: object) -> str:
    """The fingerprint of a draft after one more edit."""
    return hashlib.sha256(repr((former, *edit)).encode()).hexdigest()[:16]


class DraftForm(models.Model):
    """A form as stewards are writing it. `revision` counts every change to any part."""

    key = models.CharField(max_length=60, unique=True)
    name = models.CharField(max_length=200)
    purpose = models.TextField(default="", blank=True)
    rest = models.JSONField(default=dict, blank=True)
    """The parts of the document that have no rows: zone, sections, conditions, starters, ..."""
    revision = models.PositiveIntegerField(default=1)
    fingerprint = models.CharField(max_length=16, default=first_fingerprint)
    """Of all edits in their order. `revision` cannot stand for it: after a rollback the same number
    is counted again, for another edit.
    """
    settings_revision = models.PositiveIntegerField(default=1)
    """Counts the changes to its name, its purpose and `rest`."""
    settings_changed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )

    class Meta:
        ordering = ("name",)


class _Part(models.Model):
    key = models.CharField(max_length=60)
    position = models.PositiveIntegerField()
    document = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    changed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        abstract = True
        ordering = ("position", "id")


class DraftField(_Part):
    """A field of a draft."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="field_rows")

    class Meta(_Part.Meta):
        constraints = (models.UniqueConstraint(fields=["form", "key"], name="one_field_of_a_key"),)


class DraftRule(_Part):
    """A rule of a draft."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="rule_rows")
    violated_seen = models.BooleanField(default=False)
    """Whether it has been seen to fire since it was last written, on the bench."""
    satisfied_seen = models.BooleanField(default=False)
    """Whether it has been seen to be kept since then."""
    overspent_seen = models.BooleanField(default=False)
    """Whether it has been seen to take more work than one rule may, since then."""

    class Meta(_Part.Meta):
        constraints = (models.UniqueConstraint(fields=["form", "key"], name="one_rule_of_a_key"),)


class PlanLine(_Part):
    """What must be true of the data: `text`, and the keys of its `rules` and of its `cases`."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="plan_rows")

    class Meta(_Part.Meta):
        constraints = (models.UniqueConstraint(fields=["form", "key"], name="one_line_of_a_key"),)


class DraftCase(_Part):
    """A kept try of a draft, as a Case of the core, and what came of it when it was run last."""

    form = models.ForeignKey(DraftForm, on_delete=models.CASCADE, related_name="case_rows")
    state = models.CharField(max_length=20, default="", blank=True)
    """`passes`, `fails` or `cannot_run`; blank: not run since it was written."""
    found = models.JSONField(null=True)
    """What happened: outcomes, violated rules, differences in words, the status of each rule."""
    rules_fingerprint = models.CharField(max_length=60, default="", blank=True)
    """The state of the rules when it was run."""

    class Meta(_Part.Meta):
        constraints = (models.UniqueConstraint(fields=["form", "key"], name="one_case_of_a_key"),)


class DraftChoiceList(_Part):
    """Choices that fields of several forms share."""

    position = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ("key",)
        constraints = (models.UniqueConstraint(fields=["key"], name="one_list_of_a_key"),)
