"""Purchase orders: from a proposal to what has come, in part or whole."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, datetime
from email.utils import parseaddr
from uuid import UUID

from django.conf import settings
from django.core.mail import EmailMessage
from django.db import transaction

from apps.company.numbers import take_number
from apps.company.queries import company, time_zone
from apps.orders.models import Visit
from apps.stock import commands as stock
from apps.stock import queries as stock_queries
from apps.stock.inputs import Circumstances
from apps.stock.models import Part, StockPlace, Supplier
from apps.supply import levels, papers
from apps.supply.events import LinesDropped, PurchaseReceived
from apps.supply.inputs import Came, LineWanted
from apps.supply.models import PartRequest, PurchaseLine, PurchaseOrder
from core.calendars import local_day
from core.roles import Action
from core.stock import MOST, Move, MoveReason, PlaceKind
from foundation import audit, events, jobs, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

SEND_PAPER = "supply.send_purchase_order"


def add_to_proposal(
    *, actor: Actor, now: datetime, part: Part, quantity: int, target: StockPlace | None = None,
    for_visit: Visit | None = None, by_itself: bool = False,
) -> PurchaseLine:  # fmt: skip
    """Put so many of a part on the proposal to its supplier; one that is not there yet is made. To be called in a
    transaction.

    Parameters
    ----------
    target
        The depot it is to come to; None: that of the technician of the visit, else the first.
    by_itself
        It follows from the levels: what is proposed already is set to it, not added.
    """
    require(actor, Action.MOVE_STOCK)
    if part.supplier is None:
        raise Rejected(f"{part.name} has no supplier: choose one first.", code="no_supplier", field="supplier_id")
    target = target or _depot_for(for_visit)
    order = _proposal(actor, now, part.supplier, target)
    line = PurchaseLine.objects.select_for_update().filter(order=order, part=part).first()
    if line is None:
        line = PurchaseLine(order=order, part=part, quantity=0, price=part.cost, by_itself=by_itself)
    line.quantity = max(line.quantity, quantity) if by_itself else line.quantity + quantity
    if not by_itself:
        line.by_itself = False
    line.save()
    # A new version: whoever is editing the proposal as it was would take this line off without having seen it.
    _stepped(actor, now, order, f"put {quantity} × {part.name} on the proposal to {part.supplier.name}")
    return line


def _proposal(actor: Actor, now: datetime, supplier: Supplier, target: StockPlace) -> PurchaseOrder:
    # Locked, so that of two at the same moment the second finds the first one's proposal.
    Supplier.objects.select_for_update().get(pk=supplier.pk)
    found = PurchaseOrder.objects.select_for_update().filter(state="proposal", supplier=supplier, target=target).first()
    if found is not None:
        return found
    return PurchaseOrder.objects.create(
        number=take_number("purchase", now=now), supplier=supplier, target=target, made_at=now, made_by=actor.name
    )


def _depot_for(visit: Visit | None) -> StockPlace:
    if visit is not None and visit.technician is not None:
        return stock.place_of_depot(visit.technician.depot_id)
    first = stock_queries.places([PlaceKind.DEPOT])
    if not first:
        raise Rejected("There is no depot that parts could come to: count one first.", code="no_depot")
    return first[0]


@transaction.atomic
def put_lines(
    *, actor: Actor, now: datetime, order_id: int, version: int, lines: Sequence[LineWanted], note: str = ""
) -> PurchaseOrder:
    """What a proposal asks for: all of its lines; one that is not named is taken off.

    Raises
    ------
    Rejected
        When it has been sent already, or a line cannot be.
    Conflict
        When it was changed since it was seen.
    """
    require(actor, Action.ORDER_PARTS)
    _lock_who_waits(order_id)
    order = locked_order(order_id, version)
    _only(order, "proposal")
    parts = {row.code: row for row in Part.objects.filter(code__in=[line.code for line in lines])}
    for line in lines:
        if line.code not in parts:
            raise Rejected(f"Unknown part: {line.code}.", field="lines")
        if not 1 <= line.quantity <= MOST:
            raise Rejected(f"A quantity is 1 to {MOST:,}.", field="lines")
    wanted_lines = {line.code: line for line in lines}
    dropped = order.lines.exclude(part__code__in=wanted_lines)
    _let_go(actor, now, order, dropped)
    dropped.delete()
    for code, line in wanted_lines.items():
        PurchaseLine.objects.update_or_create(
            order=order, part=parts[code],
            defaults={
                "quantity": line.quantity, "by_itself": False,
                "price": parts[code].cost if line.price is None else line.price,
            },
        )  # fmt: skip
    order.note = note.strip()[:300]
    return _stepped(actor, now, order, "changed the proposal")


@transaction.atomic
def new_proposal(
    *, actor: Actor, now: datetime, supplier_id: int, place_id: int | None, lines: Sequence[LineWanted]
) -> PurchaseOrder:
    """A proposal by hand; what is on the one that is there already is added to."""
    require(actor, Action.ORDER_PARTS)
    supplier = Supplier.objects.filter(pk=supplier_id).first()
    if supplier is None:
        raise NotFound("There is no such supplier.", code="no_supplier")
    target = stock_queries.place(place_id) if place_id else _depot_for(None)
    order = _proposal(actor, now, supplier, target)
    known = [LineWanted(code=row.part.code, quantity=row.quantity, price=row.price)
             for row in order.lines.select_related("part")]  # fmt: skip
    return put_lines(
        actor=actor, now=now, order_id=order.pk, version=order.version, lines=[*known, *lines], note=order.note
    )


@transaction.atomic
def send_order(
    *, actor: Actor, now: datetime, order_id: int, version: int, expected_on: date | None = None
) -> PurchaseOrder:
    """Order it: the supplier is written to once this holds. It is expected when the supplier usually delivers.

    Raises
    ------
    Rejected
        When there is nothing on it, or it was sent already.
    """
    require(actor, Action.ORDER_PARTS)
    order = locked_order(order_id, version)
    _only(order, "proposal")
    if not order.lines.exists():
        raise Rejected("There is nothing on it.", field="lines")
    today = local_day(int(now.timestamp()), time_zone())
    order.state, order.ordered_at, order.ordered_by = "ordered", now, actor.name
    order.expected_on = expected_on or levels.comes_on(order.supplier, today)
    if order.expected_on < today:
        raise Rejected("It cannot be expected before today.", field="expected_on")
    jobs.after_commit(SEND_PAPER, lock=f"{SEND_PAPER} {order.pk}", order_id=order.pk)
    return _stepped(actor, now, order, f"ordered from {order.supplier.name}")


def mail_order(*, now: datetime, order_id: int) -> bool:
    """Write to the supplier, with the order as PDF and as a table; whether it was written. To be called outside of any
    transaction: nothing is locked while the letter is handed over. Safe to run twice: who was written to is not written
    to again; who dies between the letter and the note of it writes the same letter again, under the same Message-ID
    (RFC 5322), by which the supplier's programs know it."""
    rows = PurchaseOrder.objects.select_related("supplier", "target__depot")
    order = rows.filter(pk=order_id, state__in=["ordered", "received in part"], mailed_at=None).first()
    if order is None or not order.supplier.email:
        return False
    text = f"Please deliver what is on the order {order.number} that is attached.\n\n{company().name}"
    letter = EmailMessage(
        f"Purchase order {order.number}", text, to=[order.supplier.email],
        headers={"Message-ID": f"<purchase-order-{order.pk}-{order.number}@{_own_domain()}>"},
    )  # fmt: skip
    letter.attach(f"{order.number}.pdf", papers.purchase_pdf(order), "application/pdf")
    letter.attach(f"{order.number}.csv", papers.purchase_csv(order), "text/csv")
    letter.send()
    PurchaseOrder.objects.filter(pk=order_id, mailed_at=None).update(mailed_at=now)
    live.announce("stock")
    return True


