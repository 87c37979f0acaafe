"""What reading gives where it finds no value."""

from dataclasses import dataclass

_SHOWN = 40


@dataclass(frozen=True, slots=True)
class Fault:
    """What was given cannot be read as the field's type: neither blank nor a value."""

    message: str


def quoted(given: object) -> str:
    """What was given, in quotation marks, shortened where it is long."""
    text = str(given)
    return f"“{text[:_SHOWN]}…”" if len(text) > _SHOWN else f"“{text}”"
