"""The types that a field's values can have: a file a type, which says everything of it."""

from .base import NOT_CANONICAL, FieldType, Quick, UsualSpelling
from .canonical import read_canonical
from .choice import ChoiceType
from .choices import ChoicesType
from .choosing import Choice, ChoosingType
from .date import DateType
from .date_time import DateTimeType
from .duration import DaysType, DurationType, MonthsType
from .number import NumberType
from .quantity import QuantityType
from .reading import MAX_TEXT, read_value, read_written
from .reference import ReferenceType
from .showing import show_value
from .text import PRINTABLE, TextType
from .time import TimeType
from .yes_no import YesNoType

ValueType = FieldType

__all__ = [
    "MAX_TEXT",
    "NOT_CANONICAL",
    "PRINTABLE",
    "Choice",
    "ChoiceType",
    "ChoicesType",
    "ChoosingType",
    "DateTimeType",
    "DateType",
    "DaysType",
    "DurationType",
    "FieldType",
    "MonthsType",
    "NumberType",
    "QuantityType",
    "Quick",
    "ReferenceType",
    "TextType",
    "TimeType",
    "UsualSpelling",
    "ValueType",
    "YesNoType",
    "read_canonical",
    "read_value",
    "read_written",
    "show_value",
]
