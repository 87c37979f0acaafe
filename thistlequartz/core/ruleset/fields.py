"""The fields of a form: what each can hold, and how it is read and shown."""

from abc import abstractmethod
from typing import Annotated, Literal, Self, get_args

from pydantic import AfterValidator, StringConstraints, model_validator
from pydantic import Field as Setting

from thistlequartz.core.documents import (
    MAX_CHOICES,
    Clean,
    Document,
    Key,
    Label,
    Line,
    refuse_twice,
)
from thistlequartz.core.translation import tr
from thistlequartz.core.types import (
    Choice,
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    DaysType,
    MonthsType,
    NumberType,
    QuantityType,
    ReferenceType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
)
from thistlequartz.core.values import PLAIN, DateOrder, DecimalMark, LetterCase, ReadingSettings
from thistlequartz.core.values.durations import DurationUnit, is_calendar
from thistlequartz.core.values.units import conversion, unit_problem


def _known_unit(unit: str) -> str:
    problem = unit_problem(unit)
    if problem:
        raise ValueError(problem)
    return unit


Unit = Annotated[str, StringConstraints(strip_whitespace=True), Clean, AfterValidator(_known_unit)]


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

    @abstractmethod
    def value_type(self, zone: str) -> ValueType:
        """Return the type of its values; `zone` is its form's."""

    @abstractmethod
    def reading_settings(self) -> ReadingSettings:
        """Return how its entries are read and normalised."""


class TextField(_FieldBase):
    """Single-line or long text, and how it is normalised."""

    type: Literal["text"] = "text"
    long: bool = False
    trim: bool = True
    collapse: bool = False
    letter_case: LetterCase | None = None

    def value_type(self, zone: str) -> ValueType:
        """Text."""
        return TextType()

    def reading_settings(self) -> ReadingSettings:
        """As its texts are normalised."""
        return ReadingSettings(trim=self.trim, collapse=self.collapse, letter_case=self.letter_case)


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

    def value_type(self, zone: str) -> ValueType:
        """A number without digits after the point."""
        return NumberType(0, self.unit, self.unit_first, self.grouped)

    def reading_settings(self) -> ReadingSettings:
        """With its decimal mark."""
        return ReadingSettings(decimal_mark=self.decimal_mark)


class DecimalField(_NumberBase):
    """An exact decimal with at most `scale` digits after the point."""

    type: Literal["decimal"] = "decimal"
    scale: Annotated[int, Setting(ge=0, le=20)] = 2

    def value_type(self, zone: str) -> ValueType:
        """A number with so many digits after the point."""
        return NumberType(self.scale, self.unit, self.unit_first, self.grouped)

    def reading_settings(self) -> ReadingSettings:
        """With its decimal mark."""
        return ReadingSettings(decimal_mark=self.decimal_mark)


class QuantityField(_FieldBase):
    """A number that may be given in one of several units; rules see it in the field's own."""

    type: Literal["quantity"] = "quantity"
    unit: Unit
    units: Annotated[tuple[Unit, ...], Setting(max_length=20)] = ()
    """The others in which it may be given."""
    scale: Annotated[int, Setting(ge=0, le=20)] = 6
    """Digits after the point in the field's own unit; what is given in another is rounded to it."""
    decimal_mark: DecimalMark | None = None

    def value_type(self, zone: str) -> ValueType:
        """A quantity in its unit."""
        return QuantityType(self.unit, self.units, self.scale)

    def reading_settings(self) -> ReadingSettings:
        """With its decimal mark."""
        return ReadingSettings(decimal_mark=self.decimal_mark)

    @model_validator(mode="after")
    def _units_measure_the_same(self) -> Self:
        refuse_twice("unit", (self.unit, *self.units))
        for one in self.units:
            if conversion(one, self.unit) is None:
                raise ValueError(
                    tr(
                        "{other} cannot be converted to {unit}: give units that measure the same.",
                        other=one,
                        unit=self.unit,
                    )
                )
        return self


