"""Short ways to build a form and judge by it, through the public interfaces."""

from collections.abc import Callable
from datetime import date
from typing import Any

import pytest

from thistlequartz.core.judging import CompiledForm, RuleResult, Verdict, compile_ruleset
from thistlequartz.core.kinds import EFFECT_KINDS
from thistlequartz.core.ruleset import Form, RuleSet

TODAY = date(2026, 6, 12)
ALL = {"entry": "warn", "save": "warn", "submit": "block"}

Judge = Callable[..., Verdict]


def form_of(fields: list[dict[str, Any]], rules: list[dict[str, Any]], **parts: Any) -> Form:
    """A form whose fields and rules need say only what matters to the test."""
    return Form.model_validate(
        {
            "key": "form",
            "name": "Form",
            "fields": [{"label": field["key"].capitalize(), **field} for field in fields],
            "rules": [
                {
                    "key": f"r{number}",
                    "name": f"Rule {number}",
                    **({} if rule["kind"] in EFFECT_KINDS else {"severity": ALL}),
                    **rule,
                }
                for number, rule in enumerate(rules, 1)
            ],
            **parts,
        }
    )


def compiled_form(
    fields: list[dict[str, Any]], rules: list[dict[str, Any]], **parts: Any
) -> CompiledForm:
    """A form without problems, ready to judge."""
    compiled = compile_ruleset(RuleSet(forms=(form_of(fields, rules, **parts),)), form="form")
    assert compiled.problems == {}
    assert compiled.form_problems == ()
    return compiled


@pytest.fixture
def judging() -> Callable[..., Judge]:
    """Give fields and rules, get a function from values to the verdict on submitting."""

    def prepare(fields: list[dict[str, Any]], rules: list[dict[str, Any]]) -> Judge:
        compiled = compile_ruleset(RuleSet(forms=(form_of(fields, rules),)), form="form")

        def judge(moment: Any = "submit", touched: Any = (), **values: Any) -> Verdict:
            return compiled.judge(values, moment=moment, today=TODAY, touched=touched)

        return judge

    return prepare


def result(verdict: Verdict, rule: str = "r1") -> RuleResult:
    """The result of one rule."""
    return next(one for one in verdict.results if one.rule == rule)
