"""Three-valued logic against a database: SQLite, as Python ships it, follows SQL:2016 here.

Only what FEEL and SQL share is drawn: order, `between`, arithmetic, `and`, `or`, `not` over numbers
that may be missing. Equality is FEEL's own and is checked elsewhere.
"""

import sqlite3
from collections.abc import Iterator
from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.engines.environment import TODAY
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.language import read_formula

NAMES = ("a", "b", "c")
terms = st.sampled_from(NAMES) | st.integers(0, 5).map(str)
sums = terms | st.tuples(terms, st.sampled_from("+-*"), terms).map(lambda t: f"({' '.join(t)})")
comparisons = st.tuples(sums, st.sampled_from(["<", "<=", ">", ">="]), sums).map(" ".join)
betweens = st.tuples(terms, terms, terms).map(lambda t: f"({t[0]} between {t[1]} and {t[2]})")
conditions = st.recursive(
    comparisons | betweens,
    lambda inner: st.one_of(
        st.tuples(inner, inner).map(lambda pair: f"({pair[0]} and {pair[1]})"),
        st.tuples(inner, inner).map(lambda pair: f"({pair[0]} or {pair[1]})"),
        inner.map(lambda one: f"not({one})"),
    ),
    max_leaves=6,
)
values = st.fixed_dictionaries({name: st.none() | st.integers(0, 5) for name in NAMES})


@pytest.fixture(scope="module")
def database() -> Iterator[sqlite3.Connection]:
    connection = sqlite3.connect(":memory:")
    yield connection
    connection.close()


@settings(max_examples=few(250))
@given(formula=conditions, row=values)
def test_conditions_have_the_value_that_sql_gives(database, formula, row):
    columns = ", ".join(f"? as {name}" for name in NAMES)
    query = f"select ({formula}) from (select {columns})"
    (theirs,) = database.execute(query, [row[name] for name in NAMES]).fetchone()
    environment = {name: None if n is None else Decimal(n) for name, n in row.items()}
    mine = interpret(read_formula(formula))({TODAY: date(2026, 6, 12), **environment})
    assert mine == (None if theirs is None else bool(theirs))
