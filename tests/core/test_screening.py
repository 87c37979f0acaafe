"""Two engines, one meaning: screening says what judging says, for any rules and any record."""

from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from thistlequartz.core.evaluation import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .conftest import TODAY, form_of

FIELDS: list[dict[str, Any]] = [
    {"key": "name", "type": "text"},
    {"key": "code", "type": "text"},
    {"key": "mass", "type": "decimal"},
    {"key": "count_of", "type": "whole_number"},
    {"key": "found", "type": "date"},
    {"key": "named", "type": "date"},
    {"key": "opened", "type": "time"},
    {"key": "logged", "type": "date_time"},
    {"key": "fragile", "type": "yes_no"},
    {"key": "kind", "type": "choice", "choices": [{"code": c, "label": c} for c in "abc"]},
    {"key": "uses", "type": "choices", "choices": [{"code": c, "label": c} for c in "xyz"]},
    {"key": "total", "type": "decimal"},
]
CONDITIONS = st.recursive(
    st.sampled_from(
        [
            'kind = "a"', 'kind != "b"', "kind = null", "mass > 2", "mass <= count_of", "fragile", "not(fragile)",
            "fragile != true", "found < today", "found >= named", "found in [date(\"2026-01-01\")..today]", "name = code",
            'name in ("a", "b")', 'name in ("a", null)', "mass in (1, [2..3), > 5)", "mass in (count_of..9]", "string length(name) > 1",
            "count(uses) >= 2", 'list contains(uses, "x")', 'uses = ["x", "y"]', "mass + count_of > 3", "total > 3",
            "changed.mass", "stored.kind = kind", 'event = "create"', 'role = "clerk"', "found - named > duration(\"P2D\")",
            'opened > time("09:00:00")', 'logged > date and time("2026-06-11T09:00:00Z")', 'matches(name, "a+")',
            "name != null", "true", "null", "some u in uses satisfies u = kind",
        ]
    ),
    lambda inner: st.one_of(
        st.lists(inner, min_size=2, max_size=3).map(lambda parts: " and ".join(f"({p})" for p in parts)),
        st.lists(inner, min_size=2, max_size=3).map(lambda parts: " or ".join(f"({p})" for p in parts)),
        inner.map(lambda part: f"not({part})"),
    ),
    max_leaves=4,
)  # fmt: skip
CHECKS: list[dict[str, Any]] = [
    {"kind": "mandatory", "targets": ["mass", "uses"]},
    {"kind": "range", "targets": ["mass", "total"], "lower": {"value": "1", "inclusive": False}, "upper": {"value": "3"}},
    {"kind": "range", "targets": ["found"], "upper": {"value": "today"}},
    {"kind": "range", "targets": ["found"], "lower": {"value": "named"}, "upper": {"value": "today - duration(\"P1D\")"}},
    {"kind": "range", "of": "length", "targets": ["name"], "lower": {"value": "2"}},
    {"kind": "range", "of": "count", "targets": ["uses"], "upper": {"value": "1"}},
    {"kind": "range", "targets": ["opened"], "upper": {"value": "12:00"}},
    {"kind": "range", "targets": ["logged"], "upper": {"value": "now"}},
    {"kind": "allowed_values", "targets": ["name"], "values": ["a", "ß"], "ignore_case": True},
    {"kind": "allowed_values", "targets": ["uses"], "values": ["x", "y"]},
    {"kind": "allowed_values", "targets": ["mass"], "values": ["1", "2.5"]},
    {"kind": "allowed_values", "targets": ["name"], "governor": "kind", "rows": [{"answer": "a", "values": ["a", "b"]}, {"answer": "b", "values": ["c"]}]},
    {"kind": "format", "targets": ["code", "name"], "format": "issn"},
    {"kind": "format", "targets": ["code"], "pattern": "[a-c]{2}"},
    {"kind": "format", "targets": ["code"], "pattern": "(ab)*"},
    {"kind": "group", "targets": ["name", "code"], "quantity": "exactly_one"},
    {"kind": "group", "targets": ["mass", "code", "found"], "quantity": "all_or_none"},
    {"kind": "group", "targets": ["mass", "kind"], "quantity": "at_least_one"},
    {"kind": "unique", "targets": ["code"]},
    {"kind": "entered_twice", "targets": ["name"]},
    {"kind": "consent", "targets": ["fragile"]},
]  # fmt: skip
EFFECTS: list[dict[str, Any]] = [
    {"kind": "open", "targets": ["mass", "code"]},
    {"kind": "close", "targets": ["name", "uses"]},
    {"kind": "lock", "targets": ["found"]},
    {"kind": "start", "targets": ["count_of"], "value": "2", "when": None},
    {"kind": "derive", "targets": ["total"], "value": "mass * 2", "when": None},
    {"kind": "propose", "targets": ["mass"], "title": "Take one", "sets": [{"field": "count_of", "value": "1"}]},
]  # fmt: skip
SEVERITIES = st.fixed_dictionaries(
    {moment: st.sampled_from(["off", "note", "warn", "block"]) for moment in ("save", "submit")}
)
MESSAGES = st.sampled_from([None, "{label}: {value} on {today}", "{total}, {lowest}", "As it is."])


