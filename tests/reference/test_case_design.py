"""Case design against its standards: boundary values, pairwise cover, MC/DC, and hand-made slips."""

from datetime import date, timedelta
from decimal import Decimal
from itertools import combinations, product

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.core.conftest import compiled_form
from tests.examples import few
from thistlequartz.core.candidates.baseline import good_baseline
from thistlequartz.core.coverage.proof import prove
from thistlequartz.core.drafting.pairing import pairwise_rows
from thistlequartz.core.drafting.techniques import drafted_cases
from thistlequartz.core.judging import Circumstances
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.mutation.proof import prove_slips
from thistlequartz.core.mutation.search import try_mutants

HERE = Circumstances(date(2026, 6, 12), role="clerk")


def entered(form, values, key="amount"):
    """What the drafted boundary cases enter in a field."""
    ground = good_baseline(form, [], HERE)
    drafted = drafted_cases(form, ground, "boundary", boundary_values=values)
    return [one.values[key] for one in drafted]


@given(
    low=st.decimals(-1_000, 1_000, places=2),
    size=st.decimals(1, 1_000, places=2),
    scale=st.sampled_from([0, 1, 2]),
)
@settings(max_examples=few(25))
def test_the_three_value_set_of_a_range(low, size, scale):
    """ISO/IEC/IEEE 29119-4: for [a, b] of step s it is a-s, a, a+s, b-s, b, b+s."""
    step = Decimal(1).scaleb(-scale)
    low = low.quantize(step)
    high = (low + max(size, 5 * step)).quantize(step)
    field = {"key": "amount", "type": "decimal", "scale": scale}
    bounds = {"lower": {"value": f"{low:f}"}, "upper": {"value": f"{high:f}"}}
    form = compiled_form([field], [{"kind": "range", "targets": ["amount"], **bounds}])
    wanted = {low - step, low, low + step, high - step, high, high + step}
    assert {Decimal(one) for one in entered(form, 3)} == wanted
    assert {Decimal(one) for one in entered(form, 2)} == {low - step, low, high, high + step}


def test_the_sets_of_open_bounds_and_of_dates():
    """The same standard; beside an excluded bound stands the first value that is let in."""
    number = {"key": "amount", "type": "whole_number"}
    bounds = {"lower": {"value": "10", "inclusive": False}}
    form = compiled_form([number], [{"kind": "range", "targets": ["amount"], **bounds}])
    assert sorted(entered(form, 2)) == ["10", "11"]
    day = {"key": "amount", "type": "date"}
    latest = {"upper": {"value": "today"}}
    form = compiled_form([day], [{"kind": "range", "targets": ["amount"], **latest}])
    around = [HERE.today + timedelta(days=days) for days in (-1, 0, 1)]
    assert sorted(entered(form, 3)) == [one.isoformat() for one in around]
    derived = {"kind": "derive", "targets": ["twice"], "value": "2 * amount"}
    twice = {"kind": "range", "targets": ["twice"], "upper": {"value": "10"}}
    form = compiled_form([number, {"key": "twice", "type": "whole_number"}], [derived, twice])
    assert sorted(entered(form, 2)) == ["5"], "11 itself cannot be computed"


@given(st.lists(st.integers(2, 6), min_size=2, max_size=6))
@settings(max_examples=few(40))
def test_pairwise_rows_cover_every_pair(sizes):
    """Counted by brute force; at least as many rows as the two largest fields have pairs."""
    entries = [[f"{field}{entry}" for entry in range(size)] for field, size in enumerate(sizes)]
    rows = pairwise_rows(entries)
    for (a, first), (b, second) in combinations(enumerate(entries), 2):
        covered = {(row[a], row[b]) for row in rows}
        assert covered == set(product(first, second))
    largest = sorted(sizes)[-2:]
    assert len(rows) >= largest[0] * largest[1]


ATOMS = "abcd"


def conditions(atoms):
    leaves = st.sampled_from([f"{one} = true" for one in atoms])
    return st.recursive(
        leaves,
        lambda inner: st.one_of(
            st.tuples(inner, inner).map(lambda two: f"({two[0]} and {two[1]})"),
            st.tuples(inner, inner).map(lambda two: f"({two[0]} or {two[1]})"),
            inner.map(lambda one: f"not({one})"),
        ),
        max_leaves=5,
    )


def unique_cause(condition):
    """By brute force over the truth table: which atoms turn the condition alone."""
    atoms = [one for one in ATOMS if f"{one} = true" in condition]
    text = condition.replace(" = true", "")
    table = {
        row: eval(text, {}, dict(zip(atoms, row, strict=True)))
        for row in product([False, True], repeat=len(atoms))
    }
    shown = set()
    for place, atom in enumerate(atoms):
        for row, outcome in table.items():
            flipped = (*row[:place], not row[place], *row[place + 1 :])
            if outcome != table[flipped]:
                shown.add(atom)
    return atoms, shown


