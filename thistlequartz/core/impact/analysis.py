"""Impact analysis: stored records judged by two versions of a form, compared by rule.

What the second version would newly refuse, warn of or let pass, and which values it would lose.

Each record is judged as it is, as a change that changes nothing, and sees the others as the version
settles them. Where the versions differ only in
checks, a record is first judged by these alone, and by all rules only where they tell otherwise.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Final, Literal, NamedTuple

from thistlequartz.core.judging import (
    Circumstances,
    CompiledForm,
    Lookup,
    ReadRecord,
    RecordSettling,
    Screened,
    Settled,
    compile_ruleset,
    settled_by,
    settles_like,
)
from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.ruleset import SEVERITIES, Outcome, RuleSet, Severity
from thistlequartz.core.versions.differing_rules import differing_checks, only_rules

Moment = Literal["save", "submit"]
_MOMENTS: tuple[Moment, ...] = ("save", "submit")
_SILENT: Final[Mapping[Moment, Severity]] = {"save": "none", "submit": "none"}
NUMBERS_KEPT: Final = 10_000
"""Numbers of records that are kept for each count."""


class ImpactRecord(NamedTuple):
    """A stored record: its number, and its values in canonical form."""

    number: int
    values: Mapping[str, object]
    lookup: Lookup | None = None
    """For the records it refers to, and those beside it; the record itself is not among them."""


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


def _at_both() -> dict[Moment, RecordCount]:
    return {moment: RecordCount() for moment in _MOMENTS}


@dataclass(slots=True)
class RuleImpact:
    """What becomes of one rule over all records."""

    rule: str
    name: str
    other_records: bool = False
    """Whether it asks what other records hold."""
    newly: RecordCount = field(default_factory=RecordCount)
    """Broken by the second version and not by the first."""
    no_longer: RecordCount = field(default_factory=RecordCount)
    harder: RecordCount = field(default_factory=RecordCount)
    """Broken by both, and spoken of harder by the second at one moment or the other."""
    stops: dict[Moment, int] = field(default_factory=lambda: dict.fromkeys(_MOMENTS, 0))
    """How many the rule stops at each moment, and did not before."""
    warns: dict[Moment, int] = field(default_factory=lambda: dict.fromkeys(_MOMENTS, 0))
    """How many it newly warns of, likewise."""

    def add_all(self, more: "RuleImpact") -> None:
        """What becomes of it over later records."""
        self.newly.add_all(more.newly)
        self.no_longer.add_all(more.no_longer)
        self.harder.add_all(more.harder)
        for moment in _MOMENTS:
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
    newly_refused: dict[Moment, RecordCount] = field(default_factory=_at_both)
    """Which went through and would be stopped now, as they are."""
    newly_warned: dict[Moment, RecordCount] = field(default_factory=_at_both)
    no_longer_refused: dict[Moment, RecordCount] = field(default_factory=_at_both)
    rules: dict[str, RuleImpact] = field(default_factory=dict)
    lost: dict[str, DroppedField] = field(default_factory=dict)
    """By field: what the second version drops when a record is next saved, and the first kept."""
    narrowed: bool = False
    """Whether only what differs was judged first."""

    def add_all(self, more: "Impact") -> None:
        """What it means for later records."""
        self.records += more.records
        for moment in _MOMENTS:
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


class ImpactAnalysis:
    """Weighs records between two versions of the form with a key."""

    def __init__(self, before: RuleSet, after: RuleSet, key: str, now: datetime) -> None:
        differing = differing_checks(before, after, key)
        self._whole = (_Side(before, key, now), _Side(after, key, now))
        self._narrow: tuple[_Side, _Side] | None = None
        self._narrow_alike = False
        if differing is not None:
            kept = (only_rules(one, key, differing) for one in (before, after))
            first, second = (_Side(one, key, now) for one in kept)
            self._narrow, self._narrow_alike = (first, second), first.reads_as(second)
        first, second = self._whole
        if not settles_like(first.form, second.form):
            # What is stored is as the first version left it.
            second.settles_others()
        self.forms = (first.form, second.form)
        """The two versions, compiled."""
        self._names = {**first.names, **second.names}
        self._labels = {**second.labels, **first.labels}
        self._looking = first.looking | second.looking
        self._read_alike = first.reads_as(second)
        self.impact = Impact(narrowed=differing is not None)

    def run(self, records: Iterable[ImpactRecord]) -> Iterator[int]:
        """Take each record into account; gives its number when that is done."""
        for record in records:
            self.impact.records += 1
            if self._narrow is None or self._differ(record):
                before, after = self._screened(record)
                self._count(record.number, before.screened, after.screened)
                for key in after.lost - before.lost:
                    self._lost(key).records.add(record.number)
            yield record.number

    def _screened(self, record: ImpactRecord) -> "tuple[_Screening, _Screening]":
        first, second = self._whole
        read = first.read(record)
        before = first.screened(record, read)
        if not self._read_alike or second.settling is not None:
            read = second.read(record)
        return before, second.screened(record, read)

    def _differ(self, record: ImpactRecord) -> bool:
        """Whether the checks that differ tell something else of the record, or cannot be asked."""
        assert self._narrow is not None
        first, second = self._narrow
        read = first.read(record)
        settled = first.settled(read)
        before = first.screen(read, settled)
        # What has an effect is the same, and so are the fields; but one may be entered twice now.
        if not self._narrow_alike:
            read = second.read(record)
            settled = second.settled(read)
        return _broken(before) != _broken(second.screen(read, settled))

    def _count(self, number: int, before: Screened, after: Screened) -> None:
        impact = self.impact
        for moment in _MOMENTS:
            was: Outcome = getattr(before, moment)
            now: Outcome = getattr(after, moment)
            if now == "blocked" and was != "blocked":
                impact.newly_refused[moment].add(number)
            elif was == "blocked" and now != "blocked":
                impact.no_longer_refused[moment].add(number)
            elif now == "warned" and was in ("clear", "noted"):
                impact.newly_warned[moment].add(number)
        violated, breaks = _broken(before), _broken(after)
        for rule, severities in breaks.items():
            before_that = violated.get(rule, _SILENT)
            if rule not in violated:
                self._rule(rule).newly.add(number)
            elif any(_hard(severities[one]) > _hard(before_that[one]) for one in _MOMENTS):
                self._rule(rule).harder.add(number)
            for moment in _MOMENTS:
                if severities[moment] != before_that[moment]:
                    self._rule(rule).stops[moment] += severities[moment] == "block"
                    self._rule(rule).warns[moment] += severities[moment] == "warn"
        for rule in violated.keys() - breaks.keys():
            self._rule(rule).no_longer.add(number)

    def _rule(self, rule: str) -> RuleImpact:
        if rule not in self.impact.rules:
            looks = rule in self._looking
            self.impact.rules[rule] = RuleImpact(rule, self._names[rule], looks)
        return self.impact.rules[rule]

    def _lost(self, key: str) -> DroppedField:
        return self.impact.lost.setdefault(key, DroppedField(key, self._labels.get(key, key)))


def _hard(severity: Severity) -> int:
    return SEVERITIES.index(severity)


def _broken(screened: Screened) -> dict[str, dict[Moment, Severity]]:
    return {one.rule: {"save": one.save, "submit": one.submit} for one in screened.violations}


class _Screening(NamedTuple):
    """What one version says of a record, and the fields whose values it would drop."""

    screened: Screened
    lost: frozenset[str]


class _Side:
    """One version."""

    def __init__(self, ruleset: RuleSet, key: str, now: datetime) -> None:
        self.form: CompiledForm = compile_ruleset(ruleset, form=key)
        self.names = {one.rule.key: one.rule.name for one in self.form.rules}
        self.labels = {key: one.label for key, one in self.form.fields.items()}
        self.looking = frozenset(
            one.rule.key
            for one in self.form.rules
            if one.rule.kind in CHECK_KINDS and CHECK_KINDS[one.rule.kind].other_records
        )
        self._circumstances = Circumstances(
            self.form.today_at(now), now, event="update", role="clerk"
        )
        self._screener = self.form.screener_of(self._circumstances)
        self._settles = bool(self.form.program(self._circumstances).plans)
        self._reading = (self.form.fields, self.form.form.fields, self.form.twice)
        self._keeping = frozenset(one.key for one in self.form.form.fields if one.keep)
        self.settling: RecordSettling | None = None
        """How it settles the records beside the one that is judged; None: they are as stored."""

    def settles_others(self) -> None:
        """From now on look at other records as this version settles them."""
        self.settling = RecordSettling(self.form, self._circumstances)

    def reads_as(self, other: "_Side") -> bool:
        """Whether both versions read a record alike."""
        return self._reading == other._reading

    def read(self, record: ImpactRecord) -> ReadRecord:
        """The record as it is, as a change that changes nothing."""
        form, values, lookup = self.form, record.values, record.lookup
        if lookup is not None and self.settling is not None:
            lookup = settled_by(lookup, self.settling)
        return form.read(form.as_entered(values), stored=values, lookup=lookup)

    def settled(self, read: ReadRecord) -> Settled | None:
        """The states of its fields, where a rule decides any."""
        return self.form.settled(read, self._circumstances) if self._settles else None

    def screen(self, read: ReadRecord, settled: Settled | None) -> Screened:
        """What is violated, and how it goes at both moments."""
        return self._screener.screen(read, settled)

    def screened(self, record: ImpactRecord, read: ReadRecord) -> _Screening:
        """The same, and what would be dropped."""
        settled = self.settled(read)
        screened = self.screen(read, settled)
        gone = record.values.keys() - self.form.fields.keys()
        closed = settled.closed.keys() - self._keeping if settled is not None else ()
        held = (key for key in closed if record.values.get(key) is not None)
        return _Screening(screened, frozenset((*gone, *held)))