def _own_domain() -> str:
    return parseaddr(settings.DEFAULT_FROM_EMAIL)[1].rpartition("@")[2]


@transaction.atomic
def expect_on(*, actor: Actor, now: datetime, order_id: int, version: int, day: date) -> PurchaseOrder:
    """The supplier has said another day."""
    require(actor, Action.ORDER_PARTS)
    order = locked_order(order_id, version)
    _only(order, "ordered", "received in part")
    order.expected_on = day
    return _stepped(actor, now, order, f"expects it on {day.isoformat()}")


@transaction.atomic
def receive(
    *, actor: Actor, now: datetime, order_id: int, version: int, came: Sequence[Came], key: UUID | None = None
) -> PurchaseOrder:
    """Put away what has come, in part or whole; more than was ordered is taken in as well.

    Parameters
    ----------
    key
        Under which it is sent: sent again, nothing is booked twice.

    Raises
    ------
    Rejected
        When it was never ordered, or serial numbers are missing.
    """
    require(actor, Action.MOVE_STOCK)
    # Visits that wait for it come before purchase orders and levels, as everywhere.
    list(Visit.objects.select_for_update().filter(part_requests__line__order=order_id).order_by("pk"))
    _lock_who_waits(order_id)
    order = PurchaseOrder.objects.select_for_update(of=("self",)).select_related("supplier").filter(pk=order_id).first()
    if order is not None and key is not None and stock_queries.is_booked(key):
        return order
    order = locked_order(order_id, version)
    _only(order, "ordered", "received in part")
    lines = {row.pk: row for row in order.lines.select_for_update(of=("self",)).select_related("part").order_by("pk")}
    if not came or any(one.line_id not in lines or one.quantity < 1 for one in came):
        raise Rejected("Say of which lines how many have come.", field="lines")
    _book(actor, now, order, lines, came, key)
    for one in came:
        line = lines[one.line_id]
        line.received += one.quantity
        line.paid = one.price if one.price is not None else line.price
        line.save(update_fields=["received", "paid"])
    whole = all(row.received >= row.quantity for row in lines.values())
    order.state, order.ended_at = ("received", now) if whole else ("received in part", None)
    words = ", ".join(f"{one.quantity} × {lines[one.line_id].part.name}" for one in came[:4])
    order = _stepped(actor, now, order, f"received {words}{' and more' if len(came) > 4 else ''}")
    counts = {one.line_id: one.quantity for one in came}
    events.publish(PurchaseReceived(order=order, came=counts, at=now, actor=actor))
    return order


