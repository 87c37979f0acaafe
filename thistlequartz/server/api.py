"""The API: one router for each noun."""

from ninja.security import SessionAuth

from . import problems
from .accounts.api import router as accounts
from .bench.api import router as bench
from .bench.cases_api import router as cases
from .doors.api import router as doors
from .findings.api import router as findings
from .forms.api import router as forms
from .jobs.api import router as jobs
from .messages.api import router as messages
from .openapi import Api
from .people.api import router as people
from .records.api import router as records
from .releases.api import router as releases
from .watch.api import router as watch

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
api.add_router("", records, tags=["records"])
api.add_router("", messages, tags=["messages"])
api.add_router("", doors, tags=["doors"])
api.add_router("", watch, tags=["watch"])
api.add_router("", jobs, tags=["jobs"])
