"""Findings: the mistakes that stewards really make, built, seen, their witness opened, mended."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.server.copies import Caller

from .conftest import SignIn
from .ways import go_to

BLOCK = {"entry": "off", "save": "block", "submit": "block"}
ANSWERS = [{"code": "a", "label": "Cold chain"}, {"code": "b", "label": "Ambient"}]
FIELDS: list[dict[str, Any]] = [
    {"key": "handling", "label": "Handling", "type": "choice", "choices": ANSWERS},
    {"key": "sealed", "label": "Sealed", "type": "yes_no"},
    {"key": "weight", "label": "Weight", "type": "whole_number"},
    {"key": "price", "label": "Price", "type": "whole_number"},
    {"key": "sent", "label": "Sent on", "type": "date"},
    {"key": "came", "label": "Came on", "type": "date"},
    {"key": "remark", "label": "Remark", "type": "text"},
    {"key": "both", "label": "Both together", "type": "decimal"},
]


def check(kind: str, target: str, name: str, **more: Any) -> dict[str, Any]:
    return {"kind": kind, "targets": [target], "name": name, "severity": BLOCK, **more}


def tier(when: str, value: str) -> dict[str, Any]:
    sets = [{"field": "price", "value": value}]
    name = f"Price {value}"
    return {
        "kind": "propose",
        "targets": ["weight"],
        "name": name,
        "title": name,
        "sets": sets,
        "when": when,
    }


# By what is found: the rules with the mistake, and the rule that mends it, in the place of the last.
MISTAKES: dict[str, tuple[list[dict[str, Any]], dict[str, Any]]] = {
    "a blank answer that was forgotten": (
        [check("mandatory", "remark", "Remarked", when='handling != "a"')],
        check("mandatory", "remark", "Remarked", when='handling = "b"'),
    ),
    "a need that nobody can meet, or that falls silent": (
        [
            {"kind": "lock", "targets": ["remark"], "name": "Locked", "when": "sealed = true"},
            check("mandatory", "remark", "Remarked"),
        ],
        check("mandatory", "remark", "Remarked", when="sealed = false"),
    ),
    "a gap between tiers": (
        [tier("weight in (0..1000]", "5"), tier("weight >= 25000", "20")],
        tier("weight > 1000", "20"),
    ),
    "a single value left out or counted twice": (
        [check("cross_field", "came", "Came on the day or after it", must="came > sent")],
        check("cross_field", "came", "Came on the day or after it", must="came >= sent"),
    ),
    "a starting value that a rule refuses": (
        [
            check("range", "weight", "Light", upper={"value": "40"}),
            {"kind": "start", "targets": ["weight"], "name": "Begins", "value": "50"},
        ],
        {"kind": "start", "targets": ["weight"], "name": "Begins", "value": "30"},
    ),
    "a sum that turns blank": (
        [{"kind": "derive", "targets": ["both"], "name": "Both", "value": "weight + price"}],
        {"kind": "derive", "targets": ["both"], "name": "Both", "value": "sum([weight, price])"},
    ),
    "a text that speaks of another field": (
        [check("mandatory", "weight", "Price is given")],
        check("mandatory", "weight", "Weight is given"),
    ),
    "a misspelt or scolding word": (
        [check("mandatory", "weight", "Weighed", message="Invalid value!")],
        check("mandatory", "weight", "Weighed", message="Write how much it weighs."),
    ),
}  # fmt: skip


def build(address: str, name: str, rules: list[dict[str, Any]]) -> tuple[Caller, str]:
    steward = Caller(address)
    made = steward.call("POST", "/api/forms", {"name": name, "purpose": "Tried."}).body
    at = f"/api/forms/{made['key']}"
    for field in FIELDS:
        steward.call("POST", f"{at}/fields", {"field": field})
    for place, one in enumerate(rules):
        body = {"rule": {"key": f"r{place}", **one}}
        assert steward.call("POST", f"{at}/rules", body).status == 201
    return steward, made["key"]


def replace_last(
    steward: Caller, form: str, rules: list[dict[str, Any]], mended: dict[str, Any]
) -> None:
    at, key = f"/api/forms/{form}", f"r{len(rules) - 1}"
    views = steward.call("GET", at).body["rules"]
    version = next(one["version"] for one in views if one["rule"]["key"] == key)
    body = {"rule": {"key": key, **mended}, "version": version}
    assert steward.call("PUT", f"{at}/rules/{key}", body).status == 200


def one_found(page: Page, title: str) -> Any:
    return page.get_by_role("listitem").filter(has_text=title)


def test_each_mistake_is_found_its_witness_opened_and_gone_once_it_is_mended(
    address: str, sign_in: SignIn
) -> None:
    page = sign_in("steward")
    for place, (title, (rules, mended)) in enumerate(MISTAKES.items()):
        steward, form = build(address, f"Mistake {place}", rules)
        page.goto(f"/forms/{form}/findings")
        row = one_found(page, title).first
        expect(row).to_be_visible()
        witness = row.get_by_role("button", name="on the bench")
        if witness.count():
            witness.press("Enter")
            expect(page.get_by_role("status", name="Verdict on saving")).to_be_visible()
            go_to(page, "Findings", by_key=True)
        replace_last(steward, form, rules, mended)
        page.reload()
        expect(
            page.get_by_role("status").filter(has_text="proved to have nothing")
        ).not_to_contain_text("looked through again")
        expect(one_found(page, title)).to_have_count(0)


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_a_finding_is_mended_undone_kept_and_set_aside_by_keyboard(
    address: str, sign_in: SignIn, theme: str
) -> None:
    rules = [
        check("range", "weight", "Light", upper={"value": "40"}, message="At most 90 kg."),
        check("mandatory", "remark", "Remarked", when='handling = "a" and handling = "b"'),
        check("mandatory", "remark", "Spoken of", when='handling != "a"'),
    ]
    _, form = build(address, f"Mended in {theme}", rules)
    page = sign_in("steward", theme)
    page.goto(f"/forms/{form}/findings")
    says = one_found(page, "The message of “Light” says 90, and the rule has 40.")
    says.get_by_role("button", name="Mend it…").press("Enter")
    sheet = page.get_by_role("dialog", name="Mend it")
    expect(sheet).to_contain_text("“Light” says: At most 40 kg.")
    sheet.get_by_role("button", name="Make this change").press("Enter")
    expect(says).to_have_count(0)
    page.get_by_role("button", name="Undo: change rule: Light").press("Enter")
    expect(says).to_be_visible()
    blank = one_found(page, "blank is taken for one of the other answers")
    expect(blank).to_contain_text("An empty record shows it.")
    blank.get_by_role("button", name="Keep as a case").press("Enter")
    expect(blank.get_by_role("button", name="Kept")).to_be_visible()
    blank.get_by_role("button", name="Set aside…").press("Enter")
    page.get_by_role("dialog").get_by_label("Why it is as it should be").fill("It is meant.")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(blank).to_have_count(0)
    page.get_by_role("checkbox", name="also what is set aside").check()
    expect(blank).to_contain_text("Set aside by Odile Farrowby")
    page.get_by_label("Listed by").select_option("rule")
    never = page.get_by_role("region", name="Remarked", exact=True)
    expect(never).to_contain_text("can never apply: its condition is never true")
    never.get_by_role("link", name="Remarked").press("Enter")
    expect(page.get_by_label("Name", exact=True)).to_have_value("Remarked")
    page.keyboard.press("Escape")
    expect(page.get_by_role("link", name=re.compile("^1 finding")).first).to_be_visible()
