"""The case that would notice a slip."""

from thistlequartz.core.candidates.baseline import Baseline
from thistlequartz.core.candidates.budgeted_search import Changes
from thistlequartz.core.documents import MAX_LABEL
from thistlequartz.core.drafting.drafted_case import DraftedCase
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.translation import tr

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
        name=tr("{subject}: notices that {words}", subject=slip.subject, words=slip.words)[
            :MAX_LABEL
        ],
        why=tr(
            "Tells “{subject}” from the same with a slip: {words}.",
            subject=slip.subject,
            words=slip.words,
        ),
        technique="slip",
        rules=(slip.rule,) if slip.rule else (),
        baseline=baseline,
        changes=changes,
        applied=applied,
        against=(mistaken,),
    )
