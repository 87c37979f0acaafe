"""How what happened differs from what a case expects, in words."""

from collections.abc import Iterator, Mapping

from thistlequartz.core.enumerations import Status
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import Entered, Expected, FieldStateName, Outcome
from thistlequartz.core.translation import tr
from thistlequartz.core.types import read_value, show_value
from thistlequartz.core.values import Fault

from .observing import Observed

OUTCOME_WORDS: dict[Outcome, str] = {
    "clear": tr("clear"),
    "noted": tr("noted"),
    "warned": tr("warned"),
    "blocked": tr("blocked"),
}
ASKED_WORDS: dict[FieldStateName, str] = {
    "relevant": tr("asked"),
    "not_relevant": tr("not asked"),
    "read_only": tr("locked"),
    "waiting": tr("waiting"),
}

STATUS_WORDS: dict[Status, str] = {
    "unfinished": tr("unfinished"),
    "disabled": tr("switched off"),
    "out_of_scope": tr("is out of scope"),
    "not_relevant": tr("not asked"),
    "silent": tr("says nothing"),
    "not_applicable": tr("does not apply"),
    "not_evaluable": tr("nothing to check"),
    "violated": tr("violated"),
    "satisfied": tr("met"),
}


def differences(form: CompiledForm, expected: Expected, observed: Observed) -> tuple[str, ...]:
    """A sentence for each difference; none where the case agrees."""
    return tuple(_sentences(form, expected, observed))


def agrees(expected: Expected | Observed, observed: Observed) -> bool:
    """Whether all that was expected happened; the same as having no differences, and faster."""
    return (
        expected.save in (None, observed.save)
        and expected.submit in (None, observed.submit)
        and (expected.violated is None or set(expected.violated) == set(observed.violated))
        and expected.on_hold in (None, observed.on_hold)
        and expected.offered in (None, observed.offered)
        and _same(expected.field_states, observed.field_states)
        and _same(expected.computed, observed.computed)
        and _faulty_as(expected, observed)
        and _same(expected.statuses, observed.statuses)
        and _stored_as(expected.stored, observed.stored)
    )


def _faulty_as(expected: Expected | Observed, observed: Observed) -> bool:
    said = expected.faults
    return said is None or set(said) == set(observed.faults)


def _stored_as(said: Mapping[str, object] | None, seen: Mapping[str, object]) -> bool:
    return said is None or all(seen.get(key) == value for key, value in said.items())


def _same(said: Mapping[str, object] | None, seen: Mapping[str, object]) -> bool:
    return said is None or all(key not in seen or seen[key] == said[key] for key in said)


def _sentences(form: CompiledForm, expected: Expected, observed: Observed) -> Iterator[str]:
    names = {rule.key: f"“{rule.name}”" for rule in form.form.rules}

    def name(key: str) -> str:
        return names.get(key, f"“{key}”")

    if expected.save not in (None, observed.save):
        yield tr(
            "Saving is {outcome}, where {expected} was expected.",
            outcome=OUTCOME_WORDS[observed.save],
            expected=OUTCOME_WORDS[expected.save],
        )
    if expected.submit not in (None, observed.submit):
        yield tr(
            "Submitting is {outcome}, where {expected} was expected.",
            outcome=OUTCOME_WORDS[observed.submit],
            expected=OUTCOME_WORDS[expected.submit],
        )
    yield from (
        tr("{name} is violated, which was not expected.", name=name(key))
        for key in observed.violated
        if expected.violated is not None and key not in expected.violated
    )
    for key in expected.violated or ():
        if key not in names:
            yield tr(
                "{name} should be violated, but there is no such rule any more.", name=name(key)
            )
        elif key not in observed.violated:
            yield tr("{name} should be violated, but is not.", name=name(key))
    if expected.on_hold not in (None, observed.on_hold):
        yield (
            tr("The record is set on hold.")
            if observed.on_hold
            else tr("The record is not set on hold.")
        )
    yield from _offers(form, expected.offered, observed.offered)
    yield from _states(expected.field_states or {}, observed.field_states, form.fields)
    yield from _values(expected.computed or {}, observed.computed, form.fields)
    yield from _faults(expected.faults, observed.faults, form.fields)
    for key, status in (expected.statuses or {}).items():
        now = observed.statuses.get(key)
        if now is None:
            yield tr(
                "{name} should be looked at, but there is no such rule any more.", name=name(key)
            )
        elif now != status:
            words = (STATUS_WORDS[now], STATUS_WORDS[status])
            yield tr(
                "{name}: {status}, where “{expected}” was expected.",
                name=name(key),
                status=words[0],
                expected=words[1],
            )
    yield from _stores(expected.stored or {}, observed.stored, form.fields)


def _faults(
    expected: tuple[str, ...] | None, seen: tuple[str, ...], fields: Vocabulary
) -> Iterator[str]:
    if expected is None:
        return
    for key in dict.fromkeys((*expected, *seen)):
        label = fields[key].label if key in fields else key
        if key not in seen:
            yield tr("{label} can be read, where it was expected not to be.", label=label)
        elif key not in expected:
            yield tr("{label} cannot be read, which was not expected.", label=label)


def _stores(
    expected: Mapping[str, Entered], seen: Mapping[str, Entered], fields: Vocabulary
) -> Iterator[str]:
    for key, value in expected.items():
        if seen.get(key) != value and key in fields:
            now, then = (_shown(one, fields, key) for one in (seen.get(key), value))
            yield tr(
                "{label} is stored as {now}, where {then} was expected.",
                label=fields[key].label,
                now=now,
                then=then,
            )


def _offers(
    form: CompiledForm,
    expected: Mapping[str, Mapping[str, Entered]] | None,
    offered: Mapping[str, Mapping[str, Entered]],
) -> Iterator[str]:
    if expected is None:
        return
    names = {rule.key: rule.name for rule in form.form.rules}
    for rule in dict.fromkeys((*expected, *offered)):
        name = names.get(rule, rule)
        if rule not in expected:
            yield tr("“{name}” is offered, which was not expected.", name=name)
        elif rule not in offered:
            yield tr("“{name}” should be offered, but is not.", name=name)
        else:
            for key, value in expected[rule].items():
                now = offered[rule].get(key)
                if now != value and key in form.fields:
                    shown = [_shown(one, form.fields, key) for one in (now, value)]
                    yield tr(
                        "“{name}” offers {values}, where {expected} was expected.",
                        name=name,
                        values=shown[0],
                        expected=shown[1],
                    )


def _states(
    expected: Mapping[str, FieldStateName], seen: Mapping[str, FieldStateName], fields: Vocabulary
) -> Iterator[str]:
    for key, state in expected.items():
        now = seen.get(key)
        if now is not None and now != state:
            words = (ASKED_WORDS[now], ASKED_WORDS[state])
            yield tr(
                "{field} is {state}, where it was expected to be {expected}.",
                field=fields[key].label,
                state=words[0],
                expected=words[1],
            )


def _values(
    expected: Mapping[str, Entered], seen: Mapping[str, Entered], fields: Vocabulary
) -> Iterator[str]:
    for key, value in expected.items():
        if key in seen and seen[key] != value:
            now, then = (_shown(one, fields, key) for one in (seen[key], value))
            yield tr(
                "{label} comes to {now}, where {then} was expected.",
                label=fields[key].label,
                now=now,
                then=then,
            )


def _shown(value: Entered, fields: Vocabulary, key: str) -> str:
    type_ = fields[key].type
    read = read_value(value, type_)
    if read is None:
        return tr("blank")
    return str(value) if isinstance(read, Fault) else show_value(read, type_)
