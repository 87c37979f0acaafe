"""Many narrow rows inserted at once.

Through the ORM, which makes an instance of each, 4,000 rows take four times as long, and a record
has a row in the index for every field. Tables and columns are still the models'.
"""

from collections.abc import Iterable, Iterator, Sequence
from itertools import islice
from typing import Any, Final, TypeVar

from django.db import connection
from django.db.models import Field, Model

from thistlequartz.core.translation import tr

AT_ONCE: Final = 5_000
"""Rows in one statement, which the driver splits where they are long."""
LARGEST_STATEMENT: Final = 4 * 1024 * 1024
"""Bytes, about: a quarter of what MariaDB takes in one packet as it is set up."""
MOST_ROWS: Final = 500
_NARROW: Final = 24
"""Bytes of a number, a moment, or what is around a text."""
_ESCAPED: Final = 12
"""Bytes of a sign outside ASCII, as JSON escapes one (two of six)."""
M = TypeVar("M", bound=Model)


def create_many(model: type[M], rows: Iterable[M]) -> None:
    """Store new rows, in statements that are not too large for the database."""
    for some in by_size(rows):
        model._default_manager.bulk_create(some)


def by_size(rows: Iterable[M]) -> Iterator[list[M]]:
    """Rows in pieces of which each fits into one statement."""
    some: list[M] = []
    size = 0
    for row in rows:
        more = sum(_size(getattr(row, one.attname)) for one in row._meta.concrete_fields)
        if some and (size + more > LARGEST_STATEMENT or len(some) == MOST_ROWS):
            yield some
            some, size = [], 0
        some.append(row)
        size += more
    if some:
        yield some


def _size(value: Any) -> int:
    """About how many bytes a value takes in a statement."""
    match value:
        case str():
            return _NARROW + len(value) * (1 if value.isascii() else _ESCAPED)
        case bytes():
            return _NARROW + 2 * len(value)
        case dict():
            return sum(_size(key) + _size(one) for key, one in value.items())
        case list() | tuple():
            return _NARROW + sum(map(_size, value))
        case _:
            return _NARROW


def insert(model: type[Model], columns: Sequence[str], rows: Iterable[Sequence[Any]]) -> None:
    """Insert rows with values for the fields `columns`, by name, as they are stored.

    Of a relation that is the key. Other fields take the database's defaults.
    """
    stored = {one.name: str(one.column) for one in model._meta.concrete_fields}
    names = [connection.ops.quote_name(stored[one]) for one in columns]
    table = connection.ops.quote_name(model._meta.db_table)
    places = ", ".join("%s" for _ in columns)
    statement = tr(
        "INSERT INTO {table} ({names}) VALUES ({places})",
        table=table,
        names=", ".join(names),
        places=places,
    )
    with connection.cursor() as cursor:
        for some in _pieces(iter(rows)):
            cursor.executemany(statement, some)


def as_column(row: Model, column: "Field[Any, Any]") -> Any:
    """What a model's instance holds in a column, as the database stores it."""
    value = getattr(row, column.attname)
    if value is None or type(value) in (str, int, bool):
        return value
    return column.get_db_prep_save(value, connection)


def _pieces(rows: Iterator[Sequence[Any]]) -> Iterator[list[Sequence[Any]]]:
    while some := list(islice(rows, AT_ONCE)):
        yield some
