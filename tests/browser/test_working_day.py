"""Ways of working: by keyboard, two at once, a lost connection, and access for everyone."""

import re

from playwright.sync_api import expect

from .accessible import violations
from .conftest import SignIn, control
from .ways import go_to, notice, open_form


def test_severities_are_stepped_by_keyboard_alone(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    rule = "(Datum is one we convert)"
    saving = page.get_by_role("button", name=f"Saving: warn {rule}")
    saving.focus()
    page.keyboard.press("+")
    expect(page.get_by_role("button", name=f"Saving: block {rule}")).to_be_focused()
    page.keyboard.press("-")
    expect(saving).to_be_focused()
    page.keyboard.press("ArrowLeft")
    typing = page.get_by_role("button", name=f"Typing: note {rule}")
    expect(typing).to_be_focused()
    for expected in ("warn", "nothing", "note"):
        page.keyboard.press("Space")
        expect(page.get_by_role("button", name=f"Typing: {expected} {rule}")).to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(
        page.get_by_role(
            "button", name="Typing: nothing (Coordinates come with datum and uncertainty)"
        )
    ).to_be_focused()


def test_a_rule_is_written_by_keyboard_alone_taken_out_and_put_back(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_role("button", name="New rule").wait_for()
    page.keyboard.press("n")
    expect(page.get_by_role("button", name="Fields the rule is about")).to_be_focused()
    page.keyboard.press("Shift+Tab")
    page.keyboard.press("Shift+Tab")
    expect(page.get_by_label("Name", exact=True)).to_be_focused()
    page.keyboard.type("Numbers stay on the label")
    page.keyboard.press("Tab")  # always or under a condition
    page.keyboard.press("Tab")  # the fields
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")  # the first of them
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Fields the rule is about")).to_be_focused()
    page.keyboard.press("Tab")  # what must be true
    page.keyboard.press("Enter")
    page.keyboard.type("must be one")
    expect(page.get_by_role("option", name="must be one of")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("combobox", name="What must be true")).to_have_text("must be one of")
    # On to what is still to be said of a rule of this kind.
    expect(page.get_by_placeholder("one, two, three")).to_be_focused()
    page.keyboard.type("QH-P-1, QH-P-2")
    page.get_by_text("Reads: Accession number must be one of “QH-P-1” or “QH-P-2”.").wait_for()
    page.keyboard.press("Control+Enter")
    rewrite = page.get_by_role("button", name="Rewrite “Numbers stay on the label”")
    rewrite.focus()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Remove it").press("Enter")
    expect(rewrite).to_be_hidden()
    page.get_by_role("button", name="Undo", exact=True).press("Enter")
    rewrite.wait_for()
    rewrite.press("Enter")
    page.get_by_role("button", name="Remove it").press("Enter")
    expect(rewrite).to_be_hidden()


def test_a_format_is_asked_for_by_name_and_its_reason_reaches_the_field(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_role("button", name="New rule").click()
    page.get_by_label("Name", exact=True).fill("Determiners have an ORCID")
    page.get_by_role("button", name="Fields the rule is about").click()
    page.get_by_role("menuitemcheckbox", name="Determined by").click()
    page.keyboard.press("Escape")
    page.get_by_role("combobox", name="What must be true").click()
    page.get_by_role("option", name="must be written as").click()
    expect(page.get_by_text("No format is chosen.")).to_have_count(0)
    page.get_by_role("button", name="Add rule").click()
    page.get_by_text("No format is chosen.").first.wait_for()
    page.get_by_role("combobox", name="Format").click()
    page.get_by_role("option", name="ORCID").click()
    page.get_by_text("Reads: Determined by must be an ORCID").wait_for()
    page.get_by_role("button", name="Add rule").click()
    rewrite = page.get_by_role("button", name="Rewrite “Determiners have an ORCID”")
    rewrite.wait_for()
    go_to(page, "Bench")
    page.get_by_label("Determined by", exact=True).fill("0000-0002-1825-0098")
    control(page, "Submit").click()
    reason = page.get_by_text("the check digit should be 7")
    reason.first.wait_for()
    page.get_by_label("Determined by", exact=True).fill("0000-0002-1825-0097")
    expect(reason).to_have_count(0)
    go_to(page, "Rules")
    page.get_by_label("Search the rules").fill("orcid")
    rewrite.click()
    page.get_by_role("button", name="Remove it").click()
    expect(rewrite).to_have_count(0)


def test_a_rule_for_new_records_from_a_day_on_says_so_in_the_register(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    rewrite = page.get_by_role("button", name="Rewrite “Datum is one we convert”")
    rewrite.click()
    page.get_by_role("combobox", name="Which records it counts for").click()
    page.get_by_role("option", name="new records only").click()
    page.get_by_label("in force from", exact=True).fill("2199-12-01")
    page.get_by_role("button", name="Save rule").click()
    reads = "For new records only, from 1 December 2199: Geodetic datum must be"
    expect(page.get_by_role("region", name=re.compile("^Rewriting"))).to_have_count(0)
    page.get_by_text(reads).first.wait_for()
    go_to(page, "Bench")
    row = page.get_by_role("row", name="Datum is one we convert")
    expect(row).to_contain_text("It counts from 1 December 2199 on.")
    expect(row).to_contain_text("is out of scope")
    go_to(page, "Rules")
    rewrite.click()
    page.get_by_role("combobox", name="Which records it counts for").click()
    page.get_by_role("option", name="new and changed records").click()
    page.get_by_label("in force from", exact=True).fill("")
    page.get_by_role("button", name="Save rule").click()
    expect(page.get_by_text("For new records only")).to_have_count(0)


def test_what_cannot_be_stored_is_told_while_writing_and_kept_on_leaving(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_role("button", name="Rewrite “Latitude lies on the globe”").click()
    page.get_by_label("Upper bound", exact=True).fill("-95")
    page.get_by_text("No value lies between these bounds.").first.wait_for()
    open_form(page, "Records")
    open_form(page, "Rules")
    page.get_by_role("button", name="Rewrite “Latitude lies on the globe”").click()
    expect(page.get_by_label("Upper bound", exact=True)).to_have_value("-95")
    page.get_by_role("button", name="Save rule").click()
    page.get_by_text("This rule cannot be used as it is written.").wait_for()
    page.get_by_role("button", name="Discard my changes").click()
    page.get_by_text("Latitude must be from −90 to 90°.").wait_for()


def test_two_clerks_at_one_record_lose_nothing(sign_in: SignIn) -> None:
    first, second = sign_in("clerk"), sign_in("approver")
    open_form(first, "Records")
    first.get_by_role("link", name="New record").click()
    first.get_by_label("Accession number", exact=True).fill("QH-P-000100")
    control(first, "Save").click()
    first.get_by_role("heading", name=re.compile(r"Record \d+")).wait_for()
    second.goto(first.url)
    second.get_by_label("Scientific name", exact=True).fill("Merrowia obscura")
    second.get_by_label("Collector", exact=True).fill("M. Quist")
    first.get_by_label("Determined by", exact=True).fill("L. Sorrowdale")
    first.get_by_label("Scientific name", exact=True).fill("Quillora obscura")
    with first.expect_response(lambda answer: answer.request.method == "PUT"):
        control(first, "Save").click()
    control(second, "Save").click()
    two = second.get_by_role("region", name="Two versions of this record")
    expect(two).to_be_focused()
    expect(two).to_contain_text("Tamsin Oke has changed this record")
    name = two.get_by_role("row", name=re.compile("^Scientific name"))
    expect(name).to_contain_text("changed by both")
    for chosen in ("Collector: on your screen", "Determined by: stored"):
        expect(two.get_by_role("radio", name=re.compile(chosen))).to_be_checked()
    name.get_by_role("radio", name=re.compile("stored")).check()
    two.get_by_role("button", name="Go on with what is chosen").click()
    for label, value in (
        ("Scientific name", "Quillora obscura"),
        ("Determined by", "L. Sorrowdale"),
        ("Collector", "M. Quist"),
    ):
        expect(second.get_by_label(label, exact=True)).to_have_value(value)
    control(second, "Save").click()
    notice(second, re.compile("is saved")).wait_for()
    first.reload()
    first.get_by_label("Collector", exact=True).fill("Too late")
    control(second, "Submit").click()
    second.get_by_text("It can no longer be changed where it is:").wait_for()
    first.reload()
    left = first.get_by_role("region", name="What you had typed")
    expect(left).to_contain_text("Collector: “Too late” (stored: “M. Quist”)")
    expect(first.locator("[data-field=collector]")).to_contain_text("M. Quist")
    left.get_by_role("button", name="Drop what I had typed").click()
    expect(left).to_have_count(0)


def test_a_lost_connection_is_told_and_tried_again(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Bench")
    expect(page.get_by_role("status", name="Verdict on saving")).to_have_text("Blocked")
    page.context.set_offline(True)
    page.get_by_label("Accession number", exact=True).fill("QH-P-000008")
    lost = page.get_by_text("The server cannot be reached. It is being tried again")
    lost.first.wait_for()
    page.context.set_offline(False)
    expect(lost).to_have_count(0)
    expect(page.get_by_label("Accession number", exact=True)).to_have_value("QH-P-000008")
    expect(page.get_by_role("status", name="Verdict on saving")).to_have_text("Warned")


def test_a_reader_looks_at_everything_and_changes_nothing(sign_in: SignIn) -> None:
    page = sign_in("reader")
    open_form(page, "Rules")
    expect(
        page.get_by_role("button", name="Saving: warn (Datum is one we convert)")
    ).to_be_disabled()
    expect(page.get_by_role("switch").first).to_be_disabled()
    for role, name in (("button", "New rule"), ("link", "Release the draft…")):
        expect(page.get_by_role(role, name=name)).to_have_count(0)
    expect(page.get_by_role("link", name=re.compile("Bench|Prove"))).to_have_count(0)
    go_to(page, "Records")
    expect(page.get_by_role("link", name="New record")).to_have_count(0)
    page.get_by_role("link", name="QH-P-004230").click()
    main = page.get_by_role("main")
    main.get_by_text("QH-P-004230", exact=True).wait_for()
    expect(main.get_by_role("textbox")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("^Save"))).to_have_count(0)


def test_lists_are_searched_and_filtered_and_keep_their_place(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_label("Search the rules").fill("globe")
    expect(page.get_by_role("switch")).to_have_count(2)
    page.get_by_label("Search the rules").fill("nothing like it")
    page.get_by_text("No rule fits.").wait_for()
    page.get_by_label("Search the rules").fill("")
    page.get_by_role("button", name="5 can stop it").click()
    expect(page.get_by_role("switch")).to_have_count(5)
    open_form(page, "Records")
    page.get_by_label("Outcome").select_option("warned")
    page.get_by_label("Search the records").fill("QH-P-0042")
    rows = page.get_by_role("row").filter(has_text="release 1")
    expect(rows.filter(has_not_text="warned")).to_have_count(0)
    expect(rows.first).to_contain_text("violated: “")
    rows.first.get_by_role("link").click()
    page.get_by_role("heading", name=re.compile(r"Record \d+")).wait_for()
    page.go_back()
    expect(page.get_by_label("Outcome")).to_have_value("warned")
    expect(page.get_by_label("Search the records")).to_have_value("QH-P-0042")


WIDTHS = (1024, 1280, 1920)
OVERHANG = "document.documentElement.scrollWidth - window.innerWidth"


def test_no_view_scrolls_sideways(sign_in: SignIn) -> None:
    page = sign_in("steward")

    def overhangs() -> list[int]:
        """The widths at which something on the page stands beyond the window."""
        found = []
        for width in WIDTHS:
            page.set_viewport_size({"width": width, "height": 800})
            if page.evaluate(OVERHANG) > 0:
                found.append(width)
        return found

    assert overhangs() == []
    open_form(page, "Rules")
    page.get_by_role("button", name="Rewrite “Determination follows gathering”").click()
    page.get_by_text("Reads: Determined on must be on or after").wait_for()
    assert overhangs() == []
    for place, sign in (
        ("Fields", "list"),
        ("Plan", "textbox"),
        ("Set-up", "textbox"),
        ("History", "main"),
        ("Bench", "table"),
        ("Records", "table"),
        ("Messages", "main"),
        ("Access", "main"),
    ):
        go_to(page, place)
        page.get_by_role(sign).first.wait_for()
        assert overhangs() == [], place


def test_the_theme_is_the_systems_until_one_is_chosen(sign_in: SignIn) -> None:
    page = sign_in("reader", "dark")
    shown = page.locator("html")
    expect(shown).to_have_attribute("data-theme", "dark")
    with page.expect_response("**/api/v1/session/settings"):
        page.get_by_role("button", name="Switch light and dark").click()
        expect(shown).to_have_attribute("data-theme", "light")
    page.reload()
    expect(shown).to_have_attribute("data-theme", "light")


def test_every_view_to_write_in_is_accessible_in_both_themes(sign_in: SignIn) -> None:
    page = sign_in("steward")
    assert violations(page) == []
    page.get_by_role("button", name="New form…").click()
    page.get_by_label("from a sample").check()
    page.get_by_label("Inspection").wait_for()
    assert violations(page) == []
    page.keyboard.press("Escape")
    open_form(page, "Rules")
    page.get_by_role("button", name="Rewrite “Coordinates come with datum and uncertainty”").click()
    page.get_by_text("Reads: When either").wait_for()
    assert violations(page) == []
    page.get_by_role("button", name="Close", exact=True).click()
    page.keyboard.press("?")
    page.get_by_role("dialog", name="Keyboard shortcuts").wait_for()
    assert violations(page) == []
    page.keyboard.press("Escape")
    open_form(page, "Fields")
    page.get_by_role("button", name="Change Habitats").click()
    page.get_by_label("Choices, one a line", exact=False).wait_for()
    assert violations(page) == []
    page.get_by_role("button", name="rules touch Latitude").click()
    page.get_by_role("button", name="it lies between").click()
    page.get_by_role("region", name="A new rule").wait_for()
    assert violations(page) == []
    for place, sign in (("Plan", "textbox"), ("Set-up", "button"), ("History", "main")):
        open_form(page, place)
        page.get_by_role("main").get_by_role(sign).or_(page.get_by_role(sign)).first.wait_for()
        assert violations(page) == []
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Go to, or do").fill("latitude")
    page.get_by_role("option").first.wait_for()
    assert violations(page) == []
    page.keyboard.press("Escape")
    open_form(page, "Rules")
    page.get_by_role("button", name="Recipes…").click()
    page.get_by_role("button", name="A chain of questions").click()
    assert violations(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Tiers…").click()
    page.get_by_role("button", name="A new table").click()
    assert violations(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Rewrite “Latitude lies on the globe”").click()
    page.get_by_role("combobox", name="Always or under a condition").click()
    page.get_by_role("option", name="When").click()
    page.get_by_role("button", name="The condition as a formula").click()
    expect(page.get_by_role("textbox", name="Condition as a formula")).to_be_focused()
    page.keyboard.type("latit")
    page.locator(".cm-tooltip-autocomplete").wait_for()
    assert violations(page) == []
    page.get_by_role("button", name="Discard my changes").click()


def test_every_view_to_prove_in_is_accessible_in_both_themes(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Bench")
    page.get_by_label("Elevation from", exact=True).fill("9000")
    page.keyboard.press("F9")
    page.get_by_role("figure", name="Where Elevation from passes").wait_for()
    page.get_by_role("button", name="Map two fields").click()
    page.get_by_role("group", name="Map").wait_for()
    page.get_by_role("button", name="Elevation lies between").and_(
        page.locator("[aria-expanded]")
    ).click()
    page.get_by_role("button", name="Try without this rule").wait_for()
    page.get_by_role("button", name="What would let it through on submitting?").click()
    assert violations(page) == []
    page.keyboard.press("Control+Enter")
    page.get_by_role("dialog", name="Save as a case").wait_for()
    assert violations(page) == []
    page.keyboard.press("Escape")
    open_form(page, "Cases")
    page.get_by_role("button", name="Just beyond the pole").click()
    page.get_by_role("button", name="Open on the bench").wait_for()
    assert violations(page) == []
    page.get_by_role("button", name="Draft cases…").click()
    page.get_by_role("checkbox", name="all", exact=False).first.wait_for()
    assert violations(page) == []
    page.keyboard.press("Escape")
    open_form(page, "Proof")
    page.get_by_role("heading", name="Rule by rule").wait_for()
    assert violations(page) == []
    open_form(page, "Bench")
    page.get_by_label("Longitude", exact=True).fill("195")
    page.get_by_label("Latitude", exact=True).fill("1,250")
    control(page, "Submit").click()
    page.get_by_text("“1,250” can be read as 1250 or as 1.250").first.wait_for()
    assert violations(page) == []
    open_form(page, "Records")
    page.get_by_text(re.compile(r"\d+ records")).wait_for()
    assert violations(page) == []
    page.get_by_role("link", name="New record").click()
    expect(control(page, "Submit")).to_contain_text("will be refused")
    assert violations(page) == []
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("heading", name="Sign in").wait_for()
    assert violations(page) == []


def test_views_of_records_people_releases_are_accessible(
    sign_in: SignIn,
) -> None:
    page = sign_in("steward")
    open_form(page, "Impact")
    page.get_by_role("button", name=re.compile("^Work out (impact|again)")).click()
    impact = page.get_by_role("list", name="What the draft means for them")
    impact.wait_for()
    assert violations(page) == []
    go_to(page, "Releases")
    page.get_by_role("region", name="Rules").wait_for()
    assert violations(page) == []
    page.goto("/forms/plant_accession/releases/draft")
    page.get_by_role("heading", name="What is known of it").wait_for()
    assert violations(page) == []
    go_to(page, "Watch")
    page.get_by_role("button", name=re.compile("apart$")).first.click()
    page.get_by_role("region", name=re.compile("told apart$")).wait_for()
    assert violations(page) == []
    go_to(page, "History")
    history = page.get_by_role("main", name=re.compile("^History"))
    history.get_by_role("table").wait_for()
    assert violations(page) == []
    go_to(page, "Records")
    page.get_by_role("checkbox", name="Choose all that are listed here").check()
    page.get_by_role("button", name="Further filters").click()
    page.get_by_role("button", name="Ask of a field…").click()
    assert violations(page) == []
    page.get_by_role("link", name="People").click()
    page.get_by_role("button", name="What was changed, and by whom").click()
    page.get_by_role("button", name="Change the account of Tamsin Oke").click()
    assert violations(page) == []
    page.goto("/account")
    page.get_by_role("heading", name="How you like to read").wait_for()
    assert violations(page) == []
    page = sign_in("approver")
    page.get_by_role("heading", name="Desk").wait_for()
    assert violations(page) == []
    page.get_by_role("link", name="To approve in Loan out").click()
    page.get_by_role("article").get_by_role("heading").first.wait_for()
    page.get_by_role("button", name="Return…").click()
    assert violations(page) == []
