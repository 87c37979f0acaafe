"""RuleSets and records over every kind, type, effect, circumstance and lookup, for all engines."""

from datetime import UTC, datetime
from typing import Any

from hypothesis import strategies as st

from thistlequartz.core.judging import ReferredRecord
from thistlequartz.core.ruleset import RuleSet

NOW = datetime(2026, 6, 12, 9, 30, tzinfo=UTC)
FIELDS: list[dict[str, Any]] = [
    {"key": "name", "type": "text"},
    {"key": "code", "type": "text"},
    {"key": "mass", "type": "decimal"},
    {"key": "count_of", "type": "whole_number"},
    {"key": "dose", "type": "quantity", "unit": "kg", "units": ["g", "lb"], "scale": 3},
    {"key": "found", "type": "date"},
    {"key": "named", "type": "date"},
    {"key": "opened", "type": "time"},
    {"key": "logged", "type": "date_time"},
    {"key": "lasted", "type": "duration", "finest": "hour"},
    {"key": "term", "type": "duration", "finest": "month"},
    {"key": "fragile", "type": "yes_no"},
    {"key": "kind", "type": "choice", "choices": [{"code": c, "label": c} for c in "abc"]},
    {"key": "uses", "type": "choices", "choices": [{"code": c, "label": c} for c in "xyz"]},
    {"key": "owner", "type": "reference", "form": "owner"},
    {"key": "total", "type": "decimal"},
    {"key": "memo", "type": "text", "long": True, "keep": True},
]
OWNER: dict[str, Any] = {
    "key": "owner",
    "name": "Owner",
    "fields": [
        {"key": "country", "label": "Country", "type": "text"},
        {"key": "rating", "label": "Rating", "type": "decimal"},
        {"key": "since", "label": "Since", "type": "date"},
        {"key": "seen", "label": "Seen", "type": "date_time"},
        {"key": "notice", "label": "Notice", "type": "duration", "finest": "day"},
        {"key": "trusted", "label": "Trusted", "type": "yes_no"},
        {"key": "grade", "label": "Grade", "type": "choice",
         "choices": [{"code": c, "label": c} for c in "abc"]},
        {"key": "tags", "label": "Tags", "type": "choices",
         "choices": [{"code": c, "label": c} for c in "xyz"]},
    ],
}  # fmt: skip
OWNERS = {
    "1": {
        "country": "NO", "rating": "3", "since": "2026-01-01", "trusted": True, "grade": "a",
        "tags": ["x", "y"], "notice": "P2D", "seen": "2026-06-11T10:00:00Z",
    },
    "2": {"country": "PT"},
}  # fmt: skip
NAMED = {"key": "heavy", "name": "It is heavy", "condition": "mass > 2"}
LEAVES = [
    'kind = "a"',
    'kind != "b"',
    "kind = null",
    "mass > 2",
    "mass <= count_of",
    "fragile",
    "not(fragile)",
    "heavy",
    "fragile != true",
    "found < today",
    "found >= named",
    'found in [date("2026-01-01")..today]',
    "name = code",
    'name in ("a", "b")',
    'name in ("a", null)',
    "mass in (1, [2..3), > 5)",
    "mass in (count_of..9]",
    "string length(name) > 1",
    "mass between 1 and 3",
    "mass between count_of and total",
    "found between named and today",
    "count(uses) >= 2",
    'list contains(uses, "x")',
    'uses = ["x", "y"]',
    "mass + count_of > 3",
    "total > 3",
    "-mass < 0",
    "changed.mass",
    "stored.kind = kind",
    "stored.mass < mass",
    'event = "create"',
    'role = "clerk"',
    'entry_point = "import"',
    'found - named > duration("P2D")',
    'found + duration("P1M") > today',
    "found.year = 2026",
    "found.month = 6",
    "found.day > named.day",
    "week of year(found) > 23",
    "day of year(found) > 100",
    'day of week(found) = "Friday"',
    'month of year(named) = "June"',
    "years and months duration(named, found).months > 0",
    "date(2026, count_of, 12) <= found",
    'found + duration("P1Y1M") > named',
    "logged < now",
    'opened > time("09:00:00")',
    'logged > date and time("2026-06-11T09:00:00Z")',
    'matches(name, "a+")',
    "name != null",
    'lasted >= duration("P1D")',
    "lasted = found - named",
    'lasted in [duration("PT0S")..duration("P2D")]',
    "lasted.hours > 3",
    "lasted / 2 < lasted",
    "found + lasted > named",
    "sum([lasted, lasted]) > lasted",
    "term > years and months duration(named, found)",
    "named + term >= found",
    "term.years = 1",
    "dose < mass",
    "dose in (1, [0.25..0.5])",
    "stored.dose = dose",
    "lasted = owner.notice",
    "owner.notice.days > 1",
    "stored.lasted != lasted",
    "true",
    "null",
    "some u in uses satisfies u = kind",
    'every u in uses satisfies u in ("x", "y")',
    "sum([mass, count_of, total]) > 4",
    "(if fragile then mass else count_of) > 1",
    "mass instance of number",
    'count(uses[item != "x"]) = 1',
    "count(for u in uses return u) = 2",
    "{a: mass, b: a + 1}.b > 3",
    "abs(mass - 3) <= 1",
    'owner.country = "NO"',
    "owner.rating > mass",
    "owner.rating != null",
    "owner.since <= found",
    "owner.since.year < 2027",
    "owner.since > today",
    "owner.seen < now",
    "owner.trusted",
    "owner.grade = kind",
    'list contains(owner.tags, "x")',
    "count(owner.tags) > 1",
    'substring(name, 1, 1) = "a"',
    "modulo(mass, 2) = 1",
    'contains(string: name, match: "a")',
    "floor(mass) = mass",
    "max(mass, count_of) > 2",
    "count_of in [1..2]",
    "[1..3] = [1..3]",
    "is(found, named)",
    "mass ** 2 > 4",
    "mass / count_of > 1",
    "mass * 2 >= 6",
]
CONDITIONS = st.recursive(
    st.sampled_from(LEAVES),
    lambda inner: st.one_of(
        st.lists(inner, min_size=2, max_size=3).map(
            lambda parts: " and ".join(f"({p})" for p in parts)
        ),
        st.lists(inner, min_size=2, max_size=3).map(
            lambda parts: " or ".join(f"({p})" for p in parts)
        ),
        inner.map(lambda part: f"not({part})"),
    ),
    max_leaves=4,
)
ELSEWHERE = [
    "other.name = name",
    'other.mass > mass and other.kind = "a"',
    "other.found >= found",
    "other.mass in [mass..9]",
    "other.name != null",
    "other.owner.country = owner.country",
    "other.mass / count_of > 1",
    "other.owner.since < owner.since",
    "other.uses = uses",
    "other.lasted >= lasted",
    "other.term = term",
    "other.dose <= dose",
]
CHECKS: list[dict[str, Any]] = [
    {"kind": "mandatory", "targets": ["mass", "uses"]},
    {"kind": "mandatory", "targets": ["owner"]},
    {
        "kind": "range",
        "targets": ["mass", "total"],
        "lower": {"value": "1", "inclusive": False},
        "upper": {"value": "3"},
    },
    {"kind": "range", "targets": ["found"], "upper": {"value": "today"}},
    {
        "kind": "range",
        "targets": ["found"],
        "lower": {"value": "named"},
        "upper": {"value": 'today - duration("P1D")'},
    },
    {"kind": "range", "of": "length", "targets": ["name"], "lower": {"value": "2"}},
    {"kind": "range", "of": "count", "targets": ["uses"], "upper": {"value": "1"}},
    {"kind": "range", "targets": ["count_of"], "upper": {"value": "9"}},
    {"kind": "range", "targets": ["opened"], "upper": {"value": "12:00"}},
    {"kind": "range", "targets": ["logged"], "upper": {"value": "now"}},
    {
        "kind": "range",
        "targets": ["lasted"],
        "lower": {"value": "1 hour"},
        "upper": {"value": "2 days", "inclusive": False},
    },
    {"kind": "range", "targets": ["dose"], "upper": {"value": "500 g"}},
    {"kind": "range", "targets": ["term"], "upper": {"value": "P2Y"}},
    {"kind": "allowed_values", "targets": ["term"], "values": ["P1Y", "18 months"]},
    {"kind": "unique", "targets": ["lasted"]},
    {"kind": "allowed_values", "targets": ["name"], "values": ["a", "ß"], "ignore_case": True},
    {"kind": "allowed_values", "targets": ["uses"], "values": ["x", "y"]},
    {"kind": "allowed_values", "targets": ["mass"], "values": ["1", "2.5"]},
    {
        "kind": "allowed_values",
        "targets": ["name"],
        "governor": "kind",
        "rows": [{"answer": "a", "values": ["a", "c"]}, {"answer": "b", "values": ["c"]}],
    },
    {
        "kind": "allowed_values",
        "targets": ["uses"],
        "governor": "fragile",
        "rows": [{"answer": "yes", "values": ["x", "y"]}],
    },
    {"kind": "format", "targets": ["code", "name"], "format": "issn"},
    {"kind": "format", "targets": ["code"], "pattern": "[a-c]{2}"},
    {"kind": "format", "targets": ["code"], "pattern": "(ab)*"},
    {"kind": "group", "targets": ["name", "code"], "quantity": "exactly_one"},
    {"kind": "group", "targets": ["mass", "code", "found"], "quantity": "all_or_none"},
    {"kind": "group", "targets": ["mass", "kind"], "quantity": "at_least_one"},
    {"kind": "unique", "targets": ["code"]},
    {"kind": "unique", "targets": ["name", "kind"]},
    {"kind": "entered_twice", "targets": ["name"]},
    {"kind": "consent", "targets": ["fragile"]},
]
CHECK_KINDS = sorted({one["kind"] for one in CHECKS} | {"cross_field", "elsewhere"})
EFFECTS: list[dict[str, Any]] = [
    {"kind": "open", "targets": ["mass", "code"]},
    {"kind": "close", "targets": ["name", "uses"], "shown": "disabled"},
    {"kind": "lock", "targets": ["found"]},
    {"kind": "lock", "targets": ["term"]},
    {"kind": "wait", "targets": ["code"], "until": "name != null"},
    {"kind": "start", "targets": ["count_of"], "value": "2", "when": None},
    {"kind": "start", "targets": ["named"], "formula": "today", "when": 'role = "clerk"'},
    {"kind": "derive", "targets": ["total"], "value": "mass * 2", "when": None},
    {"kind": "derive", "targets": ["total"], "value": "sum([mass, count_of])"},
    {"kind": "derive", "targets": ["lasted"], "value": "found - named", "when": None},
    {"kind": "start", "targets": ["term"], "value": "1 year", "when": None},
    {
        "kind": "propose",
        "targets": ["mass"],
        "title": "Take one",
        "sets": [{"field": "count_of", "value": "1"}],
    },
]
SCOPES = [
    *({} for _ in range(6)),
    {"scope": {"events": ["create"]}},
    {"scope": {"entry_points": ["desk", "import"]}},
    {"scope": {"roles": ["clerk"]}},
    {"scope": {"layouts": ["small"]}},
    {"in_force_from": "2026-06-12"},
    {"in_force_to": "2026-06-11"},
    {"changed_fields": ["mass", "name"]},
    {"enabled": False},
]
SEVERITIES = st.fixed_dictionaries(
    {
        "entry": st.sampled_from(["none", "note", "warn"]),
        "save": st.sampled_from(["none", "note", "warn", "block"]),
        "submit": st.sampled_from(["none", "note", "warn", "block"]),
    }
)
MESSAGES = st.sampled_from([None, "{label}: {value} on {today}", "{total}, {lowest}", "As it is."])
RECORDS = st.fixed_dictionaries(
    {},
    optional={
        "name": st.sampled_from(["a", "A", "c", "SS", "aab", "", None]),
        "name.again": st.sampled_from(["a", "c", None]),
        "code": st.sampled_from(["ab", "abab", "0378-5955", "a", None]),
        "mass": st.sampled_from(["0", "1", "1.00", "2.5", "3", "x", None]),
        "count_of": st.sampled_from(["1", "2", "9", None]),
        "dose": st.sampled_from(["250 g", "0.25", "1 lb", "3 spoons", None]),
        "found": st.sampled_from(["2026-06-12", "2026-06-11", "2025-12-31", "2026-13-01", None]),
        "named": st.sampled_from(["2026-06-12", "2026-06-01", None]),
        "opened": st.sampled_from(["08:00", "13:00", None]),
        "logged": st.sampled_from(["2026-06-11T10:00:00Z", "2026-06-12T18:00:00Z", None]),
        "lasted": st.sampled_from(["P1D", "PT3H", "36 h", "-P1D", "PT30M", None]),
        "term": st.sampled_from(["P1Y", "P1Y6M", "18 months", "P3D", None]),
        "fragile": st.sampled_from([True, False, "perhaps", None]),
        "kind": st.sampled_from(["a", "b", "c", None]),
        "uses": st.sampled_from([["x"], ["x", "y"], ["z", "y"], [], None]),
        "owner": st.sampled_from(["1", "2", "3", None]),
        "memo": st.sampled_from(["satisfied", None]),
    },
)
FULL = st.fixed_dictionaries(
    {
        "name": st.sampled_from(["a", "A", "c", "aab"]),
        "name.again": st.sampled_from(["a", "A", "c", "aab"]),
        "code": st.sampled_from(["ab", "abab", "0378-5955", "a"]),
        "mass": st.sampled_from(["0", "1", "2.5", "7"]),
        "count_of": st.sampled_from(["1", "9"]),
        "found": st.sampled_from(["2026-06-12", "2026-06-11", "2026-07-01"]),
        "named": st.sampled_from(["2026-06-12", "2026-06-01"]),
        "lasted": st.sampled_from(["P1D", "PT3H", "P7D"]),
        "dose": st.sampled_from(["250 g", "0.25", "1 lb"]),
        "term": st.sampled_from(["P1Y", "P1Y6M"]),
        "fragile": st.sampled_from([True, False]),
        "kind": st.sampled_from(["a", "b", "c"]),
        "uses": st.sampled_from([["x"], ["x", "y"], ["z", "y"]]),
        "owner": st.sampled_from(["1", "2"]),
    },
)
"""Most records of a form are filled in: without them little would ever be judged."""
FAULTY = st.fixed_dictionaries(
    {
        "mass": st.just("x"),
        "uses": st.just(["q"]),
        "owner": st.just("nobody"),
        "fragile": st.just("perhaps"),
        "found": st.just("2026-13-01"),
    },
    optional={"code": st.just("ab"), "kind": st.just("a")},
)
"""What cannot be read is neither blank nor a value."""
CIRCUMSTANCES = st.fixed_dictionaries(
    {
        "event": st.sampled_from(["create", "update"]),
        "entry_point": st.sampled_from(["desk", "import", "service"]),
        "role": st.sampled_from(["clerk", "steward", None]),
        "layout": st.sampled_from([None, "small"]),
        "now": st.sampled_from([NOW, None]),
    }
)


