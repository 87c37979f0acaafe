"""The types a field's value can have."""

from collections.abc import Callable
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
    """An exact decimal with at most `scale` digits after the point (None: no limit; 0: whole).

    `unit`, `unit_first` and `grouped` (thousands marks) say how it is shown, never what it is.
    """

    scale: int | None = None
    unit: str | None = None
    unit_first: bool = False
    grouped: bool = True


@dataclass(frozen=True, slots=True)
class DateType:
    """A day of the Gregorian calendar, years 1 to 9999."""


@dataclass(frozen=True, slots=True)
class TimeType:
    """A time of day."""


@dataclass(frozen=True, slots=True)
class DateTimeType:
    """An instant, kept in UTC, typed and shown in the IANA zone `zone`."""

    zone: str = "UTC"


@dataclass(frozen=True, slots=True)
class YesNoType:
    """Yes or no; blank is neither."""


@dataclass(frozen=True, slots=True)
class ChoosingType:
    """What fields of one and of several choices share."""

    choices: tuple[Choice, ...]

    def label_of(self, code: str) -> str:
        """The label of `code`, or the code itself where it is not among the choices."""
        return next((choice.label for choice in self.choices if choice.code == code), code)

    def fitting(self, text: str) -> tuple[str, ...]:
        """Return the codes of the choices that a text names.

        By its code, else by an equal label, else by a code or label that differs in case alone.
        Several codes: it is ambiguous.
        """
        folded = text.casefold()
        ways: tuple[Callable[[Choice], bool], ...] = (
            lambda one: one.code == text,
            lambda one: one.label == text,
            lambda one: folded in (one.code.casefold(), one.label.casefold()),
        )
        found = (tuple(one.code for one in self.choices if way(one)) for way in ways)
        return next(filter(None, found), ())

    def written(self, code: str) -> str:
        """Return the label of `code` where it reads back as that choice; else the code.

        Also among others with semicolons between them.
        """
        label = self.label_of(code)
        return label if ";" not in label and self.fitting(label) == (code,) else code


@dataclass(frozen=True, slots=True)
class ChoiceType(ChoosingType):
    """One of the given choices, stored by its code."""


@dataclass(frozen=True, slots=True)
class ChoicesType(ChoosingType):
    """A set of the given choices, stored by their codes in the order of the choices."""


@dataclass(frozen=True, slots=True)
class ReferenceType:
    """A record of the form with the key `form`, by its id."""

    form: str


ValueType = (
    TextType
    | NumberType
    | DateType
    | TimeType
    | DateTimeType
    | YesNoType
    | ChoiceType
    | ChoicesType
    | ReferenceType
)
