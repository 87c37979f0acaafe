"""Counting what the rules say whenever somebody saves or submits."""

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from typing import Any, Final

from django.db import IntegrityError, transaction
from django.db.models import F
from django.utils import timezone

from thistlequartz.core.enumerations import hardest
from thistlequartz.core.judging import RuleResult
from thistlequartz.core.ruleset import Severity
from thistlequartz.server.records.services import SaveAttempt

from .models import AttemptCount, GivenReason, RuleCount

COUNTED_AS: Mapping[Severity, str] = {"note": "noted", "warn": "warned", "block": "blocked"}
_WHERE: Final = ("form", "day", "release", "person", "entry_point", "moment")
UNREADABLE = ""
"""In the place of a rule's key: what could not be read."""


def note(sender: Any, attempts: Sequence[SaveAttempt], **_: Any) -> None:
    """Count attempts, and each rule with a result.

    In the transaction that stores the records, or in one of its own where they were refused.
    """
    tried: defaultdict[tuple[Any, ...], Counter[str]] = defaultdict(Counter)
    spoken: defaultdict[tuple[Any, ...], Counter[str]] = defaultdict(Counter)
    now = timezone.now()
    for one in attempts:
        day = one.desk.compiled.today_at(now)
        where = (one.desk.draft, day, one.desk.release, one.person, one.entry_point, one.moment)
        tried[where].update(tried=1, stopped=int(one.record is None))
        for rule, steps in counts_of(one).items():
            spoken[(*where, rule)].update(steps)
    with transaction.atomic():
        for where, counted in tried.items():
            count(AttemptCount, dict(zip(_WHERE, where, strict=True)), counted)
        for (*place, rule), counted in spoken.items():
            count(RuleCount, {**dict(zip(_WHERE, place, strict=True)), "rule_key": rule}, counted)
        GivenReason.objects.bulk_create(
            GivenReason(
                form=one.desk.draft,
                rule_key=rule,
                day=one.desk.compiled.today_at(now),
                release=one.desk.release,
                person=one.person,
                record=one.record,
                text=text,
            )
            for one in attempts
            if one.record is not None
            for rule, text in one.newly_waived.items()
        )


def counts_of(attempt: SaveAttempt) -> dict[str, dict[str, int]]:
    """What is counted of each rule that spoke, by its hardest word at any of the moments."""
    severities: dict[str, Severity] = {}
    waived: set[str] = set()
    for result in _violated(attempt):
        known = severities.get(result.rule, "none")
        severities[result.rule] = hardest((known, result.severity))
        if result.waiver == "given":
            waived.add(result.rule)
    if any(state.fault for one in attempt.verdicts.values() for state in one.fields.values()):
        severities[UNREADABLE] = "block"
    passed = int(attempt.record is not None)
    return {
        rule: {COUNTED_AS[severity]: 1, "passed": passed, "waived": passed * (rule in waived)}
        for rule, severity in severities.items()
        if severity != "none"
    }


def _violated(attempt: SaveAttempt) -> Iterator[RuleResult]:
    for verdict in attempt.verdicts.values():
        yield from verdict.violated


def count(model: Any, where: Mapping[str, Any], steps: Mapping[str, int]) -> None:
    """Add to a count, or begin it."""
    rows = model.objects.filter(**where)
    further = {name: F(name) + step for name, step in steps.items() if step}
    if rows.update(**further):
        return
    try:
        with transaction.atomic():
            model.objects.create(**where, **steps)
    except IntegrityError:  # somebody has begun it meanwhile
        rows.update(**further)
