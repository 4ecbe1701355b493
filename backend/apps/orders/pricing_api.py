"""HTTP: what orders cost, and what any lines would come to."""

from django.http import HttpRequest
from ninja import Router, Status

from apps.catalogue.filling import filled_in
from apps.catalogue.models import JobType
from apps.customers import queries as customers
from apps.orders import commands, order_details
from apps.orders.amounts import yardstick
from apps.orders.estimating import told
from apps.orders.one_offs import read_one_off
from apps.orders.order_schemas import OrderDetailOut
from apps.orders.pricing_schemas import (
    EstimateIn,
    EstimateLineOut,
    EstimateOut,
    FiguresIn,
    OneOffIn,
    OneOffOut,
    OrderLinesIn,
    ReachedLineOut,
    ReachIn,
    SumsOfSetsOut,
)
from apps.orders.reaching_wanted import reached
from apps.orders.schemas import OrderOut, VersionIn
from apps.pricing.document_schemas import SumsOut
from apps.pricing.documents import Buyer, filled, kept_discount
from apps.pricing.figuring import sums
from apps.pricing.queries import today
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.actors import may
from foundation.schemas import Key

router = Router()


def _detail(request: HttpRequest, order_id: int) -> OrderDetailOut:
    sees = may(actor_of(request), Action.SEE_MARGIN)
    return OrderDetailOut.of(order_details.order(order_id), sees_costs=sees)


@router.put("/orders/{int:order_id}/lines", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS))
def set_lines(request: HttpRequest, order_id: Key, body: OrderLinesIn) -> OrderDetailOut:
    """Other lines for one order, with its discounts."""
    sees = may(actor_of(request), Action.SEE_MARGIN)
    commands.set_lines(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version,
        lines=[line.fields(sees_costs=sees) for line in body.lines],
        discounts=[one.fields() for one in body.discounts],
    )  # fmt: skip
    return _detail(request, order_id)


@router.post("/orders/{int:order_id}/lines/reset", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS))
def reset_lines(request: HttpRequest, order_id: Key, body: VersionIn) -> OrderDetailOut:
    """The lines such an order would be made with."""
    commands.reset_lines(actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version)
    return _detail(request, order_id)


@router.post("/orders/one-off", response={201: OrderOut}, auth=Needs(Action.MAKE_ORDERS))
def make_one_off(request: HttpRequest, body: OneOffIn) -> Status[OrderOut]:
    """An order that is agreed already, with its lines, its people and its days."""
    sees = may(actor_of(request), Action.SEE_MARGIN)
    order = commands.make_one_off(actor=actor_of(request), now=clock.now(), asked=body.asked(sees_costs=sees))
    return Status(201, OrderOut.of(order))


@router.post("/orders/one-off/read", response=OneOffOut, auth=Needs(Action.MAKE_ORDERS))
def one_off(request: HttpRequest, body: OneOffIn) -> OneOffOut:
    """What would become of such an order: its visits and lines. Nothing changes."""
    sees = may(actor_of(request), Action.SEE_MARGIN)
    return OneOffOut.of(read_one_off(asked=body.asked(sees_costs=sees), now=clock.now()), sees_costs=sees)


@router.post("/figures", response=SumsOfSetsOut, auth=Needs(Action.USE))
def figures(request: HttpRequest, body: FiguresIn) -> SumsOfSetsOut:
    """What lines come to, while they are typed. By POST, because there are many; nothing changes."""
    sees = may(actor_of(request), Action.SEE_MARGIN)
    buyer = Buyer(day=today(), customer_id=body.customer_id)
    stick = yardstick(_job(body.job_type_id))
    count = stick.known.count if stick.known else 0
    found = []
    for one in body.sets:
        rows = filled([line.fields(sees_costs=sees) for line in one.lines], buyer)
        here = sums(rows, [kept_discount(off.fields()) for off in one.discounts], buyer, stick)
        found.append(SumsOut.of(here, wanted=stick.per_hour, count=count, sees_costs=sees))
    return SumsOfSetsOut(sets=found)


@router.post("/figures/reach", response=list[ReachedLineOut], auth=Needs(Action.SEE_ORDERS))
def reach(request: HttpRequest, body: ReachIn) -> list[ReachedLineOut]:
    """Unit prices, or efforts, at which a labour-hour brings what is wanted. Nothing changes."""
    sees = may(actor_of(request), Action.SEE_MARGIN)
    buyer = Buyer(day=today(), customer_id=body.customer_id)
    rows = filled([line.fields(sees_costs=sees) for line in body.lines.lines], buyer)
    off = [kept_discount(one.fields()) for one in body.lines.discounts]
    found = reached(rows, off, buyer, yardstick(_job(body.job_type_id)), by=body.by)
    return [ReachedLineOut(key=key, unit_price=price, effort=effort) for key, price, effort in found]


@router.post("/orders/estimate", response=EstimateOut, auth=Needs(Action.SEE_ORDERS))
def estimate(request: HttpRequest, body: EstimateIn) -> EstimateOut:
    """What work would about cost, to be said on the phone. Nothing changes."""
    site, job = customers.site(body.site_id), _job(body.job_type_id)
    work = filled_in(job, since=clock.now(), duration_seconds=body.duration_seconds, needs=body.needs, crew=body.crew)
    payer = body.payer_id or site.customer.payer_id or site.customer_id
    window = None if body.window is None else (body.window[0], body.window[1])
    found = told(job=job, site=site, work=work, buyer=Buyer(day=today(), customer_id=payer), window=window)
    if found is None:
        return EstimateOut(known=False)
    return EstimateOut(
        known=True, low=found.low, high=found.high, exact=found.exact, with_tax=found.with_tax,
        unpriced=found.unpriced, lines=[EstimateLineOut(wording=words, net=net) for words, net in found.lines],
    )  # fmt: skip


def _job(job_type_id: int | None) -> JobType | None:
    return JobType.objects.filter(pk=job_type_id).first() if job_type_id is not None else None
