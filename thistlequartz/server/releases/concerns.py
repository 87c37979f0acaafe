"""What is known of a release before it is made, and is kept with it."""

import hashlib
import json
from collections.abc import Sequence
from typing import Final, Literal

from pydantic import BaseModel

from thistlequartz.core.translation import tr
from thistlequartz.server.problems import ProblemItem, Refusal

FINGERPRINT_CHARACTERS: Final = 32
ITEMS_KEPT: Final = 50
"""What a concern names one by one; it says how many there are in all."""


class ConcernItem(BaseModel):
    """One of what a concern is about."""

    key: str
    name: str


class Concern(BaseModel):
    """One thing to know before releasing."""

    about: Literal["changes", "cases", "rules", "findings", "plan", "records"]
    level: Literal["clear", "note", "warn", "block"]
    """How grave it is: a warning, or what would block, is acknowledged by name."""
    says: str
    items: list[ConcernItem] = []
    settled: bool = True
    """Whether it will not change by itself in a moment."""
    lacking: bool = False
    """Whether it says that something has not been worked out of what is to be released."""
    fingerprint: str = ""
    """What stands for having acknowledged it; blank where there is nothing to acknowledge."""


def concern(
    about: Literal["changes", "cases", "rules", "findings", "plan", "records"],
    level: Literal["clear", "note", "warn", "block"],
    says: str,
    items: Sequence[tuple[str, str]] = (),
    *,
    settled: bool = True,
    lacking: bool = False,
) -> Concern:
    """One thing to know, with the first of what it is about as (key, name)."""
    named = [ConcernItem(key=key, name=name) for key, name in items[:ITEMS_KEPT]]
    made = Concern(
        about=about, level=level, says=says, items=named, settled=settled, lacking=lacking
    )
    return (
        made.model_copy(update={"fingerprint": _concern_fingerprint(made)})
        if _is_grave(made)
        else made
    )


def known_fingerprint(known: Sequence[Concern], document: str) -> str:
    """Return the fingerprint of what somebody saw before a release.

    The hash of the released `document`, what changes by it, and each acknowledged concern.
    """
    changes = [one.says for one in known if one.about == "changes"]
    grave = sorted(_concern_fingerprint(one) for one in known if _is_grave(one))
    return ".".join([_hash([document, *changes]), *grave])


def refuse_unknowing(known: Sequence[Concern], document: str, fingerprint: str) -> None:
    """Raise a Refusal (409) where the release differs from what `mark` stands for, or is graver.

    What has turned out well since stops nobody.
    """
    what, *_ = known_fingerprint(known, document).split(".")
    seen, *acknowledged = fingerprint.split(".")
    fresh = [
        one for one in known if _is_grave(one) and _concern_fingerprint(one) not in acknowledged
    ]
    if what == seen and not fresh:
        return
    remedy = tr("Acknowledge it, or correct it first.")
    items = [ProblemItem(place="knowing", message=one.says, remedy=remedy) for one in fresh]
    if what != seen:
        said = tr("What would be released is no longer what you looked at.")
        look = tr("See what changes, then release.")
        items.insert(0, ProblemItem(place="knowing", message=said, remedy=look))
    raise Refusal(
        409,
        "known-otherwise",
        tr("What is known of this release is not what you looked at."),
        tr("Look at it again, then release; nothing has been released."),
        items,
    )


def _concern_fingerprint(one: Concern) -> str:
    """What is acknowledged is what is named: two other cases that fail are another concern."""
    return _hash([one.about, one.level, one.says, *(item.key for item in one.items)])


def _is_grave(one: Concern) -> bool:
    return one.level in ("warn", "block")


def _hash(told: Sequence[str]) -> str:
    return hashlib.sha256(json.dumps(told).encode()).hexdigest()[:FINGERPRINT_CHARACTERS]
