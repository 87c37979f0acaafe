"""Runs of the cases of a draft, after each change, and their results."""

from collections.abc import Iterable, Sequence
from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet

from thistlequartz.core.cases.running import CaseRun, Runner
from thistlequartz.core.ruleset import Case
from thistlequartz.server.forms.drafts import compiled_draft, snapshot
from thistlequartz.server.forms.freshness import cases_run_fingerprint, rules_fingerprint
from thistlequartz.server.forms.models import DraftCase, DraftForm
from thistlequartz.server.jobs.models import UNDER_WAY, Job
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import begin, newest
from thistlequartz.server.people.models import Person

CASES = "cases"
ROWS_AT_ONCE = 100


def run_cases(job: Job, progress: Progress) -> dict[str, int]:
    """Run every case that is stale, or all; return how many pass, fail and cannot run."""
    draft = DraftForm.objects.get(pk=job.form_id)
    every = draft.case_rows.all()
    rows = list(every if job.person_id else stale(draft, rules_fingerprint(draft)))
    run_rows(draft, progress.over(rows, len(rows)))
    return counts(draft)


def run_rows(draft: DraftForm, rows: Iterable[DraftCase]) -> None:
    """Run cases by the draft as it is, and store what came of them."""
    now = snapshot(draft)
    runner = Runner(now.compiled)
    waiting: list[DraftCase] = []
    try:
        for row in rows:
            _note(row, runner.run(Case.model_validate(row.document)), now.fingerprint)
            waiting.append(row)
            if len(waiting) == ROWS_AT_ONCE:
                _store(waiting)
    finally:  # what was run before somebody stopped it is kept
        _store(waiting)


def _store(rows: list[DraftCase]) -> None:
    """What came of cases, but of those that somebody has changed or removed meanwhile."""
    with transaction.atomic():
        there = DraftCase.objects.select_for_update().filter(pk__in=[row.pk for row in rows])
        revisions = dict(there.values_list("pk", "revision"))
        as_run = [row for row in rows if revisions.get(row.pk) == row.revision]
        DraftCase.objects.bulk_update(as_run, ["state", "found", "rules_fingerprint"])
    rows.clear()


def _note(row: DraftCase, run: CaseRun, fingerprint: str) -> None:
    row.state, row.rules_fingerprint = run.state, fingerprint
    row.found = {
        "save": run.observed.save,
        "submit": run.observed.submit,
        "violated": list(run.observed.violated),
        "told": list(run.differences),
        "statuses": list(run.statuses),
    }


def stale(draft: DraftForm, fingerprint: str) -> QuerySet[DraftCase]:
    """The cases that have not been run by the rules as they are."""
    return draft.case_rows.exclude(rules_fingerprint=fingerprint)


def counts(draft: DraftForm) -> dict[str, int]:
    """Return how many cases there are, and how many fail, cannot run, or are stale."""
    now = rules_fingerprint(draft)
    rows = list(draft.case_rows.values_list("state", "rules_fingerprint"))
    states = [state for state, fingerprint in rows if fingerprint == now]
    return {
        "cases": len(rows),
        "failing": states.count("fails"),
        "cannot_run": states.count("cannot_run"),
        "to_run": len(rows) - len(states),
    }


def run_after_change(sender: Any, draft: DraftForm, **_: Any) -> None:
    """Have the cases run that a change may have made disagree."""
    bring_up_to_date(draft)


def bring_up_to_date(draft: DraftForm) -> Job | None:
    """Have the cases run that are not known by the rules as they are; None where none is run."""
    rules = rules_fingerprint(draft)
    if not stale(draft, rules).exists():
        return None
    fingerprint = cases_run_fingerprint(draft)
    last = newest(CASES, draft)
    if last is not None and last.fingerprint == fingerprint and last.state not in UNDER_WAY:
        return None  # it was stopped or failed: it is not begun again until something changes
    return begin(CASES, draft, None, fingerprint)


def run_all(draft: DraftForm, person: Person) -> Job:
    """Have all cases run."""
    return begin(CASES, draft, person, f"{cases_run_fingerprint(draft)}/all")


def under_way(draft: DraftForm) -> Job | None:
    """The run of cases that is waiting or running."""
    return newest(CASES, draft, *UNDER_WAY)


def cases_of(draft: DraftForm, keys: Iterable[str] | None = None) -> list[Case]:
    """The cases of a draft as documents, in order; of some keys only where given."""
    rows = draft.case_rows.all()
    if keys is not None:
        rows = rows.filter(Q(key__in=list(keys)))
    return [Case.model_validate(one) for one in rows.values_list("document", flat=True)]


def ran(draft: DraftForm, cases: Sequence[Case]) -> list[CaseRun]:
    """The cases run at once, without anything being stored."""
    return list(Runner(compiled_draft(draft)).run_all(cases))
