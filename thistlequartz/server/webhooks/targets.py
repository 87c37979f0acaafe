"""Receivers of calls: named, changed, ended; and what was called is called again by hand."""

import base64
import secrets
from collections.abc import Sequence
from typing import Final

from django.db import transaction
from django.http import Http404

from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.jobs.retrying import DispatchState
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.records.events import OCCASIONS, Occasion
from thistlequartz.server.web_addresses import is_web_address

from .calling import may_be_called, not_allowed
from .models import Webhook, WebhookCall

SECRET_BYTES: Final = 32
SECRET_MARK: Final = "whsec_"  # noqa: S105 - how each begins, by the specification


def new_secret() -> str:
    """What calls are signed with: drawn at random."""
    return SECRET_MARK + base64.b64encode(secrets.token_bytes(SECRET_BYTES)).decode()


def make_target(
    person: Person, form_key: str, name: str, address: str, occasions: Sequence[Occasion]
) -> Webhook:
    """A new receiver, with a secret of its own. Raises a Refusal."""
    draft, address = get_draft(form_key), address.strip()
    errors = list(_unfit(name, address, occasions))
    if errors:
        raise Refusal(
            422,
            "no-target-made",
            tr("No receiver was made."),
            tr("Correct what is named below."),
            errors,
        )
    with transaction.atomic():
        target = Webhook.objects.create(
            form=draft,
            name=name.strip(),
            address=address,
            secret=new_secret(),
            occasions=[one for one in OCCASIONS if one in occasions],
        )
        log(person, "make receiver of calls", form_key, target.name, note=address)
    return target


def _unfit(name: str, address: str, occasions: Sequence[Occasion]) -> list[ProblemItem]:
    errors = []
    if not name.strip():
        said = tr("It has no name.")
        errors.append(ProblemItem(place="name", message=said, remedy=tr("Say who is called.")))
    if not occasions:
        said = tr("It is called for nothing.")
        errors.append(ProblemItem(place="occasions", message=said, remedy=tr("Tick one at least.")))
    if address and not is_web_address(address):
        said = tr("“{address}” is no address of the web.", address=address[:80])
        remedy = tr(
            "Write one as http://127.0.0.1:9000/records, or leave it blank for the stand-in."
        )
        errors.append(ProblemItem(place="address", message=said, remedy=remedy))
    elif address and not may_be_called(address):
        errors.append(ProblemItem(place="address", message=not_allowed(address)))
    return errors


def get_target(form_key: str, pk: int) -> Webhook:
    """A receiver; raises Http404."""
    target = Webhook.objects.filter(form__key=form_key, pk=pk).first()
    if target is None:
        raise Http404(pk)
    return target


@transaction.atomic
def switch_target(person: Person, form_key: str, pk: int, *, enabled: bool) -> Webhook:
    """Have a receiver called, or not any more: then what waits for it waits on."""
    target = get_target(form_key, pk)
    if target.enabled != enabled:
        target.enabled = enabled
        target.save(update_fields=["enabled"])
        log(person, "begin calls" if enabled else "end calls", form_key, target.name)
    return target


@transaction.atomic
def call_again(person: Person, form_key: str, pk: int) -> WebhookCall:
    """Make a call once more, also one that was taken: with the id it had. Raises Http404."""
    found = WebhookCall.objects.select_for_update().filter(target__form__key=form_key, pk=pk)
    call = found.first()
    if call is None:
        raise Http404(pk)
    if call.state != DispatchState.WAITING or call.attempts:
        call.begin_again()
        call.save()
        log(
            person,
            "call again",
            form_key,
            tr("Record {number}", number=call.number),
            note=call.target.name,
        )
    return call
