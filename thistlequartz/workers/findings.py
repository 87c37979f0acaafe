"""Findings by the worker process: a search that kills it is undecided, the rest goes on."""

from collections import OrderedDict
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal
from typing import ClassVar

from pydantic import TypeAdapter

from thistlequartz.core.findings import (
    SEARCHES,
    Rights,
    SearchProgress,
    UndecidedSearch,
    find_by_steps,
)
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.solving.answer_cache import AnswerCache

from . import worker_process as process


@dataclass(frozen=True, slots=True)
class FindingsTask:
    """A form to look at."""

    what: ClassVar[str] = "findings"
    ruleset: RuleSet
    form: str
    today: date
    rights: Rights = field(default_factory=Rights)
    samples: Mapping[str, tuple[Decimal, ...]] = field(default_factory=dict)
    skipped: tuple[int, ...] = ()


_STEP: TypeAdapter[SearchProgress] = TypeAdapter(SearchProgress)


class FindingsProcess:
    """Has findings looked for by a process apart."""

    def __init__(self, apart: process.WorkerProcess | None = None) -> None:
        self.apart = apart or process.WorkerProcess()

    def find(
        self, task: FindingsTask, goes_on: Callable[[int], None] = lambda done: None
    ) -> Iterator[SearchProgress]:
        """Yield the steps of a task as they are done.

        `goes_on` is told how many are done, again and again, and raises to stop.
        """
        done: set[int] = set(task.skipped)
        in_vain = 0
        while len(done) < len(SEARCHES):
            before = len(done)
            rest = replace(task, skipped=tuple(sorted(done)))
            try:
                within = process.ANSWER_WITHIN
                for line in self.apart.ask(rest, lambda: goes_on(len(done)), within):
                    step = _STEP.validate_json(line)
                    done.add(step.place)
                    yield step
            except process.ProcessLost:
                pass
            in_vain = in_vain + 1 if len(done) == before else 0
            left = [one for one in range(len(SEARCHES)) if one not in done]
            # A form that is too much to begin with is not begun again for each of them.
            for lost in left if in_vain == process.MOST_IN_VAIN else left[:1]:
                done.add(lost)
                codes = SEARCHES[lost].codes
                yield SearchProgress(
                    lost,
                    undecided=tuple(
                        UndecidedSearch(one, (), (), process.TOO_MUCH) for one in codes
                    ),
                )

    def end(self) -> None:
        """Have no process any more."""
        self.apart.end()


MOST_REMEMBERED = 4
"""Forms of which answers are remembered."""
_memories: "OrderedDict[str, AnswerCache]" = OrderedDict()


def _memory_of(form: str) -> AnswerCache:
    """What is remembered of a form, in this process."""
    memory = _memories.setdefault(form, AnswerCache())
    _memories.move_to_end(form)
    while len(_memories) > MOST_REMEMBERED:
        _memories.popitem(last=False)
    return memory


def answer(task: FindingsTask, _: Callable[[str], str]) -> Iterator[str]:
    """In the process: the steps, as JSON."""
    compiled = compile_ruleset(task.ruleset, form=task.form)
    for step in find_by_steps(
        task.ruleset,
        compiled,
        task.today,
        rights=task.rights,
        samples=task.samples,
        skipped=task.skipped,
        memory=_memory_of(task.form),
    ):
        yield _STEP.dump_json(step).decode()
