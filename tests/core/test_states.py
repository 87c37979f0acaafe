"""What is asked at all: opened, closed, locked, waiting, derived, started, proposed, held.

The order of one evaluation and its meaning are those of docs/rules.md.
"""

from datetime import UTC, datetime
from typing import Any

import pytest

from thistlequartz.core.judging import Waiver, compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .conftest import TODAY, compiled_form, form_of, result

BLOCK = {"severity": {"save": "block", "submit": "block"}}


def yes_no(*keys: str) -> list[dict[str, Any]]:
    return [{"key": key, "type": "yes_no"} for key in keys]


def text(*keys: str, **parts: Any) -> list[dict[str, Any]]:
    return [{"key": key, "type": "text", **parts} for key in keys]


def number(*keys: str, **parts: Any) -> list[dict[str, Any]]:
    return [{"key": key, "type": "decimal", **parts} for key in keys]


CHAIN = compiled_form(
    [*yes_no("wanted"), *text("way", "email", "note")],
    [
        {"kind": "open", "targets": ["way"], "when": "wanted = true"},
        {"kind": "open", "targets": ["email"], "when": 'way = "mail"', "otherwise": "disabled"},
        {"kind": "mandatory", "targets": ["email"], **BLOCK},
        {"kind": "close", "targets": ["note"], "when": "email = null"},
    ],
)


@pytest.mark.parametrize(
    ("wanted", "way", "shown"),
    [
        (None, "mail", ("hidden", "disabled", "hidden")),
        ("no", "mail", ("hidden", "disabled", "hidden")),
        ("yes", None, ("enterable", "disabled", "hidden")),
        ("yes", "mail", ("enterable", "enterable", "enterable")),
    ],
)
def test_a_chain_holds_without_repeating_its_first_condition(wanted, way, shown):
    values = {"wanted": wanted, "way": way, "email": "a@b.org", "note": "n"}
    verdict = CHAIN.judge(values, moment="save", today=TODAY)
    assert tuple(verdict.fields[key].display for key in ("way", "email", "note")) == shown
    asked = shown[1] == "enterable"
    assert result(verdict, "r3").status == ("satisfied" if asked else "not_relevant")
    assert ("email" in verdict.stores) is asked


def test_out_of_play_neither_demands_nor_tells_a_fault():
    form = compiled_form(
        [*yes_no("wanted"), *number("dose")],
        [
            {"kind": "open", "targets": ["dose"], "when": "wanted = true"},
            {"kind": "mandatory", "targets": ["dose"], **BLOCK},
        ],
    )
    verdict = form.judge({"dose": "much"}, moment="submit", today=TODAY)
    assert (verdict.outcome, verdict.fields["dose"].fault) == ("clear", None)
    opened = form.judge({"dose": "much", "wanted": True}, moment="submit", today=TODAY)
    assert opened.outcome == "blocked"
    assert "not a number" in opened.fields["dose"].fault


@pytest.mark.parametrize("keep", [False, True])
def test_what_a_save_would_drop_is_named_and_a_kept_value_stays(keep):
    form = compiled_form(
        [*yes_no("wanted"), *text("note", keep=keep)],
        [{"kind": "open", "targets": ["note"], "when": "wanted = true"}],
    )
    stored = {"wanted": True, "note": "before"}
    values = {"wanted": False, "note": "typed meanwhile"}
    verdict = form.judge(values, moment="save", today=TODAY, event="update", stored=stored)
    assert verdict.drops == (() if keep else ("note",))
    assert verdict.stores == {"wanted": False, **({"note": "before"} if keep else {})}


def test_a_field_opens_by_any_opening_rule_and_closes_by_any_closing_one():
    form = compiled_form(
        [*yes_no("a", "b", "c"), *text("note")],
        [
            {"kind": "open", "targets": ["note"], "when": "a"},
            {"kind": "open", "targets": ["note"], "when": "b"},
            {"kind": "close", "targets": ["note"], "when": "c", "shown": "disabled"},
        ],
    )
    for values, asked in (
        ({}, False),
        ({"b": True}, True),
        ({"a": True, "b": False}, True),
        ({"a": True, "c": True}, False),
    ):
        state = form.judge(values, moment="save", today=TODAY).fields["note"]
        assert state.relevant is asked


