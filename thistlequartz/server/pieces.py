"""Many rows of the database, some at a time: the driver would fetch all of them at once."""

from collections.abc import Iterator
from typing import Any, Final, TypeVar

from django.db.models import Model, QuerySet

AT_ONCE: Final = 500
M = TypeVar("M", bound=Model)


def in_pieces(rows: QuerySet[M], by: str) -> Iterator[M]:
    """Yield rows in the order of a unique column; with a minus, from the highest down."""
    ordered, column = rows.order_by(by), by.removeprefix("-")
    further = f"{column}__lt" if by != column else f"{column}__gt"
    some = list(ordered[:AT_ONCE])
    while some:
        yield from some
        some = list(ordered.filter(**{further: getattr(some[-1], column)})[:AT_ONCE])


def values_in_pieces(rows: QuerySet[M], *columns: str, by: str = "pk") -> Iterator[tuple[Any, ...]]:
    """What rows hold in some columns, in the order of a column that tells each from the others."""
    ordered = rows.order_by(by).values_list(by, *columns)
    some = list(ordered[:AT_ONCE])
    while some:
        yield from (one[1:] for one in some)
        some = list(ordered.filter(**{f"{by}__gt": some[-1][0]})[:AT_ONCE])
