"""Durations and quantities, from a stored record to a filter, a collision, a file and back.

That 2,500 mg are 2.5 g: SI Brochure, 9th edition, table 7.
"""

from urllib.parse import urlencode

import pytest

from thistlequartz.server.records.models import Record

from .conftest import SMALL_THING, released_with

pytestmark = pytest.mark.django_db
FIELDS = [
    {"key": "dose", "label": "Dose", "type": "quantity", "unit": "g", "units": ["mg", "kg"]},
    {"key": "stay", "label": "Stay", "type": "duration", "finest": "hour"},
]
ONCE = {
    "kind": "unique",
    "key": "dose_once",
    "name": "A dose stands once",
    "targets": ["dose"],
    "severity": {"entry": "none", "save": "block", "submit": "block"},
}


@pytest.fixture
def measured(draft):
    released_with(ONCE, fields=FIELDS)
    return draft


def stored(clerk, **values):
    return clerk.post(f"{SMALL_THING}/records", {"values": values})


def test_a_quantity_is_stored_as_given_and_claimed_as_what_it_is(measured, clerk):
    first = stored(clerk, mark="m", dose="2500 mg", stay="2 days 4 h")
    assert first.status_code == 201, first.content
    record = Record.objects.get(form=measured, number=first.json()["number"])
    assert record.values["dose"] == "2500 mg"
    assert record.values["stay"] == "P2DT4H"
    again = stored(clerk, mark="n", dose="2.5")
    assert again.status_code == 422, again.content
    assert "Dose" in again.content.decode()
    assert stored(clerk, mark="n", dose="2.6").status_code == 201


def test_measured_fields_are_filtered_by_their_values(measured, clerk, steward):
    numbers = {
        dose: stored(clerk, mark="m", dose=dose, stay=stay).json()["number"]
        for dose, stay in (("0.002 kg", "5 h"), ("2500 mg", "1 day"), ("30", "-2 h"))
    }

    def found(where):
        listed = steward.get(f"{SMALL_THING}/records?{urlencode({'where': where})}").json()
        return {one["number"] for one in listed["records"]}

    assert found("dose~from~2.2 g") == {numbers["2500 mg"], numbers["30"]}
    assert found("dose~is~2 g") == {numbers["0.002 kg"]}
    assert found("stay~to~20 h") == {numbers["0.002 kg"], numbers["30"]}
