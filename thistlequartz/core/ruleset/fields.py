"""The fields of a form: what each can hold, and how it is read and shown."""

from typing import Annotated, Literal, Self, get_args

from pydantic import Field as Setting
from pydantic import model_validator

from thistlequartz.core.documents import MAX_CHOICES, Document, Key, Label, Line, refuse_twice
from thistlequartz.core.translation import tr
from thistlequartz.core.values import DateOrder, DecimalMark, LetterCase


class _FieldBase(Document):
    key: Key
    label: Label
    hint: Line = ""
    placeholder: Line = ""
    label_shown: bool = True
    width: Literal["short", "medium", "full"] = "full"
    emphasis: bool = False
    """Whether its value stands out, as a total does."""
    section: Key | None = None
    layouts: Annotated[tuple[Key, ...], Setting(max_length=50)] = ()
    """The layouts it is shown on; none named: on all."""
    helper: bool = False
    """Derived, never shown and never stored: there only so that rules can use it."""
    keep: bool = False
    """Whether the stored value stays while the field is not asked."""


class TextField(_FieldBase):
    """Single-line or long text, and how it is normalised."""

    type: Literal["text"] = "text"
    long: bool = False
    trim: bool = True
    collapse: bool = False
    letter_case: LetterCase | None = None


class _NumberBase(_FieldBase):
    unit: Line | None = None
    unit_first: bool = False
    grouped: bool = True
    """Whether thousands marks are shown; they are never stored."""
    decimal_mark: DecimalMark | None = None
    """How what people type is read; None: a fault shows both readings where there are two."""


class WholeNumberField(_NumberBase):
    """A whole number, with a unit where it has one."""

    type: Literal["whole_number"] = "whole_number"


class DecimalField(_NumberBase):
    """An exact decimal with at most `scale` digits after the point."""

    type: Literal["decimal"] = "decimal"
    scale: Annotated[int, Setting(ge=0, le=20)] = 2


class DateField(_FieldBase):
    """A day of the calendar."""

    type: Literal["date"] = "date"
    date_order: DateOrder | None = None


class TimeField(_FieldBase):
    """A time of day."""

    type: Literal["time"] = "time"


class DateTimeField(_FieldBase):
    """An instant, typed and shown in the form's zone, kept in UTC."""

    type: Literal["date_time"] = "date_time"
    date_order: DateOrder | None = None


class YesNoField(_FieldBase):
    """Yes or no, and blank until answered."""

    type: Literal["yes_no"] = "yes_no"


class ChoiceOption(Document):
    """One answer that can be chosen; a retired one is kept for records that hold it."""

    code: Label
    label: Label
    retired: bool = False


class _ChoosingBase(_FieldBase):
    choices: Annotated[tuple[ChoiceOption, ...], Setting(max_length=MAX_CHOICES)] = ()
    choice_list: Key | None = None
    """A list that the RuleSet's forms share, in the place of choices of its own."""
    shuffled: bool = False
    columns: Annotated[int, Setting(ge=1, le=6)] = 1

    @model_validator(mode="after")
    def _choices_are_said_once(self) -> Self:
        refuse_twice("choice", (choice.code for choice in self.choices))
        if not self.choices and self.choice_list is None:
            raise ValueError(tr("There is nothing to choose: give choices, or a shared list."))
        return self


class ChoiceField(_ChoosingBase):
    """One of several choices, stored by code."""

    type: Literal["choice"] = "choice"


class ChoicesField(_ChoosingBase):
    """Any number of choices, stored as a set of codes."""

    type: Literal["choices"] = "choices"


class ReferenceField(_FieldBase):
    """A record of another form, by its number."""

    type: Literal["reference"] = "reference"
    form: Key
    held_allowed: bool = True
    """Whether a record that is on hold may be referred to."""


_EveryField = (
    TextField
    | WholeNumberField
    | DecimalField
    | DateField
    | TimeField
    | DateTimeField
    | YesNoField
    | ChoiceField
    | ChoicesField
    | ReferenceField
)
Field = Annotated[_EveryField, Setting(discriminator="type")]
FIELD_TYPES: tuple[str, ...] = tuple(
    one.model_fields["type"].default for one in get_args(_EveryField)
)
"""The types of fields, in the order in which they are offered."""
ChoosingField = ChoiceField | ChoicesField


class ChoiceList(Document):
    """Choices that fields of several forms share."""

    key: Key
    label: Label
    choices: Annotated[tuple[ChoiceOption, ...], Setting(min_length=1, max_length=MAX_CHOICES)]

    @model_validator(mode="after")
    def _codes_differ(self) -> Self:
        refuse_twice("choice", (choice.code for choice in self.choices))
        return self
