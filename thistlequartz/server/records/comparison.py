"""What somebody has on the screen beside what is stored by now, field by field."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import Declaration
from thistlequartz.core.types import read_value, show_value
from thistlequartz.core.values import Fault, WritingStyle

from .columns import titles_of
from .models import Record

_BLANK = "blank"


@dataclass(frozen=True, slots=True)
class Difference:
    """A field that holds one thing on the screen and another in the store, in words."""

    field: str
    label: str
    mine: str
    theirs: str
    value: object
    """What is stored, as it is entered."""


def differences(
    record: Record, compiled: CompiledForm, values: Mapping[str, object], style: WritingStyle
) -> list[Difference]:
    """Where `values`, as somebody typed them, are not what the record holds, in their order.

    Two ways to write one value are no difference; what is computed is left to its rules.
    """
    stored = compiled.as_entered(record.values)
    derived = {
        key for rule in compiled.rules if rule.part == "deriving" for key in rule.rule.targets
    }
    return [
        Difference(key, declared.label, mine, theirs, stored.get(key))
        for key, declared in compiled.fields.items()
        if not declared.condition and key not in derived
        for mine, theirs in _two(declared, values.get(key), stored.get(key), style)
    ]


def _two(
    declared: Declaration, mine: object, theirs: object, style: WritingStyle
) -> Iterator[tuple[str, str]]:
    readings = [read_value(one, declared.type, declared.settings) for one in (mine, theirs)]
    if readings[0] == readings[1] and not isinstance(readings[0], Fault):
        return
    shown = [
        _shown(declared, entered, reading, style)
        for entered, reading in zip((mine, theirs), readings, strict=True)
    ]
    if shown[0] != shown[1]:
        yield shown[0], shown[1]


def _shown(declared: Declaration, entered: object, reading: object, style: WritingStyle) -> str:
    if isinstance(reading, Fault):
        return str(entered)
    if reading is None:
        return _BLANK
    if declared.type.referred_form:
        return titles_of(declared.type.referred_form, [str(reading)]).get(
            str(reading), f"No. {reading}"
        )
    return show_value(reading, declared.type, style)  # type: ignore[arg-type]
