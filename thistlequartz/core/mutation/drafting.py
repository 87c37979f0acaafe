"""The case that would notice a slip."""

from thistlequartz.core.candidates.baseline import Baseline
from thistlequartz.core.candidates.budgeted_search import Changes
from thistlequartz.core.documents import MAX_LABEL
from thistlequartz.core.drafting.drafted_case import DraftedCase
from thistlequartz.core.judging import CompiledForm

from .mutations import Mutation


def drafted_of(
    slip: Mutation,
    baseline: Baseline,
    mistaken: CompiledForm,
    changes: Changes,
    applied: tuple[str, ...],
) -> DraftedCase:
    """The record of `baseline` with some changes, and why it is one to keep."""
    return DraftedCase.of(
        name=f"{slip.subject}: notices that {slip.words}"[:MAX_LABEL],
        why=f"Tells “{slip.subject}” from the same with a slip: {slip.words}.",
        technique="slip",
        rules=(slip.rule,) if slip.rule else (),
        baseline=baseline,
        changes=changes,
        applied=applied,
        against=(mistaken,),
    )