@given(conditions(ATOMS))
@example("(not(d = true) or (a = true and (b = true and c = true)))")
@settings(max_examples=few(50))
def test_parts_shown_alone_are_those_of_the_truth_table(condition):
    """Unique-cause MC/DC (DO-178C; NASA/TM-2001-210876): n parts take at least n + 1 cases."""
    fields = [{"key": one, "type": "yes_no"} for one in ATOMS]
    fields.append({"key": "why", "type": "text"})
    rule = {"kind": "mandatory", "targets": ["why"], "when": condition}
    form = compiled_form(fields, [rule])
    ground = good_baseline(form, [], HERE)
    drafted = list(drafted_cases(form, ground, "parts"))
    cases = [one.case(f"case_{place}") for place, one in enumerate(drafted)]
    parts = prove(form, cases, ground).rules[0].parts
    atoms, turning = unique_cause(condition)
    if len(atoms) < 2:
        assert parts == ()
        return
    for part in parts:
        atom = part.words[0].lower()
        coupled = condition.count(f"{atom} = true") > 1
        state = "not_reachable" if coupled or atom not in turning else "shown"
        assert part.state == state, (condition, part)
    shown = sum(part.state == "shown" for part in parts)
    if shown == len(atoms):
        assert len(atoms) + 1 <= len(cases) <= 2 * len(atoms)


AMOUNT = {"key": "amount", "type": "decimal", "scale": 2}
TERMS = {"key": "terms", "type": "yes_no"}
WHY = {"key": "why", "type": "text"}
RANGE = {"kind": "range", "targets": ["amount"], "upper": {"value": "500"}}
DEMAND = {"kind": "mandatory", "targets": ["why"]}
BOTH = "terms = true and amount > 10"
HAND_MADE = {
    "inclusive bound left out": (RANGE, {**RANGE, "upper": {"value": "500", "inclusive": False}}),
    "a zero more": (RANGE, {**RANGE, "upper": {"value": "5000"}}),
    "a zero fewer": (RANGE, {**RANGE, "upper": {"value": "50"}}),
    "or for and": ({**DEMAND, "when": BOTH}, {**DEMAND, "when": "terms = true or amount > 10"}),
    "a part left out": ({**DEMAND, "when": BOTH}, {**DEMAND, "when": "terms = true"}),
    "the condition left out": ({**DEMAND, "when": BOTH}, DEMAND),
    "the bound of a condition": (
        {**DEMAND, "when": BOTH},
        {**DEMAND, "when": "terms = true and amount >= 10"},
    ),
    "blank forgotten": (
        {**DEMAND, "when": "terms != true"},
        {**DEMAND, "when": "terms = false"},
    ),
    "blank part left out": (
        {**DEMAND, "when": "terms = null or terms = false"},
        {**DEMAND, "when": "terms = false"},
    ),
    "turned round": (
        {**DEMAND, "when": "terms = true"},
        {**DEMAND, "when": "not(terms = true)"},
    ),
    "one step milder": (DEMAND, {**DEMAND, "severity": {"save": "warn", "submit": "warn"}}),
    "saving for submitting": (DEMAND, {**DEMAND, "severity": {"save": "block", "submit": "warn"}}),
    "typing only": (DEMAND, {**DEMAND, "severity": {"entry": "warn"}}),
    "locked for required": (
        {**DEMAND, "when": "terms = true"},
        {"kind": "lock", "targets": ["why"], "when": "terms = true"},
    ),
}
"""Mistakes that stewards make, as rules that somebody wrote by hand: meant, and mistaken."""
SEVERITY = {"severity": {"save": "warn", "submit": "block"}}


@pytest.mark.parametrize("name", HAND_MADE)
def test_hand_made_slips_are_all_made_and_found(name):
    meant, mistaken = HAND_MADE[name]
    fields = [AMOUNT, TERMS, WHY]
    form = compiled_form(fields, [{**SEVERITY, **meant}])
    same = compiled_form(
        fields, [mistaken if mistaken["kind"] == "lock" else {**SEVERITY, **mistaken}]
    )
    wanted = [(one.lowered.when, one.lowered.checks, _spoken(one)) for one in same.rules]
    made = [
        one
        for one in mutants_of(form)
        if [
            (rule.lowered.when, rule.lowered.checks, _spoken(rule))
            for rule in form.rewritten(one.form).rules
        ]
        == wanted
    ]
    assert made, "the mistake is among those that are made"
    found = list(try_mutants(form, [], good_baseline(form, [], HERE), made))
    assert {one.state for one in found} == {"unnoticed"}, "with a case that would notice it"


def _spoken(one):
    return one.severities["save"], one.severities["submit"], one.rule.kind


def test_what_no_record_can_tell_is_not_counted():
    """A condition that only repeats when its field is asked changes nothing by being left out."""
    opened = {"kind": "open", "targets": ["why"], "when": "terms = true"}
    form = compiled_form([TERMS, WHY], [opened, {**DEMAND, "when": "terms = true"}])
    slips = [one for one in mutants_of(form) if one.kind == "condition_dropped"]
    (found,) = try_mutants(form, [], good_baseline(form, [], HERE), slips)
    assert (found.state, found.witness) == ("not_decided", None), "by looking for one"
    (proved,) = prove_slips(form, HERE.today, slips)
    assert proved.state == "same", "of every record there could be"
