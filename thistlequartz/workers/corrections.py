"""Repairs by the worker process; the record and others stay with the caller, who judges."""

import json
from collections import OrderedDict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date
from typing import ClassVar, Final

from pydantic import TypeAdapter

from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.solving.prover import Prover
from thistlequartz.core.solving.repair_problem import Looks, RepairCheck, RepairProblem
from thistlequartz.core.solving.repairs import Repairs, repairs
from thistlequartz.core.values import Stored

from .worker_process import TOO_MUCH, ProcessLost, WorkerProcess

WITHIN: Final = 12.0
"""Seconds, the start of the process among them."""
PROVERS_KEPT: Final = 4


@dataclass(frozen=True, slots=True)
class WaysTask:
    """A record to let through."""

    what: ClassVar[str] = "ways"
    ruleset: RuleSet
    form: str
    standing: RepairProblem


_LOOKED: TypeAdapter[RepairCheck] = TypeAdapter(RepairCheck)
_REPAIRS: TypeAdapter[Repairs] = TypeAdapter(Repairs)


def proved_ways(apart: WorkerProcess, task: WaysTask, looks: Looks) -> Repairs:
    """The ways, and what is proved of them; `looks` judges each that is proposed."""
    found = Repairs(why=TOO_MUCH)
    try:
        for line in apart.ask(task, within=WITHIN):
            told = json.loads(line)
            if "look" in told:
                apart.tell(_LOOKED.dump_json(looks(told["look"])).decode())
            else:
                found = _REPAIRS.validate_python(told)
    except ProcessLost:
        pass
    return found


def answer(task: WaysTask, ask_back: Callable[[str], str]) -> Iterator[str]:
    """In the process: what came of it, as JSON; each proposal is asked back."""

    def looks(changes: "dict[str, Stored]") -> RepairCheck:
        return _LOOKED.validate_json(ask_back(json.dumps({"look": changes})))

    prover = _prover(task)
    yield _REPAIRS.dump_json(repairs(prover, task.standing, looks)).decode()  # type: ignore[arg-type]


_provers: "OrderedDict[tuple[str, date], Prover]" = OrderedDict()


def _prover(task: WaysTask) -> Prover:
    """What knows the form, kept for the next try of it."""
    key = task.form + task.ruleset.model_dump_json(), task.standing.circumstances.today
    if key not in _provers:
        form = compile_ruleset(task.ruleset, form=task.form)
        _provers[key] = Prover(form, task.standing.circumstances.today)
    _provers.move_to_end(key)
    if len(_provers) > PROVERS_KEPT:
        _provers.popitem(last=False)
    return _provers[key]
