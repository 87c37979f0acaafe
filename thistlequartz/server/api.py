"""The API: one router for each noun."""

from ninja.security import SessionAuth

from . import problems
from .accounts.api import router as accounts
from .approvals.api import router as approvals
from .bench.api import router as bench
from .bench.cases_api import router as cases
from .desk.api import router as desk
from .findings.api import router as findings
from .forms.api import router as forms
from .impact.api import router as impact
from .imports.api import router as imports
from .jobs.api import router as jobs
from .links.api import router as links
from .messages.api import router as messages
from .openapi import Api
from .people.api import router as people
from .records.api import router as records
from .releases.api import router as releases
from .service.tokens_api import router as tokens
from .watch.api import router as watch
from .webhooks.api import router as webhooks

api = Api(
    title="Thistlequartz",
    version="1",
    description="Forms, their rules, and what they do to records.",
    auth=SessionAuth(),
    parser=problems.StrictParser(),
    docs_url=None,
    openapi_url="/openapi.json",
)
problems.install(api)
api.add_router("", people, tags=["people"])
api.add_router("", accounts, tags=["people"])
api.add_router("", forms, tags=["forms"])
api.add_router("", releases, tags=["releases"])
api.add_router("", bench, tags=["bench"])
api.add_router("", cases, tags=["cases"])
api.add_router("", findings, tags=["findings"])
api.add_router("", desk, tags=["desk"])
api.add_router("", records, tags=["records"])
api.add_router("", approvals, tags=["records"])
api.add_router("", impact, tags=["records"])
api.add_router("", messages, tags=["messages"])
api.add_router("", imports, tags=["imports"])
api.add_router("", links, tags=["links"])
api.add_router("", tokens, tags=["tokens"])
api.add_router("", webhooks, tags=["webhooks"])
api.add_router("", watch, tags=["watch"])
api.add_router("", jobs, tags=["jobs"])
