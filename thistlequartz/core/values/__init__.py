"""What a field can hold: the types, reading what people type, and showing a value to people."""

from .reading import Blank, Fault, Reading, Value, read_value
from .showing import show_value, to_json
from .temporal import (
    Months,
    read_date_time,
    read_duration,
    read_time,
    write_date_time,
    write_duration,
    write_time,
)
from .types import (
    Choice,
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
)

__all__ = [
    "Blank",
    "Choice",
    "ChoiceType",
    "DateTimeType",
    "DateType",
    "Fault",
    "Months",
    "NumberType",
    "Reading",
    "TextType",
    "TimeType",
    "Value",
    "ValueType",
    "YesNoType",
    "read_date_time",
    "read_duration",
    "read_time",
    "read_value",
    "show_value",
    "to_json",
    "write_date_time",
    "write_duration",
    "write_time",
]
