"""HTTP: open work from a file."""

from django.http import HttpRequest
from ninja import File, Router, Status
from ninja.files import UploadedFile

from apps.open_work import commands
from apps.open_work.schemas import AcceptedOut, PlannedRowOut, PreviewOut
from core.basics.tables import decode
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.schemas import Key

router = Router()
LARGEST_FILE = 12 * 1024 * 1024


@router.post("/open-work", response={201: PreviewOut}, auth=Needs(Action.IMPORT))
def preview_open_work(request: HttpRequest, file: File[UploadedFile]) -> Status[PreviewOut]:
    """Read a CSV file of open work and say row by row what it would make. Makes nothing yet."""
    if (file.size or 0) > LARGEST_FILE:
        raise Rejected("The file is larger than 12 MB: split it.", field="file")
    text = decode(file.read())
    now = clock.now()
    rows = commands.preview(text, now=now)
    kept = commands.keep_file(actor=actor_of(request), now=now, name=file.name or "file", text=text)
    accepted = sum(planned.accepted for planned in rows)
    return Status(
        201,
        PreviewOut(
            file_id=kept.pk,
            name=kept.name,
            accepted=accepted,
            refused=len(rows) - accepted,
            rows=[PlannedRowOut.of(planned) for planned in rows],
        ),
    )


@router.post("/open-work/{file_id}/accept", response=AcceptedOut, auth=Needs(Action.IMPORT))
def accept_open_work(request: HttpRequest, file_id: Key) -> AcceptedOut:
    """Make all accepted rows of a previewed file, all or none."""
    return AcceptedOut(made=commands.accept_file(actor=actor_of(request), now=clock.now(), file_id=file_id))
