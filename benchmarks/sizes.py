"""How much a benchmark measures: as usual, or with `--short` just enough to run to its end."""

import sys
from typing import Final

SHORT: Final = "--short" in sys.argv


def sized(usual: int, short: int) -> int:
    """One of the two."""
    return short if SHORT else usual
