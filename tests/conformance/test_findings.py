"""What the solver finds of small forms, beside what trying every record shows: no false alarm, and
no miss. The oracle is enumeration over the whole domain, which knows nothing of the solver.
"""

from collections import Counter
from typing import Any

from hypothesis import given, note, settings

from thistlequartz.core.analysis.findings import find
from thistlequartz.core.judging import CompiledForm, CompiledRule, compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .small_forms import ALIKE, EXAMPLES, TODAY, Tried, forms

seen: Counter[str] = Counter()


def expected(tried: Tried) -> set[tuple[str, str]]:
    """What enumeration finds, by code and rule or field."""
    found = set()
    for key, one in tried.rules.items():
        if one.rule.when is not None and always_true(tried, one):
            found.add(("F31", key))
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


def always_true(tried: Tried, one: CompiledRule) -> bool:
    """Whether its condition is true of every record that the others let through."""
    through = tried.passing("save", one.rule.key)
    return all(one.applies(judged.settled.environment) for judged in through)


@settings(max_examples=EXAMPLES, deadline=None, derandomize=ALIKE)
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
    idle = {one.rules[0] for one in told.found if one.code == "F31" and "always true" in one.says}
    always = {key for code, key in wanted if code == "F31"}
    assert idle <= always
    spoken_of = {key for one in told.found if one.code in ("F01", "F03") for key in one.rules}
    assert always <= idle | spoken_of
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
    assert all(seen[code] for code in ("F01", "F02", "F03", "F05", "F31"))