@st.composite
def rules(draw: st.DrawFn) -> list[dict[str, Any]]:
    """A rule of every kind that checks and some with an effect, under conditions of every sort."""

    def governed(rule: dict[str, Any]) -> dict[str, Any]:
        if rule["kind"] in ("open", "close"):
            return {"when": draw(CONDITIONS), **rule}
        how = draw(st.sampled_from(["always", "always", "when"]))
        return {"when": draw(CONDITIONS), **rule} if how == "when" else rule

    def check(kind: str) -> dict[str, Any]:
        match kind:
            case "cross_field":
                return {"kind": kind, "targets": ["mass"], "must": draw(CONDITIONS)}
            case "elsewhere":
                return {
                    "kind": kind,
                    "targets": ["name"],
                    "no_other": draw(st.sampled_from(ELSEWHERE)),
                }
            case _:
                return draw(st.sampled_from([one for one in CHECKS if one["kind"] == kind]))

    effects = draw(
        st.lists(st.sampled_from(EFFECTS), min_size=2, max_size=4, unique_by=lambda r: r["kind"])
    )
    return [
        *(
            {
                **governed(one),
                **draw(st.sampled_from(SCOPES)),
                "severity": draw(SEVERITIES),
                "hold": draw(st.booleans()),
                "message": draw(MESSAGES),
            }
            for one in map(check, draw(st.permutations(CHECK_KINDS)))
        ),
        *(governed(one) for one in effects),
    ]


def document_of(given: list[dict[str, Any]]) -> RuleSet:
    """A RuleSet with the fields above and these rules; what is None is left out."""
    named = [
        {
            "key": f"r{number}",
            "name": f"Rule {number}",
            **{k: v for k, v in one.items() if v is not None},
        }
        for number, one in enumerate(given)
    ]
    form = {
        "key": "form",
        "name": "Form",
        "layouts": [{"key": "small", "label": "The small form"}],
        "conditions": [NAMED],
        "fields": [{"label": field["key"].capitalize(), **field} for field in FIELDS],
        "rules": named,
    }
    return RuleSet.model_validate({"forms": [form, OWNER]})


class Neighbours:
    """Other records of the form, and the owners that a record can refer to."""

    def __init__(self, others: list[dict[str, Any]]) -> None:
        self._others = others

    def record(self, form: str, number: str) -> ReferredRecord | None:
        return ReferredRecord(OWNERS[number]) if number in OWNERS else None

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        return any(
            tuple(str(one.get(key) or "").casefold() for key in keys) == folded
            for one in self._others
        )

    def holder(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> str | None:
        return None

    def others(self, where, fields) -> list[dict[str, Any]]:
        return self._others
