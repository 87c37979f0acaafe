"""Forgotten answers: blank, one choice of several, one never accepted, links left open."""

from collections.abc import Iterator
from typing import Any

from thistlequartz.core.engines.solver.terms import TRUE, all_of
from thistlequartz.core.judging import CompiledRule
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable, Unsatisfiable
from thistlequartz.core.translation import LAST, tr
from thistlequartz.core.types import read_written
from thistlequartz.core.values import Fault

from .context import SearchContext, blocks, claims_key, is_about_missing, is_silent
from .finding import Finding


def forgotten_blank(look: SearchContext) -> Iterator[Finding]:
    """F08: named answers lead somewhere and blank does not, or blank opens what they close."""
    for key, rules in _governed(look).items():
        answers = look.answers(key)
        if len(answers) < 2 or look.form.fields[key].type.holds_several:
            continue
        led = {answer: _leading(look, key, answer, rules) for answer in (*answers, None)}
        if all(led[answer] for answer in answers):
            only_named = {rule for answer in answers for rule in led[answer]} - led[None]
            if only_named and not led[None]:
                yield from _blank_passes(look, key, tuple(sorted(only_named)))
        yield from _blank_opens(look, key)


def _governed(look: SearchContext) -> dict[str, list[CompiledRule]]:
    """By field with answers: the rules whose conditions read it."""
    found: dict[str, list[CompiledRule]] = {}
    for one in look.rules:
        if not one.is_effect and is_silent(one):
            continue
        for key in one.governors:
            if look.answers(key):
                found.setdefault(key, []).append(one)
    return found


def _leading(look: SearchContext, key: str, answer: Any, rules: list[CompiledRule]) -> set[str]:
    """The rules that can apply with an answer."""
    led = set()
    for one in rules:
        goal = all_of((look.terms(one).applies, look.has_value(key, answer)))
        if not isinstance(look.prover.ask(goal), Unsatisfiable):
            led.add(one.rule.key)
    return led


def _blank_passes(look: SearchContext, key: str, rules: tuple[str, ...]) -> Iterator[Finding]:
    answer = look.ask(
        "F08", rules, look.has_value(key, None), RuleAssumptions("submit"), fields=(key,)
    )
    if isinstance(answer, Unsatisfiable):
        look.nothing("F08")
    if isinstance(answer, Satisfiable):
        yield Finding(
            "F08",
            "doubtful",
            tr(
                "Every answer to {label} leads somewhere, by {named}; left blank, as every new "
                "record begins, it leads nowhere, and can be submitted.",
                label=look.label(key),
                named=look.named(rules),
            ),
            tr(
                "Let {label} be required, or say what is so while it is blank.",
                label=look.label(key),
            ),
            rules,
            (key,),
            answer.witness,
        )


def _blank_opens(look: SearchContext, key: str) -> Iterator[Finding]:
    """What is not relevant, or not required, with every named answer, and is with blank."""
    record = look.prover.record
    for target in record.closed:
        opening = [
            one for one in (*look.part("opening"), *look.part("closing"))
            if target in one.rule.targets and key in one.governors
        ]  # fmt: skip
        if not opening:
            continue
        named = (
            all_of((look.has_value(key, one), record.is_relevant(target)))
            for one in look.answers(key)
        )
        if not all(isinstance(look.prover.ask(goal), Unsatisfiable) for goal in named):
            continue
        goal = all_of((look.has_value(key, None), record.is_relevant(target)))
        rules = tuple(one.rule.key for one in opening)
        answer = look.ask("F08", rules, goal, RuleAssumptions("save"), fields=(key, target))
        if isinstance(answer, Unsatisfiable):
            look.nothing("F08")
        if isinstance(answer, Satisfiable):
            yield Finding(
                "F08",
                "wrong",
                tr(
                    "{field} is asked while {governor} is blank, and with none of its answers, "
                    "by {rules}.",
                    field=look.label(target),
                    governor=look.label(key),
                    rules=look.named(rules),
                ),
                tr("Say in the condition which answer opens it."),
                rules,
                (key, target),
                answer.witness,
            )


def blank_taken_for_an_answer(look: SearchContext) -> Iterator[Finding]:
    """F08, too: a check or a question that begins before any answer, by “is not”.

    A field that another one opens is a link of a chain, which is F18's.
    """
    closed = look.prover.record.closed
    for one in (*look.checks, *look.part("opening")):
        for key in one.governors:
            if key in one.rule.targets or look.form.fields[key].type.holds_several:
                continue
            if one.is_effect and key in closed:
                continue
            found = _taken_for(look, one, key)
            if found is not None:
                yield found
                break


def _taken_for(look: SearchContext, one: CompiledRule, key: str) -> Finding | None:
    named, rule = look.answers(key), one.rule.key
    terms = look.terms(one)
    free = [
        isinstance(
            look.prover.ask(all_of((terms.applies, look.has_value(key, value)))), Unsatisfiable
        )
        for value in named
    ]
    if not any(free) or all(free):
        return None
    acts = (
        all_of((terms.applies, look.there(one.rule.targets))) if one.is_effect else terms.violated
    )
    goal = all_of((look.has_value(key, None), acts))
    own = RuleAssumptions("save", frozenset() if one.is_effect else frozenset({rule}))
    answer = look.ask("F08", (rule,), goal, own, fields=(key,))
    if isinstance(answer, Unsatisfiable):
        look.nothing("F08")
    if not isinstance(answer, Satisfiable):
        return None
    does = (
        tr("opens {labels}", labels=look.labels(one.rule.targets)) if one.is_effect else "applies"
    )
    return Finding(
        "F08",
        "doubtful",
        tr(
            "{name} {does} while {label} is blank, as every new record begins: blank is taken "
            "for one of the other answers.",
            name=look.name(rule),
            does=does,
            label=look.label(key),
        ),
        tr(
            "Say in the condition that {label} is not blank, or name the answers.",
            label=look.label(key),
        ),
        (rule,),
        (key,),
        answer.witness,
    )


