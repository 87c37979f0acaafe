"""Questions for the worker process: one that kills it is undecided, the rest goes on."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import date
from typing import ClassVar, Final, Protocol, TypeVar

from pydantic import TypeAdapter

from thistlequartz.core.ruleset import RuleSet

from .worker_process import MOST_IN_VAIN, ProcessLost, WorkerProcess, nobody_stops

WITHIN: Final = 30.0
"""Seconds for one question."""


@dataclass(frozen=True, slots=True)
class KeyedTask:
    """Which questions about a form to answer, each by its key."""

    what: ClassVar[str]
    ruleset: RuleSet
    form: str
    today: date
    keys: tuple[str, ...]


class KeyedResult(Protocol):
    """An answer, by the key of its question."""

    @property
    def key(self) -> str:
        """Of what it is the answer."""


K = TypeVar("K", bound=KeyedResult)


def in_turn(
    apart: WorkerProcess,
    task: KeyedTask,
    answers: TypeAdapter[K],
    lost: Callable[[str], K],
    goes_on: Callable[[], None] = nobody_stops,
) -> Iterator[K]:
    """Yield the answers in turn; `lost` gives what stands for one that took too much.

    `goes_on` raises to stop.
    """
    left = list(task.keys)
    in_vain = 0
    while left and in_vain < MOST_IN_VAIN:
        before = len(left)
        try:
            for line in apart.ask(replace(task, keys=tuple(left)), goes_on, WITHIN):
                answer = answers.validate_json(line)
                left = left[left.index(answer.key) + 1 :]
                yield answer
        except ProcessLost:
            in_vain = in_vain + 1 if len(left) == before else 0
            if left:
                yield lost(left.pop(0))
        else:
            return
    # A form that is too much to begin with is not begun again for each of them.
    yield from map(lost, left)
