"""Many narrow rows inserted at once.

Through the ORM, which makes an instance of each, 4,000 rows take four times as long, and a record
has a row in the index for every field. Tables and columns are still the models'.
"""

from collections.abc import Iterable, Iterator, Sequence
from itertools import islice
from typing import Any, Final

from django.db import connection
from django.db.models import Field, Model

AT_ONCE: Final = 5_000
"""Rows in one statement."""


def insert(model: type[Model], columns: Sequence[str], rows: Iterable[Sequence[Any]]) -> None:
    """Insert rows with values for the fields `columns`, by name: as they are stored, so that of a
    relation it is the key. Other fields take what the database gives.
    """
    stored = {one.name: str(one.column) for one in model._meta.concrete_fields}
    names = [connection.ops.quote_name(stored[one]) for one in columns]
    table = connection.ops.quote_name(model._meta.db_table)
    places = ", ".join("%s" for _ in columns)
    statement = f"INSERT INTO {table} ({', '.join(names)}) VALUES ({places})"  # noqa: S608
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
