"""The bench: circumstances, traces, bands, maps, ways through, and what changed between two tries."""

from typing import Any

import pytest

from .conftest import FORM, Caller, demand

TODAY = "2026-06-12"
LOAN = "/api/v1/forms/loan_out"
GOOD = {"accession_number": "QH-P-041672", "scientific_name": "Thymus serpyllum"}


def attempt(**more: Any) -> dict[str, Any]:
    return {"values": GOOD, "as_of": TODAY, **more}


def statuses(judgement: dict[str, Any], moment: str = "save") -> dict[str, str]:
    return {one["rule"]: one["status"] for one in judgement[moment]["results"]}


def test_the_bench_knows_the_draft_its_releases_layouts_and_roles(steward: Caller) -> None:
    draft = steward.get(f"{FORM}/bench").json()
    assert [one["number"] for one in draft["releases"]] == [1]
    assert {"steward", "clerk"} <= set(draft["roles"])
    assert "elevation_low" in draft["ordered"]
    assert "scientific_name" not in draft["mapped"]
    released = steward.get(f"{FORM}/bench?release=1").json()
    assert {one["key"] for one in released["rules"]} != {one["key"] for one in draft["rules"]}
    assert steward.get(f"{FORM}/bench?release=9").status_code == 404


def test_a_draft_is_tried_beside_the_release_it_would_replace(steward: Caller) -> None:
    rule = demand(when=None, targets=["locality"])
    assert steward.post(f"{FORM}/rules", {"rule": rule}).status_code == 201
    draft = steward.post(f"{FORM}/bench", attempt()).json()
    released = steward.post(f"{FORM}/bench", attempt(release=1)).json()
    assert statuses(draft)["holotypes"] == "violated"
    assert "holotypes" not in statuses(released)
    two = {"before": attempt(release=1), "after": attempt()}
    words = [one["words"] for one in steward.post(f"{FORM}/bench/changes", two).json()]
    assert "“Holotypes name their determiner” is there now." in words
    off = steward.post(f"{FORM}/bench", attempt(off=["holotypes"])).json()
    assert statuses(off)["holotypes"] == "disabled"
    one_field = {"before": attempt(), "after": attempt(layout=None, as_of="2026-06-13")}
    for pair in (one_field, {"before": attempt(), "after": attempt()}):
        assert steward.post(f"{FORM}/bench/changes", pair).status_code == 200
    two = {"before": attempt(), "after": attempt(off=["holotypes"])}
    words = [one["words"] for one in steward.post(f"{FORM}/bench/changes", two).json()]
    assert "“Holotypes name their determiner” is switched off." in words
    assert "Submitting is clear now, was blocked." in words


def test_the_day_the_event_and_the_record_before_count(steward: Caller) -> None:
    rule = {
        "kind": "cross_field",
        "key": "not_renamed",
        "name": "A name is not changed lightly",
        "targets": ["scientific_name"],
        "must": "scientific_name = stored.scientific_name",
        "scope": {"events": ["update"]},
        "in_force_from": "2026-07-01",
        "severity": {"save": "warn", "submit": "warn"},
    }
    assert steward.post(f"{FORM}/rules", {"rule": rule}).status_code == 201

    def said(**more: Any) -> str:
        judgement = steward.post(f"{FORM}/bench", attempt(**more)).json()
        return statuses(judgement)["not_renamed"]

    before = {"stored": {"scientific_name": "Thymus vulgaris"}, "event": "update"}
    assert said(as_of="2026-07-01") == "out_of_scope"
    assert said(as_of="2026-06-30", **before) == "out_of_scope"
    assert said(as_of="2026-07-01", **before) == "violated"
    number = steward.get(f"{FORM}/records").json()["records"][0]["number"]
    assert said(as_of="2026-07-01", event="update", number=number) == "violated"
    assert steward.post(f"{FORM}/bench", attempt(event="update", number=99_999)).status_code == 404


def test_a_trace_shows_each_part_of_a_condition_with_its_value(steward: Caller) -> None:
    rule = demand(when='type_status = "holotype" or type_status = "isotype"')
    assert steward.post(f"{FORM}/rules", {"rule": rule}).status_code == 201
    body = {"rule": "holotypes", "request": attempt(values={**GOOD, "type_status": "isotype"})}
    trace = steward.post(f"{FORM}/bench/trace", body).json()
    assert trace["status"] == "violated"
    assert [part["answer"] for part in trace["when"]["parts"]] == ["no", "yes"]
    assert trace["values"]["determined_by"] == "blank"
    body["rule"] = "nowhere"
    assert steward.post(f"{FORM}/bench/trace", body).status_code == 404


