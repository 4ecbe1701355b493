"""HTTP: a technician's day besides its visits - reminders, crews, directions, papers, calendar."""

from datetime import date
from typing import Annotated, Any

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Path, Router, Status

from apps.board import commands, directions, feeds, queries, schemas
from apps.board import day_schemas as shapes
from apps.board.commands import printing
from apps.board.models import Reminder
from apps.people.commands import close_calendar, renew_calendar
from apps.scheduling.horizon import checked
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


@router.get("/board/crews/often", response=list[shapes.TogetherOut], auth=Needs(Action.SEE_BOARD))
def often_together(request: HttpRequest) -> list[dict[str, Any]]:
    """Who went to visits together lately, the most frequent first."""
    found = queries.often_together(now=clock.now())
    return [{"members": list(group), "visits": count} for group, count in found]


@router.get("/board/directions", response=list[shapes.DriveOut], auth=Needs(Action.SEE_BOARD))
def drives(request: HttpRequest, technician_id: AskedKey, day: date) -> list[dict[str, Any]]:
    """The drives of a technician's day, street by street."""
    found = directions.drives(technician_id=technician_id, day=checked(day), now=clock.now())
    return [shapes.drive_out(row) for row in found]


@router.get("/technicians/{technician_id}/calendar-link", response=schemas.CalendarLinkOut, auth=Needs(Action.PLAN))
def calendar_link(request: HttpRequest, technician_id: Key) -> dict[str, str | None]:
    """The secret address of a technician's calendar, for any program that reads iCalendar."""
    return {"path": feeds.feed_path(technician_id)}


@router.post("/technicians/{technician_id}/calendar-link", response=schemas.CalendarLinkOut, auth=Needs(Action.PLAN))
def renew_calendar_link(request: HttpRequest, technician_id: Key) -> dict[str, str | None]:
    """Another address for the calendar; the old one is dead."""
    renew_calendar(actor=actor_of(request), now=clock.now(), technician_id=technician_id)
    return {"path": feeds.feed_path(technician_id)}


@router.delete("/technicians/{technician_id}/calendar-link", response=schemas.CalendarLinkOut, auth=Needs(Action.PLAN))
def close_calendar_link(request: HttpRequest, technician_id: Key) -> dict[str, str | None]:
    """Let nobody read the calendar until its link is renewed."""
    close_calendar(actor=actor_of(request), now=clock.now(), technician_id=technician_id)
    return {"path": None}


@router.get("/board/calendar/{token}", auth=None, response={200: bytes})
def calendar(request: HttpRequest, token: Annotated[str, Path(max_length=120)]) -> HttpResponse:
    """A technician's visits as iCalendar. The link itself is the secret."""
    answer = HttpResponse(
        feeds.calendar(token, now=clock.now(), base=request.build_absolute_uri("/")),
        content_type="text/calendar; charset=utf-8",
    )
    answer["Content-Disposition"] = 'inline; filename="visits.ics"'
    return answer


@router.get("/board/route-sheet", response={200: bytes}, auth=Needs(Action.SEE_BOARD))
def route_sheet(request: HttpRequest, day: date, technician_id: AskedKey | None = None) -> HttpResponse:
    """The day on paper, of one technician or of everybody."""
    content = feeds.route_sheet(day=checked(day), technician_id=technician_id, now=clock.now())
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="route-sheet-{day.isoformat()}.pdf"'
    return answer


@router.get("/board/work-orders", response={200: bytes}, auth=Needs(Action.SEE_BOARD))
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
