"""What would let a record through: worked out for every entry there could be, or searched for."""

from typing import Literal

from pydantic import BaseModel

from thistlequartz.apart.ways import WaysTask, proved_ways
from thistlequartz.core.analysis import Way, way_of, ways_through
from thistlequartz.core.analysis.solving.standing import looking, standing_of
from thistlequartz.server.forms.drafts import ruleset_around
from thistlequartz.server.judging.values import Values
from thistlequartz.server.solving import apart

from .entered import as_entered
from .seen import entries_of_records
from .trial import BenchTrial


class WayView(BaseModel):
    """Changes after which nothing blocks."""

    changes: Values
    words: list[str]


class StoppedBy(BaseModel):
    """A rule because of which nothing lets the record through."""

    key: str
    name: str


class WaysView(BaseModel):
    """What would let a record through, the fewest changes first."""

    ways: list[WayView]
    fewest: bool
    """Whether it is proved that no fewer changes do."""
    nothing: bool
    """Whether it is proved that nothing does, with the rest of the record as it is."""
    stopped_by: list[StoppedBy]
    """Where nothing does: the rules that make it so; none: the form itself does."""
    why: str
    """Why it is not proved; blank where it is."""


def ways_of(tried: BenchTrial, moment: Literal["save", "submit"]) -> WaysView:
    """The ways, by the solver; where it cannot say, by a search."""
    around, seen = tried.around, entries_of_records(tried.draft)
    task = WaysTask(
        ruleset_around(tried.form.form), tried.draft.key, standing_of(around, moment, seen)
    )
    proved = proved_ways(apart(), task, looking(around, moment))
    names = {rule.key: rule.name for rule in tried.form.form.rules}
    if proved.ways or proved.stopped_by is not None or proved.fewest:
        return WaysView(
            ways=[_view(way_of(tried.form, one.changes)) for one in proved.ways],
            fewest=proved.fewest,
            nothing=proved.stopped_by is not None,
            stopped_by=[StoppedBy(key=key, name=names[key]) for key in proved.stopped_by or ()],
            why=proved.why,
        )
    searched = ways_through(around, moment, seen)
    return WaysView(
        ways=[_view(one) for one in searched],
        fewest=False,
        nothing=False,
        stopped_by=[],
        why=proved.why,
    )


def _view(way: Way) -> WayView:
    changes = {key: as_entered(value) for key, value in way.changes.items()}
    return WayView(changes=changes, words=list(way.words))
