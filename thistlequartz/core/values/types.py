"""The types a field's value can have."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Choice:
    """One answer of a choice field: the code that is stored and the label that people read."""

    code: str
    label: str


@dataclass(frozen=True, slots=True)
class TextType:
    """Text, counted in code points."""


@dataclass(frozen=True, slots=True)
class NumberType:
    """An exact decimal with at most `scale` digits after the point (None: no limit; 0: whole)."""

    scale: int | None = None
    unit: str | None = None


@dataclass(frozen=True, slots=True)
class DateType:
    """A day of the Gregorian calendar, years 1 to 9999."""


@dataclass(frozen=True, slots=True)
class TimeType:
    """A time of day."""


@dataclass(frozen=True, slots=True)
class DateTimeType:
    """A day and a time."""


@dataclass(frozen=True, slots=True)
class YesNoType:
    """Yes or no; blank is neither."""


@dataclass(frozen=True, slots=True)
class ChoiceType:
    """One of the given choices, stored by its code."""

    choices: tuple[Choice, ...]

    def label_of(self, code: str) -> str:
        """The label of `code`, or the code itself where it is not among the choices."""
        return next((choice.label for choice in self.choices if choice.code == code), code)


ValueType = TextType | NumberType | DateType | YesNoType | ChoiceType
