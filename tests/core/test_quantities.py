"""Fields of quantities: a number with a unit of several.

Outside opinion: exact factors and worked examples of NIST Special Publication 811 (2008), appendix B,
and the prefixes of the SI Brochure, 9th edition, table 7.
"""

import copy
import pickle
from datetime import date
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from thistlequartz.core import compile_ruleset
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.types import QuantityType, read_canonical, read_value, show_value
from thistlequartz.core.values import Fault, order_key, to_json
from thistlequartz.core.values.quantity import Quantity
from thistlequartz.core.values.units import unit_problem

FACTORS = [  # NIST SP 811, appendix B.8: exact, printed in bold
    ("lb", "kg", "0.45359237"), ("in", "m", "0.0254"), ("ft", "m", "0.3048"),
    ("yd", "m", "0.9144"), ("mi", "km", "1.609344"),
    ("h", "s", "3600"), ("l", "m³", "0.001"), ("atm", "Pa", "101325"), ("bar", "kPa", "100"),
    ("km/h", "m/s", None),
]  # fmt: skip
PREFIXES = {"kg": 3, "g": 0, "mg": -3, "µg": -6}  # SI Brochure, table 7
MASSES = QuantityType("kg", ("g", "mg", "µg"), 12)
AMOUNTS = st.decimals("-1e9", "1e9", allow_nan=False, allow_infinity=False, places=3)


@pytest.mark.parametrize(("unit", "own", "factor"), FACTORS)
def test_units_are_converted_by_their_exact_factors(unit, own, factor):
    exact = Decimal(factor) if factor else Decimal(5) / 18  # 1 km/h is 1/3.6 m/s
    read = read_value(f"1 {unit}", QuantityType(own, (unit,), 11))
    assert read == round(exact, 11)


@pytest.mark.parametrize(
    ("fahrenheit", "celsius"), [("98.6", "37"), ("-40", "-40"), ("212", "100")]
)
def test_temperatures_are_converted_with_their_zero(fahrenheit, celsius):
    """NIST SP 811, B.9: t/°C = (t/°F - 32)/1.8."""
    assert read_value(f"{fahrenheit} °F", QuantityType("°C", ("°F",), 2)) == Decimal(celsius)


@given(AMOUNTS, st.sampled_from(sorted(PREFIXES)))
def test_an_amount_is_what_its_prefix_makes_of_it_and_stays_as_given(amount, unit):
    read = read_value(f"{amount:f} {unit}", MASSES)
    assert Fraction(read) == Fraction(amount) * Fraction(10) ** (PREFIXES[unit] - 3)
    stored = to_json(read)
    again = read_canonical(stored, MASSES)
    assert again == read
    assert to_json(again) == stored
    assert order_key(read) == order_key(Decimal(read))


@given(AMOUNTS, st.sampled_from(["g", "mg"]))
def test_a_quantity_reads_back_as_it_is_given_and_keeps_its_unit_in_copies(amount, unit):
    read = read_value(f"{amount:f} {unit}", MASSES)
    assert isinstance(read, Quantity)
    for one in (copy.deepcopy(read), copy.copy(read), pickle.loads(pickle.dumps(read))):
        assert (one, one.amount, one.unit) == (read, read.amount, unit)


@pytest.mark.parametrize(
    ("typed", "told"),
    [
        ("3 spoons", "“spoons” is no unit of this field: write kg, g, mg or µg."),
        ("3 G", "is no unit of this field"),
        ("g", "is not a number"),
        ("2.5 g 3", "is no unit of this field"),
        ("0.0001 µg", "less than this field can tell"),
        ("1.234.5 g", "is not a number"),
        (True, "not yes or no"),
    ],
)
def test_what_is_no_quantity_is_refused_with_a_remedy(typed, told):
    read = read_value(typed, MASSES)
    assert isinstance(read, Fault)
    assert told in read.message


def test_a_quantity_in_another_unit_is_shown_with_what_it_is():
    assert show_value(read_value("2500 g", MASSES), MASSES) == "2,500 g (2.5 kg)"
    assert show_value(read_value("2.5 kg", MASSES), MASSES) == "2.5 kg"


@pytest.mark.parametrize(
    ("unit", "good"),
    [("m/s²", True), ("kWh", True), ("°C", True), ("%", True), ("spoon", False), ("", False),
     ("kg**9", False), ("10", False), ("m^99", False), ("__class__", False)],
)  # fmt: skip
def test_units_are_those_that_are_known(unit, good):
    assert (unit_problem(unit) is None) == good


def form(*rules, **dose):
    fields = [
        {"key": "dose", "label": "Dose", "type": "quantity", "unit": "kg", "units": ["g"], **dose},
        {"key": "limit", "label": "Limit", "type": "decimal", "scale": 4},
        {"key": "double", "label": "Double", "type": "quantity", "unit": "kg", "scale": 3},
    ]
    rules = [
        {"key": f"r{place}", "name": f"Rule {place}", **one} for place, one in enumerate(rules)
    ]
    document = {
        "forms": [{"key": "f", "name": "F", "fields": fields, "rules": rules}],
        "version": 2,
    }
    return RuleSet.model_validate(document)


def test_rules_see_a_quantity_in_the_unit_of_its_field():
    block = {"severity": {"save": "block"}}
    ruleset = form(
        {"kind": "range", "targets": ["dose"], "upper": {"value": "500 g"}, **block},
        {"kind": "cross_field", "targets": ["dose"], "must": "dose <= limit", **block},
        {"kind": "derive", "targets": ["double"], "value": "dose * 2"},
    )
    compiled = compile_ruleset(ruleset, form="f")

    def judged(**values):
        return compiled.judge(values, moment="save", today=date(2026, 6, 12))

    good = judged(dose="2.5 g", limit="0.0025")
    assert [one.status for one in good.results] == ["satisfied"] * 3
    assert {key: to_json(one) for key, one in good.stores.items()} == {
        "dose": "2.5 g", "limit": "0.0025", "double": "0.005",
    }  # fmt: skip
    bad = judged(dose="501 g", limit="0.5")
    assert [one.status for one in bad.results] == ["violated", "violated", "satisfied"]


@pytest.mark.parametrize(
    ("dose", "told"),
    [
        ({"unit": "spoon"}, "is no unit of measure"),
        ({"units": ["m"]}, "m cannot be converted to kg"),
        ({"units": ["kg"]}, "there twice"),
    ],
)
def test_units_that_do_not_go_together_are_refused_at_their_field(dose, told):
    with pytest.raises(ValidationError, match=told) as refused:
        form(**dose)
    assert refused.value.errors()[0]["loc"][:4] == ("forms", 0, "fields", 0)
