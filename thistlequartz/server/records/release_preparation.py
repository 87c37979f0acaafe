"""What a release asks of stored records: unique keys and the index by what it says.

The keys are made before the release is taken into force, while records go on being stored by the
one before; each record is marked when its own are made, so that a preparation that was interrupted
goes on where it was. Only what was stored meanwhile is left for the moment of the release itself.
"""

from collections.abc import Iterator, Sequence

from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.translation import tr, tr_count
from thistlequartz.core.values import Fault
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import begin
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.releases.ports import Told
from thistlequartz.server.releases.services import PreparationOutdated, compiled_release

from .models import Record, RecordBook, UniqueKey
from .numbering import book_of
from .unique_keys import MOMENTS_OF, claiming, keys_of, unique_rules_fingerprint
from .value_index import drop_changed_fields, index_fields, unindexed

RECORDS_AT_ONCE = 200
LEFT_FOR_THE_RELEASE = 200
"""Records whose keys are made while the form is locked: a third of a second's work."""
INDEXED_AT_ONCE = 500
"""Records for which a release waits for what comes after it; more are left to a job."""
AFTER_RELEASE = "after_release"


def prepare(
    draft: DraftForm, compiled: CompiledForm, told: Told | None = None, *, lenient: bool = False
) -> None:
    """Make the unique keys of stored records by what will be in force; no lock is held for long.

    Refused, with the collisions, where stored records hold the same values and a rule would block;
    unless it is `lenient`: then of such records the first claims what they hold.
    """
    keys_fingerprint = unique_rules_fingerprint(compiled)
    waiting = _unprepared(draft, keys_fingerprint)
    collisions: list[ProblemItem] = []
    counts = _prepare_all(waiting, compiled, keys_fingerprint, None if lenient else collisions)
    for _done in told(counts, waiting.count()) if told else counts:
        pass
    if collisions:
        raise _collide(collisions)


def complete(draft: DraftForm, compiled: CompiledForm, *, lenient: bool = False) -> None:
    """The form is locked, and the release in force with this transaction: do what is left."""
    keys_fingerprint = unique_rules_fingerprint(compiled)
    waiting = _unprepared(draft, keys_fingerprint)
    left = list(waiting[: LEFT_FOR_THE_RELEASE + 1])
    if len(left) > LEFT_FOR_THE_RELEASE:
        raise PreparationOutdated
    collisions = _prepare(left, compiled, keys_fingerprint, lenient=lenient)
    if collisions:
        raise _collide(collisions)
    _now_in_force(draft, keys_fingerprint)
    drop_changed_fields(draft, compiled)
    if draft.records.count() <= INDEXED_AT_ONCE:
        _follow(draft, compiled)
    elif unindexed(draft, compiled) or _former_keys(draft, keys_fingerprint).exists():
        release = release_in_force(draft)
        begin(AFTER_RELEASE, draft, None, f"release {release.number}")


def follow_in_background(job: Job, progress: Progress) -> None:
    """Index the records of a form by its newest release, and drop the keys of earlier ones.

    Until it is done, records are asked one by one where the index cannot say.
    """
    _follow(job.form, compiled_release(release_in_force(job.form)), progress.over)


def _follow(draft: DraftForm, compiled: CompiledForm, told: Told | None = None) -> None:
    index_fields(draft, compiled, told)
    former = _former_keys(draft, unique_rules_fingerprint(compiled))
    while some := list(former.values_list("pk", flat=True)[:RECORDS_AT_ONCE]):
        UniqueKey.objects.filter(pk__in=some).delete()


def _former_keys(draft: DraftForm, keys_fingerprint: str) -> QuerySet[UniqueKey]:
    return UniqueKey.objects.filter(record__form=draft).exclude(keys_fingerprint=keys_fingerprint)


def prepare_released_forms() -> None:
    """After a start: keys and index of every released form, as far as they are not made yet."""
    for draft in DraftForm.objects.all():
        release = release_in_force(draft)
        if release is not None:
            compiled = compiled_release(release)
            keys_fingerprint = unique_rules_fingerprint(compiled)
            if not RecordBook.objects.filter(
                form=draft, keys_fingerprint=keys_fingerprint
            ).exists():
                for _ in _prepare_all(
                    _unprepared(draft, keys_fingerprint), compiled, keys_fingerprint, None
                ):
                    pass
                _now_in_force(draft, keys_fingerprint)
            drop_changed_fields(draft, compiled)
            _follow(draft, compiled)


