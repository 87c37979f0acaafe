"""Why a rule has its status, in words and values."""

from collections.abc import Mapping, Sequence

from thistlequartz.core.expression import Vocabulary
from thistlequartz.core.ruleset import Event, Moment, Rule
from thistlequartz.core.values import Fault, Reading, show_value

from .circumstances import Circumstances

MOMENT_WORDS: dict[Moment, str] = {
    "entry": "while typing",
    "save": "on saving",
    "submit": "on submitting",
}


EVENT_WORDS: dict[Event, str] = {"create": "new records", "update": "changed records"}


def switched_off() -> str:
    """The rule is switched off."""
    return "The rule is switched off."


def out_of_scope(rule: Rule, circumstances: Circumstances) -> str | None:
    """Why the rule does not count here and now; None where it does."""
    scope, today = rule.scope, circumstances.today
    if scope.events and circumstances.event not in scope.events:
        return f"It counts for {EVENT_WORDS[scope.events[0]]} only."
    if scope.entry_points and circumstances.entry_point not in scope.entry_points:
        return f"It counts for entries by {_either(list(scope.entry_points))} only."
    if scope.roles and circumstances.role not in scope.roles:
        return f"It counts for the role {_either(list(scope.roles))} only."
    if rule.in_force_from and today < rule.in_force_from:
        return f"It counts from {show_value(rule.in_force_from)} on."
    if rule.in_force_to and today > rule.in_force_to:
        return f"It counted until {show_value(rule.in_force_to)}."
    return None


def silent_by_setting(moment: Moment) -> str:
    """The rule has no severity at the moment."""
    return f"It is set to say nothing {MOMENT_WORDS[moment]}."


def silent_until_touched(reads: Sequence[str], vocabulary: Vocabulary) -> str:
    """While typing, no field of the rule has been left yet."""
    return f"It speaks once {_either([vocabulary[key].label for key in reads])} has been left."


def does_not_apply(
    condition: str,
    governors: Sequence[str],
    readings: Mapping[str, Reading],
    vocabulary: Vocabulary,
) -> str:
    """The condition, in words, is not met; with the values that decide it."""
    return f"Only when {condition}. Here {_values(governors, readings, vocabulary)}."


def nothing_to_judge(
    fields: Sequence[str], readings: Mapping[str, Reading], vocabulary: Vocabulary
) -> str:
    """Blank or unreadable values leave nothing to judge."""
    wanting = [key for key in fields if readings.get(key) is None] or [
        key for key in fields if isinstance(readings.get(key), Fault)
    ]
    if not wanting:
        return "Its condition has no answer for these values."
    return _sentence(_values(wanting, readings, vocabulary))


def judged(fields: Sequence[str], readings: Mapping[str, Reading], vocabulary: Vocabulary) -> str:
    """The values that a broken or kept rule was judged by."""
    return _sentence(_values(fields, readings, vocabulary) or "no values decide it")


def _sentence(said: str) -> str:
    return f"{said[:1].upper()}{said[1:]}."


def _values(keys: Sequence[str], readings: Mapping[str, Reading], vocabulary: Vocabulary) -> str:
    parts = []
    for key in keys:
        declared, value = vocabulary[key], readings.get(key)
        shown = "unreadable" if isinstance(value, Fault) else show_value(value, declared.type)
        parts.append(f"{declared.label} is {shown}")
    return " and ".join([", ".join(parts[:-1]), parts[-1]]) if len(parts) > 1 else "".join(parts)


def _either(labels: list[str]) -> str:
    return " or ".join([", ".join(labels[:-1]), labels[-1]]) if len(labels) > 1 else "".join(labels)
