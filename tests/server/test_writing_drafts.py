"""Writing drafts without fear: undone, redone, kept unfinished, made from recipes and files."""

import pytest
from django.db import transaction

from .conftest import FORM, Caller, demand

pytestmark = pytest.mark.django_db
LOAN = "/api/v1/forms/loan_out"
MINERAL = "/api/v1/forms/mineral_accession"
PREMIUMS = {"800": "5", "1000": "5", "1001": "10", "5000": "10", "25000": "20", "12000": None}
"""Check values of common practice (from memory): what is proposed for which value."""


def form(caller, address=FORM):
    return caller.get(address).json()


def rules(caller, address=FORM):
    return [view["rule"] for view in form(caller, address)["rules"]]


def said(sentence):
    return "".join(segment["text"] for segment in sentence)


def test_each_kind_of_change_is_undone_and_redone_in_turn(steward):
    def whole():
        view = form(steward)
        parts = [[one["field"] for one in view["fields"]], [one["rule"] for one in view["rules"]]]
        plan = [(line["text"], line["rules"]) for line in view["plan"]]
        return [*parts, plan, view["sheet"]["sections"], view["name"]]

    first = rules(steward)[0]["key"]
    setup = {"revision": 1, "name": "Plants", "sections": [{"key": "all", "label": "All"}]}
    step = {"rules": [{"key": first, "revision": 1, "severity": {"save": "note"}}]}
    order = {"keys": [view["field"]["key"] for view in form(steward)["fields"]][::-1]}
    states = [whole()]
    for method, address, body in (
        ("POST", "rules", {"rule": demand()}),
        ("PATCH", "rules", step),
        ("PUT", "field-order", order),
        ("POST", "rule-removal", {"rules": [{"key": first, "revision": 2}]}),
        ("POST", "plan", {"text": "Names are given.", "rules": ["name_given"]}),
        ("PUT", "setup", setup),
        ("DELETE", "fields/latitude?revision=1&anyway=true", b""),
    ):
        assert steward.send(method, f"{FORM}/{address}", body).status_code < 300, address
        states.append(whole())
    for state in states[-2::-1]:
        assert steward.post(f"{FORM}/undo", {}).status_code == 200
        assert whole() == state
    assert steward.post(f"{FORM}/undo", {}).json()["title"] == "There is nothing to undo."
    for state in states[1:]:
        assert steward.post(f"{FORM}/redo", {}).status_code == 200
        assert whole() == state


def test_undoing_never_takes_back_what_somebody_else_wrote_since(steward, db):
    step = {"rules": [{"key": "name_given", "revision": 1, "severity": {"save": "note"}}]}
    steward.send("PATCH", f"{FORM}/rules", step)
    other = Caller("deputy")
    step["rules"][0].update(revision=2, severity={"save": "block"})
    assert other.send("PATCH", f"{FORM}/rules", step).status_code == 200
    refused = steward.post(f"{FORM}/undo", {})
    assert (refused.status_code, "changed since" in refused.json()["title"]) == (409, True)
    history = steward.get(f"{FORM}/history").json()
    assert [act["person"] for act in history["acts"][:2]] == ["Ingram Solway", "Odile Farrowby"]


def test_a_change_that_did_not_come_about_is_not_taken_for_the_next_one(steward, draft):
    at = f"/api/v1/forms/{draft.key}"
    with transaction.atomic():
        steward.post(f"{at}/fields", {"field": {"type": "text", "key": "more", "label": "More"}})
        assert form(steward, at)["fields"][-1]["field"]["key"] == "more"
        transaction.set_rollback(True)
    rule = demand(key="marked", targets=["mark"], when=None)
    assert steward.post(f"{at}/rules", {"rule": rule}).status_code == 201
    assert [one["key"] for one in rules(steward, at)] == ["marked"]


def test_many_severities_step_in_one_go_and_back_in_one(steward):
    keys = [view["rule"]["key"] for view in form(steward)["rules"] if "severity" in view["rule"]]
    before = rules(steward)
    body = {"rules": [{"key": key, "revision": 1, "severity": {"submit": "warn"}} for key in keys]}
    assert len(steward.send("PATCH", f"{FORM}/rules", body).json()) == len(keys)
    after = {rule["key"]: rule for rule in rules(steward)}
    assert {after[key]["severity"]["submit"] for key in keys} == {"warn"}
    steward.post(f"{FORM}/undo", {})
    assert rules(steward) == before


def test_unparsable_formula_is_unfinished_and_has_no_effect(steward):
    torn = demand(when="type_status = ")
    refused = steward.post(f"{FORM}/rules", {"rule": torn})
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["place"] == "when"
    kept = steward.post(f"{FORM}/rules", {"rule": torn, "unfinished": True}).json()
    assert kept["rule"]["when"] == "type_status ="
    assert "ends too early" in kept["problems"][0]["message"]
    judged = steward.post(f"{FORM}/bench", {"values": {}}).json()["submit"]["results"]
    status = next(one["status"] for one in judged if one["rule"] == torn["key"])
    assert status == "unfinished"


