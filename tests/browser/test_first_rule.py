"""The main task: write a rule, prove it on the bench, release it, meet it at the desk."""

import re

from playwright.sync_api import Page, expect

from .conftest import SignIn, open_form


def choose(page: Page, part: str, option: str) -> None:
    page.get_by_role("combobox", name=part).click()
    page.get_by_role("option", name=option, exact=True).click()


def step_to(page: Page, mark: str, wanted: str) -> None:
    """Step the severity of the rule being written until it says what is wanted."""
    editor = page.get_by_role("region", name="A new rule")
    for _ in range(4):
        button = editor.get_by_role("button", name=re.compile(f"^{mark}: "))
        if button.get_attribute("aria-label", timeout=2000).startswith(f"{mark}: {wanted}"):
            return
        button.click()
    raise AssertionError(f"{mark} never said {wanted}")


def write_the_rule(page: Page) -> None:
    page.get_by_role("button", name="New rule").click()
    page.get_by_label("Name", exact=True).fill("Holotypes name their determiner")
    choose(page, "Always or under a condition", "When")
    choose(page, "Field of the condition", "Type status")
    choose(page, "Comparison of the condition", "is")
    choose(page, "Value of the condition", "Holotype")
    page.get_by_role("button", name="Fields the rule is about").click()
    page.get_by_role("menuitemcheckbox", name="Determined by").click()
    page.get_by_role("menuitemcheckbox", name="Accession number").click()
    page.keyboard.press("Escape")
    choose(page, "What must hold", "must be filled in")
    step_to(page, "Saving", "warn")
    step_to(page, "Submitting", "block")
    expect(
        page.get_by_text("Reads: When Type status is Holotype, Determined by must be filled in.")
    ).to_be_visible()
    page.get_by_role("button", name="Add the rule").click()
    expect(
        page.get_by_role("button", name="Rewrite “Holotypes name their determiner”")
    ).to_be_visible()


def expect_verdicts(page: Page, saving: str, submitting: str) -> None:
    expect(page.get_by_role("status", name="Verdict on saving")).to_have_text(saving)
    expect(page.get_by_role("status", name="Verdict on submitting")).to_have_text(submitting)


def test_a_rule_is_written_proved_on_the_bench_and_met_at_the_desk(sign_in: SignIn) -> None:
    steward = sign_in("steward")
    open_form(steward, "Rules")
    write_the_rule(steward)

    open_form(steward, "Bench")
    steward.get_by_label("Accession number", exact=True).fill("QH-P-000007")
    steward.get_by_label("Scientific name", exact=True).fill("Quillora tenella")
    expect_verdicts(steward, "Clear", "Clear")
    status = steward.get_by_label("Type status", exact=True)
    determined_by = steward.get_by_label("Determined by", exact=True)
    row = steward.get_by_role("row", name="Holotypes name their determiner")
    for _ in range(2):
        status.select_option("Holotype")
        expect_verdicts(steward, "Warned", "Blocked")
        expect(row).to_contain_text("Determined by is blank.")
        status.select_option("Isotype")
        expect_verdicts(steward, "Clear", "Clear")
        expect(row).to_contain_text(
            "Only when Type status is Holotype. Here Type status is Isotype."
        )
    status.select_option("no answer")
    expect(row).to_contain_text("Here Type status is blank.")
    status.select_option("Holotype")
    for _ in range(2):
        determined_by.fill("P. Abernook")
        expect_verdicts(steward, "Clear", "Clear")
        determined_by.fill("")
        expect_verdicts(steward, "Warned", "Blocked")

    clerk = sign_in("clerk")
    open_form(clerk, "Records")
    clerk.get_by_role("link", name="New record").click()
    clerk.get_by_label("Type status", exact=True).select_option("Holotype")
    ready = clerk.get_by_role("button", name="Submit")
    expect(ready).to_contain_text("will be refused: 2 blocks")

    steward.get_by_role("button", name="Release the draft…").click()
    steward.get_by_label("What changed, and why").fill("Holotypes must name their determiner.")
    steward.get_by_role("button", name="Release", exact=True).click()
    expect(steward.get_by_text("Release 2 is in use from now on.")).to_be_visible()

    clerk.reload()
    assert clerk.get_by_label("Type status", exact=True).input_value() == "holotype", (
        "kept over a reload"
    )
    clerk.get_by_label("Accession number", exact=True).fill("QH-P-000007")
    clerk.get_by_label("Scientific name", exact=True).fill("Quillora tenella")
    expect(clerk.get_by_role("button", name="Save")).to_contain_text("goes through: 1 warning")
    clerk.get_by_role("button", name="Save").click()
    expect(
        clerk.get_by_text(re.compile(r"Record \d+ is saved\. It breaks 1 rule\."))
    ).to_be_visible()
    message = clerk.get_by_text("Determined by must be filled in. This is asked when")
    expect(message).to_be_visible()
    clerk.get_by_role("button", name="Submit").click()
    expect(clerk.get_by_text("The record was not submitted.")).to_be_visible()
    expect(message).to_be_visible()
    clerk.get_by_label("Determined by", exact=True).fill("P. Abernook")
    expect(message).to_be_hidden()
    expect(clerk.get_by_role("button", name="Submit")).to_contain_text("goes through")
    clerk.get_by_role("button", name="Submit").click()
    expect(clerk.get_by_text("It has been submitted and can no longer be changed.")).to_be_visible()
