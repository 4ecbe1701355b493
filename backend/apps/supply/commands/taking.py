"""Taking one of the ways to get a missing part: what was offered is looked for again, and done."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime

from django.db import transaction

from apps.board import commands as board
from apps.company.queries import settings, time_zone
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.commands import TOLD
from apps.orders.models import Visit
from apps.people import queries as people
from apps.stock import commands as stock
from apps.stock import queries as stock_queries
from apps.supply.commands.purchasing import add_to_proposal
from apps.supply.commands.requests import note_ordered
from apps.supply.errands import make_errand
from apps.supply.events import HandOverPlanned
from apps.supply.models import PartRequest
from apps.supply.ways import Missing, missing_of, way_named, ways_for
from core.basics import Place
from core.calendars import local_time
from core.orders import Step
from core.roles import Action
from core.supply import Way, WayKind
from foundation import events
from foundation.actors import Actor, require
from foundation.errors import Rejected
from foundation.moments import to_datetime
from foundation.undo import one_intention


@dataclass(frozen=True, kw_only=True)
class Taken:
    """The way that was taken, the visit it was for, and the stop at which the part is fetched, if there is one."""

    way: Way
    visit: Visit
    errand: Visit | None = None


@transaction.atomic
def take_way(*, actor: Actor, now: datetime, visit_id: int, version: int, code: str, key: str) -> Taken:
    """Take a way by its key, as it was offered.

    Raises
    ------
    Rejected
        When it is not open any more, or not in time.
    Conflict
        When the visit was changed since it was seen, or what was free has been taken.
    """
    require(actor, Action.PLAN)
    require(actor, Action.MOVE_STOCK)
    visit = orders.lock_visit(actor=actor, visit_id=visit_id, version=version)
    missing = missing_of(visit_id, code)
    way = way_named(ways_for(missing, now=now), key)
    if not way.in_time and way.kind is not WayKind.SUPPLIER:
        raise Rejected(f"{way.words}: not in time.", code="too_late", reasons=way.reasons)
    with one_intention():
        return _TAKE[way.kind](actor, now, visit, missing, way)


def _fetch(actor: Actor, now: datetime, visit: Visit, missing: Missing, way: Way) -> Taken:
    """A stop on the technician's round, and the parts promised to it."""
    assert way.start is not None
    assert way.there_at is not None
    technician = people.technician(visit.technician_id or 0)
    what = f"{way.quantity} × {missing.part.name}"
    errand = _errand(actor, now, missing, way, what)
    planned = stock.Planned(
        code=way.part, quantity=way.quantity, source_id=way.place_id or 0,
        target_id=stock.place_of_van(technician).pk, at=to_datetime(way.there_at), for_visit_id=visit.pk,
        errand_id=errand.pk, note=f"for {missing.line.number} {missing.line.site}",
    )  # fmt: skip
    stock.plan_transfer(actor=actor, now=now, planned=planned)
    # The last one first, so that none comes to lie on another on the way.
    for visit_id, start in reversed(way.moves):
        _later(actor, now, visit_id, technician.pk, start)
    errand, _verdict = board.place(
        actor=actor, now=now, visit_id=errand.pk, version=errand.version, technician_id=technician.pk, start=way.start
    )
    if visit.state in TOLD:
        # Whoever was told of the visit is told of the stop before it.
        errand = orders.take_step(
            actor=actor, now=now, visit_id=errand.pk, version=errand.version, step=Step.SEND, tells="technicians"
        )
    if way.technician_id is not None:
        _tell_colleague(actor, now, way, errand, f"Hand over {what} to {technician.name}")
    return Taken(way=way, visit=visit, errand=errand)


def _later(actor: Actor, now: datetime, visit_id: int, technician_id: int, start: int) -> None:
    """A visit begins a little later. Its customer's window stays; whoever goes is told."""
    before = order_queries.bare_visit(visit_id)
    moved, _verdict = board.place(
        actor=actor, now=now, visit_id=visit_id, version=before.version, technician_id=technician_id, start=start
    )
    if before.state in TOLD:
        orders.take_step(
            actor=actor, now=now, visit_id=visit_id, version=moved.version, step=Step.SEND, tells="technicians"
        )


