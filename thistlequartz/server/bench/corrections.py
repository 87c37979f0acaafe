"""Repairs of a record: worked out over every possible entry, or searched for."""

from typing import Literal

from pydantic import BaseModel

from thistlequartz.core.candidates.corrections import Correction, way_of, ways_through
from thistlequartz.core.solving.repair_problem import looking, standing_of
from thistlequartz.server.forms.drafts import ruleset_around
from thistlequartz.server.judging.values import Values
from thistlequartz.server.solving import apart
from thistlequartz.workers.corrections import WaysTask, proved_ways

from .entered import as_entered
from .requests import BenchRequest
from .rule_sightings import entries_of_records


class CorrectionView(BaseModel):
    """Changes after which nothing blocks."""

    changes: Values
    words: list[str]


class BlockingRuleView(BaseModel):
    """A rule because of which nothing lets the record through."""

    key: str
    name: str


class CorrectionsView(BaseModel):
    """What would let a record through, the fewest changes first."""

    ways: list[CorrectionView]
    fewest: bool
    """Whether it is proved that no fewer changes do."""
    nothing: bool
    """Whether it is proved that nothing does, with the rest of the record as it is."""
    stopped_by: list[BlockingRuleView]
    """Where nothing does: the rules that make it so; none: the form itself does."""
    why: str
    """Why it is not proved; blank where it is."""


def ways_of(tried: BenchRequest, moment: Literal["save", "submit"]) -> CorrectionsView:
    """The ways, by the solver; where it cannot say, by a search."""
    around, seen = tried.around, entries_of_records(tried.draft)
    task = WaysTask(
        ruleset_around(tried.form.form), tried.draft.key, standing_of(around, moment, seen)
    )
    proved = proved_ways(apart(), task, looking(around, moment))
    names = {rule.key: rule.name for rule in tried.form.form.rules}
    if proved.ways or proved.stopped_by is not None or proved.fewest:
        return CorrectionsView(
            ways=[_view(way_of(tried.form, one.changes)) for one in proved.ways],
            fewest=proved.fewest,
            nothing=proved.stopped_by is not None,
            stopped_by=[
                BlockingRuleView(key=key, name=names[key]) for key in proved.stopped_by or ()
            ],
            why=proved.why,
        )
    searched = ways_through(around, moment, seen)
    return CorrectionsView(
        ways=[_view(one) for one in searched],
        fewest=False,
        nothing=False,
        stopped_by=[],
        why=proved.why,
    )


def _view(way: Correction) -> CorrectionView:
    changes = {key: as_entered(value) for key, value in way.changes.items()}
    return CorrectionView(changes=changes, words=list(way.words))