def forgotten_answer(look: SearchContext) -> Iterator[Finding]:
    """F09: several answers are each handled by a rule of one kind and target, another by none."""
    groups: dict[tuple[str, str, str], list[CompiledRule]] = {}
    for one in look.rules:
        if len(one.governors) == 1 and look.answers(one.governors[0]):
            for target in one.rule.targets:
                about = (one.rule.kind, target, one.governors[0])
                groups.setdefault(about, []).append(one)
    told: dict[tuple[str, tuple[str, ...]], list[str]] = {}
    for (_, target, key), rules in groups.items():
        if len(rules) > 1:
            told.setdefault((key, tuple(one.rule.key for one in rules)), []).append(target)
    for (key, keys), targets in told.items():
        rules = [look.form.usable[one] for one in keys]
        led = {value: _leading(look, key, value, rules) for value in look.answers(key)}
        handled = [value for value in led if led[value]]
        missing = [value for value in led if not led[value]]
        if len(missing) > len(handled) or len({frozenset(led[v]) for v in handled}) < 2:
            look.nothing("F09")
            continue
        # Where the field is not asked with an answer, there is nothing to say of it; what a rule
        # that opens or closes says is just that.
        state = rules[0].part in ("opening", "closing")
        there = TRUE if state else look.there(tuple(targets))
        left = {
            value: look.ask(
                "F09",
                keys,
                all_of((look.has_value(key, value), there)),
                RuleAssumptions("save"),
                fields=(key,),
            )
            for value in missing
        }
        missing = [value for value in missing if not isinstance(left[value], Unsatisfiable)]
        if not missing:
            look.nothing("F09")
            continue
        answer = left[missing[0]]
        shown = LAST["and"].join(look.shown(key, value) for value in missing[:4])
        yield Finding(
            "F09",
            "doubtful",
            tr(
                "{named} say something of {labels} for {count} answers to {label}; for {shown} "
                "nothing is said.",
                named=look.named(keys),
                labels=look.labels(tuple(targets)),
                count=len(handled),
                label=look.label(key),
                shown=shown,
            ),
            tr("Say something for {shown} as well, or dismiss this if it is meant.", shown=shown),
            keys,
            (key, *targets),
            answer.witness if isinstance(answer, Satisfiable) else None,
        )


def refused_answers(look: SearchContext) -> Iterator[Finding]:
    """F14: a choice, or an allowed value, that the field's other rules always refuse."""
    for key in look.form.fields:
        about = [
            one for one in look.checks
            if blocks(one) and (key in one.rule.targets or key in one.judged_by)
            and not (is_about_missing(one) or claims_key(one))
        ]  # fmt: skip
        if not about:
            continue
        keys = frozenset(one.rule.key for one in about)
        for value in (*look.answers(key), *_allowed(look, key, about)):
            goal = look.has_value(key, value)
            answer = look.ask(
                "F14",
                tuple(sorted(keys)),
                goal,
                RuleAssumptions("submit", only=keys),
                fields=(key,),
            )
            if isinstance(answer, Satisfiable):
                look.nothing("F14")
            if not isinstance(answer, Unsatisfiable) or not answer.rules:
                continue
            if isinstance(look.prover.ask(goal), Unsatisfiable):
                continue
            yield Finding(
                "F14",
                "wrong",
                tr(
                    "{label} can be given as {key}, and {named} always refuses that.",
                    label=look.label(key),
                    key=look.shown(key, value),
                    named=look.named(answer.rules),
                ),
                tr("Take the value out, or let the rule allow it."),
                answer.rules,
                (key,),
                proof=answer.rules,
            )


def _allowed(look: SearchContext, key: str, about: list[CompiledRule]) -> list[Any]:
    """The values that a rule of allowed values names for a field that has no choices."""
    if look.answers(key):
        return []
    declared = look.form.fields[key]
    found: dict[Any, None] = {}
    for one in about:
        if one.is_effect:
            continue
        texts = getattr(one.rule, "values", ()) or ()
        rows = getattr(one.rule, "rows", ()) or ()
        for text in (*texts, *(value for row in rows for value in row.values)):
            read = _read(text, declared)
            if read is not None:
                found.setdefault(read)
    return list(found)


def _read(text: str, declared: Any) -> Any:
    read = read_written(text, declared.type, declared.settings)
    return None if isinstance(read, Fault) else read


def open_links(look: SearchContext) -> Iterator[Finding]:
    """F18: a link of a chain that stays open when the link before it is closed."""
    record = look.prover.record
    for one in look.part("opening"):
        for before in one.governors:
            if before not in record.closed or before in one.rule.targets:
                continue
            key = one.rule.key
            goal = all_of(
                (look.terms(one).applies, record.closed[before], look.there(one.rule.targets))
            )
            answer = look.ask("F18", (key,), goal, RuleAssumptions("save"), fields=(before,))
            if isinstance(answer, Unsatisfiable):
                look.nothing("F18")
            if isinstance(answer, Satisfiable):
                yield Finding(
                    "F18",
                    "wrong",
                    tr(
                        "{name} keeps {labels} open also where {label}, which it hangs on, is "
                        "not asked.",
                        name=look.name(key),
                        labels=look.labels(one.rule.targets),
                        label=look.label(before),
                    ),
                    tr(
                        "Open it by an answer that {label} must have, not by one that it must "
                        "not have.",
                        label=look.label(before),
                    ),
                    (key,),
                    (before, *one.rule.targets),
                    answer.witness,
                )
