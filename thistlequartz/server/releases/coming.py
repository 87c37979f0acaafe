"""Releases that wait: coming into force at their moment, and being withdrawn before it."""

from datetime import datetime, timedelta
from typing import Any, Final, NoReturn

from django.http import Http404
from django.utils import timezone

from thistlequartz.core.ruleset import Form
from thistlequartz.core.translation import tr
from thistlequartz.core.types import DateTimeType, read_value
from thistlequartz.core.values import Fault
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force, waiting_release
from thistlequartz.server.outages import in_one_go
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import ProblemItem, Refusal

from .models import Release
from .ports import complete_all, prepare_all
from .services import (
    ATTEMPTS,
    PreparationOutdated,
    compiled_release,
)

AHEAD: Final = timedelta(minutes=10)
"""How long before its moment the stored records are prepared for a release."""
FURTHEST: Final = 10
"""Years to come."""


def zone_of(draft: DraftForm) -> str:
    """The zone by whose clock a form is filled in."""
    return str(draft.rest.get("zone") or Form.model_fields["zone"].default)


def moment_in(draft: DraftForm, written: str) -> datetime:
    """Read a moment to come, by the clock of the form's zone.

    Refused where it cannot be read, is past, or lies too far ahead.
    """
    moment = read_value(written, DateTimeType(zone_of(draft)))
    now = timezone.now()
    if isinstance(moment, Fault):
        _refuse_moment(moment.message)
    if not isinstance(moment, datetime):
        _refuse_moment(tr("There is no moment."))
    if moment <= now:
        _refuse_moment(tr("This moment is past."))
    if moment.year > now.year + FURTHEST:
        _refuse_moment(tr("This moment is more than {furthest} years away.", furthest=FURTHEST))
    return moment


def _refuse_moment(message: str) -> NoReturn:
    remedy = tr("Give a later one, or release at once.")
    at = ProblemItem(place="since", message=message, remedy=remedy)
    raise Refusal(422, "moment", tr("From when it is in force cannot be taken."), remedy, [at])


def bring_due_into_force(sender: Any, **_: Any) -> None:
    """Whatever has come into force, and is not done yet; stored records are prepared ahead."""
    soon = Release.objects.filter(
        brought_at=None, withdrawn_at=None, in_force_from__lte=timezone.now() + AHEAD
    )
    for release in soon.select_related("form"):
        if release.in_force_from > timezone.now():
            compiled = compiled_release(release)
            prepare_all(release.form, compiled, lenient=True)
        else:
            bring_into_force(release.form.key)


def bring_into_force(form_key: str) -> None:
    """Do what the release that is in force by now asks of stored records, unless it is done."""
    for _ in range(ATTEMPTS):
        draft = get_draft(form_key)
        release = release_in_force(draft)
        if release is None or release.brought_at is not None:
            return
        compiled = compiled_release(release)
        prepare_all(draft, compiled, lenient=True)
        try:
            bring_locked(form_key)
            return
        except PreparationOutdated:
            continue


@in_one_go
def bring_locked(form_key: str) -> None:
    """The same in one transaction; raises NotPrepared where too many records are to be done."""
    draft = DraftForm.objects.select_for_update().get(key=form_key)
    release = release_in_force(draft)
    if release is None or release.brought_at is not None:
        return
    compiled = compiled_release(release)
    complete_all(draft, compiled, lenient=True)
    release.brought_at = timezone.now()
    release.save(update_fields=["brought_at"])
    log(
        None,
        "come into force",
        form_key,
        tr("Release {number}", number=release.number),
        note=release.note,
    )


@in_one_go
def withdraw(person: Person, form_key: str, number: int, why: str) -> Release:
    """Take back a release that still waits; refused once it is in force."""
    draft = DraftForm.objects.select_for_update().filter(key=form_key).first()
    if draft is None or not draft.releases.filter(number=number).exists():
        raise Http404(number)
    release: Release | None = waiting_release(draft)
    if release is None or release.number != number:
        raise Refusal(
            409,
            "not-waiting",
            tr("Release {number} is not scheduled any more.", number=number),
            tr("Go back to an earlier release instead; it becomes a new one."),
        )
    release.withdrawn_at, release.withdrawn_by = timezone.now(), person
    release.withdrawn_why = why
    release.save(update_fields=["withdrawn_at", "withdrawn_by", "withdrawn_why"])
    log(person, "withdraw release", form_key, tr("Release {number}", number=number), note=why)
    return release
