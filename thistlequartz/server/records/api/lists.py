"""Lists of records: as files, as what a reference offers, and those that somebody has named."""

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Query, Router, Status

from thistlequartz.core.tables import KINDS
from thistlequartz.core.translation import tr
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.long_answers import sent_as_file
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import Refusal
from thistlequartz.server.records.export import record_file
from thistlequartz.server.records.form_in_force import desk_of
from thistlequartz.server.records.search import RecordQuery, find

from ..lookup import number_in
from ..models import Record, SavedList
from ..shapes import Exported, FilterView, KnownRecord, KnownRecordQuery

router = Router()
MOST_OFFERED = 20
"""Records offered for a search."""
MOST_LISTS = 30
"""Named lists of one person in one form."""


@router.get("/forms/{form_key}/record-file", response={200: str})
def export_records(
    request: HttpRequest, form_key: str, asked: Query[Exported]
) -> StreamingHttpResponse:
    """The records of a list, or those chosen in it, as a file."""
    person_with(request, Right.READ)
    desk = desk_of(form_key)
    found = find(desk.draft.pk, desk.compiled, asked.wanted()).records
    if asked.numbers:
        found = found.filter(number__in=asked.numbers)
    kind = KINDS[asked.kind]
    content = record_file(found, desk.compiled, asked.kind, asked.naming)
    return sent_as_file(content, kind.media_type, f"{form_key}{kind.ending}")


@router.get("/forms/{form_key}/known-records", response={200: list[KnownRecord]})
def known_records(
    request: HttpRequest, form_key: str, asked: Query[KnownRecordQuery]
) -> list[KnownRecord]:
    """Records by what people know them by, for a field that refers to one: the newest that fit."""
    person_with(request, Right.READ)
    draft = get_draft(form_key)
    if asked.number:
        number = number_in(asked.number)
        found = Record.objects.filter(form=draft, number=number) if number is not None else []
    else:
        found = find(draft.pk, None, RecordQuery(search=asked.search)).records[:MOST_OFFERED]
    return [KnownRecord(number=r.number, title=r.title, on_hold=r.on_hold) for r in found]


@router.get("/forms/{form_key}/lists", response={200: list[FilterView]})
def named_lists(request: HttpRequest, form_key: str) -> list[FilterView]:
    """The lists of a form that who asks has named."""
    person = person_with(request, Right.READ)
    lists = SavedList.objects.filter(form=get_draft(form_key), person=person)
    return [FilterView(name=one.name, asked=one.asked) for one in lists]


@router.put("/forms/{form_key}/lists", response={200: FilterView})
def name_list(request: HttpRequest, form_key: str, body: FilterView) -> FilterView:
    """Name a list, or say anew what a name stands for."""
    person = person_with(request, Right.READ)
    mine = SavedList.objects.filter(form=get_draft(form_key), person=person)
    if mine.count() >= MOST_LISTS and not mine.filter(name=body.name).exists():
        raise Refusal(
            409,
            "too-many-lists",
            tr("You have named {most_lists} lists of this form already.", most_lists=MOST_LISTS),
            tr("Forget one that you no longer need, then name this one."),
        )
    SavedList.objects.update_or_create(
        form=get_draft(form_key), person=person, name=body.name, defaults={"asked": body.asked}
    )
    return body


@router.delete("/forms/{form_key}/lists/{name}", response={204: None})
def forget_list(request: HttpRequest, form_key: str, name: str) -> Status[None]:
    """Forget a named list; the records in it stay."""
    person = person_with(request, Right.READ)
    SavedList.objects.filter(form=get_draft(form_key), person=person, name=name).delete()
    return Status(204, None)
