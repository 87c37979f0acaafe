"""Which media types a body may have: JSON in UTF-8, or a file as it is."""

from collections.abc import Callable
from email.message import Message
from typing import Final

from django.http import HttpRequest, HttpResponse

from thistlequartz.core.translation import tr

from .caching import FROM_THE_DATABASE
from .problems import Refusal, respond

TAKEN: Final = ("application/json", "application/octet-stream")
_WITHOUT_BODY: Final = ("GET", "HEAD", "OPTIONS")
Answer = Callable[[HttpRequest], HttpResponse]


def only_json(answer: Answer) -> Answer:
    """Middleware: refuse a body of another type or encoding before anything reads it."""

    def answer_to_json(request: HttpRequest) -> HttpResponse:
        spoken = request.path.startswith(FROM_THE_DATABASE)
        if not spoken or request.method in _WITHOUT_BODY or _is_taken(request):
            return answer(request)
        return respond(
            Refusal(
                415,
                "unknown-media-type",
                tr(
                    "A body of the type “{type}” is not read.",
                    type=request.headers.get("Content-Type", "")[:80],
                ),
                tr("Send JSON in UTF-8, with the header Content-Type: application/json."),
            )
        )

    return answer_to_json


def _is_taken(request: HttpRequest) -> bool:
    written = request.headers.get("Content-Type", "")
    if not written:
        return True
    told = Message()
    told["Content-Type"] = written
    charset = told.get_content_charset("utf-8")
    return told.get_content_type() in TAKEN and charset in ("utf-8", "utf8")