def test_a_locked_field_keeps_what_is_stored_and_counts_in_rules():
    form = compiled_form(
        [*yes_no("approved"), *number("price")],
        [
            {"kind": "lock", "targets": ["price"], "when": "approved = true"},
            {"kind": "start", "targets": ["price"], "value": "80"},
            {"kind": "range", "targets": ["price"], "upper": {"value": "100"}, **BLOCK},
        ],
    )
    sent = {"approved": True, "price": "5"}
    update = form.judge(
        sent, moment="save", today=TODAY, event="update", stored={"approved": True, "price": "120"}
    )
    assert (update.stores["price"], update.outcome) == (120, "blocked")
    assert update.fields["price"].read_only
    assert "is locked" in update.ignored["price"]
    created = form.judge(sent, moment="save", today=TODAY)
    assert created.stores["price"] == 80


def test_later_fields_wait_at_the_desk_with_the_reason_and_imports_do_not():
    form = compiled_form(
        text("number", "name"),
        [
            {"kind": "wait", "targets": ["name"], "until": "number != null"},
            {"kind": "mandatory", "targets": ["name"], **BLOCK},
        ],
    )
    waiting = form.judge({"name": "satisfied"}, moment="save", today=TODAY)
    assert waiting.fields["name"].waiting == "This can be filled in once Number has a value."
    assert (waiting.stores["name"], waiting.outcome) == ("satisfied", "clear")
    for values, entry_point in (({"number": "7"}, "desk"), ({}, "import"), ({}, "service")):
        verdict = form.judge(values, moment="save", today=TODAY, entry_point=entry_point)
        assert verdict.fields["name"].waiting is None


def test_derived_fields_are_chained_rounded_and_never_taken_from_input():
    form = compiled_form(
        [*number("net"), *number("tax", "total", scale=2), *number("helped", helper=True)],
        [
            {"kind": "derive", "targets": ["total"], "value": "sum(net, tax)"},
            {"kind": "derive", "targets": ["tax"], "value": "net * 0.125"},
            {"kind": "derive", "targets": ["helped"], "value": "total * 2"},
            {"kind": "range", "targets": ["helped"], "upper": {"value": "3"}, **BLOCK},
        ],
    )
    verdict = form.judge({"net": "1.00", "total": "999"}, moment="save", today=TODAY)
    assert {key: str(value) for key, value in verdict.stores.items()} == {
        "net": "1",
        "tax": "0.12",  # 0.125, half to even
        "total": "1.12",
    }
    assert "is computed" in verdict.ignored["total"]
    assert verdict.fields["helped"].display == "hidden"
    assert form.judge({"net": "2"}, moment="save", today=TODAY).outcome == "blocked"
    blank = form.judge({}, moment="save", today=TODAY)
    assert (blank.fields["tax"].value, blank.fields["total"].value) == (None, None)


def test_the_first_deriving_rule_that_applies_gives_the_value():
    form = compiled_form(
        [*number("size"), *text("class")],
        [
            {"kind": "derive", "targets": ["class"], "when": "size > 10", "value": '"large"'},
            {"kind": "derive", "targets": ["class"], "when": "size > 5", "value": '"middle"'},
        ],
    )
    for size, said in (("11", "large"), ("6", "middle"), ("5", None), ("", None)):
        assert form.judge({"size": size}, moment="save", today=TODAY).fields["class"].value == said


STARTING = compiled_form(
    [{"key": "day", "type": "date"}, *number("amount"), *text("kind", "town")],
    [
        {"kind": "start", "targets": ["day"], "formula": "today"},
        {"kind": "start", "targets": ["amount"], "value": "80 000"},
        {"kind": "start", "targets": ["town"], "when": 'role = "clerk"', "value": "Lisbon"},
    ],
    starters=[
        {"key": "school", "label": "A school", "values": {"kind": "School", "amount": "1 500"}}
    ],
)


