"""Counting what the rules say whenever somebody saves or submits."""

from collections.abc import Iterator, Mapping
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import F
from django.utils import timezone

from thistlequartz.core.judging import RuleResult
from thistlequartz.core.ruleset import SEVERITIES, Severity
from thistlequartz.server.records.services import Attempt

from .models import Attempts, Spoken, Waived

COUNTED_AS: Mapping[Severity, str] = {"note": "noted", "warn": "warned", "block": "blocked"}
UNREADABLE = ""
"""In the place of a rule's key: what could not be read."""


def note(sender: Any, attempt: Attempt, **_: Any) -> None:
    """Count an attempt, and each rule that spoke; in the transaction that stores the record, or in
    one of its own where it was stopped.
    """
    day = attempt.desk.compiled.today_at(timezone.now())
    where = {
        "form": attempt.desk.draft,
        "day": day,
        "release": attempt.desk.release,
        "person": attempt.person,
        "door": attempt.door,
        "moment": attempt.moment,
    }
    with transaction.atomic():
        count(Attempts, where, {"tried": 1, "stopped": int(attempt.record is None)})
        for rule, steps in counts_of(attempt).items():
            count(Spoken, {**where, "rule_key": rule}, steps)
        if attempt.record is not None and attempt.newly_waived:
            Waived.objects.bulk_create(
                Waived(
                    form=attempt.desk.draft,
                    rule_key=rule,
                    day=day,
                    release=attempt.desk.release,
                    person=attempt.person,
                    record=attempt.record,
                    text=text,
                )
                for rule, text in attempt.newly_waived.items()
            )


def counts_of(attempt: Attempt) -> dict[str, dict[str, int]]:
    """What is counted of each rule that spoke, by its hardest word at any of the moments."""
    hardest: dict[str, Severity] = {}
    waived: set[str] = set()
    for result in _broken(attempt):
        known = hardest.get(result.rule, "off")
        hardest[result.rule] = max(known, result.severity, key=SEVERITIES.index)
        if result.waiver == "given":
            waived.add(result.rule)
    if any(state.fault for one in attempt.verdicts.values() for state in one.fields.values()):
        hardest[UNREADABLE] = "block"
    passed = int(attempt.record is not None)
    return {
        rule: {COUNTED_AS[severity]: 1, "passed": passed, "waived": passed * (rule in waived)}
        for rule, severity in hardest.items()
        if severity != "off"
    }


def _broken(attempt: Attempt) -> Iterator[RuleResult]:
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
