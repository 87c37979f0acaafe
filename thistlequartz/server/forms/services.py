"""What can be done to a draft. Each act is one transaction, checked first and logged."""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import cast

from django.db import transaction
from django.db.models import Manager, Max
from django.http import Http404

from thistlequartz.core.evaluation import CompiledForm
from thistlequartz.core.expression import (
    ClauseGroup,
    FormulaError,
    Problem,
    tree_from_clauses,
    write_formula,
)
from thistlequartz.core.expression.feel import key_problem
from thistlequartz.core.ruleset import Field, Form, Rule, lower_rule
from thistlequartz.server.activity.services import log
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import ProblemItem, Refusal, item

from .drafts import compile_form, form_document
from .models import DraftField, DraftForm, DraftRule


@contextmanager
def _changing(form_key: str) -> Iterator[DraftForm]:
    """A transaction on one draft, alone; its revision goes up when it succeeds."""
    with transaction.atomic():
        draft = DraftForm.objects.select_for_update().filter(key=form_key).first()
        if draft is None:
            raise Http404(form_key)
        yield draft
        draft.revision += 1
        draft.save(update_fields=["revision"])


def create_form(person: Person, name: str, purpose: str) -> DraftForm:
    """Begin a form with nothing in it; its key is drawn from its name."""
    with transaction.atomic():
        taken = set(DraftForm.objects.select_for_update().values_list("key", flat=True))
        draft = DraftForm.objects.create(
            key=_key_from(name, taken, "form"), name=name, purpose=purpose
        )
        log(person, "begin form", draft.key, name)
        return draft


def with_clauses(
    rule: Rule, when: ClauseGroup | None, must: ClauseGroup | None, form: CompiledForm
) -> Rule:
    """`rule` with the builder's clauses written as its formulas. Raises FormulaError."""
    vocabulary = form.fields
    problems: list[Problem] = []
    formulas: dict[str, str] = {}
    for place, clauses in (("when", when), ("must", must)):
        if clauses is None:
            continue
        try:
            formulas[place] = write_formula(tree_from_clauses(clauses, vocabulary))
        except FormulaError as error:
            problems.extend(problem.inside(f"{place}_clauses") for problem in error.problems)
    if problems:
        raise FormulaError(problems)
    return rule.model_copy(update=formulas)


def rule_refused(error: FormulaError) -> Refusal:
    """The answer to a rule that cannot be used as written."""
    return Refusal(
        422,
        "rule-unusable",
        "This rule cannot be used as it is written.",
        "Mend the places named here; the draft has not been changed.",
        [item(problem) for problem in error.problems],
    )


def create_rule(
    person: Person,
    form_key: str,
    rule: Rule,
    *,
    when: ClauseGroup | None = None,
    must: ClauseGroup | None = None,
    draw_key: bool = False,
    position: int | None = None,
) -> DraftRule:
    """Add a rule at the end, or at `position`; with `draw_key` its key comes from its name."""
    with _changing(form_key) as draft:
        form = form_document(draft)
        if draw_key:
            taken = {existing.key for existing in form.rules}
            rule = rule.model_copy(update={"key": _key_from(rule.name, taken, "rule")})
        rule = _usable(rule, when, must, form)
        if any(existing.key == rule.key for existing in form.rules):
            raise _key_taken("rule", rule.key)
        row = DraftRule.objects.create(
            form=draft,
            key=rule.key,
            position=_next_position(draft, DraftRule) if position is None else position,
            document=rule.model_dump(mode="json"),
            changed_by=person,
        )
        log(person, "add rule", form_key, rule.name, after=row.document)
        return row


def change_rule(
    person: Person,
    form_key: str,
    rule_key: str,
    rule: Rule,
    version: int,
    *,
    when: ClauseGroup | None = None,
    must: ClauseGroup | None = None,
) -> DraftRule:
    """Replace a rule, unless somebody else has changed it since `version`."""
    with _changing(form_key) as draft:
        row = _rule_row(draft, rule_key, version)
        rule = _usable(rule.model_copy(update={"key": rule_key}), when, must, form_document(draft))
        return _store_rule(person, form_key, row, rule.model_dump(mode="json"))


def adjust_rule(
    person: Person, form_key: str, rule_key: str, version: int, changes: dict[str, object]
) -> DraftRule:
    """Change severities or the switch of a rule, and leave the rest as it is."""
    with _changing(form_key) as draft:
        row = _rule_row(draft, rule_key, version)
        document = dict(row.document)
        for name, value in changes.items():
            document[name] = {**document[name], **value} if isinstance(value, dict) else value
        return _store_rule(person, form_key, row, document)


def _store_rule(
    person: Person, form_key: str, row: DraftRule, document: dict[str, object]
) -> DraftRule:
    before, row.document = row.document, document
    row.version += 1
    row.changed_by = person
    row.save()
    log(person, "change rule", form_key, str(document["name"]), before=before, after=document)
    return row


def remove_rule(person: Person, form_key: str, rule_key: str, version: int) -> None:
    """Take a rule out of the draft; the log keeps it."""
    with _changing(form_key) as draft:
        row = _rule_row(draft, rule_key, version)
        log(person, "remove rule", form_key, row.document["name"], before=row.document)
        row.delete()


