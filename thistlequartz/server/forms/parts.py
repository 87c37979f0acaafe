"""The parts of a draft that change as wholes: each is one document, read and written alike."""

from typing import Any, Literal, NamedTuple, cast

from django.db.models import Max, QuerySet

from thistlequartz.server.activity.models import Activity
from thistlequartz.server.people.models import Person

from .models import DraftCase, DraftChoiceList, DraftField, DraftForm, DraftRule, PlanLine

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


_VERSIONS_OF_A_LIFE = 1_000_000
_LIVES = 4_000
"""As many as there are numbers for, in a column of 32 bits."""


class Part(NamedTuple):
    """A part of a draft, by its kind and its key."""

    kind: PartKind
    key: str = ""


def rows_of(draft: DraftForm, kind: str) -> QuerySet[Any]:
    """The rows of a kind: of the draft, or of all drafts where they share them."""
    model = _MODELS[kind]
    rows = model._default_manager.select_related("changed_by")
    return rows if model is DraftChoiceList else rows.filter(**{"form": draft})


def read_part(draft: DraftForm, part: Part) -> tuple[Any, int | None]:
    """The document of a part and its place, or (None, None) where there is no such part."""
    if part.kind == "settings":
        return {"name": draft.name, "purpose": draft.purpose, "rest": draft.rest}, None
    if part.kind in _ORDERS:
        rows = _ORDERS[part.kind]._default_manager.filter(**{"form": draft})
        return list(rows.values_list("key", flat=True)), None
    row = rows_of(draft, part.kind).filter(key=part.key).first()
    return (row.document, row.position) if row else (None, None)


def write_part(
    draft: DraftForm, person: Person, part: Part, document: Any, position: int | None = None
) -> Row | None:
    """Put `document` in the place of a part; None takes it out. A new one stands last, or at
    `position`.
    """
    if part.kind == "settings":
        draft.name, draft.purpose, draft.rest = (document[k] for k in ("name", "purpose", "rest"))
        draft.settings_version += 1
        draft.settings_changed_by = person
        draft.save()
        return None
    if part.kind in _ORDERS:
        _put_in_order(_ORDERS[part.kind], draft, document)
        return None
    rows = rows_of(draft, part.kind)
    if document is None:
        rows.filter(key=part.key).delete()
        return None
    row = rows.filter(key=part.key).first()
    if row is None:
        model = _MODELS[part.kind]
        row = model(key=part.key, position=_next(rows) if position is None else position)
        row.version = _first_version(draft, part)
        if not isinstance(row, DraftChoiceList):
            row.form = draft
    else:
        row.version += 1
    row.document, row.changed_by = document, person
    if isinstance(row, DraftRule):
        row.broken_seen = row.kept_seen = row.overspent_seen = False
    if isinstance(row, DraftCase):
        row.state, row.found, row.ran_for = "", None, ""
    row.save()
    return cast(Row, row)


def _first_version(draft: DraftForm, part: Part) -> int:
    """A number that no part of that key had before: who opened one that was taken out since, and
    put back otherwise, is told so instead of writing over it.
    """
    acts = Activity.objects.filter(form_key=draft.key, part=part.kind, part_key=part.key)
    return acts.count() % _LIVES * _VERSIONS_OF_A_LIFE + 1


def _next(rows: QuerySet[Any]) -> int:
    last = rows.aggregate(last=Max("position"))["last"]
    return 0 if last is None else cast(int, last) + 1


def _put_in_order(model: type[Row], draft: DraftForm, keys: list[str]) -> None:
    """Rows that `keys` do not name stay behind those that they do."""
    place = {key: position for position, key in enumerate(keys)}
    rows = list(model._default_manager.filter(**{"form": draft}))
    for position, row in enumerate(rows):
        row.position = place.get(row.key, len(place) + position)
    model._default_manager.bulk_update(rows, ["position"])  # type: ignore[arg-type]
