"""Rules as people write them: unnamed, unfinished, with numbers and days as the product shows them."""

from dataclasses import replace
from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.authoring import RECIPES, RecipeError, Tiers, recipe_rules, tiers_rules
from thistlequartz.core.cases.verdict_changes import JudgedRequest, changes_between
from thistlequartz.core.formats.patterns import PatternError, compile_pattern
from thistlequartz.core.judging import (
    NUMBER,
    Circumstances,
    JudgeRequest,
    ReferredRecord,
    Waiver,
    compile_ruleset,
)
from thistlequartz.core.language import plain
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.ruleset import Bound, MandatoryRule, RuleSet, rule_sentence
from thistlequartz.core.types import NumberType, read_written, show_value

from .conftest import TODAY, compiled_form, form_of

FIELDS = [
    {"key": "depth", "type": "whole_number"},
    {"key": "share", "type": "decimal", "scale": 1, "unit": "%"},
    {"key": "kind", "type": "choice",
     "choices": [{"code": "a", "label": "Apple"}, {"code": "b", "label": "Beech"}]},
    {"key": "ticks", "type": "choices",
     "choices": [{"code": "a", "label": "Apple"}, {"code": "b", "label": "Beech"}]},
    {"key": "wanted", "type": "yes_no"},
    {"key": "note", "type": "text"},
    {"key": "seen", "type": "date"},
]  # fmt: skip
LAYOUTS = [{"key": "small", "label": "The small form"}]
BELOW = {"kind": "range", "targets": ["depth"], "lower": {"value": "0", "inclusive": False}}


def sentence(rule, **parts):
    form = compiled_form(FIELDS, [rule], layouts=LAYOUTS, **parts)
    return plain(rule_sentence(form.rules[0].lowered, form.vocabulary, form.layouts))


def problems(rule):
    form = compile_ruleset(RuleSet(forms=(form_of(FIELDS, [rule]),)), form="form")
    return form.problems.get("r1", ())


def test_a_rule_nobody_named_is_called_by_its_sentence_as_it_is_now():
    first = compiled_form(FIELDS, [{**BELOW, "name": "", "upper": {"value": "2,500"}}])
    assert first.form.rules[0].name == "Depth must be more than 0 and at most 2,500"
    assert first.written["r1"].name == "", "the document stays as it is written"
    bound = first.written["r1"].model_copy(update={"upper": Bound(value="3000")})
    rules = [bound.model_dump()]
    assert compiled_form(FIELDS, rules).form.rules[0].name.endswith("at most 3,000")
    named = first.judge({"depth": "0"}, moment="submit", today=TODAY)
    assert named.results[0].rule == "r1"
    torn = compile_ruleset(
        RuleSet(forms=(form_of(FIELDS, [{**BELOW, "name": "", "when": ""}]),)), form="form"
    )
    assert torn.form.rules[0].name == "Unfinished rule about Depth"


@given(st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**15), max_value=10**15,
                   places=3))  # fmt: skip
def test_a_number_is_read_as_it_is_shown(number):
    """Whatever `show_value` writes, a steward can write; spaces group as commas do."""
    shown = show_value(number, NumberType())
    assert read_written(shown, NumberType()) == number
    assert read_written(shown.replace(",", " "), NumberType()) == number


@pytest.mark.parametrize("written", ["2,500", "2 500", "2500", "2,500.0"])
@pytest.mark.parametrize(
    "rule",
    [
        {"kind": "range", "targets": ["depth"], "upper": {"value": "{}"}},
        {"kind": "allowed_values", "targets": ["depth"], "values": ["{}"]},
        {"kind": "start", "targets": ["depth"], "value": "{}"},
    ],
)
def test_every_place_that_takes_a_value_reads_it_as_shown(rule, written):
    text = str(rule).replace("'{}'", repr(written))
    assert "2,500" in sentence(eval(text)) or "starts as 2,500" in sentence(eval(text))
    form = compiled_form(FIELDS, [], starters=[
        {"key": "s", "label": "S", "values": {"depth": written}}])  # fmt: skip
    assert form.starting_values(today=TODAY, starter="s") == {"depth": "2500"}


@pytest.mark.parametrize("kind", ["mandatory", "lock", "open", "close", "start"])
def test_a_condition_with_nothing_said_is_unfinished_and_never_always(kind):
    rule = {"kind": kind, "targets": ["note"], "when": " "}
    (problem, *_) = problems(rule | ({"value": "x"} if kind == "start" else {}))
    assert (problem.place, problem.unsaid) == ("when", True)


@pytest.mark.parametrize(
    ("rule", "place"),
    [
        ({"kind": "mandatory", "targets": []}, "targets"),
        ({"kind": "range", "targets": ["depth"], "lower": {"value": ""}}, "lower.value"),
        ({"kind": "allowed_values", "targets": ["note"]}, "values"),
        ({"kind": "allowed_values", "targets": ["note"], "governor": "kind"}, "rows"),
        ({"kind": "format", "targets": ["note"]}, "format"),
        ({"kind": "format", "targets": ["note"], "pattern": ""}, "pattern"),
        ({"kind": "derive", "targets": ["depth"], "value": ""}, "value"),
        ({"kind": "propose", "targets": ["depth"], "title": "",
          "sets": [{"field": "depth", "value": "1"}]}, "title"),
    ],
)  # fmt: skip
def test_what_was_not_begun_is_told_apart_from_what_is_wrong(rule, place):
    (found,) = problems(rule)
    assert (found.place, found.unsaid) == (place, True)
    assert found.remedy


