"""What a technician sees."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from apps.company.queries import time_zone
from apps.customers.queries import place_of
from apps.field.models import FieldDeed, Phone
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
from core.field import Outcome
from core.orders import Part, Stand, VisitState, what_follows
from core.roads import Path
from foundation.actors import Actor
from foundation.errors import NotFound, NotPermitted, Rejected

SIGNED_OUT = "The office has signed this phone out. Sign out, and in again."
# What is only placed may still change: the phone shows what was sent.
SHOWN = frozenset(VisitState) - {VisitState.OPEN, VisitState.PLACED, VisitState.CANCELLED, VisitState.MISSED}


@dataclass(frozen=True, kw_only=True)
class OwnRow:
    """A visit of the day, what may follow for this technician, and the names of what has happened."""

    visit: VisitLine
    ahead: Sequence[Stand]
    known: list[UUID]


def own_day(*, actor: Actor, day: date) -> list[OwnRow]:
    """The technician's visits of a day that they were told about, in order."""
    own = own_id(actor)
    lines = [visit for visit in placed_on(day, technician_ids=[own]) if visit.state in SHOWN]
    ids = [line.id for line in lines]
    parts, keys = orders.own_parts(ids, own), orders.event_keys(ids)
    return [
        OwnRow(visit=line, ahead=ahead_of(line.state, parts.get(line.id)), known=keys.get(line.id, []))
        for line in lines
    ]


def ahead_of(state: VisitState, part: Part | None) -> Sequence[Stand]:
    """What may follow for somebody with that part in a visit; with none, nothing."""
    return [Stand(state=state, steps=())] if part is None else what_follows(state, part)


def today(*, actor: Actor, now: datetime) -> date:
    """The technician's working day: in a night shift still the one it began on."""
    return working_date_of(own_id(actor), int(now.timestamp()), time_zone())


def own_visit(*, actor: Actor, visit_id: int) -> Visit:
    """A visit that the technician leads or goes along to; anybody else's is not found."""
    visit = orders.visit(visit_id)
    if own_id(actor) not in (visit.technician_id, *visit.mates) or visit.state not in SHOWN:
        raise NotFound("This visit is not yours (any more).", code="no_visit")
    return visit


def own_visits(*, actor: Actor, ids: Collection[int]) -> list[Visit]:
    """Those of these visits that the technician leads or goes along to."""
    own = own_id(actor)
    rows = Visit.objects.with_whereabouts().select_related("technician").filter(pk__in=ids, state__in=SHOWN)
    return [visit for visit in rows.order_by("start", "id") if own in (visit.technician_id, *visit.mates)]


def way_to(*, actor: Actor, visit_id: int, here: Place | None) -> Path:
    """The road to a visit, from where the phone is or from the depot."""
    visit = own_visit(actor=actor, visit_id=visit_id)
    if here is None:
        depot = people.technician(own_id(actor)).depot
        here = Place(depot.lon, depot.lat)
    assert visit.start is not None
    return roads.path(here, place_of(visit.order.site), visit.start)


def goes_along(*, actor: Actor, visit_id: int) -> bool:
    """Whether this technician goes to the visit without leading it."""
    return orders.goes_along(visit_id, own_id(actor))


def own_id(actor: Actor) -> int:
    """Whose phone it is.

    Raises
    ------
    NotPermitted
        When the account belongs to no technician.
    """
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


def known_deeds(actor: Actor, visit_id: int) -> list[UUID]:
    """The names of what this technician's phones have told of a visit."""
    rows = FieldDeed.objects.filter(visit=visit_id, technician=own_id(actor)).exclude(outcome=Outcome.WAITING)
    return list(rows.order_by("received_at", "number").values_list("pk", flat=True))


def known_deeds_of_day(actor: Actor, day: date) -> list[UUID]:
    """The names of what this technician's phones have told of a day itself."""
    rows = FieldDeed.objects.filter(visit=None, technician=own_id(actor), body__day=day.isoformat())
    return list(rows.order_by("received_at", "number").values_list("pk", flat=True))


def phones_of(account_id: int) -> list[Phone]:
    """Phones somebody has signed in on, the one that was seen last first."""
    return list(Phone.objects.filter(account=account_id).order_by("-seen_at"))


def is_open(phone_id: UUID) -> bool:
    """Whether a phone is known and nobody has signed it out."""
    return Phone.objects.filter(pk=phone_id, signed_out_at=None, account__is_active=True).exists()


def check_open(*, actor: Actor, phone_id: UUID) -> Phone:
    """This person's own phone, which nobody has signed out.

    Raises
    ------
    NotFound
    NotPermitted
        When it was signed out.
    """
    found = Phone.objects.filter(pk=phone_id, account=actor.id).first()
    if found is None:
        raise NotFound("This phone is not known.", code="no_phone")
    if found.signed_out_at is not None:
        raise NotPermitted(SIGNED_OUT, code="phone_signed_out")
    return found


def waiting_deeds(*, limit: int = 200) -> list[FieldDeed]:
    """What was done in the field and contradicts the records: what came in first is first, in the order it was done."""
    rows = FieldDeed.objects.filter(outcome=Outcome.WAITING, settled_at=None)
    related = rows.select_related("technician", "visit__order__site", "visit__technician")
    return list(related.order_by("visit_id", "phone_id", "number")[:limit])
