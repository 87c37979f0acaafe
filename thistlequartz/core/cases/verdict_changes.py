"""What changed between two tries of a form, in words."""

from collections.abc import Iterator
from dataclasses import dataclass

from thistlequartz.core.judging import Circumstances, CompiledForm, Judgement, Status
from thistlequartz.core.ruleset import ENTRY_POINT_WORDS
from thistlequartz.core.translation import tr
from thistlequartz.core.types import show_value
from thistlequartz.core.values import Fault, Reading

from .differences import ASKED_WORDS, OUTCOME_WORDS
from .observing import Observer


@dataclass(frozen=True, slots=True)
class JudgedRequest:
    """One try: by which writing of the form, under which circumstances, and what came of it."""

    form: CompiledForm
    judged: Judgement
    circumstances: Circumstances | None = None
    by: str = ""
    """What it is judged by: “the draft”, “release 3”."""
    before: str = ""
    """Which record is changed: “record 12”; blank for a new one."""


@dataclass(frozen=True, slots=True)
class VerdictChange:
    """One thing that is different now, and where to look."""

    words: str
    rule: str | None = None
    fields: tuple[str, ...] = ()


_RULE_WORDS: dict[Status, str] = {
    "unfinished": tr("“{name}” is unfinished."),
    "disabled": tr("“{name}” is switched off."),
    "out_of_scope": tr("“{name}” is out of scope now."),
    "not_relevant": tr("“{name}” is about nothing that is asked any more."),
    "silent": tr("“{name}” says nothing any more."),
    "not_applicable": tr("“{name}” does not apply any more."),
    "not_evaluable": tr("“{name}” has nothing to check any more."),
    "violated": tr("“{name}” is violated now."),
    "satisfied": tr("“{name}” is met now."),
}
_FROM_SILENT: dict[Status, str] = {
    "not_applicable": tr("“{name}” does not apply."),
    "not_evaluable": tr("“{name}” has nothing to check."),
}
"""Of a rule that said nothing before either."""


def changes_between(before: JudgedRequest, after: JudgedRequest) -> tuple[VerdictChange, ...]:
    """What is different in `after`: entries, outcomes, rules, what is asked, what is computed."""
    return (
        *_circumstances(before, after),
        *_entries(before, after),
        *_reasons(before, after),
        *_outcomes(before, after),
        *_rules(before, after),
        *_fields(before, after),
    )


def _entries(before: JudgedRequest, after: JudgedRequest) -> Iterator[VerdictChange]:
    derived = before.judged.settled.derived | after.judged.settled.derived
    old, new = before.judged.record.readings, after.judged.record.readings
    for key, declared in after.form.fields.items():
        if key in derived or key not in old or old[key] == new[key]:
            continue
        was, now = (_shown(one, after.form, key) for one in (old[key], new[key]))
        yield VerdictChange(
            tr("{label}: {now}, was {was}.", label=declared.label, now=now, was=was), fields=(key,)
        )


def _circumstances(before: JudgedRequest, after: JudgedRequest) -> Iterator[VerdictChange]:
    old, new = before.circumstances, after.circumstances
    if before.by != after.by:
        yield VerdictChange(
            tr("It is judged by {by}, was by {before}.", by=after.by, before=before.by)
        )
    if old is None or new is None:
        return
    if (old.event, before.before) != (new.event, after.before):
        yield VerdictChange(
            tr("It is {event}, was {before}.", event=_event(after), before=_event(before))
        )
    if old.entry_point != new.entry_point:
        now, was = (ENTRY_POINT_WORDS[one.entry_point] for one in (new, old))
        yield VerdictChange(tr("It is sent in {now}, was {was}.", now=now, was=was))
    if old.role != new.role:
        yield VerdictChange(
            tr("It is sent in by the role {role}, was by {before}.", role=new.role, before=old.role)
        )
    if old.layout != new.layout:
        yield VerdictChange(
            tr(
                "It stands on {layout}, was on {before}.",
                layout=_layout(after),
                before=_layout(before),
            )
        )
    if old.today != new.today:
        yield VerdictChange(
            tr(
                "It is judged as of {day}, was {before}.",
                day=show_value(new.today),
                before=show_value(old.today),
            )
        )


def _event(one: JudgedRequest) -> str:
    assert one.circumstances is not None
    if one.circumstances.event == "create":
        return tr("a new record")
    return (
        tr("a change to {record}", record=one.before)
        if one.before
        else tr("a change to an empty record")
    )


