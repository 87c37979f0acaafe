"""Edits of a draft: one transaction, logged part by part, undone and redone."""

import uuid
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from django.dispatch import Signal
from django.http import Http404

from thistlequartz.core.translation import tr
from thistlequartz.server.activity.acts import undoing
from thistlequartz.server.activity.models import AuditEntry, UndoState
from thistlequartz.server.activity.services import log
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import refuse_closed_forms
from thistlequartz.server.problems import ProblemItem, Refusal

from .draft_parts import (
    BESIDE_THE_RULES,
    DraftPart,
    Row,
    forms_named_in,
    in_current_format,
    read_part,
    rows_of,
    write_part,
)
from .models import DraftForm

draft_changed = Signal()
"""Sent with the `draft` once a change to any part of it is stored."""


class DraftEdit:
    """What one person does to one draft in one go."""

    def __init__(self, draft: DraftForm, person: Person) -> None:
        self.draft = draft
        self.person = person
        self.batch = uuid.uuid4().hex
        self.revises = False
        """Whether what a record must satisfy has changed."""

    def put(
        self, act: str, part: DraftPart, document: Any, subject: str, position: int | None = None
    ) -> Row | None:
        """Put `document` in the place of `part`, and log it; None takes the part out."""
        before, place = read_part(self.draft, part)
        if before == document:
            return None
        refuse_closed_forms(self.person, forms_named_in(part, document))
        row = write_part(self.draft, self.person, part, document, position)
        if part.kind not in BESIDE_THE_RULES:
            self.revises = True
        log(
            self.person,
            act,
            self.draft.key,
            subject,
            before=before,
            after=document,
            part=part.kind,
            part_key=part.key,
            position=place if row is None else row.position,
            batch=self.batch,
        )
        return row

    def row(self, what: str, key: str, revision: int) -> Any:
        """The row of a part, unless somebody has changed it since `version`."""
        # A shared list belongs to no draft, so the lock on this one does not hold it.
        row = rows_of(self.draft, what).select_for_update().filter(key=key).first()
        if row is None:
            raise Http404(key)
        if row.revision != revision:
            raise changed_meanwhile(what, row.changed_by, row.revision, row.document)
        return row


@contextmanager
def changing(person: Person, form_key: str) -> Iterator[DraftEdit]:
    """Open a transaction on one draft, locked.

    When it succeeds and rules or fields have changed, the revision goes up.
    """
    with transaction.atomic():
        change = DraftEdit(locked_draft(form_key), person)
        yield change
        undone = UndoState.objects.filter(entry__in=_own(person, form_key), state="undone")
        undone.update(state="dropped")
        _changed(change.draft, revises=change.revises)


def locked_draft(form_key: str) -> DraftForm:
    """The draft, nobody else's until the transaction ends. Raises Http404."""
    draft = DraftForm.objects.select_for_update().filter(key=form_key).first()
    if draft is None:
        raise Http404(form_key)
    return draft


def changed_meanwhile(what: str, by: Person | None, revision: int, current: Any) -> Refusal:
    """The answer to a change made from a version that is no longer the newest."""
    return Refusal(
        409,
        "changed-meanwhile",
        tr(
            "{who} has changed this {what} since you opened it.",
            who=by.shown_name if by else tr("Somebody"),
            what=what,
        ),
        tr("Look at the newer version, then make your change again; yours was not saved."),
        revision=revision,
        current=current,
    )


def key_taken(what: str, key: str) -> Refusal:
    """The answer to a part whose key is another one's."""
    message = tr("There is a {what} with the key “{key}” already.", what=what, key=key)
    remedy = tr("Choose another key.")
    errors = [ProblemItem(place="key", message=message, remedy=remedy)]
    return Refusal(409, "key-taken", message, remedy, errors)


def undo(person: Person, form_key: str) -> str:
    """Take back the person's newest change to the draft; what it was, in words."""
    return _turn(person, form_key, forward=False)


def redo(person: Person, form_key: str) -> str:
    """Make the change again that was taken back last; what it was, in words."""
    return _turn(person, form_key, forward=True)


def next_turns(person: Person, form_key: str) -> tuple[str | None, str | None]:
    """What undoing and redoing would change, in words."""
    newest, oldest = _newest(person, form_key), _oldest_undone(person, form_key)
    return tuple(
        in_words(_together(person, form_key, one)) if one else None for one in (newest, oldest)
    )  # type: ignore[return-value]


def in_words(activities: Sequence[AuditEntry]) -> str:
    """“changing the rule “Holotypes name their determiner””; of several, “adding 3 rules”."""
    return undoing([one.act for one in activities], [one.subject for one in activities])


def _own(person: Person, form_key: str) -> Any:
    return AuditEntry.objects.filter(person=person, form_key=form_key).exclude(part="")


def _together(person: Person, form_key: str, one: AuditEntry) -> list[AuditEntry]:
    """What was changed in one go with it, in order."""
    return list(_own(person, form_key).filter(batch=one.batch).order_by("id"))


def _standing(person: Person, form_key: str, state: str) -> QuerySet[AuditEntry]:
    found: QuerySet[AuditEntry] = _own(person, form_key).filter(undo_state__state=state)
    return found


def _newest(person: Person, form_key: str) -> AuditEntry | None:
    found: AuditEntry | None = (
        _own(person, form_key).filter(undo_state__state="done").order_by("-id").first()
    )
    return found


def _oldest_undone(person: Person, form_key: str) -> AuditEntry | None:
    found: AuditEntry | None = (
        _own(person, form_key).filter(undo_state__state="undone").order_by("id").first()
    )
    return found


def _turn(person: Person, form_key: str, *, forward: bool) -> str:
    with transaction.atomic():
        draft = locked_draft(form_key)
        found = (_oldest_undone if forward else _newest)(person, form_key)
        if found is None:
            word = "redo" if forward else "undo"
            raise Refusal(
                409,
                f"nothing-to-{word}",
                tr("There is nothing to {word}.", word=word),
                tr("Nothing was changed."),
            )
        acts = _together(person, form_key, found)
        for act in acts if forward else reversed(acts):
            _undo_or_redo(draft, person, act, forward=forward)
        said = in_words(acts)
        word = "redo" if forward else "undo"
        log(person, word, form_key, said)
        _changed(draft, revises=any(act.part not in BESIDE_THE_RULES for act in acts))
        return said


def _undo_or_redo(draft: DraftForm, person: Person, act: AuditEntry, *, forward: bool) -> None:
    part = DraftPart(act.part, act.part_key)  # type: ignore[arg-type]
    before, after = (in_current_format(act.part, one) for one in (act.before, act.after))
    source, aim = (before, after) if forward else (after, before)
    current, _ = read_part(draft, part)
    if current != source:
        raise Refusal(
            409,
            "changed-since",
            tr("“{subject}” has been changed since by somebody else.", subject=act.subject),
            tr("Look at the newer version, and change it by hand; nothing was taken back."),
        )
    write_part(draft, person, part, aim, act.position)
    UndoState.objects.filter(entry=act).update(state="done" if forward else "undone")


def _changed(draft: DraftForm, *, revises: bool) -> None:
    if revises:
        draft.revision += 1
        draft.save(update_fields=["revision", "fingerprint"])
    transaction.on_commit(lambda: draft_changed.send_robust(DraftForm, draft=draft))
