"""How and where rules speak, and parts of a form that nobody uses."""

from collections.abc import Iterator
from typing import Any

from thistlequartz.core.engines.solver.terms import all_of, any_of
from thistlequartz.core.judging import CompiledRule
from thistlequartz.core.language import FormulaError, tree
from thistlequartz.core.language.feel import read_formula
from thistlequartz.core.ruleset import (
    ENTRY_POINT_WORDS,
    SEVERITIES,
    Form,
    RuleSet,
    Severities,
    asks_to_be_filled,
    severity_of,
    whole_form,
)
from thistlequartz.core.ruleset.placeholders import Placeholder, parts_of
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable, Unsatisfiable
from thistlequartz.core.translation import tr

from .context import SearchContext, blocks, is_demand, is_violated
from .finding import Finding, SuggestedFix


def typing_only(look: SearchContext) -> Iterator[Finding]:
    """F17: it speaks only while typing, so it stops nobody; or softer on submitting than before."""
    for one in look.rules:
        if one.is_effect:
            continue
        rule, severity = one.rule.key, one.check_rule.severity
        save, submit = (SEVERITIES.index(said) for said in (severity.save, severity.submit))
        if one.check_rule.hold:
            continue
        if severity.entry != "none" and not save and not submit:
            wrong = severity.entry == "warn"
            firmer = Severities(entry=severity.entry, save=severity.entry, submit=severity.entry)
            changed = one.rule.model_copy(update={"severity": firmer})
            finding = Finding(
                "F17",
                "wrong" if wrong else "doubtful",
                tr(
                    "{name} speaks only while typing: it stops nobody from saving, and a value "
                    "that was there before is never told.",
                    name=look.name(rule),
                ),
                tr("Let it speak on saving and on submitting, too."),
                (rule,),
                tuple(one.rule.targets),
                fix=SuggestedFix(
                    (
                        tr("{name} warns on saving and submitting, too.", name=look.name(rule))
                        if severity.entry == "warn"
                        else tr("{name} notes on saving and submitting, too.", name=look.name(rule))
                    ),
                    rules=(changed,),
                ),
            )
            yield look.meant(finding, is_violated(rule))
        elif save > submit:
            yield Finding(
                "F17",
                "doubtful",
                tr(
                    "{name} is softer on submitting than on saving; submitting counts both, so "
                    "it is as hard as on saving.",
                    name=look.name(rule),
                ),
                tr("Say the same at both moments, or harder on submitting."),
                (rule,),
                tuple(one.rule.targets),
            )
        else:
            look.nothing("F17")


def never_shown(look: SearchContext) -> Iterator[Finding]:
    """F19: it demands or reads a field that one of its layouts never shows."""
    layouts = {one.key: one.label for one in look.form.form.layouts}
    world = look.prover.world
    for one in look.checks:
        rule = one.rule
        for layout in rule.scope.layouts or layouts:
            if layout not in layouts:
                continue
            about = rule.targets if is_demand(one) else one.judged_by
            if not is_demand(one) and not rule.scope.layouts:
                continue
            hidden = tuple(key for key in about if _hidden(look, key, layout))
            if not hidden or (is_demand(one) and not blocks(one)):
                continue
            violated = look.terms(one).violated
            blank = any_of(look.has_value(key, None) for key in hidden)
            goal = all_of((world.is_layout(layout), violated, blank))
            if not is_demand(one):
                goal = all_of((world.is_layout(layout), violated))
            own = RuleAssumptions("save", frozenset({rule.key}))
            answer = look.ask("F19", (rule.key,), goal, own, fields=hidden)
            if isinstance(answer, Unsatisfiable):
                look.nothing("F19")
            if isinstance(answer, Satisfiable):
                says = (
                    tr("On the layout {layout} {name} needs {fields}, which is not shown there.")
                    if is_demand(one)
                    else tr(
                        "On the layout {layout} {name} looks at {fields}, which is not shown there."
                    )
                )
                yield Finding(
                    "F19",
                    "wrong",
                    says.format(
                        layout=layouts[layout],
                        name=look.name(rule.key),
                        fields=look.labels(hidden),
                    ),
                    tr("Show the field on that layout, or let the rule count on others only."),
                    (rule.key,),
                    hidden,
                    answer.witness,
                )


def never_asked(look: SearchContext) -> Iterator[Finding]:
    """F19, too: a rule reads a field that is never asked where the rule is in scope."""
    record = look.prover.record
    for one in look.checks:
        rule = one.rule.key
        for key in (key for key in one.judged_by if key not in one.rule.targets):
            for where, here, named in _ways_that_close(look, one, key):
                counts = all_of((here, look.terms(one).applies))
                asked = look.ask(
                    "F19",
                    (rule,),
                    all_of((counts, record.is_relevant(key))),
                    RuleAssumptions(),
                    fields=(key,),
                )
                if isinstance(asked, Satisfiable):
                    look.nothing("F19")
                if not isinstance(asked, Unsatisfiable):
                    continue
                spoken = look.prover.ask(all_of((counts, look.terms(one).violated)))
                shown = spoken if isinstance(spoken, Satisfiable) else look.prover.ask(counts)
                if not isinstance(shown, Satisfiable):
                    continue
                says = (
                    tr("{where} {name} looks at {field}, which is never asked there.")
                    if isinstance(spoken, Satisfiable)
                    else tr(
                        "{where} {name} looks at {field}, which is never asked there, so it says "
                        "nothing."
                    )
                )
                yield Finding(
                    "F19",
                    "wrong" if named else "doubtful",
                    says.format(where=where, name=look.name(rule), field=look.label(key)),
                    tr("Ask the field there, too, or let the rule count elsewhere only."),
                    (rule,),
                    (key,),
                    shown.witness,
                )
                break


