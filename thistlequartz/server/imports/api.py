"""Files of records that come in."""

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Query, Router, Status

from thistlequartz.core.tables import KINDS
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.long_answers import sent_as_file
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.records.form_in_force import desk_of

from . import services as files
from .models import RecordFile
from .plan import ImportPlan
from .shapes import (
    FileNamed,
    FileView,
    ImportRunBody,
    PreviewView,
    RejectedRowsFilter,
    RejectedRowsPage,
    file_view,
    preview_view,
    refused_page,
)

router = Router()


@router.get("/forms/{form_key}/record-files", response={200: list[FileView]})
def list_files(request: HttpRequest, form_key: str) -> list[FileView]:
    """The files that came in, the newest first."""
    person_with(request, Right.WRITE_RECORDS)
    found = RecordFile.objects.filter(form=get_draft(form_key)).select_related("person", "job")
    return [file_view(one) for one in found]


@router.post(
    "/forms/{form_key}/record-files",
    response={201: FileView},
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {
                "application/octet-stream": {"schema": {"type": "string", "format": "binary"}}
            },
        }
    },
)
def bring_file(request: HttpRequest, form_key: str, asked: Query[FileNamed]) -> Status[FileView]:
    """Bring a file: CSV, XLSX or JSON Lines, as the body of the call. No row is stored yet."""
    person = person_with(request, Right.WRITE_RECORDS)
    return Status(
        201, file_view(files.take_in(person, form_key, asked.name, request, asked.encoding))
    )


@router.get("/forms/{form_key}/record-files/{file_id}", response={200: FileView})
def show_file(request: HttpRequest, form_key: str, file_id: int) -> FileView:
    """A file, how it is read, and what came of it."""
    person_with(request, Right.WRITE_RECORDS)
    return file_view(files.get_file(form_key, file_id))


@router.delete("/forms/{form_key}/record-files/{file_id}", response={204: None})
def forget_file(request: HttpRequest, form_key: str, file_id: int) -> Status[None]:
    """Forget a file; what it brought stays."""
    person_with(request, Right.WRITE_RECORDS)
    files.remove_file(files.get_file(form_key, file_id))
    return Status(204, None)


@router.put("/forms/{form_key}/record-files/{file_id}/plan", response={200: FileView})
def plan_file(request: HttpRequest, form_key: str, file_id: int, body: ImportPlan) -> FileView:
    """Say how a file is read, and what is done with its rows."""
    person_with(request, Right.WRITE_RECORDS)
    record_file = files.get_file(form_key, file_id)
    files.change_plan(record_file, body)
    return file_view(record_file)


@router.post("/forms/{form_key}/record-files/{file_id}/preview", response={200: PreviewView})
def preview_file(
    request: HttpRequest, form_key: str, file_id: int, body: ImportPlan
) -> PreviewView:
    """What a plan makes of the first rows. Stores nothing."""
    person = person_with(request, Right.WRITE_RECORDS)
    record_file = files.get_file(form_key, file_id)
    found = files.preview(person, record_file, body)
    return preview_view(found, desk_of(form_key).compiled)


@router.post("/forms/{form_key}/record-files/{file_id}/run", response={202: FileView})
def run_file(
    request: HttpRequest, form_key: str, file_id: int, body: ImportRunBody
) -> Status[FileView]:
    """Have a file worked through in the background; with `dry` nothing is stored."""
    person = person_with(request, Right.WRITE_RECORDS)
    record_file = files.get_file(form_key, file_id)
    files.run(person, record_file, dry=body.dry)
    return Status(202, file_view(record_file))


@router.post("/forms/{form_key}/record-files/{file_id}/stop", response={200: FileView})
def stop_file(request: HttpRequest, form_key: str, file_id: int) -> FileView:
    """Stop working through a file; what is stored stays stored."""
    person_with(request, Right.WRITE_RECORDS)
    files.stop_run(files.get_file(form_key, file_id))
    return file_view(files.get_file(form_key, file_id))


@router.get("/forms/{form_key}/record-files/{file_id}/refused", response={200: RejectedRowsPage})
def show_refused(
    request: HttpRequest, form_key: str, file_id: int, asked: Query[RejectedRowsFilter]
) -> RejectedRowsPage:
    """The rows that were refused, fifty at a time, with their reasons."""
    person_with(request, Right.WRITE_RECORDS)
    return refused_page(files.get_file(form_key, file_id), asked.offset)


@router.get("/forms/{form_key}/record-files/{file_id}/refused-file", response={200: str})
def download_refused(request: HttpRequest, form_key: str, file_id: int) -> StreamingHttpResponse:
    """The rows that were refused, in a file of the same kind, with the reasons at their cells."""
    person_with(request, Right.WRITE_RECORDS)
    record_file = files.get_file(form_key, file_id)
    kind = KINDS[record_file.kind]  # type: ignore[index]
    stem = record_file.name.rpartition(".")[0] or record_file.name
    name = f"refused - {stem}{kind.ending}"
    return sent_as_file(files.refused_file(record_file), kind.media_type, name)
