"""Impact on many stored records, analysed by two processes."""

import subprocess
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import Final, NamedTuple, TextIO

from pydantic import TypeAdapter

from thistlequartz.core.impact import Impact, ImpactAnalysis
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs.beside import process_beside
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.records.models import Record

from .stored_neighbours import RecordRange, StoredNeighbours, stored_records

FEW: Final = 10_000
"""Records up to which one process does it all: another one takes some seconds to begin."""
COMMAND: Final = "impact_share"
LOOKED_AT_EVERY: Final = 0.25
"""Seconds between two looks at how far the other process is."""
_TOLD_EVERY: Final = 250
"""Records between two notes of the other process."""


class ImpactVersions(NamedTuple):
    """The two versions of a form that are compared, and the time that counts for all records."""

    form: str
    before: RuleSet
    after: RuleSet
    now: datetime


@dataclass(frozen=True, slots=True)
class _Task:
    versions: ImpactVersions
    share: RecordRange


_TASK: TypeAdapter[_Task] = TypeAdapter(_Task)
_IMPACT: TypeAdapter[Impact] = TypeAdapter(Impact)


def impact_of_all(versions: ImpactVersions, progress: Progress) -> Impact:
    """What the second version means for all stored records; raises Stopped."""
    keys = (
        Record.objects.filter(form__key=versions.form).order_by("pk").values_list("pk", flat=True)
    )
    total = keys.count()
    if total <= FEW:
        return _screened(versions, RecordRange(), lambda done: progress.tell(done, total))
    middle = keys[total // 2]
    with _second_process(_Task(versions, RecordRange(after=middle))) as second:
        impact = _screened(
            versions,
            RecordRange(up_to=middle),
            lambda done: progress.tell(done + second.done, total),
        )
        while not second.ended(within=LOOKED_AT_EVERY):
            progress.tell(impact.records + second.done, total)
    first = impact.records
    impact.add_all(
        second.impact
        or _screened(
            versions, RecordRange(after=middle), lambda done: progress.tell(first + done, total)
        )
    )
    return impact


def analyse_share(given: TextIO, told: TextIO) -> None:
    """The second process: print how many records are judged, then the impact."""
    task = _TASK.validate_json(given.read())

    def tell(done: int) -> None:
        if done % _TOLD_EVERY == 0:
            print(done, file=told, flush=True)

    impact = _screened(task.versions, task.share, tell)
    print(_IMPACT.dump_json(impact).decode(), file=told, flush=True)


def _screened(versions: ImpactVersions, share: RecordRange, tell: Callable[[int], None]) -> Impact:
    draft = DraftForm.objects.get(key=versions.form)
    analysis = ImpactAnalysis(versions.before, versions.after, versions.form, versions.now)
    around = StoredNeighbours(versions.form, analysis.forms)
    for done, _ in enumerate(analysis.run(stored_records(draft, around, share))):
        tell(done)
    return analysis.impact


class _Second:
    """The other process and its progress. One that ends too early has no impact."""

    def __init__(self, process: "subprocess.Popen[str]", task: _Task) -> None:
        self.done = 0
        self.impact: Impact | None = None
        self._process = process
        self._task = task
        self._listening = threading.Thread(target=self._listen, daemon=True)
        self._listening.start()

    def ended(self, within: float) -> bool:
        """Whether it has said all it had to say."""
        self._listening.join(within)
        return not self._listening.is_alive()

    def _listen(self) -> None:
        given, told = self._process.stdin, self._process.stdout
        assert given is not None
        assert told is not None
        try:
            with given:
                given.write(_TASK.dump_json(self._task).decode())
        except BrokenPipeError:
            return
        for line in told:
            if line.startswith("{"):
                self.impact = _IMPACT.validate_json(line)
            else:
                self.done = int(line)


@contextmanager
def _second_process(task: _Task) -> Iterator[_Second]:
    """It ends with what is done here; should this process be killed, at its next line."""
    with process_beside(COMMAND) as process:
        yield _Second(process, task)
