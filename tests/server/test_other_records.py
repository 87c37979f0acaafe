"""What is asked of other records is answered by the index as by reading every one of them."""

import random
from datetime import date, timedelta
from decimal import Decimal

import pytest

from tests.conformance.test_rows import so
from thistlequartz.core.engines.rows import (
    EVERY,
    RowComparison,
    RowFilled,
    RowMembership,
    all_of,
    any_of,
)
from thistlequartz.core.judging import NUMBER, Records
from thistlequartz.core.language import Declaration
from thistlequartz.core.types import DateType
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.records.lookup import DatabaseLookup
from thistlequartz.server.records.models import IndexedField, IndexedValue, Record
from thistlequartz.server.records.release_preparation import prepare_released_forms
from thistlequartz.server.records.services import desk_of
from thistlequartz.server.records.value_index import index_fields

from .conftest import Caller
from .test_what_records_keep import LOANS, loan

pytestmark = pytest.mark.django_db
PIECES = ("QH-P-000001", "QH-P-000002", "qh-p-000002", "QH-P-000002 ", "Ä" * 200)
QUESTIONS = 250
DAY = date(2026, 1, 1)


def some_records(count: int, chance: random.Random) -> DraftForm:
    """Stored loans with whatever values, as an import might have left them, and their index."""
    desk = desk_of("loan_out")
    shared = {"form": desk.draft, "outcome": "clear", "release": desk.release}
    Record.objects.bulk_create(
        Record(number=1_000 + place, values=invented(chance), **shared) for place in range(count)
    )
    IndexedField.objects.filter(form=desk.draft).delete()
    IndexedValue.objects.filter(form=desk.draft).delete()
    prepare_released_forms()
    return desk.draft


def invented(chance: random.Random) -> dict[str, object]:
    values = {
        "piece": chance.choice(PIECES),
        "lent_from": (DAY + timedelta(days=chance.randrange(40))).isoformat(),
        "lent_to": (DAY + timedelta(days=chance.randrange(40))).isoformat(),
        "loan_days": chance.choice(["-3", "0", "0.5", "12", "120", "1000000"]),
        "crate_needed": chance.random() < 0.5,
        "purpose": chance.choice(["research", "exhibition", "what?"]),
    }
    return {key: value for key, value in values.items() if chance.random() < 0.8}


def question(chance: random.Random, depth: int = 2):
    """Something that can be asked of other records."""
    if depth and chance.random() < 0.6:
        join = chance.choice([all_of, any_of])
        return join([question(chance, depth - 1) for _ in range(chance.choice([2, 3]))])
    relation = chance.choice(["=", "<", "<=", ">", ">="])
    return chance.choice(
        [
            RowComparison("piece", relation, chance.choice(PIECES).strip()),
            RowComparison("lent_from", relation, DAY + timedelta(days=chance.randrange(40))),
            RowComparison(
                "loan_days", relation, Decimal(chance.choice(["-2", "0", "0.5", "120.0"]))
            ),
            RowComparison("crate_needed", "=", chance.random() < 0.5),
            RowMembership("purpose", frozenset({"research", "loan"})),
            RowFilled(chance.choice(["piece", "lent_to", "crate_needed"]), chance.random() < 0.5),
        ]
    )


def test_the_index_finds_what_reading_every_record_finds():
    chance = random.Random(12)
    some_records(60, chance)
    fields = desk_of("loan_out").compiled.fields
    lookup = DatabaseLookup("loan_out")
    every = list(Records(lookup, fields).others(frozenset(fields)))
    assert len(every) >= 60
    narrowed = 0
    for _ in range(QUESTIONS):
        where = question(chance)
        found = {one[NUMBER] for one in lookup.others(where, fields)}
        # A text that was cut in the index is told from those that begin alike by reading it.
        assert found >= {one[NUMBER] for one in every if so(where, one)}, where
        long = {one[NUMBER] for one in every if len(one["other.piece"] or "") > 100}
        assert found - long <= {one[NUMBER] for one in every if so(where, one)}, where
        narrowed += len(found) < len(every)
    assert narrowed > QUESTIONS / 2


def test_index_is_not_asked_for_a_field_of_another_type_in_the_draft():
    some_records(5, random.Random(1))
    fields = desk_of("loan_out").compiled.fields
    lookup, where = DatabaseLookup("loan_out"), RowComparison("piece", "=", "nothing like it")
    every = Record.objects.filter(form__key="loan_out").count()
    assert list(lookup.others(where, fields)) == []
    other = {**fields, "piece": Declaration("Piece", DateType())}
    assert len(list(lookup.others(where, other))) == every
    assert len(list(lookup.others(EVERY, fields))) == every


def test_what_is_stored_later_is_found_by_its_new_values_only():
    clerk = Caller("clerk")
    number = clerk.post(LOANS, {"values": loan(approved_by="I. Voss")}).json()["number"]
    values = loan(piece="QH-P-000777", approved_by="")
    changed = clerk.send("PUT", f"{LOANS}/{number}", {"values": values, "revision": 1})
    assert changed.status_code == 200
    rows = IndexedValue.objects.filter(record__form__key="loan_out", record__number=number)
    held = dict(rows.values_list("field", "value"))
    assert held["piece"] == "tQH-P-000777"
    assert held["lent_to"] == "d2026-03-10"
    assert "approved_by" not in held


def test_a_release_indexes_anew_what_is_read_otherwise():
    draft = some_records(4, random.Random(2))
    IndexedField.objects.filter(form=draft, key="piece").update(type="number/number")
    IndexedValue.objects.filter(form=draft, field="piece").update(value="n5")
    assert index_fields(draft, desk_of("loan_out").compiled) == 1
    assert IndexedField.objects.get(form=draft, key="piece").type == "text/text"
    values = IndexedValue.objects.filter(form=draft, field="piece").values_list("value", flat=True)
    assert all(value.startswith("t") for value in values)
    assert index_fields(draft, desk_of("loan_out").compiled) == 0


def test_a_question_of_very_many_parts_is_narrowed_by_some_of_them():
    some_records(60, random.Random(3))
    fields = desk_of("loan_out").compiled.fields
    lookup = DatabaseLookup("loan_out")
    days = [RowComparison("lent_from", ">=", DAY - timedelta(days=back)) for back in range(100)]
    where = all_of([*days, RowComparison("piece", "=", PIECES[0])])
    found = list(lookup.others(where, fields))
    every = list(Records(lookup, fields).others(frozenset(fields)))
    assert len(found) >= sum(so(where, one) for one in every)
    assert {one["piece"] for one in found} == {PIECES[0]}
    assert len(list(lookup.others(any_of([RowFilled("piece", True), *days]), fields))) == len(every)
