"""Slips proved by the process apart: one in which it dies is not decided, and the rest goes on."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import date
from typing import ClassVar

from pydantic import TypeAdapter

from thistlequartz.core.analysis import SlipProved, mutants_of, prove_slips
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .process import MOST_IN_VAIN, TOO_MUCH, Apart, Lost, nobody_stops


@dataclass(frozen=True, slots=True)
class SlipsTask:
    """Which slips of a form to prove."""

    what: ClassVar[str] = "slips"
    ruleset: RuleSet
    form: str
    today: date
    keys: tuple[str, ...]


_PROVED: TypeAdapter[SlipProved] = TypeAdapter(SlipProved)
_WITHIN = 30.0
"""Seconds for one slip."""


def proved_slips(
    apart: Apart, task: SlipsTask, goes_on: Callable[[], None] = nobody_stops
) -> Iterator[SlipProved]:
    """What came of each slip, in turn; `goes_on` raises to stop."""
    left = list(task.keys)
    in_vain = 0
    while left and in_vain < MOST_IN_VAIN:
        before = len(left)
        try:
            for line in apart.ask(replace(task, keys=tuple(left)), goes_on, _WITHIN):
                proved = _PROVED.validate_json(line)
                left = left[left.index(proved.key) + 1 :]
                yield proved
        except Lost:
            in_vain = in_vain + 1 if len(left) == before else 0
            if left:
                yield SlipProved(left.pop(0), "not_decided", TOO_MUCH)
        else:
            return
    # A form that is too much to begin with is not begun again for each of them.
    for key in left:
        yield SlipProved(key, "not_decided", TOO_MUCH)


def answer(task: SlipsTask, _: Callable[[str], str]) -> Iterator[str]:
    """In the process: what came of each slip, as JSON."""
    form = compile_ruleset(task.ruleset, form=task.form)
    slips = [one for one in mutants_of(form) if one.key in task.keys]
    for proved in prove_slips(form, task.today, slips):
        yield _PROVED.dump_json(proved).decode()
