"""Whatever the entry point, the verdict is the core's: for values drawn at random, by rules in scope at
some entry_points only, each entry_point says the same as the core does for its entry point.
"""

import json

import pytest
from django.test import Client
from django.utils import timezone
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.server.imports.models import RecordFile
from thistlequartz.server.imports.plan import ImportPlan
from thistlequartz.server.imports.row_intake import RowIntake, opened
from thistlequartz.server.imports.stored_files import kept
from thistlequartz.server.links.filling import NO_ROLE
from thistlequartz.server.people.models import Person
from thistlequartz.server.records.form_in_force import desk_of
from thistlequartz.server.records.lookup import DatabaseLookup
from thistlequartz.server.service.tokens import make_token

from .conftest import BLOCK

pytestmark = pytest.mark.django_db
LATE = {"entry": "none", "save": "warn", "submit": "block"}
WARN = {"entry": "none", "save": "warn", "submit": "warn"}
ENTRY_POINTS = ("desk", "link", "service", "import")
RULES = (
    *(
        {"kind": "cross_field", "key": f"at_{entry_point}", "targets": ["note"], "name": f"At the {entry_point}",
         "must": f'note != "{entry_point}"', "scope": {"entry_points": [entry_point]}, "severity": BLOCK}
        for entry_point in ENTRY_POINTS
    ),
    {"kind": "cross_field", "key": "clerks", "targets": ["note"], "must": 'note != "clerk"',
     "scope": {"roles": ["clerk"]}, "severity": LATE},
    {"kind": "unique", "key": "one", "targets": ["mark"], "severity": BLOCK},
    {"kind": "mandatory", "key": "graded", "targets": ["grade"], "severity": LATE},
    {"kind": "close", "key": "shut", "targets": ["mass"], "when": 'grade = "A"'},
    {"kind": "range", "key": "light", "targets": ["mass"], "upper": {"value": "100"},
     "severity": WARN, "reason_required": True},
    {"kind": "start", "key": "begins", "targets": ["note"], "formula": '"clerk"'},
)  # fmt: skip
NOTES = st.sampled_from([None, "", "x", "clerk", *ENTRY_POINTS])
VALUES = st.fixed_dictionaries(
    {},
    optional={
        "mark": st.sampled_from([None, "a", " A ", "new", "ﬁ"]),
        "note": NOTES,
        "grade": st.sampled_from([None, "a", "A"]),
        "mass": st.sampled_from([None, "1.5", "100", "100.5", "-0"]),
    },
)


@pytest.fixture
def entry_points(steward, clerk, draft):
    """By entry point: whether values may be saved and submitted, and which rules are violated."""
    at = f"/api/v1/forms/{draft.key}"
    field = {"type": "decimal", "key": "mass", "label": "Mass", "scale": 2}
    assert steward.post(f"{at}/fields", {"field": field}).status_code == 201
    for rule in RULES:
        answer = steward.post(f"{at}/rules", {"rule": rule})
        assert answer.status_code == 201, answer.content
    assert steward.release(at, "Rules.").status_code == 201
    link = {"name": "x", "puzzle": False, "origins": [], "endings": []}
    key = steward.post(f"{at}/links", link).json()["key"]
    token = token_for(draft)
    visitor, system = Client(), Client()

    def desk(values):
        return of_screen(clerk.post(f"{at}/desk/judge", {"values": values}).json())

    def by_link(values):
        body = json.dumps({"values": values})
        answer = visitor.post(f"/api/v1/links/{key}/judge", body, "application/json")
        assert answer.status_code == 200, answer.content
        return of_screen(answer.json())

    def service(values):
        canonical = {**values, **desk_of(draft.key).compiled.canonical(values)}
        answer = system.post(
            f"/service/v1/forms/{draft.key}/judge",
            json.dumps({"values": canonical}),
            "application/json",
            headers={"Authorization": f"Bearer {token}"},
        )
        assert answer.status_code == 200, answer.content
        told = answer.json()
        return {
            moment: (told[moment]["may_pass"], {one["rule"] for one in told[moment]["violated"]})
            for moment in ("save", "submit")
        }

    def brought(values):
        line = json.dumps(values) + "\n"
        name = f"/record-files?name={abs(hash(line))}.jsonl"
        file = clerk.send("POST", at + name, line.encode()).json()
        columns = {"starting": False, "as_typed": True}
        found = {}
        for moment, submit in (("save", False), ("submit", True)):
            plan = {**file["plan"], **columns, "submit": submit}
            answer = clerk.post(f"{at}/record-files/{file['id']}/preview", plan)
            assert answer.status_code == 200, answer.content
            found[moment] = (not answer.json()["refused"], None)
        return found

    return {"desk": desk, "link": by_link, "service": service, "import": brought}


