"""Writing rules: two spellings, two stewards, many at once, and every help there is."""

import re
from pathlib import Path

from playwright.sync_api import expect

from .conftest import SignIn
from .ways import go_to, notice, open_form


def test_formula_and_sentence_are_two_spellings_of_one_rule(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_role("button", name="New rule").click()
    page.get_by_label("Name", exact=True).fill("Two spellings")
    page.get_by_role("combobox", name="Always or under a condition").click()
    page.get_by_role("option", name="When", exact=True).click()
    field = page.get_by_role("combobox", name="Field of the condition")
    page.get_by_role("button", name="Fields the rule is about").click()
    page.get_by_role("menuitemcheckbox", name="Collector", exact=True).click()
    page.keyboard.press("Escape")
    field.focus()
    page.keyboard.press("F2")
    formula = page.get_by_role("textbox", name="Condition as a formula")
    for text, fields, words in (
        ("gathered_on < today - duration(\"P30D\")", 1, "Gathered on is before today minus"),
        ("string length(collector) > 3 and (latitude in [1..5] or not(changed.country))", 3,
         "Collector has more than 3 characters and either Latitude is from 1 to 5"),
        ("gathered_on.weekday = 6 or stored.latitude != latitude", 2,
         "the weekday of Gathered on is Saturday"),
    ):  # fmt: skip
        expect(formula).to_be_focused()
        page.keyboard.press("Control+a")
        page.keyboard.insert_text(text)
        expect(page.get_by_text(re.compile("^Reads: "))).to_contain_text(words)
        page.keyboard.press("F2")
        expect(field).to_have_count(fields)
        field.first.focus()
        page.keyboard.press("F2")
        expect(formula).to_have_text(text)
    page.keyboard.press("Control+a")
    page.keyboard.insert_text("latitude + 1 > longitude")
    expect(page.get_by_text(re.compile("^Reads: "))).to_contain_text("Latitude plus 1")
    page.keyboard.press("F2")
    page.get_by_text("Only a formula can say this, so it stays one.").wait_for()
    formula.focus()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text("latitud > ")
    page.get_by_text("The formula ends too early.").first.wait_for()
    expect(page.locator(".cm-lintRange-error")).to_have_count(1)
    page.keyboard.press("Control+Enter")
    page.get_by_role("button", name="Keep it unfinished").click()
    row = page.get_by_role("row", name="Two spellings")
    expect(row).to_contain_text("Unfinished, so it has no effect")
    go_to(page, "Bench")
    expect(page.get_by_role("row", name="Two spellings")).to_contain_text("unfinished")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("row", name="Two spellings")).to_have_count(0)


