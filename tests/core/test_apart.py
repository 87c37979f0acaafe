"""The process apart: it leaves off a task at once and is there for the next one."""

import json
import subprocess
import sys

import pytest
from pydantic import TypeAdapter

from thistlequartz.core.findings import SEARCHES
from thistlequartz.core.judging import Circumstances, compile_ruleset
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.solving.repair_problem import looking, standing_of
from thistlequartz.core.sweep import RecordContext
from thistlequartz.demo.forms import DRAFT
from thistlequartz.workers.corrections import WaysTask, proved_ways
from thistlequartz.workers.findings import FindingsProcess, FindingsTask
from thistlequartz.workers.mutations import SlipsTask, proved_slips
from thistlequartz.workers.worker_process import TaskCancelled, WorkerProcess

from .conftest import TODAY

FORM = "borrower"


@pytest.fixture
def apart(monkeypatch):
    # However slow the machine is.
    monkeypatch.setattr("thistlequartz.workers.worker_process.LEAVES_OFF_WITHIN", 60.0)
    one = WorkerProcess()
    yield one
    one.end()


def test_a_task_is_left_off_at_once_and_the_next_gets_its_own_answers(apart, monkeypatch):
    finder = FindingsProcess(apart)
    whole = list(finder.find(FindingsTask(DRAFT, FORM, TODAY)))
    assert [one.place for one in whole] == list(range(len(SEARCHES)))
    there = apart.pid

    def enough(done: int) -> None:
        if done == 3:
            raise TaskCancelled

    with pytest.raises(TaskCancelled):
        list(finder.find(FindingsTask(DRAFT, "plant_accession", TODAY), enough))
    assert list(finder.find(FindingsTask(DRAFT, FORM, TODAY))) == whole
    assert apart.pid == there, "nothing had to begin anew"
    # Nor where it had ended by itself, or cannot leave off in time.
    monkeypatch.setattr("thistlequartz.workers.worker_process.LEAVES_OFF_WITHIN", 0.0)
    with pytest.raises(TaskCancelled):
        list(finder.find(FindingsTask(DRAFT, FORM, TODAY), enough))
    assert apart.pid is None
    assert list(finder.find(FindingsTask(DRAFT, FORM, TODAY))) == whole


def test_a_wish_to_stop_and_the_next_task_may_come_at_once():
    """They are read line by line, whatever else has come already."""
    document = TypeAdapter(SlipsTask).dump_python(SlipsTask(DRAFT, FORM, TODAY, ()), mode="json")
    task = json.dumps({"what": "slips", "task": document})
    said = subprocess.run(
        [sys.executable, "-m", "thistlequartz.workers"],
        input=f"stop\n{task}\nstop\n{task}\n",
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert (said.stdout, said.stderr) == ("end\nend\n", "")


def test_whoever_is_asked_back_and_fails_takes_nothing_with_it(apart, capfd):
    form = compile_ruleset(DRAFT, form="plant_accession")
    around = RecordContext(form, {}, Circumstances(TODAY))
    task = WaysTask(DRAFT, "plant_accession", standing_of(around, "save"))

    def fails(changes):
        raise ConnectionError

    with pytest.raises(ConnectionError):
        proved_ways(apart, task, fails)
    there = apart.pid
    found = proved_ways(apart, task, looking(around, "save"))
    assert (found.fewest, len(found.ways[0].changes), apart.pid) == (True, 1, there)
    assert capfd.readouterr().err == ""


def test_a_form_that_is_too_much_is_not_begun_for_each_slip(apart, monkeypatch):
    monkeypatch.setattr("thistlequartz.workers.keyed_tasks.WITHIN", 0.0)
    keys = tuple(f"slip {number}" for number in range(500))
    found = list(proved_slips(apart, SlipsTask(DRAFT, FORM, TODAY, keys)))
    assert [one.key for one in found] == list(keys)
    assert {one.state for one in found} == {"not_decided"}


def test_mutation_that_kills_its_process_is_undecided_and_rest_go_on(apart):
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


def test_a_process_that_reads_a_file_loads_no_more_than_that():
    asked = "import sys, thistlequartz.workers.tables; print(*sys.modules)"
    loaded = subprocess.check_output([sys.executable, "-c", asked], text=True)
    assert "thistlequartz.core.tables" in loaded.split()
    assert not {"thistlequartz.core.language", "z3", "pydantic"} & set(loaded.split())
