"""The catalogue, and a draft as a whole: creation, settings, shared lists, history."""

from typing import Any

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Query, Router, Status
from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from thistlequartz.core.documents import shape_errors
from thistlequartz.core.judging import all_problems
from thistlequartz.core.language import FormulaError, tree_from_clauses, write_formula
from thistlequartz.core.ruleset import ChoiceList, Form, NamedCondition
from thistlequartz.core.translation import tr
from thistlequartz.samples import SAMPLES
from thistlequartz.server.activity.export import history_file
from thistlequartz.server.activity.shapes import (
    HistoryFilter,
    HistoryPage,
    HistoryPageFilter,
    acts_page,
)
from thistlequartz.server.forms import services
from thistlequartz.server.forms.draft_edits import next_turns, redo, undo
from thistlequartz.server.forms.drafts import (
    compile_form,
    compiled_draft,
    form_document,
    get_draft,
    names_of_form,
)
from thistlequartz.server.forms.models import DraftChoiceList, DraftForm
from thistlequartz.server.forms.search import SearchHit, search
from thistlequartz.server.forms.shapes import FormSummary, FormView, NewForm, SetUp, StoredList
from thistlequartz.server.forms.summaries import catalogue, form_view
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import (
    Right,
    closed_forms,
    person_with,
    refuse_closed_forms,
)
from thistlequartz.server.problems import ProblemItem, Refusal, item

router = Router()


class SampleView(BaseModel):
    """A sample that a form can begin from."""

    key: str
    name: str
    purpose: str
    fields: int
    rules: int


class ChoiceListView(BaseModel):
    """A shared list of choices, and the forms that use it."""

    choices: ChoiceList
    revision: int
    used_by: list[str]


class UndoView(BaseModel):
    """What undoing and redoing one's own changes to a draft would turn, in words."""

    undo: str | None
    redo: str | None


class UndoResult(BaseModel):
    """What was undone or redone."""

    what: str


@router.get("/forms", response=list[FormSummary])
def list_forms(request: HttpRequest) -> list[FormSummary]:
    """Every form with its counts."""
    person = person_with(request, Right.READ)
    return catalogue(without=closed_forms(person))


@router.get("/search", response=list[SearchHit])
def search_forms(request: HttpRequest, q: str) -> list[SearchHit]:
    """Forms, fields, rules and messages in which every word of `q` stands."""
    person = person_with(request, Right.READ)
    return search(q, without=closed_forms(person))


@router.get("/samples", response=list[SampleView])
def list_samples(request: HttpRequest) -> list[SampleView]:
    """What a form can begin from."""
    person_with(request, Right.READ)
    return [
        SampleView(
            key=one.key,
            name=one.name,
            purpose=one.purpose,
            fields=len(one.fields),
            rules=len(one.rules),
        )
        for one in SAMPLES.values()
    ]


@router.post("/forms", response={201: FormView})
def begin_form(request: HttpRequest, body: NewForm) -> Status[FormView]:
    """New form: with nothing in it, or with what it is begun from."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = services.create_form(person, body.name, body.purpose, _like(person, body))
    return Status(201, form_view(draft))


def _like(person: Person, body: NewForm) -> Form | None:
    if body.copy_of:
        refuse_closed_forms(person, [body.copy_of])
        form = form_document(get_draft(body.copy_of))
        refuse_closed_forms(person, names_of_form(form))
        return form
    if body.sample:
        sample = SAMPLES.get(body.sample)
        if sample is None:
            raise Refusal(
                404, "no-sample", tr("There is no such sample."), tr("Choose one of the list.")
            )
        return sample
    if not body.fields and not body.rules:
        return None
    try:
        form = Form(key="form", name=body.name, fields=tuple(body.fields), rules=tuple(body.rules))
    except ValidationError as error:
        raise _unusable([_said(one) for one in shape_errors(error)]) from None
    compiled = compile_form(form)
    problems = [item(one) for one in all_problems(compiled) if not one.unsaid]
    if problems:
        raise _unusable(problems)
    refuse_closed_forms(person, names_of_form(form))
    return form


def _said(error: ErrorDetails) -> ProblemItem:
    said = error["msg"].removeprefix("Value error, ")
    return ProblemItem(
        place=".".join(map(str, error["loc"])), message=said, remedy=tr("Correct it.")
    )


def _unusable(problems: list[ProblemItem]) -> Refusal:
    return Refusal(
        422,
        "unusable-form",
        tr("Some of the fields or rules cannot be used as they are written."),
        tr("Correct the places named below; no form has been begun."),
        problems,
    )


@router.get("/forms/{form_key}", response={200: FormView})
def show_form(request: HttpRequest, form_key: str) -> HttpResponse:
    """A draft, whole."""
    person_with(request, Right.READ)
    view = form_view(get_draft(form_key))
    # Written once, and not read again to be checked: a thousand rules are two million characters.
    return HttpResponse(view.model_dump_json(), content_type="application/json")


@router.put("/forms/{form_key}/setup", response={200: FormView})
def replace_setup(request: HttpRequest, form_key: str, body: SetUp) -> FormView:
    """Replace what the form is beside its fields and rules."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    conditions = [_condition(one, body, draft) for one in body.conditions]
    written = body.model_copy(update={"conditions": conditions})
    rest = written.model_dump(mode="json", include=set(services.SETTINGS))
    _refuse_misshapen(draft, body.name, body.purpose, rest)
    draft = services.change_settings(person, form_key, body.revision, body.name, body.purpose, rest)
    return form_view(draft)


