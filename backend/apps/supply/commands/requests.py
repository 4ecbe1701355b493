"""Parts that somebody asks for: answered, ordered, handed over; and what becomes of the visit that waits for them."""

from collections.abc import Sequence
from datetime import datetime

from django.db import transaction
from django.db.models import QuerySet

from apps.orders import commands as orders
from apps.orders.models import Visit
from apps.people import queries as people
from apps.stock import commands as stock
from apps.stock import queries as stock_queries
from apps.stock.models import Part
from apps.supply.commands.purchasing import add_to_proposal
from apps.supply.events import LinesDropped, PartsArrived, PurchaseReceived
from apps.supply.inputs import Asked
from apps.supply.models import PartRequest, PurchaseLine
from core.orders import Step, VisitState
from core.roles import Action, Role
from core.stock import MOST
from foundation import audit, events, live
from foundation.actors import Actor, may, require
from foundation.errors import Conflict, NotFound, NotPermitted, Rejected
from foundation.outside import SystemActor

ENDED = frozenset({"handed over", "refused"})


@transaction.atomic
def ask(*, actor: Actor, now: datetime, asked: Asked) -> PartRequest:
    """Ask for a part: a technician for themselves, the office for anybody.

    Raises
    ------
    Rejected
        When the quantity cannot be, or the visit is over.
    """
    if not may(actor, Action.MOVE_STOCK):
        require(actor, Action.WORK_IN_FIELD)
        if actor.technician_id != asked.technician_id:
            raise NotPermitted("You ask for yourself only.")
    technician, part = people.technician(asked.technician_id), stock_queries.part(asked.code)
    if not 1 <= asked.quantity <= MOST:
        raise Rejected(f"A quantity is 1 to {MOST:,}.", field="quantity")
    visit = None
    if asked.visit_id is not None:
        visit = Visit.objects.select_related("order").filter(pk=asked.visit_id).first()
        if visit is None:
            raise NotFound("There is no such visit.", code="no_visit")
        if VisitState(visit.state).is_ended:
            raise Rejected("This visit is over.", field="visit_id")
    row = PartRequest.objects.create(
        part=part, quantity=asked.quantity, technician=technician, visit=visit, needed_by=asked.needed_by,
        must=asked.must, substitute_allowed=asked.substitute_allowed, words=asked.words.strip()[:300], asked_at=now,
        asked_by=actor.name,
    )  # fmt: skip
    _tell(actor, now, row, f"asked for {row.quantity} × {part.name} for {technician.name}")
    return row


def note_ordered(
    *, actor: Actor, now: datetime, visit: Visit, part: Part, quantity: int, line: PurchaseLine
) -> PartRequest:
    """A visit waits for what has just been put on a proposal."""
    row = PartRequest.objects.filter(visit=visit, part=part).exclude(state__in=ENDED).first()
    if row is None:
        row = PartRequest(
            part=part, quantity=quantity, technician_id=visit.technician_id or 0, visit=visit, asked_at=now,
            needed_by=visit.start, asked_by=actor.name, version=0,
        )  # fmt: skip
    row.line, row.state = line, "ordered"
    return _kept(actor, now, row, f"ordered {quantity} × {part.name} for {visit.label}")


@transaction.atomic
def promise(*, actor: Actor, now: datetime, request_id: int, version: int, place_id: int, at: datetime) -> PartRequest:
    """It comes from a depot or a van: it is spoken for there, and on the technician's van at a moment.

    Raises
    ------
    Conflict
        When it was answered by somebody else, or there is not so much free (any more).
    """
    require(actor, Action.MOVE_STOCK)
    row = _locked(request_id, version)
    if row.state not in ("asked", "ordered", "arrived"):
        raise Conflict(f"It is {row.state} already.", current_version=row.version)
    planned = stock.Planned(
        code=row.part.code, quantity=row.quantity, source_id=place_id,
        target_id=stock.place_of_van(row.technician).pk, at=at, for_visit_id=row.visit_id,
        note=f"for {row.technician.name}",
    )  # fmt: skip
    row.transfer = stock.plan_transfer(actor=actor, now=now, planned=planned)
    row.state = "promised"
    name = stock_queries.place(place_id).name
    return _kept(actor, now, row, f"promised {row.quantity} × {row.part.name} from {name}")


