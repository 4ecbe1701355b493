"""HTTP: what lies where and who will take it, what is missing, and how it comes."""

import csv
import io
from datetime import date
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from apps.company.queries import time_zone
from apps.stock import commands as stock
from apps.stock import queries as stock_queries
from apps.supply import commands, queries
from apps.supply import schemas as shapes
from apps.supply.commands.loans import what_of, whom_of
from apps.supply.levels import figures, planned
from apps.supply.papers import pick_list_pdf
from apps.supply.tonight import on_van, tonight
from apps.supply.ways import missing_of, ways_for
from core.basics import Place
from core.basics.tables import MARK, safe_cell
from core.calendars import local_day
from core.roles import Action
from core.stock import value
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.actors import may
from foundation.moments import to_datetime
from foundation.named.api import Code, CodeInPath
from foundation.pages import Cursor
from foundation.schemas import AskedKey, Key, Typed

router = Router()
Only = Literal["", "below", "untidy", "hazardous", "oversized", "tracked", "retired"]
Sort = Literal["name", "number", "supplier"]


def _sees_costs(request: HttpRequest) -> bool:
    return may(actor_of(request), Action.SEE_MARGIN)


@router.get("/supply/counts", response=shapes.SupplyCountsOut, auth=Needs(Action.SEE_STOCK))
def counts(request: HttpRequest) -> shapes.SupplyCountsOut:
    """What waits in each part of supply."""
    return shapes.SupplyCountsOut(**vars(queries.counts(now=clock.now())))


@router.get("/supply/pressing", response=list[shapes.PressingOut], auth=Needs(Action.SEE_STOCK))
def pressing(request: HttpRequest) -> list[shapes.PressingOut]:
    """What somebody should look at now: late orders, levels that cannot be."""
    sees = may(actor_of(request), Action.ORDER_PARTS)
    return [shapes.PressingOut(**vars(row)) for row in queries.pressing(now=clock.now(), orders=sees)]


@router.get("/part-list", response=shapes.PartListOut, auth=Needs(Action.SEE_STOCK))
def parts(
    request: HttpRequest, text: Typed = "", supplier_id: AskedKey | None = None, only: Only = "", sort: Sort = "name",
    cursor: Cursor = "",
) -> shapes.PartListOut:  # fmt: skip
    """Parts with what is on hand, spoken for, free and coming."""
    asked = queries.PartFilter(text=text, supplier_id=supplier_id, only=only, sort=sort)
    rows, following, total = queries.part_page(asked, cursor)
    sees = _sees_costs(request)
    return shapes.PartListOut(
        rows=[shapes.PartLineOut.of(row, sees_costs=sees) for row in rows], next=following, total=total
    )


