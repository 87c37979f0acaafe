"""For whom, where and when a rule counts, in the words that begin its sentence."""

from collections.abc import Mapping

from thistlequartz.core.enumerations import EntryPoint, Event
from thistlequartz.core.kinds import Rule
from thistlequartz.core.translation import BETWEEN, listed, tr
from thistlequartz.core.types import show_value

ONLY_FOR_EVENT: dict[Event, str] = {
    "create": tr("for new records only"),
    "update": tr("for changed records only"),
}
ENTRY_POINT_WORDS: dict[EntryPoint, str] = {
    "desk": tr("at the desk"),
    "handheld": tr("on a hand-held"),
    "link": tr("through a link"),
    "import": tr("by import"),
    "service": tr("by a service"),
}


def counting_words(rule: Rule, layouts: Mapping[str, str]) -> str:
    """“for new records only, at the desk, from 1 December 2026”; blank where it always counts."""
    scope = rule.scope
    said = []
    if len(scope.events) == 1:
        said.append(ONLY_FOR_EVENT[scope.events[0]])
    if scope.roles:
        said.append(tr("for the role {roles}", roles=listed(scope.roles, "or")))
    if scope.entry_points:
        said.append(listed((ENTRY_POINT_WORDS[one] for one in scope.entry_points), "or"))
    if scope.layouts:
        said.append(
            tr(
                "on {layouts}",
                layouts=listed((layouts.get(key, key) for key in scope.layouts), "or"),
            )
        )
    if scope.derived_forms:
        said.append(tr("on derived forms too"))
    if rule.in_force_from:
        said.append(tr("from {in_force_from}", in_force_from=show_value(rule.in_force_from)))
    if rule.in_force_to:
        said.append(tr("until {in_force_to}", in_force_to=show_value(rule.in_force_to)))
    return BETWEEN.join(said)
