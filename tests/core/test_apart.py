"""The process apart: it leaves off a task at once and is there for the next one."""

import pytest

from thistlequartz.apart import Apart, Finder, FindingsTask, SlipsTask, Stopped, proved_slips
from thistlequartz.core.analysis import mutants_of
from thistlequartz.core.analysis.findings import SEARCHES
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.demo.forms import DRAFT

from .conftest import TODAY

FORM = "borrower"


@pytest.fixture
def apart():
    one = Apart()
    yield one
    one.end()


def test_a_task_is_left_off_at_once_and_the_next_gets_its_own_answers(apart, monkeypatch):
    # However slow the machine is.
    monkeypatch.setattr("thistlequartz.apart.process.LEAVES_OFF_WITHIN", 60.0)
    finder = Finder(apart)
    whole = list(finder.find(FindingsTask(DRAFT, FORM, TODAY)))
    assert [one.place for one in whole] == list(range(len(SEARCHES)))
    there = apart.pid

    def enough(done: int) -> None:
        if done == 3:
            raise Stopped

    with pytest.raises(Stopped):
        list(finder.find(FindingsTask(DRAFT, "plant_accession", TODAY), enough))
    assert list(finder.find(FindingsTask(DRAFT, FORM, TODAY))) == whole
    assert apart.pid == there, "nothing had to begin anew"
    # Nor where it had ended by itself, or cannot leave off in time.
    monkeypatch.setattr("thistlequartz.apart.process.LEAVES_OFF_WITHIN", 0.0)
    with pytest.raises(Stopped):
        list(finder.find(FindingsTask(DRAFT, FORM, TODAY), enough))
    assert apart.pid is None
    assert list(finder.find(FindingsTask(DRAFT, FORM, TODAY))) == whole


def test_a_slip_in_which_the_process_is_lost_is_not_decided_and_the_rest_goes_on(
    apart, monkeypatch
):
    slips = [one.key for one in mutants_of(compile_ruleset(DRAFT, form=FORM))][:3]
    task = SlipsTask(DRAFT, FORM, TODAY, tuple(slips))
    whole = list(proved_slips(apart, task))
    assert [one.key for one in whole] == slips
    apart.end()
    asked: list[str] = []

    def dies_at_first() -> None:
        if not asked:
            asked.append("once")
            apart.end()

    found = list(proved_slips(apart, task, dies_at_first))
    assert [one.state for one in found] == ["not_decided", *(one.state for one in whole[1:])]
    assert "more time or memory" in found[0].why
