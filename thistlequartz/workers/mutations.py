"""Slips proved by the process apart."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import ClassVar

from pydantic import TypeAdapter

from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.mutation.proof import MutationProof, prove_slips

from .keyed_tasks import KeyedTask, in_turn
from .worker_process import TOO_MUCH, WorkerProcess, nobody_stops


@dataclass(frozen=True, slots=True)
class SlipsTask(KeyedTask):
    """Which slips of a form to prove."""

    what: ClassVar[str] = "slips"


_PROVED: TypeAdapter[MutationProof] = TypeAdapter(MutationProof)


def proved_slips(
    apart: WorkerProcess, task: SlipsTask, goes_on: Callable[[], None] = nobody_stops
) -> Iterator[MutationProof]:
    """What came of each slip, in turn; `goes_on` raises to stop."""

    def lost(key: str) -> MutationProof:
        return MutationProof(key, "not_decided", TOO_MUCH)

    return in_turn(apart, task, _PROVED, lost, goes_on)


def answer(task: SlipsTask, _: Callable[[str], str]) -> Iterator[str]:
    """In the process: what came of each slip, as JSON."""
    form = compile_ruleset(task.ruleset, form=task.form)
    slips = [one for one in mutants_of(form) if one.key in task.keys]
    for proved in prove_slips(form, task.today, slips):
        yield _PROVED.dump_json(proved).decode()
