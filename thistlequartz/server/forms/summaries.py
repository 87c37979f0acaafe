"""Drafts as the catalogue and the rules' screen show them."""

from collections import defaultdict
from collections.abc import Collection
from functools import lru_cache
from typing import Any

from django.db.models import Count
from django.utils import timezone

from thistlequartz.core.ruleset import MOMENTS, marks_of, severity_of
from thistlequartz.server.people.models import Role
from thistlequartz.server.problems import item

from .drafts import compiled_draft, form_document, of_each
from .freshness import rules_fingerprint
from .models import DraftCase, DraftForm
from .released_documents import Released, differs_from
from .releases_in_force import ReleaseStatus, standing
from .shapes import FormSummary, FormView, ReleaseView
from .views import field_views, plan_view, rule_views, setup_view, sheet_view

COUNTS_KEPT = 1_024
NOT_PASSING = ("fails", "cannot_run")


def release_view(release: Released, now_standing: ReleaseStatus) -> ReleaseView:
    """A release as the screens need it."""
    who = release.withdrawn_by.shown_name if release.withdrawn_by else ""
    return ReleaseView(
        number=release.number,
        note=release.note,
        released_by=release.released_by.shown_name if release.released_by else None,
        released_at=release.released_at,
        in_force_from=release.in_force_from,
        standing=_standing_of(release, now_standing),
        withdrawn=": ".join(filter(None, (who, release.withdrawn_why))),
    )


def _standing_of(release: Released, now_standing: ReleaseStatus) -> Any:
    if release.withdrawn_at is not None:
        return "withdrawn"
    if now_standing.in_force is not None and release.pk == now_standing.in_force.pk:
        return "in_force"
    if now_standing.waiting is not None and release.pk == now_standing.waiting.pk:
        return "scheduled"
    return "superseded"


def catalogue(without: Collection[str] = ()) -> list[FormSummary]:
    """Every form with its counts, by name, but those of the keys `without`."""
    drafts = DraftForm.objects.exclude(key__in=without).annotate(record_count=Count("records"))
    ran: dict[int, list[tuple[str, str]]] = defaultdict(list)
    for form, state, fingerprint in DraftCase.objects.values_list(
        "form_id", "state", "rules_fingerprint"
    ):
        ran[form].append((state, fingerprint))
    records = {draft.pk: draft.record_count for draft in drafts}
    return list(of_each(drafts, lambda one: _summary(one, records[one.pk], ran[one.pk])))


def _summary(draft: DraftForm, records: int, ran: list[tuple[str, str]]) -> FormSummary:
    releases = standing(draft)
    now = rules_fingerprint(draft) if ran else ""
    states = [state for state, fingerprint in ran if fingerprint == now]
    return FormSummary(
        key=draft.key,
        name=draft.name,
        purpose=draft.purpose,
        **_counts(draft.pk, draft.fingerprint),
        records=records,
        release=release_view(releases.in_force, releases) if releases.in_force else None,
        draft_changed=differs_from(draft, releases.newest),
        cases=len(ran),
        failing=sum(state in NOT_PASSING for state in states),
        cases_to_run=len(ran) - len(states),
    )


@lru_cache(maxsize=COUNTS_KEPT)
def _counts(pk: int, fingerprint: str) -> dict[str, int]:
    """What the catalogue counts in a draft; kept until the draft changes."""
    form = form_document(DraftForm.objects.get(pk=pk))
    on = [rule for rule in form.rules if rule.enabled]
    return {
        "fields": len(form.fields),
        "mandatory_fields": list(marks_of(form.rules).values()).count("required"),
        "rules": len(on),
        "can_block_save": sum(severity_of(rule, "save") == "block" for rule in on),
        "can_block_submit": sum(severity_of(rule, "submit") == "block" for rule in on),
        "can_warn": sum(any(severity_of(rule, one) == "warn" for one in MOMENTS) for rule in on),
    }


def form_view(draft: DraftForm) -> FormView:
    """The draft, whole."""
    compiled = compiled_draft(draft)
    releases = standing(draft)
    return FormView(
        key=draft.key,
        name=draft.name,
        purpose=draft.purpose,
        revision=draft.revision,
        fields=field_views(draft.field_rows.all(), compiled),
        rules=rule_views(draft.rule_rows.select_related("changed_by"), compiled),
        sheet=sheet_view(compiled, timezone.now(), Role.CLERK),
        setup=setup_view(draft, compiled),
        plan=plan_view(draft.plan_rows.all()),
        problems=[item(problem) for problem in compiled.form_problems],
        release=release_view(releases.in_force, releases) if releases.in_force else None,
        waiting=release_view(releases.waiting, releases) if releases.waiting else None,
        draft_changed=differs_from(draft, releases.newest),
    )
