"""What the solver finds of small forms, beside what trying every record shows: no false alarm, and
no miss. The oracle is enumeration over the whole domain, which knows nothing of the solver.

The number of forms is small here; `THISTLEQUARTZ_EXAMPLES=5000` in the environment makes it as
large as wanted.
"""

import os
from collections import Counter
from collections.abc import Iterator
from datetime import date
from itertools import product
from typing import Any

from hypothesis import given, note, settings
from hypothesis import strategies as st

from thistlequartz.core.analysis.findings import find
from thistlequartz.core.judging import Circumstances, CompiledForm, compile_ruleset
from thistlequartz.core.judging.judged import Judged
from thistlequartz.core.ruleset import RuleSet

TODAY = date(2026, 6, 12)
EXAMPLES = int(os.environ.get("THISTLEQUARTZ_EXAMPLES", "60"))
DOMAIN: dict[str, list[Any]] = {
    "kind": [None, "a", "b", "c"],
    "yes": [None, True, False],
    "count": [None, -1, 0, 1, 2, 3, 4, 5],
    "more": [None, "x", "y"],
}
"""Numbers are compared with 0 to 4 only, so these stand for all whole numbers."""
FIELDS = [
    {"key": "kind", "label": "Kind", "type": "choice",
     "choices": [{"code": c, "label": c.upper()} for c in "abc"]},
    {"key": "yes", "label": "Yes", "type": "yes_no"},
    {"key": "count", "label": "Count", "type": "whole_number"},
    {"key": "more", "label": "More", "type": "choice",
     "choices": [{"code": c, "label": c.upper()} for c in "xy"]},
]  # fmt: skip
ATOMS = st.sampled_from(
    [
        'kind = "a"', 'kind != "b"', "kind = null", 'kind in ("a", "b")', "yes = true",
        "yes != true", "not(yes)", "count > 1", "count <= 3", "count in [1..3]", "count = null",
        'more = "x"', 'more != "y"', "count < 1",
    ]
)  # fmt: skip
CONDITIONS = st.one_of(
    ATOMS,
    st.tuples(ATOMS, st.sampled_from([" and ", " or "]), ATOMS).map("".join),
)
TARGETS = st.sampled_from(["kind", "yes", "count", "more"])
SEVERITIES = st.sampled_from(
    [{"save": "block"}, {"submit": "block"}, {"save": "warn"}, {"save": "block", "submit": "block"}]
)
CHECKS = st.one_of(
    st.fixed_dictionaries({"kind": st.just("mandatory")}),
    st.fixed_dictionaries({"kind": st.just("cross_field"), "must": CONDITIONS}),
)
EFFECTS = st.fixed_dictionaries({"kind": st.sampled_from(["open", "close", "lock"])})
seen: Counter[str] = Counter()


@st.composite
def forms(draw: st.DrawFn) -> RuleSet:
    rules = []
    for place in range(draw(st.integers(2, 5))):
        effect = draw(st.integers(0, 3)) == 0
        rule = dict(draw(EFFECTS if effect else CHECKS))
        if effect or draw(st.booleans()):
            rule["when"] = draw(CONDITIONS)
        if not effect:
            rule["severity"] = draw(SEVERITIES)
        rules.append({"key": f"r{place}", "name": f"R {place}", "targets": [draw(TARGETS)], **rule})
    form = {"key": "form", "name": "Form", "fields": FIELDS, "rules": rules}
    return RuleSet.model_validate({"forms": [form]})


