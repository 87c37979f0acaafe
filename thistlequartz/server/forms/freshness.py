"""Freshness: what an answer about a form depends on, said in two words.

A *revision* counts the edits of one thing that people edit: a part of a draft, a record, a link, a
message. Who saves says which revision they began from; a later one is not overwritten.

A *fingerprint* is a hash of all that an answer depends on. An answer is kept with it, and is up to
date as long as the fingerprint that is worked out now is the same:

- anything made of a draft, `DraftForm.fingerprint`: every edit of the draft, in order
- what its rules say and what a case comes to, `rules_fingerprint`: the draft, and what it names
- a run of the cases, `cases_run_fingerprint`: the rules and the cases
- what the cases prove, `proof_fingerprint`: the rules, the cases and the day
- the findings, `findings_fingerprint`: the rules, the references that other forms require, the day,
  the rights of people, and the searches there are
- a dismissed finding, `basis_fingerprint`: its rules, its fields and its words
- the impact on stored records, `impact_fingerprint`: the release in force, and what may follow it
- the state of the whole form, `form_fingerprint`: the draft, its releases, cases and plan, and the
  dismissed findings

Fingerprints that need nothing of a draft stand with what they are of: that of a release before it
is made (`releases.knowing`), of unique keys (`records.uniqueness`), of the rows of a file
(`imports`).
"""

import hashlib
import json
from collections.abc import Sequence
from typing import Any

from django.db.models import Count, Max, Sum

from thistlequartz.core.findings import Finding, Rights, references_required_around
from thistlequartz.core.ruleset import Form

from .drafts import snapshot
from .models import DraftForm
from .releases_in_force import standing

_CHARACTERS = 32


def rules_fingerprint(draft: DraftForm) -> str:
    """Of all that judging by the draft depends on: itself, and what it names elsewhere."""
    return snapshot(draft).fingerprint


def cases_fingerprint(draft: DraftForm) -> str:
    """Of the cases as they are written, in their order."""
    return fingerprint_of(list(draft.case_rows.values_list("pk", "revision")))


def cases_run_fingerprint(draft: DraftForm) -> str:
    """Of a run of the cases: the rules and the cases."""
    return fingerprint_of(rules_fingerprint(draft), cases_fingerprint(draft))


def proof_fingerprint(draft: DraftForm) -> str:
    """Of what the cases prove: the rules, the cases, and the day by the clock of the form."""
    return fingerprint_of(cases_run_fingerprint(draft), snapshot(draft).today)


def findings_fingerprint(draft: DraftForm, rights: Rights, searches: Sequence[str]) -> str:
    """Return the fingerprint of the findings.

    The rules, references required around, the day, rights, and the version of the searches.
    """
    now = snapshot(draft)
    around = references_required_around(now.ruleset, draft.key)
    return fingerprint_of(now.fingerprint, around, now.today, rights, list(searches))


def basis_fingerprint(form: Form, finding: Finding) -> str:
    """Of what a finding rests on: its rules, its fields, and its words."""
    rules = {*finding.rules, *finding.proof}
    documents = [
        *(one.model_dump(mode="json") for one in form.rules if one.key in rules),
        *(one.model_dump(mode="json") for one in form.fields if one.key in finding.fields),
        finding.says,
    ]
    return fingerprint_of(json.dumps(documents, sort_keys=True))


def impact_fingerprint(release: int | None, again: int | None, following: str) -> str:
    """Return the fingerprint of the impact on stored records.

    The release in force, an earlier one that may come again, and the rules that would follow.
    """
    return fingerprint_of(release, again, following)


def form_fingerprint(draft: DraftForm, dismissed: Any) -> str:
    """Return the fingerprint of a form as a whole: while equal, every answer about it holds.

    `dismissed` are the dismissed findings; stored records do not count.
    """
    rows = (draft.case_rows, draft.plan_rows)
    return fingerprint_of(
        rules_fingerprint(draft),
        draft.fingerprint,
        draft.settings_revision,
        [one.pk for one in standing(draft) if one is not None],
        [one.aggregate(Count("pk"), Max("pk"), Sum("revision")) for one in rows],
        dismissed,
    )


def fingerprint_of(*told: object) -> str:
    """The hash of values by their `repr`, which must tell them apart: 32 hexadecimal digits."""
    return hashlib.sha256(repr(told).encode()).hexdigest()[:_CHARACTERS]
