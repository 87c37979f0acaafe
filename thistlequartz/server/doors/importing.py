"""The rows of a file, judged one by one as records that come in, and stored piece by piece.

What is stored is written together with the mark of its row, so that a run that was stopped, or
killed, goes on where it was, and the same file can be run again.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any, Final

from django.utils import timezone

from thistlequartz.core.judging import Verdict, Waiver, folded_key
from thistlequartz.core.ruleset import Moment, UniqueRule
from thistlequartz.core.tables import BrokenTable, Row, Table, WrongEncoding, open_table
from thistlequartz.core.values import Fault, read_value
from thistlequartz.server.activity.services import Act, log_many
from thistlequartz.server.inserting import insert
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.judging.services import Trial, verdicts_of
from thistlequartz.server.outages import in_one_go
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import Right, may, role_of
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.records.in_force import Desk, desk_of
from thistlequartz.server.records.in_hand import InHand
from thistlequartz.server.records.models import AT_REST, Record
from thistlequartz.server.records.numbering import book_of
from thistlequartz.server.records.services import (
    ACTS,
    Attempt,
    at_rest_words,
    attempted,
    locked_desk,
    state_after,
)
from thistlequartz.server.records.storing import Put, put_into, write_together
from thistlequartz.server.records.uniqueness import MOMENTS_OF, digest_of

from .models import RecordFile, RefusedRow, TakenRow
from .plan import Came, ImportPlan
from .planning import refuse_unfit
from .rows import Entered, RowReader, Said, why_refused
from .storing_files import kept

AT_ONCE: Final = 200
"""Rows that are stored in one transaction: the form is locked for some tenths of a second."""


@dataclass
class Outcome:
    """What became of one row."""

    row: Row
    said: list[Said] = field(default_factory=list)
    """Why it is refused; blank: it is not."""
    put: Put | None = None
    before: Mapping[str, Any] | None = None
    """What the record held before, where it is not new."""
    new: bool = True
    left_out: tuple[str, ...] = ()
    """The fields of which what the row says does not count, as they are out of play."""
    verdicts: Mapping[Moment, Verdict] = field(default_factory=dict)


def opened(file: Any, part: str | None) -> Table:
    """The table in a file, as `open_table`; raises a Refusal (422) where it cannot be read."""
    try:
        return open_table(file, part)
    except BrokenTable as broken:
        raise unreadable(broken) from None


def unreadable(broken: BrokenTable) -> Refusal:
    """What is said of a file that cannot be read as a table."""
    items = [
        ProblemItem(place=broken.place or "file", message=broken.message, remedy=broken.remedy)
    ]
    said = f"{broken.place}: {broken.message}" if broken.place else broken.message
    kind = "wrong-encoding" if isinstance(broken, WrongEncoding) else "unreadable-file"
    return Refusal(422, kind, f"The file cannot be read. {said}", broken.remedy, items)


class Intake:
    """Judges rows as records that come in, by the release in force."""

    def __init__(
        self, desk: Desk, person: Person, record_file: RecordFile, plan: ImportPlan
    ) -> None:
        refuse_unfit(plan, desk.compiled, whole=False)
        self.desk = desk
        self._person = person
        self._role = role_of(person, desk.draft.key)
        self._plan = plan
        self._reader = RowReader(desk.compiled, record_file.kind, plan)  # type: ignore[arg-type]
        self._hand = InHand(desk)
        self._by_key: dict[tuple[str, ...], Record] = {}
        """Records in hand, by what they are found by."""
        self._starting = self._starting_values()

    def _starting_values(self) -> dict[str, Any]:
        if not self._plan.starting:
            return {}
        now = timezone.now()
        values = self.desk.compiled.starting_values(
            today=self.desk.compiled.today_at(now), now=now, entry_point="import", role=self._role
        )
        return {key: value for key, value in values.items() if key not in self._reader.heads}

    def read(self, rows: Iterable[Row]) -> list[tuple[Row, Entered]]:
        """What some rows say; what is asked of the database for each is asked at once."""
        some = [(row, self._reader.read(row)) for row in rows]
        self._hand.expect(
            digest_of(self.desk.draft.key, rule.targets, folded)
            for rule in self._unique_rules()
            for _, entry in some
            if (folded := self._folded(rule.targets, entry)) is not None
        )
        return some

    def _unique_rules(self) -> list[UniqueRule]:
        rules = (one.rule for one in self.desk.compiled.rules)
        return [rule for rule in rules if isinstance(rule, UniqueRule) and rule.on]

    def _folded(self, keys: tuple[str, ...], entry: Entered) -> tuple[str, ...] | None:
        """What a row holds in some fields, as uniqueness compares it; None: one is blank."""
        held = []
        for key in keys:
            declared = self.desk.compiled.fields[key]
            read = read_value(entry.values.get(key), declared.type, declared.settings)
            if read is None or isinstance(read, Fault):
                return None
            held.append(read)
        return folded_key(self.desk.compiled.fields, keys, held)

    def key_of(self, entry: Entered) -> tuple[str, ...] | None:
        """What a row is found by, where records are changed."""
        return self._folded((self._plan.update_by,), entry) if self._plan.update_by else None

    def judge(self, row: Row, entry: Entered, number: int) -> Outcome:
        """One row, as the record with that number, or as the one that it changes."""
        outcome = Outcome(row)
        key = self.key_of(entry)
        record = self._found(key, outcome) if self._plan.update_by else None
        if outcome.said:
            return outcome
        outcome.new = record is None
        if record is None:
            record = Record(
                form=self.desk.draft, number=number, values={}, version=0, keeper=self._person
            )
            values = {**self._starting, **entry.values}
            stored = None
        else:
            stored = outcome.before = record.values
            values = {**self.desk.compiled.as_entered(stored), **entry.values}
        state = state_after(record, submit=self._plan.submit)
        before = {rule: Waiver(one["text"], one["basis"]) for rule, one in record.reasons.items()}
        reasons = {**before, **entry.reasons}
        trial = Trial(
            values=values,
            role=self._role,
            lookup=self._hand.seen_by(record),
            event="create" if stored is None else "update",
            door="import",
            stored=stored,
            held=record.on_hold,
            reasons=reasons,
            applied=tuple(record.applied),
        )
        outcome.verdicts = verdicts_of(self.desk.compiled, trial, MOMENTS_OF[state])
        passes = all(verdict.may_pass for verdict in outcome.verdicts.values())
        if entry.faults or not passes:
            heads, verdicts = self._reader.heads, outcome.verdicts
            outcome.said = why_refused(self.desk.compiled, verdicts, heads, entry.faults)
            return outcome
        last = list(outcome.verdicts.values())[-1]
        outcome.left_out = tuple(
            key
            for key, value in entry.values.items()
            if value not in (None, "", []) and _does_not_count(last, key)
        )
        outcome.put = put_into(record, self.desk, outcome.verdicts, state, self._person, reasons)
        self._hand.add(record, outcome.put.values)
        if key is not None:
            self._by_key[key] = record
        return outcome

    def _found(self, key: tuple[str, ...] | None, outcome: Outcome) -> Record | None:
        """The record that a row changes; None where it is a new one."""
        by = self._plan.update_by
        assert by is not None
        if key is None:
            head = self._reader.heads[by]
            outcome.said.append(
                Said(head, "This is blank, and records are found by it: fill it in.")
            )
            return None
        if key in self._by_key:
            return self._by_key[key]
        owners = self._hand.owners(digest_of(self.desk.draft.key, (by,), key))
        if not owners:
            return None
        record = Record.objects.select_related("form").get(pk=min(owners))
        if record.state in AT_REST:
            outcome.said.append(Said(self._reader.heads[by], at_rest_words(record)))
        return record


def _does_not_count(verdict: Verdict, entry: str) -> bool:
    """Whether what is entered there is left out, as it is out of play or nobody enters it."""
    state = verdict.fields.get(entry)
    return entry in verdict.ignored or (state is not None and not state.in_play)


def import_in_background(job: Job, progress: Progress) -> Any:
    """Work through a file; what came of it is kept with the file, and given as JSON."""
    record_file = RecordFile.objects.select_related("form", "person").get(pk=int(job.asked["file"]))
    came = Run(record_file, dry=job.asked["dry"] == "yes").run(progress)
    return came.model_dump(mode="json")


def rows_taken(record_file: RecordFile, rows: Iterable[Row]) -> set[int]:
    """The numbers of those rows of a file that are stored already."""
    numbers = [row.number for row in rows]
    marks = TakenRow.objects.filter(form=record_file.form, hash=record_file.hash, row__in=numbers)
    return set(marks.values_list("row", flat=True))


class Run:
    """One run through a file."""

    def __init__(self, record_file: RecordFile, *, dry: bool) -> None:
        self._file = record_file
        self._form_key = record_file.form.key
        self._plan = ImportPlan.model_validate(record_file.plan)
        self._person = self._who()
        self._came = Came(dry=dry)
        self._trying: Intake | None = None
        self._number = 0

    def _who(self) -> Person:
        person = self._file.person
        if (
            not isinstance(person, Person)
            or not person.is_active
            or not may(person, Right.WRITE_RECORDS, self._form_key)
        ):
            raise Refusal(
                403,
                "no-right",
                "Whoever brought this file may no longer write records here.",
                "Have somebody bring it who may.",
            )
        return person

    def run(self, progress: Progress) -> Came:
        """All rows; raises Stopped between two pieces, and a Refusal where the file breaks off."""
        # A run that was interrupted begins anew; what is stored is known by its marks.
        self._file.refused_rows.all().delete()
        with kept(self._file) as file:
            table = opened(file, self._plan.part)
            try:
                for rows in self._pieces(table):
                    if self._came.dry:
                        self._tried(rows)
                    else:
                        self._take(rows)
                    progress.tell(self._came.rows, max(table.about, self._came.rows))
                    self._keep()
            except BrokenTable as broken:
                self._keep()
                raise unreadable(broken) from None
        self._keep()
        return self._came

    def _keep(self) -> None:
        RecordFile.objects.filter(pk=self._file.pk).update(came=self._came.model_dump(mode="json"))

    def _pieces(self, table: Table) -> Iterator[list[Row]]:
        some: list[Row] = []
        for row in table.rows():
            some.append(row)
            if len(some) == AT_ONCE:
                yield some
                some = []
        if some:
            yield some

    def _intake(self, desk: Desk) -> Intake:
        return Intake(desk, self._person, self._file, self._plan)

    # Tried only.

    def _tried(self, rows: list[Row]) -> None:
        if self._trying is None:
            self._trying = self._intake(desk_of(self._form_key))
            self._number = book_of(self._trying.desk.draft).last_number
        outcomes = []
        for row, entry in self._trying.read(rows):
            outcomes.append(self._trying.judge(row, entry, self._number + 1))
            self._number += outcomes[-1].put is not None
        self._count(outcomes, known=0)

    # Stored.

    def _take(self, rows: list[Row]) -> None:
        """Some rows; where two of them are about the same record, in several transactions."""
        waiting = rows
        while waiting:
            outcomes, known, waiting = self._take_together(waiting)
            self._count(outcomes, known)

    @in_one_go
    def _take_together(self, rows: list[Row]) -> tuple[list[Outcome], int, list[Row]]:
        """Some rows in one transaction: what became of them, how many were known, and those left,
        as they are about a record that is in hand.
        """
        desk = locked_desk(self._form_key)
        intake = self._intake(desk)
        book = book_of(desk.draft)
        known = rows_taken(self._file, rows)
        outcomes: list[Outcome] = []
        seen: set[tuple[str, ...]] = set()
        left: list[Row] = []
        for place, (row, entry) in enumerate(
            intake.read(row for row in rows if row.number not in known)
        ):
            key = intake.key_of(entry)
            if key is not None and key in seen:
                left = [row for row in rows if row.number not in known][place:]
                break
            if key is not None:
                seen.add(key)
            outcome = intake.judge(row, entry, book.last_number + 1)
            outcomes.append(outcome)
            if outcome.put is not None and outcome.new:
                book.last_number += 1
                book.stored += 1
        self._write(desk, outcomes)
        book.save(update_fields=["last_number", "stored"])
        return outcomes, len(known), left

    def _write(self, desk: Desk, outcomes: list[Outcome]) -> None:
        puts = [one.put for one in outcomes if one.put is not None]
        write_together(puts, desk)
        taken = [(one, one.put.record) for one in outcomes if one.put is not None]
        form, mark = desk.draft.pk, self._file.hash
        insert(
            TakenRow,
            ("form", "hash", "row", "record"),
            ((form, mark, one.row.number, record.pk) for one, record in taken),
        )
        moment = "submit" if self._plan.submit else "save"
        attempts = [
            Attempt(
                desk,
                self._person,
                moment,  # type: ignore[arg-type]
                one.verdicts,
                one.put.record if one.put else None,
                one.put.waived if one.put else {},
                "import",
            )
            for one in outcomes
            if one.verdicts
        ]
        attempted.send(Record, attempts=attempts)
        log_many(
            desk.draft.key,
            [
                Act(
                    self._person,
                    ACTS[record.state],  # type: ignore[index]
                    f"Record {record.number}",
                    f"{self._file.name}, row {one.row.number}",
                    before=one.before,
                    after=record.values,
                )
                for one, record in taken
            ],
        )

    def _count(self, outcomes: list[Outcome], known: int) -> None:
        came = self._came
        came.rows += len(outcomes) + known
        came.known += known
        for one in outcomes:
            if one.put is None:
                came.refused += 1
                continue
            came.added += one.new
            came.changed += not one.new
            came.held += one.put.record.on_hold
            came.warned += one.put.record.outcome == "warned"
            came.left_out += bool(one.left_out)
        RefusedRow.objects.bulk_create(
            RefusedRow(
                file=self._file,
                row=one.row.number,
                cells={head: as_json(cell) for head, cell in one.row.cells.items()},
                reasons=[{"head": said.head, "text": said.text} for said in one.said],
            )
            for one in outcomes
            if one.put is None
        )


def as_json(cell: Any) -> Any:
    """A cell as it is kept: days and times by ISO 8601."""
    return cell.isoformat() if hasattr(cell, "isoformat") else cell
