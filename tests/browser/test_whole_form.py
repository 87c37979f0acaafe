"""A form from nothing with every kind of rule: what checks by keyboard alone, the rest by mouse."""

import re

from playwright.sync_api import Page, expect

from .conftest import SignIn
from .hands import Keyboard, Mouse
from .ways import go_to, notice, release_draft

NEW = "A new rule"
FIELDS = {
    "Guest": "text",
    "Arrives on": "a date",
    "Leaves on": "a date",
    "Persons": "a whole number",
    "Purpose": "one choice",
    "Other purpose": "text",
    "Room": "one choice",
    "E-mail": "text",
    "Telephone": "text",
    "Fee": "a decimal number",
    "Lockers": "a whole number",
    "Terms read": "yes or no",
}
CHOICES = {"Purpose": "Study\nFilming\nOther", "Room": "Attic\nCellar\nHall"}
SENTENCES = {
    "mandatory": "Guest is required.",
    "range": "Persons must be from 1 to 40.",
    "allowed values": "Room must go with Purpose: Attic or Hall with Study; Cellar with Filming.",
    "format": "E-mail must be an e-mail address, such as",
    "cross-field": "Leaves on must be on or after Arrives on.",
    "group": "At least one of E-mail and Telephone must have a value.",
    "unique": "No two records may share Guest and Arrives on.",
    "elsewhere": "There must be no other record where its Room is this Room and its",
    "entered twice": "E-mail must be entered twice alike.",
    "consent": "Terms read must be agreed to.",
    "open": "When Purpose is Other, Other purpose is asked.",
    "close": "When Purpose is Filming, Lockers is not asked.",
    "lock": "When Guest is blank, Telephone is locked.",
    "wait": "Room waits until Purpose has a value.",
    "derive": "Fee is Persons times 12.",
    "start": "Persons starts as 1.",
    "propose": "When Persons is more than 10, Lockers is proposed as 5.",
}


def begin(page: Page, name: str) -> None:
    page.get_by_role("button", name="New form…").press("Enter")
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_role("button", name="Begin", exact=True).press("Enter")
    page.get_by_text("No fields yet.").wait_for()


def add_fields(hands: Mouse) -> None:
    page = hands.page
    for label, holds in FIELDS.items():
        page.keyboard.press("n")
        hands.write("Label", label)
        if holds != "text":
            hands.choose("What it takes", holds)
        if label in CHOICES:
            hands.write(
                "Choices, one a line. Write “code = label” to say the code; a dash before a line"
                " retires it.",
                CHOICES[label],
            )
        page.keyboard.press("Control+Enter")
        page.get_by_role("button", name=f"Change {label}", exact=True).wait_for()


class Writer:
    """Writes one rule after the other."""

    def __init__(self, hands: Mouse) -> None:
        self.hands, self.page = hands, hands.page

    def begin(self, kind: str, says: str, *targets: str) -> None:
        self.kind = kind
        self.page.keyboard.press("n")
        expect(self.page.get_by_role("button", name="Fields the rule is about")).to_be_focused()
        self.page.get_by_label("Name", exact=True).fill(f"Rule of {kind}")
        if says != "is required":
            self.hands.choose(
                "What must be true", says, within=NEW, shows=says.split(",", maxsplit=1)[0]
            )
        self.hands.pick("Fields the rule is about", *targets, within=NEW)

    def when(self, field: str, comparison: str, value: str = "", what: str = "condition") -> None:
        self.hands.choose(f"Field of the {what}", field, within=NEW)
        self.hands.choose(f"Comparison of the {what}", comparison, within=NEW)
        if value:
            self.hands.choose(f"Value of the {what}", value, within=NEW)

    def store(self) -> None:
        reads = self.page.get_by_role("region", name=NEW).get_by_text(re.compile("^Reads: "))
        expect(reads).to_contain_text(SENTENCES[self.kind])
        self.page.keyboard.press("Control+Enter")
        expect(self.page.get_by_role("region", name=NEW)).to_have_count(0)
        name = f"Rewrite “Rule of {self.kind}”"
        expect(self.page.get_by_role("button", name=name, exact=True)).to_be_focused()