def _ways_that_close(
    look: SearchContext, one: CompiledRule, key: str
) -> Iterator[tuple[str, Any, bool]]:
    """The roles and ways in of which rules that open or close a field speak, for which a rule
    counts: in words, as a condition, and whether the rule names it itself.
    """
    world, scope = look.prover.world, one.rule.scope
    closing = [
        other
        for other in (*look.part("opening"), *look.part("closing"))
        if key in other.rule.targets and key in look.prover.record.closed
    ]
    roles = dict.fromkeys(name for other in closing for name in other.rule.scope.roles)
    for role in roles:
        if not scope.roles or role in scope.roles:
            yield tr("For the role {role}", role=role), world.is_role(role), bool(scope.roles)
    ways = closing and any(other.rule.scope.entry_points for other in closing)
    for name, words in ENTRY_POINT_WORDS.items() if ways else ():
        if not scope.entry_points or name in scope.entry_points:
            here = world.is_entry_point(name)
            yield tr("For what comes in {words}", words=words), here, bool(scope.entry_points)


def _hidden(look: SearchContext, key: str, layout: str) -> bool:
    field = look.fields.get(key)
    return field is not None and bool(field.layouts) and layout not in field.layouts


def rights_missing(look: SearchContext) -> Iterator[Finding]:
    """F23: a hold nobody may release, a reason never asked, an approval nobody may give."""
    for one in look.rules:
        if one.is_effect:
            continue
        rule, check = one.rule.key, one.check_rule
        if check.hold and look.rights.lift_holds is False:
            yield Finding(
                "F23",
                "wrong",
                tr(
                    "{name} sets records on hold, and nobody may release them.",
                    name=look.name(rule),
                ),
                tr("Grant the right to release from hold, or let the rule warn instead."),
                (rule,),
            )
        if check.reason_required and not _warns(one):
            yield Finding(
                "F23",
                "doubtful",
                tr(
                    "{name} asks for a reason to go past its warning, and never warns.",
                    name=look.name(rule),
                ),
                tr("Let it warn, or ask for no reason."),
                (rule,),
                fix=SuggestedFix(
                    tr("{name} asks for no reason.", name=look.name(rule)),
                    rules=(one.rule.model_copy(update={"reason_required": False}),),
                ),
            )
    if look.rights.approve is False:
        yield Finding(
            "F23", "wrong",
            tr("Submitted records wait for an approval that nobody may give."),
            tr("Give somebody the right to approve."),
        )  # fmt: skip


def _warns(one: CompiledRule) -> bool:
    """Whether anybody can go past it: what blocks on saving never comes to a warning later."""
    save, submit = one.severities["save"], one.severities["submit"]
    return save == "warn" or (submit == "warn" and save != "block")


def no_first_record(look: SearchContext) -> Iterator[Finding]:
    """F27: the first record can never be made: required references go round in a circle."""
    start = look.form.form.key
    path = _back_to(look, start, [start])
    if path is None:
        look.nothing("F27")
        return
    demands = _required_forms(look.form.form)
    rules = tuple(rule for target, rule in demands.items() if target == path[1])
    names = " → ".join(_form_name(look, key) for key in path)
    yield Finding(
        "F27",
        "wrong",
        tr(
            "The first record can never be saved: each form needs one of the next to be there "
            "({names}).",
            names=names,
        ),
        tr("Let one of these references be required on submitting only, or under a condition."),
        rules,
        tuple(look.form.usable[rule].rule.targets[0] for rule in rules if rule in look.form.usable),
    )


def references_required_around(ruleset: RuleSet, key: str) -> str:
    """Return as text all that F27 asks of the other forms of a RuleSet.

    That is which references each requires before anything can be saved.
    """
    others = sorted(one.key for one in ruleset.forms if one.key != key)
    return repr([(one, sorted(_required_forms(whole_form(ruleset, one)[0]))) for one in others])


def _back_to(look: SearchContext, start: str, path: list[str]) -> list[str] | None:
    form = _form(look, path[-1])
    for target in _required_forms(form) if form else ():
        if target == start:
            return [*path, target]
        if target not in path:
            found = _back_to(look, start, [*path, target])
            if found is not None:
                return found
    return None


def _form(look: SearchContext, key: str) -> Form | None:
    known = any(one.key == key for one in look.ruleset.forms)
    return whole_form(look.ruleset, key)[0] if known else None


def _form_name(look: SearchContext, key: str) -> str:
    return next((one.name for one in look.ruleset.forms if one.key == key), key)