def test_a_band_and_a_map_tell_their_exact_bounds(steward: Caller) -> None:
    body = {"field": "elevation_low", "request": attempt()}
    band = steward.post(f"{FORM}/bench/band", body).json()
    # BDQ Core defaults: -430 to 8,850 metres, both included
    blocked = [one["words"] for one in band["bands"] if one["submit"] == "blocked"]
    assert blocked == ["up to −431 m", "8,851 m and more"]
    assert band["exact"]
    assert band["standing"] == 0
    low, high = [one for one in band["stops"] if one["between"] and one["band"] == 2][3:5]
    body["request"]["values"] = {**GOOD, "elevation_low": str(int(low["value"]) + 1)}
    beside = steward.post(f"{FORM}/bench/band", body).json()
    assert low["at"] < beside["here"] < high["at"], "the handle stands under its own place"
    assert beside["words"] == f"{int(low['value']) + 1:,} m".replace("-", "−")
    assert {"8850", "8851", "-430", "-431"} <= {one["value"] for one in band["stops"]}
    map_ = steward.post(
        f"{FORM}/bench/map",
        {"across": "elevation_low", "up": "elevation_high", "request": attempt()},
    ).json()
    assert (map_["across"]["by"], map_["exact"]) == ("value", True)
    assert [one["words"] for one in map_["borders"] if one["words"]] == [
        "Elevation from = Elevation to"
    ]
    for region in map_["regions"]:
        pair = {"elevation_low": region["across"], "elevation_high": region["up"]}
        there = steward.post(f"{FORM}/bench", attempt(values={**GOOD, **pair})).json()
        assert there["submit"]["outcome"] == region["submit"]
    body["field"] = "scientific_name"
    assert steward.post(f"{FORM}/bench/band", body).status_code == 404


@pytest.mark.parametrize("moment", ["save", "submit"])
def test_the_ways_through_go_through(steward: Caller, moment: str) -> None:
    empty = attempt(values={})
    assert steward.post(f"{FORM}/bench", empty).json()[moment]["outcome"] == "blocked"
    found = steward.post(f"{FORM}/bench/ways", {"moment": moment, "request": empty}).json()
    assert (found["fewest"], found["nothing"], found["why"]) == (True, False, "")
    assert found["ways"]
    for way in found["ways"]:
        there = steward.post(f"{FORM}/bench", attempt(values=way["changes"])).json()
        assert there["save"]["outcome"] != "blocked"
        assert there[moment]["outcome"] != "blocked"
        assert len(way["words"]) == len(way["changes"])


def test_what_nothing_lets_through_names_the_rules_that_stop_it(steward: Caller) -> None:
    for key, must in (("low", "elevation_low < 100"), ("high", "elevation_low > 200")):
        rule = {"kind": "cross_field", "key": key, "name": f"Rule {key}", "must": must,
                "targets": ["elevation_low"], "when": "locality != null",
                "severity": {"entry": "none", "save": "block", "submit": "block"}}  # fmt: skip
        assert steward.post(f"{FORM}/rules", {"rule": rule}).status_code == 201
    needed = {"kind": "mandatory", "key": "height", "name": "Height", "severity": rule["severity"],
              "targets": ["elevation_low", "locality"]}  # fmt: skip
    assert steward.post(f"{FORM}/rules", {"rule": needed}).status_code == 201
    body = {"moment": "save", "request": attempt(values={"locality": "By the mill"})}
    found = steward.post(f"{FORM}/bench/ways", body).json()
    assert (found["nothing"], found["ways"]) == (True, [])
    assert [one["name"] for one in found["stopped_by"]] == ["Rule low", "Rule high", "Height"]


def test_where_the_solver_cannot_say_ways_are_searched_for(steward: Caller, monkeypatch) -> None:
    monkeypatch.setattr("thistlequartz.workers.corrections.WITHIN", 0.0)
    body = {"moment": "save", "request": attempt(values={})}
    found = steward.post(f"{FORM}/bench/ways", body).json()
    assert found["ways"]
    assert (found["fewest"], found["why"]) == (False, "it took more time or memory than it may")


def test_unknown_fields_and_broken_circumstances_are_told(steward: Caller) -> None:
    wrong = steward.post(f"{FORM}/bench", attempt(values={"elevation_lo": 1}))
    assert wrong.status_code == 422
    assert wrong.json()["errors"][0]["remedy"] == "Did you mean “elevation_low”?"
    assert steward.post(f"{FORM}/bench", attempt(as_of="12 June")).status_code == 422
    assert steward.post(f"{FORM}/bench", attempt(entry_point="moon")).status_code == 422


def test_a_kept_case_knows_the_record_it_refers_to(steward: Caller) -> None:
    borrower = steward.get("/api/v1/forms/borrower/records").json()["records"][0]["number"]
    body = {
        "name": "Lent to a borrower who is there",
        "request": {"values": {"borrower": str(borrower)}, "as_of": TODAY},
    }
    kept = steward.post(f"{LOAN}/cases", body).json()
    (other,) = [one for one in kept["case"]["others"] if one["form"] == "borrower"]
    assert other["number"] == str(borrower)
    assert other["values"]