@transaction.atomic
def order_for(*, actor: Actor, now: datetime, request_id: int, version: int) -> PartRequest:
    """It is put on the proposal to its supplier."""
    require(actor, Action.MOVE_STOCK)
    row = _locked(request_id, version)
    if row.state != "asked":
        raise Conflict(f"It is {row.state} already.", current_version=row.version)
    row.line = add_to_proposal(
        actor=actor, now=now, part=row.part, quantity=row.quantity, for_visit=row.visit,
        target=stock.place_of_depot(row.technician.depot_id),
    )  # fmt: skip
    row.state = "ordered"
    return _kept(actor, now, row, f"put {row.quantity} × {row.part.name} on the proposal")


@transaction.atomic
def hand_over(
    *, actor: Actor, now: datetime, request_id: int, version: int, serials: Sequence[str] = (), batch: str = ""
) -> PartRequest:
    """The technician has it: what was promised is moved; what has arrived goes from the depot onto the van."""
    require(actor, Action.MOVE_STOCK)
    row = _locked(request_id, version)
    if row.state not in ("promised", "arrived"):
        raise Conflict(f"It is {row.state}: promise it from somewhere first.", current_version=row.version)
    transfer = row.transfer
    if transfer is None:
        planned = stock.Planned(
            code=row.part.code, quantity=row.quantity, source_id=_came_to(row),
            target_id=stock.place_of_van(row.technician).pk, at=now, for_visit_id=row.visit_id,
        )  # fmt: skip
        transfer = stock.plan_transfer(actor=actor, now=now, planned=planned)
        row.transfer = transfer
    stock.complete_transfers(
        actor=actor, now=now, transfer_ids=[transfer.pk], serials={transfer.pk: serials}, batches={transfer.pk: batch}
    )
    row.state, row.ended_at = "handed over", now
    return _kept(actor, now, row, f"handed over {row.quantity} × {row.part.name} to {row.technician.name}")


def _came_to(row: PartRequest) -> int:
    """The place it was ordered to."""
    return row.line.order.target_id if row.line else stock.place_of_depot(row.technician.depot_id).pk


@transaction.atomic
def refuse(*, actor: Actor, now: datetime, request_id: int, version: int, because: str) -> PartRequest:
    """It will not come; whoever asked reads why."""
    require(actor, Action.MOVE_STOCK)
    row = _locked(request_id, version)
    if row.state in ENDED:
        raise Conflict(f"It is {row.state} already.", current_version=row.version)
    if not because.strip():
        raise Rejected("Say why.", field="because")
    if row.transfer is not None and row.transfer.state == "open":
        stock.drop_transfer(actor=actor, now=now, transfer_id=row.transfer.pk, version=row.transfer.version)
    row.state, row.answer, row.ended_at = "refused", because.strip()[:300], now
    return _kept(actor, now, row, f"refused {row.quantity} × {row.part.name}: {because.strip()}")


def on_received(event: PurchaseReceived) -> None:
    """Whoever waits is served in the order in which they asked, must before nice, once all they asked for has come, in
    however many parts; a visit on hold is back in the backlog, and its customer is to be offered a time."""
    for line_id in sorted(event.came):
        left = _unclaimed(line_id)
        rows = PartRequest.objects.select_for_update(of=("self",)).filter(line=line_id, state="ordered")
        for row in rows.select_related("part", "technician", "visit__order").order_by("-must", "asked_at", "id"):
            if row.quantity > left:
                break
            left -= row.quantity
            row.state = "arrived"
            _kept(event.actor, event.at, row, f"{row.quantity} × {row.part.name} has come for {row.technician.name}")
            if row.visit is not None and row.must:
                _wake(event, row, row.visit)
    if event.order.state == "received":
        # All has come, and was too few: nobody waits for what nobody sends.
        _ask_again(event.actor, event.at, PartRequest.objects.filter(line__order=event.order), "no more of it comes")