def test_a_message_with_an_unknown_placeholder_is_told_with_the_nearest(steward):
    rule = demand() | {"message": "{labl} is {value}, {nonsense here}"}
    problems = steward.post(f"{FORM}/rules/read", {"rule": rule}).json()["problems"]
    assert [(one["place"], one["remedy"]) for one in problems] == [
        ("message", "Did you mean “{label}”?"),
        ("message", "Double the brace, “{{”, to write one."),
    ]


def test_a_rule_is_tried_while_it_is_written(steward):
    rule = demand() | {"message": "{label} of {accession_number}"}
    body = {"rule": rule, "values": {"type_status": "holotype", "accession_number": "QH-P-000001"}}
    answer = steward.post(f"{FORM}/bench/rule", body).json()
    result = next(
        one for one in answer["judgement"]["submit"]["results"] if one["rule"] == answer["rule"]
    )
    assert (result["status"], result["messages"][0]["text"]) == (
        "violated",
        "Determined by of “QH-P-000001”",
    )
    assert answer["fields"] == ["type_status", "determined_by"]
    assert len(rules(steward)) == len(form(steward)["rules"])


def test_the_bench_keeps_which_rules_were_tried_both_ways(steward):
    def tried():
        views = form(steward)["rules"]
        return next(one["tried"] for one in views if one["rule"]["key"] == "latitude_on_earth")

    assert tried() == "never"
    steward.post(f"{FORM}/bench", {"values": {"latitude": "91"}})
    assert tried() == "violated"
    steward.post(f"{FORM}/bench", {"values": {"latitude": "9"}})
    assert tried() == "both"
    step = {"rules": [{"key": "latitude_on_earth", "revision": 1, "enabled": False}]}
    steward.send("PATCH", f"{FORM}/rules", step)
    assert tried() == "never"


def test_tiers_are_a_table_whose_bounds_meet(steward):
    before = len(rules(steward, LOAN))
    row = {"included": True}
    tiers = {
        "governor": "insured_value", "field": "premium_rate", "title": "Premium", "begin": "0",
        "rows": [
            {"upto": "1 000", "value": "5", **row}, {"upto": "5 000", "value": "10", **row},
            {"upto": "25 000", "value": None, "included": False}, {"upto": "", "value": "20"},
        ],
    }  # fmt: skip
    (table,) = steward.get(f"{LOAN}/tiers").json()
    assert table["findings"] == [
        "2,000 falls in two tiers.",
        "Nothing is proposed between 20,000 and 50,000.",
    ]
    replaced = [
        {"key": view["rule"]["key"], "revision": view["revision"]}
        for view in form(steward, LOAN)["rules"]
        if view["rule"]["key"] in table["rules"]
    ]
    body = {"tiers": tiers, "replaced": replaced}
    stored = steward.send("PUT", f"{LOAN}/tiers", body).json()
    assert len(stored) == 3, stored["errors"]
    assert len(rules(steward, LOAN)) == before - len(replaced) + 3
    (stored,) = steward.get(f"{LOAN}/tiers").json()
    assert [row["upto"] for row in stored["tiers"]["rows"]] == ["1000", "5000", "25000", ""]
    for value, rate in PREMIUMS.items():
        judged = steward.post(f"{LOAN}/bench", {"values": {"insured_value": value}}).json()
        offers = [one["values"]["premium_rate"] for one in judged["save"]["proposals"]]
        assert offers == ([rate] if rate else []), value
    tiers["rows"][1]["upto"] = "900"
    refused = steward.send("PUT", f"{LOAN}/tiers", body | {"replaced": []})
    assert refused.json()["errors"][0]["place"] == "rows.1.upto"


def test_a_recipe_makes_ordinary_rules_of_the_fields_that_are_named(steward):
    answers = {"dates": ["gathered_on", "determined_on", "gathered_on"]}
    reading = steward.post(f"{FORM}/recipes/dates_in_order/read", {"answers": answers}).json()
    assert reading["problems"][0]["message"] == "A field stands here twice."
    answers["dates"].pop()
    body = {"answers": answers}
    reading = steward.post(f"{FORM}/recipes/dates_in_order/read", body).json()
    assert [said(one) for one in reading["sentences"]] == [
        "Determined on must be on or after Gathered on."
    ]
    (key,) = steward.post(f"{FORM}/recipes/dates_in_order", body).json()
    assert rules(steward)[-1]["key"] == key
    assert steward.post(f"{FORM}/recipes/nothing/read", {"answers": {}}).status_code == 404
    # Choices that come from a shared list can be named too.
    body = {"answers": {"choice": ["country"], "text": ["locality"]}}
    shared = next(
        view["field"] for view in form(steward)["fields"] if view["field"]["key"] == "country"
    )
    body["answers"]["other"] = [shared["choices"][0]["code"]]
    reading = steward.post(f"{FORM}/recipes/other_text/read", body).json()
    assert (len(reading["sentences"]), reading["problems"]) == (2, [])


