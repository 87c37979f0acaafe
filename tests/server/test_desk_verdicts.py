"""The desk says what the core says: judging, storing and submitting the same values.

The core judges the released document by itself, with the other records known to it all at once;
the service answers from MariaDB, its index and its claims.
"""

import re
from datetime import datetime
from zoneinfo import ZoneInfo

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from tests.examples import ALIKE, few
from thistlequartz.core import RuleSet, compile_ruleset
from thistlequartz.core.judging import Circumstances, KnownRecords
from thistlequartz.core.ruleset import MOMENTS
from thistlequartz.server.records.models import Record
from thistlequartz.server.releases.models import Release

from .conftest import Caller

pytestmark = pytest.mark.django_db
FORMS = ("plant_accession", "mineral_accession", "borrower")
NUMBER = re.compile(r"(?<=[A-Z]-)[0-9]{6}$")
ODD = ("", "x", "7", "-1,5", "1,000", "31 December 2025", "2026-02-30", "yes", " a b ", "+44 20")


def stored(key):
    return list(Record.objects.filter(form__key=key).order_by("number"))


def entries(form, records):
    """Values of a record: as some record holds them with other digits, and some of them changed."""
    pools = {}
    for key, declared in form.fields.items():
        held = [one.values[key] for one in records if one.values.get(key) is not None]
        if not declared.condition:
            pools[key] = st.sampled_from([*held, None, *ODD])
    base = st.sampled_from([one.values for one in records])
    changes = st.dictionaries(st.sampled_from(sorted(pools)), st.integers(), max_size=4).flatmap(
        lambda chosen: st.fixed_dictionaries({key: pools[key] for key in chosen})
    )
    digits = st.text("0123456789", min_size=6, max_size=6)
    return st.builds(
        lambda held, changed, new: {**fresh(held, new), **changed}, base, changes, digits
    )


def fresh(held, digits):
    """The same with other numbers in its texts, so that it is not the same record again."""
    return {
        key: NUMBER.sub(digits, one) if isinstance(one, str) else one for key, one in held.items()
    }


def core_says(form, records, values):
    today = datetime.now(ZoneInfo(form.form.zone)).date()
    now = Circumstances(today, role="clerk")
    known = KnownRecords(form, [*(one.values for one in records), values], now)
    return form.judge_moments(
        values,
        moments=MOMENTS,
        today=today,
        role="clerk",
        touched=tuple(form.entries),
        lookup=known.seen_by(len(records)),
    )


@pytest.mark.parametrize("key", FORMS)
def test_the_desk_judges_stores_and_refuses_as_the_core_does(clerk: Caller, key: str) -> None:
    release = Release.objects.filter(form__key=key).latest("number")
    form = compile_ruleset(RuleSet.model_validate(release.document), form=key)
    came: set[str] = set()

    @settings(
        max_examples=few(20),
        derandomize=ALIKE,
        deadline=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(entries(form, stored(key)), st.booleans())
    def agrees(values, submit):
        core = core_says(form, stored(key), values)
        body = {"values": values, "touched": sorted(form.entries)}
        answer = clerk.post(f"/api/v1/forms/{key}/desk/judge", body)
        assert answer.status_code == 200, answer.content
        for moment, verdict in core.items():
            desk = answer.json()[moment]
            assert desk["outcome"] == verdict.outcome
            assert desk["may_pass"] == verdict.may_pass
            assert {one["rule"]: (one["status"], one["severity"]) for one in desk["results"]} == {
                one.rule: (one.status, one.severity) for one in verdict.results
            }
        moments = ("save", "submit") if submit else ("save",)
        passes = all(core[moment].may_pass for moment in moments)
        stored_now = clerk.post(
            f"/api/v1/forms/{key}/records", {"values": values, "submit": submit}
        )
        assert stored_now.status_code == (201 if passes else 422), stored_now.content
        came.add(f"{submit} {passes}")
        if passes:
            record = stored_now.json()
            violated = {one.rule for moment in moments for one in core[moment].violated}
            names = {one.rule.name for one in form.rules if one.rule.key in violated}
            assert set(record["violations"]) == names
            assert record["on_hold"] == core["save"].on_hold

    agrees()
    assert {"True False", "False False", "False True"} <= came, "refused, stored, submitted"
