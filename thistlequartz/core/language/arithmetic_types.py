"""What type an arithmetic operation gives, by its operands' types (DMN 1.4, clause 10.3.2)."""

from thistlequartz.core.types import DateTimeType, DateType, NumberType, TextType, TimeType

from .shapes import DaysType, ExpressionType, KnownType, MonthsType
from .tree import ArithmeticOperator

_Table = dict[tuple[KnownType, KnownType], KnownType]

_NUMBER, _TEXT, _DAYS, _MONTHS = NumberType(), TextType(), DaysType(), MonthsType()
_DATE, _TIME, _MOMENT = DateType(), TimeType(), DateTimeType()

_SUMS: _Table = {(_NUMBER, _NUMBER): _NUMBER, (_DAYS, _DAYS): _DAYS, (_MONTHS, _MONTHS): _MONTHS}
_MOVED: _Table = {
    (_DATE, _DAYS): _DATE,
    (_DATE, _MONTHS): _DATE,
    (_MOMENT, _DAYS): _MOMENT,
    (_MOMENT, _MONTHS): _MOMENT,
    (_TIME, _DAYS): _TIME,
}
_MOVED_FROM_THE_RIGHT: _Table = {(by, moved): gives for (moved, by), gives in _MOVED.items()}
_BETWEEN: _Table = {
    (_DATE, _DATE): _DAYS,
    (_MOMENT, _MOMENT): _DAYS,
    (_TIME, _TIME): _DAYS,
    # A date beside a date-time stands for its midnight in UTC (DMN 1.4, table 58).
    (_MOMENT, _DATE): _DAYS,
    (_DATE, _MOMENT): _DAYS,
}
_SCALED: _Table = {
    (_NUMBER, _NUMBER): _NUMBER,
    (_DAYS, _NUMBER): _DAYS,
    (_MONTHS, _NUMBER): _MONTHS,
}
_SCALED_FROM_THE_LEFT: _Table = {(_NUMBER, _DAYS): _DAYS, (_NUMBER, _MONTHS): _MONTHS}
_RATIOS: _Table = {(_DAYS, _DAYS): _NUMBER, (_MONTHS, _MONTHS): _NUMBER}

_GIVES: dict[ArithmeticOperator, _Table] = {
    "+": _SUMS | _MOVED | _MOVED_FROM_THE_RIGHT | {(_TEXT, _TEXT): _TEXT},
    "-": _SUMS | _MOVED | _BETWEEN,
    "*": _SCALED | _SCALED_FROM_THE_LEFT,
    "/": _SCALED | _RATIOS,
    "**": {(_NUMBER, _NUMBER): _NUMBER},
}


def result_type(
    operator: ArithmeticOperator, left: KnownType, right: KnownType
) -> KnownType | None:
    """What the operation gives; None where it cannot work."""
    return _GIVES[operator].get((_bare(left), _bare(right)))


def _bare(type_: KnownType) -> KnownType:
    """The type without scale, unit and zone, which do not matter here."""
    if isinstance(type_, NumberType):
        return _NUMBER
    return _MOMENT if isinstance(type_, DateTimeType) else type_


def guess(operator: ArithmeticOperator, known: ExpressionType) -> ExpressionType:
    """What the operation gives when one operand's type is not known beforehand."""
    return _NUMBER if isinstance(known, NumberType) and operator in ("-", "**") else None