def write_checks(writer: Writer) -> None:
    hands = writer.hands
    writer.begin("mandatory", "is required", "Guest")
    writer.store()
    writer.begin("range", "must lie between", "Persons")
    hands.write("Lower bound", "1", within=NEW)
    hands.write("Upper bound", "40", within=NEW)
    writer.store()
    writer.begin("allowed values", "must be one of", "Room")
    hands.choose("What the values depend on", "Purpose", within=NEW)
    for box in ("Attic goes with Study", "Hall goes with Study", "Cellar goes with Filming"):
        hands.tick(box)
    writer.store()
    writer.begin("format", "must be written as", "E-mail")
    hands.choose("Format", "e-mail address", within=NEW)
    writer.store()
    writer.begin("cross-field", "it must be true that", "Leaves on")
    writer.when("Leaves on", "is on or after", what="constraint")
    hands.choose("Value of the constraint: what kind", "Arrives on", within=NEW)
    writer.store()
    writer.begin("group", "must have a value, at least one of them", "E-mail", "Telephone")
    writer.store()
    writer.begin("unique", "no two records may share", "Guest", "Arrives on")
    writer.store()
    writer.begin("elsewhere", "there must be no other record where", "Room")
    writer.when("Room", "is", what="constraint")
    hands.choose("Value of the constraint", "this Room", within=NEW)
    hands.press("The constraint as a formula", within=NEW)
    formula = writer.page.get_by_role("textbox", name="Constraint as a formula")
    expect(formula).to_have_text("other.room = room")
    hands.reach(formula, click=True)
    writer.page.keyboard.press("Control+End")
    writer.page.keyboard.insert_text(" and other.arrives_on = arrives_on")
    writer.page.get_by_text(SENTENCES["elsewhere"]).wait_for()
    writer.page.keyboard.press("F2")
    expect(writer.page.get_by_role("combobox", name="Field of the constraint")).to_have_count(2)
    writer.store()
    writer.begin("entered twice", "must be entered twice alike", "E-mail")
    writer.store()
    writer.begin("consent", "must be agreed to", "Terms read")
    writer.store()


def write_effects(writer: Writer) -> None:
    hands = writer.hands
    writer.begin("open", "is asked only then", "Other purpose")
    writer.when("Purpose", "is", "Other")
    writer.store()
    writer.begin("close", "is not asked then", "Lockers")
    writer.when("Purpose", "is", "Filming")
    writer.store()
    writer.begin("lock", "is locked", "Telephone")
    hands.choose("Always or under a condition", "When", within=NEW)
    writer.when("Guest", "is blank")
    writer.store()
    writer.begin("wait", "waits until", "Room")
    writer.when("Purpose", "has a value", what="condition waited for")
    writer.store()
    writer.begin("derive", "is computed", "Fee")
    write_formula(writer, "Formula of the value", "persons * 12")
    writer.store()
    writer.begin("start", "starts as", "Persons")
    hands.write("Starting value", "1", within=NEW)
    writer.store()
    writer.begin("propose", "leads to a proposal", "Persons")
    hands.choose("Always or under a condition", "When", within=NEW)
    writer.when("Persons", "is more than")
    hands.write("Value of the condition", "10", within=NEW)
    hands.write("Title of the proposal", "A locker for two", within=NEW)
    hands.choose("Field proposed for, number 1", "Lockers", within=NEW)
    write_formula(writer, "Formula of the proposed value, number 1", "5")
    writer.store()


def write_formula(writer: Writer, label: str, text: str) -> None:
    writer.hands.reach(writer.page.get_by_role("textbox", name=label), click=True)
    writer.page.keyboard.insert_text(text)


def release(page: Page) -> None:
    release_draft(Keyboard(page), "The first rules.")
    notice(page, "Release 1 is in force.").wait_for()


def test_a_form_from_nothing_with_every_kind_of_rule(sign_in: SignIn) -> None:
    page = sign_in("steward")
    begin(page, "A visit")
    add_fields(Keyboard(page))
    go_to(page, "Rules", by_key=True)
    page.get_by_text("No rule yet").wait_for()
    write_checks(Writer(Keyboard(page)))
    write_effects(Writer(Mouse(page)))
    go_to(page, "Bench", by_key=True)
    page.get_by_label("Purpose", exact=True).select_option("Other")
    page.get_by_label("Other purpose", exact=True).wait_for()
    persons = page.get_by_label("Persons", exact=True)
    expect(persons).to_have_value("1")
    persons.fill("41")
    page.get_by_text("492", exact=True).wait_for()
    page.get_by_text("A locker for two").wait_for()
    expect(page.get_by_role("row", name="Rule of range")).to_contain_text("Persons is 41")
    release(page)
