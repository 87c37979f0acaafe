"""The parts of a draft as the screens need them: with sentences, clauses and problems."""

from collections import defaultdict
from collections.abc import Iterable
from datetime import datetime
from typing import Literal

from thistlequartz.core.judging import CompiledForm, CompiledRule, lowered_in, problems_in
from thistlequartz.core.language import (
    ClauseGroup,
    FormulaError,
    Problem,
    Vocabulary,
    clauses_from_tree,
    condition_words,
    read_formula,
    subjects,
    tree,
    tree_from_clauses,
    write_formula,
)
from thistlequartz.core.ruleset import (
    MOMENTS,
    EntryPoint,
    Field,
    Form,
    LoweredRule,
    Rule,
    Severities,
    called,
    drafted_hint,
    drafted_message,
    marks_of,
    rule_sentence,
    severity_of,
)
from thistlequartz.core.ruleset.placeholders import message_problems, offered
from thistlequartz.core.translation import tr
from thistlequartz.server.judging.values import Values
from thistlequartz.server.problems import ProblemItem, item

from .models import DraftField, DraftForm, DraftRule, PlanLine
from .shapes import (
    ConditionView,
    FieldReading,
    FieldView,
    FormulaPlace,
    PlanLineView,
    RuleReading,
    RuleTextBody,
    RuleView,
    SetUpView,
    SheetView,
    StarterView,
)

_readings: dict[str, dict[str, tuple[CompiledRule, RuleReading]]] = {}
"""By form and rule: what was compiled, and how it reads."""
PLACES: tuple[FormulaPlace, ...] = ("when", "must", "no_other", "until")


def field_views(rows: Iterable[DraftField], form: CompiledForm) -> list[FieldView]:
    """The fields of the draft: with their choices, wherever they come from."""
    fields = {field.key: field for field in form.form.fields}
    marks = marks_of(form.form.rules)
    touched: dict[str, list[str]] = defaultdict(list)
    about: dict[str, list[LoweredRule]] = defaultdict(list)
    for compiled in form.rules:
        for key in compiled.rule.targets:
            about[key].append(compiled.lowered)
        for key in compiled.reads:
            touched[key].append(compiled.rule.key)
    for rule in form.form.rules:
        if rule.key in form.problems:
            for key in rule.targets:
                touched[key].append(rule.key)
    return [
        FieldView(
            field=fields[row.key],
            revision=row.revision,
            position=row.position,
            subjects=list(subjects(form.fields[row.key])),
            mark=marks.get(row.key),
            touched_by=touched[row.key],
            drafted_hint=drafted_hint(row.key, about[row.key], form.fields),
        )
        for row in rows
        if row.key in fields  # not added by somebody else since the draft was compiled
    ]


def sheet_view(
    form: CompiledForm, now: datetime, role: str, entry_point: EntryPoint = "desk"
) -> SheetView:
    """What a screen needs to lay out an entry, beside the fields."""
    document, today = form.form, form.today_at(now)

    def starting(starter: str | None) -> Values:
        begun = form.starting_values(
            today=today, now=now, entry_point=entry_point, role=role, starter=starter
        )
        return {**begun}

    return SheetView(
        sections=list(document.sections),
        compounds=list(document.compounds),
        twice=sorted(form.twice),
        starting=starting(None),
        starters=[
            StarterView(key=one.key, label=one.label, values=starting(one.key))
            for one in document.starters
        ],
    )


def read_field(field: Field, replaces: str | None, form: CompiledForm) -> FieldReading:
    """What is to be thought of in `field` among the fields of `form`."""
    label = field.label.casefold()
    alike = [
        one for one in form.form.fields if one.label.casefold() == label and one.key != replaces
    ]
    advice = []
    if alike and field.label:
        said = tr("There is a field “{label}” already.", label=alike[0].label)
        remedy = tr("Give this one another label, so that messages say which is meant.")
        advice.append(ProblemItem(place="label", message=said, remedy=remedy))
    return FieldReading(advice=advice)


def read_rule(
    rule: Rule, form: CompiledForm, found: tuple[Problem, ...] = (), replaces: str | None = None
) -> RuleTextBody:
    """How `rule` reads among the fields of `form`; `found` are problems known already."""
    vocabulary = form.language.vocabulary
    lowered = None if found else lowered_in(form, rule)
    written = message_problems(rule, vocabulary) if found else problems_in(form, rule, replaces)
    problems = (*found, *written)
    return RuleTextBody(
        **dict(_reading(rule, lowered, form, problems)),
        advice=_advice(rule, lowered, form, replaces),
        placeholders=list(offered(rule, vocabulary)),
    )


def _advice(
    rule: Rule, lowered: LoweredRule | None, form: CompiledForm, replaces: str | None
) -> list[ProblemItem]:
    advice = []
    same = next(
        (
            one.rule.name
            for one in form.rules
            if lowered and one.rule.key != replaces and _says_the_same(one.lowered, lowered)
        ),
        None,
    )
    if same is not None:
        said = tr("The rule “{same}” says the same already.", same=same)
        remedy = tr("Change that one, or say here what is different.")
        advice.append(ProblemItem(place="", message=said, remedy=remedy))
    name = rule.name.casefold()
    if name and any(one.name.casefold() == name and one.key != replaces for one in form.form.rules):
        said = tr("There is another rule called “{name}”.", name=rule.name)
        remedy = tr("Give this one a name of its own, so that people can tell which one spoke.")
        advice.append(ProblemItem(place="name", message=said, remedy=remedy))
    return advice


