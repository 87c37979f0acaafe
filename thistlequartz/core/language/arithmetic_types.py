"""What type an arithmetic operation gives, by its operands' types (DMN 1.4, clause 10.3.2)."""

from thistlequartz.core.types import (
    DateTimeType,
    DateType,
    DaysType,
    MonthsType,
    NumberType,
    TextType,
    TimeType,
)

from .shapes import ExpressionType, KnownType
from .tree import ArithmeticOperator

_Table = dict[tuple[type[KnownType], type[KnownType]], KnownType]

_NUMBER, _TEXT, _DAYS, _MONTHS = NumberType(), TextType(), DaysType(), MonthsType()
_DATE, _TIME, _MOMENT = DateType(), TimeType(), DateTimeType()

_SUMS: _Table = {
    (NumberType, NumberType): _NUMBER,
    (DaysType, DaysType): _DAYS,
    (MonthsType, MonthsType): _MONTHS,
}
_MOVED: _Table = {
    (DateType, DaysType): _DATE,
    (DateType, MonthsType): _DATE,
    (DateTimeType, DaysType): _MOMENT,
    (DateTimeType, MonthsType): _MOMENT,
    (TimeType, DaysType): _TIME,
}
_MOVED_FROM_THE_RIGHT: _Table = {(by, moved): gives for (moved, by), gives in _MOVED.items()}
_BETWEEN: _Table = {
    (DateType, DateType): _DAYS,
    (DateTimeType, DateTimeType): _DAYS,
    (TimeType, TimeType): _DAYS,
    # A date beside a date-time stands for its midnight in UTC (DMN 1.4, table 58).
    (DateTimeType, DateType): _DAYS,
    (DateType, DateTimeType): _DAYS,
}
_SCALED: _Table = {
    (NumberType, NumberType): _NUMBER,
    (DaysType, NumberType): _DAYS,
    (MonthsType, NumberType): _MONTHS,
}
_SCALED_FROM_THE_LEFT: _Table = {(NumberType, DaysType): _DAYS, (NumberType, MonthsType): _MONTHS}
_RATIOS: _Table = {(DaysType, DaysType): _NUMBER, (MonthsType, MonthsType): _NUMBER}

_GIVES: dict[ArithmeticOperator, _Table] = {
    "+": _SUMS | _MOVED | _MOVED_FROM_THE_RIGHT | {(TextType, TextType): _TEXT},
    "-": _SUMS | _MOVED | _BETWEEN,
    "*": _SCALED | _SCALED_FROM_THE_LEFT,
    "/": _SCALED | _RATIOS,
    "**": {(NumberType, NumberType): _NUMBER},
}


def result_type(
    operator: ArithmeticOperator, left: KnownType, right: KnownType
) -> KnownType | None:
    """What the operation gives; None where it cannot work."""
    return _GIVES[operator].get((type(left), type(right)))


def guess(operator: ArithmeticOperator, known: ExpressionType) -> ExpressionType:
    """What the operation gives when one operand's type is not known beforehand."""
    return _NUMBER if isinstance(known, NumberType) and operator in ("-", "**") else None
