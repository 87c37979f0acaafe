"""What can be done to the rules of a draft. Each act is one transaction, checked and logged."""

from collections.abc import Mapping, Sequence
from contextlib import suppress
from typing import Any

from pydantic import TypeAdapter, ValidationError

from thistlequartz.core.authoring import (
    RecipeError,
    Tiers,
    drawn_key,
    names_in,
    recipe_rules,
    renamed,
    tiers_rules,
)
from thistlequartz.core.authoring.recipes import Answers, Recipe
from thistlequartz.core.judging import CompiledForm, problems_in
from thistlequartz.core.language import (
    ClauseGroup,
    FormulaError,
    Problem,
)
from thistlequartz.core.ruleset import Rule, called, lower_rule
from thistlequartz.core.translation import tr
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import ProblemItem, Refusal, item

from .draft_edits import DraftEdit, changing, key_taken
from .draft_parts import DraftPart
from .drafts import compiled_draft, form_document
from .models import DraftRule
from .services import refuse_other_order
from .views import formula_of

Clauses = Mapping[str, ClauseGroup]
"""By the name of the formula that they take the place of: when, must, no_other, until."""
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)


def with_clauses(rule: Rule, clauses: Clauses, form: CompiledForm) -> Rule:
    """`rule` with the builder's clauses written as its formulas. Raises FormulaError."""
    problems: list[Problem] = []
    formulas: dict[str, str] = {}
    for place, group in clauses.items():
        try:
            formulas[place] = formula_of(group, form.language.vocabulary)
        except FormulaError as error:
            problems.extend(problem.inside(f"clauses.{place}") for problem in error.problems)
    if problems:
        raise FormulaError(problems)
    return rule.model_copy(update=formulas)


def create_rule(
    person: Person,
    form_key: str,
    rule: Rule,
    *,
    clauses: Clauses | None = None,
    unfinished: bool = False,
    draw_key: bool = False,
    position: int | None = None,
) -> DraftRule:
    """Add a rule at the end, or at `position`; with `draw_key` its key comes from its name.

    A rule that cannot work yet is kept only where it is said to be `unfinished`.
    """
    with changing(person, form_key) as change:
        compiled = compiled_draft(change.draft)
        rule = _written(rule, clauses or {}, compiled, unfinished=unfinished)
        taken = {existing.key for existing in compiled.form.rules}
        if draw_key:
            name = name_of(rule, compiled)
            rule = rule.model_copy(update={"key": drawn_key(name, taken, "rule")})
        elif rule.key in taken:
            raise key_taken("rule", rule.key)
        return _put(change, "add rule", rule, compiled, position)


def change_rule(
    person: Person,
    form_key: str,
    rule_key: str,
    rule: Rule,
    revision: int,
    *,
    clauses: Clauses | None = None,
    unfinished: bool = False,
) -> DraftRule:
    """Replace a rule, unless somebody else has changed it since `version`."""
    with changing(person, form_key) as change:
        row: DraftRule = change.row("rule", rule_key, revision)
        compiled = compiled_draft(change.draft)
        rule = rule.model_copy(update={"key": rule_key})
        rule = _written(rule, clauses or {}, compiled, rule_key, unfinished=unfinished)
        return _put(change, "change rule", rule, compiled) or row


def adjust_rules(
    person: Person, form_key: str, adjustments: Sequence[tuple[str, int, Mapping[str, Any]]]
) -> list[DraftRule]:
    """Change severities, holds or switches of rules by key and version; the rest stays."""
    with changing(person, form_key) as change:
        names = names_of(compiled_draft(change.draft))
        changed = []
        for key, revision, changes in adjustments:
            row: DraftRule = change.row("rule", key, revision)
            document = dict(row.document)
            for name, value in changes.items():
                if name not in document:
                    continue  # effects have no severity
                document[name] = {**document[name], **value} if isinstance(value, dict) else value
            part = DraftPart("rule", key)
            stored = change.put("change rule", part, document, names[key])
            changed.append(stored or row)
        return changed  # type: ignore[return-value]


def remove_rules(person: Person, form_key: str, revisions: Mapping[str, int]) -> None:
    """Take rules out of the draft; the log keeps them."""
    with changing(person, form_key) as change:
        names = names_of(compiled_draft(change.draft))
        for key, revision in revisions.items():
            change.row("rule", key, revision)
            change.put("remove rule", DraftPart("rule", key), None, names[key])


def order_rules(person: Person, form_key: str, keys: list[str]) -> None:
    """Put the rules in another order; `keys` name every one of them once."""
    with changing(person, form_key) as change:
        there = change.draft.rule_rows.values_list("key", flat=True)
        if sorted(keys) != sorted(there):
            raise refuse_other_order("rule")
        change.put("order rules", DraftPart("rule order"), keys, change.draft.name)


