"""Each kind of finding: forms that have it, and twins that do not."""

from typing import Any

import pytest

from thistlequartz.core.findings import (
    SEARCHES,
    TITLES,
    Finding,
    find,
    find_by_steps,
    grouped,
    told_together,
)
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .seeded_rules import SEEDED, TODAY, between, cross, form, form_of, needed, rule

FIXED = ("F01", "F02", "F07", "F10", "F11", "F12", "F15", "F17", "F20", "F23", "F24", "F28", "F31")
"""Of these some are corrected by a press."""


def found_in(given: Any, code: str) -> tuple[RuleSet, list[Finding], dict[str, Any]]:
    """The rules as a form, what is found of it as far as a code, and what else is known of it."""
    rules, more = given if isinstance(given, tuple) else (given, {})
    more = dict(more)
    rights, samples, back = (more.pop(name, None) for name in ("rights", "samples", "back"))
    second = {"key": "note2", "label": "Second remark", "type": "text"}
    more["fields"] = [second, *more.get("fields", ())]
    other = {
        "key": "keeper",
        "name": "Other",
        "fields": [{"key": "first", "label": "First", "type": "reference", "form": "form"}],
        "rules": [{"key": "b", "kind": "mandatory", "targets": ["first"], "severity": back}]
        if back
        else [],
    }
    ruleset = RuleSet.model_validate({"forms": [form_of(*rules, **more), other]})
    known = {"rights": rights, "samples": samples}
    last = max(place for place, search in enumerate(SEARCHES) if code in search.codes)
    form = compile_ruleset(ruleset, form="form")
    skipped = range(last + 1, len(SEARCHES))
    found = told_together(find_by_steps(ruleset, form, TODAY, skipped=skipped, **known))
    assert not [one for one in found.undecided if one.code == code], found.undecided
    for one in found.found:
        assert one.says.endswith(".")
        assert one.how.endswith(".")
    return ruleset, list(found.found), known


def has(code: str, given: Any) -> bool:
    return code in {one.code for one in found_in(given, code)[1]}


@pytest.mark.parametrize("place", range(3))
@pytest.mark.parametrize("code", list(TITLES))
def test_each_mistake_is_found_and_its_twin_is_clean(code: str, place: int) -> None:
    seeded, twins = SEEDED[code]
    assert min(len(seeded), len(twins)) >= 3
    for one in seeded[place::3]:
        assert has(code, one)
    for twin in twins[place::3]:
        assert not has(code, twin)


@pytest.mark.parametrize("code", [one for one in TITLES if one in FIXED])
def test_a_mend_does_away_with_what_it_is_for(code: str) -> None:
    fixed = 0
    for given in SEEDED[code][0]:
        ruleset, found, known = found_in(given, code)
        form = ruleset.form("form")
        for one in (one for one in found if one.code == code and one.fix is not None):
            changed = {rule.key: rule for rule in one.fix.rules}
            rules = tuple(
                changed.get(rule.key, rule)
                for rule in form.rules
                if rule.key not in one.fix.removed
            )
            better = form.model_copy(update={"rules": rules})
            forms = tuple(better if other.key == "form" else other for other in ruleset.forms)
            rest = find(ruleset.model_copy(update={"forms": forms}), "form", TODAY, **known)
            assert one.fingerprint not in {other.fingerprint for other in rest.found}
            fixed += 1
    assert fixed, "there is one that is corrected by a press"


HONEST = (
    "At most 25 kg.", "Up to 25,000 g is taken.", "The mass is more than 0 and at most 25,000.",
    "As Article 12 of Directive 2020/2184 asks, at most 25 kg.", "Call extension 4711.",
    "Tier 2: at most 25 kg.", "See page 3, section 4.1.", "No more than 25,000 (see note 7).",
    "Between 0 and 25,000.", "ISO 8601 has the details.", "Ring 0131 496 0000 about more than 25 kg.",
    "Form B7, line 40.", "From room 12 on the scale ends at 25 kg.", "Such as 12 or 17.",
    "By the rule of 1998, 25,000 is the most.",
)  # fmt: skip
UNTRUE = (
    "At most 40 kg.", "Up to 40,000 g is taken.", "More than 40 is too much.", "At most 24 kg.",
    "Between 0 and 2,500.", "Mass 40 is the most.", "No more than 2.5 kg.", "The limit is 250 kg.",
)  # fmt: skip


