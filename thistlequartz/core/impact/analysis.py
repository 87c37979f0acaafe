"""Impact analysis: stored records judged by two versions of a form, compared by rule.

What the second version would newly refuse, warn of or let pass, and which values it would lose.

Each record is judged as it is, as a change that changes nothing, and sees the others as the version
settles them. Where the versions differ only in checks, a record is first judged by these alone, and
by all rules only where they tell otherwise.
"""

from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping
from datetime import datetime
from typing import Final, NamedTuple

from thistlequartz.core.enumerations import (
    STORING_MOMENTS,
    STORING_ROLES,
    Outcome,
    Severity,
    StoringMoment,
    hardness,
)
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
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.versions.differing_rules import differing_checks, only_rules

from .counts import DroppedField, Impact, RuleImpact

_SILENT: Final[Mapping[StoringMoment, Severity]] = {"save": "none", "submit": "none"}


class ImpactRecord(NamedTuple):
    """A stored record: its number, and its values in canonical form."""

    number: int
    values: Mapping[str, object]
    lookup: Lookup | None = None
    """For the records it refers to, and those beside it; the record itself is not among them."""
    role: str | None = STORING_ROLES[0]
    """Of whoever would store it next."""


class ImpactAnalysis:
    """Judges records by two versions of the form with a key, and compares.

    A record is judged by the role of whoever would store it next. Rules that are scoped to other
    roles are judged by these, and counted by rule alone.
    """

    def __init__(self, before: RuleSet, after: RuleSet, key: str, now: datetime) -> None:
        differing = differing_checks(before, after, key)
        self._whole = (_Version(before, key, now), _Version(after, key, now))
        self._narrow: tuple[_Version, _Version] | None = None
        self._narrow_alike = False
        if differing is not None:
            kept = (only_rules(one, key, differing) for one in (before, after))
            first, second = (_Version(one, key, now) for one in kept)
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
        self._roles = _roles_of_rules(first, second)
        self.impact = Impact(narrowed=differing is not None)

    def run(self, records: Iterable[ImpactRecord]) -> Iterator[int]:
        """Take each record into account; gives its number when that is done."""
        for record in records:
            self.impact.records += 1
            if self._narrow is None or self._differ(record):
                before, after = self._screened(record, record.role)
                self._count_outcomes(record.number, before.screened, after.screened)
                self._count_rules(record.number, before.screened, after.screened)
                for key in after.lost - before.lost:
                    self._lost(key).records.add(record.number)
                self._count_for_other_roles(record)
            yield record.number

    def _count_for_other_roles(self, record: ImpactRecord) -> None:
        """Count the rules that are out of scope for whoever would store the record."""
        by_role: defaultdict[str, set[str]] = defaultdict(set)
        for rule, roles in self._roles.items():
            if record.role not in roles:
                by_role[roles[0]].add(rule)
        for role, rules in by_role.items():
            before, after = self._screened(record, role)
            self._count_rules(record.number, before.screened, after.screened, rules)

    def _screened(self, record: ImpactRecord, role: str | None) -> "tuple[_Screening, _Screening]":
        first, second = self._whole
        read = first.read(record)
        before = first.as_role(role).screened(record, read)
        if not self._read_alike or second.settling is not None:
            read = second.read(record)
        return before, second.as_role(role).screened(record, read)

    def _differ(self, record: ImpactRecord) -> bool:
        """Whether the checks that differ tell something else of the record, or cannot be asked."""
        others = {roles[0] for roles in self._roles.values() if record.role not in roles}
        return any(self._differ_for(record, role) for role in (record.role, *sorted(others)))

    def _differ_for(self, record: ImpactRecord, role: str | None) -> bool:
        assert self._narrow is not None
        first, second = self._narrow
        read = first.read(record)
        settled = first.as_role(role).settled(read)
        before = first.as_role(role).screen(read, settled)
        # What has an effect is the same, and so are the fields; but one may be entered twice now.
        if not self._narrow_alike:
            read = second.read(record)
            settled = second.as_role(role).settled(read)
        return _violated(before) != _violated(second.as_role(role).screen(read, settled))

    def _count_outcomes(self, number: int, before: Screened, after: Screened) -> None:
        impact = self.impact
        for moment in STORING_MOMENTS:
            was: Outcome = getattr(before, moment)
            now: Outcome = getattr(after, moment)
            if now == "blocked" and was != "blocked":
                impact.newly_refused[moment].add(number)
            elif was == "blocked" and now != "blocked":
                impact.no_longer_refused[moment].add(number)
            elif now == "warned" and was in ("clear", "noted"):
                impact.newly_warned[moment].add(number)

    def _count_rules(
        self,
        number: int,
        before: Screened,
        after: Screened,
        rules: Collection[str] | None = None,
    ) -> None:
        was, now = (_violated(one, rules) for one in (before, after))
        for rule, severities in now.items():
            before_that = was.get(rule, _SILENT)
            if rule not in was:
                self._rule(rule).newly.add(number)
            elif any(
                hardness(severities[one]) > hardness(before_that[one]) for one in STORING_MOMENTS
            ):
                self._rule(rule).harder.add(number)
            for moment in STORING_MOMENTS:
                if severities[moment] != before_that[moment]:
                    self._rule(rule).stops[moment] += severities[moment] == "block"
                    self._rule(rule).warns[moment] += severities[moment] == "warn"
        for rule in was.keys() - now.keys():
            self._rule(rule).no_longer.add(number)

    def _rule(self, rule: str) -> RuleImpact:
        if rule not in self.impact.rules:
            looks = rule in self._looking
            self.impact.rules[rule] = RuleImpact(rule, self._names[rule], looks)
        return self.impact.rules[rule]

    def _lost(self, key: str) -> DroppedField:
        return self.impact.lost.setdefault(key, DroppedField(key, self._labels.get(key, key)))


