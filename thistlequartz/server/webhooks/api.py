"""Calls that go out to other systems: to whom, what became of them, and the stand-in."""

from datetime import datetime
from typing import Annotated, Any, cast

from django.http import HttpRequest
from ninja import Query, Router, Status
from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.jobs.retrying import DispatchState
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.records.events import Occasion

from .calling import address_of
from .models import ReceivedWebhookCall, Webhook, WebhookCall
from .targets import call_again, get_target, make_target, switch_target

router = Router()
SHOWN = 50
"""Calls listed at once."""
COUNTED_TO = 1_000


class CallTargetView(BaseModel):
    """A receiver of calls."""

    id: int
    name: str
    address: str
    stand_in: bool
    """Whether it is the one that ships with the product."""
    occasions: list[Occasion]
    enabled: bool
    fails: int
    """How many calls the stand-in will refuse."""
    created_at: datetime
    waiting: int
    failed: int


class NewCallTarget(BaseModel):
    """A receiver to be called; without an address, the stand-in."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=100)]
    address: Annotated[str, Field(max_length=500)] = ""
    occasions: Annotated[list[Occasion], Field(max_length=5)]


class CallTargetMade(BaseModel):
    """A new receiver with the secret of its signatures, which is shown once."""

    target: CallTargetView
    secret: str


class CallTargetChange(BaseModel):
    """Whether a receiver is called, and how often the stand-in refuses."""

    model_config = ConfigDict(extra="forbid")
    enabled: bool
    fails: Annotated[int, Field(ge=0, le=100)] = 0


class CallView(BaseModel):
    """A call, and what became of it."""

    id: int
    receiver: str
    number: int
    """Of the record."""
    occasion: Occasion
    state: DispatchState
    attempts: int
    trouble: str
    next_at: datetime | None
    """When it is tried again."""
    written_at: datetime
    sent_at: datetime | None
    webhook_id: str
    body: str
    answer_status: int | None
    answer: str


class ReceivedView(BaseModel):
    """A call as the stand-in received it; its signature fitted."""

    webhook_id: str
    taken: bool
    body: str
    received_at: datetime


def _target(target: Webhook) -> CallTargetView:
    left = target.calls.filter(state__in=(DispatchState.WAITING, DispatchState.FAILED))
    states = list(left.order_by().values_list("state", flat=True)[:COUNTED_TO])
    return CallTargetView(
        id=target.pk,
        name=target.name,
        address=address_of(target),
        stand_in=not target.address,
        occasions=target.occasions,
        enabled=target.enabled,
        fails=target.fails,
        created_at=target.created_at,
        waiting=states.count(DispatchState.WAITING),
        failed=states.count(DispatchState.FAILED),
    )


def _call(call: WebhookCall) -> CallView:
    return CallView(
        id=call.pk,
        receiver=call.target.name,
        number=call.number,
        occasion=cast(Occasion, call.occasion),
        state=DispatchState(call.state),
        attempts=call.attempts,
        trouble=call.trouble if call.state != DispatchState.SENT else "",
        next_at=call.again_at,
        written_at=call.written_at,
        sent_at=call.sent_at,
        webhook_id=call.webhook_id,
        body=call.body,
        answer_status=call.answer_status,
        answer=call.answer,
    )


@router.get("/forms/{form_key}/call-targets", response={200: list[CallTargetView]})
def list_targets(request: HttpRequest, form_key: str) -> list[CallTargetView]:
    """The receivers of calls about a form."""
    person_with(request, Right.RELEASE)
    return [_target(one) for one in Webhook.objects.filter(form=get_draft(form_key))]


@router.post("/forms/{form_key}/call-targets", response={201: CallTargetMade})
def new_target(request: HttpRequest, form_key: str, body: NewCallTarget) -> Status[CallTargetMade]:
    """Name a receiver; the secret of its signatures is in this answer alone."""
    person = person_with(request, Right.RELEASE)
    made = make_target(person, form_key, body.name, body.address, body.occasions)
    return Status(201, CallTargetMade(target=_target(made), secret=made.secret))


@router.put("/forms/{form_key}/call-targets/{target_id}", response={200: CallTargetView})
def change_target(
    request: HttpRequest, form_key: str, target_id: int, body: CallTargetChange
) -> CallTargetView:
    """Have a receiver called or not, and the stand-in refuse some calls."""
    person = person_with(request, Right.RELEASE)
    target = switch_target(person, form_key, target_id, enabled=body.enabled)
    Webhook.objects.filter(pk=target.pk).update(fails=body.fails)
    return _target(get_target(form_key, target_id))


class CallFilter(BaseModel):
    """Which calls are wanted."""

    before: int | None = None
    """Only those made before this one."""


@router.get("/forms/{form_key}/calls", response={200: list[CallView]})
def list_calls(request: HttpRequest, form_key: str, asked: Query[CallFilter]) -> list[CallView]:
    """The calls about a form, the newest first, fifty at a time."""
    person_with(request, Right.RELEASE)
    found = WebhookCall.objects.filter(target__form=get_draft(form_key)).select_related("target")
    if asked.before is not None:
        found = found.filter(pk__lt=asked.before)
    return [_call(one) for one in found[:SHOWN]]


@router.post("/forms/{form_key}/calls/{call_id}/again", response={200: CallView})
def make_call_again(request: HttpRequest, form_key: str, call_id: int) -> CallView:
    """Make a call once more."""
    return _call(call_again(person_with(request, Right.RELEASE), form_key, call_id))


@router.get(
    "/forms/{form_key}/call-targets/{target_id}/received",
    response={200: list[ReceivedView]},
)
def list_received(request: HttpRequest, form_key: str, target_id: int) -> list[ReceivedView]:
    """What the stand-in has received, the newest first."""
    person_with(request, Right.RELEASE)
    found: Any = ReceivedWebhookCall.objects.filter(target=get_target(form_key, target_id))
    return [
        ReceivedView(
            webhook_id=one.webhook_id,
            taken=one.taken,
            body=one.body,
            received_at=one.received_at,
        )
        for one in found
    ]
