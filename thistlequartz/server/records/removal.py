"""Removing a form with everything in it; what was done to it stays in the history."""

from collections.abc import Iterator
from typing import Any

from django.db.models import ForeignObjectRel, QuerySet

from thistlequartz.core.translation import tr, tr_count
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.draft_edits import locked_draft
from thistlequartz.server.forms.drafts import form_document
from thistlequartz.server.forms.models import DraftField, DraftForm
from thistlequartz.server.outages import in_one_go
from thistlequartz.server.people.models import FormRole, Person
from thistlequartz.server.problems import ProblemItem, Refusal

from .models import IndexedValue, Record


@in_one_go
def remove_form(person: Person, form_key: str, typed_name: str) -> None:
    """Remove a form. With stored records its name must be typed; one in use elsewhere stays."""
    draft = locked_draft(form_key)
    leaning = _leaning_on(draft)
    if leaning:
        raise Refusal(
            409,
            "leant-on",
            tr("Other forms lean on {name}.", name=draft.name),
            tr("Cut what is named below first; nothing was removed."),
            leaning,
        )
    stored = draft.records.count()
    if stored and typed_name.strip() != draft.name:
        raise Refusal(
            422,
            "name-not-typed",
            tr_count(
                "1 record is stored under {name}.",
                "{count:,} records are stored under {name}.",
                stored,
                name=draft.name,
            ),
            tr("They go with it, and cannot be brought back: type the form's name to remove it."),
            [
                ProblemItem(
                    place="name", message=tr("This is not its name."), remedy=f"“{draft.name}”"
                )
            ],
        )
    document = form_document(draft).model_dump(mode="json")
    log(
        person,
        "remove form",
        form_key,
        draft.name,
        before=document,
        note=tr_count("{count} record", "{count} records", stored),
    )
    for rows in (
        IndexedValue.objects.filter(form=draft),
        *_rows_about_its_records(draft),
        Record.objects.filter(form=draft),
    ):
        rows._raw_delete(rows.db)  # row by row, a hundred thousand would take minutes
    FormRole.objects.filter(form_key=form_key).delete()
    draft.delete()


def _rows_about_its_records(draft: DraftForm) -> Iterator[QuerySet[Any]]:
    """Whatever is kept about the records of a form, in any app."""
    for relation in Record._meta.get_fields(include_hidden=True):
        if isinstance(relation, ForeignObjectRel):
            model: Any = relation.related_model
            yield model._base_manager.filter(**{f"{relation.field.name}__form": draft})


def _leaning_on(draft: DraftForm) -> list[ProblemItem]:
    references = DraftField.objects.filter(document__type="reference", document__form=draft.key)
    derived = DraftForm.objects.filter(rest__derived_from=draft.key)
    return [
        *(
            ProblemItem(
                place=f"{field.form.key}.{field.key}",
                message=tr("A field of {name} refers to its records.", name=field.form.name),
                remedy=tr("Take that field out, or have it refer to another form."),
            )
            for field in references.exclude(form=draft).select_related("form")
        ),
        *(
            ProblemItem(
                place=form.key,
                message=tr("{name} is derived from it.", name=form.name),
                remedy=tr("Say in its set-up that it is derived from no form."),
            )
            for form in derived.exclude(pk=draft.pk)
        ),
    ]
