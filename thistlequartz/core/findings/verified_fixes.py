"""Verification of fixes: made on a copy of the form, and judged before anyone sees them."""

from collections.abc import Callable
from typing import Any

from pydantic import TypeAdapter, ValidationError

from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.judging import CompiledForm, Judgement, JudgeRequest, ReadRecord
from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.ruleset import Event, Form, Rule
from thistlequartz.core.versions.differing_rules import demand_of

from .context import SearchContext
from .drawn_records import Values, drawn_records, under_which
from .finding import SuggestedFix

Situation = Callable[[Judgement], bool]
"""Whether a record, as it is judged today, is in a situation that a finding is about."""
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)


def fixed(look: SearchContext, fix: SuggestedFix) -> tuple[Form, CompiledForm] | None:
    """The form with a fix made; None where a rule of it is not valid, or cannot be used."""
    changed = {}
    for rule in fix.rules:
        try:
            changed[rule.key] = _RULE.validate_python(rule.model_dump())
        except ValidationError:
            return None
    before = look.form.form
    rules = tuple(
        changed.get(rule.key, rule) for rule in before.rules if rule.key not in fix.removed
    )
    form = before.model_copy(update={"rules": rules})
    compiled = look.form.rewritten(form)
    if set(compiled.problems) - set(look.form.problems) or set(changed) & set(compiled.problems):
        return None
    return form, compiled


def changes_words_only(look: SearchContext, fix: SuggestedFix) -> bool:
    """Whether nothing that a rule demands is changed."""
    before = look.form.usable
    return not fix.removed and all(
        demand_of(rule) == demand_of(before[rule.key].rule) for rule in fix.rules
    )


def changes_only(
    look: SearchContext, fix: SuggestedFix, compiled: CompiledForm, situation: Situation | None
) -> bool:
    """Return whether a fix changes nothing but in the situations of its finding.

    Judged as far as drawn records show.
    """
    watchers = _Watcher(look.form, look), _Watcher(compiled, look)
    narrow = _by_these_alone(look, fix, compiled)
    touched = {*fix.removed, *(rule.key for rule in fix.rules)}
    rules = [one for form in (look.form, compiled) for one in form.rules if one.rule.key in touched]
    for values, stored in drawn_records(look, rules):
        # Where the rules that differ say the same, and all others are the same, so does the form.
        if narrow is not None and _see_alike(narrow, values, stored):
            continue
        if _see_alike(watchers, values, stored):
            continue
        if situation is None or not situation(watchers[0].judged(values, stored)):
            return False
    return True


def _see_alike(
    watchers: "tuple[_Watcher, _Watcher]", values: Values, stored: Values | None
) -> bool:
    before, after = (one.sees(values, stored) for one in watchers)
    return bool(before == after)


def _by_these_alone(
    look: SearchContext, fix: SuggestedFix, compiled: CompiledForm
) -> "tuple[_Watcher, _Watcher] | None":
    """Both writings with no checks but those that the fix touches; None where it touches a rule
    with an effect, on which the others hang.
    """
    touched = {*fix.removed, *(rule.key for rule in fix.rules)}
    if any(one.is_effect for one in look.form.rules if one.rule.key in touched):
        return None
    before, after = (
        _Watcher(
            form.rewritten(
                form.form.model_copy(
                    update={
                        "rules": tuple(
                            rule
                            for rule in form.form.rules
                            if rule.kind not in CHECK_KINDS or rule.key in touched
                        )
                    }
                )
            ),
            look,
        )
        for form in (look.form, compiled)
    )
    return before, after


class _Watcher:
    """What anybody sees of records of one writing of the form."""

    def __init__(self, form: CompiledForm, look: SearchContext) -> None:
        self.form = form
        events: tuple[Event, ...] = ("create", "update")
        self._under = {event: under_which(form, look, event) for event in events}
        self._screeners = {key: form.screener_of(one) for key, one in self._under.items()}

    def _read(self, values: Values, stored: Values | None) -> tuple[ReadRecord, Event]:
        record = self.form.read(values, stored=stored, lookup=CaseRecords(self.form, ()))
        return record, "create" if stored is None else "update"

    def judged(self, values: Values, stored: Values | None) -> Judgement:
        """A record, judged."""
        record, event = self._read(values, stored)
        return self.form.judged(JudgeRequest(record, self._under[event]))

    def sees(self, values: Values, stored: Values | None) -> Any:
        """All that is seen of a record, but which rule says so."""
        record, event = self._read(values, stored)
        form, circumstances = self.form, self._under[event]
        settled = form.settled(record, circumstances)
        screened = self._screeners[event].screen(record, settled)
        violated = [(one, form.usable[one.rule].check_rule) for one in screened.violations]
        reasons = any(
            rule.reason_required and "warn" in (one.save, one.submit) for one, rule in violated
        )
        return (
            (screened.save, screened.submit, any(one.enters_hold for one, _ in violated), reasons),
            (frozenset(settled.closed), frozenset(settled.locked), frozenset(settled.waiting)),
            {key: settled.value_of(key) for key in form.fields},
            [(one.rule, one.state) for one in form.offered(settled, circumstances)],
        )