def test_what_is_wrong_is_wrong_and_says_the_mend():
    (found,) = problems({"kind": "range", "targets": ["ticks"], "lower": {"value": "1"}})
    assert not found.unsaid
    assert "in number of choices" in found.remedy
    (found,) = problems({"kind": "range", "targets": ["depth"], "upper": {"value": ""}})
    assert found.remedy == "Give the highest value, or choose “no highest”."


@pytest.mark.parametrize(
    ("rule", "words"),
    [
        ({"kind": "mandatory", "targets": ["note"], "when": "depth > 0 and depth <= 1000"},
         "When Depth is more than 0 and at most 1,000, Note is required."),
        ({"kind": "mandatory", "targets": ["note"], "when": "share <= 5 and share > 1"},
         "When Share is more than 1 and at most 5 %, Note is required."),
        ({"kind": "mandatory", "targets": ["note"], "when": "depth > 0 and share <= 5"},
         "When Depth is more than 0 and Share is at most 5 %, Note is required."),
        ({"kind": "group", "targets": ["note", "kind"], "quantity": "exactly_one"},
         "Exactly one of Note and Kind must have a value."),
        ({"kind": "unique", "targets": ["note", "kind"]},
         "No two records may share Note and Kind."),
        ({"kind": "mandatory", "targets": ["note"], "in_force_from": "1 December 2026",
          "scope": {"events": ["create"], "entry_points": ["import"], "layouts": ["small"],
                    "roles": ["clerk"]}, "when": 'kind = "a"'},
         "For new records only, for the role clerk, by import, on The small form, from"
         " 1 December 2026: when Kind is Apple, Note is required."),
    ],
)  # fmt: skip
def test_a_sentence_says_each_thing_once_and_for_whom_and_when_it_counts(rule, words):
    assert sentence(rule) == words


def test_days_of_a_rule_are_read_as_people_write_them():
    rule = MandatoryRule.model_validate({"key": "r", "in_force_from": "1 December 2026"})
    assert rule.in_force_from == date(2026, 12, 1)
    with pytest.raises(ValueError, match="write it as 2026-06-11 or 11 June 2026"):
        MandatoryRule.model_validate({"key": "r", "in_force_to": "1 Decembre"})


@pytest.mark.parametrize("pattern", ["[0-9]{10", "a{2,", "{", "x{a}", "(a{3)", "a{2,3}{"])
def test_a_brace_that_counts_nothing_is_refused(pattern):
    with pytest.raises(PatternError, match="counts nothing"):
        compile_pattern(pattern)


@pytest.mark.parametrize("pattern", ["[0-9]{10}", r"a\{", "[{]", r"\p{L}{2,}", "a{2,}b"])
def test_a_brace_that_counts_or_stands_for_itself_is_taken(pattern):
    compile_pattern(pattern)


