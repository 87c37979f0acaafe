"""A file worked through in the background: its rows, in order, by one process or by two.

What is stored is written together with the mark of its row, so that a run that was stopped, or
killed, goes on where it was, and the same file can be run again.
"""

from collections.abc import Callable, Iterator
from itertools import islice
from typing import Any, Final

from thistlequartz.core.tables import BrokenTable, Table, TableRow
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.jobs.progress import Progress

from .import_batch import ImportBatch
from .models import RecordFile
from .plan import ImportCounts
from .row_intake import opened, rows_fingerprint, unreadable
from .second_process import SecondProcess, second_process
from .stored_files import kept

AT_ONCE: Final = 100
"""Rows that are stored in one transaction: the form is locked for a tenth of a second, and
people who save come between two of them."""
FEW: Final = 4_000
"""Up to so many rows are worked through by one process: another takes seconds to begin."""


def import_in_background(job: Job, progress: Progress) -> Any:
    """Work through a file; what came of it is kept with the file, and given as JSON."""
    record_file = RecordFile.objects.select_related("form", "person").get(pk=int(job.asked["file"]))
    came = ImportRun(record_file, dry=job.asked["dry"] == "yes").run(progress)
    return came.model_dump(mode="json")


def pieces(table: Table) -> Iterator[list[TableRow]]:
    """The rows, as many at a time as are stored together."""
    rows = table.rows()
    while some := list(islice(rows, AT_ONCE)):
        yield some


class ImportRun:
    """One run through a file."""

    def __init__(self, record_file: RecordFile, *, dry: bool) -> None:
        self._file = record_file
        self._taking = ImportBatch(record_file, dry=dry)
        self._second: SecondProcess | None = None

    def run(self, progress: Progress) -> ImportCounts:
        """All rows; raises Stopped between two pieces, and a Refusal where the file breaks off."""
        # A run that was interrupted begins anew; what is stored is known by its marks.
        self._file.refused_rows.all().delete()
        with kept(self._file) as file:
            part = self._taking.plan.part
            table = opened(file, part)
            self._taking.fingerprint = rows_fingerprint(self._file, table, part)

            def tell() -> None:
                rows = self._came().rows
                progress.tell(rows, max(table.about, rows))

            try:
                if self._taking.came.dry:
                    self._by_one(table, self._taking.try_out, tell)
                elif table.about > FEW and self._taking.can_be_ahead():
                    self._by_two(table, tell)
                else:
                    self._by_one(table, self._taking.take, tell)
            except BrokenTable as broken:
                raise unreadable(broken) from None
            finally:
                self._keep()
        return self._came()

    def _by_one(
        self, table: Table, take: Callable[[list[TableRow]], None], tell: Callable[[], None]
    ) -> None:
        for rows in pieces(table):
            take(rows)
            self._keep()
            tell()

    def _by_two(self, table: Table, tell: Callable[[], None]) -> None:
        """Every other piece is judged by a second process; they are stored in their order: while
        one process stores, the other one judges.
        """
        waiting: list[TableRow] = []
        """What the second process has in hand, and may store."""
        left = pieces(table)
        with second_process(self._file) as second:
            self._second = second
            second.begin(self._taking.fingerprint)
            try:
                for rows in left:
                    ahead = self._taking.ahead(rows)
                    self._finish(waiting, second, tell)
                    waiting, broken = [], None
                    try:
                        theirs = next(left, [])
                    except BrokenTable as fault:
                        theirs, broken = [], fault  # what comes before it is stored first
                    if theirs:
                        second.give(theirs)
                    self._taking.take(rows, ahead)
                    if theirs:
                        second.may_store()
                    waiting = theirs
                    self._keep()
                    tell()
                    if broken is not None:
                        raise broken
            finally:
                self._finish(waiting, second, tell)

    def _finish(
        self, rows: list[TableRow], second: SecondProcess, tell: Callable[[], None]
    ) -> None:
        """Wait until the second process has stored its rows; where it is gone, do it here."""
        if rows and not second.has_stored(tell):
            self._taking.take(rows)

    def _came(self) -> ImportCounts:
        """What came of all rows until now, whoever stored them."""
        return self._taking.came.and_also(self._second.came if self._second else None)

    def _keep(self) -> None:
        came = self._came().model_dump(mode="json")
        RecordFile.objects.filter(pk=self._file.pk).update(came=came)
