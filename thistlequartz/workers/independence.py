"""Parts of conditions looked at by the process apart, whether they can be shown alone."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import ClassVar

from pydantic import TypeAdapter

from thistlequartz.core.coverage.independence import PartAlone, parts_alone
from thistlequartz.core.judging import compile_ruleset

from .keyed_tasks import KeyedTask, in_turn
from .worker_process import TOO_MUCH, WorkerProcess, nobody_stops


@dataclass(frozen=True, slots=True)
class PartsTask(KeyedTask):
    """Which parts of conditions of a form to look at."""

    what: ClassVar[str] = "parts"


_ALONE: TypeAdapter[PartAlone] = TypeAdapter(PartAlone)


def looked_at_parts(
    apart: WorkerProcess, task: PartsTask, goes_on: Callable[[], None] = nobody_stops
) -> Iterator[PartAlone]:
    """What came of each part, in turn; `goes_on` raises to stop."""

    def lost(key: str) -> PartAlone:
        return PartAlone(key, "not_decided", TOO_MUCH)

    return in_turn(apart, task, _ALONE, lost, goes_on)


def answer(task: PartsTask, _: Callable[[str], str]) -> Iterator[str]:
    """In the process: what came of each part, as JSON."""
    form = compile_ruleset(task.ruleset, form=task.form)
    for one in parts_alone(form, task.today, task.keys):
        yield _ALONE.dump_json(one).decode()