class Others:
    """Two records that know their numbers."""

    def record(self, form: str, number: str) -> ReferredRecord | None:
        return None

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        return folded == ("twice",)

    def holder(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> str | None:
        return "7" if self.taken(keys, folded) else None

    def others(self, where, fields):
        return [{"note": "twice", "depth": "4", NUMBER: 7}, {"note": "other", NUMBER: 8}]


@pytest.mark.parametrize(
    "rule",
    [
        {"kind": "unique", "targets": ["note"]},
        {"kind": "elsewhere", "targets": ["note"], "no_other": "other.note = note"},
        {"kind": "unique", "targets": ["note"], "message": "Taken."},
    ],
)
def test_the_record_that_has_the_double_is_named(rule):
    form = compiled_form(FIELDS, [rule])
    verdict = form.judge({"note": "twice"}, moment="submit", today=TODAY, lookup=Others())
    assert verdict.results[0].messages[0].text.endswith("See record 7.")


def test_what_changed_names_reasons_and_circumstances():
    rule = {**BELOW, "reason_required": True, "severity": {"save": "warn", "submit": "warn"}}
    form = compiled_form(FIELDS, [rule], layouts=LAYOUTS)
    record = form.read({"depth": "0"})

    def tried(waivers=None, by="the draft", **circumstances):
        here = Circumstances(TODAY, None, "create", "desk", None, "clerk")
        here = replace(here, **circumstances)
        return JudgedRequest(
            form, form.judged(JudgeRequest(record, here, waivers=waivers)), here, by
        )

    def words(one, other):
        return [change.words for change in changes_between(one, other)]

    basis = form.judge({"depth": "0"}, moment="save", today=TODAY).results[0].basis
    given = {"r1": Waiver("Measured twice.", basis)}
    assert words(tried(), tried(given)) == ["“Rule 1” can be passed now: a reason is given."]
    assert words(tried(given), tried()) == ["“Rule 1” wants a reason again."]
    assert words(tried(), tried(by="release 2", entry_point="import", role="approver",
                                layout="small", today=date(2026, 12, 1))) == [
        "It is judged by release 2, was by the draft.",
        "It is sent in by import, was at the desk.",
        "It is sent in by the role approver, was by clerk.",
        "It stands on The small form, was on the whole form.",
        "It is judged as of 1 December 2026, was 12 June 2026.",
    ]  # fmt: skip


def test_slips_speak_in_labels():
    form = compiled_form(
        FIELDS,
        [{"kind": "mandatory", "targets": ["note"], "when": "apples"},
         {"kind": "mandatory", "targets": ["depth"]}],
        conditions=[{"key": "apples", "name": "It is an apple", "condition": 'kind = "a"'}],
    )  # fmt: skip
    said = [slip.sentence for slip in mutants_of(form)]
    assert "“It is an apple” is met when Kind is not Apple." in said
    assert not [one for one in said if "yes is yes" in one or '"a"' in one]
    assert "Depth is locked." in said


def test_a_chain_of_questions_has_any_number_of_links():
    links = ("wanted", "true", "kind", "kind", "a", "depth", "kind", "b", "note")
    made = recipe_rules(RECIPES["chain"], {"links": links}, form_of(FIELDS, []))
    rules = [rule.model_dump() for rule in made]
    form = compiled_form(FIELDS, rules)
    asked = form.judge({"wanted": True, "kind": "b"}, moment="submit", today=TODAY)
    shown = {key: state.relevant for key, state in asked.fields.items()}
    assert (shown["kind"], shown["depth"], shown["note"]) == (True, False, True)
    assert [one.rule for one in asked.violated] == ["note_is_given_where_it_is_asked"]
    closed = form.judge({"wanted": False, "kind": "b"}, moment="submit", today=TODAY)
    assert not closed.fields["note"].relevant
    for torn in ((), links[:2], ("wanted", "maybe", "kind"), ("kind", "a", "kind"), links + links):
        with pytest.raises(RecipeError):
            recipe_rules(RECIPES["chain"], {"links": torn}, form_of(FIELDS, []))


def test_tiers_take_bounds_as_shown_and_leave_untouched_rows_alone():
    tiers = Tiers.model_validate({
        "governor": "depth", "field": "share", "title": "A share", "begin": "0",
        "rows": [{"upto": "1,000", "value": "1.5 %"}, {"upto": "25 000", "value": "2"},
                 {"upto": "", "value": ""}, {"upto": "", "value": None}],
    })  # fmt: skip
    form = form_of(FIELDS, [])
    made = tiers_rules(tiers, compiled_form(FIELDS, []).fields, form)
    assert [rule.when for rule in made] == ["depth in (0..1000]", "depth in (1000..25000]"]
    assert [Decimal(rule.sets[0].value) for rule in made] == [Decimal("1.5"), Decimal(2)]


def written_as_shown(day: date) -> str:
    return f"{day.day} {day.strftime('%B')} {day.year}"


@given(st.dates(date(1000, 1, 1), date(2999, 12, 31)))
def test_any_day_is_read_as_it_is_shown_wherever_it_stands(day):
    written = written_as_shown(day)
    rule = MandatoryRule.model_validate({"key": "r", "in_force_from": written})
    assert rule.in_force_from == day
    bound = {"kind": "range", "targets": ["seen"], "upper": {"value": written}}
    assert sentence(bound) == f"Seen must be on or before {written}."


PARTS = {
    "name": st.sampled_from(["", "Named"]),
    "when": st.sampled_from([None, "", "wanted = true", "wanted ="]),
    "targets": st.sampled_from([[], ["depth"], ["note"], ["ticks", "kind"]]),
    "lower": st.sampled_from([None, {"value": ""}, {"value": "2,500"}, {"value": "low"}]),
    "upper": st.sampled_from([None, {"value": "80 000", "inclusive": False}]),
    "severity": st.sampled_from([{"save": "block", "submit": "block"}]),
}


@given(st.fixed_dictionaries(PARTS), st.sampled_from(["range", "mandatory", "open", "lock"]))
def test_unfinished_rule_has_a_name_and_blocks_nothing(parts, kind):
    if kind in {"open", "lock"}:
        parts = {name: part for name, part in parts.items() if name != "severity"}
        parts["when"] = parts["when"] or ""  # these are never without a condition
    if kind != "range":
        parts = {name: part for name, part in parts.items() if name not in {"lower", "upper"}}
    rule = {"key": "r1", "kind": kind, **parts}
    form = compile_ruleset(RuleSet(forms=(form_of(FIELDS, [rule]),)), form="form")
    (rule,) = form.form.rules
    assert rule.name.strip()
    if form.problems.get("r1"):
        judged = form.judge({"depth": 1, "wanted": True}, moment="submit", today=TODAY)
        assert [result.status for result in judged.results] == ["unfinished"]
        assert judged.outcome == "clear"
