"""HTTP: a technician's day besides its visits - reminders, locks, crews, directions, papers."""

from datetime import date, timedelta
from typing import Any

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Router, Status

from apps.planning import commands, directions, feeds, queries, schemas
from apps.planning import day_schemas as shapes
from apps.planning.commands import printing
from apps.planning.horizon import checked
from apps.planning.models import Reminder
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import NotFound
from foundation.schemas import AskedKey, Key

router = Router()


@router.post("/reminders", response=schemas.ReminderOut, auth=Needs(Action.PLAN))
def remind(request: HttpRequest, body: shapes.ReminderIn) -> dict[str, Any]:
    """Put a reminder on a technician's line."""
    row = commands.remind(
        actor=actor_of(request), now=clock.now(), technician_id=body.technician_id, at=body.at, text=body.text
    )
    return schemas.reminder_out(row)


@router.put("/reminders/{reminder_id}", response=schemas.ReminderOut, auth=Needs(Action.PLAN))
def change_reminder(request: HttpRequest, reminder_id: Key, body: shapes.ReminderChangeIn) -> dict[str, Any]:
    """Another moment or text; or done with."""
    row: Reminder = commands.change_reminder(
        actor=actor_of(request), now=clock.now(), reminder_id=reminder_id, version=body.version, at=body.at,
        text=body.text, done=body.done,
    )  # fmt: skip
    return schemas.reminder_out(row)


@router.delete("/reminders/{reminder_id}", response={204: None}, auth=Needs(Action.PLAN))
def forget(request: HttpRequest, reminder_id: Key) -> Status[None]:
    """Take a reminder off the line."""
    commands.forget(actor=actor_of(request), now=clock.now(), reminder_id=reminder_id)
    return Status(204, None)


@router.post("/lock-days", response=shapes.LockedOut, auth=Needs(Action.PLAN))
def lock_days(request: HttpRequest, body: shapes.LockDaysIn) -> dict[str, int]:
    """Lock or unlock what is placed on some days, of everybody or of one technician."""
    first = checked(body.day)
    changed = commands.lock_days(
        actor=actor_of(request), now=clock.now(), first=first, last=first + timedelta(days=body.days - 1),
        technician_id=body.technician_id, pinned=body.pinned,
    )  # fmt: skip
    return {"changed": changed}


@router.post("/orders/{order_id}/lock", response=shapes.LockedOut, auth=Needs(Action.PLAN))
def lock_order(request: HttpRequest, order_id: Key, body: shapes.LockIn) -> dict[str, int]:
    """Lock or unlock all visits of an order."""
    changed = commands.lock_order(actor=actor_of(request), now=clock.now(), order_id=order_id, pinned=body.pinned)
    return {"changed": changed}


@router.get("/crews/often", response=list[shapes.TogetherOut], auth=Needs(Action.SEE_BOARD))
def often_together(request: HttpRequest) -> list[dict[str, Any]]:
    """Who went to visits together lately, the most frequent first."""
    found = queries.often_together(now=clock.now())
    return [{"members": list(group), "visits": count} for group, count in found]


@router.get("/directions", response=list[shapes.DriveOut], auth=Needs(Action.SEE_BOARD))
def drives(request: HttpRequest, technician_id: AskedKey, day: date) -> list[dict[str, Any]]:
    """The drives of a technician's day, street by street."""
    found = directions.drives(technician_id=technician_id, day=checked(day), now=clock.now())
    return [shapes.drive_out(row) for row in found]


@router.get("/work-orders", response={200: bytes}, auth=Needs(Action.SEE_BOARD))
def work_orders(request: HttpRequest, day: date, technician_id: AskedKey | None = None) -> HttpResponse:
    """The work orders of a day on paper, of one technician or of everybody, in the order in which they are done."""
    content = feeds.work_orders(day=checked(day), technician_id=technician_id)
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="work-orders-{day.isoformat()}.pdf"'
    return answer


@router.post("/printouts", response={201: shapes.PrintoutOut}, auth=Needs(Action.SEE_BOARD))
def ask_for_printout(request: HttpRequest, body: shapes.PrintoutIn) -> Status[shapes.PrintoutOut]:
    """Have all work orders of a day printed in the background."""
    row = printing.ask_for_work_orders(actor=actor_of(request), now=clock.now(), day=checked(body.day))
    return Status(201, shapes.PrintoutOut.of(row))


@router.get("/printouts/{printout_id}", response=shapes.PrintoutOut, auth=Needs(Action.SEE_BOARD))
def printout(request: HttpRequest, printout_id: Key) -> shapes.PrintoutOut:
    """How far one's printout is."""
    return shapes.PrintoutOut.of(printing.printout(actor=actor_of(request), printout_id=printout_id))


@router.get("/printouts/{printout_id}/pdf", response={200: bytes}, auth=Needs(Action.SEE_BOARD))
def printout_pdf(request: HttpRequest, printout_id: Key) -> FileResponse:
    """The printed papers."""
    row = printing.printout(actor=actor_of(request), printout_id=printout_id)
    if row.state != "done":
        raise NotFound("It is not printed yet.", code="not_printed")
    name = f"work-orders-{row.day.isoformat()}.pdf"
    return FileResponse(row.content.open("rb"), filename=name, content_type="application/pdf")
