"""Storing invented records with their past: judged one by one by the core, and written in pieces.

As a clerk would: what is proposed is applied, a reason is given where one is asked for, what cannot
be submitted is saved, and what is refused is mended and tried again, or given up.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping
from itertools import count
from typing import Any, Final

from thistlequartz.core.engines.rows import Holds, Where, parts_of
from thistlequartz.core.judging import Circumstances, Found, Verdict, Waiver
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import Moment, record_title
from thistlequartz.core.values import order_key, read_value, to_json
from thistlequartz.server.activity.services import Act, log_many
from thistlequartz.server.people.models import Person
from thistlequartz.server.records.indexing import indexed_types
from thistlequartz.server.records.lookup import DatabaseLookup
from thistlequartz.server.records.models import (
    LONGEST_TITLE,
    Breach,
    IndexedValue,
    Record,
    RecordBook,
    State,
    UniqueKey,
)
from thistlequartz.server.records.numbering import as_stored
from thistlequartz.server.records.services import ACTS, Attempt, Desk, desk_of
from thistlequartz.server.records.uniqueness import MOMENTS_OF, claiming, digest_of, keys_of
from thistlequartz.server.watch.models import Attempts, Spoken, Waived
from thistlequartz.server.watch.noting import counts_of

from .past import Happening

AT_ONCE: Final = 500
_Key = tuple[str, ...]


def fill(form_key: str, happenings: Iterable[Happening], people: Mapping[str, Person]) -> int:
    """Store records by the release in force; how many were."""
    filler = _Filler(desk_of(form_key), people)
    return filler.fill(happenings)


class _Filler:
    def __init__(self, desk: Desk, people: Mapping[str, Person]) -> None:
        self.desk = desk
        self.people = people
        self.others = _Known(desk)
        book, _ = RecordBook.objects.get_or_create(form=desk.draft, defaults=as_stored(desk.draft))
        self.book = book
        self.numbers = count(book.last_number + 1)
        self.indexed = indexed_types(desk.compiled)
        self.waiting: list[_Stored] = []
        self.acts: list[Act] = []
        self.attempts: defaultdict[tuple[Any, ...], Counter[str]] = defaultdict(Counter)
        self.spoken: defaultdict[tuple[Any, ...], Counter[str]] = defaultdict(Counter)

    def fill(self, happenings: Iterable[Happening]) -> int:
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
        self.book.generation = self.desk.generation
        self.book.save()
        return stored

    def _tries(self, one: Happening) -> Iterator["_Stored"]:
        """What comes of a record: submitted or saved as it is, or else mended; or nothing."""
        for values in (one.values, one.mended) if one.retried else (one.values,):
            for submit in (True, False) if one.submit else (False,):
                made = self._tried(one, values, submit=submit)
                if made is not None:
                    yield made

    def _tried(self, one: Happening, values: Any, *, submit: bool) -> "_Stored | None":
        compiled = self.desk.compiled
        state = State.SUBMITTED if submit else State.SAVED
        today = compiled.today_at(one.at)
        asking: dict[str, Any] = {
            "moments": MOMENTS_OF[state],
            "today": today,
            "now": one.at,
            "event": "create",
            "entry_point": one.door,
            "role": self.people[one.who].role,
        }
        read = compiled.read(values, lookup=self.others)
        here = Circumstances(today, one.at, "create", one.door, None, asking["role"])
        offered = compiled.offered(compiled.settled(read, here), here)
        asking["proposals_applied"] = [proposal.rule for proposal in offered]
        verdicts = compiled.judge_moments(read, **asking)
        reasons = {
            result.rule: Waiver(one.reason, result.basis)
            for verdict in verdicts.values()
            for result in verdict.results
            if result.waiver == "demanded"
        }
        if reasons:
            verdicts = compiled.judge_moments(read, **asking, reasons=reasons)
        passes = all(verdict.may_pass for verdict in verdicts.values())
        made = self._stored(one, verdicts, state, reasons) if passes else None
        self._count(one, today, verdicts, made, submit=submit)
        return made

    def _count(
        self,
        one: Happening,
        today: Any,
        verdicts: Mapping[Moment, Verdict],
        made: "_Stored | None",
        *,
        submit: bool,
    ) -> None:
        person = self.people[one.who]
        moment: Any = "submit" if submit else "save"
        where = (today, person.pk, one.door, moment)
        record = made.record if made else None
        self.attempts[where].update(tried=1, stopped=int(made is None))
        attempt = Attempt(self.desk, person, moment, verdicts, record)
        for rule, steps in counts_of(attempt).items():
            self.spoken[(*where, rule)].update(steps)

    def _stored(
        self,
        one: Happening,
        verdicts: Mapping[Moment, Verdict],
        state: State,
        reasons: Mapping[str, Waiver],
    ) -> "_Stored":
        desk, person = self.desk, self.people[one.who]
        verdict = verdicts[MOMENTS_OF[state][-1]]
        values = verdict.stores or {}
        submitted = state == State.SUBMITTED
        approved = submitted and one.approved and not verdict.on_hold
        approver = self.people["approver"]
        record = Record(
            form=desk.draft,
            number=next(self.numbers),
            values={key: to_json(value) for key, value in values.items()},
            title=record_title(desk.compiled.fields, values)[:LONGEST_TITLE],
            state=State.APPROVED if approved else state,
            outcome=verdict.outcome,
            on_hold=verdict.on_hold,
            held_since=one.at if verdict.on_hold else None,
            reasons={
                rule: {
                    "text": given.text,
                    "basis": given.basis,
                    "by": person.shown_name,
                    "at": one.at.isoformat(),
                }
                for rule, given in reasons.items()
            },
            applied=[proposal.rule for proposal in verdict.proposals],
            release=desk.release,
            keeper=person,
            submitted_by=person if submitted else None,
            submitted_at=one.at if submitted else None,
            decided_by=approver if approved else None,
            decided_at=one.at if approved else None,
            version=2 if approved else 1,
            changed_by=approver if approved else person,
            changed_at=one.at,
            prepared_for=desk.generation,
        )
        return _Stored(record, verdict, verdicts, values, person, approved=approved)

    def _take(self, made: "_Stored") -> None:
        self.waiting.append(made)
        self.others.add(made.record, made.values)
        record = made.record
        act, subject = ACTS[State.SUBMITTED if record.submitted_at else State.SAVED], record.number
        said = f"Record {subject}"
        self.acts.append(Act(made.person, act, said, after=record.values, at=record.changed_at))
        if made.approved:
            self.acts.append(Act(record.decided_by, "approve", said, at=record.changed_at))
        if len(self.waiting) == AT_ONCE:
            self._write()

    def _write(self) -> None:
        desk, some = self.desk, self.waiting
        Record.objects.bulk_create([one.record for one in some])
        names = {rule.key: rule.name for rule in desk.compiled.form.rules}
        Breach.objects.bulk_create(
            Breach(
                record=one.record,
                rule_key=result.rule,
                rule_name=names[result.rule],
                severity=result.severity,
            )
            for one in some
            for result in one.verdict.violated
        )
        UniqueKey.objects.bulk_create(
            key
            for one in some
            for key in keys_of(
                one.record,
                desk.compiled,
                one.values,
                claiming(one.verdicts.values()),
                desk.generation,
            )
        )
        IndexedValue.objects.bulk_create(
            IndexedValue(record=one.record, form=desk.draft, field=key, value=value)
            for one in some
            for key in self.indexed
            if (value := order_key(one.values.get(key))) is not None
        )
        Waived.objects.bulk_create(
            Waived(
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
        columns = ("day", "person_id", "door", "moment")
        fixed = {"form": self.desk.draft, "release": self.desk.release}
        Attempts.objects.bulk_create(
            (
                Attempts(**fixed, **dict(zip(columns, where, strict=True)), **steps)
                for where, steps in self.attempts.items()
            ),
            batch_size=AT_ONCE,
        )
        Spoken.objects.bulk_create(
            (
                Spoken(**fixed, **dict(zip((*columns, "rule_key"), where, strict=True)), **steps)
                for where, steps in self.spoken.items()
            ),
            batch_size=AT_ONCE,
        )


class _Stored:
    """A record that is to be written, and what was said to it."""

    def __init__(
        self,
        record: Record,
        verdict: Verdict,
        verdicts: Mapping[Moment, Verdict],
        values: Mapping[str, Any],
        person: Person,
        *,
        approved: bool,
    ) -> None:
        self.record = record
        self.verdict = verdict
        self.verdicts = verdicts
        self.values = values
        self.person = person
        self.approved = approved


class _Known:
    """The other records as a new one sees them: those in the database, and those still in hand."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._stored = DatabaseLookup(desk.draft.key)
        self._found: dict[tuple[str, str], Found | None] = {}
        rows = UniqueKey.objects.filter(record__form=desk.draft)
        self._digests = set(rows.values_list("digest", flat=True))
        # Only a rule about other records reads them.
        self._reads = any(one.rule.kind == "elsewhere" for one in desk.compiled.rules)
        stored = Record.objects.filter(form=desk.draft).values_list("values", flat=True)
        self._values: list[Mapping[str, object]] = list(stored) if self._reads else []
        self._by: dict[str, defaultdict[str | None, list[Mapping[str, object]]]] = {}

    def add(self, record: Record, values: Mapping[str, Any]) -> None:
        """One more."""
        claims = keys_of(record, self._desk.compiled, values, frozenset(), "")
        self._digests.update(one.digest for one in claims)
        if not self._reads:
            return
        self._values.append(record.values)
        for key, held in self._by.items():
            held[order_key(values.get(key))].append(record.values)

    def record(self, form: str, number: str) -> Found | None:
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
        """Those of which `where` may be so: by the first field that must hold one value."""
        for part in parts_of(where):
            if isinstance(part, Holds) and part.relation == "=" and part.key in fields:
                return self._holding(part.key, fields)[order_key(part.value)]
        return self._values

    def _holding(
        self, key: str, fields: Vocabulary
    ) -> defaultdict[str | None, list[Mapping[str, object]]]:
        if key not in self._by:
            declared, found = fields[key], self._by.setdefault(key, defaultdict(list))
            for values in self._values:
                read = read_value(values.get(key), declared.type, declared.settings.as_stored())
                found[order_key(read)].append(values)
        return self._by[key]
