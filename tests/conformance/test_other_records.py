"""Rules about other records see these as the form settles them: at the public interface, for the rows of a
file by the command line, and when the impact of a draft on stored records is worked out.

The oracle settles each record by itself and compares what they hold, pair by pair.
"""

import contextlib
import json
import tempfile
from collections import Counter
from datetime import date
from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import ALIKE, few
from thistlequartz.cli import main
from thistlequartz.core.impact import ImpactAnalysis, ImpactRecord
from thistlequartz.core.judging import Circumstances, CompiledForm, KnownRecords, compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .test_impact import NOW, Neighbours

seen: Counter[str] = Counter()
TODAY = date(2026, 6, 12)
FIELDS = [
    {"key": "shelf", "label": "Shelf", "type": "text"},
    {"key": "place", "label": "Place", "type": "whole_number"},
    {"key": "mark", "label": "Mark", "type": "text"},
    {"key": "open", "label": "Open", "type": "yes_no"},
]
BLOCK = {"save": "block", "submit": "block"}
EFFECTS = st.sampled_from(
    [
        {"kind": "derive", "targets": ["mark"], "value": 'shelf + "-" + string(place)'},
        {"kind": "derive", "targets": ["mark"], "value": "upper case(shelf)", "when": "place > 1"},
        {"kind": "close", "targets": ["mark"], "when": "open = true"},
        {"kind": "open", "targets": ["place"], "when": "open = false"},
        {"kind": "start", "targets": ["mark"], "value": "a"},
        {"kind": "start", "targets": ["place"], "formula": "1 + 1"},
        {"kind": "lock", "targets": ["shelf"], "when": "place = 2"},
    ]
)
LOOKING = st.sampled_from(
    [
        {"kind": "unique", "targets": ["mark"]},
        {"kind": "unique", "targets": ["shelf", "place"]},
        {"kind": "elsewhere", "targets": ["mark"], "no_other": "other.mark = mark"},
        {"kind": "elsewhere", "targets": ["place"], "no_other": "other.place = place and "
         "other.open = open"},
    ]
)  # fmt: skip
RECORDS = st.lists(
    st.fixed_dictionaries(
        {},
        optional={
            "shelf": st.sampled_from(["a", "A", "b", ""]), "place": st.sampled_from(["1", "2"]),
            "mark": st.sampled_from(["a", "b", "a-1"]), "open": st.sampled_from(["yes", "no"]),
        },
    ),
    min_size=2, max_size=4,
)  # fmt: skip


def form_of(rules: list[dict[str, Any]]) -> RuleSet:
    named = [
        {"key": f"r{place}", "name": f"R {place}", **one,
         **({"severity": BLOCK} if one["kind"] in ("unique", "elsewhere") else {})}
        for place, one in enumerate(rules)
    ]  # fmt: skip
    form = {"key": "form", "name": "Form", "fields": FIELDS, "rules": named}
    return RuleSet.model_validate({"forms": [form]})


def alike(values: dict[str, Any], other: dict[str, Any], looking: dict[str, Any]) -> bool:
    """Whether a rule of those above finds its record in another one."""
    if looking["kind"] == "unique":
        pairs = [(values[key], other[key]) for key in looking["targets"]]
        return all(
            None not in pair and str(pair[0]).casefold() == str(pair[1]).casefold()
            for pair in pairs
        )
    return all(values[key] == other[key] for key in read_by(looking))


def read_by(looking: dict[str, Any]) -> list[str]:
    """The fields of the record itself that such a rule reads; a blank leaves nothing to check."""
    if looking["targets"] == ["place"]:
        return ["place", "open"]
    return list(looking["targets"])


def expected(form: CompiledForm, settled: list[Any], looking: dict[str, Any]) -> list[bool]:
    """Of each record, whether the rule about others is violated."""
    held = [{key: one.value_of(key) for key in form.fields} for one in settled]
    found = []
    for place, (one, values) in enumerate(zip(settled, held, strict=True)):
        asked = [key for key in looking["targets"] if key not in one.closed]
        filled = all(values[key] is not None for key in read_by(looking))
        others = held[:place] + held[place + 1 :]
        told = any(alike(values, other, looking) for other in others)
        found.append(told and filled and bool(asked))
    return found


@settings(max_examples=few(80), derandomize=ALIKE)
@given(st.lists(EFFECTS, max_size=3, unique_by=repr), LOOKING, RECORDS)
def others_are_seen_as_they_are_settled(
    effects: list[dict[str, Any]], looking: dict[str, Any], records: list[dict[str, Any]]
) -> None:
    ruleset = form_of([*effects, looking])
    form = compile_ruleset(ruleset, form="form")
    if form.problems:
        return
    rule = f"r{len(effects)}"
    new = Circumstances(TODAY)
    settled = [form.settled(form.read(one), new) for one in records]
    wanted = expected(form, settled, looking)
    known = KnownRecords(form, records, new)
    for place, one in enumerate(records):
        verdict = form.judge(one, moment="save", today=TODAY, lookup=known.seen_by(place))
        told = next(each for each in verdict.results if each.rule == rule)
        assert (told.status == "violated") == wanted[place]
        seen[f"{looking['kind']} {told.status == 'violated'}"] += 1
    assert by_file(ruleset, records) == wanted
    judged_by_a_draft(effects, looking, records)


def by_file(ruleset: RuleSet, records: list[dict[str, Any]]) -> list[bool]:
    """Which rows the command line says are blocked."""
    with tempfile.TemporaryDirectory() as folder:
        rules, rows = Path(folder, "rules.json"), Path(folder, "rows.jsonl")
        rules.write_text(ruleset.model_dump_json())
        rows.write_text("".join(json.dumps(one) + "\n" for one in records))
        out = Path(folder, "out")
        with out.open("w") as told, contextlib.redirect_stdout(told):
            main(["judge", str(rules), str(rows), "--moment", "save", "--json",
                  "--today", TODAY.isoformat()])  # fmt: skip
        return [json.loads(line)["outcome"] == "blocked" for line in out.read_text().splitlines()]


def judged_by_a_draft(
    effects: list[dict[str, Any]], looking: dict[str, Any], records: list[dict[str, Any]]
) -> None:
    """Stored by a version without these rules, and looked at by one that has them."""
    before, after = form_of([]), form_of([*effects, looking])
    first, form = (compile_ruleset(one, form="form") for one in (before, after))
    values = [first.canonical(one) for one in records]
    stored = [
        ImpactRecord(place, one, Neighbours(values[:place] + values[place + 1 :]))
        for place, one in enumerate(values)
    ]
    analysis = ImpactAnalysis(before, after, "form", NOW)
    assert len(list(analysis.run(stored))) == len(records)
    at = Circumstances(form.today_at(NOW), NOW, event="update", role="clerk")
    settled = [form.settled(form.read(form.as_entered(one), stored=one), at) for one in values]
    wanted = [place for place, bad in enumerate(expected(form, settled, looking)) if bad]
    assert analysis.impact.newly_refused["save"].numbers == wanted


def test_others_are_seen_as_they_are_settled() -> None:
    others_are_seen_as_they_are_settled()
    assert len(seen) == 4, seen