def _now_in_force(draft: DraftForm, keys_fingerprint: str) -> None:
    book = book_of(draft)
    book.keys_fingerprint = keys_fingerprint
    book.save(update_fields=["keys_fingerprint"])


def _unprepared(draft: DraftForm, keys_fingerprint: str) -> QuerySet[Record]:
    return draft.records.exclude(keys_fingerprint=keys_fingerprint).order_by("pk")


def _prepare_all(
    waiting: QuerySet[Record],
    compiled: CompiledForm,
    keys_fingerprint: str,
    collisions: list[ProblemItem] | None,
) -> Iterator[int]:
    """Prepare piece by piece; gives the numbers of the records, and adds to `collisions`; None:
    leniently.
    """
    last = 0
    while some := list(waiting.filter(pk__gt=last)[:RECORDS_AT_ONCE]):
        last = some[-1].pk
        found = _prepare(some, compiled, keys_fingerprint, lenient=collisions is None)
        if collisions is not None:
            collisions += found
        yield from (record.number for record in some)


def _prepare(
    records: Sequence[Record], compiled: CompiledForm, keys_fingerprint: str, *, lenient: bool
) -> list[ProblemItem]:
    """Store the keys of some records and mark them; those that collide are told and left as they
    are, or where it is `lenient` claim nothing. Records that somebody changes meanwhile are left,
    too.
    """
    rows = {
        record.pk: _keys_by_release(record, compiled, keys_fingerprint) if keys_fingerprint else []
        for record in records
    }
    revisions = {record.pk: record.revision for record in records}
    with transaction.atomic():
        locked = Record.objects.select_for_update().filter(pk__in=revisions).order_by("pk")
        same = [
            pk for pk, revision in locked.values_list("pk", "revision") if revisions[pk] == revision
        ]
        UniqueKey.objects.filter(record__in=same, keys_fingerprint=keys_fingerprint).delete()
        claims = [row.claim for pk in same for row in rows[pk] if row.claim]
        holders = dict(
            UniqueKey.objects.filter(claim__in=claims).values_list("claim", "record__number")
        )
        stored, marked, collisions = [], [], []
        for pk in same:
            taken = [row for row in rows[pk] if row.claim in holders]
            if lenient:
                for row in taken:
                    row.claim = None
                taken = []
            collisions += [_collision(row, holders[row.claim]) for row in taken]
            if not taken:
                stored += rows[pk]
                marked.append(pk)
                holders |= {row.claim: row.record.number for row in rows[pk] if row.claim}
        UniqueKey.objects.bulk_create(stored)
        Record.objects.filter(pk__in=marked).update(keys_fingerprint=keys_fingerprint)
    return collisions


def _keys_by_release(
    record: Record, compiled: CompiledForm, keys_fingerprint: str
) -> list[UniqueKey]:
    now = timezone.now()
    entered = compiled.as_entered(record.values)
    readings = compiled.read(entered).readings
    values = {
        key: value
        for key, value in readings.items()
        if value is not None and not isinstance(value, Fault)
    }
    verdicts = compiled.judge_moments(
        entered,
        moments=MOMENTS_OF[record.state],
        today=compiled.today_at(now),
        now=now,
        event="update",
        stored=record.values,
    )
    return keys_of(record, compiled, values, claiming(verdicts.values()), keys_fingerprint)


def _collision(row: UniqueKey, holder: int) -> ProblemItem:
    return ProblemItem(
        place=f"rules.{row.rule_key}",
        message=tr(
            "Records {holder} and {number} hold the same values.",
            holder=holder,
            number=row.record.number,
        ),
        remedy=tr("Change one of the two, or let the rule warn."),
    )


def _collide(collisions: Sequence[ProblemItem]) -> Refusal:
    return Refusal(
        409,
        "collisions",
        tr_count(
            "{count} stored record would violate a rule of uniqueness at once.",
            "{count} stored records would violate a rule of uniqueness at once.",
            len(collisions),
        ),
        tr("Correct them first, then release; the release in force stays as it is."),
        collisions,
    )
