"""How many acts each kind of rule takes by keyboard alone: a key, or a text written."""

import pytest
from playwright.sync_api import expect

from .conftest import SignIn
from .hands import Keyboard, Mouse
from .test_bench import begin_with

CHOICES = [{"code": "a", "label": "Apple"}, {"code": "b", "label": "Beech"}]
FIELDS = [
    {"key": "value", "label": "Value", "type": "decimal", "scale": 2},
    {"key": "area", "label": "Area", "type": "decimal", "scale": 2},
    {"key": "rate", "label": "Rate", "type": "decimal", "scale": 2},
    {"key": "terms", "label": "Terms", "type": "yes_no"},
    {"key": "why", "label": "Reason", "type": "text"},
    {"key": "ticks", "label": "Trees", "type": "choices", "choices": CHOICES},
    {"key": "mail", "label": "Mail", "type": "text"},
]
RULE = {"key": "r1", "kind": "mandatory", "name": "Mail is there", "targets": ["mail"],
        "severity": {"save": "warn", "submit": "block"}}  # fmt: skip
NEW = "A new rule"
ONE_OF_THEM = "must have a value, exactly one of them"


def needed_under_a_condition(hands: Mouse) -> None:
    hands.press("New rule")
    hands.pick("Fields the rule is about", "Reason", within=NEW)
    hands.choose("Always or under a condition", "Terms", within=NEW, shows="When")
    hands.choose("Value of the condition", "yes", within=NEW)
    hands.press("Add rule")


def chain_link(hands: Mouse) -> None:
    hands.press("New rule")
    hands.pick("Fields the rule is about", "Reason", within=NEW)
    hands.choose("What must be true", "is asked only then", within=NEW)
    hands.choose("Value of the condition", "yes", within=NEW)
    hands.press("Add rule")


def at_most_two_choices(hands: Mouse) -> None:
    hands.press("New rule")
    hands.pick("Fields the rule is about", "Trees", within=NEW)
    hands.choose("What must be true", "must lie between", within=NEW)
    hands.write("Upper bound", "2", within=NEW)
    hands.press("Add rule")


def hold(hands: Mouse) -> None:
    hands.press("New rule")
    hands.pick("Fields the rule is about", "Reason", within=NEW)
    hands.tick("saving goes through, and puts the record on hold")
    hands.press("Add rule")


def reason(hands: Mouse) -> None:
    hands.press("New rule")
    hands.pick("Fields the rule is about", "Reason", within=NEW)
    hands.tick("a warning passes only with a reason")
    hands.press("Add rule")


def imports_only(hands: Mouse) -> None:
    hands.press("Rewrite “Mail is there”")
    hands.pick("Entry points it counts at", "an import")
    hands.press("Save rule")


def tiers_of_three(hands: Mouse) -> None:
    hands.press("Tiers…")
    hands.press("A new table")
    hands.choose("Field that decides", "Area")
    hands.choose("Field proposed for", "Rate")
    hands.write("Every proposal is called, unless it says otherwise,", "A rate")
    hands.write("End of tier 1", "1,000")
    hands.write("Proposed in tier 1", "5")
    hands.write("End of tier 2", "25 000")
    hands.write("Proposed in tier 2", "10")
    hands.press("One more tier")
    hands.write("Proposed in tier 3", "20")
    hands.press("Save table")


def exactly_one_of(hands: Mouse) -> None:
    hands.press("New rule")
    hands.choose("What must be true", ONE_OF_THEM, within=NEW, shows="must have a value")
    hands.pick("Fields the rule is about", "Reason", "Mail", within=NEW)
    hands.press("Add rule")


KINDS = (
    (needed_under_a_condition, 9, "When Terms is yes, Reason is required."),
    (chain_link, 8, "When Terms is yes, Reason is asked."),
    (at_most_two_choices, 8, "Trees must have at most 2 choices."),
    (hold, 7, "Reason is required."),
    (reason, 7, "Reason is required."),
    (imports_only, 6, "By import: Mail is required."),
    (tiers_of_three, 14, "When Area is more than 25,000, Rate is proposed as 20."),
    (exactly_one_of, 8, "Exactly one of Reason and Mail must have a value."),
)


def test_each_kind_of_rule_takes_few_acts(
    sign_in: SignIn, capsys: pytest.CaptureFixture[str]
) -> None:
    page = sign_in("steward")
    key = begin_with(page, "Acts that count", FIELDS, [RULE])
    counts = {}
    for write, most, sentence in KINDS:
        page.goto(f"/forms/{key}/rules")
        page.get_by_role("button", name="New rule").wait_for()
        hands = Keyboard(page)
        write(hands)
        reads = page.get_by_role("rowheader").filter(has_text=sentence)
        expect(reads).to_have_count(1)
        counts[write.__name__.replace("_", " ")] = hands.acts
        assert hands.acts <= most, write.__name__
        page.get_by_role("button", name="Undo: ").click()
        expect(reads).to_have_count(0)
    with capsys.disabled():
        print(f"\nActs: {counts}")
