"""The second of two processes that judge stored records; the worker starts it."""

import os
import sys
from typing import Any

from django.core.management.base import BaseCommand

from thistlequartz.server.impact.shares import analyse_share
from thistlequartz.server.outages import MET


class Command(BaseCommand):
    """Work out the share of an impact that is asked for on standard input."""

    help = "Work out the impact on a share of the stored records; started by the worker only."

    def handle(self, **_: Any) -> None:
        """Print how many records are judged, a line each time, then the impact as JSON."""
        try:
            analyse_share(sys.stdin, sys.stdout)
        except MET:  # the database went; whoever asked does the share, or is gone, too
            sys.exit(1)
        except BrokenPipeError:  # whoever asked is gone, and wants no more of it
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
