"""One meaning: every engine, and `explain`, says the same of every record."""

from collections import Counter
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import ALIKE
from thistlequartz.core.engines import generated, traced
from thistlequartz.core.engines.answers import CheckQuery
from thistlequartz.core.judging import (
    CompiledForm,
    Judgement,
    JudgeRequest,
    ReadRecord,
    Verdict,
    circumstances_of,
    compile_ruleset,
    is_readable,
)
from thistlequartz.core.ruleset import MOMENTS

from ..core.conftest import TODAY
from .generators import (
    CHECK_KINDS,
    CIRCUMSTANCES,
    EFFECTS,
    FAULTY,
    FULL,
    RECORDS,
    Neighbours,
    document_of,
    rules,
)

EXAMPLES = 330
AT_LEAST = 50
EXPLAINED = 3
"""Records of a form of which every rule is explained, too."""
JUDGED = ("violated", "satisfied", "not_evaluable")
DONE = ("satisfied", "not_applicable")
"""Of an effect: it has it, or not."""

counted: Counter[tuple[str, str, str]] = Counter()
"""How often each kind came to each status at each moment."""


@settings(max_examples=EXAMPLES, deadline=None, derandomize=ALIKE)
@given(
    rules(),
    st.lists(RECORDS, min_size=1, max_size=2),
    st.lists(FULL, min_size=3, max_size=3),
    FAULTY,
    st.lists(FULL, min_size=2, max_size=4),
    CIRCUMSTANCES,
)
def every_engine_agrees(
    given_rules: list[dict[str, Any]],
    some: list[dict[str, Any]],
    full: list[dict[str, Any]],
    faulty: dict[str, Any],
    others: list[dict[str, Any]],
    circumstances: dict[str, Any],
) -> None:
    form = compile_ruleset(document_of(given_rules), form="form")
    assert form.form_problems == ()
    asked = {"today": TODAY, **circumstances}
    screener, engines = form.screener(**asked), Engines(form, asked)
    before = full[0] if circumstances["event"] == "update" else None
    lookup = Neighbours([{k: v for k, v in one.items() if "." not in k} for one in others])
    for place, values in enumerate((faulty, *some, *full)):
        record = form.read(values, stored=before, lookup=lookup)
        judged = form.judged(JudgeRequest(record, circumstances_of(asked)))
        verdicts = {moment: judged.verdict(moment) for moment in MOMENTS}
        for moment, verdict in verdicts.items():
            for rule, result in zip(form.form.rules, verdict.results, strict=True):
                counted[rule.kind, moment, result.status] += 1
        screened_as_judged(form, screener.screen(record), verdicts)
        engines.answer_alike(record)
        if place < EXPLAINED:
            explained_as_judged(form, judged, verdicts)


class Engines:
    """Through the interface of every engine."""

    def __init__(self, form: CompiledForm, asked: dict[str, Any]) -> None:
        self.form, self.circumstances = form, circumstances_of(asked)
        program = form.program(self.circumstances)
        questions = [
            CheckQuery(one.lowered.applies, tuple(check.satisfied for check in one.lowered.checks))
            for one in program.checks
        ]
        plans = program.plans.items()
        closable = frozenset(key for key, one in plans if one.is_closable)
        today = self.circumstances.today
        self.slow = traced.answering(questions)
        self.fast = generated.answering(questions, form.vocabulary, today, closable)

    def answer_alike(self, record: ReadRecord) -> None:
        settled = self.form.settled(record, self.circumstances)
        if is_readable(record, settled):
            given = settled.environment, settled.closed
            assert self.slow(*given) == self.fast(*given)


def screened_as_judged(form: CompiledForm, screened: Any, verdicts: dict[Any, Verdict]) -> None:
    save, submit = verdicts["save"], verdicts["submit"]
    assert (screened.save, screened.submit) == (save.outcome, submit.outcome)
    said = [
        (one.rule, one.message, one.save, one.submit, one.enters_hold)
        for one in screened.violations
    ]
    told = []
    for early, late in zip(save.results, submit.results, strict=True):
        assert early.rule == late.rule
        if "violated" in (early.status, late.status):
            hold = form.written[early.rule].hold  # type: ignore[union-attr]
            told += [
                (early.rule, message, early.severity, late.severity, hold)
                for message in early.messages or late.messages
            ]
    assert said == told
    assert dict(screened.faults) == {k: s.fault for k, s in save.fields.items() if s.fault}


def explained_as_judged(
    form: CompiledForm, judged: Judgement, verdicts: dict[Any, Verdict]
) -> None:
    for rule, result in zip(form.form.rules, verdicts["submit"].results, strict=True):
        explained = judged.explain(rule.key)
        if result.status != "silent":
            assert (explained.status, explained.reason) == (result.status, result.reason)
        told = {one.fields for one in result.messages}
        answers = {one.fields: one for one in explained.judgements}
        if explained.status == "violated" and result.status == "violated":
            assert all(answers[fields].step.answer in ("no", "no answer") for fields in told)
            assert not any(answers[fields].wanting for fields in told)
        if explained.status == "not_applicable" and not rule.changed_fields and explained.when:
            assert explained.when.answer != "yes" or rule.kind == "start"


def test_every_engine_says_the_same_of_every_kind() -> None:
    """Each kind at least so often violated, satisfied and with nothing to check, on saving and
    submitting; each effect at least so often in effect and not.
    """
    counted.clear()
    every_engine_agrees()
    wanted = [
        (kind, moment, status)
        for moment in ("save", "submit")
        for kind in CHECK_KINDS
        for status in JUDGED
    ]
    effects = sorted({one["kind"] for one in EFFECTS})
    shown = {one: counted[one] for one in wanted}
    print("\n" + "\n".join(f"{' '.join(one):45} {count:6}" for one, count in shown.items()))
    for kind in effects:
        for status in DONE:
            shown[kind, "effect", status] = sum(counted[kind, moment, status] for moment in MOMENTS)
    if ALIKE:  # those that are drawn anew may lack a sort
        assert {one: count for one, count in shown.items() if count < AT_LEAST} == {}
