"""Watch."""

from collections import Counter
from collections.abc import Iterator, Mapping
from datetime import date, datetime, timedelta
from typing import Annotated, Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router
from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.translation import tr
from thistlequartz.server.activity.shapes import HistoryPerson
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.releases.services import compiled_release

from . import reports as reckoning
from .counting import UNREADABLE
from .models import AttemptCount
from .reports import WORDS, RuleCounts, RuleShare, WatchQuery

router = Router()
USUALLY = timedelta(days=182)
FURTHEST = timedelta(days=3_660)
CANNOT_BE_READ = tr("Something cannot be read")


class WatchFilter(BaseModel):
    """What is looked at; without days, the last half year."""

    model_config = ConfigDict(extra="forbid")
    since: date | None = None
    until: date | None = None
    release: Annotated[int, Field(ge=1)] | None = None
    entry_point: Annotated[str, Field(max_length=20)] | None = None
    person: Annotated[str, Field(max_length=150)] | None = None


class RuleCountsView(BaseModel):
    """How often a rule noted, warned and blocked, and how often that was waived."""

    noted: int
    warned: int
    blocked: int
    passed: int
    waived: int


class WatchPeriod(BaseModel):
    """How often records were tried in one period, from that day on, and how often stopped."""

    begins: date
    tried: int
    stopped: int


class RuleWatch(BaseModel):
    """One rule in force, or one that was."""

    rule: str
    """Blank: what cannot be read."""
    name: str
    in_force: bool
    total: RuleCountsView
    by_period: list[RuleCountsView]
    last: date | None
    """When it last spoke in the time that is looked at."""
    silent: bool
    """In force all the time, and it never spoke although records were tried."""
    waved_through: bool
    """Nearly everybody goes past its warnings."""


class ReleaseMark(BaseModel):
    """When a release came into force."""

    number: int
    since: datetime
    note: str


class ReleaseEffect(BaseModel):
    """In what share of the attempts a rule spoke before a release and after it."""

    rule: str
    name: str
    before: int
    tried_before: int
    after: int
    tried_after: int
    new: bool
    """Whether the release before it had no such rule in use."""


class HoldAge(BaseModel):
    """How many records are on hold since so many days."""

    from_days: int
    below_days: int | None
    records: int


class WatchView(BaseModel):
    """What the rules said, in all and by period."""

    since: date
    until: date
    weekly: bool
    """Whether a period is a week, from Monday on; else a day."""
    periods: list[WatchPeriod]
    rules: list[RuleWatch]
    releases: list[ReleaseMark]
    effects: list[ReleaseEffect]
    """What the release that is looked at, or the newest in force, changed."""
    effect_of: int | None
    holds: list[HoldAge]
    entry_points: list[str]
    people: list[HistoryPerson]


class RuleCountShare(BaseModel):
    """How often a rule spoke to somebody, or somewhere."""

    name: str
    counts: RuleCountsView


class WaiverReason(BaseModel):
    """A reason with which a warning was passed, and how often."""

    text: str
    times: int


class RuleDetails(BaseModel):
    """One rule, told apart."""

    by_person: list[RuleCountShare]
    by_entry_point: list[RuleCountShare]
    by_moment: list[RuleCountShare]
    by_release: list[RuleCountShare]
    reasons: list[WaiverReason]


@router.get("/forms/{form_key}/watch", response={200: WatchView})
def show_watch(request: HttpRequest, form_key: str, asked: Query[WatchFilter]) -> WatchView:
    """How often each rule spoke, warned, blocked and was gone past, over time."""
    person_with(request, Right.WATCH)
    draft = get_draft(form_key)
    watched = _watched(draft, asked)
    release = release_in_force(draft)
    compiled = compiled_release(release) if release else None
    found = reckoning.rules_by_period(watched)
    tried = reckoning.attempts_by_period(watched)
    periods = watched.periods()
    releases = reckoning.releases_since(draft)
    effect_of = asked.release or (release.number if release else None)
    every = AttemptCount.objects.filter(form=draft).order_by()
    return WatchView(
        since=watched.since,
        until=watched.until,
        weekly=watched.step > 1,
        periods=[
            WatchPeriod(
                begins=one, tried=tried.get(one, (0, 0))[0], stopped=tried.get(one, (0, 0))[1]
            )
            for one in periods
        ],
        rules=list(_rules(compiled, found, periods, any(count for count, _ in tried.values()))),
        releases=[
            ReleaseMark(number=one["number"], since=one["in_force_from"], note=one["note"])
            for one in releases
        ],
        effects=list(_effects(watched, effect_of, releases, _names(compiled))),
        effect_of=effect_of,
        holds=[
            HoldAge(from_days=low, below_days=high, records=count)
            for low, high, count in reckoning.holds_by_age(draft)
        ],
        entry_points=sorted(every.values_list("entry_point", flat=True).distinct()),
        people=[
            HistoryPerson(username=one.username, name=one.shown_name)
            for one in Person.objects.filter(pk__in=every.values("person")).order_by("shown_name")
        ],
    )