def test_starting_values_fill_what_was_not_supplied_on_creation_only():
    assert STARTING.judge({}, moment="save", today=TODAY).stores == {"day": TODAY, "amount": 80_000}
    supplied = STARTING.judge({"amount": None, "day": ""}, moment="save", today=TODAY)
    assert supplied.stores == {}, "supplied blank stays blank"
    changed = STARTING.judge({}, moment="save", today=TODAY, event="update", stored={"kind": "x"})
    assert changed.stores == {}


def test_a_starter_fills_several_fields_at_once():
    assert STARTING.starting_values(today=TODAY, role="clerk", starter="school") == {
        "day": "2026-06-12",
        "amount": "1500",
        "kind": "School",
        "town": "Lisbon",
    }


TIERS = compiled_form(
    [*number("value"), *number("rate")],
    [
        {"kind": "propose", "targets": ["value"], "title": f"{rate} %", "when": when, "sets": [{"field": "rate", "value": rate}]}
        for rate, when in (("5", "value > 0 and value <= 1000"), ("10", "value in (1000..5000]"), ("20", "value >= 25000"))
    ] + [{"kind": "lock", "targets": ["rate"]}],
)  # fmt: skip


@pytest.mark.parametrize(
    ("value", "rate"),
    [("800", 5), ("1000", 5), ("1001", 10), ("5000", 10), ("25000", 20), ("12000", None), ("", None)],
)  # fmt: skip
def test_proposals_in_tiers(value, rate):
    """Check values of common practice (no source)."""
    offered = TIERS.judge({"value": value}, moment="entry", today=TODAY).proposals
    assert [one.values["rate"] for one in offered] == ([] if rate is None else [rate])


def test_applied_proposal_sets_a_locked_field_and_may_be_overtaken():
    applied = ("r1",)
    verdict = TIERS.judge({"value": "900"}, moment="save", today=TODAY, proposals_applied=applied)
    assert (verdict.stores["rate"], verdict.proposals[0].state) == (5, "applied")
    forged = TIERS.judge({"value": "900"}, moment="save", today=TODAY, proposals_applied=("r3",))
    assert "rate" not in forged.stores
    moved = TIERS.judge({"value": "2000"}, moment="save", today=TODAY, proposals_applied=applied)
    assert {one.rule: one.state for one in moved.proposals} == {"r1": "overtaken", "r2": "offered"}


HOLDING = compiled_form(
    text("name", "phone"),
    [
        {"kind": "mandatory", "targets": ["name", "phone"], "hold": True, "severity": {}},
        {"kind": "range", "of": "length", "targets": ["name"], "upper": {"value": "3"}, **BLOCK},
    ],
)


def test_a_hold_saves_what_is_incomplete_and_blocks_submitting():
    verdicts = HOLDING.judge_moments({"name": "abc"}, today=TODAY)
    save, submit = verdicts["save"], verdicts["submit"]
    assert (save.outcome, save.may_pass, save.on_hold, save.held_by) == (
        "warned",
        True,
        True,
        ("r1",),
    )
    assert (submit.outcome, submit.may_pass) == ("blocked", False)
    assert HOLDING.judge({"name": "long name"}, moment="save", today=TODAY).outcome == "blocked"


def test_a_hold_outlives_the_mending():
    whole = {"name": "abc", "phone": "1"}
    verdicts = HOLDING.judge_moments(whole, today=TODAY, held=True)
    assert (verdicts["save"].on_hold, verdicts["save"].held_by) == (True, ())
    assert verdicts["submit"].outcome == "blocked"
    assert "on hold" in verdicts["submit"].refusals[0]
    assert HOLDING.judge(whole, moment="submit", today=TODAY).outcome == "clear"


REASONED = compiled_form(
    number("days", "more"),
    [
        {"kind": "range", "targets": ["days"], "upper": {"value": "180"}, "reason_required": True,
         "severity": {"save": "warn", "submit": "warn"}},
    ],
)  # fmt: skip


