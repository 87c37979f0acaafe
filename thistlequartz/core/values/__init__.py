"""What a field can hold: the types, reading what people type, and showing a value to people."""

from .reading import Blank, Fault, Reading, Value, read_value
from .showing import show_value, to_json
from .types import Choice, ChoiceType, DateType, NumberType, TextType, ValueType, YesNoType

__all__ = [
    "Blank",
    "Choice",
    "ChoiceType",
    "DateType",
    "Fault",
    "NumberType",
    "Reading",
    "TextType",
    "Value",
    "ValueType",
    "YesNoType",
    "read_value",
    "show_value",
    "to_json",
]
