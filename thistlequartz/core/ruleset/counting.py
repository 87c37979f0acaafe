"""For whom, where and when a rule counts, in the words that begin its sentence."""

from collections.abc import Iterable, Mapping

from thistlequartz.core.enumerations import EntryPoint, Event
from thistlequartz.core.kinds import Rule
from thistlequartz.core.values import show_value

EVENT_WORDS: dict[Event, str] = {"create": "new records", "update": "changed records"}
ENTRY_POINT_WORDS: dict[EntryPoint, str] = {
    "desk": "at the desk",
    "handheld": "on a hand-held",
    "link": "through a link",
    "import": "by import",
    "service": "by a service",
}


def counting_words(rule: Rule, layouts: Mapping[str, str]) -> str:
    """“for new records only, at the desk, from 1 December 2026”; blank where it always counts."""
    scope = rule.scope
    said = []
    if len(scope.events) == 1:
        said.append(f"for {EVENT_WORDS[scope.events[0]]} only")
    if scope.roles:
        said.append(f"for the role {either(scope.roles)}")
    if scope.entry_points:
        said.append(either(ENTRY_POINT_WORDS[one] for one in scope.entry_points))
    if scope.layouts:
        said.append(f"on {either(layouts.get(key, key) for key in scope.layouts)}")
    if scope.derived_forms:
        said.append("on derived forms too")
    if rule.in_force_from:
        said.append(f"from {show_value(rule.in_force_from)}")
    if rule.in_force_to:
        said.append(f"until {show_value(rule.in_force_to)}")
    return ", ".join(said)


def either(labels: Iterable[str]) -> str:
    """“A, B or C”."""
    *others, last = labels
    return f"{', '.join(others)} or {last}" if others else last
