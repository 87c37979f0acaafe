"""What is told of files of records."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.tables import KINDS
from thistlequartz.server.jobs.shapes import JobView, job_view

from .models import RecordFile
from .plan import ImportCounts, ImportPlan
from .planning import unique_fields
from .rows import RowFault, entry_labels
from .services import ImportPreview, plan_of

SHOWN: int = 50
"""Refused rows in one answer."""


class FileView(BaseModel):
    """A file of records, and what came of it."""

    id: int
    name: str
    kind: Literal["csv", "xlsx", "jsonl"]
    kind_label: str
    size: int
    brought_by: str | None
    created_at: datetime
    plan: ImportPlan
    came: ImportCounts | None
    job: JobView | None


class RowFaultView(BaseModel):
    """A reason, and the head of the column that it is about; blank: all of the row."""

    head: str
    text: str


class RejectedRowView(BaseModel):
    """A row that is refused."""

    row: int
    said: list[RowFaultView]


class RejectedRowsPage(BaseModel):
    """Some of the refused rows."""

    total: int
    rows: list[RejectedRowView]


class ColumnView(BaseModel):
    """A column of the file."""

    head: str
    to: str | None
    """What it goes to by itself."""
    by: Literal["key", "label", "likeness"] | None
    samples: list[str]


class ColumnTargetView(BaseModel):
    """What a column can go to."""

    key: str
    label: str


class PreviewView(BaseModel):
    """What a plan makes of the first rows."""

    columns: list[ColumnView]
    entries: list[ColumnTargetView]
    reasons: list[ColumnTargetView]
    """The rules whose warnings pass with a reason."""
    unique: list[ColumnTargetView]
    """The fields by which records can be found."""
    sheets: list[str]
    rows: int
    """About how many there are; 0: not known."""
    decimal_mark_open: bool
    date_order_open: bool
    looked_at: int
    """Rows that were read."""
    known: int
    """Those of them that were brought already."""
    would_add: int
    would_change: int
    refused: list[RejectedRowView]
    left_out: int
    """Rows of which something would not count, as it is not relevant."""


class FileNamed(BaseModel):
    """What a file is called."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=200)] = ""
    encoding: Literal["utf-8", "windows-1252"] | None = None
    """Of a text; UTF-8 where nothing is said, and UTF-16 says so itself."""


class ImportRunBody(BaseModel):
    """How a file is worked through."""

    model_config = ConfigDict(extra="forbid")
    dry: bool


class RejectedRowsFilter(BaseModel):
    """Which of the refused rows are wanted."""

    model_config = ConfigDict(extra="forbid")
    offset: Annotated[int, Field(ge=0, le=10_000_000)] = 0


def file_view(one: RecordFile) -> FileView:
    """A file, for an answer."""
    kind = KINDS[one.kind]  # type: ignore[index]
    return FileView(
        id=one.pk,
        name=one.name,
        kind=kind.name,
        kind_label=kind.label,
        size=one.size,
        brought_by=one.person.shown_name if one.person else None,
        created_at=one.created_at,
        plan=plan_of(one),
        came=ImportCounts.model_validate(one.came) if one.came else None,
        job=job_view(one.job) if one.job else None,
    )


def refused_page(one: RecordFile, offset: int) -> RejectedRowsPage:
    """Some of the rows that were refused."""
    rows = one.refused_rows.all()
    return RejectedRowsPage(
        total=rows.count(),
        rows=[
            RejectedRowView(
                row=row.row, said=[RowFaultView.model_validate(said) for said in row.reasons]
            )
            for row in rows[offset : offset + SHOWN]
        ],
    )


def preview_view(preview: ImportPreview, form: CompiledForm) -> PreviewView:
    """A preview, for an answer."""
    labels = entry_labels(form)
    stored = [one for one in preview.outcomes if one.put is not None]
    return PreviewView(
        columns=[
            ColumnView(head=one.head, to=one.to, by=one.by, samples=preview.samples[one.head])
            for one in preview.columns
        ],
        entries=[ColumnTargetView(key=key, label=label) for key, label in labels.items()],
        reasons=[
            ColumnTargetView(key=one.rule.key, label=one.rule.name)
            for one in form.rules
            if getattr(one.rule, "reason_required", False)
        ],
        unique=[
            ColumnTargetView(key=key, label=labels[key])
            for key in unique_fields(form)
            if key in labels
        ],
        sheets=list(preview.table.sheets),
        rows=preview.table.about,
        decimal_mark_open=preview.marks.decimal_mark_open,
        date_order_open=preview.marks.date_order_open,
        looked_at=len(preview.outcomes) + preview.known,
        known=preview.known,
        would_add=sum(one.new for one in stored),
        would_change=sum(not one.new for one in stored),
        refused=[
            RejectedRowView(row=one.row.number, said=[_said(said) for said in one.said])
            for one in preview.outcomes
            if one.said
        ],
        left_out=sum(bool(one.left_out) for one in stored),
    )


def _said(said: RowFault) -> RowFaultView:
    return RowFaultView(head=said.head, text=said.text)