class Tried:
    """Every record there can be: new, with whatever is entered; or changed, where that matters."""

    def __init__(self, form: CompiledForm) -> None:
        self.form = form
        self.all = list(self._all())
        self.rules = {one.rule.key: one for one in form.rules}

    def _all(self) -> Iterator[Judged]:
        locked = {
            key for one in self.form.rules if one.part == "locking" for key in one.rule.targets
        }
        entered = [DOMAIN[key] if key not in locked else [None] for key in DOMAIN]
        new = Circumstances(TODAY, None, "create", "desk", None, "clerk")
        changed = Circumstances(TODAY, None, "update", "desk", None, "clerk")
        before = [DOMAIN[key] if key in locked else [None] for key in DOMAIN]
        for values in product(*DOMAIN.values()):
            record = self.form.read(dict(zip(DOMAIN, values, strict=True)))
            yield self.form.judged(record, new)
        for values in product(*entered) if locked else ():
            for stored in product(*before):
                held = {k: v for k, v in zip(DOMAIN, stored, strict=True) if v is not None}
                free = dict(zip(DOMAIN, values, strict=True))
                # What is not locked in the end is entered anew, so what was stored is also tried.
                for sent in (free, {**free, **held}):
                    yield self.form.judged(self.form.read(sent, stored=held or {"x": 1}), changed)

    def passing(self, moment: str, without: str | None = None) -> list[Judged]:
        def hard(key: str) -> bool:
            severities = self.rules[key].severities
            return "block" in (
                severities["save"],
                severities["submit"] if moment == "submit" else "",
            )

        return [
            one
            for one in self.all
            if not any(
                finding.status == "broken" and key != without and hard(key)
                for key, finding in one.findings.items()
                if not self.rules[key].is_effect
            )
        ]


def expected(tried: Tried) -> set[tuple[str, str]]:
    """What enumeration finds, by code and rule or field."""
    found = set()
    for key, one in tried.rules.items():
        if one.is_effect:
            through = tried.passing("save", key)
            if not any(one.applies(judged.settled.environment) for judged in through):
                found.add(("F01", key))
            continue
        through = tried.passing("save", key)
        statuses = Counter(judged.findings[key].status for judged in through)
        if not statuses["broken"] + statuses["kept"] + statuses["nothing_to_judge"]:
            found.add(("F01", key))
        elif not statuses["kept"] and statuses["broken"]:
            found.add(("F03", key))
        elif not statuses["broken"]:
            found.add(("F02", key))
    return found


@settings(max_examples=EXAMPLES, deadline=None)
@given(forms())
def enumeration_agrees(ruleset: RuleSet) -> None:
    form = compile_ruleset(ruleset, form="form")
    if form.problems:
        return
    for one in form.form.rules:
        note(repr(one.model_dump(exclude_defaults=True)))
    told = find(ruleset, "form", TODAY, compiled=form)
    assert not told.undecided
    wanted = expected(Tried(form))
    dead = {("F01", one.rules[0]) for one in told.found if one.code == "F01"}
    assert dead == {one for one in wanted if one[0] == "F01"}
    impossible = {("F03", one.rules[0]) for one in told.found if one.code in ("F03", "F32")}
    assert impossible == {one for one in wanted if one[0] == "F03"}
    # Of two that say the same only the later one is told, so superfluous ones are asked one by one.
    superfluous = {one.rules[0] for one in told.found if one.code in ("F02", "F07")}
    never = {key for code, key in wanted if code == "F02"}
    loud = {one.rules[0] for one in told.found if one.code == "F07"}
    assert superfluous - loud <= never
    if len(never) == 1:
        assert never <= superfluous | {one.rules[0] for one in told.found if one.code == "F06"}
    seen.update(code for code, _ in wanted)
    seen["forms"] += 1
    for one in told.found:
        if one.code == "F05" and one.rules:
            answers_stop(form, one)


def answers_stop(form: CompiledForm, one: Any) -> None:
    """No record that can be submitted holds the answer."""
    seen["F05"] += 1
    (key,) = one.fields
    through = Tried(form).passing("submit")
    held = {judged.settled.value_of(key) for judged in through if key not in judged.settled.closed}
    words = {None: "blank", True: "yes", False: "no"}
    possible = {words.get(value, str(value).upper()) for value in held}  # type: ignore[call-overload]
    label = form.fields[key].label
    told = next(
        word
        for word in ("blank", "yes", "no", "A", "B", "C", "X", "Y")
        if f"{label} {word} no record" in one.says
    )
    assert told not in possible


def test_enumeration_of_small_forms_agrees() -> None:
    seen.clear()
    enumeration_agrees()
    print(dict(seen))
    assert seen["forms"] >= EXAMPLES // 3
    assert all(seen[code] for code in ("F01", "F02", "F03", "F05"))
