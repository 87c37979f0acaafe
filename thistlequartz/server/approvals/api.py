"""Records taken back, approved and returned: one by one, or many at once."""

from django.http import HttpRequest
from ninja import Router

from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.records.models import Record
from thistlequartz.server.records.shapes import RecordView, VersionOf, view_of

from . import services as approving
from .shapes import ApprovalBody, ApprovalResultView

router = Router()


@router.post("/forms/{form_key}/records/{number}/take-back", response={200: RecordView})
def take_back(request: HttpRequest, form_key: str, number: int, body: VersionOf) -> RecordView:
    """Take back a record that one has submitted oneself, to go on writing it."""
    person = person_with(request, Right.WRITE_RECORDS)
    return view_of(approving.take_back(person, form_key, number, body.revision), person)


@router.post("/forms/{form_key}/decisions", response={200: list[ApprovalResultView]})
def decide(request: HttpRequest, form_key: str, body: ApprovalBody) -> list[ApprovalResultView]:
    """Approve records or return them, each judged by itself; one refused stops no other."""
    person = person_with(request, Right.APPROVE)

    def one(number: int, revision: int) -> Record:
        if body.act == "approve":
            return approving.approve(person, form_key, number, revision)
        return approving.return_record(person, form_key, number, revision, body.remark, body.to)

    chosen = [(record.number, record.revision) for record in body.records]
    return [_decided(done) for done in approving.each(chosen, one)]


def _decided(done: approving.ApprovalResult) -> ApprovalResultView:
    if done.refusal is None:
        title = done.record.title if done.record else ""
        return ApprovalResultView(number=done.number, title=title, done=True)
    told = " ".join([done.refusal.title, *(one.message for one in done.refusal.errors)])
    return ApprovalResultView(
        number=done.number, title="", done=False, why_not=told, remedy=done.refusal.detail
    )
