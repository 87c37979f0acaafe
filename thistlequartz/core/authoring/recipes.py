"""Recipes: what people build again and again, made of ordinary rules by naming the fields."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from thistlequartz.core.documents import MAX_LABEL
from thistlequartz.core.language import Problem, tree, write_formula
from thistlequartz.core.ruleset import (
    CrossFieldRule,
    Field,
    Form,
    GroupRule,
    MandatoryRule,
    OpenRule,
    Rule,
    WaitRule,
)
from thistlequartz.core.translation import listed, tr

from .keys import drawn_key

Answers = Mapping[str, tuple[str, ...]]
_TEXT = ("text",)
_DATE = ("date", "date_time")
_CHOICES = ("choice", "choices")
LINK = 3
"""Names in one link of a chain."""
_HARD = {"entry": "none", "save": "warn", "submit": "block"}
_Made = tuple[type[Rule], dict[str, Any]]
"""The kind of a rule, and its parts."""


class RecipeError(ValueError):
    """What is wrong with the answers, by slot."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(problem.message for problem in problems))
        self.problems = problems


@dataclass(frozen=True, slots=True)
class RecipeSlot:
    """A place in a recipe: fields of a type, or one of a field's choices."""

    key: str
    label: str
    types: tuple[str, ...] = ()
    """The types of field it takes; none named: any."""
    many: bool = False
    choice_of: str | None = None
    """The slot whose field the choice belongs to, where a choice is asked and no field."""
    links: bool = False
    """Whether it takes links of a chain, one after the other: a field, one of its answers, and the
    field that this answer opens.
    """


@dataclass(frozen=True, slots=True)
class Recipe:
    """What is named, and the rules that come of it."""

    key: str
    name: str
    says: str
    slots: tuple[RecipeSlot, ...]
    make: Callable[[Answers, Mapping[str, Field]], list[_Made]]


def recipe_rules(recipe: Recipe, answers: Answers, form: Form) -> tuple[Rule, ...]:
    """The rules of `recipe` for `form`, with keys that are free. Raises RecipeError."""
    fields = {field.key: field for field in form.fields}
    problems = [
        Problem(message, remedy, slot.key)
        for slot in recipe.slots
        for message, remedy in _faults(slot, answers, fields)
    ]
    if problems:
        raise RecipeError(problems)
    taken = {rule.key for rule in form.rules}
    rules = []
    for document, parts in recipe.make(answers, fields):
        name = parts["name"][:MAX_LABEL]
        key = drawn_key(name, taken, "rule")
        taken.add(key)
        rules.append(document(**{**parts, "key": key, "name": name}))
    return tuple(rules)


def _faults(
    slot: RecipeSlot, answers: Answers, fields: Mapping[str, Field]
) -> list[tuple[str, str]]:
    given = answers.get(slot.key, ())
    if slot.links:
        return _link_faults(given, fields)
    if slot.choice_of:
        owner = fields.get(next(iter(answers.get(slot.choice_of, ())), ""))
        if len(given) == 1 and given[0] in _answers_of(owner):
            return []
        return [
            (
                tr("{label} is not chosen yet.", label=slot.label),
                tr("Choose one of the answers of that field."),
            )
        ]
    fewest = 2 if slot.many and slot.key != "later" else 1
    if len(given) < fewest or (not slot.many and len(given) > 1):
        wanted = tr("at least two fields") if fewest == 2 else "a field"
        return [
            (tr("{label} is not named yet.", label=slot.label), tr("Name {wanted}.", wanted=wanted))
        ]
    if len(set(given)) < len(given):
        return [(tr("A field stands here twice."), tr("Name each field once."))]
    faults = []
    for key in given:
        field = fields.get(key)
        if field is None:
            faults.append(
                (tr("There is no field “{key}” in this form.", key=key), tr("Choose another one."))
            )
        elif slot.types and field.type not in slot.types:
            faults.append(
                (tr("{label} is of another type.", label=field.label), tr("Choose another field."))
            )
    return faults


def _answers_of(field: Field | None) -> tuple[str, ...]:
    answers = field.value_type("UTC").answers() if field is not None else None
    return tuple(code for code, _ in answers or ())


def _link_faults(given: tuple[str, ...], fields: Mapping[str, Field]) -> list[tuple[str, str]]:
    if not given or len(given) % LINK:
        return [
            (tr("A link is not whole yet."), tr("Name its field, the answer, and what that opens."))
        ]
    faults: list[tuple[str, str]] = []
    opened: set[str] = set()
    for number, (governor, code, key) in enumerate(_links(given), 1):
        if code not in _answers_of(fields.get(governor)):
            faults.append(
                (
                    tr("Link {number} has no answer yet.", number=number),
                    tr("Choose one of that field."),
                )
            )
        if key not in fields:
            faults.append(
                (
                    tr("Link {number} opens no field yet.", number=number),
                    tr("Choose the field it opens."),
                )
            )
        elif key == governor:
            said = tr(
                "In link {number} {label} opens itself.", number=number, label=fields[key].label
            )
            faults.append((said, tr("Choose another field.")))
        elif key in opened:
            said = tr("{label} is opened by two links.", label=fields[key].label)
            faults.append((said, tr("Write a rule that says “either … or …” for it.")))
        opened.add(key)
    return faults


