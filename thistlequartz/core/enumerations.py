"""The closed lists of the product: severities, outcomes, moments, entry points, roles, statuses.

The schemas of documents, the API and the web take them from here.
"""

from collections.abc import Iterable
from typing import Literal, get_args

Severity = Literal["none", "note", "warn", "block"]
SEVERITIES: tuple[Severity, ...] = get_args(Severity)
"""From the mildest to the hardest."""
EntrySeverity = Literal["none", "note", "warn"]
Outcome = Literal["clear", "noted", "warned", "blocked"]
OUTCOMES: tuple[Outcome, ...] = get_args(Outcome)
"""In the order of the severities that make them."""
Moment = Literal["entry", "save", "submit"]
MOMENTS: tuple[Moment, ...] = get_args(Moment)
StoringMoment = Literal["save", "submit"]
STORING_MOMENTS: tuple[StoringMoment, ...] = get_args(StoringMoment)
Placement = Literal["field", "top", "both"]
Event = Literal["create", "update"]
EVENTS: tuple[Event, ...] = get_args(Event)
Status = Literal[
    "unfinished",
    "disabled",
    "out_of_scope",
    "not_relevant",
    "silent",
    "not_applicable",
    "not_evaluable",
    "violated",
    "satisfied",
]
"""The first that fits is a rule's status at a moment. An effect that applies is satisfied."""
STATUSES: tuple[Status, ...] = get_args(Status)
EntryPoint = Literal["desk", "handheld", "link", "import", "service"]
ENTRY_POINTS: tuple[EntryPoint, ...] = get_args(EntryPoint)
Role = Literal["steward", "clerk", "approver", "reader"]
ROLES: tuple[Role, ...] = get_args(Role)
STORING_ROLES: tuple[Role, ...] = ("clerk", "approver", "steward")
"""The roles that store records, the most usual first."""


def hardest(severities: Iterable[Severity]) -> Severity:
    """Return the hardest of some severities; `none` of none."""
    return max(severities, key=hardness, default="none")


def hardness(severity: Severity) -> int:
    """Return a number that is the higher, the harder a severity is."""
    return SEVERITIES.index(severity)


def outcome_of(severities: Iterable[Severity]) -> Outcome:
    """Return the outcome of a moment at which rules are violated with these severities."""
    return OUTCOMES[hardness(hardest(severities))]
