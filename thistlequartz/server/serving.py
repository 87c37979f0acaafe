"""One serving process: waitress on a socket that several processes share.

Waitress takes a call in whole before a thread begins with it, and sends the answer by itself, so
that slow senders and readers keep nobody waiting (docs/decisions/0019); `channels` bounds both.
"""

import resource
import signal
import socket
import sys
from types import FrameType

import waitress
from waitress.server import BaseWSGIServer

from .bodies import LARGEST_FILE
from .channels import BoundedChannel
from .wsgi import application

CONNECTIONS = 2_000
"""Held open at once by one process, most of them idle."""
SPARE_FILES = 100
SILENT_FOR = 30
"""Seconds after which a connection on which nothing comes is closed."""


def serve(listener: socket.socket, threads: int) -> None:
    """Serve until told to stop; what is being answered then is finished."""
    _allow_files(CONNECTIONS + SPARE_FILES)
    signal.signal(signal.SIGTERM, _finish)
    BaseWSGIServer.channel_class = BoundedChannel
    waitress.serve(
        application,
        sockets=[listener],
        threads=threads,
        connection_limit=CONNECTIONS,
        channel_timeout=SILENT_FOR,
        cleanup_interval=SILENT_FOR // 3,
        max_request_body_size=LARGEST_FILE,
        # Bodies stay in memory, which `bodies` bounds, and never fill the disk of the database.
        inbuf_overflow=LARGEST_FILE,
        asyncore_use_poll=True,
        ident=None,
    )


def _allow_files(wanted: int) -> None:
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    most = wanted if hard == resource.RLIM_INFINITY else min(wanted, hard)
    if soft != resource.RLIM_INFINITY and soft < most:
        resource.setrlimit(resource.RLIMIT_NOFILE, (most, hard))


def _finish(_signal: int, _frame: FrameType | None) -> None:
    sys.exit(0)
