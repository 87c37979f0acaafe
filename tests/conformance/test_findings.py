"""What the solver finds of small forms, beside what trying every record shows: no false alarm, and
no miss. The oracle is enumeration over the whole domain, which knows nothing of the solver.
"""

from collections import Counter

from hypothesis import example, given, note, settings
from hypothesis import strategies as st

from tests.examples import ALIKE, few
from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.findings import AnswerCache, Finding, Findings, find
from thistlequartz.core.findings.context import SearchContext
from thistlequartz.core.findings.dead_ends import nobody_goes_through
from thistlequartz.core.judging import CompiledForm, CompiledRule, compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .small_forms import DOMAIN, EXAMPLES, NEVER_SATISFIED, TODAY, Tried, forms, strict_forms
from .tried_by_hand import ANSWERS, ByTrying, as_told, holds, said

seen: Counter[str] = Counter()


def expected(tried: Tried) -> set[tuple[str, str]]:
    """What enumeration finds, by code and rule or field."""
    found = set()
    for key, one in tried.rules.items():
        if one.rule.when is not None and always_true(tried, one):
            found.add(("F31", key))
        if one.is_effect:
            (target,) = one.rule.targets
            if not any(
                one.applies(judged.settled.environment) is True
                and (one.part == "closing" or target not in judged.settled.closed)
                for judged in tried.all
            ):
                found.add(("F01", key))
            continue
        through = tried.passing("save", key)
        statuses = Counter(judged.findings[key].status for judged in through)
        if not statuses["violated"] + statuses["satisfied"] + statuses["not_evaluable"]:
            found.add(("F01", key))
        elif not statuses["satisfied"] and statuses["violated"]:
            found.add(("F03", key))
        elif not statuses["violated"]:
            found.add(("F02", key))
    return found


def always_true(tried: Tried, one: CompiledRule) -> bool:
    """Whether its condition is true of every record: of one that checks, that the others let
    through; of one with an effect, that can be entered.
    """
    through = tried.all if one.is_effect else tried.passing("save", one.rule.key)
    return all(one.applies(judged.settled.environment) for judged in through)


