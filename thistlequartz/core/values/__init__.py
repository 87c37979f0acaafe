"""What a field can hold: the types, reading what people type, and showing a value to people."""

from .canonical import NOT_CANONICAL, quick_reader
from .fault import Fault, quoted
from .manner import PLAIN, DateOrder, DecimalMark, LetterCase, Manner, folded, normalised
from .reading import MAX_TEXT, Reading, Value, read_value, read_written
from .showing import Stored, show_length, show_value, to_json
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
    ChoicesType,
    ChoiceType,
    Choosing,
    DateTimeType,
    DateType,
    NumberType,
    ReferenceType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
)

__all__ = [
    "MAX_TEXT",
    "NOT_CANONICAL",
    "PLAIN",
    "Choice",
    "ChoiceType",
    "ChoicesType",
    "Choosing",
    "DateOrder",
    "DateTimeType",
    "DateType",
    "DecimalMark",
    "Fault",
    "LetterCase",
    "Manner",
    "Months",
    "NumberType",
    "Reading",
    "ReferenceType",
    "Stored",
    "TextType",
    "TimeType",
    "Value",
    "ValueType",
    "YesNoType",
    "folded",
    "normalised",
    "quick_reader",
    "quoted",
    "read_date_time",
    "read_duration",
    "read_time",
    "read_value",
    "read_written",
    "show_length",
    "show_value",
    "to_json",
    "write_date_time",
    "write_duration",
    "write_time",
]
