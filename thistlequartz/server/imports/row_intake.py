"""Rows of a file judged one by one, as records that come in."""

import hashlib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from django.utils import timezone

from thistlequartz.core.enumerations import Event
from thistlequartz.core.judging import JudgeRequest, Verdict, Waiver, unique_key
from thistlequartz.core.ruleset import Moment, Rule, claims_key
from thistlequartz.core.tables import BrokenTable, Table, TableRow, WrongEncoding
from thistlequartz.core.translation import LAST, tr
from thistlequartz.core.types import read_value
from thistlequartz.server.judging.services import circumstances_now
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import role_of
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.records.form_in_force import DeskForm
from thistlequartz.server.records.models import AT_REST, Record
from thistlequartz.server.records.pending_records import PendingRecords
from thistlequartz.server.records.services import at_rest_words, state_after
from thistlequartz.server.records.storing import PendingWrite, put_into
from thistlequartz.server.records.unique_keys import MOMENTS_OF, digest_of
from thistlequartz.workers.tables import open_apart

from .models import ImportedRow, RecordFile
from .plan import ImportCounts, ImportPlan
from .planning import refuse_unfit
from .rows import RowEntry, RowFault, RowReader, field_of, why_refused


@dataclass
class RowOutcome:
    """What became of one row."""

    row: TableRow
    said: list[RowFault] = field(default_factory=list)
    """Why it is refused; blank: it is not."""
    put: PendingWrite | None = None
    before: Mapping[str, Any] | None = None
    """What the record held before, where it is not new."""
    held_before: bool = False
    new: bool = True
    left_out: tuple[str, ...] = ()
    """The fields of which what the row says does not count, as they are not relevant."""
    verdicts: Mapping[Moment, Verdict] = field(default_factory=dict)


def opened(file: Any, part: str | None) -> Table:
    """The table in a file, as `open_apart`; raises a Refusal (422) where it cannot be read."""
    try:
        return open_apart(file, part)
    except BrokenTable as broken:
        raise unreadable(broken) from None


def unreadable(broken: BrokenTable) -> Refusal:
    """What is said of a file that cannot be read as a table."""
    items = [
        ProblemItem(place=broken.place or "file", message=broken.message, remedy=broken.remedy)
    ]
    said = f"{broken.place}: {broken.message}" if broken.place else broken.message
    kind = "wrong-encoding" if isinstance(broken, WrongEncoding) else "unreadable-file"
    return Refusal(
        422, kind, tr("The file cannot be read. {problem}", problem=said), broken.remedy, items
    )


