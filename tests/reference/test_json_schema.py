"""An outside opinion on accept or refuse: the same constraints as a JSON Schema (2020-12).

Judged by the general library `jsonschema`; records are drawn by Hypothesis.
"""

from datetime import date
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from tests.examples import few
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import Form, RuleSet

BLOCK = {"save": "block", "submit": "block"}
FORM = Form.model_validate(
    {
        "key": "sample",
        "name": "Sample",
        "fields": [
            {"key": "kind", "label": "Kind", "type": "choice",
             "choices": [{"code": code, "label": code} for code in ("rock", "sand", "clay")]},
            {"key": "mass", "label": "Mass", "type": "whole_number"},
            {"key": "grain", "label": "Grain", "type": "whole_number"},
            {"key": "store", "label": "Store", "type": "text"},
            {"key": "sealed", "label": "Sealed", "type": "yes_no"},
        ],
        "rules": [
            {"key": "kind_given", "name": "a", "kind": "mandatory", "targets": ["kind"]},
            {"key": "mass_between", "name": "b", "kind": "range", "targets": ["mass"],
             "lower": {"value": "0", "inclusive": False}, "upper": {"value": "50"}},
            {"key": "store_known", "name": "c", "kind": "allowed_values", "targets": ["store"],
             "values": ["north", "south"]},
            {"key": "grain_given", "name": "d", "kind": "mandatory", "targets": ["grain"],
             "when": 'kind = "sand" or (mass > 10 and sealed != true)'},
        ],
    }
)  # fmt: skip
FORM = FORM.model_copy(
    update={
        "rules": tuple(
            rule.model_copy(update={"severity": rule.severity.model_copy(update=BLOCK)})
            for rule in FORM.rules
        )
    }
)
SCHEMA: dict[str, Any] = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "required": ["kind"],
    "properties": {
        "kind": {"enum": ["rock", "sand", "clay"]},
        "mass": {"exclusiveMinimum": 0, "maximum": 50},
        "store": {"enum": ["north", "south"]},
    },
    "if": {
        "anyOf": [
            {"properties": {"kind": {"const": "sand"}}, "required": ["kind"]},
            {
                "properties": {"mass": {"exclusiveMinimum": 10}},
                "required": ["mass"],
                "not": {"properties": {"sealed": {"const": True}}, "required": ["sealed"]},
            },
        ]
    },
    "then": {"required": ["grain"]},
}
RECORDS = st.fixed_dictionaries(
    {},
    optional={
        "kind": st.sampled_from(["rock", "sand", "clay"]),
        "mass": st.integers(-2, 52),
        "grain": st.integers(0, 3),
        "store": st.sampled_from(["north", "south", "east"]),
        "sealed": st.booleans(),
    },
)
COMPILED = compile_ruleset(RuleSet(forms=(FORM,)), form="sample")
VALIDATOR = Draft202012Validator(SCHEMA)


@settings(max_examples=few(300))
@given(RECORDS)
def test_the_engine_accepts_and_refuses_as_json_schema_does(record):
    verdict = COMPILED.judge(record, moment="save", today=date(2026, 6, 12))
    assert verdict.may_pass is VALIDATOR.is_valid(record)
