"""The service API: what other systems call, with a token instead of an account."""

import json
from collections.abc import Callable
from typing import Any, Final

from django.core.serializers.json import DjangoJSONEncoder
from django.http import Http404, HttpRequest, HttpResponse
from ninja import Query
from ninja.security import HttpBearer

from thistlequartz.core.translation import tr
from thistlequartz.server import problems
from thistlequartz.server.judging.values import Values
from thistlequartz.server.openapi import Api
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import Right, may
from thistlequartz.server.problems import ProblemDetails, Refusal
from thistlequartz.server.records.form_in_force import desk_of
from thistlequartz.server.records.models import Record
from thistlequartz.server.records.services import get_record

from . import services as service
from .models import ApiToken
from .shapes import (
    BulkBody,
    BulkItem,
    BulkItemResult,
    BulkResult,
    FormInfo,
    RecordBody,
    RecordList,
    RecordListQuery,
    RecordPatch,
    RecordReplacement,
    ServiceJudgeBody,
    ServiceVerdicts,
    StoredRecord,
    form_told,
    record_told,
    verdicts_told,
)
from .tokens import token_for

IDEMPOTENCY: Final = "Idempotency-Key"
LONGEST_KEY: Final = 90
_KEYED: Final = {
    "parameters": [
        {
            "in": "header",
            "name": IDEMPOTENCY,
            "required": False,
            "schema": {"type": "string", "maxLength": LONGEST_KEY},
            "description": tr(
                "Drawn by the caller: sent again, the call is answered the same and done once. "
                "Kept for seven days."
            ),
        }
    ]
}


class TokenAuth(HttpBearer):
    """A token in the header `Authorization: Bearer …`."""

    def __call__(self, request: HttpRequest) -> Any:
        """The token; raises a Refusal (401)."""
        begins, _, text = request.headers.get("Authorization", "").partition(" ")
        token = token_for(text.strip()) if begins.casefold() == "bearer" else None
        if token is None:
            raise Refusal(
                401,
                "no-token",
                tr("This call carries no token that counts."),
                tr(
                    "Send “Authorization: Bearer” and a token. A steward creates one under "
                    "Access; one that has ended, or whose maker has left, counts no more."
                ),
            )
        return token

    def authenticate(self, request: HttpRequest, token: str) -> Any:
        """Not asked: the call itself is."""
        raise NotImplementedError


api = Api(
    title="Thistlequartz service API",
    version="1",
    description="For other systems: judge, save, submit, list and get records. Whatever comes in is"
    " judged as at the desk, at the entry point *service*; a refusal is a problem document (RFC"
    " 9457) that names fields and rules. Values are in canonical form, and what is got can be sent"
    " back unchanged.",
    auth=TokenAuth(),
    parser=problems.StrictParser(),
    docs_url=None,
    openapi_url="/openapi.json",
    urls_namespace="service",
)
problems.install(api)


def _token(request: HttpRequest) -> ApiToken:
    token: ApiToken = request.auth  # type: ignore[attr-defined]
    return token


def _may(request: HttpRequest, form_key: str, act: Any) -> Person:
    return service.person_for(_token(request), form_key, act)


def _told(request: HttpRequest, record: Record, sent: Values) -> StoredRecord:
    """A stored record as an answer: a token that may not read gets back what it sent."""
    reads = "read" in _token(request).acts
    return record_told(record, None if reads else set(sent), service.ignored_in(record, sent))


def _act(submit: bool) -> str:
    return "submit" if submit else "save"


def _key(request: HttpRequest) -> str:
    """By what the caller knows this call again; raises a Refusal (422)."""
    key = request.headers.get(IDEMPOTENCY, "")
    if len(key) > LONGEST_KEY:
        raise Refusal(
            422,
            "key-too-long",
            tr(
                "The {idempotency} has more than {longest_key} characters.",
                idempotency=IDEMPOTENCY,
                longest_key=LONGEST_KEY,
            ),
            tr("Draw a shorter one, such as a UUID."),
        )
    return key


def _plain(told: StoredRecord) -> Any:
    """As JSON, written as every other answer writes it, moments too."""
    return json.loads(json.dumps(told.model_dump(), cls=DjangoJSONEncoder))


def _once(request: HttpRequest, status: int, act: Callable[[], Any]) -> HttpResponse:
    """The answer to a call that changes something, which is done once for each key."""
    call = f"{request.method} {request.path}\n{request.body.decode('utf-8', 'replace')}"

    def done() -> tuple[int, Any]:
        return status, _plain(act())

    code, body = service.once(_token(request), _key(request), call, done)
    return HttpResponse(
        json.dumps(body, ensure_ascii=False), status=code, content_type="application/json"
    )


@api.get("/forms", response={200: list[FormInfo]}, tags=["forms"])
def list_forms(request: HttpRequest) -> list[FormInfo]:
    """The forms that the token reaches and that are in use, with their fields."""
    found = []
    token = _token(request)
    for form in token.forms.order_by("key"):
        if not may(token.person, Right.READ, form.key):
            continue  # whoever made the token sees it no longer
        try:
            found.append(form_told(desk_of(form.key)))
        except Refusal:
            continue  # no release of it is in force
    return found


