"""Judging never raises, and what cannot be stored is refused before it is."""

import pytest

from thistlequartz.core import RuleSet, compile_ruleset
from thistlequartz.core.language import FormulaError, read_formula, tree

from .conftest import TODAY, compiled_form, result

MASS = {"key": "mass", "type": "decimal"}


@pytest.mark.parametrize("moment", ["entry", "save", "submit"])
def test_a_bound_that_cannot_be_read_stands_in_a_message_as_such(moment):
    rule = {
        "kind": "range",
        "targets": ["mass"],
        "upper": {"value": "limit"},
        "message": "At most {highest}, and not {value}.",
    }
    form = compiled_form([MASS, {"key": "limit", "type": "decimal"}], [rule])
    verdict = form.judge({"mass": "5", "limit": "much"}, moment=moment, today=TODAY)
    assert result(verdict).status in ("not_evaluable", "silent")
    told = form.judge({"mass": "5", "limit": "3"}, moment="submit", today=TODAY)
    assert result(told).messages[0].text == "At most 3, and not 5."


def test_an_unreadable_reference_is_null_and_not_blank():
    fields = [{"key": "lender", "type": "reference", "form": "form"}, MASS]
    rule = {"kind": "cross_field", "targets": ["mass"], "must": "lender.mass = null"}
    form = compiled_form(fields, [rule])
    verdict = form.judge({"mass": "1", "lender": ["a", "b"]}, moment="save", today=TODAY)
    assert verdict.fields["lender"].fault
    assert result(verdict).status == "not_evaluable"


# DMN 1.4, clause 10.3.1.2, rule 64: escapes; ISO/IEC 10646: D800 to DFFF are no characters.
@pytest.mark.parametrize(
    "written", [r'"\uD83D"', r'"a\uDC0Eb"', r'"\uDC0E\uD83D"', r'{"\uD800": 1}']
)
def test_half_a_character_in_a_formula_is_refused_with_its_place(written):
    with pytest.raises(FormulaError) as refused:
        read_formula(written)
    (problem,) = refused.value.problems
    assert "half a character" in problem.message
    document = {
        "forms": [
            {
                "key": "form",
                "name": "Form",
                "fields": [{**MASS, "label": "Mass"}],
                "rules": [
                    {
                        "kind": "cross_field",
                        "key": "r",
                        "targets": ["mass"],
                        "must": f"mass = 1 or {written} = null",
                    }
                ],
            }
        ]
    }
    form = compile_ruleset(RuleSet.model_validate(document), form="form")
    assert "half a character" in form.problems["r"][0].message


def test_two_halves_are_one_character():
    assert read_formula(r'"\uD83D\uDC0E"') == tree.Text("\U0001f40e")
    assert read_formula(r'"\U01F40E"') == tree.Text("\U0001f40e")