def test_required_reason_passes_both_moments_and_lapses_with_values():
    refused = REASONED.judge({"days": "200"}, moment="save", today=TODAY)
    assert (refused.outcome, refused.may_pass, result(refused).waiver) == (
        "warned",
        False,
        "required",
    )
    given = {"r1": Waiver("The show was prolonged.", result(refused).basis)}
    for values, state in (
        ({"days": "200.00"}, "given"),
        ({"days": "200", "more": "1"}, "given"),
        ({"days": "201"}, "lapsed"),
    ):
        verdicts = REASONED.judge_moments(values, today=TODAY, reasons=given)
        assert {result(one).waiver for one in verdicts.values()} == {state}
        assert {one.may_pass for one in verdicts.values()} == {state == "given"}
    blank = REASONED.judge({"days": "200"}, moment="save", today=TODAY, reasons={"r1": "  "})
    assert not blank.may_pass


def test_a_rule_can_wait_for_a_change():
    form = compiled_form(
        text("status", "why"),
        [{"kind": "mandatory", "targets": ["why"], "changed_fields": ["status"], **BLOCK}],
    )
    for values, status in (
        ({"status": "open"}, "not_applicable"),
        ({"status": "shut"}, "violated"),
        ({"status": "shut", "why": "told"}, "satisfied"),
    ):
        verdict = form.judge(
            values, moment="save", today=TODAY, event="update", stored={"status": "open"}
        )
        assert result(verdict).status == status
    assert result(form.judge({"status": "open"}, moment="save", today=TODAY)).status == "violated"


def test_cycle_names_its_fields_and_rules_and_the_usual_intent():
    form = compile_ruleset(
        RuleSet(forms=(form_of(text("a", "b"), [
            {"kind": "close", "targets": ["a"], "when": "b != null"},
            {"kind": "close", "targets": ["b"], "when": "a != null"},
            {"kind": "mandatory", "targets": ["a"], **BLOCK},
        ]),)), form="form",
    )  # fmt: skip
    assert set(form.problems) == {"r1", "r2"}
    (problem,) = form.problems["r1"]
    assert "“Rule 1”" in problem.message
    assert "A and B decide about one another" in problem.message
    assert "exactly one of" in problem.remedy
    verdict = form.judge({"b": "x"}, moment="save", today=TODAY)
    assert [result(verdict, key).status for key in ("r1", "r2", "r3")] == [
        "unfinished",
        "unfinished",
        "violated",
    ]


def test_today_and_the_days_of_date_times_are_those_of_the_form_s_zone():
    form = compiled_form(
        [{"key": "seen", "type": "date_time"}, {"key": "day", "type": "date"}],
        [{"kind": "derive", "targets": ["day"], "value": "date(seen)"}],
        zone="Pacific/Auckland",
    )
    assert form.today_at(datetime(2026, 6, 11, 13, tzinfo=UTC)).isoformat() == "2026-06-12"
    values = {"seen": "2026-06-11T13:00:00Z"}
    stores = form.judge(values, moment="save", today=TODAY).stores
    assert stores["day"].isoformat() == "2026-06-12"
    assert stores["seen"] == datetime(2026, 6, 11, 13, tzinfo=UTC)


@pytest.mark.parametrize(
    ("typed", "fault"),
    [("2026-03-29 02:30", "does not exist"), ("2026-10-25 02:30", "twice"), ("2026-10-25 02:30 +01:00", None)],
)  # fmt: skip
def test_local_times_that_are_not_there_or_there_twice_are_faults(typed, fault):
    """Clocks go forward on 29 March and back on 25 October 2026 in Berlin (IANA tz database)."""
    form = compiled_form([{"key": "seen", "type": "date_time"}], [], zone="Europe/Berlin")
    found = form.judge({"seen": typed}, moment="save", today=TODAY).fields["seen"].fault
    assert (fault is None and found is None) or fault in found


def test_sections_count_what_holds_the_record_up():
    fields = [
        {**one, "section": place} for one, place in zip(text("a", "b", "c"), "112", strict=True)
    ]
    sections = [{"key": "s1", "label": "One"}, {"key": "s2", "label": "Two"}]
    fields = [{**one, "section": f"s{one['section']}"} for one in fields]
    rule = {"kind": "mandatory", "targets": ["a", "b", "c"], **BLOCK}
    verdict = compiled_form(fields, [rule], sections=sections).judge({"b": "1", "c": "1"}, moment="save", today=TODAY)  # fmt: skip
    assert {key: (one.to_correct, one.complete) for key, one in verdict.sections.items()} == {
        "s1": (1, False),
        "s2": (0, True),
    }


