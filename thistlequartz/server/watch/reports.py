"""Counts in sum: by rule and time, by release, person and entry point; holds by age."""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any, Final

from django.db.models import Count, Sum
from django.utils import timezone

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.records.models import Record
from thistlequartz.server.releases.models import Release

from .models import AttemptCount, GivenReason, RuleCount

WORDS: Final = ("noted", "warned", "blocked", "passed", "waived")
BY_DAY_UP_TO: Final = 45
"""Days; of a longer time whole weeks are told."""
WAVED: Final = 0.9
"""The share of warnings passed from which a rule counts as one that everybody waves through."""
WAVED_FROM: Final = 10
"""Fewer warnings say nothing of that."""
AGES: Final = (7, 30, 90)
"""Days by which holds are told apart."""
REASONS_TOLD: Final = 20


@dataclass(frozen=True, slots=True)
class WatchQuery:
    """What is looked at; what is None does not narrow it."""

    form: DraftForm
    since: date
    until: date
    release: int | None = None
    entry_point: str | None = None
    person: str | None = None

    def where(self) -> dict[str, Any]:
        """The same for the tables."""
        wanted: dict[str, Any] = {"form": self.form, "day__range": (self.since, self.until)}
        if self.release is not None:
            wanted["release__number"] = self.release
        if self.entry_point is not None:
            wanted["entry_point"] = self.entry_point
        if self.person is not None:
            wanted["person__username"] = self.person
        return wanted

    @property
    def step(self) -> int:
        """How many days one period has."""
        return 1 if (self.until - self.since).days < BY_DAY_UP_TO else 7

    def periods(self) -> list[date]:
        """The first day of each period, weeks from Monday on."""
        begin = self.period_of(self.since)
        days = (self.until - begin).days
        return [begin + timedelta(days=one) for one in range(0, days + 1, self.step)]

    def period_of(self, day: date) -> date:
        """The period a day is in."""
        return day if self.step == 1 else day - timedelta(days=day.weekday())


@dataclass(slots=True)
class RuleCounts:
    """How often one rule spoke, in all and by period."""

    total: Counter[str] = field(default_factory=Counter)
    by_period: defaultdict[date, Counter[str]] = field(default_factory=lambda: defaultdict(Counter))
    last: date | None = None

    @property
    def waved_through(self) -> bool:
        """Whether nearly everybody goes past its warnings."""
        soft = self.total["noted"] + self.total["warned"]
        return (
            soft >= WAVED_FROM
            and self.total["blocked"] == 0
            and self.total["passed"] >= WAVED * soft
        )


def attempts_by_period(watched: WatchQuery) -> dict[date, tuple[int, int]]:
    """By period, how often it was tried, and how often stopped."""
    rows = AttemptCount.objects.filter(**watched.where()).values("day").order_by()
    found: defaultdict[date, Counter[str]] = defaultdict(Counter)
    for row in rows.annotate(tries=Sum("tried"), stops=Sum("stopped")):
        found[watched.period_of(row["day"])] += Counter(tried=row["tries"], stopped=row["stops"])
    return {period: (one["tried"], one["stopped"]) for period, one in found.items()}


def rules_by_period(watched: WatchQuery) -> dict[str, RuleCounts]:
    """By rule, how often it spoke and what became of it."""
    rows = RuleCount.objects.filter(**watched.where()).values("rule_key", "day").order_by()
    found: defaultdict[str, RuleCounts] = defaultdict(RuleCounts)
    for row in _summed(rows):
        counts = _counter(row)
        one = found[row["rule_key"]]
        one.total.update(counts)
        one.by_period[watched.period_of(row["day"])].update(counts)
        one.last = max(one.last or row["day"], row["day"])
    return dict(found)


@dataclass(frozen=True, slots=True)
class RuleShare:
    """In how many of the attempts a rule spoke."""

    spoke: int
    tried: int


def shares_by_release(
    watched: WatchQuery, numbers: Iterable[int]
) -> dict[str, dict[int, RuleShare]]:
    """By rule and release, in how many of the attempts under it the rule spoke."""
    wanted = {**watched.where(), "release__number__in": list(numbers)}
    wanted.pop("release__number", None)
    tried: dict[int, int] = dict(
        AttemptCount.objects.filter(**wanted)
        .order_by()
        .values_list("release__number")
        .annotate(tries=Sum("tried"))
    )
    spoke: defaultdict[str, Counter[int]] = defaultdict(Counter)
    rows = RuleCount.objects.filter(**wanted).order_by().values("rule_key", "release__number")
    for row in _summed(rows):
        spoke[row["rule_key"]][row["release__number"]] += _times(_counter(row))
    return {
        rule: {number: RuleShare(counts[number], count) for number, count in tried.items()}
        for rule, counts in spoke.items()
    }


def told_apart(watched: WatchQuery, rule: str, by: str) -> list[tuple[str, Counter[str]]]:
    """How often a rule spoke by the values of a column, the most first."""
    rows = RuleCount.objects.filter(**watched.where(), rule_key=rule).order_by().values(by)
    found = [(str(row[by] or ""), _counter(row)) for row in _summed(rows)]
    return sorted(found, key=lambda one: -_times(one[1]))


def _summed(rows: Any) -> Any:
    """Grouped rows with each count summed."""
    return rows.annotate(**{f"{word}_in_all": Sum(word) for word in WORDS})


def _counter(row: Mapping[str, Any]) -> Counter[str]:
    return Counter({word: row[f"{word}_in_all"] for word in WORDS})


def _times(counts: Counter[str]) -> int:
    """How often it spoke, however hard."""
    return counts["noted"] + counts["warned"] + counts["blocked"]


def reasons_for(watched: WatchQuery, rule: str) -> list[tuple[str, int]]:
    """The reasons with which its warnings were passed, the most frequent first."""
    where = watched.where()
    where.pop("entry_point", None)
    rows = GivenReason.objects.filter(**where, rule_key=rule).order_by().values_list("text")
    return list(rows.annotate(times=Count("id")).order_by("-times", "text")[:REASONS_TOLD])


def holds_by_age(form: DraftForm, now: datetime | None = None) -> list[tuple[int, int | None, int]]:
    """How many records are on hold since how many days: (from, below, how many)."""
    now = now or timezone.now()
    ages = [
        (now - since).days
        for since in Record.objects.filter(form=form, on_hold=True).values_list(
            "held_since", flat=True
        )
        if since is not None
    ]
    bounds = (0, *AGES)
    return [
        (low, high, sum(low <= age < (high or age + 1) for age in ages))
        for low, high in zip(bounds, (*AGES, None), strict=True)
    ]


def releases_since(form: DraftForm) -> list[Mapping[str, Any]]:
    """The releases that came into force, oldest first, with when and why."""
    rows = Release.objects.filter(
        form=form, withdrawn_at=None, in_force_from__lte=timezone.now()
    ).order_by("number")
    return list(rows.values("number", "in_force_from", "note"))
