"""Help in writing: formats, functions, recipes, tiers, and a form proposed from a file."""

from datetime import date
from typing import Annotated, Any, cast

from django.http import HttpRequest
from ninja import Query, Router, Status
from pydantic import BaseModel, ConfigDict
from pydantic import Field as Setting

from thistlequartz.core.authoring import (
    RECIPES,
    Profile,
    ProfileError,
    RecipeError,
    RecipeSlot,
    Tiers,
    profile,
    recipe_rules,
    tiers_in,
)
from thistlequartz.core.formats import COUNTRIES, NAMED_FORMATS
from thistlequartz.core.functions import FUNCTIONS
from thistlequartz.core.language import Segment
from thistlequartz.core.translation import tr
from thistlequartz.core.types import DateType, read_value, show_value
from thistlequartz.core.values import Fault
from thistlequartz.server.forms import rule_changes
from thistlequartz.server.forms.drafts import compiled_draft, form_document, get_draft
from thistlequartz.server.forms.shapes import FormatCountry, FormatView, RuleVersion
from thistlequartz.server.forms.views import read_rule
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemItem, Refusal, item

router = Router()


class FunctionView(BaseModel):
    """A function that formulas can call."""

    name: str
    ways: list[str]
    """Each way of calling it, with the names of what it takes."""
    result: str
    says: str
    example: str
    """A condition with it that is true."""


class RecipeView(BaseModel):
    """A recipe, and what is to be named in it."""

    key: str
    name: str
    says: str
    slots: list[RecipeSlot]


class RecipeAnswers(BaseModel):
    """What was named, by slot."""

    model_config = ConfigDict(extra="forbid")
    answers: dict[str, list[str]]


class RecipeReading(BaseModel):
    """The rules that would come of a recipe, and what is still to be named."""

    sentences: list[list[Segment]]
    problems: list[ProblemItem]


class TiersView(BaseModel):
    """A table of tiers, and the rules it stands for."""

    tiers: Tiers
    rules: list[str]
    findings: list[str]
    """What does not meet in them: gaps, and amounts that fall in two."""


class StoredTiers(BaseModel):
    """A table to be stored in the place of the rules it was made from."""

    model_config = ConfigDict(extra="forbid")
    tiers: Tiers
    replaced: list[RuleVersion] = []


class FileText(BaseModel):
    """The text of a CSV file."""

    model_config = ConfigDict(extra="forbid")
    text: Annotated[str, Setting(max_length=1_000_000)]


@router.get("/formats", response=list[FormatView])
def list_formats(request: HttpRequest) -> list[FormatView]:
    """The named formats, with their standards and examples."""
    person_with(request, Right.READ)
    return [
        FormatView(
            key=named.key,
            label=named.label,
            standard=named.standard,
            example=named.example,
            needs_country=named.needs_country,
            countries=[
                FormatCountry(code=code, name=COUNTRIES[code], example=example)
                for code, example in named.examples().items()
            ],
        )
        for named in NAMED_FORMATS.values()
    ]


@router.get("/functions", response=list[FunctionView])
def list_functions(request: HttpRequest) -> list[FunctionView]:
    """The functions that formulas can call."""
    person_with(request, Right.READ)
    return [
        FunctionView(
            name=one.name,
            ways=[
                f"{one.name}({', '.join(_parameter(parameter) for parameter in way)})"
                for way in one.ways
            ],
            result=one.result,
            says=one.says,
            example=one.example,
        )
        for one in FUNCTIONS.values()
    ]


def _parameter(parameter: Any) -> str:
    name = f"[{parameter.name}]" if parameter.optional else parameter.name
    return f"{name}, …" if parameter.repeated else str(name)


@router.get("/recipes", response=list[RecipeView])
def list_recipes(request: HttpRequest) -> list[RecipeView]:
    """What people build again and again."""
    person_with(request, Right.READ)
    return [
        RecipeView(key=one.key, name=one.name, says=one.says, slots=list(one.slots))
        for one in RECIPES.values()
    ]


def _recipe(key: str) -> Any:
    if key not in RECIPES:
        raise Refusal(
            404, "no-recipe", tr("There is no such recipe."), tr("Choose one of the list.")
        )
    return RECIPES[key]


def _answers(body: RecipeAnswers) -> dict[str, tuple[str, ...]]:
    return {slot: tuple(given) for slot, given in body.answers.items()}


@router.post("/forms/{form_key}/recipes/{recipe_key}/read", response={200: RecipeReading})
def read_recipe(
    request: HttpRequest, form_key: str, recipe_key: str, body: RecipeAnswers
) -> RecipeReading:
    """The rules that would come of a recipe. Stores nothing."""
    person_with(request, Right.EDIT_DRAFT)
    compiled = compiled_draft(get_draft(form_key))
    try:
        rules = recipe_rules(_recipe(recipe_key), _answers(body), compiled.form)
    except RecipeError as error:
        return RecipeReading(sentences=[], problems=[item(one) for one in error.problems])
    readings = [read_rule(rule, compiled) for rule in rules]
    return RecipeReading(
        sentences=[reading.sentence for reading in readings],
        problems=[problem for reading in readings for problem in reading.problems],
    )


@router.post("/forms/{form_key}/recipes/{recipe_key}", response={201: list[str]})
def use_recipe(
    request: HttpRequest, form_key: str, recipe_key: str, body: RecipeAnswers
) -> Status[list[str]]:
    """Add the rules of a recipe; their keys."""
    person = person_with(request, Right.EDIT_DRAFT)
    rows = rule_changes.add_from_recipe(person, form_key, _recipe(recipe_key), _answers(body))
    return Status(201, [row.key for row in rows])


@router.get("/forms/{form_key}/tiers", response={200: list[TiersView]})
def list_tiers(request: HttpRequest, form_key: str) -> list[TiersView]:
    """The tables that the form's proposals make."""
    person_with(request, Right.READ)
    found = tiers_in(form_document(get_draft(form_key)).rules)
    return [
        TiersView(tiers=one.tiers, rules=list(one.rules), findings=list(one.findings))
        for one in found
    ]


@router.put("/forms/{form_key}/tiers", response={200: list[str]})
def store_tiers(request: HttpRequest, form_key: str, body: StoredTiers) -> list[str]:
    """Store a table as rules; their keys."""
    person = person_with(request, Right.EDIT_DRAFT)
    replaced = {one.key: one.revision for one in body.replaced}
    rows = rule_changes.store_tiers(person, form_key, body.tiers, replaced)
    return [row.key for row in rows]


class DateReading(BaseModel):
    """A day as somebody wrote it: as it is stored and as it is shown, or why it cannot be read."""

    day: date | None
    words: str
    fault: str


@router.get("/days", response=DateReading)
def read_day(request: HttpRequest, written: Annotated[str, Query(max_length=100)]) -> DateReading:
    """Read a day as people write it, such as “1 December 2026”."""
    person_with(request, Right.READ)
    read = read_value(written, DateType())
    if isinstance(read, Fault):
        return DateReading(day=None, words="", fault=read.message)
    day = cast("date | None", read)
    return DateReading(day=day, words="" if day is None else show_value(day), fault="")


@router.post("/profiles", response={200: Profile})
def profile_file(request: HttpRequest, body: FileText) -> Profile:
    """The fields and rules that a CSV file suggests. Stores nothing."""
    person_with(request, Right.EDIT_DRAFT)
    try:
        return profile(body.text)
    except ProfileError as error:
        raise Refusal(422, "file-unreadable", tr("This file cannot be read."), str(error)) from None
