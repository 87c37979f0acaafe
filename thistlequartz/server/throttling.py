"""How often one address, or one person, may do what costs much: counted in each process."""

import threading
import time
from collections import OrderedDict, deque
from typing import Final

from thistlequartz.core.translation import tr

from .problems import Refusal

MOST_KEPT: Final = 10_000
"""Of those who are counted; who was not heard of for longest is forgotten."""


class Throttle:
    """So many times in so many seconds for each `who`."""

    def __init__(self, most: int, seconds: float) -> None:
        self.most, self.seconds = most, seconds
        self._times: OrderedDict[str, deque[float]] = OrderedDict()
        self._lock = threading.Lock()

    def count(self, who: str) -> None:
        """Count once more. Raises a Refusal (429) where that is too often."""
        now = time.monotonic()
        with self._lock:
            times = self._times.setdefault(who, deque())
            self._times.move_to_end(who)
            while times and times[0] <= now - self.seconds:
                times.popleft()
            if len(times) >= self.most:
                raise Refusal(
                    429,
                    "too-often",
                    tr("This was tried too often just now."),
                    tr("Wait {seconds:.0f} seconds, then try again.", seconds=self.seconds),
                )
            times.append(now)
            while len(self._times) > MOST_KEPT:
                self._times.popitem(last=False)
