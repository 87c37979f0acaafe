"""Every kind of rule that checks: what fires it, what clears it, what leaves it nothing to check.

The cases follow docs/rules.md; range bounds follow ISO/IEC/IEEE 29119-4 (two-value boundaries).
"""

from typing import Any

import pytest

from thistlequartz.core.judging import Circumstances, KnownRecords, ReferredRecord, compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .conftest import ALL, TODAY, compiled_form, form_of, result

FIELDS: list[dict[str, Any]] = [
    {"key": "name", "type": "text"},
    {"key": "code", "type": "text"},
    {"key": "shelf", "type": "text", "letter_case": "upper", "collapse": True},
    {"key": "mass", "type": "decimal"},
    {"key": "due", "type": "date"},
    {"key": "opens", "type": "time"},
    {"key": "seen", "type": "date_time"},
    {"key": "agreed", "type": "yes_no"},
    {"key": "land", "type": "choice", "choices": [{"code": c, "label": c.upper()} for c in ("no", "se")]},
    {"key": "uses", "type": "choices", "choices": [{"code": c, "label": c} for c in ("x", "y", "z")]},
]  # fmt: skip
BROKEN, KEPT, NOTHING, IDLE = "violated", "satisfied", "not_evaluable", "not_applicable"
RANGE = {"kind": "range", "targets": ["mass"]}
GROUP = {"kind": "group", "targets": ["name", "code", "mass"]}
GOES = {
    "kind": "allowed_values", "targets": ["code"], "governor": "land",
    "rows": [{"answer": "NO", "values": ["oslo", "bergen"]}, {"answer": "SE", "values": ["lund"]}],
}  # fmt: skip
BY_SHELF = {**GOES, "governor": "shelf", "rows": [{"answer": "a 1", "values": ["oslo"]}]}
CASES: list[tuple[dict[str, Any], dict[str, Any], str]] = [
    ({"kind": "mandatory", "targets": ["mass"]}, {}, BROKEN),
    ({"kind": "mandatory", "targets": ["mass"]}, {"mass": "0"}, KEPT),
    ({"kind": "mandatory", "targets": ["agreed"]}, {"agreed": False}, KEPT),
    ({"kind": "mandatory", "targets": ["name"]}, {"name": " \u00a0 "}, BROKEN),
    ({"kind": "mandatory", "targets": ["uses"]}, {"uses": []}, BROKEN),
    ({"kind": "mandatory", "targets": ["mass"]}, {"mass": "heavy"}, NOTHING),
    ({"kind": "mandatory", "targets": ["mass"], "when": 'land = "no"'}, {}, IDLE),
    ({**RANGE, "lower": {"value": "1"}, "upper": {"value": "5"}}, {"mass": "0.99"}, BROKEN),
    ({**RANGE, "lower": {"value": "1"}, "upper": {"value": "5"}}, {"mass": "1"}, KEPT),
    ({**RANGE, "upper": {"value": "5", "inclusive": False}}, {"mass": "5"}, BROKEN),
    ({**RANGE, "upper": {"value": "5", "inclusive": False}}, {"mass": "4.99"}, KEPT),
    ({**RANGE, "upper": {"value": "5"}}, {}, NOTHING),
    ({"kind": "range", "targets": ["due"], "lower": {"value": "today"}}, {"due": "11 June 2026"}, BROKEN),
    ({"kind": "range", "targets": ["due"], "lower": {"value": "today"}}, {"due": "12 June 2026"}, KEPT),
    ({"kind": "range", "targets": ["due"], "upper": {"value": 'today + duration("P2W")'.replace("2W", "14D")}}, {"due": "2026-06-27"}, BROKEN),
    ({"kind": "range", "targets": ["opens"], "lower": {"value": "08:30"}}, {"opens": "8:29"}, BROKEN),
    ({"kind": "range", "targets": ["opens"], "lower": {"value": "08:30"}}, {"opens": "08:30"}, KEPT),
    ({"kind": "range", "targets": ["seen"], "upper": {"value": "2026-06-12T10:00:00Z"}}, {"seen": "2026-06-12T12:00:01+02:00"}, BROKEN),
    ({"kind": "range", "of": "length", "targets": ["name"], "upper": {"value": "3"}}, {"name": "abcd"}, BROKEN),
    ({"kind": "range", "of": "length", "targets": ["name"], "upper": {"value": "3"}}, {"name": "a\u0301\u0308b"}, KEPT),
    ({"kind": "range", "of": "count", "targets": ["uses"], "lower": {"value": "2"}}, {"uses": ["x"]}, BROKEN),
    ({"kind": "range", "of": "count", "targets": ["uses"], "lower": {"value": "2"}}, {"uses": ["x", "z"]}, KEPT),
    ({"kind": "allowed_values", "targets": ["name"], "values": ["Alba", "Bora"], "ignore_case": True}, {"name": "ALBA"}, KEPT),
    ({"kind": "allowed_values", "targets": ["name"], "values": ["straße"], "ignore_case": True}, {"name": "STRASSE"}, KEPT),
    ({"kind": "allowed_values", "targets": ["name"], "values": ["Alba"]}, {"name": "alba"}, BROKEN),
    ({"kind": "allowed_values", "targets": ["uses"], "values": ["x", "y"]}, {"uses": ["x", "z"]}, BROKEN),
    (GOES, {"land": "no", "code": "oslo"}, KEPT),
    (GOES, {"land": "se", "code": "oslo"}, BROKEN),
    (GOES, {"code": "oslo"}, NOTHING),
    ({**GOES, "ignore_case": True}, {"land": "no", "code": "OSLO"}, KEPT),
    (GOES, {"land": "no", "code": "OSLO"}, BROKEN),
    # What is written into a rule is read as what is typed into its field (docs/rules.md).
    ({"kind": "allowed_values", "targets": ["shelf"], "values": ["a  1"]}, {"shelf": "A 1"}, KEPT),
    (BY_SHELF, {"shelf": "a 1", "code": "oslo"}, KEPT),
    (BY_SHELF, {"shelf": "a 1", "code": "lund"}, BROKEN),
    ({**BY_SHELF, "governor": "name", "ignore_case": True}, {"name": "A 1", "code": "lund"}, BROKEN),
    ({"kind": "format", "targets": ["code"], "pattern": "[0-9]{10}", "described": "exactly ten digits"}, {"code": "12345678901"}, BROKEN),
    ({"kind": "format", "targets": ["code"], "format": "orcid"}, {"code": "0000-0002-1825-0097"}, KEPT),
    ({"kind": "cross_field", "targets": ["mass"], "must": "mass < string length(name)"}, {"mass": "3", "name": "abc"}, BROKEN),
    ({"kind": "cross_field", "targets": ["mass"], "must": "mass < string length(name)"}, {"mass": "3"}, NOTHING),
    ({"kind": "cross_field", "targets": ["mass"], "must": "mass / 0 > 1"}, {"mass": "3"}, NOTHING),
    ({"kind": "cross_field", "targets": ["code"], "must": "name = null or code != null"}, {"name": "a"}, BROKEN),
    ({**GROUP, "quantity": "at_least_one"}, {}, BROKEN),
    ({**GROUP, "quantity": "at_least_one"}, {"mass": "0"}, KEPT),
    ({**GROUP, "quantity": "exactly_one"}, {"mass": "0", "name": "a"}, BROKEN),
    ({**GROUP, "quantity": "exactly_one"}, {"name": "a"}, KEPT),
    ({**GROUP, "quantity": "all_or_none"}, {"name": "a", "code": "b"}, BROKEN),
    ({**GROUP, "quantity": "all_or_none"}, {}, KEPT),
    ({**GROUP, "quantity": "all_or_none"}, {"name": "a", "mass": "x"}, NOTHING),
    ({"kind": "entered_twice", "targets": ["name"]}, {"name": "a@b.org"}, BROKEN),
    ({"kind": "entered_twice", "targets": ["name"]}, {"name": "a@b.org", "name.again": " a@b.org "}, KEPT),
    ({"kind": "entered_twice", "targets": ["name"]}, {"name.again": "a@b.org"}, NOTHING),
    ({"kind": "consent", "targets": ["agreed"]}, {}, BROKEN),
    ({"kind": "consent", "targets": ["agreed"]}, {"agreed": "no"}, BROKEN),
    ({"kind": "consent", "targets": ["agreed"]}, {"agreed": "yes"}, KEPT),
    ({"kind": "unique", "targets": ["code"]}, {"code": "q"}, NOTHING),
]  # fmt: skip


