"""Passwords of tests: kept as in earnest, with less work."""

from django.contrib.auth.hashers import Argon2PasswordHasher


class QuickArgon2(Argon2PasswordHasher):
    """Argon2 in one round over a little memory."""

    time_cost = 1
    memory_cost = 64
    parallelism = 1
