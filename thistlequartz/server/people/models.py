"""People, their roles, and where they are signed in."""

from django.contrib.auth.models import AbstractUser
from django.db import models

from thistlequartz.core.enumerations import ROLES
from thistlequartz.core.values import USUAL, WritingStyle

NO_ROLE = "none"
"""In a single form: somebody has nothing to do with it, and does not see it."""


class Role(models.TextChoices):
    """What somebody is here for."""

    STEWARD, CLERK, APPROVER, READER = ROLES


class Person(AbstractUser):
    """Somebody with an account. One that was closed (`is_active`) keeps its name in the history."""

    role = models.CharField(max_length=20, choices=Role.choices, default=Role.READER)
    """What holds in every form that says nothing else (see `FormRole`)."""
    shown_name = models.CharField(max_length=100)
    manages_people = models.BooleanField(default=False)
    must_change_password = models.BooleanField(default=False)
    """Somebody else has set it."""
    last_seen_at = models.DateTimeField(null=True)
    theme = models.CharField(max_length=10, default="system")
    dates = models.CharField(max_length=20, default=USUAL.dates)
    numbers = models.CharField(max_length=20, default=USUAL.numbers)

    @property
    def style(self) -> WritingStyle:
        """How values are written for this person."""
        return WritingStyle(self.dates, self.numbers)  # type: ignore[arg-type]


class FormRole(models.Model):
    """What somebody is in one form, other than elsewhere."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="form_roles")
    form_key = models.CharField(max_length=60)
    role = models.CharField(max_length=20, choices=[*Role.choices, (NO_ROLE, "None")])

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=["person", "form_key"], name="one_role_in_a_form"),
        )


class SignedIn(models.Model):
    """A session of somebody, by its key."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="sign_ins")
    session_key = models.CharField(max_length=40, unique=True)
    began_at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField()
    browser = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ("-seen_at",)
