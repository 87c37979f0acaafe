"""Refusals as RFC 9457 problem details: what is wrong, where, and how to correct it."""

import json
import sys
from collections.abc import Iterable, Mapping
from typing import Any

from django.core.exceptions import ObjectDoesNotExist, RequestDataTooBig
from django.core.serializers.json import DjangoJSONEncoder
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.parser import Parser
from pydantic import BaseModel

from thistlequartz.core.language import Problem
from thistlequartz.core.translation import tr
from thistlequartz.core.values import BrokenJson, read_json

from .outages import MET, is_contention, is_met, outage, takes_nothing

MAX_ERRORS = 50
"""Errors told in one answer."""
TRY_AGAIN_AFTER = 2
"""Seconds, as a refusal says it when the database is away."""


class ProblemItem(BaseModel):
    """One thing to correct."""

    place: str
    message: str
    remedy: str = ""
    line: int | None = None
    column: int | None = None
    unsaid: bool = False
    """Whether something is still to be said there, rather than said wrongly."""
    rule: str = ""
    """The rule that asks for it, by key, where another system is told of one."""


class ProblemDetails(BaseModel):
    """The body of every refusal (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    errors: list[ProblemItem] = []


class Refusal(Exception):
    """Something asked that is not done. Nothing has been changed."""

    def __init__(
        self,
        status: int,
        name: str,
        title: str,
        detail: str,
        errors: Iterable[ProblemItem] = (),
        **more: Any,
    ) -> None:
        super().__init__(title)
        self.status = status
        self.name = name
        self.title = title
        self.detail = detail
        self.errors = list(errors)
        self.more = more


def item(problem: Problem) -> ProblemItem:
    """A problem of the core, for an answer."""
    at = problem.position
    return ProblemItem(
        place=problem.place,
        message=problem.message,
        remedy=problem.remedy,
        line=at.line if at else None,
        column=at.column if at else None,
        unsaid=problem.unsaid,
    )


def respond(refusal: Refusal) -> HttpResponse:
    """The answer that carries `refusal`."""
    details = ProblemDetails(
        type=f"urn:thistlequartz:problem:{refusal.name}",
        title=refusal.title,
        status=refusal.status,
        detail=refusal.detail,
        errors=refusal.errors[:MAX_ERRORS],
    )
    body: Mapping[str, Any] = {**details.model_dump(), **refusal.more}
    return HttpResponse(
        json.dumps(body, cls=DjangoJSONEncoder),
        status=refusal.status,
        content_type="application/problem+json",
    )


def unavailable(error: BaseException) -> HttpResponse:
    """The answer while the database is away, or where somebody else was in the way for long."""
    if is_contention(error):
        refusal = Refusal(
            503,
            "busy",
            tr("Others are changing the same just now."),
            tr("Nothing of this was stored. Wait a moment, then try again."),
        )
    elif takes_nothing(error):
        refusal = Refusal(
            503,
            "stores-nothing",
            tr("The database stores nothing just now: its disk is full, or it can only be read."),
            tr("Nothing of this was stored. Tell whoever runs this, then try again."),
        )
    else:
        outage.began(error)
        refusal = Refusal(
            503,
            "no-database",
            tr("The database does not answer just now."),
            tr("Nothing of this was stored. Wait a moment, then try again."),
        )
    response = respond(refusal)
    response["Retry-After"] = str(TRY_AGAIN_AFTER)
    return response


def failed(request: HttpRequest) -> HttpResponse:
    """The answer where something failed that nobody foresaw; the log has it."""
    error = sys.exc_info()[1]
    if error is not None and is_met(error):
        return unavailable(error)
    return respond(
        Refusal(
            500,
            "failed",
            tr("Something failed here that should not."),
            tr("Try again; if it fails again, tell whoever runs this. The log says more."),
        )
    )


class StrictParser(Parser):
    """The body of a call as JSON, read as strictly as everywhere else."""

    def parse_body(self, request: HttpRequest) -> Any:
        try:
            return read_json(request.body.decode())
        except UnicodeDecodeError as error:
            raise _broken(tr("Byte {start} is not UTF-8.", start=error.start + 1)) from None
        except BrokenJson as broken:
            if broken.line or not broken.place:
                raise _broken(
                    tr("At {broken}", broken=broken) if broken.place else broken.message
                ) from None
            remedy = tr("Correct it and send it again.")
            at = ProblemItem(place=broken.place[:300], message=broken.message, remedy=remedy)
            raise _broken(tr("Look at the place named below."), at) from None


def _broken(detail: str, *errors: ProblemItem) -> Refusal:
    return Refusal(
        400,
        "broken-json",
        tr("The body of this call cannot be read as JSON."),
        tr("{detail} Correct it and try again.", detail=detail),
        errors,
    )


def install(api: NinjaAPI) -> None:
    """Make every refusal of `api` a problem-details answer."""

    @api.exception_handler(Refusal)
    def refused(request: HttpRequest, error: Refusal) -> HttpResponse:
        return respond(error)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        return respond(
            Refusal(
                422,
                "invalid",
                tr("Part of what was sent cannot be used."),
                tr("Correct the places named below and send it again; nothing has been changed."),
                [_validation_item(one) for one in error.errors],
            )
        )

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return respond(
            Refusal(
                413,
                "too-large",
                tr("This is more than one call may carry."),
                tr("Send at most 1 MB; split larger work into several calls."),
            )
        )

    # What was there when the call came, and is removed while it is answered, is not there either.
    @api.exception_handler(ObjectDoesNotExist)
    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Exception) -> HttpResponse:
        return respond(
            Refusal(
                404,
                "not-found",
                tr("This is not here, or no longer."),
                tr("Go back to the list and choose again."),
            )
        )

    def out_of_reach(request: HttpRequest, error: Any) -> HttpResponse:
        if not is_met(error):
            raise error
        return unavailable(error)

    for kind in MET:
        api.add_exception_handler(kind, out_of_reach)

    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return respond(
            Refusal(401, "signed-out", tr("You are not signed in."), tr("Sign in and try again."))
        )

    @api.exception_handler(HttpError)
    def other(request: HttpRequest, error: HttpError) -> HttpResponse:
        if isinstance(error.__cause__, Refusal):
            return respond(error.__cause__)
        if error.status_code == 403:
            return respond(
                Refusal(
                    403,
                    "no-token",
                    tr("This call did not carry the page's own token."),
                    tr("Reload the page and try again."),
                )
            )
        return respond(
            Refusal(error.status_code, "refused", str(error), tr("Correct the call and try again."))
        )


_PLAIN_WORDS: dict[str, tuple[str, str]] = {
    "extra_forbidden": (tr("Nothing of this name is known here."), tr("Remove it.")),
    "missing": (tr("This is missing."), tr("Add it.")),
    "too_short": (tr("There are too few here."), tr("Give at least {min_length}.")),
    "too_long": (tr("There are too many here."), tr("Give at most {max_length}.")),
    "string_too_short": (tr("This is blank or too short."), tr("Characters needed: {min_length}.")),
    "string_too_long": (tr("This is too long."), tr("Write at most {max_length} characters.")),
    "string_type": (tr("A text is expected here."), tr("Write it between quotation marks.")),
    "string_unicode": (tr("This text has half a character."), tr("Type it again.")),
    "int_type": (tr("A whole number is expected here."), tr("Write digits only.")),
    "int_parsing": (tr("A whole number is expected here."), tr("Write digits only.")),
    "bool_type": (tr("Yes or no is expected here."), tr("Write true or false.")),
    "dict_type": (tr("An object is expected here."), tr("Write names and values between { and }.")),
    "literal_error": (tr("This is not one of the words known here."), tr("Use {expected}.")),
    "union_tag_invalid": (tr("“{tag}” is not known here."), tr("Use {expected_tags}.")),
    "union_tag_not_found": (tr("It does not say which kind it is."), tr("Add {discriminator}.")),
}
"""By the type of a validation error: what is wrong, and how to correct it."""


def _validation_item(error: Mapping[str, Any]) -> ProblemItem:
    place = ".".join(str(part) for part in error["loc"] if part not in ("body", "query", "path"))
    if error["type"] in _PLAIN_WORDS:
        context = error.get("ctx", {})
        message, remedy = (
            text.replace("{ and }", "{{ and }}").format_map(context)
            for text in _PLAIN_WORDS[error["type"]]
        )
    else:
        message, remedy = (
            error["msg"].removeprefix("Value error, "),
            tr("Correct it and send it again."),
        )
    return ProblemItem(place=place[:300], message=message[:500], remedy=remedy[:500])
