"""The rows of a file stored, some of them in each transaction.

They are judged before the form is locked; what that rests on is looked at again under the lock, and
where it has changed, they are judged anew.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from thistlequartz.core.tables import TableRow
from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import HistoryEntry, log_many
from thistlequartz.server.inserting import create_many, insert
from thistlequartz.server.outages import in_one_go
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import Right, may
from thistlequartz.server.problems import Refusal
from thistlequartz.server.records.events import RecordEvent, occasions_of, tell
from thistlequartz.server.records.form_in_force import DeskForm, desk_of
from thistlequartz.server.records.models import Record
from thistlequartz.server.records.numbering import book_of
from thistlequartz.server.records.services import ACTS, SaveAttempt, attempted, locked_desk
from thistlequartz.server.records.storing import write_together

from .models import ImportedRow, RecordFile, RejectedRow
from .plan import ImportCounts, ImportPlan
from .row_intake import RowIntake, RowOutcome, StoredRows, rows_taken


@dataclass(frozen=True, slots=True)
class JudgedRows:
    """Some rows that are judged, and not stored yet."""

    intake: RowIntake
    taken: StoredRows
    """Those that were stored before."""
    outcomes: list[RowOutcome]
    left: list[TableRow]
    """Those that are about a record which is in hand already: they come after."""


class ImportBatch:
    """Stores the rows of a file, or only judges them, and counts what comes of them."""

    def __init__(self, record_file: RecordFile, *, dry: bool) -> None:
        self.file = record_file
        self.plan = ImportPlan.model_validate(record_file.plan)
        self.came = ImportCounts(dry=dry)
        self.fingerprint = record_file.hash
        """By what its rows are known again (see `mark_of`)."""
        self._form_key = record_file.form.key
        self._person = self._who()
        self._trying: RowIntake | None = None

    def _who(self) -> Person:
        """Whoever brought the file, as their account and rights are now."""
        person = Person.objects.filter(pk=self.file.person_id or 0).first()
        if (
            person is None
            or not person.is_active
            or not may(person, Right.WRITE_RECORDS, self._form_key)
        ):
            raise Refusal(
                403,
                "no-right",
                tr("Whoever brought this file may no longer write records here."),
                tr("Have somebody bring it who may."),
            )
        return person

    def _intake(self, desk: DeskForm) -> RowIntake:
        return RowIntake(desk, self._person, self.file, self.plan)

    def can_be_ahead(self) -> bool:
        """Whether rows can be judged before those ahead of them are stored."""
        return self._intake(desk_of(self._form_key)).may_be_ahead

    def ahead(self, rows: list[TableRow]) -> JudgedRows:
        """Judge some rows as things are now."""
        return self._judged(rows, desk_of(self._form_key))

    def try_out(self, rows: list[TableRow]) -> None:
        """Judge some rows only, each beside all that were tried before."""
        self._trying = intake = self._trying or self._intake(desk_of(self._form_key))
        taken = rows_taken(self.file, self.fingerprint, rows)
        some = intake.read(row for row in rows if row.number not in taken.numbers)
        outcomes = [intake.judge(row, entry) for row, entry in some]
        self._refuse(outcomes)
        self._count(outcomes, taken)

    def take(self, rows: list[TableRow], ahead: JudgedRows | None = None) -> None:
        """Store some rows; where two of them are about the same record, in several transactions."""
        waiting, before = rows, [ahead] if ahead else []
        while waiting:
            judged = self._stored(waiting, before)
            before.clear()
            self._count(judged.outcomes, judged.taken)
            waiting = judged.left

    def _judged(self, rows: list[TableRow], desk: DeskForm) -> JudgedRows:
        intake = self._intake(desk)
        taken = rows_taken(self.file, self.fingerprint, rows)
        new = [row for row in rows if row.number not in taken.numbers]
        outcomes: list[RowOutcome] = []
        seen: set[tuple[str, ...]] = set()
        for row, entry in intake.read(new):
            key = intake.key_of(entry)
            if key is not None and key in seen:
                break
            if key is not None:
                seen.add(key)
            outcomes.append(intake.judge(row, entry))
        return JudgedRows(intake, taken, outcomes, new[len(outcomes) :])

    @in_one_go
    def _stored(self, rows: list[TableRow], before: list[JudgedRows]) -> JudgedRows:
        """Some rows in one transaction. What was judged `before` is used once: if that is in vain,
        as somebody was in the way, they are judged anew.
        """
        desk = locked_desk(self._form_key)
        self._person = self._who()
        judged = before.pop() if before else None
        if (
            judged is None
            or judged.taken.numbers != rows_taken(self.file, self.fingerprint, rows).numbers
            or not judged.intake.stands(desk)
        ):
            judged = self._judged(rows, desk)
        book = book_of(desk.draft)
        for one in judged.outcomes:
            if one.put is not None and one.new:
                book.last_number += 1
                book.stored += 1
                one.put.record.number = book.last_number
        self._write(desk, judged.outcomes)
        self._refuse(judged.outcomes)
        book.save(update_fields=["last_number", "stored"])
        return judged

    def _write(self, desk: DeskForm, outcomes: list[RowOutcome]) -> None:
        write_together([one.put for one in outcomes if one.put is not None], desk)
        taken = [(one, one.put.record) for one in outcomes if one.put is not None]
        form, fingerprint, run = desk.draft.pk, self.fingerprint, self.file.job_id or 0
        insert(
            ImportedRow,
            ("form", "hash", "row", "record", "run", "added", "left_out"),
            (
                (form, fingerprint, one.row.number, record.pk, run, one.new, bool(one.left_out))
                for one, record in taken
            ),
        )
        attempts = [self._attempt(desk, one) for one in outcomes if one.verdicts]
        attempted.send(Record, attempts=attempts)
        tell([self._happening(desk, one, record) for one, record in taken])
        log_many(desk.draft.key, [self._act(one, record) for one, record in taken])

    def _attempt(self, desk: DeskForm, one: RowOutcome) -> SaveAttempt:
        return SaveAttempt(
            desk,
            self._person,
            "submit" if self.plan.submit else "save",
            one.verdicts,
            one.put.record if one.put else None,
            one.put.waived if one.put else {},
            "import",
        )

    def _happening(self, desk: DeskForm, one: RowOutcome, record: Record) -> RecordEvent:
        occasions = occasions_of(record, held_before=one.held_before)
        return RecordEvent(desk, record, occasions, self._person, "import", one.before)

    def _act(self, one: RowOutcome, record: Record) -> HistoryEntry:
        return HistoryEntry(
            self._person,
            ACTS[record.state],  # type: ignore[index]
            tr("Record {number}", number=record.number),
            tr("{name}, row {number}", name=self.file.name, number=one.row.number),
            before=one.before,
            after=record.values,
        )

    def _refuse(self, outcomes: list[RowOutcome]) -> None:
        refused = [one for one in outcomes if one.put is None]
        create_many(
            RejectedRow,
            (
                RejectedRow(
                    file=self.file,
                    row=one.row.number,
                    cells=_as_json(one.row.cells),
                    reasons=[{"head": said.head, "text": said.text} for said in one.said],
                )
                for one in refused
            ),
        )

    def _count(self, outcomes: list[RowOutcome], taken: StoredRows) -> None:
        self.came = came = self.came.and_also(taken.came)
        came.rows += len(outcomes)
        for one in outcomes:
            if one.put is None:
                came.refused += 1
                continue
            came.added += one.new
            came.changed += not one.new
            came.held += one.put.record.on_hold
            came.warned += one.put.record.outcome == "warned"
            came.left_out += bool(one.left_out)


def _as_json(cells: Mapping[str, Any]) -> dict[str, Any]:
    """Cells as they are kept: days and times by ISO 8601."""
    return {
        head: cell.isoformat() if hasattr(cell, "isoformat") else cell
        for head, cell in cells.items()
    }