def create_field(
    person: Person,
    form_key: str,
    field: Field,
    *,
    draw_key: bool = False,
    position: int | None = None,
) -> DraftField:
    """Add a field at the end, or at `position`; with `draw_key` its key comes from its label."""
    with _changing(form_key) as draft:
        if draw_key:
            taken = set(draft.field_rows.values_list("key", flat=True))
            taken |= {one["key"] for one in draft.rest.get("conditions", ())}
            field = field.model_copy(update={"key": _key_from(field.label, taken, "field")})
        if draft.field_rows.filter(key=field.key).exists():
            raise _key_taken("field", field.key)
        row = DraftField.objects.create(
            form=draft,
            key=field.key,
            position=_next_position(draft, DraftField) if position is None else position,
            document=field.model_dump(mode="json"),
            changed_by=person,
        )
        log(person, "add field", form_key, field.label, after=row.document)
        return row


def order_fields(person: Person, form_key: str, keys: list[str]) -> DraftForm:
    """Put the fields in another order; `keys` name every one of them once."""
    with _changing(form_key) as draft:
        rows = {row.key: row for row in draft.field_rows.all()}
        before = list(rows)
        if sorted(keys) != sorted(rows):
            raise Refusal(
                409,
                "changed-meanwhile",
                "Somebody has added or removed a field since you opened this form.",
                "Look at the newer version, then order the fields again; nothing was changed.",
            )
        for position, key in enumerate(keys):
            rows[key].position = position
        DraftField.objects.bulk_update(rows.values(), ["position"])
        log(person, "order fields", form_key, draft.name, before=before, after=keys)
        return draft


def change_field(
    person: Person, form_key: str, field_key: str, field: Field, version: int
) -> DraftField:
    """Replace a field, unless a rule would become unusable by it."""
    with _changing(form_key) as draft:
        row = _field_row(draft, field_key, version)
        form = form_document(draft)
        field = field.model_copy(update={"key": field_key})
        fields = tuple(field if one.key == field_key else one for one in form.fields)
        _refuse_breaking(form, form.model_copy(update={"fields": fields}), field.label)
        before, row.document = row.document, field.model_dump(mode="json")
        row.version += 1
        row.changed_by = person
        row.save()
        log(person, "change field", form_key, field.label, before=before, after=row.document)
        return row


def remove_field(person: Person, form_key: str, field_key: str, version: int) -> None:
    """Take a field out of the draft, unless a rule names it."""
    with _changing(form_key) as draft:
        row = _field_row(draft, field_key, version)
        form = form_document(draft)
        fields = tuple(one for one in form.fields if one.key != field_key)
        _refuse_breaking(form, form.model_copy(update={"fields": fields}), row.document["label"])
        log(person, "remove field", form_key, row.document["label"], before=row.document)
        row.delete()


def _usable(rule: Rule, when: ClauseGroup | None, must: ClauseGroup | None, form: Form) -> Rule:
    try:
        compiled = compile_form(form)
        rule = with_clauses(rule, when, must, compiled)
        lower_rule(rule, compiled.language)
    except FormulaError as error:
        raise rule_refused(error) from None
    return rule


def _refuse_breaking(before: Form, after: Form, label: str) -> None:
    """Refuse a change of fields that makes a usable rule unusable; name every such rule."""
    already = compile_form(before).problems
    names = {rule.key: rule.name for rule in after.rules}
    broken = {
        key: problems
        for key, problems in compile_form(after).problems.items()
        if key not in already
    }
    if not broken:
        return
    errors = [
        ProblemItem(
            place=f"rules.{key}.{problem.place}",
            message=f"{names[key]}: {problem.message}",
            remedy="Change or remove this rule first.",
        )
        for key, problems in broken.items()
        for problem in problems
    ]
    count = len(broken)
    raise Refusal(
        409,
        "field-in-use",
        f"{label} is used by {count} rule{'s' if count > 1 else ''} that could not work then.",
        "Change or remove these rules first; the draft has not been changed.",
        errors,
    )


def _rule_row(draft: DraftForm, key: str, version: int) -> DraftRule:
    return cast(DraftRule, _row(draft.rule_rows, "rule", key, version))


def _field_row(draft: DraftForm, key: str, version: int) -> DraftField:
    return cast(DraftField, _row(draft.field_rows, "field", key, version))


def _row(rows: Manager, what: str, key: str, version: int) -> DraftRule | DraftField:
    """The row with `key`, unless it has been changed since `version`."""
    row = rows.filter(key=key).select_related("changed_by").first()
    if row is None:
        raise Http404(key)
    _refuse_stale(what, row, version)
    return row


def _refuse_stale(what: str, row: DraftRule | DraftField, version: int) -> None:
    if row.version == version:
        return
    who = row.changed_by.shown_name if row.changed_by else "Somebody"
    raise Refusal(
        409,
        "changed-meanwhile",
        f"{who} has changed this {what} since you opened it.",
        "Look at the newer version, then make your change again; yours was not saved.",
        version=row.version,
        current=row.document,
    )


def _key_taken(what: str, key: str) -> Refusal:
    message = f"There is a {what} with the key “{key}” already."
    return Refusal(
        409,
        "key-taken",
        message,
        "Choose another key.",
        [ProblemItem(place="key", message=message, remedy="Choose another key.")],
    )


def _next_position(draft: DraftForm, rows: type[DraftRule] | type[DraftField]) -> int:
    last = rows.objects.filter(form=draft).aggregate(last=Max("position"))["last"]
    return 0 if last is None else last + 1


def _key_from(name: str, taken: set[str], what: str) -> str:
    """A key that says what the name says, and is not taken."""
    stem = re.sub(r"[^a-z0-9]+", "_", name.casefold()).strip("_")[:40].strip("_") or what
    if key_problem(stem):
        stem = f"{what}_{stem}"
    key, count = stem, 1
    while key in taken:
        count += 1
        key = f"{stem}_{count}"
    return key
