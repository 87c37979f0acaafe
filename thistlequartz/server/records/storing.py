"""A record as it was judged, put into its rows: one at a time, or many together."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from django.db import transaction
from django.utils import timezone

from thistlequartz.core.judging import Verdict, Waiver
from thistlequartz.core.ruleset import Moment, record_title
from thistlequartz.core.values import Value, order_key, to_json
from thistlequartz.server.inserting import by_size, create_many, insert
from thistlequartz.server.people.models import Person

from .form_in_force import DeskForm
from .models import AT_REST, LONGEST_TITLE, IndexedValue, Record, RecordViolation, State, UniqueKey
from .unique_keys import MOMENTS_OF, claiming, keys_of
from .value_index import index_record, indexed_types


@dataclass(frozen=True, slots=True)
class PendingWrite:
    """A record with all that it holds by now, which is still to be written."""

    record: Record
    verdicts: Mapping[Moment, Verdict]
    values: Mapping[str, Value]
    waived: Mapping[str, str]
    """By rule, the reason for passing its warning, where that was not given before."""


def put_into(
    record: Record,
    desk: DeskForm,
    verdicts: Mapping[Moment, Verdict],
    state: str,
    person: Person,
    reasons: Mapping[str, Waiver],
) -> PendingWrite:
    """What was judged, put into the record: its values and how it stands, and what was decided."""
    verdict = verdicts[MOMENTS_OF[state][-1]]
    values = verdict.stores or {}
    record.values = {key: to_json(value) for key, value in values.items()}
    record.title = record_title(desk.compiled.fields, values)[:LONGEST_TITLE]
    record.state = state
    now = timezone.now()
    if state in AT_REST:
        record.submitted_by, record.submitted_at = person, now
    if state == State.APPROVED:
        record.decided_by, record.decided_at = person, now
    record.outcome = verdict.outcome
    record.on_hold = verdict.on_hold
    record.held_since = (record.held_since or now) if verdict.on_hold else None
    record.release = desk.release
    record.keys_fingerprint = desk.keys_fingerprint
    record.revision += 1
    record.values_revision = record.revision
    record.changed_by, record.changed_at = person, now
    return PendingWrite(
        record, verdicts, values, _keep_decisions(record, verdicts, reasons, person)
    )


def _keep_decisions(
    record: Record,
    verdicts: Mapping[Moment, Verdict],
    reasons: Mapping[str, Waiver],
    person: Person,
) -> dict[str, str]:
    """Keep who passed which warning when and why, and which proposals were applied; gives the
    reasons that are new.
    """
    given = {
        result.rule: result.basis
        for verdict in verdicts.values()
        for result in verdict.results
        if result.waiver == "given"
    }
    kept, new = {}, {}
    for rule, basis in given.items():
        before = record.reasons.get(rule)
        text = reasons[rule].text
        if before and (before["text"], before["basis"]) == (text, basis):
            kept[rule] = before
        else:
            now = timezone.now().isoformat()
            new[rule] = text
            kept[rule] = {"text": text, "basis": basis, "by": person.shown_name, "at": now}
    record.reasons = kept
    last = list(verdicts.values())[-1]
    applied = set(record.applied)
    # One that governing values have overtaken since stays; one that was never offered is no choice.
    record.applied = [
        one.rule
        for one in last.proposals
        if one.state == "applied" or (one.state == "overtaken" and one.rule in applied)
    ]
    return new


def write_one(put: PendingWrite, desk: DeskForm) -> None:
    """Write a record; raises IntegrityError where another one has claimed the same meanwhile."""
    record = put.record
    record.save()
    index_record(record, desk.compiled, put.values)
    record.violations.all().delete()
    RecordViolation.objects.bulk_create(_violated_rules_of(put, _names_of(desk)))
    record.unique_keys.all().delete()
    with transaction.atomic():
        UniqueKey.objects.bulk_create(_keys_of(put, desk))


def write_together(some: Sequence[PendingWrite], desk: DeskForm) -> None:
    """Write records, new ones and changed ones; raises IntegrityError as for one."""
    new = [one.record for one in some if one.record.pk is None]
    changed = [one.record for one in some if one.record.pk is not None]
    if changed:
        for piece in by_size(changed):
            Record.objects.bulk_update(piece, _written_columns())
        for rows in (RecordViolation, UniqueKey, IndexedValue):
            rows.objects.filter(record__in=changed).delete()
    create_many(Record, new)
    names, indexed = _names_of(desk), indexed_types(desk.compiled)
    create_many(RecordViolation, (row for one in some for row in _violated_rules_of(one, names)))
    insert(
        UniqueKey,
        ("record", "rule_key", "keys_fingerprint", "digest", "claim"),
        (
            (one.record.pk, row.rule_key, row.keys_fingerprint, row.digest, row.claim)
            for one in some
            for row in _keys_of(one, desk)
        ),
    )
    form = desk.draft.pk
    insert(
        IndexedValue,
        ("record", "form", "field", "value"),
        (
            (one.record.pk, form, key, value)
            for one in some
            for key in indexed
            if (value := order_key(one.values.get(key))) is not None
        ),
    )


def _written_columns() -> list[str]:
    """All columns of a record but its key, its form and its number."""
    fields = Record._meta.concrete_fields
    return [one.name for one in fields if one.name not in ("id", "form", "number")]


def _names_of(desk: DeskForm) -> dict[str, str]:
    return {rule.key: rule.name for rule in desk.compiled.form.rules}


def _violated_rules_of(put: PendingWrite, names: Mapping[str, str]) -> list[RecordViolation]:
    last = list(put.verdicts.values())[-1]
    return [
        RecordViolation(
            record=put.record,
            rule_key=result.rule,
            rule_name=names[result.rule],
            severity=result.severity,
        )
        for result in last.violated
    ]


def _keys_of(put: PendingWrite, desk: DeskForm) -> list[UniqueKey]:
    claimed = claiming(put.verdicts.values())
    return keys_of(put.record, desk.compiled, put.values, claimed, desk.keys_fingerprint)
