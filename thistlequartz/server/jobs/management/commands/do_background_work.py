"""The worker: does what waits, one after the other, and outlives an absent database."""

import logging
import os
import threading
import time
from argparse import ArgumentParser
from collections.abc import Callable
from typing import Any

from django.core.management.base import BaseCommand
from django.db import DatabaseError, connections
from django.utils.crypto import get_random_string
from django_tasks_db.management.commands.db_worker import Worker

from thistlequartz.server.jobs.services import due_now, every_few_seconds, take_up_abandoned
from thistlequartz.server.outages import MET

LOOKED_AROUND_EVERY = 3
SENT_EVERY = 1
"""Seconds."""
STEPS_BEHIND = 10
"""Whoever waits at a screen goes first."""
TRIED_AGAIN_AFTER = 1
"""Seconds."""

_log = logging.getLogger(__name__)


class Command(BaseCommand):
    """Do background work until told to stop."""

    help = "Do what waits in the background, until told to stop."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """How often to look for work, in seconds."""
        parser.add_argument("--interval", type=float, default=1.0)

    def handle(self, *, interval: float, **_: Any) -> None:
        """Work; while the database is gone, wait for it."""
        os.nice(STEPS_BEHIND)
        for name in ("django_tasks", "django_tasks_db"):
            logging.getLogger(name).setLevel(logging.CRITICAL)
        worker = Worker(
            queue_names=["default"],
            excluded_queue_names=[],
            interval=interval,
            batch=False,
            backend_name="default",
            startup_delay=False,
            max_tasks=None,
            worker_id=get_random_string(32),
        )
        worker.configure_signals()
        senders = ((send, SENT_EVERY) for send in due_now.listening.values())
        for action, pause in ((_look_around, LOOKED_AROUND_EVERY), *senders):
            threading.Thread(target=_again_and_again, args=(action, pause), daemon=True).start()
        while worker.running:
            try:
                worker.run()
            except MET:
                connections.close_all()
                time.sleep(TRIED_AGAIN_AFTER)


def _look_around() -> None:
    take_up_abandoned()
    every_few_seconds.send(sender=Command)


def _again_and_again(action: Callable[[], object], pause: float) -> None:
    while True:
        try:
            action()
        except (DatabaseError, *MET):
            connections.close_all()
        except Exception:  # what is due is tried again in a moment, and jobs go on
            _log.exception("What is due could not be done.")
        time.sleep(pause)