def on_dropped(event: LinesDropped) -> None:
    """Whoever waits for what does not come is asking again, before it is forgotten."""
    rows = PartRequest.objects.filter(line__in=event.line_ids)
    _ask_again(event.actor, event.at, rows, f"{event.order.number} does not bring it")


def _ask_again(actor: Actor, now: datetime, rows: QuerySet[PartRequest], why: str) -> None:
    waiting = rows.filter(state="ordered").select_for_update(of=("self",)).select_related("part", "technician")
    for row in waiting.order_by("pk"):
        row.state, row.line = "asked", None
        _kept(actor, now, row, f"{row.quantity} × {row.part.name} for {row.technician.name} is asked for again: {why}")


def _unclaimed(line_id: int) -> int:
    """How many of a line have come and are nobody's yet."""
    came = PurchaseLine.objects.values_list("received", flat=True).get(pk=line_id)
    served = PartRequest.objects.filter(line=line_id, state__in=["arrived", "handed over"])
    return came - sum(served.values_list("quantity", flat=True))


def _wake(event: PurchaseReceived, row: PartRequest, visit: Visit) -> None:
    """Nothing else is still awaited: the visit takes what has come, and is planned anew."""
    waits = PartRequest.objects.filter(visit=visit, must=True, state__in=["asked", "ordered"]).exclude(pk=row.pk)
    if visit.state != VisitState.ON_HOLD or waits.exists():
        return
    takes = dict(visit.takes)
    for one in PartRequest.objects.filter(visit=visit, state="arrived").select_related("part"):
        takes[one.part.code] = max(takes.get(one.part.code, 0), one.quantity)
    what = f"{row.quantity} × {row.part.name}"
    visit = orders.take_step(
        actor=_office(event.actor), now=event.at, visit_id=visit.pk, version=visit.version, step=Step.REOPEN,
        sentence=f"put it back in the backlog: {what} has come",
    )  # fmt: skip
    fields = orders.fields_of(visit, takes=takes)
    visit, _before = orders.change_visit(
        actor=_office(event.actor), now=event.at, visit_id=visit.pk, version=visit.version, fields=fields
    )
    words = f"{what} for {visit.label} has come: offer a time"
    events.publish(PartsArrived(visit=visit, words=words, at=event.at))


def _office(actor: Actor) -> Actor:
    """Whoever books parts in need not plan visits; what follows for a visit is still theirs, by name."""
    if may(actor, Action.CHANGE_VISITS):
        return actor
    return SystemActor(id=actor.id, name=actor.name, role=Role.DISPATCHER)


def _locked(request_id: int, version: int) -> PartRequest:
    row = (
        PartRequest.objects.select_for_update(of=("self",))
        .select_related("part__supplier", "technician", "visit__order", "visit__technician", "transfer", "line__order")
        .filter(pk=request_id).first()
    )  # fmt: skip
    if row is None:
        raise NotFound("There is no such request for a part.", code="no_part_request")
    if row.version != version:
        raise Conflict(f"Somebody has answered it meanwhile: it is {row.state}.", current_version=row.version)
    return row


def _kept(actor: Actor, now: datetime, row: PartRequest, said: str) -> PartRequest:
    row.version += 1
    row.save()
    _tell(actor, now, row, said)
    return row


def _tell(actor: Actor, now: datetime, row: PartRequest, said: str) -> None:
    audit.record(
        actor=actor, now=now, action="part request", entity="part request", entity_id=row.pk, version=row.version,
        sentence=said[:300],
    )  # fmt: skip
    live.announce("stock", technicians=[row.technician_id])
