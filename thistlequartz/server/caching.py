"""What browsers and proxies may keep of what is answered."""

from collections.abc import Callable
from typing import Final

from django.http import HttpRequest, HttpResponse

Answer = Callable[[HttpRequest], HttpResponse]
FROM_THE_DATABASE: Final = ("/api/", "/service/")


def not_kept(answer: Answer) -> Answer:
    """Middleware: no cache keeps records and people, nor after signing out (RFC 9111, 5.2.2.5)."""

    def answer_for_now(request: HttpRequest) -> HttpResponse:
        response = answer(request)
        if request.path.startswith(FROM_THE_DATABASE):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

    return answer_for_now
