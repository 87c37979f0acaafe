"""The parts of a draft that change as wholes: each is one document, read and written alike."""

from typing import Any, Literal, NamedTuple, cast

from django.db.models import F, QuerySet

from thistlequartz.core.ruleset.upgrading import upgraded_case, upgraded_rule
from thistlequartz.server.activity.models import AuditEntry
from thistlequartz.server.people.models import Person

from .models import (
    DraftCase,
    DraftChoiceList,
    DraftField,
    DraftForm,
    DraftRule,
    PlanLine,
    next_fingerprint,
)

PartKind = Literal["rule", "field", "line", "case", "list", "settings", "rule order", "field order"]
Row = DraftRule | DraftField | PlanLine | DraftCase | DraftChoiceList
_MODELS: dict[str, type[Row]] = {
    "rule": DraftRule,
    "field": DraftField,
    "line": PlanLine,
    "case": DraftCase,
    "list": DraftChoiceList,
}
BESIDE_THE_RULES = ("line", "case")
"""Parts that say nothing of what a record must satisfy."""
_ORDERS: dict[str, type[Row]] = {"rule order": DraftRule, "field order": DraftField}


_UPGRADES = {"rule": upgraded_rule, "case": upgraded_case}
_REVISIONS_OF_A_LIFE = 1_000_000
_LIVES = 4_000
"""As many as there are numbers for, in a column of 32 bits."""


class DraftPart(NamedTuple):
    """A part of a draft, by its kind and its key."""

    kind: PartKind
    key: str = ""


def in_current_format(kind: str, document: Any) -> Any:
    """A part of a draft as the history holds it, which is never rewritten, in today's format."""
    upgraded = _UPGRADES.get(kind)
    return upgraded(document) if upgraded else document


def forms_named_in(part: DraftPart, document: Any) -> set[str]:
    """The other forms that a part of a draft names: what it refers to, or is derived from."""
    named = None
    if document and part.kind == "field" and document.get("type") == "reference":
        named = document.get("form")
    if document and part.kind == "settings":
        named = document["rest"].get("derived_from")
    return {named} if named else set()


def rows_of(draft: DraftForm, kind: str) -> QuerySet[Any]:
    """The rows of a kind: of the draft, or of all drafts where they share them."""
    model = _MODELS[kind]
    rows = model._default_manager.select_related("changed_by")
    return rows if model is DraftChoiceList else rows.filter(**{"form": draft})


def read_part(draft: DraftForm, part: DraftPart) -> tuple[Any, int | None]:
    """The document of a part and its place, or (None, None) where there is no such part."""
    if part.kind == "settings":
        return {"name": draft.name, "purpose": draft.purpose, "rest": draft.rest}, None
    if part.kind in _ORDERS:
        rows = _ORDERS[part.kind]._default_manager.filter(**{"form": draft})
        return list(rows.values_list("key", flat=True)), None
    rows = rows_of(draft, part.kind)
    row = rows.filter(key=part.key).first()
    return (row.document, _place_of(rows, row)) if row else (None, None)


def write_part(
    draft: DraftForm, person: Person, part: DraftPart, document: Any, position: int | None = None
) -> Row | None:
    """Put `document` in the place of a part; None removes it.

    A new part stands last, or at `position` from 0, and those behind it move on.
    """
    if part.kind not in BESIDE_THE_RULES:
        # At once, also for what is made of the draft before the whole change is stored.
        draft.fingerprint = next_fingerprint(draft.fingerprint, part, document, position)
    if part.kind == "settings":
        draft.name, draft.purpose, draft.rest = (document[k] for k in ("name", "purpose", "rest"))
        draft.settings_revision += 1
        draft.settings_changed_by = person
        draft.save()
        return None
    if part.kind in _ORDERS:
        _put_in_order(_ORDERS[part.kind], draft, document)
        return None
    rows = rows_of(draft, part.kind)
    row = rows.filter(key=part.key).first()
    if document is None:
        if row is not None:
            _close_up(rows, row)
        return None
    if row is None:
        model = _MODELS[part.kind]
        row = model(key=part.key, position=_room_at(rows, position))
        row.revision = _first_revision(draft, part)
        if not isinstance(row, DraftChoiceList):
            row.form = draft
    else:
        row.revision += 1
    row.document, row.changed_by = document, person
    if isinstance(row, DraftRule):
        row.violated_seen = row.satisfied_seen = row.overspent_seen = False
    if isinstance(row, DraftCase):
        row.state, row.found, row.rules_fingerprint = "", None, ""
    row.save()
    return cast(Row, row)


def _first_revision(draft: DraftForm, part: DraftPart) -> int:
    """A number that no part of that key had before: who opened one that was removed since, and
    put back otherwise, is told so instead of writing over it.
    """
    acts = AuditEntry.objects.filter(form_key=draft.key, part=part.kind, part_key=part.key)
    return acts.count() % _LIVES * _REVISIONS_OF_A_LIFE + 1


def _place_of(rows: QuerySet[Any], row: Row) -> int:
    """Which one it is among its rows, from 0."""
    return list(rows.values_list("pk", flat=True)).index(row.pk)


def _room_at(rows: QuerySet[Any], position: int | None) -> int:
    """The place for a new row, with those behind it moved on."""
    _count_through(rows)
    count = rows.count()
    place = count if position is None else min(position, count)
    rows.filter(position__gte=place).update(position=F("position") + 1)
    return place


def _close_up(rows: QuerySet[Any], row: Row) -> None:
    """Take a row out, and move those behind it up."""
    _count_through(rows)
    row.refresh_from_db(fields=["position"])
    rows.filter(pk=row.pk).delete()
    rows.filter(position__gt=row.position).update(position=F("position") - 1)


def _count_through(rows: QuerySet[Any]) -> None:
    """Let positions be places: rows that were written otherwise may share one, or leave gaps."""
    for place, (pk, position) in enumerate(list(rows.values_list("pk", "position"))):
        if place != position:
            rows.filter(pk=pk).update(position=place)


def _put_in_order(model: type[Row], draft: DraftForm, keys: list[str]) -> None:
    """Rows that `keys` do not name stay behind those that they do."""
    place = {key: position for position, key in enumerate(keys)}
    rows = list(model._default_manager.filter(**{"form": draft}))
    for position, row in enumerate(rows):
        row.position = place.get(row.key, len(place) + position)
    model._default_manager.bulk_update(rows, ["position"])  # type: ignore[arg-type]
