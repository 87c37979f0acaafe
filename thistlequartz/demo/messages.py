"""What Quillhaven writes to whom when something becomes of a record."""

from typing import Any, Final

from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.messages.services import store_template
from thistlequartz.server.messages.waiting import write_messages
from thistlequartz.server.messages.writing import WrittenMessage
from thistlequartz.server.people.models import Person
from thistlequartz.server.records.events import RecordEvent, occasions_of
from thistlequartz.server.records.form_in_force import desk_of
from thistlequartz.server.records.models import Record, State

REGISTRAR: Final = "registrar@example.org"
SHOWN: Final = 6
"""Loans of which the outbox tells from the beginning."""
_WRITTEN: Final[dict[str, dict[str, dict[str, Any]]]] = {
    "loan_out": {
        "A loan waits for approval": {
            "occasions": ("submitted",),
            "to": [{"who": "role", "role": "approver"}],
            "copies": [{"who": "submitter"}],
            "subject": "Loan {record} waits for approval",
            "text": "{person} has submitted a loan to {borrower}, from {lent_from} to {lent_to}."
            "\n\n{answers}",
        },
        "The borrower hears that it is agreed": {
            "occasions": ("approved",),
            "to": [{"who": "field", "field": "borrower.email"}],
            "copies": [{"who": "submitter"}],
            "reply_to": REGISTRAR,
            "subject": "Your loan of {piece} is agreed",
            "text": "The loan of {piece} is agreed, from {lent_from} to {lent_to}.\n\n"
            "Insured value: {insured_value}. Premium: {premium}.\n\n"
            "Write to us at this address with any question.",
        },
        "A very valuable loan": {
            "occasions": ("submitted",),
            "condition": "insured_value > 50000",
            "to": [{"who": "role", "role": "steward"}],
            "subject": "Loan {record} is insured for {insured_value}",
            "text": "Please look at the premium of {premium} before it is approved.",
        },
        "Returned to be corrected": {
            "occasions": ("returned",),
            "to": [{"who": "keeper"}],
            "subject": "Loan {record} was returned",
            "text": "{person} writes:\n\n{remark}",
        },
    },
    "borrower": {
        "A borrower is on hold": {
            "occasions": ("held",),
            "to": [{"who": "person", "name": "steward"}],
            "subject": "Borrower {record} is on hold",
            "text": "{person} has saved it without all that is required.\n\n{answers}",
        },
    },
}


def write_down_messages(steward: Person) -> None:
    """Store the messages of each form."""
    for form_key, messages in _WRITTEN.items():
        for name, said in messages.items():
            message = WrittenMessage.model_validate(said)
            store_template(steward, form_key, name, message, None, enabled=True)


def tell_of_the_newest(form_key: str = "loan_out") -> None:
    """Write the messages of the newest loans that were submitted, as if it were just done."""
    desk = desk_of(form_key)
    at_rest = (State.SUBMITTED, State.APPROVED)
    submitted = Record.objects.filter(form=get_draft(form_key), state__in=at_rest)
    newest = submitted.select_related("submitted_by", "keeper", "decided_by")[:SHOWN]
    happenings = [
        RecordEvent(desk, one, occasions_of(one, held_before=False), one.submitted_by)
        for one in reversed(newest)
        if one.submitted_by
    ]
    if happenings:
        write_messages(None, happenings)
