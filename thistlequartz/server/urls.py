"""The API at /api/v1/; every other address is a screen, which the web's own router resolves."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from thistlequartz.core.translation import tr

from .api import api
from .links.filling import entry_of
from .links.models import FormLink
from .problems import Refusal, failed, respond
from .service.api import api as service_api
from .webhooks.stand_in import receive


def page(request: HttpRequest, **_: str) -> HttpResponse | FileResponse:
    """The one page that the screens live in, for whoever signs in nowhere: it leaves no cookie."""
    file = settings.WEB / "index.html"
    if not file.exists():
        return HttpResponse(
            tr("The screens have not been built yet: stop this server and run ./start."),
            status=503,
            content_type="text/plain; charset=utf-8",
        )
    response = FileResponse(file.open("rb"), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


screen = ensure_csrf_cookie(page)


def unknown_address(request: HttpRequest) -> HttpResponse:
    """An address for calls that nothing answers."""
    return respond(
        Refusal(
            404,
            "no-such-address",
            tr("There is nothing at this address."),
            tr("See /api/v1/openapi.json."),
        )
    )


def embedded(request: HttpRequest, key: str) -> HttpResponse | FileResponse:
    """Return the page with leave to embed it on the origins of its link, or on none."""
    response = page(request)
    link = FormLink.objects.filter(key=key).first()
    origins = entry_of(link).origins if link else []
    if origins:
        response._csp_replace = {"frame-ancestors": origins}  # type: ignore[union-attr]
        response.xframe_options_exempt = True  # type: ignore[union-attr]
    return response


handler500 = failed
urlpatterns = [
    path("api/v1/", api.urls),
    path("service/v1/", service_api.urls),
    path("stand-in/<int:target_id>", receive),
    re_path(r"^(?:api|service|stand-in)/", unknown_address),
    path("embed/<str:key>", embedded),
    path("fill/<str:key>", page),
    re_path(r"^(?!assets/)", screen),
]
