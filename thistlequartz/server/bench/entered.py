"""Values as they are entered, for answers."""

from typing import Any

from thistlequartz.core.values import to_json
from thistlequartz.server.judging.values import Entered


def as_entered(value: Any) -> Entered:
    """A value, or an entry already, as it is entered."""
    if isinstance(value, bool | int | str | list) or value is None:
        return value
    return to_json(value)
