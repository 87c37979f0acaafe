"""How often a link may be used in a minute, by everybody together and by one address."""

import hashlib
from datetime import timedelta
from typing import Final, Literal

from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import F
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.problems import Refusal

from .models import FormLink, LinkUse

Use = Literal["open", "judge", "submit"]
MOST: Final[dict[Use, tuple[int, int]]] = {
    "open": (600, 120),
    "judge": (3_000, 600),
    "submit": (120, 30),
}
"""By use: in a minute by all together, and by one address."""
MINUTE: Final = timedelta(minutes=1)
KEPT_FOR: Final = timedelta(hours=1)


def count_use(link: FormLink, use: Use, address: str) -> None:
    """Count a use of a link. Raises a Refusal (429) where it was used too often in this minute.

    It is counted in a transaction of its own, which what is refused afterwards does not undo.
    """
    now = timezone.now()
    minute = now.replace(second=0, microsecond=0)
    for who, most in zip(("", _mark(address, minute.isoformat())), MOST[use], strict=True):
        if _counted(link, use, who, minute) > most:
            raise Refusal(
                429,
                "too-often",
                tr("This link is being used too often just now."),
                tr("Wait a minute, then go on: what you have typed stays on your screen."),
            )


def _counted(link: FormLink, use: Use, who: str, minute: object) -> int:
    where = {"link": link, "use": use, "who": who, "minute": minute}
    rows = LinkUse.objects.filter(**where)
    if not rows.update(count=F("count") + 1):
        try:
            with transaction.atomic():
                LinkUse.objects.create(**where, count=1)
        except IntegrityError:  # somebody has begun it meanwhile
            rows.update(count=F("count") + 1)
        else:
            LinkUse.objects.filter(minute__lt=timezone.now() - KEPT_FOR).delete()
    return rows.values_list("count", flat=True).get()


def _mark(address: str, minute: str) -> str:
    """An address is not kept: only what tells it from others within this minute."""
    told = f"{settings.SECRET_KEY} {minute} {address}"
    return hashlib.sha256(told.encode()).hexdigest()[:32]
