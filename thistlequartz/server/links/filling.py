"""A form filled in by a link: judged, submitted and answered. The verdict is the desk's."""

from dataclasses import dataclass, replace
from typing import Final

from django.db import transaction
from django.db.models import F

from thistlequartz.core.judging import CompiledForm, JudgeRequest
from thistlequartz.core.language import FormulaError
from thistlequartz.core.translation import tr
from thistlequartz.core.values import USUAL, WritingStyle
from thistlequartz.server.judging.services import (
    circumstances_now,
    refuse_unknown_of,
    verdict_views,
    waivers,
)
from thistlequartz.server.judging.shapes import JudgeBody, VerdictsView
from thistlequartz.server.people.guests import guest
from thistlequartz.server.problems import Refusal
from thistlequartz.server.records.form_in_force import DeskForm, desk_of
from thistlequartz.server.records.lookup import BlindLookup
from thistlequartz.server.records.models import Record
from thistlequartz.server.records.services import SaveRequest, store_record
from thistlequartz.server.records.settled_values import settled_now
from thistlequartz.server.records.text_values import merging_of

from .documents import LinkDocument, LinkEnding
from .models import FormLink
from .puzzles import use_solution
from .services import refuse_closed

NO_ROLE: Final = ""
"""Somebody with a link has none: rules for some roles only do not count for them."""
STYLE: Final[WritingStyle] = USUAL
THANKS: Final = tr("Thank you. What you have sent has arrived.")


@dataclass(frozen=True, slots=True)
class LinkReceipt:
    """What is said to somebody who has submitted a form."""

    text: str
    next_page: str


def entry_of(link: FormLink) -> LinkDocument:
    """What a link says."""
    return LinkDocument.model_validate(link.document)


def desk_for(link: FormLink) -> DeskForm:
    """The form that a link opens; raises a Refusal (409) before there is a release of it."""
    return desk_of(link.form.key)


def layout_of(link: FormLink, compiled: CompiledForm) -> str | None:
    """The layout by which a link shows the form; one that is gone is none."""
    layout = entry_of(link).layout
    return layout if layout in compiled.layouts else None


def judge(link: FormLink, body: JudgeBody) -> VerdictsView:
    """Return the verdict of the release in force on what is being filled in. Stores nothing.

    Rules that look at other records are judged on submitting alone.
    """
    compiled = desk_for(link).compiled
    alone = compiled.without_others
    known = {rule.key for rule in alone.form.rules}
    reasons = waivers(body.reasons)
    layout = layout_of(link, compiled)
    request = JudgeRequest(
        body.values,
        circumstances_now(compiled, NO_ROLE, entry_point="link", layout=layout),
        lookup=BlindLookup(),
        touched=frozenset(body.touched),
        waivers=reasons,
        applied=tuple(body.proposals_applied),
    )
    refuse_unknown_of(compiled, request)
    kept = replace(
        request,
        waivers={rule: one for rule, one in reasons.items() if rule in known},
        applied=tuple(rule for rule in request.applied if rule in known),
    )
    return verdict_views(alone, kept, STYLE)


def submit(link: FormLink, entry: SaveRequest, solution: str) -> LinkReceipt:
    """Store a record that was filled in by a link.

    Raises a Refusal by the rules as at the desk, and where the link is closed meanwhile or the
    puzzle is not solved: then nothing is stored.
    """
    refused: Refusal | None = None
    with transaction.atomic():
        locked = FormLink.objects.select_for_update().get(pk=link.pk)
        known = _known(locked, entry.idempotency_key)
        if known is None:
            refuse_closed(locked)
        try:
            with transaction.atomic():
                if known is None and entry_of(locked).puzzle:
                    use_solution(locked, solution)
                record = known or store_record(guest(), link.form.key, entry, submit=True)
        except Refusal as refusal:
            # What was tried is counted all the same, so the transaction is not given up.
            refused = refusal
        else:
            if known is None:
                FormLink.objects.filter(pk=link.pk).update(taken=F("taken") + 1)
    if refused is not None:
        raise refused
    return answer_to(link, record)


def _known(link: FormLink, idempotency_key: str) -> Record | None:
    """The record that this very sending has stored, where its answer did not arrive."""
    if not idempotency_key:
        return None
    return link.form.records.filter(idempotency_key=idempotency_key, changed_by=guest()).first()


def answer_to(link: FormLink, record: Record) -> LinkReceipt:
    """The first ending whose condition a record meets, with its values put in."""
    desk = desk_for(link)
    endings = entry_of(link).endings
    settled = settled_now(record, desk.compiled, role=NO_ROLE, entry_point="link")

    def met(ending: LinkEnding) -> bool:
        try:
            asked = desk.compiled.condition(ending.condition) if ending.condition else None
        except FormulaError:  # the release in force does not know what it asks for
            return False
        return asked is None or asked.met(settled)

    ending = next(filter(met, endings), LinkEnding(text=THANKS))
    merging = merging_of(record, desk.compiled, (ending.text,), "submitted", guest())
    return LinkReceipt(merging.plain(ending.text), ending.next_page.strip())
