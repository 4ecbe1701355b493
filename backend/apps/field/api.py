"""HTTP: the phone."""

from datetime import date
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Query, Router, Status

from apps.field import commands, queries
from apps.field.schemas import DaysAskedIn, DaysAskedOut, DaysOffOut, FieldDayOut, FieldStepIn
from apps.orders import queries as orders
from apps.orders.models import Visit
from apps.orders.schemas import VisitDetailOut, VisitOut
from apps.people import commands as people
from apps.people.models import DaysAsked
from apps.roads.schemas import PathOut
from core.basics import Place
from core.orders import VisitState, own_steps
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.schemas import Key

router = Router()
MINE = Needs(Action.WORK_IN_FIELD)


@router.get("/field/day", response=FieldDayOut, auth=MINE)
def own_day(request: HttpRequest, day: Annotated[date | None, Query()] = None) -> dict[str, Any]:
    """The technician's own visits of a day, in order. Without `day`: the one that is running."""
    wanted = day or queries.today(actor=actor_of(request), now=clock.now())
    if not 2000 < wanted.year < 2100:
        raise Rejected("That day is out of reach.", field="day")
    visits = queries.own_day(actor=actor_of(request), day=wanted)
    return {
        "technician_id": actor_of(request).technician_id,
        "day": wanted,
        "visits": [VisitOut.of(visit) for visit in visits],
    }


@router.get("/field/days-off", response=DaysOffOut, auth=MINE)
def own_days_off(request: HttpRequest) -> dict[str, Any]:
    """What the technician asked for, newest first, and how much of this year's holiday is taken."""
    return queries.own_days_off(actor=actor_of(request), now=clock.now())


@router.post("/field/days-off", response={201: DaysAskedOut}, auth=MINE)
def ask_for_days(request: HttpRequest, body: DaysAskedIn) -> Status[DaysAsked]:
    """Ask for days off."""
    return Status(201, people.ask_for_days(actor=actor_of(request), now=clock.now(), **body.dict()))


@router.delete("/field/days-off/{asked_id}", response=DaysAskedOut, auth=MINE)
def withdraw_days(request: HttpRequest, asked_id: Key) -> DaysAsked:
    """Take back what nobody has answered yet."""
    return people.withdraw_days(actor=actor_of(request), now=clock.now(), asked_id=asked_id)


@router.get("/field/visits/{visit_id}", response=VisitDetailOut, auth=MINE)
def own_visit(request: HttpRequest, visit_id: Key) -> VisitDetailOut:
    """A visit that the technician leads, or goes along to."""
    return _own_detail(request, queries.own_visit(actor=actor_of(request), visit_id=visit_id))


def _own_detail(request: HttpRequest, visit: Visit) -> VisitDetailOut:
    """What the phone shows of a visit, with what this technician may do themselves."""
    rows = orders.assignments(visit.pk)
    own = next((row for row in rows if row.technician_id == actor_of(request).technician_id), None)
    steps = own_steps(VisitState(visit.state), own.part) if own else []
    return VisitDetailOut.build(visit, orders.visit_events(visit.pk), rows, [], steps)


@router.get("/field/visits/{visit_id}/way", response=PathOut, auth=MINE)
def way(
    request: HttpRequest,
    visit_id: Key,
    lon: Annotated[float | None, Query(ge=-180, le=180)] = None,
    lat: Annotated[float | None, Query(ge=-90, le=90)] = None,
) -> dict[str, Any]:
    """The road to a visit, from the given place or from the depot."""
    here = Place(lon, lat) if lon is not None and lat is not None else None
    path = queries.way_to(actor=actor_of(request), visit_id=visit_id, here=here)
    return {"points": path.points, "estimated": path.estimated}


@router.post("/field/visits/{visit_id}/step", response=VisitDetailOut, auth=MINE)
def take_step(request: HttpRequest, visit_id: Key, body: FieldStepIn) -> VisitDetailOut:
    """Take the next step: accept, decline, set out, arrive, hold, resume, finish. Safe to send twice under one key."""
    visit = commands.take_step(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, step=body.step,
        note=body.note, deed=body.deed(),
    )  # fmt: skip
    # Declined, it is nobody's: the answer still says what became of it.
    return _own_detail(request, orders.visit(visit.pk))
