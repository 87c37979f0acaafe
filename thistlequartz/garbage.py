"""How often Python looks for objects that hold one another and that nobody else holds."""

import gc
from typing import Final

SELDOM: Final = 50_000
"""Objects made and still there before the youngest are looked through; with Python's own 700, that
takes a fifth of the time in which a form is compiled.
"""


def while_loading() -> None:
    """Suspend garbage collection while much is loaded that stays, until `after_loading`.

    Collection takes a sixth of the time of a start.
    """
    gc.disable()


def after_loading() -> None:
    """Resume garbage collection, and leave out of it what is loaded by now.

    Forked processes share that memory; later objects are collected seldom.
    """
    gc.enable()
    gc.collect()
    gc.freeze()
    gc.set_threshold(SELDOM, 20, 20)