@pytest.mark.parametrize(("rule", "values", "status"), CASES)
def test_each_kind_fires_clears_or_has_nothing_to_judge(rule, values, status):
    verdict = compiled_form(FIELDS, [rule]).judge(values, moment="submit", today=TODAY)
    assert result(verdict).status == status
    faulty = "heavy" in values.values() or "x" in values.values()
    assert verdict.outcome == ("blocked" if status == BROKEN or faulty else "clear")
    assert result(verdict).reason


def test_given_values_are_read_by_the_settings_of_their_field():
    """Case and spaces, as docs/rules.md says of what is typed."""
    gives: list[dict[str, Any]] = [
        {"kind": "derive", "targets": ["shelf"], "value": 'name + "  1"'},
        {"kind": "start", "targets": ["shelf"], "formula": '"b   " + "2"'},
        {
            "kind": "propose", "targets": ["shelf"], "title": "P",
            "sets": [{"field": "shelf", "value": '" c  " + name'}],
        },
    ]  # fmt: skip
    derived, started, proposed = (
        compiled_form(FIELDS, [rule]).judge({"name": "a"}, moment="save", today=TODAY)
        for rule in gives
    )
    assert derived.stores["shelf"] == "A 1"
    assert started.stores["shelf"] == "B 2"
    assert proposed.proposals[0].values == {"shelf": "C A"}


