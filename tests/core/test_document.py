"""Documents: read and written without loss, and refused with the place of each fault."""

import pytest
from pydantic import ValidationError

from thistlequartz.core.language import FormulaError
from thistlequartz.core.ruleset import Form, RuleSet, language_of, lower_rule
from thistlequartz.demo.forms.plant import PLANT_ACCESSION

from .conftest import form_of

NUMBER = [{"key": "low", "type": "decimal"}, {"key": "name", "type": "text"}]


def test_a_ruleset_reads_and_writes_json_without_loss():
    ruleset = RuleSet(forms=(PLANT_ACCESSION,))
    assert RuleSet.model_validate_json(ruleset.model_dump_json()) == ruleset


@pytest.mark.parametrize(
    ("fields", "rules", "place", "words"),
    [
        ([{"key": "a", "type": "text", "colour": "red"}], [], "fields.0", "Extra inputs"),
        ([{"key": "A b", "type": "text"}], [], "fields.0", "small letter"),
        ([{"key": "between", "type": "text"}], [], "fields.0", "word of the formula language"),
        ([{"key": "today", "type": "text"}], [], "fields.0", "word of the formula language"),
        ([{"key": "a", "type": "text"}] * 2, [], "", "“a” is there twice"),
        ([{"key": "a", "type": "colour"}], [], "fields.0", "does not match"),
        (NUMBER, [{"kind": "mandatory", "targets": ["low"], "in_force_from": "2026-02-01",
                   "in_force_to": "2026-01-01"}], "rules.0", "end before it begins"),
        (NUMBER, [{"kind": "mandatory", "targets": ["low"], "severity": {"entry": "block"}}],
         "rules.0", "'none', 'note' or 'warn'"),
    ],
)  # fmt: skip
def test_a_document_out_of_shape_is_refused_at_its_place(fields, rules, place, words):
    with pytest.raises(ValidationError) as caught:
        form_of(fields, rules)
    error = caught.value.errors()[0]
    assert ".".join(str(part) for part in error["loc"]).startswith(place)
    assert words in error["msg"]


@pytest.mark.parametrize(
    ("rule", "place", "words"),
    [
        ({"kind": "range", "targets": ["name"], "lower": {"value": "1"}}, "targets.0", "no order"),
        ({"kind": "range", "targets": ["low"], "lower": {"value": "9"}, "upper": {"value": "1"}},
         "upper.value", "No value lies between"),
        ({"kind": "range", "targets": ["low"], "lower": {"value": "1"},
          "upper": {"value": "1", "inclusive": False}}, "upper.value", "No value lies between"),
        ({"kind": "range", "targets": ["low"], "lower": {"value": "today"}}, "lower.value", "a date"),
        ({"kind": "allowed_values", "targets": ["low"], "values": ["1", "two"]},
         "values.1", "not a number"),
        ({"kind": "cross_field", "targets": ["low"], "must": ""}, "must", "Nothing has been said"),
        ({"kind": "range", "targets": ["low"]}, "lower.value", "needs a lowest value, a highest"),
        ({"kind": "mandatory", "targets": []}, "targets", "names no field"),
        ({"kind": "open", "targets": ["low"], "when": ""}, "when", "Nothing has been said"),
        ({"kind": "lock", "targets": ["low"], "when": " "}, "when", "Nothing has been said"),
        ({"kind": "mandatory", "targets": ["lo"], "when": "low > 1"}, "targets.0", "no field “lo”"),
    ],
)  # fmt: skip
def test_a_rule_that_cannot_work_is_refused_at_its_place(rule, place, words):
    form = form_of(NUMBER, [rule])
    with pytest.raises(FormulaError) as caught:
        lower_rule(form.rules[0], language_of(form))
    problem = caught.value.problems[0]
    assert problem.place == place
    assert words in problem.message


def test_a_form_without_fields_or_rules_is_a_form():
    assert Form(key="empty", name="Empty").rules == ()