@settings(max_examples=5 * EXAMPLES // 2, derandomize=ALIKE)
@example(NEVER_SATISFIED)
@given(forms())
def enumeration_agrees(ruleset: RuleSet) -> None:
    form = compile_ruleset(ruleset, form="form")
    if form.problems:
        return
    for one in form.form.rules:
        note(repr(one.model_dump(exclude_defaults=True)))
    told = find(ruleset, "form", TODAY, compiled=form)
    assert not told.undecided
    tried = Tried(form)
    wanted = expected(tried)
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
    idle = {one.rules[0] for one in told.found if one.code == "F31" and "always true" in one.says}
    always = {key for code, key in wanted if code == "F31"}
    assert idle <= always
    spoken_of = {key for one in told.found if one.code in ("F01", "F03") for key in one.rules}
    assert always <= idle | spoken_of
    seen.update(code for code, _ in wanted)
    seen["forms"] += 1
    by_trying = ByTrying(tried)
    assert {one for found in told.found for one in as_told(found)} == by_trying.all
    seen.update(code for code, _, _ in by_trying.all)
    contradict = {(one.code, one.rules, one.fields) for one in told.found if one.code == "F04"}
    quiet = {one.rules[0] for one in told.found if one.code == "F03"}
    everywhere = {
        one
        for one in by_trying.contradictions()
        if not {*one[1]} & (quiet | {key for _, key in dead})
    }
    assert everywhere <= contradict
    seen.update(code for code, _, _ in everywhere)
    for one in told.found:
        if one.code == "F05" and one.rules:
            answers_stop(tried, form.fields[one.fields[0]].label, one)
        if one.fix is not None and seen["fixes"] < few(40):
            fix_stands(ruleset, tried, one)


def fix_stands(ruleset: RuleSet, tried: Tried, finding: Finding) -> None:
    """Made, it does away with the finding, and no record is stopped, asked or computed otherwise,
    as no finding here is about single situations.
    """
    seen["fixes"] += 1
    assert finding.fix is not None
    (form,) = ruleset.forms
    changed = {one.key: one for one in finding.fix.rules}
    rules = tuple(
        changed.get(one.key, one) for one in form.rules if one.key not in finding.fix.removed
    )
    fixed = RuleSet.model_validate(
        RuleSet(forms=(form.model_copy(update={"rules": rules}),)).model_dump()
    )
    after = find(fixed, "form", TODAY)
    assert finding.fingerprint not in {one.fingerprint for one in after.found}
    compiled = compile_ruleset(fixed, form="form")
    assert observed(tried.form, compiled) == observed(compiled, tried.form)


def observed(form: CompiledForm, other: CompiledForm) -> list[object]:
    """Of every record of two writings: its outcomes, what is asked, and every value."""
    observer = Observer(form)
    return [
        (
            (seen := observer.of_judged(judged)).save,
            seen.submit,
            judged.settled.closed,
            set(judged.settled.locked),
            [judged.settled.value_of(key) for key in DOMAIN],
        )
        for judged in Tried(form, other).all
    ]


def answers_stop(tried: Tried, label: str, finding: Finding) -> None:
    """No record that can be submitted holds the answer."""
    seen["F05"] += 1
    (key,) = finding.fields
    through = tried.passing("submit")
    stopped = [
        one for one in (*ANSWERS[key], None) if f"{label} {said(one)} no record" in finding.says
    ]
    assert len(stopped) == 1
    assert not any(holds(judged, key, stopped[0]) for judged in through)


def test_enumeration_of_small_forms_agrees() -> None:
    seen.clear()
    enumeration_agrees()
    print(dict(seen))
    if ALIKE:  # those that are drawn anew may lack a sort
        assert seen["forms"] >= EXAMPLES // 3
        assert all(seen[code] for code in ("F01", "F02", "F03", "F05", "F31", "fixes"))


@settings(max_examples=EXAMPLES, derandomize=ALIKE)
@given(strict_forms())
def nobody_goes_through_where_it_is_told(ruleset: RuleSet) -> None:
    form = compile_ruleset(ruleset, form="form")
    if form.problems:
        return
    look = SearchContext(ruleset, form, TODAY)
    tried = Tried(form)
    told = [one.says for one in nobody_goes_through(look)]
    assert not look.undecided
    wanted = ["submitted"] if not tried.passing("submit") else []
    if not tried.passing("save"):
        wanted = ["saved"]
    assert [says.partition(",")[0] for says in told] == [
        f"No record can be {one}" for one in wanted
    ]
    seen["told" if wanted else "absent"] += 1


def test_nobody_goes_through_where_it_is_told() -> None:
    seen.clear()
    nobody_goes_through_where_it_is_told()
    if ALIKE:  # those that are drawn anew may lack a sort
        assert seen["told"]
        assert seen["absent"]


def told(found: Findings) -> tuple[object, ...]:
    """What a look came to, but for the records that show it, of which there are many."""
    each = {(one.code, one.gravity, one.rules, one.fields) for one in found.found}
    unsure = {(one.code, one.rules, one.fields) for one in found.undecided}
    return each, dict(found.absent), unsure


@settings(max_examples=EXAMPLES // 6, derandomize=ALIKE)
@given(forms(), forms(), st.integers(0, 4), st.booleans())
def a_look_that_remembers_finds_the_same(
    ruleset: RuleSet, other: RuleSet, place: int, removed: bool
) -> None:
    """A rule is put in the place of another one, or removed, and put back."""
    form = ruleset.forms[0]
    rules = list(form.rules)
    place = min(place, len(rules) - 1)
    rules[place : place + 1] = [] if removed else [
        other.forms[0].rules[0].model_copy(update={"key": rules[place].key})
    ]  # fmt: skip
    edited = RuleSet(forms=(form.model_copy(update={"rules": tuple(rules)}),))
    memory = AnswerCache()
    for one in (ruleset, edited, ruleset):
        again = find(one, "form", TODAY, memory=memory)
        assert told(again) == told(find(one, "form", TODAY))
        for found in again.found:
            if found.witness is not None:
                assert not found.witness.judged(compile_ruleset(one, form="form")).has_faults


def test_what_an_edit_does_not_touch_is_remembered_and_the_same_is_found() -> None:
    a_look_that_remembers_finds_the_same()
