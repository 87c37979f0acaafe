"""Acts on a form as a whole: creation, settings, shared lists and plan."""

from collections.abc import Iterable, Mapping
from typing import Any

from django.db import IntegrityError, transaction

from thistlequartz.core.authoring import drawn_key
from thistlequartz.core.ruleset import ChoiceList, Field, Form, Rule
from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal

from .draft_edits import changed_meanwhile, changing, key_taken
from .draft_parts import DraftPart
from .models import DraftChoiceList, DraftField, DraftForm, DraftRule

SETTINGS = ("zone", "derived_from", "sections", "layouts", "compounds", "conditions", "starters")
"""The parts of a form's document that are neither fields nor rules."""


def create_form(person: Person, name: str, purpose: str, like: Form | None = None) -> DraftForm:
    """New form with nothing in it, or with all that `like` has; its key comes from its name."""
    with transaction.atomic():
        taken = set(DraftForm.objects.select_for_update().values_list("key", flat=True))
        rest = like.model_dump(mode="json", include=set(SETTINGS)) if like else {}
        draft = DraftForm.objects.create(
            key=drawn_key(name, taken, "form"), name=name, purpose=purpose, rest=rest
        )
        copied: tuple[tuple[Any, Iterable[Field | Rule]], ...] = (
            (DraftField, like.fields if like else ()),
            (DraftRule, like.rules if like else ()),
        )
        for model, parts in copied:
            model._default_manager.bulk_create(
                model(
                    form=draft,
                    key=part.key,
                    position=position,
                    document=part.model_dump(mode="json"),
                    changed_by=person,
                )
                for position, part in enumerate(parts)
            )
        log(person, "begin form", draft.key, name)
        return draft


def change_settings(
    person: Person,
    form_key: str,
    revision: int,
    name: str,
    purpose: str,
    rest: Mapping[str, Any],
) -> DraftForm:
    """Replace what a form is beside its fields and rules, unless it was changed since."""
    with changing(person, form_key) as change:
        draft = change.draft
        if draft.settings_revision != revision:
            current = {"name": draft.name, "purpose": draft.purpose, "rest": draft.rest}
            raise changed_meanwhile(
                "form’s set-up", draft.settings_changed_by, draft.settings_revision, current
            )
        document = {"name": name, "purpose": purpose, "rest": dict(rest)}
        change.put("change set-up", DraftPart("settings"), document, name)
        return draft


def change_choice_list(
    person: Person, form_key: str, choices: ChoiceList, revision: int | None
) -> None:
    """Replace a shared list of choices; with no version, add it."""
    with changing(person, form_key) as change:
        part = DraftPart("list", choices.key)
        if revision is not None:
            change.row("list", choices.key, revision)
        document = choices.model_dump(mode="json")
        act = "change list" if revision is not None else "add list"
        try:
            if revision is None and _list_exists(choices.key):
                raise key_taken("list", choices.key)
            change.put(act, part, document, choices.label)
        except IntegrityError:
            raise key_taken("list", choices.key) from None


def _list_exists(key: str) -> bool:
    return DraftChoiceList.objects.filter(key=key).exists()


def add_plan_line(
    person: Person,
    form_key: str,
    text: str,
    rules: Iterable[str],
    cases: Iterable[str] = (),
    position: int | None = None,
) -> str:
    """Add a line to the plan; its key."""
    with changing(person, form_key) as change:
        taken = set(change.draft.plan_rows.values_list("key", flat=True))
        key = drawn_key(text, taken, "line")
        document = {"text": text, "rules": list(rules), "cases": list(cases)}
        change.put("add plan line", DraftPart("line", key), document, text[:200], position)
        return key


def change_plan_line(
    person: Person,
    form_key: str,
    key: str,
    revision: int,
    text: str,
    rules: Iterable[str],
    cases: Iterable[str],
) -> None:
    """Reword a line of the plan, or tie it to other rules and cases."""
    with changing(person, form_key) as change:
        change.row("line", key, revision)
        document = {"text": text, "rules": list(rules), "cases": list(cases)}
        change.put("change plan line", DraftPart("line", key), document, text[:200])


def remove_plan_line(person: Person, form_key: str, key: str, revision: int) -> None:
    """Take a line out of the plan."""
    with changing(person, form_key) as change:
        row = change.row("line", key, revision)
        change.put("remove plan line", DraftPart("line", key), None, row.document["text"][:200])


def refuse_other_order(what: str) -> Refusal:
    """The answer to an order that names other parts than there are."""
    return Refusal(
        409,
        "changed-meanwhile",
        tr("Somebody has added or removed a {what} since you opened this form.", what=what),
        tr(
            "Look at the newer version, then order them again; nothing was changed.",
        ),
    )