def add_from_recipe(
    person: Person, form_key: str, recipe: Recipe, answers: Answers
) -> list[DraftRule]:
    """Add the rules of a recipe, all at once."""
    with changing(person, form_key) as change:
        compiled = compiled_draft(change.draft)
        try:
            rules = recipe_rules(recipe, answers, compiled.form)
        except RecipeError as error:
            raise Refusal(
                422,
                "recipe-incomplete",
                tr("Something in the recipe is still to be named."),
                tr("Correct the places named below; no rule has been added."),
                [item(problem) for problem in error.problems],
            ) from None
        for rule in rules:
            _written(rule, {}, compiled, rule.key)
        return [_put(change, "add rule", rule, compiled) for rule in rules]


def store_tiers(
    person: Person, form_key: str, tiers: Tiers, replaced: Mapping[str, int]
) -> list[DraftRule]:
    """Put the rules of a table in the place of those it `replaced`, all at once."""
    with changing(person, form_key) as change:
        for key, revision in replaced.items():
            change.row("rule", key, revision)
        form = form_document(change.draft)
        compiled = compiled_draft(change.draft)
        try:
            rules = tiers_rules(tiers, compiled.fields, form, tuple(replaced))
        except FormulaError as error:
            raise rule_refused(error.problems) from None
        names = names_of(compiled)
        stored = []
        for rule in rules:
            _written(rule, {}, compiled, rule.key)
            act = "change rule" if rule.key in replaced else "add rule"
            stored.append(_put(change, act, rule, compiled))
        for key in replaced.keys() - {rule.key for rule in rules}:
            change.put("remove rule", DraftPart("rule", key), None, names[key])
        return stored


def rule_for(rule: Rule, names: Mapping[str, str], form: CompiledForm) -> tuple[Rule, list[str]]:
    """`rule` with its fields as `form` calls them, and the names that are still to be matched."""
    known = form.language.vocabulary
    missing = [key for key in names_in(rule) if names.get(key, key) not in known]
    layouts = {layout.key for layout in form.form.layouts}
    scope = rule.scope.model_copy(
        update={"layouts": tuple(key for key in rule.scope.layouts if key in layouts)}
    )
    return renamed(rule, names).model_copy(update={"scope": scope}), missing


def rule_refused(problems: Sequence[Problem]) -> Refusal:
    """The answer to a rule that cannot be used as written."""
    return Refusal(
        422,
        "rule-unusable",
        tr("This rule cannot be used as it is written."),
        tr(
            "Correct the places named below, or keep it unfinished; the draft has not been changed."
        ),
        [item(problem) for problem in problems],
    )


def _written(
    rule: Rule,
    clauses: Clauses,
    form: CompiledForm,
    replaces: str | None = None,
    *,
    unfinished: bool = False,
) -> Rule:
    try:
        rule = with_clauses(rule, clauses, form)
    except FormulaError as error:
        raise rule_refused(error.problems) from None
    try:
        # Formulas that clauses were written as have passed no check of shape yet.
        rule = _RULE.validate_python(rule.model_dump())
    except ValidationError as error:
        errors = [
            ProblemItem(place=".".join(map(str, one["loc"][1:])), message=one["msg"])
            for one in error.errors()
        ]
        title = tr("This rule cannot be stored as it is written.")
        raise Refusal(
            422, "rule-unusable", title, tr("Correct it; nothing is lost."), errors
        ) from None
    found = () if unfinished else problems_in(form, rule, replaces)
    if found:
        raise rule_refused(found)
    return rule


def names_of(form: CompiledForm) -> dict[str, str]:
    """What the rules of a form are called, by key."""
    return {rule.key: rule.name for rule in form.form.rules}


def name_of(rule: Rule, form: CompiledForm) -> str:
    """What a rule of `form` is called: where nobody named it, by its sentence as it is now."""
    lowered = None
    if not rule.name:
        with suppress(FormulaError):
            lowered = lower_rule(rule, form.language)
    return called(rule, lowered, form.language.vocabulary, form.layouts)


def _put(
    change: DraftEdit, act: str, rule: Rule, form: CompiledForm, position: int | None = None
) -> DraftRule:
    document = rule.model_dump(mode="json")
    row = change.put(act, DraftPart("rule", rule.key), document, name_of(rule, form), position)
    if row is None:
        row = change.draft.rule_rows.get(key=rule.key)
    assert isinstance(row, DraftRule)
    return row
