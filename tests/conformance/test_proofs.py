"""What is proved of slips and of ways through, beside what trying every record shows."""

from collections import Counter
from collections.abc import Collection, Sequence
from itertools import product
from typing import Any

from hypothesis import given, note, settings
from hypothesis import strategies as st

from tests.examples import ALIKE
from thistlequartz.core.candidates.baseline import good_baseline
from thistlequartz.core.candidates.corrections import ways_through
from thistlequartz.core.cases.differences import agrees
from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.cases.running import Runner
from thistlequartz.core.coverage.independence import open_parts, parts_alone, with_parts
from thistlequartz.core.coverage.proof import NEVER_ASKED, looked_at, part_key, prove
from thistlequartz.core.drafting.decisions import Decision, decisions_of, shown_alone
from thistlequartz.core.drafting.drafted_case import DraftedCase
from thistlequartz.core.drafting.techniques import drafted_cases
from thistlequartz.core.judging import Circumstances, CompiledForm, compile_ruleset
from thistlequartz.core.kinds import EFFECT_KINDS
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.mutation.proof import prove_slips
from thistlequartz.core.ruleset import Case, RuleSet
from thistlequartz.core.solving.prover import Prover
from thistlequartz.core.solving.repair_problem import looking, standing_of
from thistlequartz.core.solving.repairs import repairs
from thistlequartz.core.sweep import RecordContext

from .small_forms import (
    DOMAIN,
    EXAMPLES,
    FIELDS,
    SAVED,
    TODAY,
    Tried,
    forms,
    setting_forms,
    strict_forms,
)

HERE = Circumstances(TODAY, role="clerk")
SLIPS = 4
"""Of each form."""
seen: Counter[str] = Counter()


@settings(max_examples=EXAMPLES, derandomize=ALIKE)
@given(st.one_of(forms(), setting_forms()), st.data())
def slips_are_as_they_are_proved(ruleset: RuleSet, data: Any) -> None:
    form = compile_ruleset(ruleset, form="form")
    slips = list(mutants_of(form))
    if form.problems or not slips:
        return
    some = data.draw(
        st.lists(st.sampled_from(slips), max_size=SLIPS, unique_by=lambda one: one.key)
    )
    for proved in prove_slips(form, TODAY, some):
        slip = next(one for one in some if one.key == proved.key)
        note(f"{slip.rule}: {slip.words}: {proved.state}")
        mistaken = form.rewritten(slip.form)
        seen[proved.state] += 1
        if proved.witness is not None:
            witness = proved.witness.case("witness")
            assert Runner(form).run(witness).state == "passes"
            assert Runner(mistaken).run(witness).state == "fails"
        elif proved.state == "same":
            mine, theirs = Observer(form), Observer(mistaken)
            tried = Tried(form, mistaken).all, Tried(mistaken, form).all
            for one, other in zip(*tried, strict=True):
                assert agrees(mine.of_judged(one), theirs.of_judged(other))


def test_slips_are_as_they_are_proved() -> None:
    seen.clear()
    slips_are_as_they_are_proved()
    print(dict(seen))
    assert seen["not_decided"] <= sum(seen.values()) // 20
    if ALIKE:  # those that are drawn anew may lack a sort
        assert seen["same"]
        assert seen["unnoticed"]


def only(form: CompiledForm, values: dict[str, Any], moment: Any, blamed: Sequence[str]) -> None:
    """The rules blamed suffice, judged alone; and without any one of them something goes through."""

    def goes_through(kept: Collection[str]) -> bool:
        rules = [one for one in form.form.rules if one.key in kept or one.kind in EFFECT_KINDS]
        fewer = form.form.model_copy(update={"rules": tuple(rules)})
        looks = looking(RecordContext(form.rewritten(fewer), values, HERE), moment)
        every = product(*DOMAIN.values())
        return any(looks(dict(zip(DOMAIN, one, strict=True))).goes_through for one in every)

    assert not goes_through(blamed)
    for one in blamed:
        assert goes_through([key for key in blamed if key != one]), f"{one} is idle"
        seen["blamed"] += 1


@settings(max_examples=EXAMPLES, derandomize=ALIKE)
@given(
    strict_forms(),
    st.fixed_dictionaries({key: st.sampled_from(values) for key, values in DOMAIN.items()}),
    st.sampled_from(["save", "submit"]),
)
def ways_are_the_fewest(ruleset: RuleSet, values: dict[str, Any], moment: Any) -> None:
    form = compile_ruleset(ruleset, form="form")
    if form.problems:
        return
    around = RecordContext(form, values, HERE)
    looks = looking(around, moment)
    if looks({}).goes_through:
        return
    fewest = [
        sum(entry != values[key] for key, entry in entered.items())
        for one in product(*DOMAIN.values())
        if looks(entered := dict(zip(DOMAIN, one, strict=True))).goes_through
    ]
    found = repairs(Prover(form, TODAY), standing_of(around, moment), looks)
    searched = ways_through(around, moment)
    note(repr((found, searched, min(fewest, default=None))))
    seen["ways"] += len(found.ways)
    if not fewest:
        seen["nothing"] += 1
        assert found.stopped_by is not None
        assert not found.ways
        assert not searched
        only(form, values, moment, found.stopped_by)
        return
    assert found.fewest
    assert found.stopped_by is None
    assert len(found.ways[0].changes) == min(fewest)
    assert all(looks(one.changes).goes_through for one in found.ways)
    assert len({frozenset(one.changes) for one in found.ways}) == len(found.ways)
    # The search is what is left where the solver cannot say: it is never better.
    assert all(len(one.changes) >= min(fewest) for one in searched)
    seen["searched"] += len(searched[:1])


