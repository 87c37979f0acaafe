"""The plan of an import: proposed from columns and values, and reviewed before it runs."""

from collections.abc import Iterable, Iterator

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import Declaration
from thistlequartz.core.ruleset import Rule, claims_key
from thistlequartz.core.tables import (
    REASON_FOR,
    Column,
    FoundMarks,
    Table,
    TableRow,
    columns_of,
    marks_of,
)
from thistlequartz.core.translation import tr
from thistlequartz.core.values import folded
from thistlequartz.server.problems import ProblemItem, Refusal

from .plan import REASON, ImportPlan
from .rows import entry_labels, field_of


def matched(table: Table, form: CompiledForm) -> tuple[Column, ...]:
    """What each column goes to, as far as that can be seen."""
    names = {folded(f"{REASON_FOR}{rule.name}"): rule.key for rule in asking_for_reasons(form)}
    found = []
    for column in columns_of(table.heads, entry_labels(form)):
        rule = names.get(folded(column.head))
        found.append(Column(column.head, f"{REASON}{rule}", "label") if rule else column)
    return tuple(found)


def asking_for_reasons(form: CompiledForm) -> list[Rule]:
    """The rules whose warnings pass with a reason only."""
    return [one.rule for one in form.rules if getattr(one.rule, "reason_required", False)]


def found_marks(
    rows: Iterable[TableRow], form: CompiledForm, columns: dict[str, str]
) -> FoundMarks:
    """How numbers and days are written in some rows."""
    values: dict[str, list[object]] = {head: [] for head in columns}
    for row in rows:
        for head in columns:
            values[head].append(row.cells.get(head))
    read: list[tuple[Declaration, list[object]]] = [
        (form.fields[field_of(target)], values[head])
        for head, target in columns.items()
        if not target.startswith(REASON)
    ]
    return marks_of(read)


def unique_fields(form: CompiledForm) -> list[str]:
    """The fields by which one record can be found: each alone unique."""
    rules = (one.rule for one in form.rules if one.rule.enabled)
    unique = (rule for rule in rules if claims_key(rule) and len(rule.targets) == 1)
    return list(dict.fromkeys(rule.targets[0] for rule in unique))


def refuse_unfit(plan: ImportPlan, form: CompiledForm, *, whole: bool = True) -> None:
    """Raise a Refusal (422) that names every part of a plan that does not fit the form.

    Where it is to be `whole`, also what it lacks.
    """
    errors = list(_unfit(plan, form))
    if whole and not plan.columns:
        said, remedy = tr("No column goes to a field."), tr("Say for one at least where it goes.")
        errors.append(ProblemItem(place="columns", message=said, remedy=remedy))
    if errors:
        raise Refusal(
            422,
            "plan-unfit",
            tr("The file cannot be read by this plan."),
            tr("Correct what is named below; nothing has been stored."),
            errors,
        )


def _unfit(plan: ImportPlan, form: CompiledForm) -> Iterator[ProblemItem]:
    known, rules = entry_labels(form), {one.rule.key for one in form.rules}
    targets = list(plan.columns.values())
    for head, target in plan.columns.items():
        place = f"columns.{head[:100]}"
        if target.startswith(REASON):
            if target.removeprefix(REASON) not in rules:
                said = tr(
                    "There is no rule “{rule}” in this form.",
                    rule=target.removeprefix(REASON)[:60],
                )
                yield ProblemItem(place=place, message=said, remedy=tr("Leave the column out."))
        elif target not in known:
            said = tr("Nobody enters “{target}” in this form.", target=target[:60])
            yield ProblemItem(
                place=place, message=said, remedy=tr("Choose another field, or none.")
            )
        if targets.count(target) > 1:
            said = tr(
                "“{target}” is given to several columns.", target=known.get(target, target)[:60]
            )
            yield ProblemItem(place=place, message=said, remedy=tr("Give it to one of them."))
    if plan.update_by is not None:
        if plan.update_by not in unique_fields(form):
            said = tr(
                "“{update_by}” is not unique by itself, so it finds no single record.",
                update_by=plan.update_by,
            )
            yield ProblemItem(place="update_by", message=said, remedy=tr("Choose a unique field."))
        elif plan.update_by not in targets:
            said = tr(
                "No column goes to “{update_by}”.",
                update_by=known.get(plan.update_by, plan.update_by),
            )
            yield ProblemItem(place="update_by", message=said, remedy=tr("Say which one does."))
