"""A puzzle against robots: some work that a browser does while a form is filled in (altcha).

Each solution is for one link, counts for a while, and once.
"""

import base64
import hashlib
import json
from datetime import timedelta
from typing import Any, Final

from altcha.v1 import create_challenge, verify_solution
from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import Sum
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.problems import ProblemItem, Refusal

from .models import FormLink, LinkUse, SolvedPuzzle

MOST_WORK: Final = 50_000
"""Hashes that have to be tried at most, where a link is used little: a second or so."""
HARDER_EVERY: Final = 20
"""Submissions and puzzles of a link in a minute, after each of which puzzles are harder by half."""
HARDEST: Final = 20
"""Times the work of the first."""
_MINUTE: Final = timedelta(minutes=1)
COUNTS_FOR: Final = timedelta(minutes=30)


def puzzle_for(link: FormLink) -> dict[str, Any]:
    """A puzzle, as its solver takes it."""
    made = create_challenge(
        hmac_key=_key(link),
        algorithm="SHA-256",
        max_number=int(MOST_WORK * _hardness(link)),
        expires=timezone.now() + COUNTS_FOR,
        salt_length=12,
        salt="",
        number=None,
        params=None,
    )
    return made.to_dict()


def _hardness(link: FormLink) -> float:
    """How many times harder a puzzle is than usual: the more the link is being used."""
    recent = LinkUse.objects.filter(
        link=link, use__in=("open", "submit"), who="", minute__gt=timezone.now() - 2 * _MINUTE
    )
    used = recent.aggregate(used=Sum("count"))["used"] or 0
    return min(1 + used / HARDER_EVERY / 2, HARDEST)


def use_solution(link: FormLink, solution: str) -> None:
    """Count a solution as used, in the current transaction.

    Raises a Refusal (422) where it does not fit, is too old, or was used before.
    """
    puzzle = _solved(link, solution)
    if puzzle is None:
        raise _refused(tr("The puzzle against robots is not solved, or was solved too long ago."))
    try:
        with transaction.atomic():
            SolvedPuzzle.objects.create(challenge=puzzle)
    except IntegrityError:
        raise _refused(tr("This solution of the puzzle has been used before.")) from None
    SolvedPuzzle.objects.filter(used_at__lt=timezone.now() - 2 * COUNTS_FOR).delete()


def _solved(link: FormLink, solution: str) -> str | None:
    """The signature of the puzzle that is solved, which is one however the solution is written."""
    try:
        told = json.loads(base64.b64decode(solution))
        if verify_solution(told, _key(link))[0]:
            return str(told["signature"])
    except (AttributeError, KeyError, TypeError, ValueError, RecursionError):
        pass  # something else than a solution
    return None


def _key(link: FormLink) -> str:
    told = f"{settings.SECRET_KEY} puzzle {link.key}"
    return hashlib.sha256(told.encode()).hexdigest()


def _refused(said: str) -> Refusal:
    return Refusal(
        422,
        "puzzle-unsolved",
        said,
        tr("Your browser solves another one by itself: submit once more. Nothing is lost."),
        [ProblemItem(place="solution", message=said)],
    )