def _demand(key: str, label: str, when: tree.Node) -> _Made:
    return MandatoryRule, {
        "name": tr("{label} is given where it is asked", label=label),
        "targets": [key],
        "when": write_formula(when),
        "severity": _HARD,
    }


def _ask(key: str, label: str, when: tree.Node) -> _Made:
    return OpenRule, {
        "name": tr("{label} is asked where it matters", label=label),
        "targets": [key],
        "when": write_formula(when),
    }


def _chosen(field: Field, code: str) -> tree.Node:
    type_ = field.value_type("UTC")
    if type_.kind == "boolean":
        return tree.Comparison("=", tree.Field(field.key), tree.Boolean(code == "true"))
    if type_.holds_several:
        return tree.Membership(tree.Text(code), (tree.Field(field.key),))
    return tree.Comparison("=", tree.Field(field.key), tree.Text(code))


def _other_text(answers: Answers, fields: Mapping[str, Field]) -> list[_Made]:
    (governor,), (code,), (text,) = answers["choice"], answers["other"], answers["text"]
    when, label = _chosen(fields[governor], code), fields[text].label
    return [_ask(text, label, when), _demand(text, label, when)]


def _chain(answers: Answers, fields: Mapping[str, Field]) -> list[_Made]:
    made = []
    for governor, code, key in _links(answers["links"]):
        when, label = _chosen(fields[governor], code), fields[key].label
        made += [_ask(key, label, when), _demand(key, label, when)]
    return made


def _links(given: tuple[str, ...]) -> list[tuple[str, ...]]:
    return [given[at : at + LINK] for at in range(0, len(given), LINK)]


def _dates_in_order(answers: Answers, fields: Mapping[str, Field]) -> list[_Made]:
    return [
        (
            CrossFieldRule,
            {
                "name": tr(
                    "{later} not before {earlier}",
                    later=fields[later].label,
                    earlier=fields[earlier].label,
                ),
                "targets": [later],
                "must": f"{later} >= {earlier}",
                "severity": {"entry": "warn", "save": "warn", "submit": "block"},
            },
        )
        for earlier, later in pairwise(answers["dates"])
    ]


def _required_together(answers: Answers, fields: Mapping[str, Field]) -> list[_Made]:
    labels = listed(fields[key].label for key in answers["fields"])
    parts = {
        "quantity": "all_or_none",
        "name": tr("{labels} together", labels=labels),
        "targets": list(answers["fields"]),
        "severity": _HARD,
    }
    return [(GroupRule, parts)]


def _first_things_first(answers: Answers, fields: Mapping[str, Field]) -> list[_Made]:
    (first,) = answers["first"]
    parts = {
        "name": tr("{label} comes first", label=fields[first].label),
        "targets": list(answers["later"]),
        "until": f"{first} != null",
    }
    return [(WaitRule, parts)]


RECIPES = {
    recipe.key: recipe
    for recipe in (
        Recipe(
            "other_text",
            tr("The “other” text"),
            tr("Choosing “other” opens a text, which is then needed."),
            (
                RecipeSlot("choice", tr("The field with the choices"), _CHOICES),
                RecipeSlot("other", tr("The choice that opens the text"), choice_of="choice"),
                RecipeSlot("text", tr("The text it opens"), _TEXT),
            ),
            _other_text,
        ),
        Recipe(
            "chain",
            tr("A chain of questions"),
            tr(
                "An answer opens a second question, whose answers each open a field of their "
                "own; any number of links. What is opened is required."
            ),
            (RecipeSlot("links", tr("The links"), links=True),),
            _chain,
        ),
        Recipe(
            "dates_in_order",
            tr("Dates in order"),
            tr("None of several dates lies before the one named ahead of it."),
            (RecipeSlot("dates", tr("The dates, earliest first"), _DATE, many=True),),
            _dates_in_order,
        ),
        Recipe(
            "required_together",
            tr("Required together"),
            tr("Either all of several fields are filled in, or none of them."),
            (RecipeSlot("fields", tr("The fields"), many=True),),
            _required_together,
        ),
        Recipe(
            "first_things_first",
            tr("First things first"),
            tr("Later fields wait until a first one is filled in."),
            (
                RecipeSlot("first", tr("The field that comes first")),
                RecipeSlot("later", tr("The fields that wait"), many=True),
            ),
            _first_things_first,
        ),
    )
}
"""By key. Tiers have a table of their own beside these."""