def test_an_answer_that_is_the_same_once_it_is_read_is_told():
    rows = [{"answer": "a 1", "values": ["oslo"]}, {"answer": "A  1", "values": ["lund"]}]
    ruleset = RuleSet(forms=(form_of(FIELDS, [{**BY_SHELF, "rows": rows}]),))
    (problems,) = compile_ruleset(ruleset, form="form").problems.values()
    assert "is the same answer as one above" in problems[0].message


def test_a_second_entry_is_asked_only_where_the_first_was_changed():
    form = compiled_form(FIELDS, [{"kind": "entered_twice", "targets": ["name"]}])
    for values, status in (({"name": "a"}, NOTHING), ({"name": "b"}, BROKEN)):
        verdict = form.judge(
            values, moment="save", today=TODAY, event="update", stored={"name": "a"}
        )
        assert result(verdict).status == status


UNIQUE = [
    (["code"], [{"code": "Q 1"}, {"code": "q 1"}], True),
    (["code"], [{"code": "q1"}, {"code": "q2"}], False),
    (["code"], [{"code": ""}, {"code": ""}], False),
    (["name", "mass"], [{"name": "a", "mass": "1.0"}, {"name": "A", "mass": "1.00"}], True),
    (["name", "mass"], [{"name": "a", "mass": "1"}, {"name": "a", "mass": "2"}], False),
    (["name", "mass"], [{"name": "a"}, {"name": "a"}], False),
    (["uses"], [{"uses": ["x", "y"]}, {"uses": ["y", "x"]}], True),
]