def test_a_good_value_is_acknowledged_while_typing():
    rule = {"kind": "range", "targets": ["days"], "upper": {"value": "5"}, "confirmation": "Good."}
    form = compiled_form(number("days"), [rule])
    for values, said in (({"days": "4"}, "Good."), ({"days": "6"}, ""), ({}, "")):
        verdict = form.judge(values, moment="entry", today=TODAY, touched=["days"])
        assert verdict.fields["days"].confirmation == said


def test_derived_forms_take_over_fields_and_shared_rules_only():
    shared = {"derived_forms": True}
    base = form_of(text("code"), [
        {"kind": "mandatory", "targets": ["code"], "scope": shared, **BLOCK},
        {"kind": "mandatory", "targets": ["code"], "when": "true", **BLOCK},
    ])  # fmt: skip
    child = {"key": "child", "name": "Child", "derived_from": "form", "fields": [{"key": "extra", "label": "Extra", "type": "text"}]}  # fmt: skip
    ruleset = RuleSet.model_validate({"forms": [base.model_dump(), child]})
    form = compile_ruleset(ruleset, form="child")
    assert list(form.fields) == ["code", "extra"]
    assert [one.rule for one in form.judge({}, moment="save", today=TODAY).results] == ["r1"]


def test_a_shared_list_and_a_named_condition_are_written_once():
    choice = {"key": "land", "label": "Land", "type": "choice", "choice_list": "lands"}
    document = {
        "choice_lists": [{"key": "lands", "label": "Lands", "choices": [{"code": "no", "label": "Norway"}]}],
        "forms": [
            {"key": "f", "name": "F", "fields": [choice, {"key": "note", "label": "Note", "type": "text"}],
             "conditions": [{"key": "northern", "name": "Northern", "condition": 'land = "no"'},
                            {"key": "quiet", "name": "Quiet", "condition": "northern and note = null"}],
             "rules": [{"kind": "mandatory", "key": "r1", "name": "R", "targets": ["note"], "when": "quiet", **BLOCK}]}
        ],
    }  # fmt: skip
    form = compile_ruleset(RuleSet.model_validate(document), form="f")
    assert (form.problems, form.form_problems) == ({}, ())
    assert form.judge({"land": "Norway"}, moment="save", today=TODAY).outcome == "blocked"
    assert form.judge({}, moment="save", today=TODAY).outcome == "clear"


def test_retired_choice_stays_where_stored_and_is_not_chosen_anew():
    choices = [{"code": "a", "label": "Old"}, {"code": "b", "label": "New"}]
    choices[0]["retired"] = True
    form = compiled_form(
        [
            {"key": "one", "type": "choice", "choices": choices},
            {"key": "many", "type": "choices", "choices": choices},
        ],
        [],
    )
    for values in ({"one": "Old"}, {"many": ["b", "a"]}):
        verdict = form.judge(values, moment="save", today=TODAY)
        assert verdict.outcome == "blocked"
        (fault,) = [state.fault for state in verdict.fields.values() if state.fault]
        assert fault == "“Old” is not offered any more: choose another."
        kept = form.judge(values, moment="save", today=TODAY, event="update", stored=values)
        assert kept.outcome == "clear"


def test_a_layout_hides_what_it_leaves_out_and_scopes_rules():
    fields = [*text("a"), *text("b", layouts=["desk"])]
    layouts = [{"key": "desk", "label": "Desk"}, {"key": "short", "label": "Short"}]
    rule = {"kind": "mandatory", "targets": ["b"], "scope": {"layouts": ["desk"]}, **BLOCK}
    form = compiled_form(fields, [rule], layouts=layouts)
    for layout, shown, status in (
        ("desk", "enterable", "violated"),
        ("short", "hidden", "out_of_scope"),
    ):
        verdict = form.judge({}, moment="save", today=TODAY, layout=layout)
        assert (verdict.fields["b"].display, result(verdict).status) == (shown, status)
        assert verdict.fields["b"].relevant
