"""Judging values by a compiled form, as the screens ask."""

from collections.abc import Collection, Iterable, Iterator, Mapping
from typing import cast

from django.utils import timezone

from thistlequartz.core.judging import (
    Circumstances,
    CompiledForm,
    Judgement,
    JudgeRequest,
    Lookup,
    Verdict,
    Waiver,
)
from thistlequartz.core.language import nearest
from thistlequartz.core.ruleset import MOMENTS, EntryPoint, Event
from thistlequartz.core.translation import tr
from thistlequartz.core.values import Stored, WritingStyle, to_json
from thistlequartz.server.problems import ProblemItem, Refusal

from .shapes import JudgeBody, Reasons, VerdictsView, verdict_view

MOST_NAMED = 20
"""Unknown names in one place that are told one by one, each with the nearest that is known."""


def circumstances_now(
    compiled: CompiledForm,
    role: str,
    event: Event = "create",
    entry_point: EntryPoint = "desk",
    layout: str | None = None,
) -> Circumstances:
    """Return the circumstances of somebody with a role, now."""
    now = timezone.now()
    return Circumstances(compiled.today_at(now), now, event, entry_point, layout, role)


def request_of(compiled: CompiledForm, body: JudgeBody, role: str, lookup: Lookup) -> JudgeRequest:
    """Return what a screen asks to be judged, where nothing is stored yet."""
    return JudgeRequest(
        body.values,
        circumstances_now(compiled, role, body.event),
        lookup=lookup,
        touched=frozenset(body.touched),
        waivers=waivers(body.reasons),
        applied=tuple(body.proposals_applied),
    )


def waivers(reasons: Reasons) -> dict[str, Waiver]:
    """Reasons as the core takes them."""
    return {rule: Waiver(given.text, given.basis) for rule, given in reasons.items()}


def stored_values(verdict: Verdict) -> dict[str, Stored]:
    """What would be stored, in canonical form."""
    return {key: to_json(value) for key, value in (verdict.stores or {}).items()}


def judge_all(compiled: CompiledForm, request: JudgeRequest, style: WritingStyle) -> VerdictsView:
    """The verdicts of the three moments. Fields and rules that are not there are refused."""
    refuse_unknown_of(compiled, request)
    return verdict_views(compiled, request, style)


def refuse_unknown_of(compiled: CompiledForm, request: JudgeRequest) -> None:
    """Raise a Refusal (422) that names what a request holds and the form does not know."""
    refuse_unknown(
        compiled,
        cast("Mapping[str, object]", request.values),
        fields={"touched": request.touched},
        rules={"reasons": request.waivers or {}, "proposals_applied": request.applied},
    )


def verdict_views(
    compiled: CompiledForm, request: JudgeRequest, style: WritingStyle
) -> VerdictsView:
    """Return the verdicts of the three moments.

    Somebody without an account is told what to correct, but no reasons of rules.
    """
    verdicts = compiled.verdicts(request, MOMENTS)
    fields, why = compiled.fields, request.circumstances.entry_point != "link"
    return VerdictsView(
        **{moment: verdict_view(one, fields, style, why=why) for moment, one in verdicts.items()}
    )


def shown_judgement(judged: Judgement, compiled: CompiledForm, style: WritingStyle) -> VerdictsView:
    """The verdicts of the three moments on a record that was judged."""
    fields = compiled.fields
    return VerdictsView(
        **{moment: verdict_view(judged.verdict(moment), fields, style) for moment in MOMENTS}
    )


def refuse_unknown(
    compiled: CompiledForm,
    values: Mapping[str, object],
    *,
    fields: Mapping[str, Iterable[str]] | None = None,
    rules: Mapping[str, Iterable[str]] | None = None,
) -> None:
    """Raise a Refusal (422) that names every unknown field and rule.

    In `values`, and, by the name of the place, in lists of further `fields` and of `rules`.
    """
    known_rules = frozenset(rule.key for rule in compiled.form.rules)
    errors = [
        *_unknown("field", "values", values, compiled.entries),
        *(
            one
            for place, keys in (fields or {}).items()
            for one in _unknown("field", place, keys, compiled.entries)
        ),
        *(
            one
            for place, keys in (rules or {}).items()
            for one in _unknown("rule", place, keys, known_rules)
        ),
    ]
    if errors:
        raise Refusal(
            422,
            "unknown-names",
            tr("Something of what was sent is not in the form."),
            tr("Remove or correct what is named below; nothing has been stored."),
            errors,
        )


def _unknown(
    what: str, place: str, keys: Iterable[str], known: Collection[str]
) -> Iterator[ProblemItem]:
    unknown = [key for key in keys if key not in known]
    for key in unknown[:MOST_NAMED]:
        near = nearest(key[:60], known)
        yield ProblemItem(
            place=f"{place}.{key[:60]}",
            message=tr("There is no {what} “{key}” in this form.", what=what, key=key[:60]),
            remedy=tr("Did you mean “{near}”?", near=near) if near else tr("Remove it."),
        )
    if len(unknown) > MOST_NAMED:
        more = len(unknown) - MOST_NAMED
        yield ProblemItem(
            place=place,
            message=tr("{more} more names of what was sent are not in this form.", more=more),
            remedy=tr("Remove them."),
        )
