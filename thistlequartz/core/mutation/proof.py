"""Proof for mutations that no search killed: equivalent, or a record that kills them."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from thistlequartz.core.candidates.baseline import Baseline, baseline_of
from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.drafting.drafted_case import DraftedCase
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.solving.form_difference import told_apart
from thistlequartz.core.solving.prover import Prover, Satisfiable, Unsatisfiable
from thistlequartz.core.solving.witness import Witness

from .drafting import drafted_of
from .mutated_form import Applied, MutatedForm
from .mutations import Mutation


@dataclass(frozen=True, slots=True)
class MutationProof:
    """What could be said of one slip for every record."""

    key: str
    state: Literal["same", "unnoticed", "not_decided"]
    """`same`: no record tells it from the rule as it is, from today on."""
    why: str = ""
    """What stands in the way, where it is not decided."""
    witness: DraftedCase | None = None


def prove_slips(
    form: CompiledForm, today: date, slips: Sequence[Mutation]
) -> Iterator[MutationProof]:
    """Each slip in turn; those that cannot be used as rules are left out."""
    prover = Prover(form, today)
    observer = Observer(form)
    rules = {one.rule.key: one for one in form.rules}
    for slip in slips:
        mistaken = form.rewritten(slip.form)
        if not mistaken.problems.keys() - form.problems.keys():
            yield _proved(prover, slip, MutatedForm(observer, rules, mistaken, slip.rule))


def _proved(prover: Prover, slip: Mutation, writings: MutatedForm) -> MutationProof:
    found: list[tuple[Baseline, Applied]] = []

    def shows(witness: Witness) -> bool:
        baseline = baseline_of(prover.form, witness.case(slip.subject))
        around = baseline.around
        applied = writings.told_by(around.unchanged, around.circumstances)
        if applied is not None:
            found.append((baseline, applied))
        return applied is not None

    answer = told_apart(prover, writings.mistaken, writings.touched, shows)
    match answer:
        case Unsatisfiable():
            return MutationProof(slip.key, "same")
        case Satisfiable():
            baseline, applied = found[-1]
            drafted = drafted_of(slip, baseline, writings.mistaken, {}, applied)
            return MutationProof(slip.key, "unnoticed", witness=drafted)
        case _:
            return MutationProof(slip.key, "not_decided", answer.why)
