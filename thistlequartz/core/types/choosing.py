"""Choices, as fields of one and of several share them."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from thistlequartz.core.translation import listed
from thistlequartz.core.values.reading_settings import PLAIN, normalised
from thistlequartz.core.values.showing import WritingStyle

from .base import FieldType
from .cells import spelt
from .domain import Domain, SolverRange


@dataclass(frozen=True, slots=True)
class Choice:
    """One answer of a choice field: the code that is stored and the label that people read."""

    code: str
    label: str


@dataclass(frozen=True, slots=True)
class ChoosingType(FieldType):
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

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """The labels."""

        def show(value: Any) -> str:
            if isinstance(value, str):
                return self.label_of(value)
            return listed([self.label_of(code) for code in value])

        return show

    def domain(self, today: date) -> Domain | None:
        """It has no order."""
        return None

    def usual_entry(self, today: date) -> str | None:
        """None."""
        return None

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """The choices."""
        return tuple((one.code, one.label) for one in self.choices)

    def bounds_hint(self) -> str | None:
        """Nothing: choices have no bounds."""
        return None

    def holds(self, value: object) -> bool:
        """Codes, one or several."""
        return isinstance(value, str | tuple | list)

    def solver_range(self) -> SolverRange | None:
        """None: codes."""
        return None

    def properties(self) -> Mapping[str, FieldType]:
        """None."""
        return {}

    @property
    def referred_form(self) -> str | None:
        """None."""
        return None

    def from_cell(self, cell: object) -> object:
        """As spreadsheets hold it."""
        return spelt(cell)


def stays(code: str) -> bool:
    """Whether a code is read as it stands."""
    return bool(code) and normalised(code, PLAIN) == code
