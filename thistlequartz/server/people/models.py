"""People and their roles."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Role(models.TextChoices):
    """What somebody is here for."""

    STEWARD = "steward"
    CLERK = "clerk"
    APPROVER = "approver"
    READER = "reader"


class Person(AbstractUser):
    """Somebody with an account."""

    role = models.CharField(max_length=20, choices=Role.choices, default=Role.READER)
    shown_name = models.CharField(max_length=100)
