"""Whoever fills in a form by a link: somebody without an account, who may do nothing else."""

from typing import Final

from thistlequartz.core.translation import tr

from .models import Person

GUEST: Final = "(link)"
"""No account can have this name, and nobody signs in with it."""
_SHOWN: Final = tr("Somebody with a link")


def guest() -> Person:
    """The one that stands for all of them in records and in the history."""
    known = Person.objects.filter(username=GUEST).first()
    if known is not None:
        return known
    made = Person(username=GUEST, shown_name=_SHOWN, role="", is_active=False)
    made.set_unusable_password()
    found, _new = Person.objects.get_or_create(
        username=GUEST,
        defaults={
            name: getattr(made, name) for name in ("shown_name", "role", "is_active", "password")
        },
    )
    return found
