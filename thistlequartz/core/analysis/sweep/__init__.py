"""Sweeping: what happens over the whole domain of one field, or of two."""

from .bands import (
    Answer,
    Band,
    Endpoint,
    RecordContext,
    Sweep,
    choices_of,
    entries_of,
    shown_choice,
    sweep,
)
from .cells import AxisCell, Cell, SweepMap, sweep_map
from .stops import Stop, stops_of

__all__ = [
    "Answer",
    "AxisCell",
    "Band",
    "Cell",
    "Endpoint",
    "RecordContext",
    "Stop",
    "Sweep",
    "SweepMap",
    "choices_of",
    "entries_of",
    "shown_choice",
    "stops_of",
    "sweep",
    "sweep_map",
]
