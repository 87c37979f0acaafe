"""The second of two processes that work through a file; the worker starts it."""

import os
import sys
from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand

from thistlequartz.server.imports.import_batch import ImportBatch
from thistlequartz.server.imports.models import RecordFile
from thistlequartz.server.imports.second_process import STORE, pieces_given
from thistlequartz.server.outages import MET


class Command(BaseCommand):
    """Judge every other piece of a file, and store each when its turn has come."""

    help = (
        "Work through every other piece of a file. The worker starts it; people have no use for it."
    )

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Which file."""
        parser.add_argument("file", type=int)

    def handle(self, *, file: int, **_: Any) -> None:
        """What came of its pieces, a line each, as JSON."""
        taking = ImportBatch(
            RecordFile.objects.select_related("form", "person").get(pk=file), dry=False
        )
        try:
            taking.fingerprint = sys.stdin.readline().strip()
            for rows in pieces_given(sys.stdin):
                ahead = taking.ahead(rows)
                if sys.stdin.readline().strip() != STORE:
                    return  # whoever asked is gone, and wants no more of it
                taking.take(rows, ahead)
                print(taking.came.model_dump_json(), flush=True)
        except MET:  # the database went; whoever asked goes on with it, or is gone, too
            sys.exit(1)
        except BrokenPipeError:
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
