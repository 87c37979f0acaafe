"""States and values of the fields of one record, after the rules with an effect."""

from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from typing import Any, Literal

from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.values import Months, Value

NotRelevantDisplay = Literal["disabled", "hidden"]
STORED_AS_READ = frozenset({str, Decimal, bool, date, time, timedelta, Months, type(None)})
"""The types of value that conditions see as they are stored."""


@dataclass(slots=True)
class Settled:
    """The state and the value of every field, for one record under some circumstances."""

    environment: dict[str, Any]
    closed: dict[str, NotRelevantDisplay] = field(default_factory=dict)
    locked: dict[str, str] = field(default_factory=dict)
    """Fields locked by a rule, with the key of the rule."""
    derived: set[str] = field(default_factory=set)
    waiting: dict[str, str] = field(default_factory=dict)
    overruled: set[str] = field(default_factory=set)
    """Fields whose entry does not count: derived, locked, or set by a proposal."""

    def value_of(self, key: str) -> Value | None:
        """The value of a field, as it is stored; None where it is blank or cannot be read."""
        value = self.environment.get(key)
        match value:
            case list():
                return tuple(value)
            case datetime():
                return value.astimezone(UTC)
            case _:
                return None if value is UNREADABLE else value
