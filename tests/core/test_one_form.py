"""What means the same has one form: characters, references, sets of choices."""

import unicodedata

import pytest

from thistlequartz.core.judging import Circumstances, KnownRecords

from .conftest import TODAY, compiled_form, result

COMPOSED = "Caf\u00e9"
DECOMPOSED = unicodedata.normalize("NFD", COMPOSED)
"""Unicode Standard Annex 15: both are the same text; NFC is the first."""


@pytest.mark.parametrize("written", [COMPOSED, DECOMPOSED])
@pytest.mark.parametrize("entered", [COMPOSED, DECOMPOSED])
def test_composed_and_decomposed_characters_are_equal_everywhere(written, entered):
    fields = [
        {"key": "kind", "type": "choice", "choices": [{"code": written, "label": written}]},
        {"key": "name", "type": "text"},
    ]
    rules = [
        {"kind": "allowed_values", "targets": ["name"], "values": [written]},
        {"kind": "cross_field", "targets": ["name"], "must": f'name = "{written}"'},
        {"kind": "cross_field", "targets": ["kind"], "must": f'kind in ("{written}")'},
        {"kind": "format", "targets": ["name"], "pattern": f"{written}+"},
        {"kind": "cross_field", "targets": ["name"], "must": r'name = "Caf\u0065\u0301"'},
    ]
    form = compiled_form(fields, [*rules[:4]])
    verdict = form.judge({"kind": entered, "name": entered}, moment="submit", today=TODAY)
    assert [one.status for one in verdict.results] == ["satisfied"] * 4
    assert verdict.stores == {"kind": COMPOSED, "name": COMPOSED}
    escaped = compiled_form(fields, [rules[4]])
    assert (
        result(escaped.judge({"name": entered}, moment="submit", today=TODAY)).status == "satisfied"
    )


@pytest.mark.parametrize("entered", ["7", "07", "007", " 7 ", 7])
def test_a_reference_has_one_form(entered):
    fields = [{"key": "lender", "type": "reference", "form": "form"}]
    rule = {"kind": "cross_field", "targets": ["lender"], "must": 'lender = "7"'}
    form = compiled_form(fields, [rule])
    verdict = form.judge({"lender": entered}, moment="submit", today=TODAY)
    assert verdict.stores == {"lender": "7"}
    assert result(verdict).status == "satisfied"


def test_records_that_refer_to_the_same_one_are_not_unique():
    fields = [{"key": "lender", "type": "reference", "form": "form"}]
    form = compiled_form(fields, [{"kind": "unique", "targets": ["lender"]}])
    records = [{"lender": "1"}, {"lender": "01"}, {"lender": "2"}]
    known = KnownRecords(form, records, Circumstances(TODAY))
    statuses = [
        result(form.judge(values, moment="submit", today=TODAY, lookup=known.seen_by(place))).status
        for place, values in enumerate(records)
    ]
    assert statuses == ["violated", "violated", "satisfied"]


@pytest.mark.parametrize(
    ("must", "status"),
    [
        ('uses = ["y", "x"]', "satisfied"),
        ('uses = ["x", "y"]', "satisfied"),
        ('["y", "x", "x"] = uses', "satisfied"),
        ('uses != ["y", "x"]', "violated"),
        ('uses = ["x"]', "violated"),
        ('uses = ["x", "y", "z"]', "violated"),
        ("uses = others", "satisfied"),
        ('["x", "y"] = ["y", "x"]', "violated"),
    ],
)
def test_several_choices_are_a_set_and_lists_are_not(must, status):
    choices = [{"code": one, "label": one} for one in "xyz"]
    fields = [
        {"key": "uses", "type": "choices", "choices": choices},
        {"key": "others", "type": "choices", "choices": choices[::-1]},
    ]
    form = compiled_form(fields, [{"kind": "cross_field", "targets": ["uses"], "must": must}])
    values = {"uses": ["y", "x"], "others": ["x", "y"]}
    assert result(form.judge(values, moment="submit", today=TODAY)).status == status
    screened = form.screener(today=TODAY).screen(form.read(values))
    assert bool(screened.violations) is (status == "violated")
