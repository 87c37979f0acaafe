"""The case that would notice a slip."""

from thistlequartz.core.documents import MAX_LABEL
from thistlequartz.core.judging import CompiledForm

from ..baseline import Baseline
from ..drafted import Drafted
from ..searching import Changes
from .mutants import Mutant


def drafted_of(
    slip: Mutant,
    baseline: Baseline,
    mistaken: CompiledForm,
    changes: Changes,
    applied: tuple[str, ...],
) -> Drafted:
    """The record of `baseline` with some changes, and why it is one to keep."""
    return Drafted.of(
        name=f"{slip.subject}: notices that {slip.words}"[:MAX_LABEL],
        why=f"Tells “{slip.subject}” from the same with a slip: {slip.words}.",
        technique="slip",
        rules=(slip.rule,) if slip.rule else (),
        baseline=baseline,
        changes=changes,
        applied=applied,
        against=(mistaken,),
    )