def token_for(draft):
    """A token acts for whoever made it, in the role they have."""
    steward = Person.objects.get(username="steward")
    return make_token(steward, "x", [draft.key], ["judge"], None)[1]


def of_screen(told):
    return {
        moment: (
            told[moment]["may_pass"],
            {one["rule"] for one in told[moment]["results"] if one["status"] == "violated"},
        )
        for moment in ("save", "submit")
    }


ROLES = {"desk": "clerk", "link": NO_ROLE, "service": "steward", "import": "clerk"}


def of_core(draft, entry_point, values):
    now = timezone.now()
    compiled = desk_of(draft.key).compiled
    if entry_point == "link":
        # While typing; what others hold is looked at on submitting (tests/server/test_links.py).
        compiled = compiled.without_others
    verdicts = compiled.judge_moments(
        values,
        today=compiled.today_at(now),
        now=now,
        entry_point=entry_point,
        role=ROLES[entry_point],
        lookup=DatabaseLookup(draft.key),
    )
    return {
        moment: (verdict.may_pass, {one.rule for one in verdict.violated})
        for moment, verdict in verdicts.items()
    }


def test_every_entry_point_gives_the_verdict_of_the_core(entry_points, draft):
    seen = {entry_point: set() for entry_point in ENTRY_POINTS}

    @settings(
        max_examples=few(40),
        deadline=None,
        database=None,
        derandomize=True,
        suppress_health_check=list(HealthCheck),
    )
    @given(VALUES)
    def agree(values):
        blank = all(value in (None, "") for value in values.values())
        for entry_point in (
            ENTRY_POINTS[:3] if blank else ENTRY_POINTS
        ):  # a blank row of a file is no record
            expected = of_core(draft, entry_point, values)
            found = entry_points[entry_point](values)
            for moment, (may_pass, violated) in found.items():
                # Saving alone is what a file that is saved asks for; submitting asks for both.
                wanted = expected[moment][0] and (moment == "save" or expected["save"][0])
                if entry_point == "import":
                    assert may_pass == wanted, (entry_point, moment, values)
                else:
                    assert (may_pass, violated) == expected[moment], (entry_point, moment, values)
                seen[entry_point].add((moment, may_pass))

    agree()
    every = {(moment, passes) for moment in ("save", "submit") for passes in (True, False)}
    assert all(found == every for found in seen.values()), seen


def test_unreadable_value_of_a_field_not_asked_blocks_nowhere(entry_points):
    """Out of play, a fault is not told anywhere."""
    values = {"mark": "new", "grade": "A", "note": "x", "mass": "heavy"}
    for entry_point, judge in entry_points.items():
        passes, _ = judge(values)["save"]
        assert passes, entry_point


def test_a_key_that_one_line_leaves_out_is_not_supplied(clerk, entry_points, draft):
    """JSON Lines: it begins as a new record begins, though another line names it."""
    at = f"/api/v1/forms/{draft.key}"
    lines = [{"mark": "one", "note": "mine"}, {"mark": "two"}, {"mark": "three", "note": None}]
    body = "".join(f"{json.dumps(line)}\n" for line in lines).encode()
    file = clerk.send("POST", f"{at}/record-files?name=some.jsonl", body).json()
    record_file = RecordFile.objects.get(pk=file["id"])
    plan = ImportPlan.model_validate({**file["plan"], "starting": True})
    person = Person.objects.get(username="clerk")
    intake = RowIntake(desk_of(draft.key), person, record_file, plan)
    with kept(record_file) as stored:
        rows = list(opened(stored, None).rows())
    outcomes = [intake.judge(row, entry) for row, entry in intake.read(rows)]
    assert [one.put.values.get("note") for one in outcomes if one.put] == ["mine", "clerk", None]