def test_turning_clauses_waits_for_a_slow_answer_to_what_was_just_chosen(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_role("button", name="New rule").click()
    page.get_by_role("combobox", name="Always or under a condition").click()
    page.get_by_role("option", name="When", exact=True).click()
    for part, answer in (("Field", "Collector"), ("Comparison", "has a value")):
        page.get_by_role("combobox", name=f"{part} of the condition").click()
        page.get_by_role("option", name=answer, exact=True).click()
    page.get_by_role("button", name="Fields the rule is about").click()
    page.get_by_role("menuitemcheckbox", name="Country", exact=True).click()
    page.keyboard.press("Escape")
    page.get_by_text(re.compile("^Reads: When Collector has a value")).wait_for()
    page.route("**/rules/read*", lambda _: None)  # Held.
    page.get_by_role("combobox", name="Comparison of the condition").click()
    with page.expect_request("**/rules/read*"):
        page.get_by_role("option", name="is blank", exact=True).click()
    page.get_by_role("button", name="The condition as a formula").click()
    page.unroute("**/rules/read*")  # What was held goes on.
    expect(page.get_by_role("textbox", name="Condition as a formula")).to_have_text(
        "collector = null"
    )


def test_two_stewards_at_one_rule_lose_nothing(sign_in: SignIn) -> None:
    pages = [sign_in("steward"), sign_in("deputy")]
    for page in pages:
        page.get_by_role("link", name="Mineral accession", exact=True).click()
        rewrite = page.get_by_role("button", name=re.compile("^Rewrite “"))
        rewrite.first.wait_for()
    mine, theirs = pages
    name = mine.get_by_role("button", name=re.compile("^Rewrite “")).nth(1)
    label = name.get_attribute("aria-label")
    assert label is not None
    for page in pages:
        page.get_by_role("button", name=label, exact=True).click()
    # Who has typed nothing yet sees the newer rule by itself; what was typed stays, and is told.
    mine.get_by_label("Why the rule is there").fill("Mine")
    theirs.get_by_label("Name", exact=True).fill("Theirs")
    theirs.keyboard.press("Control+Enter")
    theirs.get_by_role("button", name="Rewrite “Theirs”").wait_for()
    mine.get_by_label("Why the rule is there").focus()
    mine.keyboard.press("Control+Enter")
    told = mine.get_by_role("alert")
    expect(told).to_contain_text("Ingram Solway has changed this rule since you opened it.")
    mine.get_by_text("The newer one, “Theirs”, reads:").wait_for()
    expect(mine.get_by_label("Why the rule is there")).to_have_value("Mine")
    mine.get_by_role("button", name="Keep mine").click()
    expect(told).to_have_count(0)
    mine.get_by_role("button", name=label, exact=True).wait_for()
    go_to(mine, "History")
    acts = mine.get_by_role("row").filter(has_text="changed the rule")
    expect(acts.nth(0)).to_contain_text("Odile Farrowby")
    expect(acts.nth(1)).to_contain_text("Ingram Solway")
    mine.get_by_role("button", name=re.compile("^Undo: changing the rule")).click()
    go_to(mine, "Rules")
    mine.get_by_role("button", name="Rewrite “Theirs”").wait_for()


def test_many_rules_are_chosen_found_grouped_and_stepped_at_once(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_label("Search the rules").fill("latitude")
    page.get_by_label("Choose all that are shown").check()
    bar = page.get_by_role("region", name="The chosen rules")
    bar.get_by_role("combobox", name="Typing, for all that are chosen").click()
    page.get_by_role("option", name="note", exact=True).click()
    rows = page.get_by_role("row").filter(has_text="rewrite")
    notes = page.get_by_role("button", name=re.compile("^Typing: note"))
    expect(notes).to_have_count(rows.count())
    expect(page.get_by_role("button", name=re.compile("^Undo: changing "))).to_be_enabled()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name=re.compile("^Typing: warn"))).not_to_have_count(0)
    page.get_by_label("Search the rules").fill("")
    page.get_by_role("combobox", name="In which groups").click()
    page.get_by_role("option", name="by field", exact=True).click()
    page.get_by_role("rowheader", name="Accession number", exact=True).wait_for()
    page.get_by_role("combobox", name="Which rules are shown").click()
    page.get_by_role("option", name="those never tried").click()
    expect(page).to_have_url(re.compile("show=never_tried"))
    go_to(page, "Bench")
    page.get_by_role("heading", name="What happens").wait_for()
    page.go_back()
    expect(page.get_by_role("combobox", name="Which rules are shown")).to_have_text(
        "those never tried"
    )
    page.get_by_role("combobox", name="Which rules are shown").click()
    page.get_by_role("option", name="all rules").click()
    page.get_by_role("combobox", name="In which groups").click()
    page.get_by_role("option", name="in their order").click()
    handle = page.get_by_role("button", name=re.compile("^Move Scientific name is given"))
    handle.focus()
    page.keyboard.press("Alt+ArrowUp")
    expect(page.get_by_role("button", name=re.compile("^Rewrite")).first).to_have_accessible_name(
        "Rewrite “Scientific name is given”"
    )
    expect(handle).to_be_focused()
    page.keyboard.press("Alt+ArrowDown")


def test_a_recipe_tiers_and_a_copy_write_rules_of_their_own(sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="Loan out", exact=True).click()
    page.get_by_role("button", name="Recipes…").click()
    page.get_by_role("button", name="Required together").click()
    page.get_by_role("button", name="The fields").click()
    page.get_by_role("menuitemcheckbox").nth(1).click()
    page.get_by_role("menuitemcheckbox").nth(2).click()
    page.keyboard.press("Escape")
    page.get_by_text("Either all or none of").wait_for()
    page.get_by_role("button", name="Add these rules").click()
    notice(page, "1 rule was added.").wait_for()
    page.get_by_role("button", name="Undo", exact=True).click()

    page.get_by_role("button", name="Tiers…").click()
    page.get_by_text("2,000 falls in two tiers.").wait_for()
    page.get_by_role("button", name="Rate of premium by Insured value").click()
    dialog = page.get_by_role("dialog", name="Tiers of proposals")
    expect(dialog.get_by_label("Proposed in tier 3", exact=True)).to_have_value("")
    dialog.get_by_label("End of tier 3", exact=True).fill("20000")
    dialog.get_by_role("button", name="Save table").click()
    expect(dialog.get_by_role("alert")).to_contain_text("This bound is not above the one before")
    dialog.get_by_role("button", name="Remove tier 3").click()
    dialog.get_by_role("button", name="Save table").click()
    notice(page, "The table is stored as 3 rules.").wait_for()
    page.get_by_role("button", name="Tiers…").click()
    expect(page.get_by_role("button", name="in 3 tiers")).to_have_text(
        "Rate of premium by Insured value, in 3 tiers"
    )
    page.keyboard.press("Escape")

    open_form(page, "Rules")
    page.get_by_role("button", name="Rewrite “Latitude lies on the globe”").click()
    page.get_by_role("button", name="To another form…").click()
    page.get_by_role("combobox", name="Form it is copied to").click()
    page.get_by_role("option", name="Mineral accession").click()
    page.get_by_role("combobox", name="Field that stands for Latitude").click()
    page.get_by_role("option", name="Density").click()
    page.get_by_text("There it reads: Density must be from −90 to 90").wait_for()
    page.get_by_role("button", name="Copy it there").click()
    notice(page, "was copied to Mineral accession.").wait_for()


