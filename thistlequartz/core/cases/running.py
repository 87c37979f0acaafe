"""Running cases: what happens to each now, and whether that is what it expects."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

from thistlequartz.core.judging import CompiledForm, JudgeRequest, Status
from thistlequartz.core.ruleset import Case
from thistlequartz.core.translation import tr

from .differences import differences
from .observing import Observed, Observer, circumstances_of, read_case

State = Literal["passes", "fails", "cannot_run"]


@dataclass(frozen=True, slots=True)
class CaseRun:
    """One case, run."""

    case: str
    state: State
    observed: Observed
    differences: tuple[str, ...]
    """In words: how it disagrees, or why it cannot be run."""
    statuses: tuple[Status, ...]
    """Of every rule, in the order of the form, whatever the moment."""


class Runner:
    """Runs the cases of one form."""

    def __init__(self, form: CompiledForm) -> None:
        self.form = form
        self._observer = Observer(form)

    def run_all(self, cases: Iterable[Case]) -> Iterator[CaseRun]:
        """Each case in turn."""
        return map(self.run, cases)

    def run(self, case: Case) -> CaseRun:
        """One case. Never raises: a case whose fields are gone says so."""
        circumstances = circumstances_of(self.form, case.circumstances)
        record = read_case(self.form, case)
        judged = self.form.judged(
            JudgeRequest(record, circumstances, applied=case.proposals_applied)
        )
        observed = self._observer.of_judged(judged, closer=case.expected.looks_closer)
        statuses = tuple(judged.findings[rule.key].status for rule in self.form.form.rules)
        missing = tuple(gone(self.form, case))
        if missing:
            return CaseRun(case.key, "cannot_run", observed, missing, statuses)
        told = differences(self.form, case.expected, observed)
        state: State = "fails" if told else "passes"
        return CaseRun(case.key, state, observed, told, statuses)


def gone(form: CompiledForm, case: Case) -> Iterator[str]:
    """What the case is built on and the form no longer has, in words."""
    for key in case.values:
        if key not in form.entries:
            yield tr("It fills in “{key}”, which the form does not have any more.", key=key)
    for key in case.circumstances.stored:
        if key not in form.fields:
            yield tr(
                "Its stored record has “{key}”, which the form does not have any more.", key=key
            )
    layout = case.circumstances.layout
    if layout is not None and layout not in {one.key for one in form.form.layouts}:
        yield tr(
            "It looks at the layout “{layout}”, which the form does not have any more.",
            layout=layout,
        )