def _errand(actor: Actor, now: datetime, missing: Missing, way: Way, what: str) -> Visit:
    """The stop: at the depot, or where the colleague is."""
    seconds, purpose = 60 * settings().stock_fetch_minutes, f"for {missing.line.number} {missing.line.site}"
    if way.meeting_id is not None:
        meeting, colleague = order_queries.line(way.meeting_id), people.technician(way.technician_id or 0)
        return make_errand(
            actor=actor, now=now, title=f"Take over {what} from {colleague.name}", name=meeting.site,
            address=meeting.address, place=meeting.place, seconds=seconds,
            note=f"{what} from {colleague.name} ({colleague.phone}) {purpose}",
        )  # fmt: skip
    depot = stock_queries.place(way.place_id or 0).depot
    assert depot is not None
    return make_errand(
        actor=actor, now=now, title=f"Fetch {what}", name=depot.name, address=depot.address,
        place=Place(depot.lon, depot.lat), seconds=seconds, note=f"{what} {purpose}",
    )  # fmt: skip


def _tell_colleague(actor: Actor, now: datetime, way: Way, errand: Visit, words: str) -> None:
    """On their line and on their phone."""
    assert way.start is not None
    assert way.technician_id is not None
    said = f"{words} at {errand.order.site.name}, {local_time(way.start, time_zone())}"
    board.remind(actor=actor, now=now, technician_id=way.technician_id, at=way.start, text=said[:200])
    events.publish(HandOverPlanned(technician_id=way.technician_id, visit=errand, words=said, at=now))


def _substitute(actor: Actor, now: datetime, visit: Visit, missing: Missing, way: Way) -> Taken:
    """So many of the other part instead of those that are missing."""
    takes = dict(visit.takes)
    takes[missing.part.code] -= way.quantity
    takes[way.part] = takes.get(way.part, 0) + way.quantity
    kept = {code: number for code, number in takes.items() if number > 0}
    fields = orders.fields_of(visit, takes=kept)
    changed = board.edit(actor=actor, now=now, visit_id=visit.pk, version=visit.version, fields=fields)
    return Taken(way=way, visit=changed)


def _give(actor: Actor, now: datetime, visit: Visit, _missing: Missing, way: Way) -> Taken:
    """Somebody else, who has it, does the visit."""
    assert way.start is not None
    assert way.technician_id is not None
    told = visit.state in TOLD
    given, _verdict = board.place(
        actor=actor, now=now, visit_id=visit.pk, version=visit.version, technician_id=way.technician_id,
        start=way.start,
    )  # fmt: skip
    if told:
        # The customer's time stays; who comes is told anew.
        given = orders.take_step(
            actor=actor, now=now, visit_id=given.pk, version=given.version, step=Step.SEND, tells="technicians"
        )
    return Taken(way=way, visit=given)


def _order(actor: Actor, now: datetime, visit: Visit, missing: Missing, way: Way) -> Taken:
    """On the proposal to its supplier, asked for by this visit; its request is locked before the order is."""
    list(PartRequest.objects.select_for_update().filter(visit=visit, part=missing.part).order_by("pk"))
    line = add_to_proposal(actor=actor, now=now, part=missing.part, quantity=way.quantity, for_visit=visit)
    note_ordered(actor=actor, now=now, visit=visit, part=missing.part, quantity=way.quantity, line=line)
    return Taken(way=way, visit=visit)


_Doer = Callable[[Actor, datetime, Visit, Missing, Way], Taken]
_TAKE: Mapping[WayKind, _Doer] = {
    WayKind.DEPOT: _fetch, WayKind.COLLEAGUE: _fetch, WayKind.SUBSTITUTE: _substitute, WayKind.GIVE: _give,
    WayKind.SUPPLIER: _order,
}  # fmt: skip
