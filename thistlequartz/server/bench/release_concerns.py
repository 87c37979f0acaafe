"""What the cases say of a release before it is made."""

from collections.abc import Mapping, Sequence
from typing import Any

from thistlequartz.core.translation import tr, tr_count
from thistlequartz.server.forms.drafts import compiled_draft
from thistlequartz.server.forms.freshness import rules_fingerprint
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.releases.concerns import Concern, concern

from .case_runs import bring_up_to_date, stale, under_way


def case_concerns(draft: DraftForm, again: int | None) -> list[Concern]:
    """Concerns about cases that fail, and checks that lack a passing or a failing example."""
    if again is not None:
        return []  # the cases are those of the draft
    rows: list[Any] = list(
        draft.case_rows.values("key", "document__name", "state", "found", "rules_fingerprint")
    )
    return [*_disagreeing(draft, rows), *_unseen(draft, rows)]


def _disagreeing(draft: DraftForm, rows: Sequence[Mapping[str, Any]]) -> list[Concern]:
    if not rows:
        return [
            concern("cases", "note", tr("No cases are kept: nothing proves what the rules do."))
        ]
    working = bring_up_to_date(draft) or under_way(draft)
    waiting = stale(draft, rules_fingerprint(draft)).count()
    if waiting:
        says = tr_count(
            "{waiting} of {count} case has not been run by the rules as they are.",
            "{waiting} of {count} cases have not been run by the rules as they are.",
            len(rows),
            waiting=waiting,
        )
        return [concern("cases", "warn", says, settled=working is None, lacking=True)]
    said = []
    for state, told in (("fails", _failing), ("cannot_run", _not_run)):
        named = [(one["key"], one["document__name"]) for one in rows if one["state"] == state]
        if named:
            said.append(concern("cases", "block", told(len(named), len(rows)), named))
    agree = tr_count("The case passes.", "All {count} cases pass.", len(rows))
    return said or [concern("cases", "clear", agree)]


def _failing(count: int, of: int) -> str:
    if of == 1:
        return tr("1 of 1 case fails.")
    return tr_count("{count} of {of} cases fails.", "{count} of {of} cases fail.", count, of=of)


def _not_run(count: int, of: int) -> str:
    if of == 1:
        return tr("1 of 1 case cannot be run.")
    return tr("{count} of {of} cases cannot be run.", count=count, of=of)


def _unseen(draft: DraftForm, rows: Sequence[Mapping[str, Any]]) -> list[Concern]:
    compiled = compiled_draft(draft)
    checks = [one.rule for one in compiled.rules if one.check_kind is not None and one.rule.enabled]
    if not checks:
        return []
    fingerprint = rules_fingerprint(draft)
    found = [row["found"]["statuses"] for row in rows if row["rules_fingerprint"] == fingerprint]
    # What each rule, in the order of the form, came to in every case.
    seen = {
        rule.key: {statuses[place] for statuses in found}
        for place, rule in enumerate(compiled.form.rules)
    }
    lacking = [
        (rule.key, rule.name) for rule in checks if not {"violated", "satisfied"} <= seen[rule.key]
    ]
    if not lacking:
        return [
            concern("rules", "clear", tr("The cases violate and satisfy each check at least once."))
        ]
    says = (
        tr_count(
            "{count} of {of} checks lacks a passing or a failing example.",
            "{count} of {of} checks lack a passing or a failing example.",
            len(lacking),
            of=len(checks),
        )
        if len(checks) > 1
        else tr("The check lacks a passing or a failing example.")
    )
    return [concern("rules", "note", says, lacking)]