def _book(
    actor: Actor, now: datetime, order: PurchaseOrder, lines: Mapping[int, PurchaseLine], came: Sequence[Came],
    key: UUID | None,
) -> None:  # fmt: skip
    source = stock.place_of_supplier(order.supplier_id)
    moves = [
        Move(
            part=lines[one.line_id].part_id, quantity=one.quantity, source=source.pk, target=order.target_id,
            reason=MoveReason.RECEIPT, serials=tuple(one.serials), batch=one.batch,
        )
        for one in came
    ]  # fmt: skip
    prices = {
        lines[one.line_id].part_id: price
        for one in came
        if (price := one.price if one.price is not None else lines[one.line_id].price) is not None
    }
    stock.move(
        actor=actor, now=now, moves=moves, said=f"received what came of {order.number}",
        how=Circumstances(key=key, unit_costs=prices, note=order.number),
    )  # fmt: skip


@transaction.atomic
def cancel_order(*, actor: Actor, now: datetime, order_id: int, version: int, because: str) -> PurchaseOrder:
    """Nothing (more) of it is to come."""
    require(actor, Action.ORDER_PARTS)
    _lock_who_waits(order_id)
    order = locked_order(order_id, version)
    _only(order, "proposal", "ordered", "received in part")
    if not because.strip() and order.state != "proposal":
        raise Rejected("Say why.", field="because")
    _let_go(actor, now, order, order.lines.all())
    order.state, order.ended_at = "received" if order.state == "received in part" else "cancelled", now
    return _stepped(actor, now, order, f"called off what is still to come: {because.strip() or 'not needed'}")


def _let_go(actor: Actor, now: datetime, order: PurchaseOrder, lines: Iterable[PurchaseLine]) -> None:
    """Nothing more comes by these lines: who waits for one hears of it in the same transaction."""
    events.publish(LinesDropped(order=order, line_ids=[row.pk for row in lines], at=now, actor=actor))


@transaction.atomic
def propose(*, actor: Actor, now: datetime) -> list[PurchaseOrder]:
    """Put all that has fallen below its least level in a depot, less what is coming already, on proposals to the
    suppliers. Safe to run twice: a line that follows from the levels is not added to itself."""
    require(actor, Action.MOVE_STOCK)
    found: dict[int, PurchaseOrder] = {}
    for row, number in levels.short():
        line = add_to_proposal(actor=actor, now=now, part=row.part, quantity=number, target=row.place, by_itself=True)
        found[line.order_id] = line.order
    return list(found.values())


def _lock_who_waits(order_id: int) -> None:
    """Requests are locked before purchase orders, and those before levels, as by whoever answers a request."""
    list(PartRequest.objects.select_for_update().filter(line__order=order_id).order_by("pk"))


def locked_order(order_id: int, version: int) -> PurchaseOrder:
    """
    Raises
    ------
    NotFound, Conflict
    """
    order = (
        PurchaseOrder.objects.select_for_update(of=("self",)).select_related("supplier", "target__depot")
        .filter(pk=order_id).first()
    )  # fmt: skip
    if order is None:
        raise NotFound("There is no such purchase order.", code="no_purchase_order")
    if order.version != version:
        newest = audit.since("purchase order", order.pk, version)
        who = newest[0].actor_name if newest else "Somebody"
        raise Conflict(f"{who} changed {order.number} meanwhile. Look at it again.", current_version=order.version)
    return order


def _only(order: PurchaseOrder, *states: str) -> None:
    if order.state not in states:
        raise Rejected(f"{order.number} is {order.state}.", code="wrong_state", field="state")


def _stepped(actor: Actor, now: datetime, order: PurchaseOrder, said: str) -> PurchaseOrder:
    order.version += 1
    order.save()
    _tell(actor, now, order, said)
    return order


def _tell(actor: Actor, now: datetime, order: PurchaseOrder, said: str) -> None:
    audit.record(
        actor=actor, now=now, action="purchase", entity="purchase order", entity_id=order.pk, version=order.version,
        sentence=said[:300],
    )  # fmt: skip
    live.announce("stock")