@router.get("/forms/{form_key}/watch/{rule_key}", response={200: RuleDetails})
def show_rule(
    request: HttpRequest, form_key: str, rule_key: str, asked: Query[WatchFilter]
) -> RuleDetails:
    """One rule by person, entry point, moment and release, and the reasons given for going past."""
    person_with(request, Right.WATCH)
    watched = _watched(get_draft(form_key), asked)
    rule = UNREADABLE if rule_key == "-" else rule_key

    def parts(by: str) -> list[RuleCountShare]:
        found = reckoning.told_apart(watched, rule, by)
        return [RuleCountShare(name=name, counts=_counts(counts)) for name, counts in found]

    return RuleDetails(
        by_person=parts("person__shown_name"),
        by_entry_point=parts("entry_point"),
        by_moment=parts("moment"),
        by_release=parts("release__number"),
        reasons=[
            WaiverReason(text=text, times=times)
            for text, times in reckoning.reasons_for(watched, rule)
        ],
    )


def _watched(draft: DraftForm, asked: WatchFilter) -> WatchQuery:
    until = asked.until or timezone.now().date()
    since = asked.since or until - min(USUALLY, until - date.min)
    if since > until or until - since > FURTHEST:
        remedy = tr("Give a first day that is not after the last, at most ten years before it.")
        at = ProblemItem(place="since", message=tr("This time cannot be looked at."), remedy=remedy)
        raise Refusal(422, "days", tr("The days do not fit together."), remedy, [at])
    return WatchQuery(draft, since, until, asked.release, asked.entry_point, asked.person)


def _names(compiled: CompiledForm | None) -> dict[str, str]:
    rules = compiled.form.rules if compiled else ()
    return {UNREADABLE: CANNOT_BE_READ, **{rule.key: rule.name for rule in rules}}


def _rules(
    compiled: CompiledForm | None,
    found: Mapping[str, RuleCounts],
    periods: list[date],
    tried: bool,
) -> Iterator[RuleWatch]:
    names = _names(compiled)
    checks = [
        one.rule.key
        for one in (compiled.rules if compiled else ())
        if one.check_kind is not None and one.rule.enabled
    ]
    for rule in (*dict.fromkeys((*checks, *found)),):
        one = found.get(rule, RuleCounts())
        yield RuleWatch(
            rule=rule,
            name=names.get(rule, rule),
            in_force=rule in checks or rule == UNREADABLE,
            total=_counts(one.total),
            by_period=[_counts(one.by_period.get(period, Counter())) for period in periods],
            last=one.last,
            silent=rule in checks and tried and one.last is None,
            waved_through=one.waved_through,
        )


def _effects(
    watched: WatchQuery,
    number: int | None,
    releases: list[Mapping[str, Any]],
    names: Mapping[str, str],
) -> Iterator[ReleaseEffect]:
    earlier = [one["number"] for one in releases if number and one["number"] < number]
    if number is None or not earlier:
        return
    former, nothing = earlier[-1], RuleShare(0, 0)
    document = compiled_release(watched.form.releases.get(number=former)).form
    there = {rule.key for rule in document.rules if rule.enabled}
    found = reckoning.shares_by_release(watched, (former, number))
    for rule, shares in found.items():
        before, after = shares.get(former, nothing), shares.get(number, nothing)
        if before.tried and after.tried:
            yield ReleaseEffect(
                rule=rule,
                name=names.get(rule, rule),
                before=before.spoke,
                tried_before=before.tried,
                after=after.spoke,
                tried_after=after.tried,
                new=rule not in there and rule != UNREADABLE,
            )


def _counts(counts: Counter[str]) -> RuleCountsView:
    return RuleCountsView(**{word: counts[word] for word in WORDS})
