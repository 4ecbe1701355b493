"""HTTP: the phone."""

from base64 import b64encode
from datetime import date
from typing import Annotated, Any
from uuid import UUID

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Field, File, Form, Query, Router, Status
from ninja.files import UploadedFile

from apps.daylogs import commands as daylogs
from apps.field import along, commands, queries, showing
from apps.field.schemas import (
    DaysAskedIn,
    DaysAskedOut,
    DaysOffOut,
    DeedChoiceIn,
    DeedChoiceOut,
    DeedsIn,
    DeedsOut,
    FieldDayOut,
    FieldLogOut,
    FieldStepIn,
    FieldVisitOut,
    KnownIn,
    KnownItemOut,
    KnownPartOut,
    OwnVanOut,
    PhoneIn,
    PhoneKeyOut,
    PhoneOut,
    PhoneStandOut,
    PieceOut,
    TakenAlongOut,
    WaitingDeedOut,
)
from apps.orders import queries as orders
from apps.people import commands as people
from apps.people.models import DaysAsked
from apps.reports import commands as reports
from apps.reports import queries as report_queries
from apps.reports.papers import report_pdf
from apps.roads.schemas import PathOut
from apps.stock import queries as stock
from apps.supply import queries as supply
from apps.supply.schemas import HolderOut
from core.basics import Place
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import NotFound, Rejected
from foundation.file_api import as_pdf, handed_out
from foundation.named.api import CodeInPath
from foundation.schemas import Key

router = Router()
MINE = Needs(Action.WORK_IN_FIELD)
OFFICE = Needs(Action.CHANGE_VISITS)
KEEPER = Needs(Action.MANAGE_ACCOUNTS)


@router.get("/field/day", response=FieldDayOut, auth=MINE)
def own_day(request: HttpRequest, day: Annotated[date | None, Query()] = None) -> FieldDayOut:
    """The technician's own visits of a day, in order. Without `day`: the one that is running."""
    wanted = day or queries.today(actor=actor_of(request), now=clock.now())
    if not 2000 < wanted.year < 2100:
        raise Rejected("That day is out of reach.", field="day")
    return showing.day_of(actor_of(request), wanted)


@router.get("/field/log", response=FieldLogOut, auth=MINE)
def own_log(request: HttpRequest, day: Annotated[date | None, Query()] = None) -> FieldLogOut:
    """The technician's own day beside the visits. Without `day`: the one that is running."""
    return showing.log_of(actor_of(request), day or queries.today(actor=actor_of(request), now=clock.now()))


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


@router.get("/field/parts", response=list[KnownPartOut], auth=MINE)
def known_parts(request: HttpRequest) -> list[KnownPartOut]:
    """All parts that are in use."""
    return showing.parts()


@router.get("/field/van", response=list[OwnVanOut], auth=MINE)
def own_van(request: HttpRequest) -> list[OwnVanOut]:
    """What lies on the technician's own van."""
    return showing.van(actor_of(request))


@router.get("/field/items", response=list[KnownItemOut], auth=MINE)
def known_items(request: HttpRequest) -> list[KnownItemOut]:
    """What may be charged."""
    return showing.items()


@router.get("/field/parts/{code}/near", response=list[HolderOut], auth=MINE)
def who_has(request: HttpRequest, code: CodeInPath, visit_id: Annotated[int, Query(ge=1, le=2**62)]) -> list[HolderOut]:
    """Who has a part free at the moment, the nearest to a visit first."""
    visit = queries.own_visit(actor=actor_of(request), visit_id=visit_id)
    near = Place(visit.order.site.lon, visit.order.site.lat)
    found = supply.who_has(stock.part_now(code), near=near, now=clock.now())
    return [HolderOut.of(one) for one in found]


@router.get("/field/visits/{visit_id}", response=FieldVisitOut, auth=MINE)
def own_visit(request: HttpRequest, visit_id: Key) -> FieldVisitOut:
    """A visit that the technician leads, or goes along to."""
    return showing.visit_of(actor_of(request), queries.own_visit(actor=actor_of(request), visit_id=visit_id))


@router.get("/field/visits/{visit_id}/paper", response={200: bytes}, auth=MINE)
def own_paper(request: HttpRequest, visit_id: Key) -> HttpResponse:
    """The report of an own visit as the customer reads it, as PDF."""
    queries.own_visit(actor=actor_of(request), visit_id=visit_id)
    label, content = report_pdf(visit_id)
    return as_pdf(f"Report {label.replace('/', '-')}", content)


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
    return showing.visit_of(actor_of(request), orders.visit(visit.pk))


@router.post("/field/along", response=TakenAlongOut, auth=MINE)
def take_along(request: HttpRequest, body: KnownIn) -> HttpResponse:
    """What the phone takes along for the days ahead, as far as it does not have it yet. Changes nothing."""
    queries.check_open(actor=actor_of(request), phone_id=body.phone)
    rows = along.taken_along(actor=actor_of(request), now=clock.now())
    return HttpResponse(along.as_json(rows, known=body.known), content_type="application/json")


@router.post("/field/phones", response=PhoneKeyOut, auth=MINE)
def register_phone(request: HttpRequest, body: PhoneIn) -> dict[str, Any]:
    """Make this phone known, or know it again; the key to what it keeps."""
    phone = commands.register_phone(
        actor=actor_of(request), now=clock.now(), phone_id=body.id, name=body.name,
        session=request.session.session_key or "",
    )  # fmt: skip
    return {"id": phone.pk, "key": b64encode(bytes(phone.key)).decode(), "now": _milliseconds()}


@router.get("/field/phones/{phone_id}/stand", response=PhoneStandOut, auth=None)
def phone_stand(request: HttpRequest, phone_id: UUID) -> dict[str, bool]:
    """Whether the office has signed a phone out. For the phone itself, whose session may have ended: nobody else knows
    its name."""
    return {"open": queries.is_open(phone_id)}


@router.post("/field/deeds", response=DeedsOut, auth=MINE)
def take_in(request: HttpRequest, body: DeedsIn) -> dict[str, Any]:
    """Take in what was done in the field, in its order. Safe to send any number of times."""
    answers = commands.take_in(
        actor=actor_of(request), now=clock.now(), phone_id=body.phone, deeds=[row.sent() for row in body.deeds]
    )
    return {"now": _milliseconds(), "answers": answers}


def _milliseconds() -> int:
    return int(clock.now().timestamp() * 1000)


@router.post("/field/pictures/{picture_id}", response=PieceOut, auth=MINE)
def add_piece(
    request: HttpRequest,
    picture_id: UUID,
    at: Form[Annotated[int, Field(ge=0, le=2**31 - 1)]],
    file: File[UploadedFile],
) -> dict[str, int]:
    """A piece of a photo or signature, which begins at so many bytes. One that comes twice is passed over."""
    add = daylogs.add_piece if daylogs.is_receipt(picture_id) else reports.add_piece
    length = add(actor=actor_of(request), now=clock.now(), picture_id=picture_id, at=at, content=file.read())
    return {"length": length}


@router.get("/field/pictures/{picture_id}", response={200: bytes}, auth=MINE)
def own_picture(request: HttpRequest, picture_id: UUID) -> FileResponse:
    """A picture of an own visit itself."""
    found = report_queries.picture(picture_id)
    if found is None or found.file is None:
        raise NotFound("This picture is not here yet.", code="no_picture")
    queries.own_visit(actor=actor_of(request), visit_id=found.visit_id)
    return handed_out(found.file)


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
