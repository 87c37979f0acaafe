"""Where and when a rule counts, and why not elsewhere."""

from thistlequartz.core.judging.circumstances import Circumstances
from thistlequartz.core.ruleset import ENTRY_POINT_WORDS, ONLY_FOR_EVENT, Rule
from thistlequartz.core.translation import listed, tr
from thistlequartz.core.types import show_value


def switched_off() -> str:
    """The rule is switched off."""
    return tr("The rule is switched off.")


def out_of_scope(rule: Rule, circumstances: Circumstances) -> str | None:
    """Why the rule is out of scope and now; None where it does."""
    scope, today = rule.scope, circumstances.today
    if scope.events and circumstances.event not in scope.events:
        return tr("It counts {scope}.", scope=ONLY_FOR_EVENT[scope.events[0]])
    if scope.entry_points and circumstances.entry_point not in scope.entry_points:
        where = listed((ENTRY_POINT_WORDS[one] for one in scope.entry_points), "or")
        return tr("It counts only {where}.", where=where)
    if scope.layouts and circumstances.layout not in scope.layouts:
        return tr("It counts on the layout {layouts} only.", layouts=listed(scope.layouts, "or"))
    if scope.roles and circumstances.role not in scope.roles:
        return tr("It counts for the role {roles} only.", roles=listed(scope.roles, "or"))
    if rule.in_force_from and today < rule.in_force_from:
        return tr(
            "It counts from {in_force_from} on.", in_force_from=show_value(rule.in_force_from)
        )
    if rule.in_force_to and today > rule.in_force_to:
        return tr("It counted until {in_force_to}.", in_force_to=show_value(rule.in_force_to))
    return None
