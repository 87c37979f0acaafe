"""Searching all forms: their names, fields, rules and messages."""

from collections.abc import Collection, Iterator
from typing import Literal

from pydantic import BaseModel

from .drafts import compiled_draft
from .models import DraftForm
from .rule_changes import names_of

MOST_HITS = 60
Kind = Literal["form", "field", "rule", "message"]


class SearchHit(BaseModel):
    """Something that fits, and where it stands."""

    kind: Kind
    form: str
    form_name: str
    key: str
    text: str
    detail: str


def search(asked: str, without: Collection[str] = ()) -> list[SearchHit]:
    """What fits: every word of `asked` stands in it or in the name of its form, in any case.

    Nothing of the forms with the keys `without` is found.
    """
    words = asked.casefold().split()
    if not words:
        return []
    found = [
        hit
        for hit in _everything(without)
        if all(
            word in f"{hit.text} {hit.detail} {hit.key} {hit.form_name}".casefold()
            for word in words
        )
    ]
    order: dict[Kind, int] = {"form": 0, "field": 1, "rule": 2, "message": 3}
    return sorted(found, key=lambda hit: order[hit.kind])[:MOST_HITS]


def _everything(without: Collection[str]) -> Iterator[SearchHit]:
    for draft in DraftForm.objects.exclude(key__in=without).prefetch_related(
        "field_rows", "rule_rows"
    ):
        where = {"form": draft.key, "form_name": draft.name}
        yield SearchHit(kind="form", key=draft.key, text=draft.name, detail=draft.purpose, **where)
        for field in draft.field_rows.all():
            label, hint = field.document["label"], field.document.get("hint", "")
            yield SearchHit(kind="field", key=field.key, text=label, detail=hint, **where)
        rules = draft.rule_rows.all()
        unnamed = any(not rule.document["name"] for rule in rules)
        names = names_of(compiled_draft(draft)) if unnamed else {}
        for rule in rules:
            name, why = rule.document["name"] or names[rule.key], rule.document.get("why", "")
            yield SearchHit(kind="rule", key=rule.key, text=name, detail=why, **where)
            message = rule.document.get("message")
            if message:
                yield SearchHit(kind="message", key=rule.key, text=message, detail=name, **where)
