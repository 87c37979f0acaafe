"""A revision applied to one version of a form gives the other, whatever the two are.

The oracle is the documents themselves: what pydantic reads and compares, and nothing of ours.
"""

from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.versions.part_differences import apply, revision

from .generators import document_of, rules

LABELS = st.sampled_from(["Other name", "Mass", "Été"])
LIST = {"key": "grades", "label": "Grades", "choices": [{"code": "a", "label": "A"}]}


@st.composite
def versions(draw: st.DrawFn) -> tuple[RuleSet, RuleSet]:
    """Two versions of one form: rules, fields and settings come, go, change and move."""
    given_rules = draw(rules())
    first = document_of(given_rules)
    whole: dict[str, Any] = first.model_dump(mode="json")
    form = whole["forms"][0]
    for one in draw(st.lists(st.sampled_from(form["rules"]), max_size=4)):
        change = draw(st.sampled_from(["name", "enabled", "message", "severity", "targets"]))
        if change == "name":
            one["name"] = draw(LABELS)
        elif change == "enabled":
            one["enabled"] = not one["enabled"]
        elif change == "message" and "message" in one:
            one["message"] = draw(LABELS)
        elif change == "severity" and "severity" in one:
            one["severity"]["save"] = draw(st.sampled_from(["none", "note", "warn", "block"]))
        elif change == "targets":
            one["targets"] = one["targets"][::-1]
    keep = draw(st.integers(0, len(form["rules"])))
    added = [{**one, "key": f"new_{place}"} for place, one in enumerate(form["rules"][:2])]
    form["rules"] = draw(st.permutations([*form["rules"][:keep], *added]))
    fields = st.sampled_from(form["fields"])
    for one in draw(st.lists(fields, max_size=3, unique_by=lambda one: str(one["key"]))):
        one["label"] = draw(LABELS)
        if one.get("choices"):
            one["choices"] = [*one["choices"][1:], {"code": "new", "label": "New"}]
    form["fields"] = draw(st.permutations(form["fields"]))
    form["purpose"] = draw(st.sampled_from(["", "For another purpose."]))
    whole["choice_lists"] = draw(st.sampled_from([[], [LIST]]))
    return first, RuleSet.model_validate(whole)


@settings(max_examples=few(20))
@given(versions())
def test_a_revision_applied_gives_the_other_version(two: tuple[RuleSet, RuleSet]) -> None:
    for before, after in (two, two[::-1]):
        changes = revision(before, after, "form")
        assert apply(changes, before, "form") == after
        said = [one for one in changes if one.act == "changed"]
        assert all(one.details and one.name for one in said), "each change says what is different"
        assert all(detail.before != detail.after for one in said for detail in one.details)
    assert revision(two[0], two[0], "form") == ()


def test_a_bound_that_leaves_its_value_out_is_told_as_people_say_it() -> None:
    rule = {
        "kind": "range",
        "targets": ["mass"],
        "lower": {"value": "1"},
        "upper": {"value": "90"},
        "severity": {"save": "warn"},
    }
    before = document_of([rule])
    stricter = {"upper": {"value": "90", "inclusive": False}, "severity": {"save": "block"}}
    (change,) = revision(before, document_of([{**rule, **stricter}]), "form")
    assert [tuple(one) for one in change.details] == [
        ("what it says", "Mass must be from 1 to 90.", "Mass must be at least 1 and less than 90."),
        ("on saving", "warns", "blocks"),
    ]
