"""Errors of a form outside its rules: names that point to nothing, values that fail."""

from collections.abc import Iterable, Iterator

from thistlequartz.core.language import Problem, nearest
from thistlequartz.core.ruleset import Form, Language, part_of
from thistlequartz.core.translation import tr
from thistlequartz.core.types import read_written
from thistlequartz.core.values import Fault


def structural_problems(form: Form, language: Language) -> tuple[Problem, ...]:
    """Every such problem with its place."""
    return (
        *_unknown_parts(form),
        *_unfilled_helpers(form),
        *_compounds(form, language),
        *_starters(form, language),
    )


def _unknown(what: str, key: str, known: Iterable[str], place: str) -> Problem:
    near = nearest(key, known)
    remedy = (
        tr("Did you mean “{near}”?", near=near)
        if near
        else tr("Add the {what}, or name another.", what=what)
    )
    return Problem(
        tr("There is no {what} “{key}” in this form.", what=what, key=key), remedy, place
    )


def _unknown_parts(form: Form) -> Iterator[Problem]:
    sections = {section.key for section in form.sections}
    layouts = {layout.key for layout in form.layouts}
    for field in form.fields:
        if field.section is not None and field.section not in sections:
            yield _unknown("section", field.section, sections, f"fields.{field.key}.section")
        for key in field.layouts:
            if key not in layouts:
                yield _unknown("layout", key, layouts, f"fields.{field.key}.layouts")
    for rule in form.rules:
        for key in rule.scope.layouts:
            if key not in layouts:
                yield _unknown("layout", key, layouts, f"rules.{rule.key}.scope.layouts")


def _unfilled_helpers(form: Form) -> Iterator[Problem]:
    derived = {key for rule in form.rules if part_of(rule) == "deriving" for key in rule.targets}
    for field in form.fields:
        if field.helper and field.key not in derived:
            yield Problem(
                tr("{label} is a helper, but nothing fills it.", label=field.label),
                tr("Add a rule that derives it, or show the field."),
                f"fields.{field.key}.helper",
            )


def _compounds(form: Form, language: Language) -> Iterator[Problem]:
    for compound in form.compounds:
        for key in compound.parts:
            if key not in language.fields:
                place = f"compounds.{compound.key}.parts"
                yield _unknown("field", key, language.fields, place)


def _starters(form: Form, language: Language) -> Iterator[Problem]:
    for starter in form.starters:
        for key, text in starter.values.items():
            place = f"starters.{starter.key}.values.{key}"
            if key not in language.fields:
                yield _unknown("field", key, language.fields, place)
                continue
            declared = language.fields[key]
            read = read_written(text, declared.type, declared.settings)
            if isinstance(read, Fault):
                yield Problem(read.message, tr("Correct the value of this starter."), place)
