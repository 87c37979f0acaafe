"""Whole forms: with the fields and rules they are derived from, and shared choices."""

from collections.abc import Mapping

from thistlequartz.core.language import Problem, nearest
from thistlequartz.core.translation import tr

from .document import Form, RuleSet
from .fields import ChoiceOption, ChoosingField, Field

NO_CHOICES = (ChoiceOption(code="none", label=tr("(no choices)")),)
"""What stands in for a shared list that is missing."""


def whole_form(ruleset: RuleSet, key: str) -> tuple[Form, tuple[Problem, ...]]:
    """The form with what it takes from the rest of `ruleset`, and what is missing there.

    Raises KeyError where there is no such form.
    """
    forms = {form.key: form for form in ruleset.forms}
    problems: list[Problem] = []
    form = _with_bases(forms[key], forms, problems)
    lists = {one.key: one.choices for one in ruleset.choice_lists}
    fields = tuple(_with_choices(field, lists, problems) for field in form.fields)
    for field in form.fields:
        other = field.value_type(form.zone).referred_form
        if other is not None and other not in forms:
            problems.append(_missing("form", other, forms, f"fields.{field.key}.form"))
    if fields != form.fields:
        form = form.model_copy(update={"fields": fields})
    return form, tuple(problems)


def _missing(what: str, key: str, known: Mapping[str, object], place: str) -> Problem:
    near = nearest(key, known)
    remedy = (
        tr("Did you mean “{near}”?", near=near)
        if near
        else tr("Add it to the RuleSet, or name a {what} of it.", what=what)
    )
    return Problem(
        tr("There is no {what} “{key}” in this RuleSet.", what=what, key=key), remedy, place
    )


def _with_bases(form: Form, forms: Mapping[str, Form], problems: list[Problem]) -> Form:
    seen, whole, base_key = {form.key}, form, form.derived_from
    while base_key is not None:
        if base_key not in forms:
            problems.append(_missing("form", base_key, forms, "derived_from"))
            break
        if base_key in seen:
            said = tr(
                "“{key}” would be derived from itself, by way of “{base_key}”.",
                key=form.key,
                base_key=base_key,
            )
            problems.append(
                Problem(said, tr("Cut the circle at one of the forms."), "derived_from")
            )
            break
        seen.add(base_key)
        whole = _on_top_of(forms[base_key], whole)
        base_key = forms[base_key].derived_from
    return whole


def _on_top_of(base: Form, form: Form) -> Form:
    """Parts of the base come first; where both have a part of one key, the form's own counts."""

    def joined(name: str) -> tuple[object, ...]:
        own = getattr(form, name)
        kept = {part.key for part in own}
        return (*(part for part in getattr(base, name) if part.key not in kept), *own)

    own_rules = {rule.key for rule in form.rules}
    shared = (r for r in base.rules if r.scope.derived_forms and r.key not in own_rules)
    parts = ("sections", "layouts", "compounds", "fields", "conditions")
    changes: dict[str, object] = {name: joined(name) for name in parts}
    return form.model_copy(update={**changes, "rules": (*shared, *form.rules)})


def _with_choices(
    field: Field, lists: Mapping[str, tuple[ChoiceOption, ...]], problems: list[Problem]
) -> Field:
    if not isinstance(field, ChoosingField) or field.choice_list is None:
        return field
    if field.choice_list not in lists:
        place = f"fields.{field.key}.choice_list"
        problems.append(_missing(tr("list of choices"), field.choice_list, lists, place))
        return field if field.choices else field.model_copy(update={"choices": NO_CHOICES})
    return field.model_copy(update={"choices": lists[field.choice_list]})
