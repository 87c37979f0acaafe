"""What the processes of the service do, each once it has been forked."""

import socket

LOADED = "thistlequartz.launch.loaded"
"""What they are forked from."""


def prepare(demo: bool, records: int | None) -> None:
    """Bring the database up to date, and load the demo where asked."""
    from .migrate import migrate  # noqa: PLC0415 - loaded in the process alone

    migrate(demo=demo, records=records)


def serve(listener: socket.socket, threads: int) -> None:
    """Answer calls on a listening socket that several processes share."""
    from thistlequartz.server.serving import serve  # noqa: PLC0415

    serve(listener, threads)


def work(every: float) -> None:
    """Do background work; looked for again after so many seconds."""
    from django.core.management import call_command  # noqa: PLC0415

    # The checks would read every address and shape of the service, which it never uses.
    call_command("do_background_work", interval=every, skip_checks=True)
