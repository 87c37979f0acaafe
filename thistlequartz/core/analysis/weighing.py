"""Stored records judged by two versions of a form: what the second would newly stop, warn of or let
pass, by rule, and which records.

Each record is judged as it is, as a change that changes nothing. Rules that look at other records
are left out: their answers hang on more than the record, and a release looks at those itself.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Final, Literal, NamedTuple

from thistlequartz.core.judging import CompiledForm, Lookup, Screened, Screener, compile_ruleset
from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.ruleset import SEVERITIES, Outcome, RuleSet, Severity

Moment = Literal["save", "submit"]
_MOMENTS: tuple[Moment, ...] = ("save", "submit")
_SILENT: Final[Mapping[Moment, Severity]] = {"save": "off", "submit": "off"}
SHOWN: Final = 200
"""Numbers of records that are kept for each count."""


class Stored(NamedTuple):
    """A stored record: its number, and its values in canonical form."""

    number: int
    values: Mapping[str, object]
    lookup: Lookup | None = None
    """For the records it refers to."""


@dataclass(slots=True)
class Counted:
    """How many records, and the first of them by number."""

    count: int = 0
    numbers: list[int] = field(default_factory=list)

    def add(self, number: int) -> None:
        """One more."""
        self.count += 1
        if len(self.numbers) < SHOWN:
            self.numbers.append(number)


def _at_both() -> dict[Moment, Counted]:
    return {moment: Counted() for moment in _MOMENTS}


@dataclass(slots=True)
class RuleWeight:
    """What becomes of one rule over all records."""

    rule: str
    name: str
    newly: Counted = field(default_factory=Counted)
    """Broken by the second version and not by the first."""
    no_longer: Counted = field(default_factory=Counted)
    harder: Counted = field(default_factory=Counted)
    """Broken by both, and spoken of harder by the second at one moment or the other."""
    stops: dict[Moment, int] = field(default_factory=lambda: dict.fromkeys(_MOMENTS, 0))
    """How many the rule stops at each moment, and did not before."""


@dataclass(slots=True)
class Weight:
    """What the second version means for all records together."""

    records: int = 0
    newly_refused: dict[Moment, Counted] = field(default_factory=_at_both)
    """Which went through and would be stopped now, as they are."""
    newly_warned: dict[Moment, Counted] = field(default_factory=_at_both)
    no_longer_refused: dict[Moment, Counted] = field(default_factory=_at_both)
    rules: dict[str, RuleWeight] = field(default_factory=dict)
    left_out: tuple[str, ...] = ()
    """The names of the rules that look at other records."""


class Scales:
    """Weighs records between two versions of the form with a key."""

    def __init__(self, before: RuleSet, after: RuleSet, key: str, now: datetime) -> None:
        self._sides = (_Side(before, key, now), _Side(after, key, now))
        names = {**self._sides[0].names, **self._sides[1].names}
        self._names = names
        left_out = self._sides[0].left_out | self._sides[1].left_out
        self.weight = Weight(left_out=tuple(sorted(left_out)))

    def weigh(self, records: Iterable[Stored]) -> Iterator[int]:
        """Take each record into account; gives its number when that is done."""
        for record in records:
            before, after = (side.screen(record) for side in self._sides)
            self._count(record.number, before, after)
            yield record.number

    def _count(self, number: int, before: Screened, after: Screened) -> None:
        weight = self.weight
        weight.records += 1
        for moment in _MOMENTS:
            was: Outcome = getattr(before, moment)
            now: Outcome = getattr(after, moment)
            if now == "blocked" and was != "blocked":
                weight.newly_refused[moment].add(number)
            elif was == "blocked" and now != "blocked":
                weight.no_longer_refused[moment].add(number)
            elif now == "warned" and was in ("clear", "noted"):
                weight.newly_warned[moment].add(number)
        broken, breaks = _broken(before), _broken(after)
        for rule, severities in breaks.items():
            before_that = broken.get(rule, _SILENT)
            if rule not in broken:
                self._rule(rule).newly.add(number)
            elif any(_hard(severities[one]) > _hard(before_that[one]) for one in _MOMENTS):
                self._rule(rule).harder.add(number)
            for moment in _MOMENTS:
                if severities[moment] == "block" != before_that[moment]:
                    self._rule(rule).stops[moment] += 1
        for rule in broken.keys() - breaks.keys():
            self._rule(rule).no_longer.add(number)

    def _rule(self, rule: str) -> RuleWeight:
        if rule not in self.weight.rules:
            self.weight.rules[rule] = RuleWeight(rule, self._names[rule])
        return self.weight.rules[rule]


def _hard(severity: Severity) -> int:
    return SEVERITIES.index(severity)


def _broken(screened: Screened) -> dict[str, dict[Moment, Severity]]:
    return {one.rule: {"save": one.save, "submit": one.submit} for one in screened.violations}


class _Side:
    """One version, without the rules that look at other records."""

    def __init__(self, ruleset: RuleSet, key: str, now: datetime) -> None:
        whole = compile_ruleset(ruleset, form=key)
        self.names = {one.rule.key: one.rule.name for one in whole.rules}
        others = {
            one.rule.key
            for one in whole.rules
            if one.rule.kind in CHECK_KINDS and CHECK_KINDS[one.rule.kind].other_records
        }
        self.left_out = {self.names[one] for one in others}
        self._form: CompiledForm = compile_ruleset(_without(ruleset, key, others), form=key)
        self._screener: Screener = self._form.screener(
            today=self._form.today_at(now), now=now, event="update", role="clerk"
        )

    def screen(self, record: Stored) -> Screened:
        """The record as it is, as a change that changes nothing."""
        form, values = self._form, record.values
        read = form.read(form.as_entered(values), stored=values, lookup=record.lookup)
        return self._screener.screen(read)


def _without(ruleset: RuleSet, key: str, rules: set[str]) -> RuleSet:
    forms = tuple(
        form.model_copy(update={"rules": tuple(r for r in form.rules if r.key not in rules)})
        if form.key == key
        else form
        for form in ruleset.forms
    )
    return ruleset.model_copy(update={"forms": forms})
