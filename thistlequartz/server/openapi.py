"""The API as a whole: its document names every refusal, and no call asks for the unknown."""

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest
from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.operation import Operation
from ninja.router import BoundRouter

from thistlequartz.core.language import nearest
from thistlequartz.core.translation import tr

from .problems import ProblemDetails, ProblemItem, Refusal, respond

PROBLEM = "application/problem+json"
EVERYWHERE = {
    400: "The call cannot be read.",
    401: "Nobody is signed in.",
    403: "This may not be done.",
    404: "It is not here.",
    409: "It has changed, or stands in the way of itself.",
    413: "It is more than a call may carry.",
    422: "Part of it cannot be used.",
    429: "It was tried too often.",
    503: "The database is away, or others are in the way: try again.",
}
"""What any call can be refused with, beside what it names itself. Only the document says so: as
answers of each call, they would be several hundred models to make at every start.
"""


class Api(NinjaAPI):
    """An API of which every refusal is a problem document, and its OpenAPI document says so."""

    def __init__(self, **options: Any) -> None:
        super().__init__(**options)
        self._documents: dict[str, OpenAPISchema] = {}

    def get_openapi_schema(
        self, *, path_prefix: str | None = None, path_params: dict[str, Any] | None = None
    ) -> OpenAPISchema:
        """Return the OpenAPI document, with the refusals of every call.

        Making it takes a second; it is kept.
        """
        begins = self.get_root_path(path_params or {}) if path_prefix is None else path_prefix
        if begins not in self._documents:
            self._documents[begins] = self._document(begins)
        return self._documents[begins]

    def _document(self, begins: str) -> OpenAPISchema:
        schema = super().get_openapi_schema(path_prefix=begins)
        problem = ProblemDetails.model_json_schema(ref_template="#/components/schemas/{model}")
        schema["components"]["schemas"] |= {**problem.pop("$defs"), "ProblemDetails": problem}
        content = {PROBLEM: {"schema": {"$ref": "#/components/schemas/ProblemDetails"}}}
        for path in schema["paths"].values():
            for operation in path.values():
                for code, description in EVERYWHERE.items():
                    told = operation["responses"].setdefault(code, {"description": description})
                    told["content"] = content
        return schema

    def _get_bound_routers(self) -> list[BoundRouter]:
        """The routers as they are served: every call refuses parameters that it does not know."""
        new = self._bound_routers_cache is None
        routers = super()._get_bound_routers()
        for router in routers if new else ():
            for view in router.path_operations.values():
                for operation in view.operations:
                    operation.run = _strict(operation)  # type: ignore[method-assign]
        return routers


def _strict(operation: Operation) -> Callable[..., Any]:
    known = [
        name
        for model in operation.models
        if model.__ninja_param_source__ == "query"
        for name in model.__ninja_flatten_map__
    ]
    run = operation.run

    def strictly(request: HttpRequest, **parameters: Any) -> Any:
        unknown = [name for name in request.GET if name not in known]
        return respond(_unknown(unknown, known)) if unknown else run(request, **parameters)

    return strictly


def _unknown(names: list[str], known: list[str]) -> Refusal:
    errors = []
    for name in names:
        near = nearest(name, known)
        remedy = tr("Did you mean “{near}”?", near=near) if near else tr("Remove it.")
        said = tr("Nothing of the name “{name}” can be asked here.", name=name[:60])
        errors.append(ProblemItem(place=name[:60], message=said, remedy=remedy))
    return Refusal(
        422,
        "unknown-parameters",
        tr("Part of the address is not known here."),
        tr("Remove or correct what is named below; nothing has been changed."),
        errors,
    )
