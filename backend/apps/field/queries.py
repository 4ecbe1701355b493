"""What a technician sees."""

from datetime import date, datetime
from typing import Any

from apps.company.queries import time_zone
from apps.customers.queries import place_of
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.orders.models import Visit
from apps.people import days_off
from apps.people import queries as people
from apps.people.working_days import working_date_of
from apps.roads import queries as roads
from apps.scheduling.placed import placed_on
from core.basics import Place
from core.calendars import local_day
from core.orders import VisitState
from core.roads import Path
from foundation.actors import Actor
from foundation.errors import NotFound, NotPermitted, Rejected

# What is only placed may still change: the phone shows what was sent.
SHOWN = frozenset(VisitState) - {VisitState.OPEN, VisitState.PLACED, VisitState.CANCELLED, VisitState.MISSED}


def own_day(*, actor: Actor, day: date) -> list[VisitLine]:
    """The technician's visits of a day that they were told about, in order."""
    return [visit for visit in placed_on(day, technician_ids=[_own_id(actor)]) if visit.state in SHOWN]


def today(*, actor: Actor, now: datetime) -> date:
    """The technician's working day: in a night shift still the one it began on."""
    return working_date_of(_own_id(actor), int(now.timestamp()), time_zone())


def own_visit(*, actor: Actor, visit_id: int) -> Visit:
    """A visit that the technician leads or goes along to; anybody else's is not found."""
    visit = orders.visit(visit_id)
    if _own_id(actor) not in (visit.technician_id, *visit.mates) or visit.state not in SHOWN:
        raise NotFound("This visit is not yours (any more).", code="no_visit")
    return visit


def way_to(*, actor: Actor, visit_id: int, here: Place | None) -> Path:
    """The road to a visit, from where the phone is or from the depot."""
    visit = own_visit(actor=actor, visit_id=visit_id)
    if here is None:
        depot = people.technician(_own_id(actor)).depot
        here = Place(depot.lon, depot.lat)
    assert visit.start is not None
    return roads.path(here, place_of(visit.order.site), visit.start)


def goes_along(*, actor: Actor, visit_id: int) -> bool:
    """Whether this technician goes to the visit without leading it."""
    return orders.goes_along(visit_id, _own_id(actor))


def _own_id(actor: Actor) -> int:
    if actor.technician_id is None:
        raise NotPermitted("This page is for technicians.", code="no_technician")
    return actor.technician_id


def own_days_off(*, actor: Actor, now: datetime) -> dict[str, Any]:
    """What the technician asked for, newest first, and this year's holiday."""
    if actor.technician_id is None:
        raise Rejected("Your account belongs to no technician.")
    tz = time_zone()
    year = local_day(int(now.timestamp()), tz).year
    return {
        "allowance": days_off.allowance_of(actor.technician_id, year, tz),
        "asked": days_off.asked_by(actor.technician_id),
    }  # fmt: skip
