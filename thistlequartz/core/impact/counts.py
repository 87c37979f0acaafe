"""The impact of a version on stored records: how many, by moment, rule and field."""

from dataclasses import dataclass, field
from typing import Final

from thistlequartz.core.enumerations import STORING_MOMENTS, StoringMoment

NUMBERS_KEPT: Final = 10_000
"""Numbers of records that are kept for each count."""


@dataclass(slots=True)
class RecordCount:
    """How many records, and the first of them by number."""

    count: int = 0
    numbers: list[int] = field(default_factory=list)

    def add(self, number: int) -> None:
        """One more."""
        self.count += 1
        if len(self.numbers) < NUMBERS_KEPT:
            self.numbers.append(number)

    def add_all(self, more: "RecordCount") -> None:
        """Those counted of later records."""
        self.count += more.count
        self.numbers.extend(more.numbers[: NUMBERS_KEPT - len(self.numbers)])


def _none() -> dict[StoringMoment, int]:
    return dict.fromkeys(STORING_MOMENTS, 0)


def _at_both() -> dict[StoringMoment, RecordCount]:
    return {moment: RecordCount() for moment in STORING_MOMENTS}


@dataclass(slots=True)
class RuleImpact:
    """What becomes of one rule over all records."""

    rule: str
    name: str
    other_records: bool = False
    """Whether it asks what other records hold."""
    newly: RecordCount = field(default_factory=RecordCount)
    """Violated by the second version and not by the first."""
    no_longer: RecordCount = field(default_factory=RecordCount)
    harder: RecordCount = field(default_factory=RecordCount)
    """Violated by both, and spoken of harder by the second at one moment or the other."""
    stops: dict[StoringMoment, int] = field(
        default_factory=lambda: dict.fromkeys(STORING_MOMENTS, 0)
    )
    """How many the rule stops at each moment, and did not before."""
    warns: dict[StoringMoment, int] = field(
        default_factory=lambda: dict.fromkeys(STORING_MOMENTS, 0)
    )
    """How many it newly warns of, likewise."""

    def add_all(self, more: "RuleImpact") -> None:
        """What becomes of it over later records."""
        self.newly.add_all(more.newly)
        self.no_longer.add_all(more.no_longer)
        self.harder.add_all(more.harder)
        for moment in STORING_MOMENTS:
            self.stops[moment] += more.stops[moment]
            self.warns[moment] += more.warns[moment]


@dataclass(slots=True)
class DroppedField:
    """Of how many records the second version would drop what they hold in a field."""

    key: str
    label: str
    records: RecordCount = field(default_factory=RecordCount)


@dataclass(slots=True)
class Impact:
    """What the second version means for all records together."""

    records: int = 0
    newly_refused: dict[StoringMoment, RecordCount] = field(default_factory=_at_both)
    """Which went through and would be stopped now, as they are."""
    newly_warned: dict[StoringMoment, RecordCount] = field(default_factory=_at_both)
    no_longer_refused: dict[StoringMoment, RecordCount] = field(default_factory=_at_both)
    rules: dict[str, RuleImpact] = field(default_factory=dict)
    lost: dict[str, DroppedField] = field(default_factory=dict)
    """By field: what the second version drops when a record is next saved, and the first kept."""
    narrowed: bool = False
    """Whether only what differs was judged first."""

    def add_all(self, more: "Impact") -> None:
        """What it means for later records."""
        self.records += more.records
        for moment in STORING_MOMENTS:
            self.newly_refused[moment].add_all(more.newly_refused[moment])
            self.newly_warned[moment].add_all(more.newly_warned[moment])
            self.no_longer_refused[moment].add_all(more.no_longer_refused[moment])
        for key, rule in more.rules.items():
            if key in self.rules:
                self.rules[key].add_all(rule)
            else:
                self.rules[key] = rule
        for key, lost in more.lost.items():
            self.lost.setdefault(key, DroppedField(key, lost.label)).records.add_all(lost.records)
