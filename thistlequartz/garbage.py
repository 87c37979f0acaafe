"""How often Python looks for objects that hold one another and that nobody else holds."""

import gc
from typing import Final

SELDOM: Final = 50_000
"""Objects made and still there before the youngest are looked through; with Python's own 700, that
takes a fifth of the time in which a form is compiled.
"""


def while_loading() -> None:
    """To be said before much is loaded, all of which stays: looking through it again and again is a
    sixth of the time of a start. Until `after_loading`.
    """
    gc.disable()


def after_loading() -> None:
    """To be said once all is loaded: that is never looked through again, so that processes which
    are forked afterwards share it, and what comes later is looked through seldom.
    """
    gc.enable()
    gc.collect()
    gc.freeze()
    gc.set_threshold(SELDOM, 20, 20)
