"""What the bench shows beside the verdicts: traces, bands, maps, ways through, what changed."""

from typing import Literal

from pydantic import BaseModel

from thistlequartz.core.language import Segment
from thistlequartz.core.ruleset import Field, Layout, Outcome
from thistlequartz.core.sweep import (
    Act,
    Endpoint,
    Lane,
    Side,
    Stop,
    Sweep,
    SweepMap,
    Tick,
    band_of,
    drawing_of,
    lanes_of,
    shown,
    stops_of,
)
from thistlequartz.core.translation import tr
from thistlequartz.core.types import ValueType
from thistlequartz.server.forms.shapes import SheetView
from thistlequartz.server.judging.values import Entered

from .entered import as_entered
from .requests import BenchRequest


class BenchRule(BaseModel):
    """A rule as the bench names it."""

    key: str
    name: str
    effect: bool
    enabled: bool
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
    violated: list[str]
    offered: list[str]
    begins: float
    """Where it is drawn, from 0 to 1."""
    ends: float


class StopView(BaseModel):
    """A value to stop at."""

    band: int
    value: Entered
    words: str
    at: float
    """Where it is drawn, from 0 to 1."""
    between: bool
    """Whether nothing begins or ends there: it is only to be pointed at."""


class LaneView(BaseModel):
    """What becomes of another field along the bands."""

    act: Act
    field: str
    label: str
    parts: list[list[str]]
    """For each band: the values that are offered, or the act; nothing where it is not so."""


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
    words: str
    """Its value in words."""
    here: float | None
    """Where its value is drawn; None for one that has no place of its own."""
    by: Literal["value", "rank", "each"]
    """To scale; by rank, as values lie too far apart; or each choice as wide as any other."""
    ticks: list[Tick]
    lanes: list[LaneView]
    """What is offered, asked or needed elsewhere, as far as it differs along the field."""


class PointedView(BaseModel):
    """A value that can be pointed at."""

    at: float
    """Where it is drawn, from 0 to 1."""
    value: Entered
    words: str


class PlaceView(BaseModel):
    """A place in a map, from 0 to 1 across and upward."""

    x: float
    y: float


class SlotView(BaseModel):
    """Blank, or a choice."""

    begins: float
    ends: float
    words: str


class SideView(BaseModel):
    """One side of a map."""

    field: str
    label: str
    by: Literal["value", "rank", "each"]
    slots: list[SlotView]
    ticks: list[Tick]
    """Round values."""
    marks: list[Tick]
    """The exact bounds at which something changes all across."""
    points: list[PointedView]


class RegionView(BaseModel):
    """Neighbouring pairs of values with one answer."""

    save: Outcome
    submit: Outcome
    violated: list[str]
    shapes: list[list[PlaceView]]
    """It is made of these; one without an area is a line, as its values are a single one."""
    label: PlaceView
    across: Entered
    up: Entered
    words: str
    """A pair of values in it."""


class BorderView(BaseModel):
    """Where something else begins."""

    begins: PlaceView
    ends: PlaceView
    words: str


class MapView(BaseModel):
    """Two fields against each other, drawn from 0 to 1, the second one upward."""

    across: SideView
    up: SideView
    regions: list[RegionView]
    borders: list[BorderView]
    exact: bool
    bent: bool
    here: PlaceView | None
    """Where the record stands."""


def sweep_view(found: Sweep, tried: BenchRequest) -> SweepView:
    """A sweep, for an answer."""
    declared, today = tried.form.fields[found.field], tried.request.circumstances.today
    type_ = declared.type
    record = tried.form.read(tried.values, stored=tried.request.stored, lookup=tried.lookup)
    standing = tried.form.settled(record, tried.request.circumstances).value_of(found.field)
    drawing = drawing_of(found, type_.domain(today), standing)
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
                violated=list(band.answer.violated),
                offered=list(band.answer.offered),
                begins=begins,
                ends=ends,
            )
            for band, (begins, ends) in zip(found.bands, drawing.spans, strict=True)
        ],
        stops=[_stop(one) for one in stops_of(found, declared, today, drawing)],
        standing=band_of(found, standing),
        words="blank" if standing is None else shown(standing, type_),
        here=drawing.at(standing),
        by=drawing.by,
        ticks=list(drawing.ticks),
        lanes=[_lane(one, tried) for one in lanes_of([one.consequences for one in found.bands])],
    )


def _lane(lane: Lane, tried: BenchRequest) -> LaneView:
    return LaneView(
        act=lane.act,
        field=lane.field,
        label=tried.form.fields[lane.field].label,
        parts=[list(one) for one in lane.parts],
    )


def _stop(stop: Stop) -> StopView:
    return StopView(
        band=stop.band,
        value=as_entered(stop.value),
        words=stop.words,
        at=stop.at,
        between=stop.between,
    )


def _end(edge: Endpoint | None, type_: ValueType) -> EndView | None:
    if edge is None:
        return None
    words = "blank" if edge.value is None else shown(edge.value, type_)
    return EndView(value=as_entered(edge.value), included=edge.included, words=words)


def map_view(found: SweepMap, tried: BenchRequest) -> MapView:
    """A map, for an answer."""
    return MapView(
        across=_side(found.across, tried),
        up=_side(found.up, tried),
        regions=[
            RegionView(
                save=one.answer.save,
                submit=one.answer.submit,
                violated=list(one.answer.violated),
                shapes=[[_place(point) for point in shape] for shape in one.shapes],
                label=_place(one.label),
                across=as_entered(one.sample[0]),
                up=as_entered(one.sample[1]),
                words=tr(
                    "{across} {across_words}, {up} {up_words}",
                    across=found.across.label,
                    across_words=one.words[0],
                    up=found.up.label,
                    up_words=one.words[1],
                ),
            )
            for one in found.regions
        ],
        borders=[
            BorderView(begins=_place(one.points[0]), ends=_place(one.points[1]), words=one.words)
            for one in found.borders
        ],
        exact=found.exact,
        bent=found.bent,
        here=None if found.here is None else _place(found.here),
    )


def _place(point: tuple[float, float]) -> PlaceView:
    return PlaceView(x=point[0], y=point[1])


def _side(side: Side, tried: BenchRequest) -> SideView:
    return SideView(
        field=side.key,
        label=side.label,
        by=side.scale.by if side.scale else "each",
        slots=[SlotView(begins=one.begins, ends=one.ends, words=one.words) for one in side.slots],
        ticks=list(side.ticks),
        marks=list(side.marks),
        points=[
            PointedView(at=at, value=as_entered(value), words=words)
            for at, value, words in side.pointed_at(tried.around)
        ],
    )
