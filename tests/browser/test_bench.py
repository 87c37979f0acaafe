"""The bench and its cases: the mistakes that change a verdict, seen, kept, corrected; all by keyboard."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from .conftest import SignIn
from .hands import Keyboard
from .ways import go_to

TERMS = {"key": "terms", "label": "Terms", "type": "yes_no"}
WHY = {"key": "why", "label": "Reason", "type": "text"}
VALUE = {"key": "value", "label": "Value", "type": "whole_number"}
RATE = {"key": "rate", "label": "Rate", "type": "whole_number"}
FIRST = {"key": "first", "label": "First", "type": "whole_number"}
SECOND = {"key": "second", "label": "Second", "type": "whole_number"}
TOTAL = {"key": "total", "label": "Total", "type": "whole_number"}
STOPS = {"entry": "warn", "save": "block", "submit": "block"}
DEMAND = {"kind": "mandatory", "targets": ["why"], "severity": STOPS}
RANGE = {"kind": "range", "targets": ["value"], "severity": STOPS}
LOW = {"kind": "propose", "targets": ["value"], "title": "One percent"}
TIER = {**LOW, "sets": [{"field": "rate", "value": "1"}]}
NEXT = {**LOW, "title": "Two percent", "sets": [{"field": "rate", "value": "2"}]}

MISTAKES: dict[str, tuple[list[dict[str, Any]], list[dict[str, Any]], dict[str, str], str]] = {
    "the blank answer is forgotten": (
        [{**DEMAND, "when": "terms = false"}],
        [{**DEMAND, "when": "terms != true"}],
        {},
        "blocked",
    ),
    "more than is written for inclusive": (
        [{**RANGE, "lower": {"value": "1000", "inclusive": False}}],
        [{**RANGE, "lower": {"value": "1000"}}],
        {"Value": "1000"},
        "clear",
    ),
    "a zero too many": (
        [{**RANGE, "upper": {"value": "500000"}}],
        [{**RANGE, "upper": {"value": "50000"}}],
        {"Value": "60000"},
        "blocked",
    ),
    "required and locked at once": (
        [
            {"kind": "lock", "targets": ["why"], "when": "value > 5"},
            {**DEMAND, "when": "value > 5"},
        ],
        [{**DEMAND, "when": "value > 5"}],
        {"Reason": "it is so", "Value": "6"},
        "clear",
    ),
    "the second link of a chain looks at its own governor only": (
        [
            {"kind": "open", "targets": ["value"], "when": "terms = true"},
            {**DEMAND, "when": "first > 1"},
        ],
        [
            {"kind": "open", "targets": ["first"], "when": "terms = true"},
            {**DEMAND, "when": "first > 1"},
        ],
        {"First": "2"},
        "clear",
    ),
    "a check runs on typing only": (
        [{**RANGE, "upper": {"value": "10"}, "severity": {"entry": "warn"}}],
        [{**RANGE, "upper": {"value": "10"}}],
        {"Value": "11"},
        "blocked",
    ),
    "a field is locked where it should be required": (
        [{"kind": "lock", "targets": ["why"], "when": "value > 5"}],
        [{**DEMAND, "when": "value > 5"}],
        {"Value": "6"},
        "blocked",
    ),
    "a starting value answers for the clerk": (
        [DEMAND, {"kind": "start", "targets": ["why"], "value": "as usual"}],
        [DEMAND],
        {"Value": "1"},
        "blocked",
    ),
    "a starting value violates the range of its own field": (
        [
            {**RANGE, "upper": {"value": "90"}},
            {"kind": "start", "targets": ["value"], "value": "200"},
        ],
        [
            {**RANGE, "upper": {"value": "90"}},
            {"kind": "start", "targets": ["value"], "value": "20"},
        ],
        {},
        "clear",
    ),
    "the rule tests another field than its name says": (
        [{**DEMAND, "targets": ["first"]}],
        [DEMAND],
        {"First": "1"},
        "blocked",
    ),
    "a blank item turns the total blank": (
        [
            {"kind": "derive", "targets": ["total"], "value": "first + second"},
            {**RANGE, "targets": ["total"], "upper": {"value": "10"}},
        ],
        [
            {"kind": "derive", "targets": ["total"], "value": "sum([first, second])"},
            {**RANGE, "targets": ["total"], "upper": {"value": "10"}},
        ],
        {"First": "11"},
        "blocked",
    ),
}
"""By mistake: the rules with it, the rules corrected, what is filled in, and what should happen."""


def call(page: Page, method: str, address: str, body: Any = None) -> Any:
    token = page.request.get("/api/v1/session").json()["token"]
    answer = page.request.fetch(
        f"/api/v1{address}", method=method, data=body, headers={"X-CSRFToken": token}
    )
    assert answer.ok, answer.text()
    return answer.json() if answer.body() else None


def named(rules: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return [{"key": f"r{n}", "name": f"Rule {n}", **rule} for n, rule in enumerate(rules, 1)]


def begin(page: Page, name: str, rules: list[dict[str, Any]]) -> str:
    fields = [TERMS, VALUE, WHY, FIRST, SECOND, TOTAL, RATE]
    return begin_with(page, name, fields, named(rules))


def begin_with(page: Page, name: str, fields: list[Any], rules: list[dict[str, Any]]) -> str:
    body = {"name": name, "fields": fields, "rules": rules}
    return str(call(page, "POST", "/forms", body)["key"])


def correct(page: Page, key: str, rules: list[dict[str, Any]]) -> None:
    form = call(page, "GET", f"/forms/{key}")
    there = [{"key": one["rule"]["key"], "revision": one["revision"]} for one in form["rules"]]
    call(page, "POST", f"/forms/{key}/rule-removal", {"rules": there})
    for rule in named(rules):
        call(page, "POST", f"/forms/{key}/rules", {"rule": rule})


def expect_verdicts(page: Page, saving: str, submitting: str) -> None:
    expect(page.get_by_role("status", name="Verdict on saving")).to_have_text(saving)
    expect(page.get_by_role("status", name="Verdict on submitting")).to_have_text(submitting)


@pytest.mark.parametrize("mistake", MISTAKES)
def test_a_mistake_is_seen_kept_as_a_case_and_mended(sign_in: SignIn, mistake: str) -> None:
    mistaken, corrected, entries, should = MISTAKES[mistake]
    page = sign_in("steward")
    key = begin(page, f"Where {mistake}", mistaken)
    page.goto(f"/forms/{key}/bench")
    page.get_by_role("status", name="Verdict on saving").wait_for()
    for label, text in entries.items():
        box = page.get_by_role("region", name="The form").get_by_label(label, exact=True)
        if box.count() > 0 and box.is_enabled():
            box.fill(text)
            box.blur()
    seen = "Clear" if should == "blocked" else "Blocked"
    expect_verdicts(page, seen, seen)
    page.keyboard.press("Control+Enter")
    dialog = page.get_by_role("dialog", name="Save as a case")
    dialog.get_by_label("Name", exact=True).fill(mistake.capitalize())
    for moment in ("Saving", "Submitting"):
        dialog.get_by_label(f"{moment} should be").select_option(should)
    known = corrected[0]["kind"] != "mandatory" or mistaken[0]["kind"] == "mandatory"
    if should == "blocked" and known:
        rule = "Rule 2" if corrected[0]["kind"] == "derive" else "Rule 1"
        dialog.get_by_label("Another rule that should be violated").select_option(rule)
    dialog.get_by_text("That is not what happens now").wait_for()
    dialog.get_by_role("button", name="Keep the case").click()
    page.get_by_role("link", name="1 of 1 case fails").wait_for()

    correct(page, key, corrected)
    page.goto(f"/forms/{key}/cases")
    row = page.get_by_role("row", name=re.compile(f"^Choose {mistake.capitalize()}"))
    row.wait_for()
    if should == "blocked" and not known:
        # There was no rule yet that should have stopped it: what happens now is accepted.
        row.get_by_role("button", name=mistake.capitalize()).click()
        page.get_by_label("What happens now is right, because").fill("The rule is corrected.")
        page.get_by_role("button", name="Expect that from now on").click()
    page.get_by_role("link", name="1 case passes").wait_for()
    expect(row).to_contain_text("passes")


def test_tiers_with_a_gap_are_seen_along_the_band_and_closed(sign_in: SignIn) -> None:
    page = sign_in("steward")
    gap = [{**TIER, "when": "value <= 1000"}, {**NEXT, "when": "value >= 25000"}]
    key = begin(page, "Tiers with a gap", gap)
    page.goto(f"/forms/{key}/bench")
    value = page.get_by_label("Value", exact=True)
    value.fill("5000")
    page.keyboard.press("F9")
    band = page.get_by_role("figure", name="Where Value passes")
    here = band.get_by_text("Here: 1,001 to 24,999.")
    here.wait_for()
    expect(here).not_to_contain_text("Offers Rate")
    expect(band.get_by_title(re.compile("^Offers Rate: "))).to_have_count(2)
    slider = band.get_by_role("slider")
    expect(slider).to_have_attribute("aria-valuetext", re.compile("^5,000: "))
    slider.press("ArrowRight")
    expect(page.get_by_label("Value", exact=True)).to_have_value("24999")
    slider.press("ArrowRight")
    expect(band.get_by_text("Here: 25,000 and more.")).to_contain_text("Offers Rate: ")
    slider.press("End")
    page.get_by_text("Two percent", exact=False).first.wait_for()
    expect(slider).to_have_attribute("aria-valuetext", re.compile("saving clear"))
    value.fill("12000")
    page.keyboard.press("Control+Enter")
    page.get_by_label("Name", exact=True).fill("12,000 has a rate")
    page.get_by_role("button", name="Keep the case").click()
    closed = [{**TIER, "when": "value <= 1000"}, {**NEXT, "when": "value > 1000"}]
    correct(page, key, closed)
    page.goto(f"/forms/{key}/cases")
    row = page.get_by_role("row", name=re.compile("12,000 has a rate"))
    expect(row).to_contain_text("“Rule 2” is offered, which was not expected.")


def test_the_bench_by_keyboard_alone(sign_in: SignIn) -> None:
    page = sign_in("steward")
    rules = [{**DEMAND, "when": "terms != true"}, {**RANGE, "upper": {"value": "90"}}]
    key = begin(page, "By keyboard alone", rules)
    page.goto(f"/forms/{key}/bench")
    hands = Keyboard(page)
    expect_verdicts(page, "Blocked", "Blocked")
    hands.press("What would let it through on saving?")
    hands.press("Try this")
    expect_verdicts(page, "Clear", "Clear")
    hands.press("Start again")
    hands.reach(page.get_by_role("radio", name="no answer").first)
    page.keyboard.press("ArrowRight")  # on from the last answer to the first
    expect_verdicts(page, "Clear", "Clear")
    for verdict in ("Blocked", "Clear", "Blocked"):
        page.keyboard.press("F8")
        expect_verdicts(page, verdict, verdict)
    changed = page.get_by_role("region", name="What changed")
    changed.get_by_text("“Rule 1” is violated now.").wait_for()
    page.keyboard.press("Alt+,")
    expect_verdicts(page, "Clear", "Clear")
    page.keyboard.press("Alt+.")
    expect_verdicts(page, "Blocked", "Blocked")
    hands.press("Rule 1")
    page.get_by_text("It applies when").wait_for()
    hands.press("Try without this rule")
    expect_verdicts(page, "Clear", "Clear")
    changed.get_by_text("“Rule 1” is switched off.").wait_for()
    hands.press("switch on again")
    expect_verdicts(page, "Blocked", "Blocked")
    hands.press("Map two fields")
    region = page.get_by_role("group", name="Map").get_by_role("button").first
    hands.reach(region)
    page.keyboard.press("ArrowDown")
    expect(region).not_to_be_focused()
    page.keyboard.press("ArrowUp")
    page.keyboard.press("Enter")
    changed.get_by_text(re.compile("^Value: ")).first.wait_for()
    hands.press("Save as case")
    page.keyboard.press("Control+a")
    page.keyboard.insert_text("Kept by keyboard")
    page.keyboard.press("Enter")
    page.get_by_role("link", name="1 case passes").wait_for()


def test_circumstances_decide_what_counts(sign_in: SignIn) -> None:
    page = sign_in("steward")
    scoped = {
        **RANGE,
        "upper": {"value": "90"},
        "in_force_from": "2030-01-01",
        "scope": {"entry_points": ["link"]},
    }
    key = begin(page, "When and where", [scoped])
    page.goto(f"/forms/{key}/bench")
    page.get_by_label("Value", exact=True).fill("91")
    row = page.get_by_role("row", name=re.compile("Rule 1"))
    expect(row).to_contain_text("is out of scope")
    page.get_by_role("combobox", name="Entry point").click()
    page.get_by_role("option", name="through a link").click()
    expect(row).to_contain_text("It counts from 1 January 2030 on.")
    day = page.get_by_label("As of", exact=True)
    day.fill("1 January")
    fault = page.get_by_text("“1 January” is not a date")
    expect(fault).to_have_count(0)
    day.blur()
    fault.wait_for()
    day.fill("1 January 2030")
    expect_verdicts(page, "Blocked", "Blocked")


def test_quick_keys_wrong_types_and_a_lost_connection_lose_nothing(sign_in: SignIn) -> None:
    page = sign_in("steward")
    key = begin(page, "Typed in haste", [{**RANGE, "upper": {"value": "90"}}])
    page.goto(f"/forms/{key}/bench")
    value = page.get_by_label("Value", exact=True)
    value.press_sequentially("1" * 25 + "x" * 25, delay=0)
    for _ in range(48):
        value.press("Backspace")
    expect(value).to_have_value("11")
    expect_verdicts(page, "Clear", "Clear")
    page.get_by_text("Value is 11.").wait_for()
    value.fill("eleven")
    expect_verdicts(page, "Blocked", "Blocked")
    page.get_by_text("Value cannot be read").wait_for()
    page.context.set_offline(True)
    value.fill("91")
    page.get_by_text("The server cannot be reached").first.wait_for()
    page.context.set_offline(False)
    page.get_by_text("Value is 91.").wait_for()
    expect(value).to_have_value("91")


def test_cases_are_drafted_chosen_run_and_what_they_miss_is_kept(sign_in: SignIn) -> None:
    page = sign_in("steward")
    key = begin(page, "How much is proved", [{**RANGE, "upper": {"value": "90"}}])
    page.goto(f"/forms/{key}/cases")
    page.get_by_role("button", name="Draft cases…").click()
    dialog = page.get_by_role("dialog", name="Draft cases")
    dialog.get_by_label("Bounds").check()
    dialog.get_by_label("Value: 90", exact=True).check()
    dialog.get_by_role("button", name="Keep 1 case").click()
    page.get_by_role("link", name="1 case passes").wait_for()
    page.get_by_role("button", name="Run all").click()
    expect(page.get_by_role("row", name=re.compile("Value: 90"))).to_contain_text("passes")

    go_to(page, "Proof")
    page.get_by_text("no case just outside").wait_for()
    page.get_by_role("button", name="Search for slips").click()
    slips = page.get_by_role("region", name="Slips")
    slips.get_by_text(re.compile(r"Of \d+ slips")).wait_for()
    slips.get_by_text("a zero too many: 900 for 90").wait_for()
    slips.get_by_role("button", name=re.compile("Keep the .* would notice")).click()
    slips.get_by_text("The rules or the cases have changed since.").wait_for()
    slips.get_by_role("button", name="Search for slips").click()
    slips.get_by_text(re.compile("0 are missed")).wait_for()
    go_to(page, "Cases")
    with page.expect_download() as kept:
        page.get_by_role("link", name="JSON").click()
    assert kept.value.suggested_filename == f"{key}-cases.json"
    page.get_by_label("Case file").set_input_files(
        {"name": "cases.csv", "mimeType": "text/csv", "buffer": b"name,expected_save\n"}
    )
    expect(page.get_by_role("alert")).to_contain_text("There is no column “as_of”.")


def test_a_try_begins_by_the_day_that_counts_as_today(sign_in: SignIn) -> None:
    page = sign_in("steward")
    day = {"key": "due", "label": "Due on", "type": "date"}
    start = {"kind": "start", "targets": ["due"], "formula": 'today + duration("P1D")'}
    key = begin_with(page, "Due tomorrow", [day], named([start]))
    page.goto(f"/forms/{key}/bench")
    page.get_by_label("As of", exact=True).fill("28 February 2027")
    due = page.get_by_label("Due on", exact=True)
    expect(due).to_have_value("1 March 2027")
    page.get_by_role("button", name="Start again").click()
    expect(due).to_have_value("1 March 2027")
    expect(page.get_by_label("As of", exact=True)).to_have_value("28 February 2027")
    due.fill("")
    expect(due).to_have_value("")


def test_a_case_left_to_starting_values_shows_them_on_the_bench(sign_in: SignIn) -> None:
    page = sign_in("steward")
    start = {"kind": "start", "targets": ["value"], "value": "20"}
    key = begin(page, "Left to starting values", [{**RANGE, "upper": {"value": "90"}}, start])
    page.goto(f"/forms/{key}/bench")
    expect_verdicts(page, "Clear", "Clear")
    page.keyboard.press("Control+Enter")
    page.get_by_role("button", name="Keep the case").click()
    correct(page, key, [{**RANGE, "upper": {"value": "90"}}, {**start, "value": "30"}])
    page.goto(f"/forms/{key}/cases")
    page.get_by_role("button", name="A record that goes through").click()
    page.get_by_role("button", name="Open on the bench").click()
    expect(page.get_by_label("Value", exact=True)).to_have_value("30")
