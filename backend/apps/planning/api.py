"""HTTP: the board."""

from datetime import date
from typing import Annotated, Any

import orjson
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.schemas import VisitFieldsIn, VisitOut, visit_fields
from apps.planning import commands, queries, schemas
from core.calendars import local_day
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.schemas import Key, Typed

router = Router()
# Far enough for any plan; beyond it, times no longer fit what the wire allows.
FIRST_DAY, LAST_DAY = date(2001, 1, 1), date(2099, 12, 1)


@router.get("/board", response=schemas.BoardOut, auth=Needs(Action.SEE_BOARD))
def board(request: HttpRequest, day: Annotated[date | None, Query()] = None) -> HttpResponse:
    """Everybody's day: lanes with their timetables, visits with their lamps. Without `day`: today."""
    now = clock.now()
    found = queries.board(day=_checked(day) if day else _today(), now=now)
    # Written straight: checking thousands of values of our own again would triple the time.
    return HttpResponse(orjson.dumps(schemas.board_out(found)), content_type="application/json")


@router.get("/backlog", response=schemas.BacklogOut, auth=Needs(Action.SEE_BOARD))
def backlog(request: HttpRequest, text: Typed = "") -> dict[str, Any]:
    """Open visits, the most pressing first; at most 200 of them."""
    visits, total = orders.backlog(text=text)
    now = int(clock.now().timestamp())
    rows = [visit_fields(visit) | {"reasons": queries.backlog_reasons(visit, now)} for visit in visits]
    return {"total": total, "visits": rows}


@router.post("/judge", response=schemas.VerdictOut, auth=Needs(Action.SEE_BOARD))
def judge(request: HttpRequest, body: schemas.JudgeIn) -> dict[str, Any]:
    """What placing a visit there would mean. Changes nothing."""
    visit = orders.visit(body.visit_id)
    verdict = queries.judge_placement(visit=visit, technician_id=body.technician_id, start=body.start, now=clock.now())
    return schemas.verdict_out(verdict)


@router.get("/visits/{visit_id}/fits", response=list[schemas.FitOut], auth=Needs(Action.SEE_BOARD))
def fits(request: HttpRequest, visit_id: Key, day: date) -> list[dict[str, Any]]:
    """Per technician, what speaks against this visit whatever the hour."""
    found = queries.fits(visit=orders.visit(visit_id), day=_checked(day))
    return [{"technician_id": key, "reasons": reasons} for key, reasons in found.items()]


@router.post("/visits/{visit_id}/place", response=schemas.PlacedOut, auth=Needs(Action.PLAN))
def place(request: HttpRequest, visit_id: Key, body: schemas.PlaceIn) -> dict[str, Any]:
    """Put a visit on a technician's day, or move it there."""
    visit, verdict = commands.place(
        actor=actor_of(request),
        now=clock.now(),
        visit_id=visit_id,
        version=body.version,
        technician_id=body.technician_id,
        start=body.start,
    )
    return {"visit": VisitOut.of(visit), "verdict": schemas.verdict_out(verdict)}


@router.post("/visits/{visit_id}/unplace", response=VisitOut, auth=Needs(Action.PLAN))
def unplace(request: HttpRequest, visit_id: Key, body: schemas.VersionIn) -> VisitOut:
    """Put a visit back in the backlog."""
    return VisitOut.of(
        commands.unplace(actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version)
    )


@router.put("/visits/{visit_id}", response=VisitOut, auth=Needs(Action.CHANGE_VISITS))
def edit(request: HttpRequest, visit_id: Key, body: VisitFieldsIn) -> VisitOut:
    """Edit a visit's details."""
    visit = commands.edit(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, fields=body.fields()
    )
    return VisitOut.of(visit)


@router.post("/visits/{visit_id}/send", response=VisitOut, auth=Needs(Action.PLAN))
def send(request: HttpRequest, visit_id: Key, body: schemas.VersionIn) -> VisitOut:
    """Tell the technician and the customer."""
    return VisitOut.of(commands.send(actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version))


@router.post("/send-day", response=schemas.SentOut, auth=Needs(Action.PLAN))
def send_day(request: HttpRequest, body: schemas.SendDayIn) -> dict[str, int]:
    """Send every placed visit of a day."""
    return {"sent": commands.send_day(actor=actor_of(request), now=clock.now(), day=_checked(body.day))}


@router.post("/visits/{visit_id}/step", response=VisitOut, auth=Needs(Action.PLAN))
def step(request: HttpRequest, visit_id: Key, body: schemas.StepIn) -> VisitOut:
    """Stamp a step for a technician, or cancel a visit."""
    visit = commands.step_for(
        actor=actor_of(request),
        now=clock.now(),
        visit_id=visit_id,
        version=body.version,
        step=body.step,
        note=body.note,
    )
    return VisitOut.of(visit)


@router.get("/undo", response=list[schemas.ChangeOut], auth=Needs(Action.PLAN))
def undoable(request: HttpRequest) -> list[dict[str, Any]]:
    """One's own last changes that can be undone, newest first."""
    return [
        {"id": row.pk, "at": int(row.at.timestamp()), "sentence": row.sentence, "visit_id": row.visit_id}
        for row in queries.undoable(actor_id=actor_of(request).id)
    ]


@router.post("/undo", response=schemas.UndoneOut, auth=Needs(Action.PLAN))
def undo(request: HttpRequest, body: schemas.UndoIn) -> dict[str, Any]:
    """Take back one's own last change, or a given one."""
    visit, sentence = commands.undo(actor=actor_of(request), now=clock.now(), change_id=body.change_id)
    return {"visit": VisitOut.of(visit), "sentence": sentence}


def _today() -> date:
    return local_day(int(clock.now().timestamp()), time_zone())


def _checked(day: date) -> date:
    if not FIRST_DAY <= day <= LAST_DAY:
        raise Rejected("That day is out of reach.", field="day")
    return day