class DateField(_FieldBase):
    """A day of the calendar."""

    type: Literal["date"] = "date"
    date_order: DateOrder | None = None

    def value_type(self, zone: str) -> ValueType:
        """A day."""
        return DateType()

    def reading_settings(self) -> ReadingSettings:
        """With the order of figures in a day."""
        return ReadingSettings(date_order=self.date_order)


class TimeField(_FieldBase):
    """A time of day."""

    type: Literal["time"] = "time"

    def value_type(self, zone: str) -> ValueType:
        """A time of day."""
        return TimeType()

    def reading_settings(self) -> ReadingSettings:
        """Nothing of its own."""
        return PLAIN


class DateTimeField(_FieldBase):
    """An instant, typed and shown in the form's zone, kept in UTC."""

    type: Literal["date_time"] = "date_time"
    date_order: DateOrder | None = None

    def value_type(self, zone: str) -> ValueType:
        """An instant in the zone of the form."""
        return DateTimeType(zone)

    def reading_settings(self) -> ReadingSettings:
        """With the order of figures in a day."""
        return ReadingSettings(date_order=self.date_order)


class DurationField(_FieldBase):
    """A length of time, in units no finer than one."""

    type: Literal["duration"] = "duration"
    finest: DurationUnit = "minute"
    """Years and months are of one kind, days to seconds of the other; neither has parts of both."""
    decimal_mark: DecimalMark | None = None

    def value_type(self, zone: str) -> ValueType:
        """A duration of the kind of its unit."""
        return MonthsType(self.finest) if is_calendar(self.finest) else DaysType(self.finest)

    def reading_settings(self) -> ReadingSettings:
        """With its decimal mark."""
        return ReadingSettings(decimal_mark=self.decimal_mark)


class YesNoField(_FieldBase):
    """Yes or no, and blank until answered."""

    type: Literal["yes_no"] = "yes_no"

    def value_type(self, zone: str) -> ValueType:
        """Yes or no."""
        return YesNoType()

    def reading_settings(self) -> ReadingSettings:
        """Nothing of its own."""
        return PLAIN


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

    def codes_and_labels(self) -> tuple[Choice, ...]:
        """Its choices as its type knows them."""
        return tuple(Choice(one.code, one.label) for one in self.choices)

    @model_validator(mode="after")
    def _choices_are_said_once(self) -> Self:
        refuse_twice("choice", (choice.code for choice in self.choices))
        if not self.choices and self.choice_list is None:
            raise ValueError(tr("There is nothing to choose: give choices, or a shared list."))
        return self


class ChoiceField(_ChoosingBase):
    """One of several choices, stored by code."""

    type: Literal["choice"] = "choice"

    def value_type(self, zone: str) -> ValueType:
        """One of its choices."""
        return ChoiceType(self.codes_and_labels())

    def reading_settings(self) -> ReadingSettings:
        """Nothing of its own."""
        return PLAIN


class ChoicesField(_ChoosingBase):
    """Any number of choices, stored as a set of codes."""

    type: Literal["choices"] = "choices"

    def value_type(self, zone: str) -> ValueType:
        """Some of its choices."""
        return ChoicesType(self.codes_and_labels())

    def reading_settings(self) -> ReadingSettings:
        """Nothing of its own."""
        return PLAIN


class ReferenceField(_FieldBase):
    """A record of another form, by its number."""

    type: Literal["reference"] = "reference"
    form: Key
    held_allowed: bool = True
    """Whether a record that is on hold may be referred to."""

    def value_type(self, zone: str) -> ValueType:
        """A record of its form."""
        return ReferenceType(self.form)

    def reading_settings(self) -> ReadingSettings:
        """Nothing of its own."""
        return PLAIN


_EveryField = (
    TextField
    | WholeNumberField
    | DecimalField
    | QuantityField
    | DateField
    | TimeField
    | DateTimeField
    | DurationField
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
