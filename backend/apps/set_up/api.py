"""HTTP: setting a company up from files, and all of it in one archive."""

from typing import Annotated

from django.http import FileResponse, HttpRequest, StreamingHttpResponse
from ninja import File, Form, Path, Router, Status
from ninja.files import UploadedFile

from apps.set_up import archive, bringing, example, giving
from apps.set_up.models import Archive
from apps.set_up.schemas import ArchiveOut, ArchivesOut, BringArchiveIn, BroughtOut, ExampleIn, ExampleOut
from core.basics.tables import decode
from core.roles import Action
from core.set_up import SetUpKind
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.schemas import Key

router = Router()
LARGEST_FILE = 4 * 1024 * 1024
Kind = Annotated[SetUpKind, Path()]


@router.get("/set-up/files/{kind}", auth=Needs(Action.CHANGE_SETTINGS), response={200: bytes})
def file(request: HttpRequest, kind: Kind) -> StreamingHttpResponse:
    """A CSV file of all there are, in the columns that are read; of none, with an example to fill in."""
    answer = StreamingHttpResponse(giving.lines(kind, now=clock.now()), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{kind.value}.csv"'
    return answer


@router.post("/set-up/files/{kind}", response=BroughtOut, auth=Needs(Action.CHANGE_SETTINGS))
def bring_in(request: HttpRequest, kind: Kind, file: File[UploadedFile], sure: Form[bool] = False) -> BroughtOut:
    """Bring a file in, or, unless one is sure, say row by row what that would make."""
    if (file.size or 0) > LARGEST_FILE:
        raise Rejected("The file is larger than 4 MB: split it.", field="file")
    found = bringing.bring_in(
        actor=actor_of(request), now=clock.now(), kind=kind, name=file.name or "", text=decode(file.read()), sure=sure
    )
    return BroughtOut.of(found, sure=sure)


@router.get("/set-up/archives", response=ArchivesOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def archives(request: HttpRequest) -> dict[str, object]:
    """The last archives, newest first."""
    return {"is_empty": archive.is_empty(), "archives": archive.archives()}


@router.post("/set-up/archives", response={201: ArchiveOut}, auth=Needs(Action.MANAGE_ACCOUNTS))
def ask_for_archive(request: HttpRequest) -> Status[Archive]:
    """Have everything put into one archive, in the background."""
    return Status(201, archive.ask_for_archive(actor=actor_of(request), now=clock.now()))


@router.post("/set-up/archives/brought", response={201: ArchiveOut}, auth=Needs(Action.MANAGE_ACCOUNTS))
def bring_archive(request: HttpRequest, body: BringArchiveIn) -> Status[Archive]:
    """Fill this empty installation from an archive that was sent in parts, in the background. Then everybody signs in
    anew."""
    return Status(201, archive.bring_archive(actor=actor_of(request), now=clock.now(), key=body.key))


@router.get("/set-up/archives/{archive_id}", auth=Needs(Action.MANAGE_ACCOUNTS), response={200: bytes})
def archive_content(request: HttpRequest, archive_id: Key) -> FileResponse:
    """An archive itself."""
    found = archive.opened(archive_id)
    name = f"archive-{found.asked_at:%Y-%m-%d}.zip"
    return FileResponse(found.content.open("rb"), as_attachment=True, filename=name, content_type="application/zip")


@router.get("/set-up/example", response=ExampleOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def example_now(request: HttpRequest) -> dict[str, object]:
    """Whether there is an example, and what would be thrown away with it."""
    return {"exists": example.exists(), "can_be_filled": archive.is_empty(), "counts": example.counts()}


@router.post("/set-up/example", response=ExampleOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def fill_example(request: HttpRequest, body: ExampleIn) -> dict[str, object]:
    """Fill an empty company with a small example to try."""
    example.fill(actor=actor_of(request), now=clock.now(), trade=body.trade)
    return example_now(request)


@router.delete("/set-up/example", response=ExampleOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def throw_example_away(request: HttpRequest) -> dict[str, object]:
    """All as it was before the example; what was added since is thrown away with it."""
    example.throw_away(actor=actor_of(request), now=clock.now())
    return example_now(request)
