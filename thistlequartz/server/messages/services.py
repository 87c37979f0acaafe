"""Messages written, changed and removed by stewards, and shown beforehand as they would be."""

from dataclasses import dataclass

from django.db import IntegrityError, transaction
from django.http import Http404

from thistlequartz.core.judging import CompiledForm, JudgeRequest
from thistlequartz.core.language import (
    ClauseGroup,
    FormulaError,
    Problem,
)
from thistlequartz.core.ruleset import record_title
from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.forms.views import formula_of
from thistlequartz.server.judging.services import circumstances_now, stored_values
from thistlequartz.server.judging.values import Values
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import role_of
from thistlequartz.server.problems import Refusal, item
from thistlequartz.server.records.lookup import DatabaseLookup
from thistlequartz.server.records.models import Record
from thistlequartz.server.records.services import get_record
from thistlequartz.server.records.settled_values import settled_now
from thistlequartz.server.releases.services import compiled_release

from .composing import Composed, Composer
from .models import Template
from .writing import WrittenMessage, problems_in


def written_with(
    message: WrittenMessage, clauses: ClauseGroup | None, form: CompiledForm
) -> WrittenMessage:
    """A message with the clauses of its condition as the formula. Raises FormulaError."""
    if clauses is None:
        return message
    try:
        formula = formula_of(clauses, form.language.vocabulary)
    except FormulaError as error:
        raise FormulaError([one.inside("clauses") for one in error.problems]) from None
    return message.model_copy(update={"condition": formula})


def not_yet_in_force(message: WrittenMessage, draft: DraftForm) -> list[Problem]:
    """What of a message works in the draft, and cannot yet by the release in force."""
    release = release_in_force(draft)
    if release is None:
        return []
    return problems_in(message, compiled_release(release))


def templates_of(form_key: str) -> list[Template]:
    """The messages of a form, in the order in which they were written."""
    return list(Template.objects.filter(form=get_draft(form_key)).select_related("changed_by"))


def store_template(
    person: Person,
    form_key: str,
    name: str,
    message: WrittenMessage,
    clauses: ClauseGroup | None,
    *,
    enabled: bool,
    pk: int | None = None,
    revision: int | None = None,
) -> Template:
    """Store a message, a new one or a changed one; one that is switched on must be whole.

    Raises a Refusal that names each place to correct, or Http404.
    """
    draft = get_draft(form_key)
    form = compiled_draft(draft)
    try:
        message = written_with(message, clauses, form)
        problems = problems_in(message, form) if enabled else []
    except FormulaError as error:
        problems = list(error.problems)
    if not name.strip():
        problems.insert(0, Problem(tr("It has no name."), tr("Give it one."), "name", unsaid=True))
    if problems:
        raise Refusal(
            422,
            "unfit-message",
            tr("This message cannot be sent yet."),
            tr("Correct what is named below, or switch it off and store it as it is."),
            [item(one) for one in problems],
        )
    try:
        with transaction.atomic():
            template = _locked(draft, pk, revision) if pk else Template(form=draft, revision=0)
            before = _told(template) if pk else None
            template.name, template.enabled = name.strip(), enabled
            template.document = message.model_dump(mode="json")
            template.revision += 1
            template.changed_by = person
            template.save()
            act = "change message" if pk else "add message"
            log(person, act, form_key, template.name, before=before, after=_told(template))
    except IntegrityError:
        raise Refusal(
            409,
            "name-taken",
            tr("There is a message “{name}” in this form already.", name=name.strip()),
            tr("Give this one another name."),
        ) from None
    return template


@transaction.atomic
def remove_template(person: Person, form_key: str, pk: int, revision: int) -> None:
    """Remove a message; what it has written stays in the outbox."""
    template = _locked(get_draft(form_key), pk, revision)
    log(person, "remove message", form_key, template.name, before=_told(template))
    template.delete()


def _locked(draft: DraftForm, pk: int, revision: int | None) -> Template:
    template = Template.objects.select_for_update().filter(form=draft, pk=pk).first()
    if template is None:
        raise Http404(pk)
    if template.revision != revision:
        who = template.changed_by.shown_name if template.changed_by else "Somebody"
        raise Refusal(
            409,
            "changed-meanwhile",
            tr("{who} has changed this message since you opened it.", who=who),
            tr("What you wrote is still on your screen. Look at the newer one, then store yours."),
            revision=template.revision,
        )
    return template


def _told(template: Template) -> dict[str, object]:
    return {"name": template.name, "enabled": template.enabled, **template.document}


@dataclass(frozen=True, slots=True)
class RenderedMessage:
    """A message as its receivers would get it."""

    composed: Composed
    met: bool
    """Whether the record meets its condition."""


def preview(
    person: Person,
    form_key: str,
    message: WrittenMessage,
    clauses: ClauseGroup | None,
    *,
    number: int | None,
    values: Values | None,
) -> RenderedMessage:
    """The message about a stored record, or about what was entered on the bench, by the draft.

    Raises a Refusal (422) where its condition cannot be read, or Http404.
    """
    form = compiled_draft(get_draft(form_key))
    try:
        message = written_with(message, clauses, form)
        asked = form.condition(message.condition) if message.condition else None
    except FormulaError as error:
        raise Refusal(
            422,
            "unreadable-condition",
            tr("The condition of this message cannot be read."),
            tr("Correct what is named below."),
            [item(one) for one in error.problems],
        ) from None
    if number is not None:
        record = get_record(form_key, number)
    else:
        # As it would be stored: with what is derived, and without what is not relevant.
        here = circumstances_now(form, role_of(person, form_key))
        request = JudgeRequest(values or {}, here, lookup=DatabaseLookup(form_key))
        stored = stored_values(form.verdicts(request, ("submit",))["submit"])
        title = record_title(form.fields, stored)
        record = Record(form=get_draft(form_key), number=0, values=stored, title=title)
        record.submitted_by = record.keeper = person
    occasion = (message.occasions or ("submitted",))[0]
    settled = settled_now(record, form, role=role_of(person, form_key))
    return RenderedMessage(
        Composer(form).composed(message, record, occasion, person),
        asked is None or asked.met(settled),
    )
