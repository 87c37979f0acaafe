"""Where and when a rule counts, and why not elsewhere."""

from thistlequartz.core.judging.circumstances import Circumstances
from thistlequartz.core.ruleset import ENTRY_POINT_WORDS, EVENT_WORDS, Rule, either
from thistlequartz.core.values import show_value


def switched_off() -> str:
    """The rule is switched off."""
    return "The rule is switched off."


def out_of_scope(rule: Rule, circumstances: Circumstances) -> str | None:
    """Why the rule is out of scope and now; None where it does."""
    scope, today = rule.scope, circumstances.today
    if scope.events and circumstances.event not in scope.events:
        return f"It counts for {EVENT_WORDS[scope.events[0]]} only."
    if scope.entry_points and circumstances.entry_point not in scope.entry_points:
        where = either(ENTRY_POINT_WORDS[one] for one in scope.entry_points)
        return f"It counts only {where}."
    if scope.layouts and circumstances.layout not in scope.layouts:
        return f"It counts on the layout {either(scope.layouts)} only."
    if scope.roles and circumstances.role not in scope.roles:
        return f"It counts for the role {either(scope.roles)} only."
    if rule.in_force_from and today < rule.in_force_from:
        return f"It counts from {show_value(rule.in_force_from)} on."
    if rule.in_force_to and today > rule.in_force_to:
        return f"It counted until {show_value(rule.in_force_to)}."
    return None