@api.post("/forms/{form_key}/judge", response={200: ServiceVerdicts}, tags=["records"])
def judge(request: HttpRequest, form_key: str, body: ServiceJudgeBody) -> ServiceVerdicts:
    """What saving and submitting would say of a record. Stores nothing."""
    person = _may(request, form_key, "judge")
    verdicts = service.judge(person, form_key, body.values, body.reasons, body.number)
    desk = desk_of(form_key)
    ignored = service.ignored_by(verdicts["save"], desk.compiled, body.values)
    return verdicts_told(desk, verdicts, ignored)


@api.get("/forms/{form_key}/records", response={200: RecordList}, tags=["records"])
def list_records(request: HttpRequest, form_key: str, asked: Query[RecordListQuery]) -> RecordList:
    """Records by their numbers, from the first on."""
    _may(request, form_key, "read")
    found = Record.objects.filter(form__key=form_key, number__gt=asked.after)
    if asked.state is not None:
        found = found.filter(state=asked.state)
    some = list(found.select_related("release").order_by("number")[: asked.limit])
    return RecordList(
        records=[record_told(one) for one in some],
        after=some[-1].number if len(some) == asked.limit else None,
    )


@api.get("/forms/{form_key}/records/{number}", response={200: StoredRecord}, tags=["records"])
def show_record(request: HttpRequest, form_key: str, number: int) -> StoredRecord:
    """A record."""
    _may(request, form_key, "read")
    return record_told(get_record(form_key, number))


@api.post(
    "/forms/{form_key}/records",
    response={201: StoredRecord},
    tags=["records"],
    openapi_extra=_KEYED,
)
def create_record(request: HttpRequest, form_key: str, body: RecordBody) -> HttpResponse:
    """Save a new record, or submit it."""
    person = _may(request, form_key, _act(body.submit))

    def act() -> StoredRecord:
        record = service.store(person, form_key, body.values, body.reasons, submit=body.submit)
        return _told(request, record, body.values)

    return _once(request, 201, act)


@api.put(
    "/forms/{form_key}/records/{number}",
    response={200: StoredRecord},
    tags=["records"],
    openapi_extra=_KEYED,
)
def replace_record(
    request: HttpRequest, form_key: str, number: int, body: RecordReplacement
) -> HttpResponse:
    """Save a record as a whole, or submit it; fields that are not named become blank."""
    person = _may(request, form_key, _act(body.submit))

    def act() -> StoredRecord:
        record = service.store(
            person,
            form_key,
            body.values,
            body.reasons,
            submit=body.submit,
            number=number,
            revision=body.revision,
        )
        return _told(request, record, body.values)

    return _once(request, 200, act)


@api.patch(
    "/forms/{form_key}/records/{number}",
    response={200: StoredRecord},
    tags=["records"],
    openapi_extra=_KEYED,
)
def change_record(
    request: HttpRequest, form_key: str, number: int, body: RecordPatch
) -> HttpResponse:
    """Put changes onto a record, and save or submit what that makes; it is judged as a whole."""
    person = _may(request, form_key, _act(body.submit))

    def act() -> StoredRecord:
        record = service.change(
            person,
            form_key,
            number,
            body.values,
            body.reasons,
            submit=body.submit,
            revision=body.revision,
        )
        return _told(request, record, body.values)

    return _once(request, 200, act)


@api.post(
    "/forms/{form_key}/several-records",
    response={200: BulkResult},
    tags=["records"],
    openapi_extra=_KEYED,
)
def store_several(request: HttpRequest, form_key: str, body: BulkBody) -> BulkResult:
    """Store several records, each by itself: one that is refused stops no other."""
    for submit in {one.submit for one in body.records}:
        person = _may(request, form_key, _act(submit))

    def stored(sent: BulkItem) -> StoredRecord:
        values, reasons, number = sent.values, sent.reasons, sent.number
        if number is None:
            new = service.store(person, form_key, values, reasons, submit=sent.submit)
            return _told(request, new, values)
        record = service.change(
            person,
            form_key,
            number,
            values,
            reasons,
            submit=sent.submit,
            revision=sent.revision,
        )
        return _told(request, record, values)

    def one_of(place: int, sent: BulkItem) -> BulkItemResult:
        call = f"{request.path} {place}\n{sent.model_dump_json()}"
        key = f"{keys}/{place}" if keys else ""
        try:
            _, body = service.once(_token(request), key, call, lambda: (200, _plain(stored(sent))))
        except Refusal as refusal:
            return BulkItemResult(problem=_problem(refusal))
        except Http404:
            gone = Refusal(
                404,
                "not-found",
                tr("There is no record {number}.", number=sent.number),
                tr("Look it up."),
            )
            return BulkItemResult(problem=_problem(gone))
        return BulkItemResult(record=StoredRecord.model_validate(body))

    # Each by a key of its own, so that all of them together lock nobody out.
    keys = _key(request)
    return BulkResult(done=[one_of(place, sent) for place, sent in enumerate(body.records)])


def _problem(refusal: Refusal) -> ProblemDetails:
    return ProblemDetails(
        type=f"urn:thistlequartz:problem:{refusal.name}",
        title=refusal.title,
        status=refusal.status,
        detail=refusal.detail,
        errors=refusal.errors,
    )
