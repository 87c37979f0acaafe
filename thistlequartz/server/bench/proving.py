"""What the cases of a draft prove, and the slips that they would not notice."""

from collections.abc import Sequence
from contextlib import suppress
from datetime import date
from functools import lru_cache
from time import monotonic
from typing import Any

from django.utils import timezone
from pydantic import TypeAdapter

from thistlequartz.core.candidates.baseline import Baseline, good_baseline
from thistlequartz.core.cases.observing import noon_of
from thistlequartz.core.coverage.independence import PartAlone, open_parts, with_parts
from thistlequartz.core.coverage.proof import Proof, prove
from thistlequartz.core.drafting.drafted_case import DraftedCase, Technique
from thistlequartz.core.drafting.techniques import BoundaryValues, drafted_cases, unlike
from thistlequartz.core.judging import Circumstances
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.mutation.proof import MutationProof
from thistlequartz.core.mutation.search import MutationResult, try_mutants
from thistlequartz.server.forms.drafts import (
    compiled_draft,
    snapshot,
)
from thistlequartz.server.forms.freshness import proof_fingerprint
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import begin
from thistlequartz.server.people.models import Person, Role
from thistlequartz.server.solving import apart
from thistlequartz.workers.independence import PartsTask, looked_at_parts
from thistlequartz.workers.mutations import SlipsTask, proved_slips
from thistlequartz.workers.worker_process import TaskCancelled

from .case_runs import cases_of
from .rule_sightings import entries_of_records

SLIPS = "slips"
PROOFS_KEPT = 64
PARTS_WITHIN = 8.0
"""Seconds for parts that are worked out while somebody waits; what is left is for the next time."""
_PROOF = TypeAdapter(Proof)


def baseline_for(draft: DraftForm) -> Baseline:
    """The record from which cases of a draft are drafted: today at noon, a clerk at the desk."""
    form = compiled_draft(draft)
    today = form.today_at(timezone.now())
    circumstances = Circumstances(today, noon_of(today, form), role=Role.CLERK.value)
    return good_baseline(form, cases_of(draft), circumstances, entries_of_records(draft))


def proof_of(draft: DraftForm) -> Any:
    """What the cases prove of the rules as they are, as JSON; kept until something changes."""
    proof = _proof(draft.pk, proof_fingerprint(draft))
    whole = with_parts(proof, _parts_alone(draft, open_parts(proof)))
    return _PROOF.dump_python(whole, mode="json")


@lru_cache(maxsize=PROOFS_KEPT)
def _proof(pk: int, fingerprint: str) -> Proof:
    draft = DraftForm.objects.get(pk=pk)
    return prove(compiled_draft(draft), cases_of(draft), baseline_for(draft))


def drafted(draft: DraftForm, technique: Technique, values: BoundaryValues) -> list[DraftedCase]:
    """Return the cases that a technique asks for and that are not kept yet.

    Parts that matter alone, where the search does not reach them, are worked out by the solver.
    """
    form, baseline, kept = compiled_draft(draft), baseline_for(draft), cases_of(draft)
    found = list(drafted_cases(form, baseline, technique, boundary_values=values, kept=kept))
    if technique == "parts":
        there = [*kept, *(one.case(f"drafted_{place}") for place, one in enumerate(found))]
        left = _parts_alone(draft, open_parts(prove(form, there, baseline)))
        found += unlike((one for part in left.values() for one in part.drafted), there)
    return found


def _parts_alone(draft: DraftForm, keys: Sequence[str]) -> dict[str, PartAlone]:
    """What the solver says of these parts, as far as there was time for it."""
    now = snapshot(draft)
    known = _parts_known(draft.pk, now.fingerprint, now.today)
    left = tuple(key for key in keys if key not in known)
    until = monotonic() + PARTS_WITHIN

    def goes_on() -> None:
        if monotonic() > until:
            raise TaskCancelled

    if left:
        task = PartsTask(now.ruleset, draft.key, now.today, left)
        with suppress(TaskCancelled):
            for one in looked_at_parts(apart(), task, goes_on):
                known[one.key] = one
    return {key: known[key] for key in keys if key in known}


@lru_cache(maxsize=PROOFS_KEPT)
def _parts_known(pk: int, fingerprint: str, today: date) -> dict[str, PartAlone]:
    """What was worked out of the parts of a form as it is; it grows."""
    return {}


def look_for_slips(draft: DraftForm, person: Person) -> Job:
    """Have slips made and looked for."""
    return begin(SLIPS, draft, person, proof_fingerprint(draft))


def hunt_slips(job: Job, progress: Progress) -> dict[str, Any]:
    """Every slip of the draft, and what came of it."""
    draft = DraftForm.objects.get(pk=job.form_id)
    form = compiled_draft(draft)
    slips = list(mutants_of(form))
    found = try_mutants(form, cases_of(draft), baseline_for(draft), slips)
    looked = list(progress.over(found, len(slips)))
    proved = _proved(draft, looked, progress)
    return {"slips": [_as_json(one, proved.get(one.slip.key)) for one in looked]}


def _proved(
    draft: DraftForm, looked: Sequence[MutationResult], progress: Progress
) -> dict[str, MutationProof]:
    """What the solver says of the slips that the search could not tell from the rules."""
    left = tuple(one.slip.key for one in looked if one.state == "not_decided")
    if not left:
        return {}
    today = compiled_draft(draft).today_at(timezone.now())
    task = SlipsTask(snapshot(draft).ruleset, draft.key, today, left)
    proved: dict[str, MutationProof] = {}

    def goes_on() -> None:
        progress.tell(len(looked) - len(left) + len(proved), len(looked))

    for one in proved_slips(apart(), task, goes_on):
        proved[one.key] = one
    return proved


def _as_json(found: MutationResult, proved: MutationProof | None) -> dict[str, Any]:
    slip = found.slip
    witness = proved.witness if proved else found.witness
    return {
        "key": slip.key,
        "kind": slip.kind,
        "rule": slip.rule,
        "subject": slip.subject,
        "words": slip.words,
        "sentence": slip.sentence,
        "state": proved.state if proved else found.state,
        "why": proved.why if proved else "",
        "case": found.case,
        "witness": drafted_as_json(witness) if witness else None,
    }


def drafted_as_json(drafted: DraftedCase) -> dict[str, Any]:
    """A drafted case as a document that can be kept, with what it is about."""
    return {
        "technique": drafted.technique,
        "rules": list(drafted.rules),
        "case": drafted.case("drafted").model_dump(mode="json"),
    }
