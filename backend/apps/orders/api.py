"""HTTP: orders, visits, files of open work."""

from django.http import HttpRequest
from ninja import File, Router, Status
from ninja.files import UploadedFile

from apps.orders import commands, queries
from apps.orders.schemas import AcceptedOut, OrderIn, OrderOut, PlannedRowOut, PreviewOut, VisitDetailOut
from core.basics.tables import decode
from core.orders import VisitState, steps_from
from core.roles import Action, Role
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.schemas import Key

router = Router()
LARGEST_FILE = 12 * 1024 * 1024


@router.post("", response={201: OrderOut}, auth=Needs(Action.MAKE_ORDERS))
def make_order(request: HttpRequest, body: OrderIn) -> Status[OrderOut]:
    """Turn a request into a work order with a visit in the backlog."""
    order = commands.make_order(
        actor=actor_of(request), now=clock.now(), request_id=body.request_id, version=body.version
    )
    return Status(201, OrderOut.of(order))


@router.get("/visits/{visit_id}", response=VisitDetailOut, auth=Needs(Action.SEE_ORDERS))
def visit(request: HttpRequest, visit_id: Key) -> VisitDetailOut:
    """All about a visit: what happened, who goes, and what may be done next."""
    found = queries.visit(visit_id)
    steps = steps_from(VisitState(found.state), Role(actor_of(request).role))
    return VisitDetailOut.build(
        found, queries.visit_events(visit_id), queries.assignments(visit_id), queries.history(visit_id), steps
    )


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
