"""How many examples property tests draw: few, and without a number of its own a test draws 50.

`THISTLEQUARTZ_EXAMPLES=20` in the environment draws twenty times as many, and others each time.
`./test search MINUTES` draws new ones, round after round, and prints the seed of each round.
"""

import os
from typing import Final

TIMES: Final = int(os.environ.get("THISTLEQUARTZ_EXAMPLES", "1"))
SEARCHING: Final = bool(os.environ.get("THISTLEQUARTZ_SEARCH"))
"""Whether new examples are looked for: then only property tests run."""
ALIKE: Final = TIMES == 1 and not SEARCHING
"""Whether the same may be drawn each time, so that there are always enough of each sort."""


def few(examples: int) -> int:
    """So many, or the times of it that are asked for."""
    return examples * TIMES