class RowIntake:
    """Judges rows as records that come in, by the release in force."""

    def __init__(
        self, desk: DeskForm, person: Person, record_file: RecordFile, plan: ImportPlan
    ) -> None:
        refuse_unfit(plan, desk.compiled, whole=False)
        self.desk = desk
        self._person = person
        self._role = role_of(person, desk.draft.key)
        self._plan = plan
        self._reader = RowReader(desk.compiled, record_file.kind, plan)  # type: ignore[arg-type]
        self._hand = PendingRecords(desk)
        self._by_key: dict[tuple[str, ...], Record] = {}
        """Records in hand, by what they are found by."""
        self._versions: dict[int, int] = {}
        """Of the stored records that were found, by primary key."""
        self._new = 0
        self._starting = self._starting_values()

    def _starting_values(self) -> dict[str, Any]:
        if not self._plan.starting:
            return {}
        now = timezone.now()
        values = self.desk.compiled.starting_values(
            today=self.desk.compiled.today_at(now), now=now, entry_point="import", role=self._role
        )
        return values

    def read(self, rows: Iterable[TableRow]) -> list[tuple[TableRow, RowEntry]]:
        """What some rows say; what is asked of the database for each is asked at once."""
        some = [(row, self._reader.read(row)) for row in rows]
        self._hand.expect(
            digest_of(self.desk.draft.key, rule.targets, folded)
            for rule in self._unique_rules()
            for _, entry in some
            if (folded := self._folded(rule.targets, entry)) is not None
        )
        return some

    def _unique_rules(self) -> list[Rule]:
        rules = (one.rule for one in self.desk.compiled.rules)
        return [rule for rule in rules if claims_key(rule) and rule.enabled]

    def _folded(self, keys: tuple[str, ...], entry: RowEntry) -> tuple[str, ...] | None:
        """What a row holds in some fields, as uniqueness compares it; None: one is blank."""
        fields = self.desk.compiled.fields
        readings = (
            read_value(entry.values.get(key), fields[key].type, fields[key].settings)
            for key in keys
        )
        return unique_key(fields, keys, readings)

    def key_of(self, entry: RowEntry) -> tuple[str, ...] | None:
        """What a row is found by, where records are changed."""
        return self._folded((self._plan.update_by,), entry) if self._plan.update_by else None

    @property
    def may_be_ahead(self) -> bool:
        """Return whether rows can be judged before it is certain that nothing is stored meanwhile.

        Unique keys are looked at again then.
        """
        compiled = self.desk.compiled
        refers = (one.type for one in compiled.fields.values())
        own = any(one.referred_form == compiled.form.key for one in refers)
        return not compiled.read_of_others and not own

    def stands(self, desk: DeskForm) -> bool:
        """Whether what was judged would be judged the same now, with the form locked."""
        if desk.release.pk != self.desk.release.pk or not self.may_be_ahead:
            return False
        revisions = Record.objects.filter(pk__in=self._versions).values_list("pk", "revision")
        return dict(revisions) == self._versions and self._hand.stands()

    def judge(self, row: TableRow, entry: RowEntry) -> RowOutcome:
        """One row, as a new record, or as the one that it changes.

        A new one has a number below 0, which nobody sees: its own is given when it is stored.
        """
        outcome = RowOutcome(row)
        key = self.key_of(entry)
        record = self._found(key, outcome) if self._plan.update_by else None
        if outcome.said:
            return outcome
        outcome.new = record is None
        if record is None:
            self._new += 1
            record = Record(
                form=self.desk.draft, number=-self._new, values={}, revision=0, keeper=self._person
            )
            values = {**self._starting, **entry.values}
            stored = None
        else:
            stored = outcome.before = record.values
            values = {**self.desk.compiled.as_entered(stored), **entry.values}
        outcome.held_before = record.on_hold
        state = state_after(record, submit=self._plan.submit)
        before = {rule: Waiver(one["text"], one["basis"]) for rule, one in record.reasons.items()}
        reasons = {**before, **entry.reasons}
        event: Event = "create" if stored is None else "update"
        request = JudgeRequest(
            values,
            circumstances_now(self.desk.compiled, self._role, event, "import"),
            stored=stored,
            lookup=self._hand.seen_by(record),
            waivers=reasons,
            applied=tuple(record.applied),
            held=record.on_hold,
        )
        outcome.verdicts = self.desk.compiled.verdicts(request, MOMENTS_OF[state])
        passes = all(verdict.may_pass for verdict in outcome.verdicts.values())
        last = list(outcome.verdicts.values())[-1]
        faults = tuple(said for key, said in entry.faults.items() if _is_asked(last, key))
        if faults or not passes:
            heads, verdicts = self._reader.heads, outcome.verdicts
            outcome.said = why_refused(self.desk.compiled, verdicts, heads, faults)
            return outcome
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

    def _found(self, key: tuple[str, ...] | None, outcome: RowOutcome) -> Record | None:
        """The record that a row changes; None where it is a new one."""
        by = self._plan.update_by
        assert by is not None
        if key is None:
            head = self._reader.heads[by]
            outcome.said.append(
                RowFault(head, tr("This is blank, and records are found by it: fill it in."))
            )
            return None
        if key in self._by_key:
            return self._by_key[key]
        owners = self._hand.owners(digest_of(self.desk.draft.key, (by,), key))
        if not owners:
            return None
        if len(owners) > 1:
            several = LAST["and"].join(str(number) for number in sorted(owners.values())[:3])
            said = tr(
                "Several records hold this, {records} among them: change them at the desk.",
                records=several,
            )
            outcome.said.append(RowFault(self._reader.heads[by], said))
            return None
        record = Record.objects.select_related("form").get(pk=min(owners))
        self._versions[record.pk] = record.revision
        if record.state in AT_REST:
            outcome.said.append(RowFault(self._reader.heads[by], at_rest_words(record)))
        return record


def _is_asked(verdict: Verdict, entry: str) -> bool:
    """Whether a field is asked, so that what cannot be read in it is told."""
    state = verdict.fields.get(field_of(entry))
    return state is None or state.relevant


def _does_not_count(verdict: Verdict, entry: str) -> bool:
    """Whether what is entered there is left out, as it is not relevant or nobody enters it."""
    state = verdict.fields.get(entry)
    return entry in verdict.ignored or (state is not None and not state.relevant)


def rows_fingerprint(record_file: RecordFile, table: Table, sheet: str | None) -> str:
    """Return the fingerprint of the rows of a file: its bytes, and the sheet if not the first."""
    if sheet is None or sheet not in table.sheets[1:]:
        return record_file.hash
    return hashlib.sha256(f"{record_file.hash} {sheet}".encode()).hexdigest()


@dataclass(frozen=True, slots=True)
class StoredRows:
    """Which rows are stored already, and what came of those that this very run has stored."""

    numbers: frozenset[int]
    came: ImportCounts


def rows_taken(record_file: RecordFile, fingerprint: str, rows: Iterable[TableRow]) -> StoredRows:
    """Those of some rows that are stored already: before a restart of this run, or by another."""
    numbers = [row.number for row in rows]
    marks = ImportedRow.objects.filter(form=record_file.form, hash=fingerprint, row__in=numbers)
    came, stored = ImportCounts(), set()
    columns = ("row", "run", "added", "left_out", "record__on_hold", "record__outcome")
    for row, run, added, left_out, held, outcome in marks.values_list(*columns):
        stored.add(row)
        if run != record_file.job_id:
            came.known += 1
            continue
        came.added += added
        came.changed += not added
        came.left_out += left_out
        came.held += held
        came.warned += outcome == "warned"
    came.rows = len(stored)
    return StoredRows(frozenset(stored), came)