def _condition(named: NamedCondition, body: SetUp, draft: DraftForm) -> NamedCondition:
    clauses = body.clauses.get(named.key)
    if clauses is None:
        return named
    try:
        node = tree_from_clauses(clauses, compiled_draft(draft).language.vocabulary)
    except FormulaError as error:
        raise Refusal(
            422,
            "condition-unusable",
            tr("The condition “{name}” cannot be used as it is written.", name=named.name),
            tr("Correct the places named below; nothing has been changed."),
            [item(problem) for problem in error.problems],
        ) from None
    return named.model_copy(update={"condition": write_formula(node)})


def _refuse_misshapen(draft: DraftForm, name: str, purpose: str, rest: dict[str, object]) -> None:
    """Refuse a set-up that no document can have: a key twice, a time zone that does not exist."""
    try:
        before = form_document(draft)
        Form.model_validate(
            {
                **before.model_dump(mode="json"),
                **rest,
                "name": name,
                "purpose": purpose,
            }
        )
    except ValueError as error:
        told: list[dict[str, Any]] = getattr(error, "errors", lambda: [])()
        said = "; ".join(one["msg"].removeprefix("Value error, ") for one in told[:3])
        raise Refusal(
            422,
            "setup-unusable",
            tr("This set-up cannot be stored."),
            tr("{problem} Nothing was changed.", problem=said),
        ) from None


@router.get("/choice-lists", response=list[ChoiceListView])
def list_choice_lists(request: HttpRequest) -> list[ChoiceListView]:
    """The lists of choices that forms share."""
    person_with(request, Right.READ)
    users: dict[str, list[str]] = {}
    for draft in DraftForm.objects.prefetch_related("field_rows"):
        for row in draft.field_rows.all():
            key = row.document.get("choice_list")
            if key and draft.name not in users.setdefault(key, []):
                users[key].append(draft.name)
    return [
        ChoiceListView(
            choices=ChoiceList.model_validate(row.document),
            revision=row.revision,
            used_by=users.get(row.key, []),
        )
        for row in DraftChoiceList.objects.all()
    ]


@router.put("/forms/{form_key}/choice-lists", response={204: None})
def store_choice_list(request: HttpRequest, form_key: str, body: StoredList) -> Status[None]:
    """Add shared list of choices, or replace one."""
    person = person_with(request, Right.EDIT_DRAFT)
    services.change_choice_list(person, form_key, body.choices, body.revision)
    return Status(204, None)


@router.get("/forms/{form_key}/history", response={200: HistoryPage})
def show_history(
    request: HttpRequest, form_key: str, asked: Query[HistoryPageFilter]
) -> HistoryPage:
    """Who changed what, when and why; fifty acts at a time."""
    person = person_with(request, Right.READ)
    get_draft(form_key)
    return acts_page(form_key, asked, person.style)


@router.get("/forms/{form_key}/history-file", response={200: str})
def export_history(
    request: HttpRequest, form_key: str, asked: Query[HistoryFilter]
) -> StreamingHttpResponse:
    """The acts that are wanted as a CSV file, with their hashes."""
    person = person_with(request, Right.READ)
    get_draft(form_key)
    return history_file(form_key, asked, person.style)


@router.get("/forms/{form_key}/turns", response={200: UndoView})
def show_turns(request: HttpRequest, form_key: str) -> UndoView:
    """What could be undone and redone by who asks."""
    person = person_with(request, Right.READ)
    get_draft(form_key)
    back, forth = next_turns(person, form_key)
    return UndoView(undo=back, redo=forth)


@router.post("/forms/{form_key}/undo", response={200: UndoResult})
def undo_change(request: HttpRequest, form_key: str) -> UndoResult:
    """Take back one’s own newest change to the draft."""
    return UndoResult(what=undo(person_with(request, Right.EDIT_DRAFT), form_key))


@router.post("/forms/{form_key}/redo", response={200: UndoResult})
def redo_change(request: HttpRequest, form_key: str) -> UndoResult:
    """Make the change again that was taken back last."""
    return UndoResult(what=redo(person_with(request, Right.EDIT_DRAFT), form_key))
