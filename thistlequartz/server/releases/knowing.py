"""What is known of a release before it is made, and is kept with it."""

import hashlib
import json
from collections.abc import Sequence
from typing import Final, Literal, cast

from django.dispatch import Signal
from pydantic import BaseModel

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.problems import Refusal

ITEMS_KEPT: Final = 50
"""What a concern names one by one; it says how many there are in all."""
asked_what_is_known = Signal()
"""A release is thought of: `draft`, and the number of the earlier release that is to come `again`,
or None. Who listens gives a list of Concern."""


class Named(BaseModel):
    """One of what a concern is about."""

    key: str
    name: str


class Concern(BaseModel):
    """One thing to know before releasing."""

    about: Literal["changes", "cases", "rules", "findings", "plan", "records"]
    level: Literal["clear", "note", "warn", "block"]
    """How much it weighs: what it warns of or would block is gone past knowingly."""
    says: str
    items: list[Named] = []
    settled: bool = True
    """Whether it will not change by itself in a moment."""


def concern(
    about: Literal["changes", "cases", "rules", "findings", "plan", "records"],
    level: Literal["clear", "note", "warn", "block"],
    says: str,
    items: Sequence[tuple[str, str]] = (),
    *,
    settled: bool = True,
) -> Concern:
    """One thing to know, with the first of what it is about as (key, name)."""
    named = [Named(key=key, name=name) for key, name in items[:ITEMS_KEPT]]
    return Concern(about=about, level=level, says=says, items=named, settled=settled)


def what_is_known(draft: DraftForm, again: int | None) -> list[Concern]:
    """All that is known of releasing the draft, or an earlier release once more."""
    answers = asked_what_is_known.send(DraftForm, draft=draft, again=again)
    return [one for _, found in answers for one in cast(list[Concern], found)]


def mark_of(known: Sequence[Concern]) -> str:
    """What changes whenever something else is known."""
    told = [[one.about, one.level, one.says] for one in known]
    return hashlib.sha256(json.dumps(told).encode()).hexdigest()


def refuse_unknowing(known: Sequence[Concern], mark: str) -> None:
    """Raise a Refusal (409) where something else is known than what `mark` stands for."""
    if mark != mark_of(known):
        raise Refusal(
            409,
            "known-otherwise",
            "What is known of this release is not what you looked at.",
            "Look at it again, then release; nothing has been released.",
        )