@st.composite
def rules(draw: st.DrawFn) -> list[dict[str, Any]]:
    """Rules of every kind, under conditions of every sort."""

    def governed(rule: dict[str, Any]) -> dict[str, Any]:
        needs = rule["kind"] in ("open", "close") or draw(st.booleans())
        return {"when": draw(CONDITIONS), **rule} if needs else rule

    checks = [governed(one) for one in draw(st.lists(st.sampled_from(CHECKS), max_size=5))]
    crossing = draw(st.lists(CONDITIONS, min_size=1, max_size=3))
    checks += [governed({"kind": "cross_field", "targets": ["mass"], "must": m}) for m in crossing]
    effects = draw(st.lists(st.sampled_from(EFFECTS), max_size=2, unique_by=lambda r: r["kind"]))
    return [
        *(
            {
                **check,
                "severity": draw(SEVERITIES),
                "hold": draw(st.booleans()),
                "message": draw(MESSAGES),
            }
            for check in checks
        ),
        *({**governed(one), "severity": None} for one in effects),
    ]


RECORDS = st.fixed_dictionaries(
    {},
    optional={
        "name": st.sampled_from(["a", "A", "c", "SS", "aab", "", None]),
        "code": st.sampled_from(["ab", "abab", "0378-5955", "a", None]),
        "mass": st.sampled_from(["0", "1", "1.00", "2.5", "3", "x", None]),
        "count_of": st.sampled_from(["1", "2", "9", None]),
        "found": st.sampled_from(["2026-06-12", "2026-06-11", "2025-12-31", "2026-13-01", None]),
        "named": st.sampled_from(["2026-06-12", "2026-06-01", None]),
        "opened": st.sampled_from(["08:00", "13:00", None]),
        "logged": st.sampled_from(["2026-06-11T10:00:00Z", "2026-06-11T08:00:00Z", None]),
        "fragile": st.sampled_from([True, False, None]),
        "kind": st.sampled_from(["a", "b", "c", None]),
        "uses": st.sampled_from([["x"], ["x", "y"], ["z", "y"], [], None]),
    },
)


def compiled(rules: list[dict[str, Any]]) -> CompiledForm:
    given = [{k: v for k, v in rule.items() if v is not None} for rule in rules]
    form = form_of(FIELDS, [])
    document = form.model_dump() | {
        "rules": [{"key": f"r{n}", "name": f"Rule {n}", **rule} for n, rule in enumerate(given)]
    }
    return compile_ruleset(RuleSet.model_validate({"forms": [document]}), form="form")


@settings(max_examples=300, deadline=None)
@given(
    rules(),
    st.lists(RECORDS, min_size=1, max_size=6),
    RECORDS,
    st.sampled_from(["create", "update"]),
)
def test_screening_says_what_judging_says(
    rules: list[dict[str, Any]], records: list[dict[str, Any]], before: dict[str, Any], event: Any
) -> None:
    form = compiled(rules)
    circumstances: dict[str, Any] = {"today": TODAY, "event": event, "role": "clerk"}
    screener = form.screener(**circumstances)
    for values in records:
        record = form.read(values, stored=before if event == "update" else None)
        screened = screener.screen(record)
        verdicts = form.judge_moments(record, **circumstances)
        save, submit = verdicts["save"], verdicts["submit"]
        assert (screened.save, screened.submit) == (save.outcome, submit.outcome)
        said = [(one.rule, one.message) for one in screened.violations]
        told = {
            one.rule: one.messages
            for verdict in (save, submit)
            for one in verdict.results
            if one.status == "broken"
        }
        order = [rule.key for rule in form.form.rules if rule.key in told]
        assert said == [(key, message) for key in order for message in told[key]]
        assert dict(screened.faults) == {k: s.fault for k, s in save.fields.items() if s.fault}
