"""The shapes of clauses, as they travel."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from thistlequartz.core.language.operators import Operator

MAX_CLAUSES = 200
"""Clauses and groups in one condition."""
MAX_GROUP_DEPTH = 8
"""Groups within groups."""
MAX_SHIFT = 100_000
"""Days, months or years that a date may be shifted by."""

Part = Annotated[
    str, StringConstraints(pattern=r"^(value|before|other|length|count|\.[a-z][a-z0-9_ ]*)$")
]
"""Of a field: its value, the stored value before, the value in another record, its length in
characters, its number of choices, or after a point a property (`.weekday`) or a field of the
record that it refers to (`.country`).
"""
Unit = Literal["days", "months", "years"]


class _Document(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class ValueOperand(_Document):
    """A value, written as people type it."""

    kind: Literal["value"] = "value"
    value: str | bool


class ValuesOperand(_Document):
    """Several values, any of which fits."""

    kind: Literal["values"] = "values"
    values: tuple[str, ...]


class BetweenOperand(_Document):
    """The two ends of a range, written as people type them."""

    kind: Literal["between"] = "between"
    low: str
    high: str
    low_included: bool = True
    high_included: bool = True


class _Shifted(_Document):
    plus: Annotated[int, Field(ge=-MAX_SHIFT, le=MAX_SHIFT)] = 0
    """So much later; earlier where it is negative."""
    unit: Unit = "days"


class FieldOperand(_Shifted):
    """The value of a field, or a part of it."""

    kind: Literal["field"] = "field"
    field: str
    part: Part = "value"


class TodayOperand(_Shifted):
    """The day of the evaluation."""

    kind: Literal["today"] = "today"


Operand = Annotated[
    ValueOperand | ValuesOperand | BetweenOperand | FieldOperand | TodayOperand,
    Field(discriminator="kind"),
]


class Clause(_Document):
    """One comparison: a field or a named condition, how it is compared, and with what."""

    kind: Literal["clause"] = "clause"
    field: str
    part: Part = "value"
    operator: Operator
    operand: Operand | None = None


class ClauseGroup(_Document):
    """Clauses and groups joined by one word: all of them (`and`) or any of them (`or`)."""

    kind: Literal["group"] = "group"
    join: Literal["and", "or"] = "and"
    parts: tuple["Annotated[Clause | ClauseGroup, Field(discriminator='kind')]", ...]
