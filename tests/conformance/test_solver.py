"""The solver says of one record what the evaluator says of it: surely, or at least possibly where
something was left free.
"""

from collections import Counter
from typing import Any

import z3
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.engines.solver import CodesTerm
from thistlequartz.core.engines.solver.terms import equal
from thistlequartz.core.judging import JudgeRequest, circumstances_of, compile_ruleset, is_readable
from thistlequartz.core.solving.record_variables import RecordVariables
from thistlequartz.core.solving.settled_terms import SettledRecord
from thistlequartz.core.types import ChoicesType, read_value
from thistlequartz.core.values import Fault

from ..core.conftest import TODAY
from .generators import CIRCUMSTANCES, FULL, OWNERS, RECORDS, Neighbours, document_of, rules

EXAMPLES = few(30)
SURELY = 0.8
"""Of what is asked, so much at least is told surely."""
_OF_OTHERS = ("unique", "elsewhere")
told: Counter[str] = Counter()


class Pinned:
    """The solver's record with everything that is given said."""

    def __init__(self, form: Any, record: Any, circumstances: Any) -> None:
        self.world = RecordVariables(form, TODAY)
        self.settled = SettledRecord(self.world)
        self.rules = self.settled.rules
        constant, world, said = self.settled.constant, self.world, []
        for key, term in world.entered.items():
            said.append(equal(term, self._given(record.base[key])))
            said.append(equal(world.stored[key], self._given(record.base.get(f"stored.{key}"))))
        for key, term in world.second.items():
            said.append(equal(term, self._given(record.base.get(f"{key}.again"))))
        for number, values in OWNERS.items():
            at = z3.IntVal(world.texts.number(number))
            for name, term, type_ in world.held_by_referred("owner", at):
                held = _read(values.get(name), type_)
                several = isinstance(type_, ChoicesType)
                said.append(equal(term, _codes(held or []) if several else constant(held)))
        said.append(world.today == circumstances.today.toordinal())
        said.append(world.is_event(circumstances.event))
        said.append(world.is_entry_point(circumstances.entry_point))
        said.append(equal(world.role, constant(circumstances.role)))
        said.append(world.layout == world.layouts.index(circumstances.layout))
        said.append(world.now == constant(circumstances.now).at)
        self._solver = z3.Solver()
        self._solver.add(*said, *world.assumed, *world.texts.new_facts())

    def _given(self, value: Any) -> Any:
        return self.settled.constant(value) if not isinstance(value, list) else _codes(value)

    def possible(self, *conditions: Any) -> bool:
        found = self._solver.check(*conditions)
        assert found != z3.unknown
        return found == z3.sat


def _codes(value: list[str]) -> Any:
    return CodesTerm({code: z3.BoolVal(code in value) for code in "xyz"})


def _read(value: Any, type_: Any) -> Any:
    return read_value(value, type_)


@settings(max_examples=EXAMPLES)
@given(
    rules(),
    st.one_of(RECORDS, FULL),
    st.lists(FULL, min_size=1, max_size=2),
    CIRCUMSTANCES.filter(lambda one: one["now"] is not None),
)
def solver_agrees(
    given_rules: list[dict[str, Any]],
    values: dict[str, Any],
    others: list[dict[str, Any]],
    asked: dict[str, Any],
) -> None:
    form = compile_ruleset(document_of(given_rules), form="form")
    before = others[0] if asked["event"] == "update" else None
    record = form.read(values, stored=before, lookup=Neighbours(others))
    circumstances = circumstances_of({"today": TODAY, **asked})
    # Starting values answer only what was not supplied; the solver's record is supplied whole.
    record = form.changed(record, {key: values.get(key) for key in form.fields})
    judged = form.judged(JudgeRequest(record, circumstances))
    if any(isinstance(one, Fault) for one in record.readings.values()):
        return
    if not is_readable(record, judged.settled):
        return
    pinned = Pinned(form, record, circumstances)
    happened = []
    for one in form.rules:
        terms = pinned.rules.get(one.rule.key)
        if terms is None or one.rule.kind in _OF_OTHERS:
            continue
        finding = judged.findings[one.rule.key]
        counted = finding.status not in ("disabled", "out_of_scope")
        assert pinned.possible(terms.counts == counted)
        assert not pinned.possible(terms.counts != counted)
        if one.is_effect:
            continue
        violated = terms.violated == (finding.status == "violated")
        happened.append(violated)
        assert pinned.possible(violated), (one.rule, finding)
        told["surely" if not pinned.possible(z3.Not(violated)) else "possibly"] += 1
    for key in form.fields:
        closed = pinned.settled.closed.get(key, z3.BoolVal(False))
        happened.append(closed == (key in judged.settled.closed))
        locked = pinned.settled.locked.get(key, z3.BoolVal(False))
        happened.append(locked == (key in judged.settled.locked))
    assert pinned.possible(*happened)


def test_the_solver_says_what_the_evaluator_says() -> None:
    told.clear()
    solver_agrees()
    print(dict(told))
    assert told["surely"] / told.total() > SURELY