@pytest.mark.parametrize("text", HONEST)
def test_a_text_that_says_no_other_bound_is_left_alone(text):
    assert not has("F15", [between("mass", 0, 25000, message=text)])


@pytest.mark.parametrize("text", UNTRUE)
def test_a_text_that_says_another_bound_is_told(text):
    assert has("F15", [between("mass", 0, 25000, message=text)]) or has(
        "F29", [between("mass", 0, 25000, message=text)]
    )


def test_every_text_of_a_rule_is_told():
    rule = between("mass", 0, 25, message="At most 40.", why="Nobody lifts more than 30.")
    _, found, _ = found_in([rule], "F15")
    (one,) = [each for each in found if each.code == "F15"]
    assert "says 40 and its reason says 30, and the rule has 25." in one.says


def test_durations_and_per_cents_are_converted_both_ways():
    rule = cross("found", 'found <= today + duration("P14D")', message="Within 2 weeks.")
    assert not has("F15", [rule])
    assert has("F15", [{**rule, "message": "Within 3 weeks."}])


def test_findings_of_one_cause_stand_under_the_most_telling_one():
    rules = [form("code", "A.*"), form("code", "B.*"), needed("note")]
    _, found, _ = found_in(rules, "F37")
    codes = {one.code for one in found}
    assert {"F03", "F04", "F37"} <= codes
    (group,) = grouped(found)
    assert group.finding.code == "F37"
    assert {one.code for one in group.beneath} == codes - {"F37"}
    _, apart, _ = found_in([cross("mass", "mass > 5 and mass < 3"), form("code", "A.*"),
                            form("code", "B.*")], "F37")  # fmt: skip
    assert len([one for one in grouped(apart) if one.finding.code in ("F03", "F37")]) == 2


def says(code: str, *rules: Any) -> str:
    _, found, _ = found_in(list(rules), code)
    return next(one.says for one in found if one.code == code)


def test_a_number_is_told_with_its_unit():
    light = says("F15", between("mass", 0, 5, message="Up to 5 kg."))
    assert "says 5 kg, and the rule has 5 g." in light
    late = cross("found", 'found <= named + duration("P1Y")', message="Within 18 months.")
    assert "says 18 months, and the rule has 1 year." in says("F15", late)
    share = {"key": "share", "label": "Share", "type": "decimal", "unit": "%"}
    quarter = between("share", 0, "0.25", message="Up to 25 %.")
    _, found, _ = found_in(([quarter], {"fields": [share]}), "F15")
    (one,) = [each for each in found if each.code == "F15"]
    assert "says 25 %, and the rule has 0.25 %." in one.says


def test_rules_about_one_result_are_told_together():
    checks = [between("rate", 0, 50), cross("rate", "rate != 7")]
    rules = [rule("derive", "rate", value="mass * 2"), *checks]
    _, found, _ = found_in(rules, "F36")
    (one,) = [each for each in found if each.code == "F36"]
    assert len(one.rules) == 3


def test_an_example_is_drawn_where_the_solver_gives_none():
    """Two sums of the calendar, one of them proposed: the solver takes too long."""
    late = cross("named", 'named <= found + duration("P1Y")')
    sets = [{"field": "named", "value": 'found + duration("P2Y")'}]
    proposed = rule("propose", "named", title="In two years", sets=sets)
    assert "is refused by" in says("F25", late, proposed)


def test_a_finding_says_which_parts_clash_and_in_which_situation():
    never = says("F01", needed("note", when='mass > 9 and kind = "bird" and mass < 3'))
    assert "“Mass is more than 9 g” and “Mass is less than 3 g” are never true at once" in never
    birds, sealed = cross("mass", "mass > 9", when='kind = "bird"'), {"when": "sealed = true"}
    clash = says("F04", birds, cross("mass", "mass < 3", **sealed))
    assert "when Kind is Bird and Sealed is yes" in clash