def _required_forms(form: Form) -> dict[str, str]:
    """The forms of which a record is required before anything can be saved, with the rule."""
    to = {
        field.key: to for field in form.fields if (to := field.value_type(form.zone).referred_form)
    }
    return {
        to[key]: rule.key
        for rule in form.rules
        if asks_to_be_filled(rule) and rule.enabled and rule.when is None
        if severity_of(rule, "save") == "block" and rule.scope == type(rule.scope)()
        for key in rule.targets
        if key in to
    }  # fmt: skip


def told_nowhere(look: SearchContext) -> Iterator[Finding]:
    """F28: it is told only at fields that nobody can enter, so nobody is led to what is to fix."""
    for one in look.checks:
        if one.check_rule.placement != "field":
            continue
        rule, targets = one.rule.key, one.rule.targets
        if any(_is_open(look, key) for key in targets) or _led_beside(look, one):
            look.nothing("F28")
            continue
        led = any_of(look.enterable(key) for key in targets)
        goal = all_of((look.terms(one).violated, led))
        answer = look.ask("F28", (rule,), goal, RuleAssumptions(), fields=tuple(targets))
        if isinstance(answer, Satisfiable):
            look.nothing("F28")
        if isinstance(answer, Unsatisfiable):
            yield Finding(
                "F28",
                "doubtful",
                tr(
                    "{name} is told at {labels} only, which nobody can enter: whoever it stops "
                    "is not led to what is to be corrected.",
                    name=look.name(rule),
                    labels=look.labels(targets),
                ),
                tr("Tell it at the top as well, or at a field that can be entered."),
                (rule,),
                tuple(targets),
                fix=SuggestedFix(
                    tr("{name} is told at the top as well.", name=look.name(rule)),
                    rules=(one.rule.model_copy(update={"placement": "both"}),),
                ),
            )


def _is_open(look: SearchContext, key: str) -> bool:
    record, field = look.prover.record, look.fields.get(key)
    shut = key in record.locked or key in record.derived or (field is not None and field.helper)
    return not shut


def _led_beside(look: SearchContext, one: CompiledRule) -> bool:
    """Whether what the targets are computed from can be entered in the same section."""
    sections = {look.fields[key].section for key in one.rule.targets if key in look.fields}
    inputs = look.behind({*one.reads}) - set(one.rule.targets)
    return any(
        _is_open(look, key) and look.fields[key].section in sections
        for key in inputs
        if key in look.fields
    )


def unused(look: SearchContext) -> Iterator[Finding]:
    """F34: a helper field that no rule reads, a condition, starter or list that nobody uses."""
    read: set[str] = set()
    conditions: set[str] = set()
    for one in look.form.rules:
        read |= set(one.reads) - set(one.rule.targets if one.part == "deriving" else ())
        message = getattr(one.rule, "message", "") or ""
        read |= {part.name for part in parts_of(message) if isinstance(part, Placeholder)}
        for node in _written(one):
            read |= tree.fields_read(node)
            conditions |= {
                part.key for part in tree.walk(node) if isinstance(part, tree.NamedConditionUse)
            }
    for one_field in look.form.form.fields:
        if one_field.helper and one_field.key not in read:
            yield Finding(
                "F34", "doubtful",
                tr("{label} is never shown, and no rule reads it.", label=one_field.label),
                tr("Use it in a rule, show it, or remove it."), fields=(one_field.key,),
            )  # fmt: skip
    for condition in look.form.form.conditions:
        if condition.key not in conditions and not _in_another(look, condition.key):
            yield Finding(
                "F34", "doubtful",
                tr("No rule uses the condition “{name}”.", name=condition.name),
                tr("Use it, or remove it."), fields=(condition.key,),
            )  # fmt: skip
    lists = {getattr(f, "choice_list", None) for form in look.ruleset.forms for f in form.fields}
    for one_list in look.ruleset.choice_lists:
        if one_list.key not in lists:
            yield Finding(
                "F34", "doubtful",
                tr("No field of any form uses the list {label}.", label=one_list.label),
                tr("Use it, or remove it."), fields=(one_list.key,),
            )  # fmt: skip
    begun = look.form.starting_values(today=look.today)
    for starter in look.form.form.starters:
        record = look.form.read(starter.values)
        given = {k: record.readings[k] for k in starter.values if k in record.readings}
        same = look.form.read({**begun, **starter.values}).readings
        if all(same[key] == look.form.read(begun).readings[key] for key in given):
            yield Finding(
                "F34",
                "doubtful",
                tr(
                    "The starter “{label}” gives nothing that a new record does not begin with.",
                    label=starter.label,
                ),
                tr("Give it other values, or remove it."),
                fields=(starter.key,),
            )


def _written(one: CompiledRule) -> Iterator[tree.Node]:
    yield from one.conditions
    yield from (node for _, node in one.lowered.values)


def _in_another(look: SearchContext, key: str) -> bool:
    return any(
        other.key != key and key in _called(other.condition) for other in look.form.form.conditions
    )


def _called(condition: str) -> frozenset[str]:
    try:
        return frozenset(tree.fields_read(read_formula(condition)))
    except FormulaError:
        return frozenset()
