"""A message made of its template and one record: who gets it, and what it says to them."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Final

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.merging import one_line_of
from thistlequartz.core.translation import tr
from thistlequartz.server.people.addresses import address_fault
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import closed_forms, role_of
from thistlequartz.server.records.events import Occasion
from thistlequartz.server.records.lookup import number_in
from thistlequartz.server.records.models import Record
from thistlequartz.server.records.text_values import merging_of

from .models import LONGEST_SUBJECT
from .writing import Receiver, ToConcerned, ToField, ToPerson, ToRole, WrittenMessage, declared_at

MOST_ADDRESSES: Final = 200
"""Of one message."""


@dataclass(slots=True)
class Recipients:
    """Who gets a message, and who of those that should cannot."""

    to: list[tuple[str, str]] = field(default_factory=list)
    """Names, where they are known, and addresses."""
    copies: list[tuple[str, str]] = field(default_factory=list)
    troubles: list[str] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Composed:
    """A message as its receivers get it."""

    addressed: Recipients
    reply_to: str
    subject: str
    text: str
    page: str

    def headers(self) -> list[tuple[str, str]]:
        """What stands above it."""
        return headers_of(self.addressed.to, self.addressed.copies, self.reply_to, self.subject)


def headers_of(
    to: Iterable[tuple[str, str]], copies: Iterable[tuple[str, str]], reply_to: str, subject: str
) -> list[tuple[str, str]]:
    """What stands above a message, as people read it."""

    def told(receivers: Iterable[tuple[str, str]]) -> str:
        return ", ".join(f"{name} <{address}>" if name else address for name, address in receivers)

    lines = (("To", told(to)), ("Cc", told(copies)), ("Reply-To", reply_to), ("Subject", subject))
    return [(name, line) for name, line in lines if line]


class Composer:
    """Makes messages about records of one form. What they share is looked up once."""

    def __init__(self, compiled: CompiledForm) -> None:
        self._compiled = compiled
        self._people: list[Person] | None = None

    def composed(
        self, message: WrittenMessage, record: Record, occasion: Occasion, person: Person
    ) -> Composed:
        """The message about a record, as it stands, after what `person` did."""
        texts = (message.subject, message.text)
        merging = merging_of(record, self._compiled, texts, occasion, person)
        return Composed(
            self.addressed(message, record),
            message.reply_to,
            merging.line(message.subject)[:LONGEST_SUBJECT],
            merging.plain(message.text),
            merging.page(message.text),
        )

    def addressed(self, message: WrittenMessage, record: Record | None) -> Recipients:
        """Who gets it: each address once. Without a record, those whom no record decides."""
        found, seen = Recipients(), set[str]()
        for receivers, into in ((message.to, found.to), (message.copies, found.copies)):
            for name, address in self._each(receivers, record, found.troubles):
                if len(seen) == MOST_ADDRESSES and address.lower() not in seen:
                    found.troubles.append(
                        tr(
                            "It goes to the first {most_addresses} of them.",
                            most_addresses=MOST_ADDRESSES,
                        )
                    )
                    return found
                if address.lower() not in seen:
                    seen.add(address.lower())
                    into.append((name, address))
        return found

    def _each(
        self, receivers: Sequence[Receiver], record: Record | None, troubles: list[str]
    ) -> Iterable[tuple[str, str]]:
        for one in receivers:
            match one:
                case ToField(field=path):
                    if record is not None:
                        yield from self._in_field(path, record, troubles)
                case ToConcerned(who=who):
                    if record is not None:
                        yield from self._concerned(who, record, troubles)
                case ToPerson(name=name):
                    known = [person for person in self.people if person.username == name]
                    if not known:
                        troubles.append(tr("The account {name} is closed.", name=name))
                    yield from self._address(known, troubles)
                case ToRole(role=role):
                    form_key = self._compiled.form.key
                    of_role = [one for one in self.people if role_of(one, form_key) == role]
                    if not of_role:
                        troubles.append(tr("Nobody is a {role} in this form.", role=role))
                    yield from self._address(of_role, troubles)

    @property
    def people(self) -> list[Person]:
        """Everybody whose account is open."""
        if self._people is None:
            found = Person.objects.filter(is_active=True).prefetch_related("form_roles")
            self._people = list(found.order_by("username"))
        return self._people

    def _held(self, path: str, record: Record) -> object:
        key, *further = path.split(".", 1)
        held = record.values.get(key)
        if not further or held is None:
            return held
        declared, number = self._compiled.fields.get(key), number_in(str(held))
        form = declared.type.referred_form if declared else None
        if form is None or number is None:
            return None  # the release in force has something else there
        referred = Record.objects.filter(form__key=form, number=number)
        values = referred.values_list("values", flat=True).first() or {}
        return values.get(further[0])

    def _in_field(
        self, path: str, record: Record, troubles: list[str]
    ) -> Iterable[tuple[str, str]]:
        declared, address = declared_at(path, self._compiled), self._held(path, record)
        label = declared.label if declared else path
        if not isinstance(address, str) or not address.strip():
            troubles.append(
                tr("{label} is blank in record {number}.", label=label, number=record.number)
            )
        elif fault := address_fault(address):
            troubles.append(
                tr(
                    "{label} of record {number} has no address in it. {fault}",
                    label=label,
                    number=record.number,
                    fault=fault,
                )
            )
        else:
            yield "", address

    def _concerned(
        self, who: str, record: Record, troubles: list[str]
    ) -> Iterable[tuple[str, str]]:
        person = record.submitted_by if who == "submitter" else record.keeper
        if person is None or not person.is_active:
            nobody = (
                tr("Nobody with an account submitted record {number}.")
                if who == "submitter"
                else tr("Nobody with an account is to go on with record {number}.")
            )
            troubles.append(nobody.format(number=record.number))
        else:
            yield from self._address([person], troubles)

    def _address(self, people: Iterable[Person], troubles: list[str]) -> Iterable[tuple[str, str]]:
        for person in people:
            if self._compiled.form.key in closed_forms(person):
                troubles.append(
                    tr("{shown_name} does not see this form.", shown_name=person.shown_name)
                )
            elif not person.email:
                troubles.append(
                    tr("{shown_name} has no e-mail address.", shown_name=person.shown_name)
                )
            else:
                yield one_line_of(person.shown_name), person.email
