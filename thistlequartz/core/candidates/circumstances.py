"""Circumstances in which a rule counts."""

from dataclasses import replace
from datetime import date

from thistlequartz.core.ruleset import Rule

from .baseline import Baseline


def in_scope(baseline: Baseline, rule: Rule) -> Baseline:
    """The same record under circumstances in which `rule` counts, changed only where it must be.

    For a rule that counts for changed records only, the record is one that held the same before.
    """
    around = baseline.around
    here, scope = around.circumstances, rule.scope
    changes: dict[str, object] = {}
    if scope.events and here.event not in scope.events:
        changes["event"] = scope.events[0]
    if scope.entry_points and here.entry_point not in scope.entry_points:
        changes["entry_point"] = scope.entry_points[0]
    if scope.layouts and here.layout not in scope.layouts:
        changes["layout"] = scope.layouts[0]
    if scope.roles and here.role not in scope.roles:
        changes["role"] = scope.roles[0]
    today = _day_in_force(rule, here.today)
    if today != here.today:
        changes["today"] = today
        if here.now is not None:
            changes["now"] = here.now.replace(year=today.year, month=today.month, day=today.day)
    if not changes:
        return baseline
    circumstances = replace(here, **changes)  # type: ignore[arg-type]
    stored = around.stored
    if circumstances.event == "update" and stored is None:
        stored = dict(around.values)
    if circumstances.event == "create":
        stored = None
    return replace(baseline, around=replace(around, circumstances=circumstances, stored=stored))


def _day_in_force(rule: Rule, today: date) -> date:
    if rule.in_force_from and today < rule.in_force_from:
        return rule.in_force_from
    if rule.in_force_to and today > rule.in_force_to:
        return rule.in_force_to
    return today