def test_ways_are_the_fewest() -> None:
    seen.clear()
    ways_are_the_fewest()
    print(dict(seen))
    if ALIKE:  # those that are drawn anew may lack a sort
        assert all(seen[one] for one in ("ways", "nothing", "searched"))


def test_what_cannot_be_read_stands_where_it_is_not_asked() -> None:
    """A field that is closed need not be corrected; opened again it must be."""
    close = {"key": "c", "name": "C", "kind": "close", "targets": ["count"], "when": "yes = true"}
    named = {"key": "m", "name": "M", "kind": "mandatory", "targets": ["kind"]}
    rules = [close, {**named, **SAVED}]
    document = {"key": "form", "name": "Form", "fields": FIELDS, "rules": rules}
    form = compile_ruleset(RuleSet.model_validate({"forms": [document]}), form="form")
    for yes, changed in ((True, {"kind"}), (None, {"kind", "yes"})):
        around = RecordContext(form, {"yes": yes, "count": "many"}, HERE)
        looks = looking(around, "save")
        found = repairs(Prover(form, TODAY), standing_of(around, "save"), looks)
        first = found.ways[0].changes
        assert found.fewest
        assert len(first) == len(changed)
        assert looks(first).goes_through


@settings(max_examples=EXAMPLES, derandomize=ALIKE)
@given(st.one_of(forms(), setting_forms()))
def parts_are_shown_as_they_can_be(ruleset: RuleSet) -> None:
    form = compile_ruleset(ruleset, form="form")
    if form.problems or not any(len(one.parts) > 1 for _, one in decided(form)):
        return
    baseline = good_baseline(form, [], HERE)
    drafted = list(drafted_cases(form, baseline, "parts"))
    proof = prove(form, as_cases(drafted), baseline)
    answers = {one.key: one for one in parts_alone(form, TODAY, open_parts(proof))}
    seen.update(one.state for one in answers.values())
    more = [one for answer in answers.values() for one in answer.drafted]
    whole = with_parts(prove(form, as_cases([*drafted, *more]), baseline), answers)
    states = iter([part.state for rule in whole.rules for part in rule.parts])
    tried = Tried(form).all
    for rule, decision in decided(form):
        looked = looked_at(decision)
        vectors = [
            (None, decision.vector(there), decision.turned(there))
            for judged in tried
            if looked(judged, rule) and (there := judged.settled.environment)
        ]
        for place in range(len(decision.parts)) if len(decision.parts) > 1 else ():
            alone = place not in decision.coupled and shown_alone(vectors, place)
            assert next(states) == ("shown" if alone else "not_reachable")


def test_a_part_of_a_rule_that_is_never_asked_is_never_shown() -> None:
    """Found by searching: the field that it locks is always closed, and it was not decided."""
    rules = [
        {"key": "r0", "kind": "lock", "targets": ["count"], "when": 'more = "x" or kind = null'},
        {"key": "r1", "kind": "close", "targets": ["count"], "when": "yes = null or yes != null"},
    ]
    named = [{"name": one["key"].upper(), **one} for one in rules]
    document = {"key": "form", "name": "Form", "fields": FIELDS, "rules": named}
    form = compile_ruleset(RuleSet.model_validate({"forms": [document]}), form="form")
    keys = [part_key("r0", 0, place) for place in range(2)]
    answers = list(parts_alone(form, TODAY, keys))
    assert [(one.state, one.why) for one in answers] == [("never", NEVER_ASKED)] * 2


def decided(form: CompiledForm) -> list[tuple[str, Decision]]:
    return [(one.rule.key, decision) for one in form.rules for decision in decisions_of(one, form)]


def as_cases(drafted: Sequence[DraftedCase]) -> list[Case]:
    return [one.case(f"case_{place}") for place, one in enumerate(drafted)]


def test_parts_are_shown_as_they_can_be() -> None:
    seen.clear()
    parts_are_shown_as_they_can_be()
    print(dict(seen))
    if ALIKE:  # those that are drawn anew may lack a sort
        assert seen["shown"]
        assert seen["never"]
    assert not seen["not_decided"]