def test_a_rule_is_copied_to_another_form_by_key_and_the_rest_is_asked(steward):
    rule = demand() | {"message": "{determined_by} is not enough."}
    address = f"{MINERAL}/rule-copies/read"
    reading = steward.post(address, {"rule": rule}).json()
    asked = reading["missing"]
    assert "type_status" in asked
    fields = {view["field"]["key"]: view["field"] for view in form(steward, MINERAL)["fields"]}
    text = next(key for key, field in fields.items() if field["type"] == "text")
    names = {key: text for key in asked if key != "type_status"}
    choice = next(key for key, field in fields.items() if field["type"] == "choice")
    code = fields[choice]["choices"][0]["code"]
    rule["when"] = f'type_status = "{code}"'
    body = {"rule": rule, "names": names | {"type_status": choice}}
    reading = steward.post(address, body).json()
    assert (reading["missing"], reading["problems"]) == ([], [])
    assert reading["rule"]["when"] == f'{choice} = "{code}"'


def test_a_form_is_begun_from_a_file_a_copy_and_a_sample(steward):
    rows = "\n".join(f"S-{n:03},{n % 28 + 1}/12/2025,{n}.5,{'ab'[n % 2]}" for n in range(30))
    profile = steward.post("/api/v1/profiles", {"text": f"Sample,Taken,Depth,Kind\n{rows}"}).json()
    columns = profile["columns"]
    assert [one["field"]["type"] for one in columns] == ["text", "date", "decimal", "choice"]
    kinds = [rule["rule"]["kind"] for rule in columns[0]["rules"]]
    assert kinds == ["mandatory", "unique"]
    body = {
        "name": "Samples",
        "fields": [one["field"] for one in columns],
        "rules": [rule["rule"] for one in columns for rule in one["rules"]],
    }
    made = steward.post("/api/v1/forms", body).json()
    assert all(not view["problems"] for view in made["rules"])
    copy = steward.post("/api/v1/forms", {"name": "Samples again", "copy_of": made["key"]}).json()
    assert [view["rule"] for view in copy["rules"]] == [view["rule"] for view in made["rules"]]
    for sample in steward.get("/api/v1/samples").json():
        begun = steward.post("/api/v1/forms", {"name": "New", "sample": sample["key"]}).json()
        assert not begun["problems"]
        assert all(not view["problems"] for view in begun["rules"])
    for text, told in (("", "empty"), ("a,b", "headings only"), ("a,b\n1", "Row 2 has 1 cell,")):
        assert told in steward.post("/api/v1/profiles", {"text": text}).json()["detail"]


def test_the_set_up_is_written_as_a_whole_and_told_what_is_wrong(steward):
    view = form(steward)
    clauses = {"kind": "group", "join": "and", "parts": [
        {"kind": "clause", "field": "latitude", "operator": "has_value"}]}  # fmt: skip
    setup = {
        "revision": view["setup"]["revision"], "name": view["name"], "zone": "Europe/Paris",
        "conditions": [{"key": "placed", "name": "Placed", "condition": "x"}],
        "clauses": {"placed": clauses},
    }  # fmt: skip
    stored = steward.send("PUT", f"{FORM}/setup", setup).json()["setup"]
    (condition,) = stored["conditions"]
    assert (condition["condition"], said(condition["sentence"]), stored["zone"]) == (
        "latitude != null", "Latitude has a value", "Europe/Paris",
    )  # fmt: skip
    stale = steward.send("PUT", f"{FORM}/setup", setup)
    assert (stale.status_code, stale.json()["revision"]) == (409, stored["revision"])
    twice = setup | {"revision": stored["revision"], "zone": "Atlantis", "clauses": {}}
    refused = steward.send("PUT", f"{FORM}/setup", twice)
    assert "IANA time zone" in refused.json()["detail"]


def test_a_shared_list_reaches_every_form_that_uses_it(steward):
    entry = next(one for one in steward.get("/api/v1/choice-lists").json() if one["used_by"])
    choices = entry["choices"]
    choices["choices"].append({"code": "elsewhere", "label": "Elsewhere", "retired": False})
    body = {"choices": choices, "revision": entry["revision"]}
    assert steward.send("PUT", f"{FORM}/choice-lists", body).status_code == 204
    fields = [
        view["field"]
        for key in ("plant_accession", "mineral_accession", "loan_out", "borrower")
        for view in form(steward, f"/api/v1/forms/{key}")["fields"]
        if view["field"].get("choice_list") == choices["key"]
    ]
    assert fields
    assert all(one["choices"][-1]["code"] == "elsewhere" for one in fields)


def test_a_search_finds_forms_fields_rules_and_messages(steward):
    hits = steward.get("/api/v1/search?q=premium").json()
    assert {"field", "rule"} <= {hit["kind"] for hit in hits}
    assert all("premium" in str(hit).lower() for hit in hits)
    assert steward.get("/api/v1/search?q=").json() == []