def _violated(
    screened: Screened, rules: Collection[str] | None = None
) -> dict[str, dict[StoringMoment, Severity]]:
    """The violated rules, or those of some rules, with their severities."""
    return {
        one.rule: {"save": one.save, "submit": one.submit}
        for one in screened.violations
        if rules is None or one.rule in rules
    }


def _roles_of_rules(first: "_Version", second: "_Version") -> dict[str, tuple[str, ...]]:
    """The roles for which a rule is in scope in either version, by rules for which not all are."""
    found: dict[str, tuple[str, ...]] = {}
    for version in (first, second):
        for rule in version.checks:
            found[rule.key] = (*found.get(rule.key, ()), *rule.scope.roles)
    everybody = {
        rule.key for version in (first, second) for rule in version.checks if not rule.scope.roles
    }
    return {key: roles for key, roles in found.items() if key not in everybody}


class _Screening(NamedTuple):
    """What one version says of a record, and the fields whose values it would drop."""

    screened: Screened
    lost: frozenset[str]


class _Version:
    """One version of the form."""

    def __init__(self, ruleset: RuleSet, key: str, now: datetime) -> None:
        self.form: CompiledForm = compile_ruleset(ruleset, form=key)
        self.names = {one.rule.key: one.rule.name for one in self.form.rules}
        self.labels = {key: one.label for key, one in self.form.fields.items()}
        self.looking = frozenset(
            one.rule.key
            for one in self.form.rules
            if one.rule.kind in CHECK_KINDS and CHECK_KINDS[one.rule.kind].other_records
        )
        rules = (one.rule for one in self.form.rules if not one.is_effect)
        self.checks = [rule for rule in rules if rule.enabled]
        self._now = now
        self._reading = (self.form.fields, self.form.form.fields, self.form.twice)
        self._by_role: dict[str | None, _VersionForRole] = {}
        self.settling: RecordSettling | None = None
        """How it settles the records beside the one that is judged; None: they are as stored."""

    def as_role(self, role: str | None) -> "_VersionForRole":
        """What it says of records that somebody with a role changes."""
        if role not in self._by_role:
            self._by_role[role] = _VersionForRole(self.form, self._at(role))
        return self._by_role[role]

    def _at(self, role: str | None) -> Circumstances:
        return Circumstances(self.form.today_at(self._now), self._now, event="update", role=role)

    def settles_others(self) -> None:
        """From now on look at other records as this version settles them."""
        self.settling = RecordSettling(self.form, self._at(STORING_ROLES[0]))

    def reads_as(self, other: "_Version") -> bool:
        """Whether both versions read a record alike."""
        return self._reading == other._reading

    def read(self, record: ImpactRecord) -> ReadRecord:
        """The record as it is, as a change that changes nothing."""
        form, values, lookup = self.form, record.values, record.lookup
        if lookup is not None and self.settling is not None:
            lookup = settled_by(lookup, self.settling)
        return form.read(form.as_entered(values), stored=values, lookup=lookup)


class _VersionForRole:
    """One version, as it judges records that somebody with a role changes."""

    def __init__(self, form: CompiledForm, circumstances: Circumstances) -> None:
        self._form = form
        self._circumstances = circumstances
        self._screener = form.screener_of(circumstances)
        self._settles = bool(form.program(circumstances).plans)
        self._keeping = frozenset(one.key for one in form.form.fields if one.keep)

    def settled(self, read: ReadRecord) -> Settled | None:
        """The states of its fields, where a rule decides any."""
        return self._form.settled(read, self._circumstances) if self._settles else None

    def screen(self, read: ReadRecord, settled: Settled | None) -> Screened:
        """What is violated, and how it goes at both moments."""
        return self._screener.screen(read, settled)

    def screened(self, record: ImpactRecord, read: ReadRecord) -> _Screening:
        """The same, and what would be dropped."""
        settled = self.settled(read)
        screened = self.screen(read, settled)
        gone = record.values.keys() - self._form.fields.keys()
        closed = settled.closed.keys() - self._keeping if settled is not None else ()
        held = (key for key in closed if record.values.get(key) is not None)
        return _Screening(screened, frozenset((*gone, *held)))
