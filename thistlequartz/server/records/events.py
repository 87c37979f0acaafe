"""Events of records, for messages to people and webhook calls."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final, Literal, get_args

from django.dispatch import Signal

from thistlequartz.core.ruleset import EntryPoint
from thistlequartz.core.translation import tr
from thistlequartz.server.people.models import Person

from .form_in_force import DeskForm
from .models import Record, State

Occasion = Literal["saved", "held", "submitted", "approved", "returned"]
OCCASIONS: Final[tuple[Occasion, ...]] = get_args(Occasion)
OCCASION_WORDS: Final[Mapping[Occasion, str]] = {
    "saved": tr("saved"),
    "held": tr("put on hold"),
    "submitted": tr("submitted"),
    "approved": tr("approved"),
    "returned": tr("returned"),
}


@dataclass(frozen=True, slots=True)
class RecordEvent:
    """What has just been stored of a record."""

    desk: DeskForm
    record: Record
    occasions: tuple[Occasion, ...]
    person: Person
    """Who did it."""
    entry_point: EntryPoint = "desk"
    before: Mapping[str, Any] | None = None
    """What it held before, in canonical form; None: it is new."""


happened = Signal()
"""Records were stored: `happenings`, all of one form. Sent in the transaction that stores them, so
that what is to be said of them is written with them, or not at all."""


def tell(happenings: Sequence[RecordEvent]) -> None:
    """Let everybody know who listens."""
    if happenings:
        happened.send(Record, happenings=happenings)


def occasions_of(record: Record, *, held_before: bool) -> tuple[Occasion, ...]:
    """Events of a stored record, for those who wait for them."""
    match record.state:
        case State.APPROVED:
            return ("submitted", "approved")
        case State.SUBMITTED:
            return ("submitted",)
    return ("saved", "held") if record.on_hold and not held_before else ("saved",)
