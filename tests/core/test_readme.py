"""The example in the README holds."""

import doctest

import pytest

from thistlequartz import core


def test_readme_example_holds() -> None:
    tried = doctest.testmod(core)
    assert tried.attempted > 5
    assert tried.failed == 0


def test_unusable_rule_is_unfinished_or_refused_when_strict() -> None:
    document = {
        "key": "sample",
        "name": "Sample",
        "fields": [{"key": "mass", "label": "Mass", "type": "decimal"}],
        "rules": [
            {"key": "odd", "kind": "cross_field", "targets": ["mass"], "must": 'mass = "x"'},
            {"key": "lost", "kind": "mandatory", "targets": ["gone"]},
            {"key": "fine", "kind": "mandatory", "targets": ["mass"]},
        ],
    }
    ruleset = core.RuleSet.model_validate({"forms": [document]})
    form = core.compile_ruleset(ruleset, form="sample")
    assert set(form.problems) == {"odd", "lost"}
    with pytest.raises(core.UnfinishedRules, match=r"sample, rules\.odd\.must: ") as refused:
        core.compile_ruleset(ruleset, form="sample", strict=True)
    assert [one.place for one in refused.value.problems] == [
        "rules.odd.must",
        "rules.lost.targets.0",
    ]