@router.get("/part-list.csv", auth=Needs(Action.SEE_STOCK), response={200: bytes})
def parts_csv(
    request: HttpRequest, text: Typed = "", supplier_id: AskedKey | None = None, only: Only = "", sort: Sort = "name"
) -> HttpResponse:
    """The list as it is filtered, as a table."""
    asked = queries.PartFilter(text=text, supplier_id=supplier_id, only=only, sort=sort)
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(["number", "name", "supplier", "gtin", "unit", "on_hand", "reserved", "free", "coming", "below"])
    cursor = ""
    while True:
        rows, following, _total = queries.part_page(asked, cursor)
        for row in rows:
            cells = [
                row.part.number or "", row.part.name, row.part.supplier.name if row.part.supplier else "",
                row.part.gtin, row.part.unit, str(row.figures.on_hand), str(row.figures.reserved),
                str(row.figures.free), str(row.figures.coming_quantity), str(row.below),
            ]  # fmt: skip
            writer.writerow([safe_cell(cell) for cell in cells])
        if following is None:
            break
        cursor = following
    answer = HttpResponse(MARK + buffer.getvalue(), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="parts.csv"'
    return answer


@router.get("/parts/{code}/levels", response=list[shapes.LevelOut], auth=Needs(Action.SEE_STOCK))
def levels(request: HttpRequest, code: CodeInPath) -> list[shapes.LevelOut]:
    """A part in every place."""
    return [shapes.LevelOut.of(row, own) for row, own in queries.levels_of(stock_queries.part(code))]


@router.get("/supply/places/{int:place_id}", response=shapes.PlaceOut, auth=Needs(Action.SEE_STOCK))
def place(request: HttpRequest, place_id: Key) -> shapes.PlaceOut:
    """A depot or a van: what lies there against what the next days take."""
    where = stock_queries.place(place_id)
    vans = planned()
    rows = on_van(where, now=clock.now(), vans=vans)
    counted = figures([row.level for row in rows], vans=vans)
    for row in rows:
        row.level.place = where
    driver = stock_queries.drivers().get(place_id)
    worth = value((row.level.quantity, row.level.part.cost) for row in rows)
    return shapes.PlaceOut(
        id=where.pk, kind=where.what, name=where.name, technician_id=driver[0] if driver else None,
        technician=driver[1] if driver else "", value=worth if _sees_costs(request) else None,
        rows=[shapes.OnVanOut.of(row, counted[row.level.place_id, row.level.part_id]) for row in rows],
    )  # fmt: skip


@router.post("/supply/places/{int:place_id}/leave", response=int, auth=Needs(Action.MOVE_STOCK))
def leave(request: HttpRequest, place_id: Key, body: shapes.LeaveIn) -> int:
    """Bring what a van does not use to its depot."""
    return commands.leave_at_depot(actor=actor_of(request), now=clock.now(), place_id=place_id, codes=body.codes)


@router.get(
    "/supply/places/{int:place_id}/thresholds", response=list[shapes.ThresholdOut], auth=Needs(Action.SEE_STOCK)
)
def thresholds(request: HttpRequest, place_id: Key) -> list[shapes.ThresholdOut]:
    """Least and target of every part at a place, as a year's use proposes them."""
    return [
        shapes.ThresholdOut(
            code=row.level.part.code, part=row.level.part.name, used=row.used, least=row.level.least,
            target=row.level.target, proposed_least=row.threshold.least, proposed_target=row.threshold.target,
            by_hand=row.level.by_hand,
        )
        for row in queries.thresholds(stock_queries.place(place_id), now=clock.now())
    ]  # fmt: skip


@router.post("/supply/places/{int:place_id}/thresholds", response=int, auth=Needs(Action.MOVE_STOCK))
def accept_thresholds(request: HttpRequest, place_id: Key, body: shapes.AcceptThresholdsIn) -> int:
    """Take proposals over; how many levels changed."""
    return commands.accept_thresholds(actor=actor_of(request), now=clock.now(), place_id=place_id, codes=body.codes)


# --- tonight for tomorrow -----------------------------------------------------------------------------------


@router.get("/supply/tonight", response=list[shapes.VanOfDayOut], auth=Needs(Action.SEE_STOCK))
def tonight_for(request: HttpRequest, day: date) -> list[shapes.VanOfDayOut]:
    """A day's work held against the vans."""
    return [shapes.VanOfDayOut.of(row) for row in tonight(day)]


@router.get("/supply/ways", response=list[shapes.PartWayOut], auth=Needs(Action.SEE_STOCK))
def ways(request: HttpRequest, visit_id: AskedKey, part: Annotated[Code, Query()]) -> list[shapes.PartWayOut]:
    """The ways to get a part that a visit lacks, the best first."""
    found = ways_for(missing_of(visit_id, part), now=clock.now())
    sees = _sees_costs(request)
    return [shapes.PartWayOut.of(row, sees_costs=sees) for row in found]


@router.post("/supply/ways", response=shapes.WayTakenOut, auth=Needs(Action.PLAN))
def take_way(request: HttpRequest, body: shapes.TakeWayIn) -> shapes.WayTakenOut:
    """Take one of the ways."""
    taken = commands.take_way(
        actor=actor_of(request), now=clock.now(), visit_id=body.visit_id, version=body.version, code=body.part,
        key=body.key,
    )  # fmt: skip
    return shapes.WayTakenOut(words=taken.way.words, errand_id=taken.errand.pk if taken.errand else None)


@router.get("/supply/pick-list", auth=Needs(Action.SEE_STOCK), response={200: bytes})
def pick_list(request: HttpRequest, day: date, technician_id: AskedKey | None = None) -> HttpResponse:
    """What is picked for a day, as PDF: a page for each van."""
    answer = HttpResponse(pick_list_pdf(day, technician_id=technician_id), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="pick-list-{day.isoformat()}.pdf"'
    return answer


@router.post("/supply/pick", response=int, auth=Needs(Action.MOVE_STOCK))
def pick(request: HttpRequest, body: shapes.PickIn) -> int:
    """What was picked goes onto the van; how many kinds of parts."""
    return commands.pick(
        actor=actor_of(request), now=clock.now(), technician_id=body.technician_id, day=body.day, key=body.key,
        picked=[one.row() for one in body.picked],
    )  # fmt: skip


@router.post("/supply/transfers/{int:transfer_id}/drop", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def drop_transfer(request: HttpRequest, transfer_id: Key, body: shapes.SeenIn) -> Status[None]:
    """Call off what was promised."""
    stock.drop_transfer(actor=actor_of(request), now=clock.now(), transfer_id=transfer_id, version=body.version)
    return Status(204, None)


# --- requests -----------------------------------------------------------------------------------------------


@router.get("/part-requests", response=list[shapes.PartRequestOut], auth=Needs(Action.SEE_STOCK))
def requests(request: HttpRequest, ended: bool = False) -> list[shapes.PartRequestOut]:
    """Parts that are asked for, what must be there first."""
    return [shapes.PartRequestOut.of(row) for row in queries.part_requests(ended=ended)]


@router.post("/part-requests", response={201: int}, auth=Needs(Action.MOVE_STOCK))
def ask(request: HttpRequest, body: shapes.AskPartIn) -> Status[int]:
    """Ask for a part for somebody; its number."""
    row = commands.ask(actor=actor_of(request), now=clock.now(), asked=body.asked())
    return Status(201, row.pk)


@router.get("/part-requests/{int:request_id}/near", response=list[shapes.HolderOut], auth=Needs(Action.SEE_STOCK))
def near(request: HttpRequest, request_id: Key) -> list[shapes.HolderOut]:
    """Who has it free at the moment, the nearest first."""
    row = queries.part_request(request_id)
    depot = row.technician.depot
    site = row.visit.order.site if row.visit else None
    where = Place(site.lon, site.lat) if site else Place(depot.lon, depot.lat)
    found = queries.who_has(row.part, near=where, now=clock.now(), substitutes=row.substitute_allowed)
    return [shapes.HolderOut.of(one) for one in found]


@router.post("/part-requests/{int:request_id}/promise", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def promise(request: HttpRequest, request_id: Key, body: shapes.PromisePartIn) -> Status[None]:
    """It comes from there."""
    commands.promise(
        actor=actor_of(request), now=clock.now(), request_id=request_id, version=body.version, place_id=body.place_id,
        at=to_datetime(body.at),
    )  # fmt: skip
    return Status(204, None)


@router.post("/part-requests/{int:request_id}/order", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def order_for(request: HttpRequest, request_id: Key, body: shapes.SeenIn) -> Status[None]:
    """It is put on the proposal to its supplier."""
    commands.order_for(actor=actor_of(request), now=clock.now(), request_id=request_id, version=body.version)
    return Status(204, None)


@router.post("/part-requests/{int:request_id}/hand-over", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def hand_over(request: HttpRequest, request_id: Key, body: shapes.HandOverIn) -> Status[None]:
    """The technician has it."""
    commands.hand_over(actor=actor_of(request), now=clock.now(), request_id=request_id, **body.dict())
    return Status(204, None)


@router.post("/part-requests/{int:request_id}/refuse", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def refuse(request: HttpRequest, request_id: Key, body: shapes.RefusePartIn) -> Status[None]:
    """It will not come."""
    commands.refuse(
        actor=actor_of(request), now=clock.now(), request_id=request_id, version=body.version, because=body.because
    )
    return Status(204, None)


# --- what comes out again, and what is lent -----------------------------------------------------------------


@router.get("/supply/claims", response=list[shapes.ClaimOut], auth=Needs(Action.SEE_STOCK))
def claims(request: HttpRequest, ended: bool = False) -> list[shapes.ClaimOut]:
    """Defective parts on their way to their suppliers and back."""
    return [shapes.ClaimOut.of(row) for row in queries.claims(ended=ended)]


@router.post("/supply/returns", response={201: None}, auth=Needs(Action.MOVE_STOCK))
def take_back(request: HttpRequest, body: shapes.CameOutIn) -> Status[None]:
    """Book a part that came out."""
    commands.take_back(actor=actor_of(request), now=clock.now(), out=body.out())
    return Status(201, None)


@router.post("/supply/claims/{int:claim_id}/send", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def send_claim(request: HttpRequest, claim_id: Key, body: shapes.SeenIn) -> Status[None]:
    """It is on its way to the supplier."""
    commands.send_back(actor=actor_of(request), now=clock.now(), claim_id=claim_id, version=body.version)
    return Status(204, None)


@router.post("/supply/claims/{int:claim_id}/settle", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def settle_claim(request: HttpRequest, claim_id: Key, body: shapes.SettleIn) -> Status[None]:
    """The supplier has answered."""
    commands.settle(actor=actor_of(request), now=clock.now(), claim_id=claim_id, version=body.version, how=body.how())
    return Status(204, None)


@router.get("/supply/loans", response=list[shapes.LoanOut], auth=Needs(Action.SEE_STOCK))
def loans(request: HttpRequest, returned: bool = False) -> list[shapes.LoanOut]:
    """What is lent, what is due first first."""
    today = local_day(int(clock.now().timestamp()), time_zone())
    return [
        shapes.LoanOut.of(row, what=what_of(row), whom=whom_of(row), today=today)
        for row in queries.loans(returned=returned)
    ]


@router.post("/supply/loans", response={201: int}, auth=Needs(Action.MOVE_STOCK))
def lend(request: HttpRequest, body: shapes.LendIn) -> Status[int]:
    """Lend something; its number."""
    return Status(201, commands.lend(actor=actor_of(request), now=clock.now(), fields=body.fields()).pk)


@router.post("/supply/loans/{int:loan_id}/back", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def bring_back(request: HttpRequest, loan_id: Key, body: shapes.BackIn) -> Status[None]:
    """It is back."""
    commands.bring_back(
        actor=actor_of(request), now=clock.now(), loan_id=loan_id, version=body.version, place_id=body.place_id
    )
    return Status(204, None)


@router.post("/supply/loans/{int:loan_id}/due", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def extend(request: HttpRequest, loan_id: Key, body: shapes.DueIn) -> Status[None]:
    """Another day on which it is due."""
    commands.extend(actor=actor_of(request), now=clock.now(), loan_id=loan_id, version=body.version, due=body.due)
    return Status(204, None)


@router.post("/supply/loans/{int:loan_id}/fetch", response={204: None}, auth=Needs(Action.MAKE_ORDERS))
def fetch_back(request: HttpRequest, loan_id: Key, body: shapes.SeenIn) -> Status[None]:
    """Make a visit that brings it back."""
    commands.fetch_back(actor=actor_of(request), now=clock.now(), loan_id=loan_id, version=body.version)
    return Status(204, None)
