"""What the bench shows beside the verdicts: traces, bands, maps, ways through, what changed."""

from typing import Any

from pydantic import BaseModel

from thistlequartz.core.analysis.sweep import (
    Endpoint,
    Stop,
    Sweep,
    SweepMap,
    shown_choice,
    stops_of,
)
from thistlequartz.core.judging.trace import Explanation, Step
from thistlequartz.core.language import Segment
from thistlequartz.core.ruleset import Field, Layout, Outcome
from thistlequartz.core.values import ValueType
from thistlequartz.server.forms.shapes import SheetView
from thistlequartz.server.judging.values import Entered

from .entered import as_entered
from .trial import BenchTrial


class BenchRule(BaseModel):
    """A rule as the bench names it."""

    key: str
    name: str
    effect: bool
    on: bool
    targets: list[str]
    reads: list[str]
    """Every field it targets or reads."""
    sentence: list[Segment]


class BenchRelease(BaseModel):
    """A release that can be tried."""

    number: int
    note: str


class BenchForm(BaseModel):
    """The draft or a release, as it is laid out on the bench."""

    key: str
    name: str
    fields: list[Field]
    sheet: SheetView
    layouts: list[Layout]
    rules: list[BenchRule]
    roles: list[str]
    """Those of the house, and those that the rules name."""
    releases: list[BenchRelease]
    ordered: list[str]
    """The fields along which a band can be drawn."""
    mapped: list[str]
    """The fields that a map can be drawn of."""
    held: list[list[str]]
    """Fields along which a band can be drawn that a rule holds against each other."""


class StepView(BaseModel):
    """One part of a condition, and what came of it."""

    words: str
    formula: str | None
    answer: str
    parts: list["StepView"]


class JudgedView(BaseModel):
    """One condition that must hold, at some fields."""

    fields: list[str]
    step: StepView
    wanting: list[str]


class TraceView(BaseModel):
    """How a rule came to its status."""

    rule: str
    status: str
    reason: str
    when: StepView | None
    until: StepView | None
    judgements: list[JudgedView]
    values: dict[str, str]


class EndView(BaseModel):
    """An end of a band."""

    value: Entered
    included: bool
    words: str


class BandView(BaseModel):
    """Values with one answer."""

    words: str
    low: EndView | None
    high: EndView | None
    save: Outcome
    submit: Outcome
    broken: list[str]
    offered: list[str]


class StopView(BaseModel):
    """A value to stop at."""

    band: int
    value: Entered
    words: str


class SweepView(BaseModel):
    """What happens along one field, blank first, with values to stop at."""

    field: str
    of: str
    exact: bool
    sampled: list[str]
    bands: list[BandView]
    stops: list[StopView]
    standing: int | None
    """The band in which the record stands now."""


class AxisView(BaseModel):
    """Values of one field that stand together."""

    words: str
    value: Entered
    """One of them."""


class CellView(BaseModel):
    """What happens for the values of a row with those of a column."""

    save: Outcome
    submit: Outcome
    broken: list[str]
    uniform: bool


class MapView(BaseModel):
    """Two fields against each other."""

    across: str
    down: str
    columns: list[AxisView]
    rows: list[AxisView]
    cells: list[list[CellView]]
    exact: bool


class ChangeView(BaseModel):
    """One thing that is different now."""

    words: str
    rule: str | None
    fields: list[str]


def trace_view(found: Explanation) -> TraceView:
    """A trace, for an answer."""
    return TraceView(
        rule=found.rule,
        status=found.status,
        reason=found.reason,
        when=_step(found.when),
        until=_step(found.until),
        judgements=[
            JudgedView(fields=list(one.fields), step=_sure(one.step), wanting=list(one.wanting))
            for one in found.judgements
        ],
        values=dict(found.values),
    )


def _step(step: Step | None) -> StepView | None:
    return _sure(step) if step else None


def _sure(step: Step) -> StepView:
    return StepView(
        words=step.words,
        formula=step.formula,
        answer=step.answer,
        parts=[_sure(one) for one in step.parts],
    )


def sweep_view(found: Sweep, tried: BenchTrial) -> SweepView:
    """A sweep, for an answer."""
    type_ = tried.form.fields[found.field].type
    stops = stops_of(found, tried.form.fields[found.field], tried.circumstances.today)
    return SweepView(
        field=found.field,
        of=found.of,
        exact=found.exact,
        sampled=list(found.sampled),
        bands=[
            BandView(
                words=band.words,
                low=_end(band.low, type_),
                high=_end(band.high, type_),
                save=band.answer.save,
                submit=band.answer.submit,
                broken=list(band.answer.broken),
                offered=list(band.answer.offered),
            )
            for band in found.bands
        ],
        stops=[_stop(one) for one in stops],
        standing=_standing(found, tried),
    )


def _stop(stop: Stop) -> StopView:
    return StopView(band=stop.band, value=as_entered(stop.value), words=stop.words)


def _end(edge: Endpoint | None, type_: ValueType) -> EndView | None:
    if edge is None:
        return None
    words = "blank" if edge.value is None else shown_choice(edge.value, type_)
    return EndView(value=as_entered(edge.value), included=edge.included, words=words)


def _standing(found: Sweep, tried: BenchTrial) -> int | None:
    """The band in which the record stands, by its value."""
    record = tried.form.read(tried.values, stored=tried.stored, lookup=tried.lookup)
    value = tried.form.settled(record, tried.circumstances).value_of(found.field)
    for place, band in enumerate(found.bands):
        if _holds(band.low, band.high, value):
            return place
    return None


def _holds(low: Endpoint | None, high: Endpoint | None, value: Any) -> bool:
    single = low is not None and high is not None and low.value == high.value
    if value is None or isinstance(value, bool | str | tuple) or single:
        held = low.value if low else None
        if isinstance(value, tuple):
            value = list(value)
        return single and held == value
    if low is None and high is None:
        return True
    try:
        above = low is None or value > low.value or (low.included and value == low.value)
        below = high is None or value < high.value or (high.included and value == high.value)
    except TypeError:
        return False
    return above and below


def map_view(found: SweepMap) -> MapView:
    """A map, for an answer."""
    return MapView(
        across=found.across,
        down=found.down,
        columns=[AxisView(words=one.words, value=as_entered(one.sample)) for one in found.columns],
        rows=[AxisView(words=one.words, value=as_entered(one.sample)) for one in found.rows],
        cells=[
            [
                CellView(
                    save=cell.answer.save,
                    submit=cell.answer.submit,
                    broken=list(cell.answer.broken),
                    uniform=cell.uniform,
                )
                for cell in row
            ]
            for row in found.cells
        ],
        exact=found.exact,
    )
