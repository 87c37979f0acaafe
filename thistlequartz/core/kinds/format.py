"""How a text is written."""

from typing import Annotated, Literal

from pydantic import StringConstraints

from thistlequartz.core.documents import Clean, Line
from thistlequartz.core.formats import (
    NAMED_FORMATS,
    PatternError,
    can_match,
    compile_pattern,
)
from thistlequartz.core.language import Problem, nearest, tree
from thistlequartz.core.translation import tr
from thistlequartz.core.types import TextType

from .base.common import CheckBase
from .base.formulas import FormulaReader
from .base.kind import CheckKind, as_it_is, no_formulas, no_mutations, no_names, no_placeholders
from .base.phrases import each_check, told_of_must
from .base.targets import of_each_target, place_of_target


class FormatRule(CheckBase):
    """Each target must be written in a named format, or fit a pattern from end to end."""

    kind: Literal["format"] = "format"
    format: Line | None = None
    country: Annotated[str, StringConstraints(pattern="^[A-Z]{2}$")] | None = None
    pattern: Annotated[str, StringConstraints(max_length=1_000), Clean] | None = None
    described: Line = ""
    """The pattern in plain words, as they follow “must be”: “exactly ten digits”."""


def _written(rule: FormatRule, target: tree.Field, reader: FormulaReader) -> tree.Node | None:
    declared = reader.language.vocabulary[target.key]
    found: Problem | None
    if not isinstance(declared.type, TextType):
        found = Problem(
            tr("{label} is not a text, so it cannot have a format.", label=declared.label),
            tr("Choose a text field, or say a range."),
            place_of_target(rule, target),
        )
    elif rule.pattern is not None:
        found = _pattern_problem(rule.pattern)
        if not found:
            return tree.MatchesPattern(target, rule.pattern, rule.described)
    else:
        found = _named_problem(rule)
        if not found and rule.format:
            return tree.MatchesFormat(target, rule.format, rule.country)
    if found:
        reader.problems.append(found)
    return None


def _pattern_problem(pattern: str) -> Problem | None:
    if not pattern:
        said = tr("The pattern is empty.")
        return Problem(said, tr("Write one, such as [0-9]{10}."), "pattern", unsaid=True)
    try:
        compile_pattern(pattern)
    except PatternError as error:
        remedy = tr(
            "Correct it. Looking ahead or back, and repeating what was found, cannot be had."
        )
        return Problem(str(error), remedy, "pattern")
    if not can_match(pattern):
        said = tr("No text can ever fit this pattern.")
        remedy = tr("Look for a “^” or “$” in its midst, or a class that leaves no character.")
        return Problem(said, remedy, "pattern")
    return None


def _named_problem(rule: FormatRule) -> Problem | None:
    if not rule.format:
        said = tr("No format is chosen.")
        return Problem(said, tr("Choose one, or write a pattern."), "format", unsaid=True)
    named = NAMED_FORMATS.get(rule.format)
    if named is None:
        near = nearest(rule.format, NAMED_FORMATS)
        remedy = (
            tr("Did you mean “{near}”?", near=near) if near else tr("Choose one of the formats.")
        )
        return Problem(
            tr("There is no format “{format}”.", format=rule.format[:40]), remedy, "format"
        )
    if not named.needs_country:
        return None
    if rule.country is None:
        return Problem(
            tr("{label}s differ from country to country.", label=named.label.capitalize()),
            tr("Say which country, such as GB."),
            "country",
            unsaid=True,
        )
    if rule.country not in named.examples():
        said = tr(
            "The {label}s of {country} are not known here.", label=named.label, country=rule.country
        )
        return Problem(said, tr("Choose another country, or write a pattern."), "country")
    return None


KIND = CheckKind(
    document=FormatRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    musts=of_each_target(_written),
    judges_blanks=False,
    marks=False,
    agreement=False,
    hints=True,
    second_entry=False,
    other_records=False,
    claims_key=False,
    obligation=each_check(told_of_must),
    told=told_of_must,
    placeholders=no_placeholders,
    neighbour="values",
)