def _says_the_same(one: LoweredRule, other: LoweredRule) -> bool:
    """Whether two rules ask the same of the same records, however hard they speak."""
    counting = ("kind", "targets", "scope", "in_force_from", "in_force_to", "changed_fields")
    return all(getattr(one.rule, name) == getattr(other.rule, name) for name in counting) and (
        (one.when, one.checks, one.until, one.values)
        == (other.when, other.checks, other.until, other.values)
    )


def _reading(
    rule: Rule,
    lowered: LoweredRule | None,
    form: CompiledForm,
    problems: Iterable[Problem],
) -> RuleReading:
    vocabulary = form.language.vocabulary
    checks = lowered.checks if lowered else ()
    return RuleReading(
        rule=rule,
        called=called(rule, lowered, vocabulary, form.layouts),
        sentence=rule_sentence(lowered, vocabulary, form.layouts) if lowered else [],
        drafted_message=drafted_message(lowered, checks[0], vocabulary)
        if lowered and checks
        else "",
        clauses={
            place: clauses
            for place in PLACES
            if (clauses := clauses_of(getattr(rule, place, None), vocabulary))
        },
        problems=[item(problem) for problem in problems],
        speaks=speaks(rule),
    )


def rule_views(rows: Iterable[DraftRule], form: CompiledForm) -> list[RuleView]:
    """The rules of the draft as the screens need them."""
    compiled = {one.rule.key: one for one in form.rules}
    written = form.written
    views = []
    for row in rows:
        rule = written.get(row.key)
        if rule is None:
            continue  # added by somebody else since the draft was compiled
        problems = form.problems.get(row.key, ())
        found = compiled.get(row.key)
        if found is None or problems:
            # One that stands in a circle can still be read.
            reading = _reading(rule, lowered_in(form, rule), form, problems)
        else:
            reading = _kept_reading(form, found)
        views.append(
            RuleView.model_construct(
                **dict(reading),
                revision=row.revision,
                position=row.position,
                tried=_tried(row),
                overspent=row.overspent_seen,
                changed_by=row.changed_by.shown_name if row.changed_by else None,
                changed_at=row.changed_at,
            )
        )
    return views


def _kept_reading(form: CompiledForm, compiled: CompiledRule) -> RuleReading:
    """How a rule reads. Compiling takes over the rules that have not changed, so the very same one
    reads the same.
    """
    kept = _readings.setdefault(form.form.key, {})
    before = kept.get(compiled.rule.key)
    if before is not None and before[0] is compiled:
        return before[1]
    reading = _reading(form.written[compiled.rule.key], compiled.lowered, form, ())
    kept[compiled.rule.key] = compiled, reading
    return reading


def speaks(rule: Rule) -> Severities:
    """How hard a rule speaks at each moment."""
    return Severities.model_validate({moment: severity_of(rule, moment) for moment in MOMENTS})


def _tried(row: DraftRule) -> Literal["both", "violated", "satisfied", "never"]:
    match row.violated_seen, row.satisfied_seen:
        case True, True:
            return "both"
        case True, False:
            return "violated"
        case False, True:
            return "satisfied"
        case _:
            return "never"


def setup_view(draft: DraftForm, form: CompiledForm) -> SetUpView:
    """What the form itself, and none that it is derived from, is beside its fields and rules."""
    own = Form.model_validate({**draft.rest, "key": draft.key, "name": draft.name})
    return SetUpView(
        revision=draft.settings_revision,
        zone=own.zone,
        derived_from=own.derived_from,
        sections=list(own.sections),
        layouts=list(own.layouts),
        compounds=list(own.compounds),
        starters=list(own.starters),
        conditions=[_condition_view(one.key, form) for one in own.conditions],
    )


def _condition_view(key: str, form: CompiledForm) -> ConditionView:
    language = form.language
    named = next(one for one in form.form.conditions if one.key == key)
    node = language.conditions.get(key)
    return ConditionView(
        key=key,
        name=named.name,
        condition=named.condition,
        sentence=condition_words(node, language.vocabulary) if node else [],
        clauses=clauses_of(named.condition, language.vocabulary),
        problems=[item(problem) for problem in language.problems.get(key, ())],
        used_by=[rule.key for rule in form.form.rules if _calls(rule, key)],
    )


def _calls(rule: Rule, condition: str) -> bool:
    texts = [getattr(rule, place, None) for place in PLACES]
    nodes = [_tree(text) for text in texts if text]
    return any(
        isinstance(part, tree.Field) and part.key == condition
        for node in nodes
        if node
        for part in tree.walk(node)
    )


def plan_view(rows: Iterable[PlanLine]) -> list[PlanLineView]:
    """The lines of the plan."""
    return [
        PlanLineView(
            key=row.key,
            revision=row.revision,
            text=row.document["text"],
            rules=row.document["rules"],
            cases=row.document.get("cases", []),
        )
        for row in rows
    ]


def clauses_of(formula: str | None, vocabulary: Vocabulary) -> ClauseGroup | None:
    """The formula as clauses, where clauses can say it."""
    node = _tree(formula) if formula else None
    return clauses_from_tree(node, vocabulary) if node else None


def formula_of(clauses: ClauseGroup, vocabulary: Vocabulary) -> str:
    """Clauses as the formula that they stand for. Raises FormulaError."""
    return write_formula(tree_from_clauses(clauses, vocabulary))


def _tree(formula: str) -> tree.Node | None:
    try:
        return read_formula(formula)
    except FormulaError:
        return None
