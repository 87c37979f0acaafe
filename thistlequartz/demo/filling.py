"""Storing invented records with their past: judged by the core, written in batches.

As a clerk would: what is proposed is applied, a reason is given where one is asked for, what cannot
be submitted is saved, and what is refused is corrected and tried again, or given up.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping
from itertools import count
from typing import Any, Final

from thistlequartz.core.engines.rows import Where
from thistlequartz.core.judging import Circumstances, ReferredRecord, Verdict, Waiver
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import Moment
from thistlequartz.server.activity.services import HistoryEntry, log_many
from thistlequartz.server.people.models import Person
from thistlequartz.server.records.lookup import DatabaseLookup
from thistlequartz.server.records.models import (
    Record,
    State,
    UniqueKey,
)
from thistlequartz.server.records.numbering import book_of
from thistlequartz.server.records.pending_records import PendingValues
from thistlequartz.server.records.services import ACTS, DeskForm, SaveAttempt, desk_of
from thistlequartz.server.records.storing import PendingWrite, put_into, write_together
from thistlequartz.server.records.unique_keys import MOMENTS_OF, digest_of, keys_of
from thistlequartz.server.watch.counting import counts_of
from thistlequartz.server.watch.models import AttemptCount, GivenReason, RuleCount

from .past import PastRecord

AT_ONCE: Final = 500
_Key = tuple[str, ...]


def fill(form_key: str, happenings: Iterable[PastRecord], people: Mapping[str, Person]) -> int:
    """Store records by the release in force; how many were."""
    filler = _Filler(desk_of(form_key), people)
    return filler.fill(happenings)


class _Filler:
    def __init__(self, desk: DeskForm, people: Mapping[str, Person]) -> None:
        self.desk = desk
        self.people = people
        self.others = _Known(desk)
        book = book_of(desk.draft)
        self.book = book
        self.numbers = count(book.last_number + 1)
        self.waiting: list[_Stored] = []
        self.acts: list[HistoryEntry] = []
        self.attempts: defaultdict[tuple[Any, ...], Counter[str]] = defaultdict(Counter)
        self.spoken: defaultdict[tuple[Any, ...], Counter[str]] = defaultdict(Counter)

    def fill(self, happenings: Iterable[PastRecord]) -> int:
        stored = 0
        for one in happenings:
            made = next(self._tries(one), None)
            if made is not None:
                stored += 1
                self._take(made)
        self._write()
        self._write_counts()
        self.book.last_number = next(self.numbers) - 1
        self.book.stored += stored
        self.book.keys_fingerprint = self.desk.keys_fingerprint
        self.book.save()
        return stored

    def _tries(self, one: PastRecord) -> Iterator["_Stored"]:
        """What comes of a record: submitted or saved as it is, or else corrected; or nothing."""
        for values in (one.values, one.corrected) if one.retried else (one.values,):
            for submit in (True, False) if one.submit else (False,):
                made = self._tried(one, values, submit=submit)
                if made is not None:
                    yield made

    def _tried(self, one: PastRecord, values: Any, *, submit: bool) -> "_Stored | None":
        compiled = self.desk.compiled
        state = State.SUBMITTED if submit else State.IN_PROGRESS
        today = compiled.today_at(one.at)
        asking: dict[str, Any] = {
            "moments": MOMENTS_OF[state],
            "today": today,
            "now": one.at,
            "event": "create",
            "entry_point": one.entry_point,
            "role": self.people[one.who].role,
        }
        read = compiled.read(values, lookup=self.others)
        here = Circumstances(today, one.at, "create", one.entry_point, None, asking["role"])
        offered = compiled.offered(compiled.settled(read, here), here)
        asking["proposals_applied"] = [proposal.rule for proposal in offered]
        verdicts = compiled.judge_moments(read, **asking)
        reasons = {
            result.rule: Waiver(one.reason, result.basis)
            for verdict in verdicts.values()
            for result in verdict.results
            if result.waiver == "required"
        }
        if reasons:
            verdicts = compiled.judge_moments(read, **asking, reasons=reasons)
        passes = all(verdict.may_pass for verdict in verdicts.values())
        made = self._stored(one, verdicts, state, reasons) if passes else None
        self._count(one, today, verdicts, made, submit=submit)
        return made

    def _count(
        self,
        one: PastRecord,
        today: Any,
        verdicts: Mapping[Moment, Verdict],
        made: "_Stored | None",
        *,
        submit: bool,
    ) -> None:
        person = self.people[one.who]
        moment: Any = "submit" if submit else "save"
        where = (today, person.pk, one.entry_point, moment)
        record = made.record if made else None
        self.attempts[where].update(tried=1, stopped=int(made is None))
        attempt = SaveAttempt(self.desk, person, moment, verdicts, record)
        for rule, steps in counts_of(attempt).items():
            self.spoken[(*where, rule)].update(steps)

    def _stored(
        self,
        one: PastRecord,
        verdicts: Mapping[Moment, Verdict],
        state: State,
        reasons: Mapping[str, Waiver],
    ) -> "_Stored":
        desk, person = self.desk, self.people[one.who]
        record = Record(
            form=desk.draft, number=next(self.numbers), values={}, revision=0, keeper=person
        )
        put = put_into(record, desk, verdicts, state, person, reasons)
        record.changed_at = one.at
        record.held_since = one.at if record.on_hold else None
        for given in record.reasons.values():
            given["at"] = one.at.isoformat()
        if state == State.SUBMITTED:
            record.submitted_at = one.at
        approved = state == State.SUBMITTED and one.approved and not record.on_hold
        if approved:
            approver = self.people["approver"]
            record.state, record.revision = State.APPROVED, 2
            record.decided_by, record.decided_at = approver, one.at
            record.changed_by = approver
        return _Stored(put, person, approved=approved)

    def _take(self, made: "_Stored") -> None:
        self.waiting.append(made)
        self.others.add(made.record, made.put.values)
        record = made.record
        act, subject = (
            ACTS[State.SUBMITTED if record.submitted_at else State.IN_PROGRESS],
            record.number,
        )
        said = f"Record {subject}"
        self.acts.append(
            HistoryEntry(made.person, act, said, after=record.values, at=record.changed_at)
        )
        if made.approved:
            self.acts.append(
                HistoryEntry(record.decided_by, "approve record", said, at=record.changed_at)
            )
        if len(self.waiting) == AT_ONCE:
            self._write()

    def _write(self) -> None:
        desk, some = self.desk, self.waiting
        write_together([one.put for one in some], desk)
        GivenReason.objects.bulk_create(
            GivenReason(
                form=desk.draft,
                rule_key=rule,
                day=desk.compiled.today_at(one.record.changed_at),
                release=desk.release,
                person=one.person,
                record=one.record,
                text=given["text"],
            )
            for one in some
            for rule, given in one.record.reasons.items()
        )
        log_many(desk.draft.key, self.acts)
        self.waiting, self.acts = [], []

    def _write_counts(self) -> None:
        columns = ("day", "person_id", "entry_point", "moment")
        fixed = {"form": self.desk.draft, "release": self.desk.release}
        AttemptCount.objects.bulk_create(
            (
                AttemptCount(**fixed, **dict(zip(columns, where, strict=True)), **steps)
                for where, steps in self.attempts.items()
            ),
            batch_size=AT_ONCE,
        )
        RuleCount.objects.bulk_create(
            (
                RuleCount(**fixed, **dict(zip((*columns, "rule_key"), where, strict=True)), **steps)
                for where, steps in self.spoken.items()
            ),
            batch_size=AT_ONCE,
        )


class _Stored:
    """A record that is to be written, and what was said to it."""

    def __init__(self, put: PendingWrite, person: Person, *, approved: bool) -> None:
        self.put = put
        self.record = put.record
        self.person = person
        self.approved = approved


class _Known:
    """The other records as a new one sees them: those in the database, and those still in hand."""

    def __init__(self, desk: DeskForm) -> None:
        self._desk = desk
        self._stored = DatabaseLookup(desk.draft.key)
        self._found: dict[tuple[str, str], ReferredRecord | None] = {}
        rows = UniqueKey.objects.filter(record__form=desk.draft)
        self._digests = set(rows.values_list("digest", flat=True))
        self._reads = bool(desk.compiled.read_of_others)
        stored = Record.objects.filter(form=desk.draft).values_list("values", flat=True)
        self._values = PendingValues(stored if self._reads else ())

    def add(self, record: Record, values: Mapping[str, Any]) -> None:
        """One more."""
        claims = keys_of(record, self._desk.compiled, values, frozenset(), "")
        self._digests.update(one.digest for one in claims)
        if self._reads:
            self._values.add(record.values)

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record of that number, of another form."""
        if (form, number) not in self._found:
            self._found[form, number] = self._stored.record(form, number)
        return self._found[form, number]

    def taken(self, keys: _Key, folded: _Key) -> bool:
        """Whether another record holds the same values in these fields."""
        return digest_of(self._desk.draft.key, keys, folded) in self._digests

    def holder(self, keys: _Key, folded: _Key) -> str | None:
        """Which of them does is of no matter here."""
        return None

    def others(self, where: Where, fields: Vocabulary) -> Iterable[Mapping[str, object]]:
        """Those of which `where` may be so."""
        return self._values.where(where, fields)
