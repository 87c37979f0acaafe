"""What the solver is asked, in a process of its own: what explodes there takes nothing with it, and
stopping is at once.
"""

from .findings import Finder, FindingsTask
from .parts import PartsTask, looked_at_parts
from .process import Apart, Lost, Stopped
from .slips import SlipsTask, proved_slips
from .ways import WaysTask, proved_ways

__all__ = [
    "Apart",
    "Finder",
    "FindingsTask",
    "Lost",
    "PartsTask",
    "SlipsTask",
    "Stopped",
    "WaysTask",
    "looked_at_parts",
    "proved_slips",
    "proved_ways",
]
