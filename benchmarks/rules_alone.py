"""How long it takes to find what is wrong with rules, without any record.

Run it with `.venv/bin/python -m benchmarks.rules_alone`. In a process of its own, as the worker has
one, begun beforehand: the demo's drafts whole, as a ratio to compiling them; each after an edit of
one bound or condition; the form of 40 fields and 60 rules; 1,000 rules over 101 fields; and 1,000
over 200 fields of which nearly each bears on every other, by sums of two and three.
"""

import random
import statistics
import time
from collections.abc import Callable
from datetime import date

from thistlequartz.core.findings import Findings, told_together
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import Form, RuleSet
from thistlequartz.demo.forms import DRAFT
from thistlequartz.workers.findings import FindingsProcess, FindingsTask

from .core import many_rules, ruleset
from .sizes import sized

TODAY = date(2026, 6, 12)
ROUNDS = sized(5, 1)
COMPILED_TIMES = sized(10, 1)
SEED = 3
SOME_FORMS, EDITS, DENSE = sized(4, 1), sized(1_000, 4), sized(1_000, 8)


def main() -> None:
    """Measure and print."""
    finder = FindingsProcess()
    try:
        for form in DRAFT.forms[-SOME_FORMS:]:
            _report(finder, DRAFT, form.key, ROUNDS)
        _after_edits(finder)
        _report(finder, ruleset(), "form", ROUNDS)
        _report(finder, many_rules(sized(1_000, 40), governed=True), "form", 1)
        _report(finder, dense_rules(), "form", 1)
    finally:
        finder.end()


def _report(finder: FindingsProcess, rules: RuleSet, key: str, rounds: int) -> None:
    seconds, compiling = [], []
    for _ in range(rounds):
        taken, findings = _timed(
            lambda: told_together(finder.find(FindingsTask(rules, key, TODAY)))
        )
        seconds.append(taken)
    for _ in range(COMPILED_TIMES):
        begun = time.perf_counter()
        compile_ruleset(rules, form=key)
        compiling.append(time.perf_counter() - begun)
    count = len(rules.form(key).rules)
    middle = statistics.median(seconds)
    ratio = middle / statistics.median(compiling)
    told = f"{len(findings.found)} found, {len(findings.undecided)} not decided"
    print(f"{key:18} {count:5} rules {middle:7.2f} s   {ratio:6.0f} times compiling   {told}")


def _after_edits(finder: FindingsProcess) -> None:
    """Each rule of the plant form with its severity changed, one after the other."""
    key = "plant_accession"
    form, seconds = DRAFT.form(key), []
    for place, rule in enumerate(form.rules[:EDITS]):
        if not hasattr(rule, "severity"):
            continue
        firmer = rule.severity.model_copy(update={"save": "warn"})
        changed = rule.model_copy(update={"severity": firmer})
        rules = (*form.rules[:place], changed, *form.rules[place + 1 :])
        edited = _with(form.model_copy(update={"rules": rules}))
        taken, _ = _timed(
            lambda one=edited: told_together(finder.find(FindingsTask(one, key, TODAY)))
        )
        seconds.append(taken)
    middle, slow = statistics.median(seconds), max(seconds)
    print(f"{key:18} after one edit: {middle:5.2f} s at the median, {slow:5.2f} s at most")


def dense_rules() -> RuleSet:
    """1,000 rules over 200 fields: sums that are bounded, and fields needed for some answers."""
    rng = random.Random(SEED)  # noqa: S311 - made-up rules
    numbers, governors = range(180), range(20)
    fields = [{"key": f"n{n}", "label": f"N {n}", "type": "whole_number"} for n in numbers]
    choices = [{"code": code, "label": code.upper()} for code in "abcd"]
    fields += [
        {"key": f"c{n}", "label": f"C {n}", "type": "choice", "choices": choices} for n in governors
    ]
    rules = []
    for number in range(DENSE):
        one, two, three = rng.sample(numbers, 3)
        kind: dict[str, object] = {"kind": "cross_field"}
        match number % 4:
            case 0 | 1:
                kind["must"] = f"n{one} + n{two} <= {rng.randrange(500, 2_000)}"
            case 2:
                kind["must"] = f"n{one} + n{two} + n{three} >= {rng.randrange(300)}"
            case _:
                answer = rng.choice("abcd")
                kind = {"kind": "mandatory", "when": f'c{rng.choice(governors)} = "{answer}"'}
        rules.append(
            {
                "key": f"r{number}",
                "name": f"Rule {number}",
                "targets": [f"n{one}"],
                "severity": {"save": "block", "submit": "block"},
                **kind,
            }
        )
    form = {"key": "form", "name": "Form", "fields": fields, "rules": rules}
    return RuleSet.model_validate({"forms": [form]})


def _with(form: Form) -> RuleSet:
    forms = tuple(form if one.key == form.key else one for one in DRAFT.forms)
    return DRAFT.model_copy(update={"forms": forms})


def _timed(work: Callable[[], Findings]) -> tuple[float, Findings]:
    begun = time.perf_counter()
    found = work()
    return time.perf_counter() - begun, found


if __name__ == "__main__":
    main()