def test_a_form_begun_from_a_file_takes_what_its_columns_suggest(
    sign_in: SignIn, tmp_path: Path
) -> None:
    file = tmp_path / "samples.csv"
    rows = "\n".join(f"S-{n:03},{n % 28 + 1}/12/2025,{n}.5,{'ab'[n % 2]}" for n in range(30))
    file.write_text(f"Sample,Taken on,Depth,Kind\n{rows}\n", encoding="utf-8")
    page = sign_in("steward")
    page.get_by_role("button", name="New form…").click()
    page.get_by_label("Name", exact=True).fill("Soil samples")
    page.get_by_label("from a file’s columns").check()
    page.get_by_label("A CSV file with a line of headings").set_input_files(file)
    page.get_by_text("30 rows. Take the tick off").wait_for()
    page.get_by_text("The values go from 0.5 to 29.5.", exact=False).wait_for()
    page.get_by_label("Depth within what was seen").uncheck()
    page.get_by_role("button", name="Begin", exact=True).click()
    page.get_by_text("a date", exact=True).wait_for()
    page.get_by_text("one choice of 2").wait_for()
    go_to(page, "Rules")
    page.get_by_text("No two records may share Sample.").wait_for()
    expect(page.get_by_text("Depth within what was seen")).to_have_count(0)


def test_the_plan_shows_what_no_rule_covers_and_the_palette_finds_it(sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="Borrower", exact=True).click()
    go_to(page, "Plan")
    line = "Nobody borrows who cannot be reached"
    page.get_by_label("A new line of the plan").fill(line)
    page.keyboard.press("Enter")
    page.get_by_text("No case proves it yet.").wait_for()
    page.get_by_text("No rule covers it yet.").wait_for()
    page.get_by_role("button", name=f"Rules that cover “{line}”").click()
    first = page.get_by_role("menuitemcheckbox").first
    rule = first.inner_text()
    first.click()
    page.keyboard.press("Escape")
    page.get_by_role("link", name=rule).wait_for()
    expect(page.get_by_text("No rule covers it yet")).to_have_count(0)
    page.get_by_role("button", name=f"Cases that prove “{line}”").click()
    page.get_by_role("menuitemcheckbox", name="A house whose report nobody has seen").click()
    page.keyboard.press("Escape")
    page.get_by_role("link", name="A house whose report nobody has seen").wait_for()
    expect(page.get_by_text("No case proves it yet.")).to_have_count(0)
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Go to, or do").fill("latitude globe plant")
    page.get_by_role("option", name="Latitude lies on the globe").wait_for()
    page.keyboard.press("Enter")
    page.get_by_role("region", name="Rewriting “Latitude lies on the globe”").wait_for()


def test_the_set_up_makes_sections_conditions_and_starters(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Set-up")
    page.get_by_role("button", name="Add a section").click()
    sections = page.get_by_role("region", name="Sections")
    sections.get_by_role("textbox").last.fill("For the archive")
    page.get_by_role("button", name="Add a condition").click()
    conditions = page.get_by_role("region", name="Named conditions")
    conditions.get_by_role("textbox").first.fill("Has a point")
    conditions.get_by_role("button", name="The condition as a sentence").click()
    conditions.get_by_role("combobox", name="Field of the condition").click()
    page.get_by_role("option", name="Latitude", exact=True).click()
    conditions.get_by_role("combobox", name="Comparison of the condition").click()
    page.get_by_role("option", name="has a value").click()
    page.get_by_role("button", name="Save set-up").click()
    notice(page, "Set-up saved.").wait_for()
    go_to(page, "Rules")
    page.get_by_role("button", name="New rule").click()
    page.get_by_label("Name", exact=True).fill("A point has a country")
    page.get_by_role("combobox", name="Always or under a condition").click()
    page.get_by_role("option", name="When", exact=True).click()
    page.get_by_role("combobox", name="Field of the condition").click()
    page.get_by_role("option", name="Has a point").click()
    page.get_by_role("button", name="Fields the rule is about").click()
    page.get_by_role("menuitemcheckbox", name="Country", exact=True).click()
    page.keyboard.press("Escape")
    page.get_by_text("Reads: When “Has a point” is met").wait_for()
    page.keyboard.press("Escape")
    go_to(page, "Set-up")
    page.get_by_label("Time zone in which").fill("Atlantis")
    page.get_by_role("button", name="Save set-up").click()
    expect(page.get_by_role("alert")).to_contain_text("is not an IANA time zone")
