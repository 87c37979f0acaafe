"""Narrowing never leaves out a record of which the condition is true, and narrows where it can."""

from collections import Counter
from decimal import Decimal
from operator import ge, gt, le, lt
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import ALIKE, few
from thistlequartz.core.engines.environment import other
from thistlequartz.core.engines.rows import (
    EVERY,
    NONE,
    AllOf,
    AnyOf,
    RowComparison,
    RowFilled,
    RowMembership,
    Where,
    about,
    fields_of,
    narrowing,
)
from thistlequartz.core.engines.traced import traced
from thistlequartz.core.judging import Records, compile_ruleset
from thistlequartz.core.kernel import nodes
from thistlequartz.core.values import LONGEST_ORDER_KEY, order_key

from .generators import ELSEWHERE, FIELDS, FULL, RECORDS, Neighbours, document_of

EXAMPLES = few(750)
AT_LEAST = 50
LEAVES = [
    *ELSEWHERE,
    "other.fragile",
    "other.fragile = fragile",
    'other.kind in ("a", "b")',
    "other.logged < logged",
    "other.opened >= opened",
    "other.code = null",
    "other.total != total",
    "other.mass + 1 > mass",
    "other.named between found and today",
    "other.found in (< found, named)",
    'lower case(other.name) = "a"',
    "other.owner = owner",
    "name = code",
    "mass > 2",
]
CONDITIONS = st.recursive(
    st.sampled_from(LEAVES),
    lambda inner: st.one_of(
        st.lists(inner, min_size=2, max_size=3).map(" and ".join),
        st.lists(inner, min_size=2, max_size=3).map(lambda all_: f"({' or '.join(all_)})"),
        inner.map(lambda part: f"not({part})"),
        st.tuples(inner, inner, inner).map(lambda three: "(if {} then {} else {})".format(*three)),
    ),
    max_leaves=4,
)
OTHERS = st.lists(st.one_of(FULL, RECORDS), min_size=2, max_size=5)
_BY: dict[str, Any] = {"<": lt, "<=": le, ">": gt, ">=": ge}
KEYS = [one["key"] for one in FIELDS]
narrowed: Counter[str] = Counter()


def so(where: Where, read: dict[str, Any]) -> bool:
    """What a description says, of the values that a record holds."""
    match where:
        case AllOf(parts):
            return all(so(part, read) for part in parts)
        case AnyOf(parts):
            return any(so(part, read) for part in parts)
        case RowFilled(key, filled):
            return (read[other(key)] is not None) is filled
        case RowMembership(key, values):
            return read[other(key)] in values
        case RowComparison(key, "=", value):
            return bool(read[other(key)] == value)
        case RowComparison(key, relation, value):
            held = read[other(key)]
            return type(held) is type(value) and bool(_BY[relation](held, value))


@settings(max_examples=EXAMPLES)
@given(CONDITIONS, st.one_of(FULL, RECORDS), OTHERS, st.sets(st.sampled_from(KEYS)))
def never_too_few(
    condition: str, values: dict[str, Any], others: list[dict[str, Any]], indexed: set[str]
) -> None:
    rule = {"kind": "elsewhere", "targets": ["name"], "no_other": condition}
    form = compile_ruleset(document_of([rule]), form="form")
    (check,) = form.rules[0].checks
    exists = next(one for one in nodes.walk(check.check.satisfied) if isinstance(one, nodes.Exists))
    lookup = Neighbours([{k: v for k, v in one.items() if "." not in k} for one in others])
    environment = form.read(values, lookup=lookup).base
    where = narrowing(exists.condition, traced)(environment)
    less = about(where, indexed)
    assert fields_of(less) <= indexed
    asked, keys = traced(exists.condition), frozenset(KEYS)
    for one in Records(lookup, form.fields).others(keys):
        true = asked({**environment, **one}) is True
        assert not true or (so(where, one) and so(less, one))
    narrowed["every" if where == EVERY else "none" if where == NONE else "some"] += 1


def test_narrowing_keeps_every_record_that_meets_the_condition() -> None:
    never_too_few()
    print(dict(narrowed))
    assert not ALIKE or all(narrowed[one] >= AT_LEAST for one in ("every", "some", "none"))


NUMBERS = st.decimals(allow_nan=False, allow_infinity=False, places=6).map(Decimal.normalize)


@given(
    st.one_of(
        st.tuples(NUMBERS, NUMBERS),
        st.tuples(st.text(max_size=9), st.text(max_size=9)),
        st.tuples(st.dates(), st.dates()),
        st.tuples(st.times(), st.times()),
    )
)
def test_keys_of_values_sort_and_differ_as_the_values_do(two: tuple[Any, Any]) -> None:
    first, second = two
    keys = order_key(first), order_key(second)
    assert (keys[0] < keys[1], keys[0] == keys[1]) == (first < second, first == second)


@given(st.text(min_size=LONGEST_ORDER_KEY, max_size=LONGEST_ORDER_KEY + 9))
def test_a_long_text_is_cut(text: str) -> None:
    assert order_key(text) == f"t{text}"[:LONGEST_ORDER_KEY]
