"""Messages as stewards write them."""

from collections.abc import Iterable
from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Status
from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import ClauseGroup, FormulaError, Segment
from thistlequartz.core.merging import merge_offers
from thistlequartz.core.ruleset.placeholders import PlaceholderOffer
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.forms.views import clauses_of
from thistlequartz.server.judging.values import Values
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemItem, item

from .. import services
from ..composing import Composer
from ..models import Template
from ..writing import WrittenMessage, problems_in

router = Router()


class TemplateEntry(BaseModel):
    """A message to be stored or looked at. Clauses, where given, take the place of its formula."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=100)] = ""
    enabled: bool = True
    message: WrittenMessage
    clauses: ClauseGroup | None = None


class TemplateReading(BaseModel):
    """How a message reads, and what is to be corrected in it."""

    message: WrittenMessage
    """With the formula that the clauses stand for."""
    sentence: list[Segment]
    """Its condition in words."""
    clauses: ClauseGroup | None
    problems: list[ProblemItem]
    not_yet: list[ProblemItem]
    """What works in the draft, and not yet by the release in force."""
    receivers: list[str]
    """Who gets it, as far as no record decides that."""
    troubles: list[str]
    """Who of those cannot get it, and why."""
    offers: list[PlaceholderOffer]


class TemplateView(BaseModel):
    """A message, as it is stored."""

    id: int
    name: str
    enabled: bool
    revision: int
    changed_by: str | None
    changed_at: datetime
    reading: TemplateReading


class ChangedTemplate(TemplateEntry):
    """A message that was changed, since a version of it."""

    revision: int


class PreviewAsked(TemplateEntry):
    """A message, and the record it is shown with: a stored one, or one from the bench."""

    number: int | None = None
    values: Values | None = None


class Header(BaseModel):
    """A line above a message."""

    name: str
    line: str


class RenderedMailView(BaseModel):
    """A message as its receiver gets it."""

    headers: list[Header]
    text: str
    page: str


def letter_view(headers: Iterable[tuple[str, str]], text: str, page: str) -> RenderedMailView:
    """A message as it is shown."""
    lines = [Header(name=name, line=line) for name, line in headers]
    return RenderedMailView(headers=lines, text=text, page=page)


class MessagePreview(BaseModel):
    """A message about one record, before it is sent."""

    met: bool
    """Whether the record meets its condition."""
    troubles: list[str]
    letter: RenderedMailView


def _reading(form_key: str, entry: TemplateEntry) -> TemplateReading:
    draft = get_draft(form_key)
    form = compiled_draft(draft)
    message = entry.message
    try:
        message = services.written_with(message, entry.clauses, form)
        problems = problems_in(message, form)
    except FormulaError as error:
        problems = list(error.problems)
    not_yet = [] if problems else services.not_yet_in_force(message, draft)
    addressed = Composer(form).addressed(message, None)
    return TemplateReading(
        message=message,
        sentence=_sentence(message.condition, form),
        clauses=entry.clauses or clauses_of(message.condition, form.language.vocabulary),
        problems=[item(one) for one in problems],
        not_yet=[item(one) for one in not_yet],
        receivers=[name or address for name, address in (*addressed.to, *addressed.copies)],
        troubles=addressed.troubles,
        offers=list(merge_offers(form.fields)),
    )


def _sentence(condition: str, form: CompiledForm) -> list[Segment]:
    try:
        return list(form.condition(condition).words) if condition else []
    except FormulaError:
        return []


def _view(form_key: str, template: Template) -> TemplateView:
    message = WrittenMessage.model_validate(template.document)
    entry = TemplateEntry(name=template.name, enabled=template.enabled, message=message)
    return TemplateView(
        id=template.pk,
        name=template.name,
        enabled=template.enabled,
        revision=template.revision,
        changed_by=template.changed_by.shown_name if template.changed_by else None,
        changed_at=template.changed_at,
        reading=_reading(form_key, entry),
    )


@router.get("/forms/{form_key}/messages", response={200: list[TemplateView]})
def list_templates(request: HttpRequest, form_key: str) -> list[TemplateView]:
    """The messages of a form."""
    person_with(request, Right.RELEASE)
    return [_view(form_key, one) for one in services.templates_of(form_key)]


@router.post("/forms/{form_key}/messages/read", response={200: TemplateReading})
def read_template(request: HttpRequest, form_key: str, body: TemplateEntry) -> TemplateReading:
    """How a message would read, and what is to be corrected in it. Stores nothing."""
    person_with(request, Right.RELEASE)
    return _reading(form_key, body)


@router.post("/forms/{form_key}/messages/preview", response={200: MessagePreview})
def preview_message(request: HttpRequest, form_key: str, body: PreviewAsked) -> MessagePreview:
    """A message about one record, as its receivers would get it. Sends nothing."""
    person = person_with(request, Right.RELEASE)
    shown = services.preview(
        person, form_key, body.message, body.clauses, number=body.number, values=body.values
    )
    made = shown.composed
    return MessagePreview(
        met=shown.met,
        troubles=made.addressed.troubles,
        letter=letter_view(made.headers(), made.text, made.page),
    )


@router.post("/forms/{form_key}/messages", response={201: TemplateView})
def add_template(request: HttpRequest, form_key: str, body: TemplateEntry) -> Status[TemplateView]:
    """Add a message. It counts from now on."""
    person = person_with(request, Right.RELEASE)
    template = services.store_template(
        person, form_key, body.name, body.message, body.clauses, enabled=body.enabled
    )
    return Status(201, _view(form_key, template))


@router.put("/forms/{form_key}/messages/{template_id}", response={200: TemplateView})
def change_template(
    request: HttpRequest, form_key: str, template_id: int, body: ChangedTemplate
) -> TemplateView:
    """Change a message, unless somebody has changed it meanwhile."""
    person = person_with(request, Right.RELEASE)
    template = services.store_template(
        person,
        form_key,
        body.name,
        body.message,
        body.clauses,
        enabled=body.enabled,
        pk=template_id,
        revision=body.revision,
    )
    return _view(form_key, template)


@router.delete("/forms/{form_key}/messages/{template_id}", response={204: None})
def remove_template(
    request: HttpRequest, form_key: str, template_id: int, revision: Query[int]
) -> Status[None]:
    """Remove a message."""
    person = person_with(request, Right.RELEASE)
    services.remove_template(person, form_key, template_id, revision)
    return Status(204, None)
