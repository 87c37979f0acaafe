"""Every search for findings comes to an end on any form; what it says of days and texts is exact."""

import random
from calendar import monthrange
from collections import Counter
from collections.abc import Callable
from datetime import date
from typing import Any

import z3
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import ALIKE, few
from thistlequartz.core.engines.solver import calendar
from thistlequartz.core.engines.solver.terms import FALSE, ValueTerm
from thistlequartz.core.findings import find
from thistlequartz.core.formats import compile_pattern
from thistlequartz.core.formats.automata import automaton_of, of_length
from thistlequartz.core.functions import FUNCTIONS
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.values import Months

from ..core.conftest import TODAY
from .generators import document_of, rules

EXAMPLES = few(24)
PATIENCE = 40
"""Milliseconds, to see that there is no other answer."""
reasons: Counter[str] = Counter()


@settings(max_examples=EXAMPLES, derandomize=ALIKE)
@given(rules(), st.integers(2, 6), st.randoms(use_true_random=False))
def searches_complete(drawn: list[dict[str, Any]], most: int, rng: random.Random) -> None:
    ruleset = document_of(rng.sample(drawn, min(most, len(drawn))))
    found = find(ruleset, "form", TODAY)
    assert found.failures == {}
    reasons.update(one.why for one in found.undecided)
    form = compile_ruleset(ruleset, form="form")
    for one in found.found:
        if one.witness is not None:
            assert not one.witness.judged(form).has_faults, one


def test_every_search_completes_on_random_forms() -> None:
    reasons.clear()
    searches_complete()
    if ALIKE:  # a machine that searches may be too busy
        assert "it took too long" not in reasons, reasons


class Dates:
    """The solver's calendar, with its facts kept."""

    def __init__(self) -> None:
        self.facts: list[Any] = []
        self._made = 0

    def assume(self, condition: Any) -> None:
        self.facts.append(condition)

    def fresh(self, sort: Any) -> Any:
        self._made += 1
        return z3.Const(f"fresh{self._made}", sort)

    def comes_to(self, term: Any) -> int | None:
        """What a term comes to; None where it is blank. There is no other answer."""
        solver = z3.Solver()
        solver.add(*self.facts)
        assert solver.check() == z3.sat
        model = solver.model()
        blank = z3.is_true(model.eval(term.blank, model_completion=True))
        at = model.eval(term.at, model_completion=True)
        solver.set("timeout", PATIENCE)
        solver.add(term.at != at if not blank else z3.Not(term.blank))
        assert solver.check() != z3.sat, "there is but one answer"
        return None if blank else at.as_long()


def day_of(value: date) -> ValueTerm:
    return ValueTerm("date", FALSE, z3.IntVal(value.toordinal()))


@settings(max_examples=few(8))
@given(st.dates(), st.dates(), st.integers(-40_000, 40_000))
def test_calendar_of_the_solver_is_that_of_python(one: date, other: date, months: int) -> None:
    """Beside the standard library's calendar, by way of FEEL's own functions."""

    def come_to(term: Callable[[Any], Any]) -> int | None:
        dates = Dates()
        return dates.comes_to(term(dates))

    for part, wanted in (("year", one.year), ("month", one.month), ("day", one.day)):
        assert wanted == come_to(
            lambda dates, part=part: ValueTerm(
                "number", FALSE, getattr(calendar.parts_of(dates, day_of(one)), part), 0
            )
        )
    by = ValueTerm("months", FALSE, z3.IntVal(months))
    year, month = divmod(one.year * 12 + one.month - 1 + months, 12)
    moved = None
    if 1 <= year <= 9999:
        last = monthrange(year, month + 1)[1]
        moved = date(year, month + 1, min(one.day, last)).toordinal()
    assert come_to(lambda dates: calendar.moved_by_months(dates, day_of(one), by)) == moved
    between = come_to(lambda dates: calendar.months_between(dates, day_of(one), day_of(other)))
    told = FUNCTIONS["years and months duration"].body(one, other)
    assert isinstance(told, Months)
    assert between == told.count
    week = come_to(lambda dates: calendar.week_of_year(dates, day_of(one)))
    if one.isocalendar().year >= 1 and one.toordinal() > 7:
        assert week == one.isocalendar().week
    day = come_to(lambda dates: calendar.day_of_year(dates, day_of(one)))
    assert day == one.timetuple().tm_yday


PARTS = st.sampled_from(
    ["a", "[a-c]", "[^b]", r"\d", r"\w", r"\s", r"\S", ".", r"\.", "[]a]", "[^]x]", "[a^]", "[[b]",
     "(a|b)", "(?:ab|c)", "é", r"\$", "x?", "b*", "[0-9]{2}", "c{1,3}", r"[\w.-]+"]
)  # fmt: skip
PATTERNS = st.lists(PARTS, min_size=1, max_size=5).map("".join)
TEXTS = st.text(alphabet="abcxyAB019 .-_]^[é$\n~", max_size=6)


@given(PATTERNS, st.booleans(), st.booleans(), st.lists(TEXTS, max_size=20))
def test_automata_take_the_texts_that_re2_takes(
    pattern: str, search: bool, anchored: bool, texts: list[str]
) -> None:
    written = f"^{pattern}$" if anchored else pattern
    automaton, compiled = automaton_of(written, search=search), compile_pattern(written)
    assert automaton is not None, written
    for text in (*texts, *automaton.texts(8)):
        fits = compiled.search(text) if search else compiled.fullmatch(text)
        assert automaton.machine.accepts(text) == bool(fits), (written, text)
    lengths = automaton.lengths
    assert (lengths is None) == automaton.is_empty
    if lengths is not None:
        exactly = of_length(lengths[0], lengths[0])
        both = automaton & exactly if exactly else None
        assert both is not None
        assert not both.is_empty
