"""Tokens with which other systems come in: made, shown once, ended."""

import hashlib
import secrets
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Final, Literal, get_args

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import Right, closed_forms, may
from thistlequartz.server.problems import ProblemItem, Refusal

from .models import ApiToken

TokenAct = Literal["read", "judge", "save", "submit"]
ACTS: Final[tuple[TokenAct, ...]] = get_args(TokenAct)
NEEDED: Final[dict[TokenAct, Right]] = {
    "read": Right.READ,
    "judge": Right.READ,
    "save": Right.WRITE_RECORDS,
    "submit": Right.WRITE_RECORDS,
}
"""The right that whoever made a token still has to have."""
MARK: Final = "tq_"
"""How every token begins, so that it is known for one where it should not be."""
_BYTES: Final = 32
_SHOWN: Final = 8
_USE_NOTED_EVERY: Final = timedelta(minutes=1)


def make_token(
    person: Person,
    name: str,
    form_keys: Sequence[str],
    acts: Sequence[TokenAct],
    ends_at: datetime | None,
) -> tuple[ApiToken, str]:
    """A new token, and the text of it, which nobody sees again. Raises a Refusal."""
    _refuse_unfit(person, name, form_keys, ends_at)
    text = MARK + secrets.token_urlsafe(_BYTES)
    with transaction.atomic():
        token = ApiToken.objects.create(
            person=person,
            name=name.strip(),
            begins=text[:_SHOWN],
            hash=_hash(text),
            acts=[one for one in ACTS if one in acts],
            ends_at=ends_at,
        )
        token.forms.set(get_draft(key) for key in form_keys)
        for key in form_keys:
            log(person, "make token", key, token.name, note=", ".join(token.acts))
    return token, text


def _refuse_unfit(
    person: Person, name: str, form_keys: Sequence[str], ends_at: datetime | None
) -> None:
    errors = []
    if not name.strip():
        said, remedy = tr("It has no name."), tr("Say what it is for.")
        errors.append(ProblemItem(place="name", message=said, remedy=remedy))
    for key in form_keys:
        if key in closed_forms(person) or not may(person, Right.RELEASE, key):
            said = tr("You may not open “{name}” to other systems.", name=get_draft(key).name)
            errors.append(
                ProblemItem(
                    place="forms", message=said, remedy=tr("Ask somebody who may release it.")
                )
            )
    if ends_at is not None and ends_at <= timezone.now():
        errors.append(
            ProblemItem(
                place="ends_at", message=tr("This moment is past."), remedy=tr("Give a later one.")
            )
        )
    if errors:
        raise Refusal(
            422,
            "no-token-made",
            tr("No token was made."),
            tr("Correct what is named below."),
            errors,
        )


def tokens_of(form_key: str) -> list[ApiToken]:
    """The tokens that reach a form, the newest first, those that have ended too."""
    found = ApiToken.objects.filter(forms__key=form_key)
    return list(found.select_related("person").prefetch_related("forms"))


def end_token(person: Person, form_key: str, pk: int) -> None:
    """End a token, in all its forms; raises Http404."""
    with transaction.atomic():
        found = ApiToken.objects.select_for_update().filter(forms__key=form_key, pk=pk)
        token = found.first()
        if token is None:
            raise Http404(pk)
        if token.ended_at is None:
            token.ended_at = timezone.now()
            token.save(update_fields=["ended_at"])
            for form in token.forms.all():
                log(person, "end token", form.key, token.name)


def token_for(text: str) -> ApiToken | None:
    """The token with this text, if it counts now."""
    now = timezone.now()
    token = ApiToken.objects.select_related("person").filter(hash=_hash(text)).first()
    if token is None or not counts(token, now):
        return None
    if token.last_used_at is None or now - token.last_used_at > _USE_NOTED_EVERY:
        ApiToken.objects.filter(pk=token.pk).update(last_used_at=now)
    return token


def counts(token: ApiToken, now: datetime) -> bool:
    """Whether it lets anybody in: it has not ended, nor has the account of whoever made it."""
    over = token.ended_at is not None or (token.ends_at is not None and token.ends_at <= now)
    return not over and token.person.is_active


def _hash(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()
