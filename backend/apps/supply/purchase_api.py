"""HTTP: purchase orders."""

from typing import Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from apps.company.queries import time_zone
from apps.supply import commands, queries
from apps.supply import purchase_schemas as shapes
from apps.supply.papers import purchase_csv, purchase_pdf
from core.calendars import local_day
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.pages import Cursor
from foundation.schemas import Key

router = Router()
Wanted = Literal["", "proposal", "going", "ended"]
_STATES = {
    "": (), "proposal": ("proposal",), "going": ("ordered", "received in part"), "ended": ("received", "cancelled"),
}  # fmt: skip


def _out(order_id: int) -> shapes.PurchaseOrderOut:
    today = local_day(int(clock.now().timestamp()), time_zone())
    return shapes.PurchaseOrderOut.of(queries.purchase_order(order_id), today)


@router.get("/supply/purchases", response=shapes.PurchasesOut, auth=Needs(Action.ORDER_PARTS))
def purchases(request: HttpRequest, state: Wanted = "", cursor: Cursor = "") -> shapes.PurchasesOut:
    """Purchase orders, the newest first."""
    page = queries.purchase_orders(states=_STATES[state], cursor=cursor)
    today = local_day(int(clock.now().timestamp()), time_zone())
    return shapes.PurchasesOut(rows=[shapes.PurchaseOrderOut.of(row, today) for row in page.rows], next=page.next)


@router.get("/supply/purchases/{int:order_id}", response=shapes.PurchaseOrderOut, auth=Needs(Action.ORDER_PARTS))
def purchase(request: HttpRequest, order_id: Key) -> shapes.PurchaseOrderOut:
    """One purchase order."""
    return _out(order_id)


@router.post("/supply/purchases", response={201: shapes.PurchaseOrderOut}, auth=Needs(Action.ORDER_PARTS))
def new_proposal(request: HttpRequest, body: shapes.ProposalIn) -> Status[shapes.PurchaseOrderOut]:
    """A proposal by hand."""
    order = commands.new_proposal(
        actor=actor_of(request), now=clock.now(), supplier_id=body.supplier_id, place_id=body.place_id,
        lines=[one.line() for one in body.lines],
    )  # fmt: skip
    return Status(201, _out(order.pk))


@router.post("/supply/purchases/propose", response=list[shapes.PurchaseOrderOut], auth=Needs(Action.ORDER_PARTS))
def propose(request: HttpRequest) -> list[shapes.PurchaseOrderOut]:
    """Put all that has fallen below its least level on proposals."""
    return [_out(row.pk) for row in commands.propose(actor=actor_of(request), now=clock.now())]


@router.put("/supply/purchases/{int:order_id}/lines", response=shapes.PurchaseOrderOut, auth=Needs(Action.ORDER_PARTS))
def put_lines(request: HttpRequest, order_id: Key, body: shapes.LinesIn) -> shapes.PurchaseOrderOut:
    """What a proposal asks for."""
    commands.put_lines(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, note=body.note,
        lines=[one.line() for one in body.lines],
    )  # fmt: skip
    return _out(order_id)


@router.post("/supply/purchases/{int:order_id}/send", response=shapes.PurchaseOrderOut, auth=Needs(Action.ORDER_PARTS))
def send(request: HttpRequest, order_id: Key, body: shapes.SendPurchaseIn) -> shapes.PurchaseOrderOut:
    """Order it: the supplier is written to."""
    commands.send_order(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version,
        expected_on=body.expected_on,
    )  # fmt: skip
    return _out(order_id)


@router.post(
    "/supply/purchases/{int:order_id}/expect", response=shapes.PurchaseOrderOut, auth=Needs(Action.ORDER_PARTS)
)
def expect(request: HttpRequest, order_id: Key, body: shapes.ExpectIn) -> shapes.PurchaseOrderOut:
    """The supplier has said another day."""
    commands.expect_on(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, day=body.expected_on
    )
    return _out(order_id)


@router.post(
    "/supply/purchases/{int:order_id}/receive", response=shapes.PurchaseOrderOut, auth=Needs(Action.MOVE_STOCK)
)
def receive(request: HttpRequest, order_id: Key, body: shapes.ReceiveIn) -> shapes.PurchaseOrderOut:
    """Put away what has come, in part or whole."""
    commands.receive(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, key=body.key,
        came=[one.row() for one in body.came],
    )  # fmt: skip
    return _out(order_id)


@router.post(
    "/supply/purchases/{int:order_id}/call-off", response=shapes.PurchaseOrderOut, auth=Needs(Action.ORDER_PARTS)
)
def call_off(request: HttpRequest, order_id: Key, body: shapes.CallOffIn) -> shapes.PurchaseOrderOut:
    """Nothing (more) of it is to come."""
    commands.cancel_order(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, because=body.because
    )
    return _out(order_id)


@router.get("/supply/purchases/{int:order_id}/pdf", auth=Needs(Action.ORDER_PARTS), response={200: bytes})
def paper(request: HttpRequest, order_id: Key) -> HttpResponse:
    """The order as its supplier reads it."""
    order = queries.purchase_order(order_id)
    answer = HttpResponse(purchase_pdf(order), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{order.number}.pdf"'
    return answer


@router.get("/supply/purchases/{int:order_id}/csv", auth=Needs(Action.ORDER_PARTS), response={200: bytes})
def table(request: HttpRequest, order_id: Key) -> HttpResponse:
    """The same as a table."""
    order = queries.purchase_order(order_id)
    answer = HttpResponse(purchase_csv(order), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{order.number}.csv"'
    return answer