def _layout(one: JudgedRequest) -> str:
    assert one.circumstances is not None
    layout = one.circumstances.layout
    return tr("the whole form") if layout is None else one.form.layouts.get(layout, layout)


def _reasons(before: JudgedRequest, after: JudgedRequest) -> Iterator[VerdictChange]:
    """Warnings that pass now, or no longer, as a reason was given for them or is not any more."""
    names = {rule.key: rule.name for rule in after.form.form.rules}
    old, new = _waived(before), _waived(after)
    for rule in dict.fromkeys((*old, *new)):
        name = names.get(rule, rule)
        if rule in new and rule not in old:
            yield VerdictChange(
                tr("“{name}” can be passed now: a reason is given.", name=name), rule
            )
        elif rule in old and rule not in new:
            yield VerdictChange(tr("“{name}” wants a reason again.", name=name), rule)


def _waived(one: JudgedRequest) -> list[str]:
    verdicts = (one.judged.verdict("save"), one.judged.verdict("submit"))
    given = (r.rule for verdict in verdicts for r in verdict.results if r.waiver == "given")
    return list(dict.fromkeys(given))


def _shown(reading: Reading, form: CompiledForm, key: str) -> str:
    if isinstance(reading, Fault):
        return tr("unreadable")
    return show_value(reading, form.fields[key].type) if reading is not None else tr("blank")


def _outcomes(before: JudgedRequest, after: JudgedRequest) -> Iterator[VerdictChange]:
    old = Observer(before.form).of_judged(before.judged)
    new = Observer(after.form).of_judged(after.judged)
    if old.save != new.save:
        yield VerdictChange(
            tr(
                "Saving is {outcome} now, was {before}.",
                outcome=OUTCOME_WORDS[new.save],
                before=OUTCOME_WORDS[old.save],
            )
        )
    if old.submit != new.submit:
        yield VerdictChange(
            tr(
                "Submitting is {outcome} now, was {before}.",
                outcome=OUTCOME_WORDS[new.submit],
                before=OUTCOME_WORDS[old.submit],
            )
        )
    if old.on_hold != new.on_hold:
        yield VerdictChange(
            tr("The record is set on hold now.")
            if new.on_hold
            else tr("The record is no longer set on hold.")
        )
    names = {rule.key: rule.name for rule in (*before.form.form.rules, *after.form.form.rules)}
    for rule in dict.fromkeys((*old.offered, *new.offered)):
        if rule not in old.offered:
            yield VerdictChange(tr("“{names}” is offered now.", names=names[rule]), rule)
        elif rule not in new.offered:
            yield VerdictChange(tr("“{names}” is not offered any more.", names=names[rule]), rule)


def _rules(before: JudgedRequest, after: JudgedRequest) -> Iterator[VerdictChange]:
    old, new = before.judged.findings, after.judged.findings
    for rule in after.form.form.rules:
        was, now = old.get(rule.key), new[rule.key]
        if was is None:
            yield VerdictChange(
                tr("“{name}” is there now.", name=rule.name), rule.key, rule.targets
            )
        elif was.status != now.status:
            effect = rule.key not in {one.rule.key for one in after.judged.program.checks}
            words = _RULE_WORDS[now.status]
            if effect and now.status == "satisfied":
                words = tr("“{name}” is in effect now.")
            elif not was.is_violated:
                words = _FROM_SILENT.get(now.status, words)
            yield VerdictChange(words.format(name=rule.name), rule.key, rule.targets)
    there = {rule.key for rule in after.form.form.rules}
    for rule in before.form.form.rules:
        if rule.key not in there:
            yield VerdictChange(tr("“{name}” is not there any more.", name=rule.name), rule.key)


def _fields(before: JudgedRequest, after: JudgedRequest) -> Iterator[VerdictChange]:
    old = Observer(before.form).of_judged(before.judged)
    new = Observer(after.form).of_judged(after.judged)
    for key, state in new.field_states.items():
        was = old.field_states.get(key, "relevant")
        if was != state:
            label = after.form.fields[key].label
            yield VerdictChange(
                tr("{label} is {asked} now.", label=label, asked=ASKED_WORDS[state]), fields=(key,)
            )
    for key in new.computed:
        if key in old.computed and old.computed[key] != new.computed[key]:
            values = (one.judged.settled.value_of(key) for one in (after, before))
            type_ = after.form.fields[key].type
            now, before_ = (show_value(v, type_) if v is not None else tr("blank") for v in values)
            label = after.form.fields[key].label
            yield VerdictChange(
                tr("{label} comes to {now}, was {before}.", label=label, now=now, before=before_),
                fields=(key,),
            )
