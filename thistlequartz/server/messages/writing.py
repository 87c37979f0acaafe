"""A message as a steward writes it: on which occasions, to whom, when, and what it says."""

from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from thistlequartz.core.enumerations import ENTRY_POINTS, EntryPoint, Role
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import Declaration, FormulaError, Problem
from thistlequartz.core.merging import merge_problems
from thistlequartz.core.translation import tr
from thistlequartz.server.people.addresses import address_fault
from thistlequartz.server.people.models import Person
from thistlequartz.server.records.events import Occasion

from .models import LONGEST_ADDRESS, LONGEST_SUBJECT

MOST_RECEIVERS: Final = 20
LONGEST_TEXT: Final = 20_000
LONGEST_CONDITION: Final = 10_000
BUT_IMPORT: Final = tuple(one for one in ENTRY_POINTS if one != "import")
"""Entry points of a message unless others are chosen: a file of thousands of records would make as
many messages."""


class _Receiver(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class ToPerson(_Receiver):
    """Somebody with an account."""

    who: Literal["person"]
    name: Annotated[str, Field(max_length=150)]


class ToRole(_Receiver):
    """Everybody who has a role in the form."""

    who: Literal["role"]
    role: Role


class ToField(_Receiver):
    """The address in a field of the record, or of one it refers to: `borrower.email`."""

    who: Literal["field"]
    field: Annotated[str, Field(max_length=130)]


class ToConcerned(_Receiver):
    """Who submitted the record, or who is to go on with it."""

    who: Literal["submitter", "keeper"]


Receiver = Annotated[ToPerson | ToRole | ToField | ToConcerned, Field(discriminator="who")]
Receivers = Annotated[tuple[Receiver, ...], Field(max_length=MOST_RECEIVERS)]


class WrittenMessage(BaseModel):
    """What a template says, beside its name."""

    model_config = ConfigDict(extra="forbid")
    occasions: Annotated[tuple[Occasion, ...], Field(max_length=5)] = ("submitted",)
    entry_points: Annotated[tuple[EntryPoint, ...], Field(max_length=len(ENTRY_POINTS))] = (
        BUT_IMPORT
    )
    condition: Annotated[str, Field(max_length=LONGEST_CONDITION)] = ""
    """As a formula; blank: always."""
    to: Receivers = ()
    copies: Receivers = ()
    reply_to: Annotated[
        str, StringConstraints(strip_whitespace=True, max_length=LONGEST_ADDRESS)
    ] = ""
    subject: Annotated[str, Field(max_length=LONGEST_SUBJECT)] = ""
    text: Annotated[str, Field(max_length=LONGEST_TEXT)] = ""


def declared_at(path: str, form: CompiledForm) -> Declaration | None:
    """The field at a path: of the form, or of one that it refers to; None: there is none."""
    key, *further = path.split(".", 1)
    declared = form.fields.get(key)
    return (declared.fields or {}).get(further[0]) if declared and further else declared


def problems_in(message: WrittenMessage, form: CompiledForm) -> list[Problem]:
    """What keeps a message from being sent, as far as it can be told beforehand."""
    found: list[Problem] = []

    def say(said: str, remedy: str, place: str, *, unsaid: bool = False) -> None:
        found.append(Problem(said, remedy, place, unsaid=unsaid))

    if not message.occasions:
        say(tr("It has no occasion."), tr("Say when it is sent."), "occasions", unsaid=True)
    if not message.entry_points:
        say(
            tr("No entry point is chosen."), tr("Choose at least one."), "entry_points", unsaid=True
        )
    if not message.to:
        say(tr("It goes to nobody."), tr("Say who is to get it."), "to", unsaid=True)
    if not message.subject.strip():
        say(tr("It has no subject."), tr("Write one."), "subject", unsaid=True)
    if not message.text.strip():
        say(tr("It says nothing."), tr("Write the text."), "text", unsaid=True)
    if message.condition:
        try:
            form.condition(message.condition)
        except FormulaError as error:
            found.extend(error.problems)
    for name, receivers in (("to", message.to), ("copies", message.copies)):
        for place, one in enumerate(receivers):
            found.extend(_receiver_problems(one, f"{name}.{place}", form))
    if message.reply_to and (fault := address_fault(message.reply_to)):
        say(
            tr("“{reply_to}” is no address. {fault}", reply_to=message.reply_to[:80], fault=fault),
            tr("Correct it."),
            "reply_to",
        )
    found += merge_problems(message.subject, "subject", form.fields, one_line=True)
    found += merge_problems(message.text, "text", form.fields)
    return found


def _receiver_problems(one: Receiver, place: str, form: CompiledForm) -> list[Problem]:
    match one:
        case ToPerson(name=name):
            if not Person.objects.filter(username=name, is_active=True).exists():
                said = tr("Nobody here has the account “{name}”.", name=name[:80])
                return [Problem(said, tr("Choose somebody else."), place)]
        case ToField(field=path):
            declared = declared_at(path, form)
            if declared is None:
                said = tr("There is no field “{path}” in this form.", path=path)
                return [Problem(said, tr("Choose a field of this form."), place)]
            if not declared.type.is_free_text:
                said = tr("{label} takes no text, so no address.", label=declared.label)
                return [Problem(said, tr("Choose a field for an e-mail address."), place)]
    return []
