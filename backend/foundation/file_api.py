"""HTTP: files of records that the office works with."""

from typing import Annotated

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import File, Form, Path, Router, Schema, Status
from ninja.files import UploadedFile

from core.roles import Action
from foundation import clock, files, parts
from foundation.access import Needs, actor_of
from foundation.errors import NotFound
from foundation.models import StoredFile
from foundation.schemas import Key

router = Router()
Record = Annotated[str, Path(max_length=20)]


class FileOut(Schema):
    id: int
    name: str
    media_type: str
    size: int
    at: int
    by: str


def _out(row: StoredFile) -> FileOut:
    return FileOut(
        id=row.pk, name=row.name, media_type=row.media_type, size=row.size, at=int(row.at.timestamp()), by=row.by
    )


@router.get("/files/{int:file_id}", auth=Needs(Action.SEE_ORDERS), response={200: bytes})
def content(request: HttpRequest, file_id: Key) -> FileResponse:
    """A file itself. Only plain pictures, text and PDF are shown; anything else is downloaded."""
    row = files.one(file_id)
    if row.record != files.DESK:
        files.check_record(row.record, row.record_id)
    elif row.record_id != actor_of(request).id:
        raise NotFound("There is no such file.", code="no_file")
    return handed_out(row)


def handed_out(row: StoredFile) -> FileResponse:
    """A file for a browser, which runs nothing of it."""
    shown = row.media_type in files.SHOWN
    kind = row.media_type if shown else "application/octet-stream"
    answer = FileResponse(row.content.open("rb"), as_attachment=not shown, filename=row.name, content_type=kind)
    answer["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return answer


def as_pdf(name: str, content: bytes) -> HttpResponse:
    """A paper that was just made, to be looked at in the browser."""
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{name}.pdf"'
    return answer


class UploadedOut(Schema):
    """How much of the file is there."""

    length: int


@router.post("/uploads/{key}", response=UploadedOut, auth=Needs(Action.CHANGE_SETTINGS))
def add_part(
    request: HttpRequest, key: Annotated[str, Path(max_length=40)], at: Form[int], file: File[UploadedFile]
) -> UploadedOut:
    """A part of a large file, which begins at so many bytes. One that comes twice is passed over."""
    return UploadedOut(length=parts.add(actor=actor_of(request), key=key, at=max(0, at), content=file.read()))


@router.get("/files/{record}/{int:record_id}", response=list[FileOut], auth=Needs(Action.SEE_ORDERS))
def listed(request: HttpRequest, record: Record, record_id: Key) -> list[FileOut]:
    """Files of a record, newest first."""
    files.check_record(record, record_id)
    return [_out(row) for row in files.of(record, record_id)]


@router.post("/files/desk", response={201: FileOut}, auth=Needs(Action.TAKE_REQUESTS))
def keep_at_desk(request: HttpRequest, file: File[UploadedFile]) -> Status[FileOut]:
    """Keep a file for a record that is still being made."""
    row = files.keep_at_desk(
        actor=actor_of(request), now=clock.now(), name=file.name or "file", content=file.read(),
        media_type=file.content_type or "",
    )  # fmt: skip
    return Status(201, _out(row))


@router.post("/files/{record}/{int:record_id}", response={201: FileOut}, auth=Needs(Action.TAKE_REQUESTS))
def add(request: HttpRequest, record: Record, record_id: Key, file: File[UploadedFile]) -> Status[FileOut]:
    """Add a file to a record."""
    row = files.keep(
        actor=actor_of(request), now=clock.now(), record=record, record_id=record_id, name=file.name or "file",
        content=file.read(), media_type=file.content_type or "",
    )  # fmt: skip
    return Status(201, _out(row))
