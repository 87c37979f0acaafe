"""Findings: the mistakes that stewards really make, built, seen, their witness opened, fixed."""

import json
import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.server.copies import Caller

from .conftest import SignIn
from .ways import go_to

BLOCK = {"entry": "none", "save": "block", "submit": "block"}
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


COLOURS = [
    *("red", "green", "blue", "yellow", "brown", "white", "black", "grey", "pink", "orange"),
    *("purple", "silver", "", "violet"),
]
"""By which fields and rules of each mistake are told apart, in a form that has them all; one is about
names, and is left with its own.
"""


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


# By what is found: the rules with the mistake, and the rule that corrects it, in the place of the last.
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
    "a link of a chain that stays open": (
        [
            {"kind": "open", "targets": ["price"], "name": "Priced", "when": "weight > 3"},
            {"kind": "open", "targets": ["remark"], "name": "Asked", "when": "price = null"},
        ],
        {"kind": "open", "targets": ["remark"], "name": "Asked", "when": "price > 5"},
    ),
    "tiers that overlap": (
        [tier("weight in (0..1000]", "5"), tier("weight in [900..2000]", "20")],
        tier("weight in (1000..2000]", "20"),
    ),
    "a bound with a nought too many or too few": (
        [
            check("range", "weight", "Heavy", upper={"value": "45"},
                  severity={"entry": "none", "save": "note", "submit": "note"}),
            check("range", "weight", "Too heavy", upper={"value": "4500"}),
        ],
        check("range", "weight", "Too heavy", upper={"value": "50"}),
    ),
    "a text that says another number": (
        [check("range", "weight", "Light", upper={"value": "40"}, message="At most 30.")],
        check("range", "weight", "Light", upper={"value": "40"}, message="At most 40."),
    ),
    "a rule that stops nobody": (
        [check("mandatory", "remark", "Remarked", severity={"entry": "warn"})],
        check("mandatory", "remark", "Remarked"),
    ),
    "a message that leads nowhere": (
        [
            {"kind": "derive", "targets": ["both"], "name": "Both", "value": "today.day"},
            check("range", "both", "Both are light", upper={"value": "20"}),
        ],
        check("cross_field", "weight", "Both are light", must="weight + price <= 90"),
    ),
    "a text that speaks of another field": (
        [check("mandatory", "weight", "Price is given")],
        check("mandatory", "weight", "Weight is given"),
    ),
    "a misspelt or scolding word": (
        [check("mandatory", "weight", "Weight is known", message="Invalid value!")],
        check("mandatory", "weight", "Weight is known", message="Write how much it weighs."),
    ),
}  # fmt: skip


def build(address: str, name: str, rules: list[dict[str, Any]]) -> tuple[Caller, str]:
    """A form with all the fields, and these rules."""
    steward = Caller(address)
    made = steward.call("POST", "/api/v1/forms", {"name": name, "purpose": "Tried."}).body
    add(steward, made["key"], FIELDS, rules)
    return steward, made["key"]


def add(
    steward: Caller, form: str, fields: list[dict[str, Any]], rules: list[dict[str, Any]]
) -> None:
    at = f"/api/v1/forms/{form}"
    for field in fields:
        assert steward.call("POST", f"{at}/fields", {"field": field}).status == 201
    for place, one in enumerate(rules):
        body = {"rule": {"key": f"r{place}", **one}}
        assert steward.call("POST", f"{at}/rules", body).status == 201


def coloured(what: Any, colour: str) -> Any:
    """The same about fields, and with names, of a colour."""
    if not colour:
        return what
    document = json.dumps(what)
    for field in FIELDS:
        document = re.sub(rf"\b{field['key']}\b", f"{colour}_{field['key']}", document)
    for name in ("name", "label", "title"):
        document = re.sub(
            rf'"{name}": "(\w)',
            lambda found, name=name: f'"{name}": "{colour.title()} {found[1].lower()}',
            document,
        )
    return json.loads(document)


