"""Judging values by a compiled form, as the screens ask."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from django.utils import timezone

from thistlequartz.core.evaluation import CompiledForm, Lookup, Verdict, Waiver
from thistlequartz.core.evaluation.judging import Judged
from thistlequartz.core.expression import nearest
from thistlequartz.core.ruleset import MOMENTS, Event, Moment
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.problems import ProblemItem, Refusal

from .shapes import Judgement, Reasons, Trying, verdict_view

SEEN_KEPT = 1_024
RECORDS_LOOKED_AT = 20


@dataclass(frozen=True, slots=True)
class Attempt:
    """A record as it is sent, and what it is judged against."""

    values: Mapping[str, object]
    role: str
    lookup: Lookup
    event: Event = "create"
    stored: Mapping[str, object] | None = None
    held: bool = False
    touched: tuple[str, ...] = ()
    reasons: Mapping[str, Waiver] = field(default_factory=dict)
    applied: tuple[str, ...] = ()

    @classmethod
    def of(cls, body: Trying, role: str, lookup: Lookup) -> "Attempt":
        """What a screen sends, where nothing is stored yet."""
        return cls(
            values=body.values,
            role=role,
            lookup=lookup,
            event=body.event,
            touched=tuple(body.touched),
            reasons=waivers(body.reasons),
            applied=tuple(body.proposals_applied),
        )


def waivers(reasons: Reasons) -> dict[str, Waiver]:
    """Reasons as the core takes them."""
    return {rule: Waiver(given.text, given.basis) for rule, given in reasons.items()}


def verdicts_of(
    compiled: CompiledForm, attempt: Attempt, moments: tuple[Moment, ...]
) -> dict[Moment, Verdict]:
    """The verdicts of some moments, now, at the desk."""
    now = timezone.now()
    return compiled.judge_moments(
        attempt.values,
        moments=moments,
        today=compiled.today_at(now),
        now=now,
        event=attempt.event,
        role=attempt.role,
        stored=attempt.stored,
        touched=attempt.touched,
        reasons=attempt.reasons,
        proposals_applied=attempt.applied,
        held=attempt.held,
        lookup=attempt.lookup,
    )


def judge_all(compiled: CompiledForm, attempt: Attempt) -> Judgement:
    """The verdicts of the three moments. Unknown fields are refused."""
    refuse_unknown(compiled, attempt.values)
    verdicts = verdicts_of(compiled, attempt, MOMENTS)
    fields = compiled.fields
    return Judgement(**{moment: verdict_view(one, fields) for moment, one in verdicts.items()})


def shown_judgement(judged: Judged, compiled: CompiledForm) -> Judgement:
    """The verdicts of the three moments on a record that was judged."""
    fields = compiled.fields
    return Judgement(**{moment: verdict_view(judged.verdict(moment), fields) for moment in MOMENTS})


def entries_of_records(draft: DraftForm) -> dict[str, list[object]]:
    """Entries of the newest stored records, by field, each once: they are known to make sense."""
    found: dict[str, list[object]] = {}
    newest = draft.records.order_by("-number").values_list("values", flat=True)[:RECORDS_LOOKED_AT]
    for values in newest:
        for key, value in values.items():
            entries = found.setdefault(key, [])
            if value not in entries:
                entries.append(value)
    return found


def note_seen(draft: DraftForm, judgement: Judgement) -> None:
    """Keep which rules have been seen to fire, and which to be kept, since they were written."""
    statuses = [
        (one.rule, one.status)
        for verdict in (judgement.save, judgement.submit)
        for one in verdict.results
    ]
    for status, flag in (("broken", "broken_seen"), ("kept", "kept_seen")):
        seen = frozenset(rule for rule, found in statuses if found == status)
        if seen and _first_time(draft.pk, draft.revision, flag, seen):
            unseen = draft.rule_rows.filter(key__in=seen, **{flag: False})
            unseen.update(**{flag: True})


@lru_cache(maxsize=SEEN_KEPT)
def _token(pk: int, revision: int, flag: str, seen: frozenset[str]) -> list[None]:
    return []


def _first_time(pk: int, revision: int, flag: str, seen: frozenset[str]) -> bool:
    """Whether the same has not been noted already: the bench asks at every key that is pressed."""
    token = _token(pk, revision, flag, seen)
    token.append(None)
    return len(token) == 1


def refuse_unknown(compiled: CompiledForm, values: Mapping[str, object]) -> None:
    """Raise a Refusal (422) that names every field the form does not know."""
    known = compiled.entries
    errors = []
    for key in values:
        if key not in known:
            near = nearest(key, known)
            remedy = f"Did you mean “{near}”?" if near else "Take it out."
            message = f"There is no field “{key[:60]}” in this form."
            errors.append(ProblemItem(place=f"values.{key[:60]}", message=message, remedy=remedy))
    if errors:
        raise Refusal(
            422,
            "unknown-fields",
            "Some of these fields are not in the form.",
            "Take them out or correct their names; nothing has been stored.",
            errors,
        )
