"""Sweeping: what happens over the whole domain of one field, or of two."""

from .bands import Band, Sweep, choices_of, entries_of, sweep_field
from .consequences import Act, Consequences, Lane, lanes_of
from .context import RecordContext, RecordOutcomes
from .edges import Endpoint, shown
from .regions import Border, Region, SweepMap, sweep_map
from .scale import Drawing, Tick, drawing_of
from .side import Side
from .stops import Stop, band_of, stops_of

__all__ = [
    "Act",
    "Band",
    "Border",
    "Consequences",
    "Drawing",
    "Endpoint",
    "Lane",
    "RecordContext",
    "RecordOutcomes",
    "Region",
    "Side",
    "Stop",
    "Sweep",
    "SweepMap",
    "Tick",
    "band_of",
    "choices_of",
    "drawing_of",
    "entries_of",
    "lanes_of",
    "shown",
    "stops_of",
    "sweep_field",
    "sweep_map",
]