def replace_last(
    steward: Caller, form: str, rules: list[dict[str, Any]], fixed: dict[str, Any]
) -> None:
    at, key = f"/api/v1/forms/{form}", rules[-1].get("key", f"r{len(rules) - 1}")
    views = steward.call("GET", at).body["rules"]
    revision = next(one["revision"] for one in views if one["rule"]["key"] == key)
    body = {"rule": {**fixed, "key": key}, "revision": revision}
    assert steward.call("PUT", f"{at}/rules/{key}", body).status == 200


def one_found(page: Page, title: str) -> Any:
    return page.get_by_role("listitem").filter(has_text=title)


def test_finding_opens_its_witness_and_goes_once_corrected(address: str, sign_in: SignIn) -> None:
    steward, form = build(address, "Mistakes that are made", [])
    fixes = []
    for colour, (rules, fixed) in zip(COLOURS, MISTAKES.values(), strict=True):
        keyed = [{"key": f"own_{colour}{place}", **one} for place, one in enumerate(rules)]
        spoken_of = json.dumps([*rules, fixed])
        fields = [
            one for one in FIELDS if colour and re.search(rf"\b{one['key']}\b", spoken_of, re.I)
        ]
        add(steward, form, coloured(fields, colour), coloured(keyed, colour))
        fixes.append((coloured(keyed, colour), coloured(fixed, colour)))
    page = sign_in("steward")
    page.goto(f"/forms/{form}/findings")
    shown = page.get_by_role("status").filter(has_text="proved to have nothing")

    def found(colour: str, title: str) -> Any:
        return one_found(page, title).filter(has_text=re.compile(rf"\b{colour}\b", re.I))

    for colour, title in zip(COLOURS, MISTAKES, strict=True):
        expect(shown).not_to_contain_text("looked through again")
        row = found(colour, title).first
        row.wait_for()
        witness = row.get_by_role("button", name="on the bench")
        if witness.count():
            witness.press("Enter")
            page.get_by_role("status", name="Verdict on saving").wait_for()
            go_to(page, "Findings", by_key=True)
    for rules, fixed in fixes:
        replace_last(steward, form, rules, fixed)
    page.reload()
    expect(shown).not_to_contain_text("looked through again")
    for colour, title in zip(COLOURS, MISTAKES, strict=True):
        expect(found(colour, title)).to_have_count(0)


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_a_finding_is_mended_undone_kept_and_set_aside_by_keyboard(
    address: str, sign_in: SignIn, theme: str
) -> None:
    rules = [
        check("range", "weight", "Light", upper={"value": "40"}, message="At most 90 kg."),
        check("mandatory", "remark", "Remarked", when='handling = "a" and handling = "b"'),
        check("mandatory", "remark", "RuleCount of", when='handling != "a"'),
    ]
    _, form = build(address, f"Corrected in {theme}", rules)
    page = sign_in("steward", theme)
    page.goto(f"/forms/{form}/findings")
    says = one_found(page, "The message of “Light” says 90, and the rule has 40.")
    says.get_by_role("button", name="Correct it…").press("Enter")
    sheet = page.get_by_role("dialog", name="Correct it")
    expect(sheet).to_contain_text("“Light” says: At most 40 kg.")
    sheet.get_by_role("button", name="Make this change").press("Enter")
    expect(says).to_have_count(0)
    page.get_by_role("button", name="Undo: changing the rule “Light”").press("Enter")
    says.wait_for()
    blank = one_found(page, "blank is taken for one of the other answers")
    expect(blank).to_contain_text("An empty record shows it.")
    blank.get_by_role("button", name="Save as case").press("Enter")
    blank.get_by_role("button", name="Kept").wait_for()
    blank.get_by_role("button", name="Dismiss…").press("Enter")
    page.get_by_role("dialog").get_by_label("Why it is as it should be").fill("It is meant.")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(blank).to_have_count(0)
    page.get_by_role("checkbox", name="also dismissed findings").check()
    expect(blank).to_contain_text("Dismissed by Odile Farrowby")
    page.get_by_label("Listed by").select_option("rule")
    never = page.get_by_role("region", name="Remarked", exact=True)
    expect(never).to_contain_text("are never true at once")
    never.get_by_role("link", name="Remarked").press("Enter")
    expect(page.get_by_label("Name", exact=True)).to_have_value("Remarked")
    page.keyboard.press("Escape")
    page.get_by_role("link", name=re.compile("^1 finding")).first.wait_for()
