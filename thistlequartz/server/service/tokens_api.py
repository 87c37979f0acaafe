"""Tokens with which other systems come in."""

from datetime import date, datetime
from typing import Annotated

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Status
from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.server.forms.drafts import form_document, get_draft
from thistlequartz.server.last_days import end_of
from thistlequartz.server.people.rights import Right, person_with

from .models import ApiToken
from .tokens import TokenAct, counts, end_token, make_token, tokens_of

router = Router()


class TokenView(BaseModel):
    """A token; its text is shown once, when it is made."""

    id: int
    name: str
    begins: str
    """How its text begins."""
    acts: list[TokenAct]
    forms: list[str]
    """The names of the forms that it reaches."""
    made_by: str
    created_at: datetime
    ends_at: datetime | None
    last_used_at: datetime | None
    counts: bool
    """Whether it lets anybody in now."""


class NewToken(BaseModel):
    """What a new token is for, and what may be done with it."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=100)]
    acts: Annotated[list[TokenAct], Field(min_length=1, max_length=10)]
    forms: Annotated[list[Annotated[str, Field(max_length=60)]], Field(max_length=100)] = []
    """Further forms that it reaches, by key."""
    last_day: date | None = None
    """The last day on which it counts, by the clock of the form's zone."""


class TokenMade(BaseModel):
    """A new token with its text, which nobody is told again."""

    token: TokenView
    text: str


def _view(token: ApiToken) -> TokenView:
    return TokenView(
        id=token.pk,
        name=token.name,
        begins=token.begins,
        acts=token.acts,
        forms=[form.name for form in token.forms.all()],
        made_by=token.person.shown_name,
        created_at=token.created_at,
        ends_at=token.ends_at,
        last_used_at=token.last_used_at,
        counts=counts(token, timezone.now()),
    )


@router.get("/forms/{form_key}/tokens", response={200: list[TokenView]})
def list_tokens(request: HttpRequest, form_key: str) -> list[TokenView]:
    """The tokens that reach a form."""
    person_with(request, Right.RELEASE)
    get_draft(form_key)
    return [_view(one) for one in tokens_of(form_key)]


@router.post("/forms/{form_key}/tokens", response={201: TokenMade})
def new_token(request: HttpRequest, form_key: str, body: NewToken) -> Status[TokenMade]:
    """Make a token; its text is in this answer alone."""
    person = person_with(request, Right.RELEASE)
    ends_at = end_of(body.last_day, form_document(get_draft(form_key)).zone)
    keys = list(dict.fromkeys((form_key, *body.forms)))
    token, text = make_token(person, body.name, keys, body.acts, ends_at)
    return Status(201, TokenMade(token=_view(token), text=text))


@router.delete("/forms/{form_key}/tokens/{token_id}", response={204: None})
def stop_token(request: HttpRequest, form_key: str, token_id: int) -> Status[None]:
    """End a token: from now on it lets nobody in."""
    end_token(person_with(request, Right.RELEASE), form_key, token_id)
    return Status(204, None)
