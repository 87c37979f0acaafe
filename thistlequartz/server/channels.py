"""Connections of waitress with bounds on both sides: bytes read, and how slowly answers go.

A short answer waits in memory until it is read. A long one keeps its thread once more of it waits
than the high watermark, and the threads are for everybody.
"""

import time
from contextlib import suppress
from socket import SHUT_RDWR
from typing import Any, Final

from waitress.channel import HTTPChannel

from .bodies import BoundedParser

PATIENCE: Final = 15.0
"""Seconds that a thread waits for one reader before anything is asked of it."""
SLOWEST_READER: Final = 32 * 1024
"""Bytes in a second that a reader takes at least, as long as it keeps a thread."""
_LOOKED_UP_EVERY: Final = 1.0


class BoundedChannel(HTTPChannel):
    """A connection that is closed where its reader keeps a thread for nothing."""

    parser_class = BoundedParser

    def __init__(self, *given: Any, **named: Any) -> None:
        super().__init__(*given, **named)
        self._waited = 0.0
        """Seconds that threads have waited for the reader of this answer."""
        self._taken = 0
        """Bytes that it has taken meanwhile."""

    def service(self) -> None:
        """Answer one call."""
        self._waited, self._taken = 0.0, 0
        super().service()

    def _flush_outbufs_below_high_watermark(self) -> None:
        # As waitress does it, which would wait for ever.
        most = self.adj.outbuf_high_watermark
        if self.total_outbufs_len <= most:
            return
        with self.outbuf_lock:
            channel: Any = self  # its types are not those that it has
            channel._flush_exception(channel._flush_some, do_close=False)
            while self.connected and self.total_outbufs_len > most:
                begun, left = time.monotonic(), self.total_outbufs_len
                self.server.pull_trigger()
                self.outbuf_lock.wait(_LOOKED_UP_EVERY)
                self._waited += time.monotonic() - begun
                self._taken += left - self.total_outbufs_len
                if self._waited > PATIENCE and self._taken < SLOWEST_READER * self._waited:
                    # The main thread finds it closed, and wakes this one. Asked by `will_close`, it
                    # would wait until the reader takes some more.
                    with suppress(OSError):
                        channel.socket.shutdown(SHUT_RDWR)