@pytest.mark.parametrize(("targets", "records", "collide"), UNIQUE)
def test_uniqueness_compares_normalised_tuples_without_regard_to_case(targets, records, collide):
    form = compiled_form(FIELDS, [{"kind": "unique", "targets": targets}])
    known = KnownRecords(form, records, Circumstances(TODAY))
    statuses = [
        result(form.judge(one, moment="save", today=TODAY, lookup=known.seen_by(place))).status
        for place, one in enumerate(records)
    ]
    blank = any(not value for one in records for value in one.values()) or len(records[0]) < len(targets)  # fmt: skip
    assert statuses == [BROKEN if collide else NOTHING if blank else KEPT] * 2


def test_no_other_record_where_periods_overlap():
    fields = [
        {"key": "room", "type": "text"},
        {"key": "from_day", "type": "date"},
        {"key": "to_day", "type": "date"},
    ]
    no_other = "other.room = room and other.from_day <= to_day and other.to_day >= from_day"
    rule = {"kind": "elsewhere", "targets": ["from_day"], "no_other": no_other}
    form = compiled_form(fields, [rule])
    one = {"room": "A", "from_day": "2026-06-01", "to_day": "2026-06-10"}
    for second, status in (
        ({**one, "from_day": "2026-06-10", "to_day": "2026-06-12"}, BROKEN),
        ({**one, "from_day": "2026-06-11", "to_day": "2026-06-12"}, KEPT),
        ({**one, "room": "B"}, KEPT),
        ({"room": "A", "from_day": "2026-06-01"}, NOTHING),
    ):
        lookup = KnownRecords(form, [one, second], Circumstances(TODAY)).seen_by(1)
        assert (
            result(form.judge(second, moment="save", today=TODAY, lookup=lookup)).status == status
        )


class _Register:
    """A register of borrowers, as a caller supplies it."""

    def record(self, form: str, number: str) -> ReferredRecord | None:
        found = {
            "1": ReferredRecord({"country": "PT"}),
            "2": ReferredRecord({"country": "NO"}, on_hold=True),
        }
        return found.get(number) if form == "borrower" else None

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        return False

    def others(self, where, fields) -> list[dict[str, object]]:
        return []


@pytest.mark.parametrize(
    ("borrower", "held_allowed", "status", "fault"),
    [
        ("1", True, KEPT, None),
        ("2", True, BROKEN, None),
        ("2", False, None, "record 2 is on hold"),
        ("9", True, None, "there is no record 9"),
        (None, True, NOTHING, None),
    ],
)
def test_the_fields_of_a_referenced_record_can_be_asked(borrower, held_allowed, status, fault):
    country = {"key": "country", "label": "Country", "type": "text"}
    loan = form_of(
        [
            {
                "key": "borrower",
                "type": "reference",
                "form": "borrower",
                "held_allowed": held_allowed,
            }
        ],
        [{"kind": "cross_field", "targets": ["borrower"], "must": 'borrower.country = "PT"'}],
    )
    document = {"forms": [loan.model_dump(), {"key": "borrower", "name": "B", "fields": [country]}]}
    form = compile_ruleset(RuleSet.model_validate(document), form="form")
    assert form.problems == {}
    verdict = form.judge({"borrower": borrower}, moment="save", today=TODAY, lookup=_Register())
    if fault:
        assert fault in verdict.fields["borrower"].fault
    else:
        assert result(verdict).status == status


def test_severity_of_each_moment_is_the_rule_s_own():
    rule = {"kind": "mandatory", "targets": ["name"], "severity": {**ALL, "save": "note"}}
    verdicts = compiled_form(FIELDS, [rule]).judge_moments({}, today=TODAY)
    assert {moment: one.outcome for moment, one in verdicts.items()} == {
        "save": "noted",
        "submit": "blocked",
    }


def test_while_typing_a_second_entry_is_waited_for():
    form = compiled_form(FIELDS, [{"kind": "entered_twice", "targets": ["name"]}])
    for touched, outcome in ((["name"], "clear"), (["name", "name.again"], "warned")):
        verdict = form.judge({"name": "a"}, moment="entry", today=TODAY, touched=touched)
        assert verdict.outcome == outcome
