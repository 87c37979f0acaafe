"""Judging values by a compiled form, as the screens ask."""

from collections.abc import Collection, Mapping

from django.utils import timezone

from thistlequartz.core.evaluation import CompiledForm
from thistlequartz.core.expression import nearest
from thistlequartz.core.ruleset import Event
from thistlequartz.server.problems import ProblemItem, Refusal

from .shapes import Judgement, verdict_view


def judge_all(
    compiled: CompiledForm,
    values: Mapping[str, object],
    *,
    event: Event,
    role: str,
    touched: Collection[str] = (),
) -> Judgement:
    """The verdicts of the three moments, today, at the desk. Unknown fields are refused."""
    refuse_unknown(compiled, values)
    verdicts = compiled.judge_moments(
        values,
        moments=("entry", "save", "submit"),
        today=timezone.localdate(),
        event=event,
        role=role,
        touched=touched,
    )
    return Judgement(**{moment: verdict_view(verdict) for moment, verdict in verdicts.items()})


def refuse_unknown(compiled: CompiledForm, values: Mapping[str, object]) -> None:
    """Raise a Refusal (422) that names every field the form does not know."""
    errors = []
    for key in values:
        if key not in compiled.vocabulary:
            near = nearest(key, compiled.vocabulary)
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
