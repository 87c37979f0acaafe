"""The document of a link: what it opens, until when, where, and what it says at the end."""

from datetime import date
from typing import Annotated, Final

from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import ClauseGroup, FormulaError, Problem
from thistlequartz.core.merging import merge_problems
from thistlequartz.core.translation import tr
from thistlequartz.server.forms.views import formula_of
from thistlequartz.server.web_addresses import is_web_address, origin_of

MOST_ENDINGS: Final = 20
MOST_ORIGINS: Final = 20


class LinkEnding(BaseModel):
    """What comes after submitting, where its condition is met: a text, or another page."""

    model_config = ConfigDict(extra="forbid")
    condition: Annotated[str, Field(max_length=10_000)] = ""
    """As a formula; blank: always."""
    clauses: ClauseGroup | None = None
    """What takes the place of the formula, where it is given."""
    text: Annotated[str, Field(max_length=5_000)] = ""
    next_page: Annotated[str, Field(max_length=500)] = ""


class LinkDocument(BaseModel):
    """A link to be made or changed."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=100)]
    intro: Annotated[str, Field(max_length=5_000)] = ""
    """What is said above the form."""
    layout: Annotated[str, Field(max_length=60)] = ""
    last_day: date | None = None
    most: Annotated[int, Field(ge=1, le=1_000_000)] | None = None
    """Records that are taken by it; None: any number."""
    puzzle: bool = True
    origins: Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=MOST_ORIGINS)]
    """Of the pages that may show it inside themselves."""
    endings: Annotated[list[LinkEnding], Field(max_length=MOST_ENDINGS)]
    """The first whose condition is met is shown."""


def written(entry: LinkDocument, form: CompiledForm) -> tuple[LinkDocument, list[Problem]]:
    """Return a link with formulas for clauses and normalised origins, and its problems."""
    problems: list[Problem] = []
    if not entry.name.strip():
        problems.append(Problem(tr("It has no name."), tr("Say what it is for."), "name"))
    layouts = form.layouts
    if entry.layout and entry.layout not in layouts:
        said = tr("The form has no layout “{layout}”.", layout=entry.layout)
        problems.append(Problem(said, tr("Choose another, or none."), "layout"))
    origins = []
    for place, text in enumerate(entry.origins):
        origin = origin_of(text.strip())
        if origin is None:
            said = tr("“{text}” is no origin of pages.", text=text[:80])
            remedy = tr("Write one as https://www.example.org, without a path.")
            problems.append(Problem(said, remedy, f"origins.{place}"))
        else:
            origins.append(origin)
    endings = []
    for place, ending in enumerate(entry.endings):
        try:
            endings.append(_with_formula(ending, form))
        except FormulaError as error:
            problems += [one.inside(f"endings.{place}") for one in error.problems]
        problems += merge_problems(ending.text, f"endings.{place}.text", form.fields)
        problems += _unfit(ending, f"endings.{place}")
    return entry.model_copy(update={"origins": origins, "endings": endings}), problems


def _with_formula(ending: LinkEnding, form: CompiledForm) -> LinkEnding:
    formula = ending.condition
    if ending.clauses is not None:
        formula = formula_of(ending.clauses, form.language.vocabulary)
    if formula:
        form.condition(formula)
    return ending.model_copy(update={"condition": formula, "clauses": None})


def _unfit(ending: LinkEnding, place: str) -> list[Problem]:
    if not ending.text.strip() and not ending.next_page.strip():
        said = tr("It says nothing, and leads nowhere.")
        return [Problem(said, tr("Write a text, or the address of a page."), f"{place}.text")]
    if ending.next_page and not is_web_address(ending.next_page.strip()):
        said = tr("“{next_page}” is no address of a page.", next_page=ending.next_page[:80])
        remedy = tr("Write one as https://www.example.org/thanks.")
        return [Problem(said, remedy, f"{place}.next_page")]
    return []
