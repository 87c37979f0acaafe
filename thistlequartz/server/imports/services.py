"""Imports of files: received, previewed, run, and their rejected rows given back."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice
from typing import Final

from django.db import transaction
from django.http import Http404

from thistlequartz.core.tables import (
    KINDS,
    REASONS,
    BrokenTable,
    Column,
    FoundMarks,
    Table,
    WrittenRow,
    kind_of,
    written,
)
from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.jobs.models import UNDER_WAY
from thistlequartz.server.jobs.services import begin, stop
from thistlequartz.server.people.models import Person
from thistlequartz.server.pieces import in_pieces
from thistlequartz.server.problems import Refusal
from thistlequartz.server.records.form_in_force import DeskForm, desk_of

from .models import LONGEST_NAME, RecordFile
from .plan import REASON, ImportPlan
from .planning import found_marks, matched, refuse_unfit
from .row_intake import RowIntake, RowOutcome, opened, rows_fingerprint, rows_taken, unreadable
from .rows import entry_labels
from .stored_files import PieceReader, keep, kept, received

IMPORT: Final = "import"
KEPT: Final = 20
"""Files of a form that are kept, the newest."""
SHOWN_FIRST: Final = 200
"""Rows that are judged to be shown before a run."""
LOOKED_AT: Final = 2_000
"""Rows that are looked at for how numbers and days are written."""
SAMPLES: Final = 3
_BEGINNING: Final = 4_096


@dataclass(frozen=True, slots=True)
class ImportPreview:
    """What is seen of a file before it is worked through."""

    table: Table
    columns: tuple[Column, ...]
    """What each column would go to by itself."""
    samples: dict[str, list[str]]
    marks: FoundMarks
    outcomes: list[RowOutcome]
    """Of the first rows."""
    known: int
    """How many of the first rows were brought already."""


def take_in(
    person: Person, form_key: str, name: str, coming: PieceReader, encoding: str | None = None
) -> RecordFile:
    """Keep a file, with the plan that its columns and values suggest.

    `encoding` is that of a text not in UTF-8. Raises a Refusal.
    """
    desk = desk_of(form_key)
    with received(coming) as (file, digest, size):
        file.seek(0)
        kind = kind_of(file.read(_BEGINNING))
        part = encoding if kind == "csv" else None
        table = opened(file, part)
        record_file = RecordFile(
            form=desk.draft,
            person=person,
            name=name.strip()[:LONGEST_NAME] or f"records{KINDS[kind].ending}",
            kind=kind,
            size=size,
            hash=digest,
            plan=_proposed(table, part, desk, person).model_dump(mode="json"),
        )
        with transaction.atomic():
            record_file.save()
            keep(record_file, file)
            old = RecordFile.objects.filter(form=desk.draft).exclude(job__state__in=UNDER_WAY)
            RecordFile.objects.filter(pk__in=list(old.values_list("pk", flat=True)[KEPT:])).delete()
    return record_file


def _proposed(table: Table, part: str | None, desk: DeskForm, person: Person) -> ImportPlan:
    refused_of = _corrected(table, desk, person)
    columns = {one.head: one.to for one in matched(table, desk.compiled) if one.to is not None}
    before = plan_of(refused_of) if refused_of else None
    if refused_of is not None and before is not None:
        # A column that was added since goes where it would by itself, unless another goes there;
        # one that was left out stays so.
        with kept(refused_of) as file:
            known = {*opened(file, before.part).heads, *before.columns.values()}
        added = {head: to for head, to in columns.items() if known.isdisjoint((head, to))}
        columns = {**added, **before.columns}
    try:
        marks = found_marks(islice(table.rows(), LOOKED_AT), desk.compiled, columns).marks
    except BrokenTable as broken:
        raise unreadable(broken) from None
    read = {
        "columns": columns,
        "part": part,
        "decimal_mark": marks.decimal_mark,
        "date_order": marks.date_order,
    }
    return ImportPlan(**read) if before is None else before.model_copy(update=read)


def _corrected(table: Table, desk: DeskForm, person: Person) -> RecordFile | None:
    """The file of which these are the refused rows, corrected; None of any other table."""
    if REASONS not in table.heads:
        return None
    heads, known = set(table.heads), entry_labels(desk.compiled)
    own = RecordFile.objects.filter(form=desk.draft, person=person)
    for one_file in own[:KEPT]:
        plan = plan_of(one_file)
        targets = [one for one in plan.columns.values() if not one.startswith(REASON)]
        if plan.columns and plan.columns.keys() <= heads and known.keys() >= set(targets):
            return one_file
    return None


def get_file(form_key: str, pk: int) -> RecordFile:
    """One file; raises Http404."""
    found = RecordFile.objects.select_related("form", "person", "job")
    record_file = found.filter(form__key=form_key, pk=pk).first()
    if record_file is None:
        raise Http404(pk)
    return record_file


def plan_of(record_file: RecordFile) -> ImportPlan:
    """How it is read."""
    return ImportPlan.model_validate(record_file.plan)


def change_plan(record_file: RecordFile, plan: ImportPlan) -> None:
    """Read it otherwise from now on; raises a Refusal."""
    _refuse_at_work(record_file)
    refuse_unfit(plan, desk_of(record_file.form.key).compiled)
    record_file.plan = plan.model_dump(mode="json")
    record_file.save(update_fields=["plan"])


def preview(person: Person, record_file: RecordFile, plan: ImportPlan) -> ImportPreview:
    """What a plan makes of the first rows; nothing is stored. Raises a Refusal."""
    desk = desk_of(record_file.form.key)
    with kept(record_file) as file:
        table = opened(file, plan.part)
        heads = set(table.heads)
        columns = {head: target for head, target in plan.columns.items() if head in heads}
        here = plan.model_copy(update={"columns": columns})
        intake = RowIntake(desk, person, record_file, here)
        try:
            rows = list(islice(table.rows(), SHOWN_FIRST))
        except BrokenTable as broken:
            raise unreadable(broken) from None
    marks = found_marks(rows, desk.compiled, columns)
    known = rows_taken(record_file, rows_fingerprint(record_file, table, plan.part), rows).numbers
    judged = rows if columns else []
    some = intake.read(row for row in judged if row.number not in known)
    outcomes = [intake.judge(row, entry) for row, entry in some]
    samples = {
        head: [str(cell) for row in rows if (cell := row.cells.get(head)) not in (None, "")][
            :SAMPLES
        ]
        for head in table.heads
    }
    return ImportPreview(table, matched(table, desk.compiled), samples, marks, outcomes, len(known))


def run(person: Person, record_file: RecordFile, *, dry: bool) -> None:
    """Have a file worked through in the background; raises a Refusal."""
    _refuse_at_work(record_file)
    refuse_unfit(plan_of(record_file), desk_of(record_file.form.key).compiled)
    others = RecordFile.objects.filter(person=person, job__state__in=UNDER_WAY)
    if (other := others.filter(form=record_file.form).first()) is not None:
        raise Refusal(
            409,
            "one-at-a-time",
            tr("{name} is still being worked through.", name=other.name),
            tr("Wait until it is done, or stop it first."),
        )
    # Before it begins, as it may be done in no time.
    record_file.person, record_file.came = person, None
    record_file.save(update_fields=["person", "came"])
    asked = {"file": str(record_file.pk), "dry": "yes" if dry else "no"}
    fingerprint = f"{record_file.pk}|{asked['dry']}"
    job = begin(IMPORT, record_file.form, person, fingerprint, asked, each_their_own=True)
    record_file.job = job
    record_file.save(update_fields=["job"])
    if not dry:
        log(person, "import records", record_file.form.key, record_file.name)


def stop_run(record_file: RecordFile) -> None:
    """Stop working through a file; what is stored stays stored."""
    if record_file.job is not None:
        stop(record_file.job)


def remove_file(record_file: RecordFile) -> None:
    """Forget a file; what it brought stays, and its rows are known still."""
    _refuse_at_work(record_file)
    record_file.delete()


def _refuse_at_work(record_file: RecordFile) -> None:
    if record_file.job is not None and record_file.job.state in UNDER_WAY:
        raise Refusal(
            409,
            "at-work",
            tr("{name} is being worked through.", name=record_file.name),
            tr("Wait until it is done, or stop it first."),
        )


def refused_file(record_file: RecordFile) -> Iterator[bytes]:
    """The rows that were refused, as they stood in the file, with the reasons at their cells."""
    with kept(record_file) as file:
        heads = opened(file, plan_of(record_file).part).heads
    heads = tuple(head for head in heads if head != REASONS)
    rows = in_pieces(record_file.refused_rows.all(), by="row")
    return written(
        KINDS[record_file.kind].name,  # type: ignore[index]
        (*heads, REASONS),
        (_with_reasons(heads, row.cells, row.reasons) for row in rows),
    )


def _with_reasons(
    heads: tuple[str, ...], cells: dict[str, object], reasons: list[dict[str, str]]
) -> WrittenRow:
    remarks: dict[str, str] = {}
    for one in reasons:
        known = remarks.get(one["head"])
        remarks[one["head"]] = f"{known}\n{one['text']}" if known else one["text"]
    said = "\n".join(
        f"{one['head']}: {one['text']}" if one["head"] else one["text"] for one in reasons
    )
    told = {head: cells[head] for head in heads if head in cells}
    return WrittenRow({**told, REASONS: said}, remarks)
