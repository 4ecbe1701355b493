"""HTTP: setting a company up from files."""

from typing import Annotated

from django.http import HttpRequest, StreamingHttpResponse
from ninja import File, Form, Path, Router
from ninja.files import UploadedFile

from apps.set_up import bringing, giving
from apps.set_up.schemas import BroughtOut
from core.basics.tables import decode
from core.roles import Action
from core.set_up import SetUpKind
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected

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
