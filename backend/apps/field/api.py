"""HTTP: the phone."""

from base64 import b64encode
from datetime import date
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router, Status

from apps.field import commands, queries
from apps.field.schemas import (
    DaysAskedIn,
    DaysAskedOut,
    DaysOffOut,
    DeedChoiceIn,
    DeedChoiceOut,
    DeedsIn,
    DeedsOut,
    FieldDayOut,
    FieldRowOut,
    FieldStepIn,
    FieldVisitOut,
    PhoneIn,
    PhoneKeyOut,
    PhoneOut,
    StandOut,
    WaitingDeedOut,
)
from apps.orders import queries as orders
from apps.orders.models import Visit
from apps.orders.schemas import VisitDetailOut, VisitOut
from apps.people import commands as people
from apps.people.models import DaysAsked
from apps.roads.schemas import PathOut
from core.basics import Place
from core.orders import VisitState
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.schemas import Key

router = Router()
MINE = Needs(Action.WORK_IN_FIELD)
OFFICE = Needs(Action.CHANGE_VISITS)
KEEPER = Needs(Action.MANAGE_ACCOUNTS)


@router.get("/field/day", response=FieldDayOut, auth=MINE)
def own_day(request: HttpRequest, day: Annotated[date | None, Query()] = None) -> dict[str, Any]:
    """The technician's own visits of a day, in order. Without `day`: the one that is running."""
    wanted = day or queries.today(actor=actor_of(request), now=clock.now())
    if not 2000 < wanted.year < 2100:
        raise Rejected("That day is out of reach.", field="day")
    rows = queries.own_day(actor=actor_of(request), day=wanted)
    return {
        "technician_id": actor_of(request).technician_id,
        "day": wanted,
        "visits": [
            FieldRowOut(
                **VisitOut.of(row.visit).dict(), ahead=[StandOut.of(stand) for stand in row.ahead], known=row.known
            )
            for row in rows
        ],
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


@router.get("/field/visits/{visit_id}", response=FieldVisitOut, auth=MINE)
def own_visit(request: HttpRequest, visit_id: Key) -> FieldVisitOut:
    """A visit that the technician leads, or goes along to."""
    return _own_detail(request, queries.own_visit(actor=actor_of(request), visit_id=visit_id))


def _own_detail(request: HttpRequest, visit: Visit) -> FieldVisitOut:
    """What the phone shows of a visit, with what this technician may do themselves."""
    rows = orders.assignments(visit.pk)
    own = next((row for row in rows if row.technician_id == actor_of(request).technician_id), None)
    stands = queries.ahead_of(VisitState(visit.state), own.part if own else None)
    steps = [step for step, _to in stands[0].steps]
    detail = VisitDetailOut.build(visit, orders.visit_events(visit.pk), rows, [], steps)
    return FieldVisitOut(**detail.dict(), ahead=[StandOut.of(stand) for stand in stands])


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


@router.post("/field/visits/{visit_id}/step", response=FieldVisitOut, auth=MINE)
def take_step(request: HttpRequest, visit_id: Key, body: FieldStepIn) -> FieldVisitOut:
    """Take the next step: accept, decline, set out, arrive, hold, resume, finish. Safe to send twice under one key."""
    visit = commands.take_step(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, step=body.step,
        note=body.note, deed=body.deed(),
    )  # fmt: skip
    # Declined, it is nobody's: the answer still says what became of it.
    return _own_detail(request, orders.visit(visit.pk))


@router.post("/field/phones", response=PhoneKeyOut, auth=MINE)
def register_phone(request: HttpRequest, body: PhoneIn) -> dict[str, Any]:
    """Make this phone known, or know it again; the key to what it keeps."""
    phone = commands.register_phone(
        actor=actor_of(request), now=clock.now(), phone_id=body.id, name=body.name,
        session=request.session.session_key or "",
    )  # fmt: skip
    return {"id": phone.pk, "key": b64encode(bytes(phone.key)).decode(), "now": _milliseconds()}


@router.post("/field/deeds", response=DeedsOut, auth=MINE)
def take_in(request: HttpRequest, body: DeedsIn) -> dict[str, Any]:
    """Take in what was done in the field, in its order. Safe to send any number of times."""
    answers = commands.take_in(
        actor=actor_of(request), now=clock.now(), phone_id=body.phone, deeds=[row.sent() for row in body.deeds]
    )
    return {"now": _milliseconds(), "answers": answers}


def _milliseconds() -> int:
    return int(clock.now().timestamp() * 1000)


@router.get("/field/waiting", response=list[WaitingDeedOut], auth=OFFICE)
def waiting(request: HttpRequest) -> list[WaitingDeedOut]:
    """What was done in the field and contradicts the records: both sides, for a person to decide."""
    return [WaitingDeedOut.of(row) for row in queries.waiting_deeds()]


@router.post("/field/waiting/{deed_id}", response=DeedChoiceOut, auth=OFFICE)
def settle(request: HttpRequest, deed_id: UUID, body: DeedChoiceIn) -> dict[str, Any]:
    """Let it count as it was told, or keep it without an effect."""
    row = commands.settle(
        actor=actor_of(request), now=clock.now(), deed_id=deed_id, choice=body.choice, words=body.words
    )
    return {"id": row.pk, "outcome": row.outcome, "choice": row.choice, "sentence": row.sentence}


@router.get("/field/phones/of/{account_id}", response=list[PhoneOut], auth=KEEPER)
def phones_of(request: HttpRequest, account_id: Key) -> list[Any]:
    """Phones somebody has signed in on."""
    return queries.phones_of(account_id)


@router.post("/field/phones/{phone_id}/sign-out", response=PhoneOut, auth=KEEPER)
def sign_out_phone(request: HttpRequest, phone_id: UUID) -> Any:
    """Sign a lost phone out: what it keeps cannot be read any more."""
    return commands.sign_out_phone(actor=actor_of(request), now=clock.now(), phone_id=phone_id)
