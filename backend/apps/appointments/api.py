"""HTTP: offering a time."""

from datetime import date
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Query, Router, Status

from apps.appointments import asking, commands, urgent
from apps.appointments import capacity as outlooks
from apps.appointments.capacity_schemas import BehindOut, CapacityOut, behind_out, capacity_out
from apps.appointments.schemas import (
    BookedOut,
    BookIn,
    OffersIn,
    OffersOut,
    StandbyChangeIn,
    TakeIn,
    VisitOffersIn,
    WishIn,
)
from apps.appointments.urgent_schemas import ResponderOut, responder_out
from apps.company.queries import settings
from apps.intake.schemas import PromiseOut
from apps.orders import queries as orders
from apps.orders.commands import put_on_standby, take_off_standby
from apps.orders.drafts import Draft, draft_of_visit
from apps.orders.reach import check_site, check_visit
from apps.orders.schemas import VersionIn, VisitOut
from apps.people.queries import technician
from apps.scheduling.horizon import checked
from apps.scheduling.reaching import out_of_reach
from core.basics import Interval
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import AskedKey, Key, Typed

router = Router()


@router.post("/appointments/offers", response=OffersOut, auth=Needs(Action.OFFER_TIMES))
def offers(request: HttpRequest, body: OffersIn) -> dict[str, Any]:
    """Windows that can be kept for the call as far as it is typed, best first."""
    check_site(actor_of(request), body.site_id)
    draft = commands.draft_of_wanted(
        site_id=body.site_id, wanted=body.wanted(), now=clock.now(), crew=body.crew, request_id=body.request_id
    )
    return {**_asked(draft, body.wish), "urgent": _urgent(draft)}


@router.post("/appointments/offers/expected", response={204: None}, auth=Needs(Action.OFFER_TIMES))
def expect_offers(request: HttpRequest) -> Status[None]:
    """An agent takes a call: make the days ready, so that the first offers come as fast as the later ones."""
    asking.expect_offers()
    return Status(204, None)


@router.post("/visits/{int:visit_id}/offers", response=OffersOut, auth=Needs(Action.OFFER_TIMES))
def visit_offers(request: HttpRequest, visit_id: Key, body: VisitOffersIn) -> dict[str, Any]:
    """Windows that can be kept for a visit that has no technician yet."""
    asked = orders.visit(visit_id)
    check_visit(actor_of(request), asked)
    draft = draft_of_visit(asked)
    return {**_asked(draft, body.wish), "urgent": _urgent(draft)}


def _asked(draft: Draft, wish: WishIn) -> dict[str, Any]:
    return {**asking.offers(draft=draft, wish=wish.model_dump(mode="json")), "shown": settings().offers_shown}


def _urgent(draft: Draft) -> dict[str, Any] | None:
    found = urgent.first_there(draft=draft, now=clock.now())
    if found is None:
        return None
    first = [
        {"technician_id": row.technician_id, "name": row.name, "start": row.start, "drive_seconds": row.drive_seconds,
         "doing": row.doing}
        for row in found.first
    ]  # fmt: skip
    return {"respond_by": found.respond_by, "minutes": found.minutes, "first": first}


@router.post("/appointments/book", response={201: BookedOut}, auth=Needs(Action.OFFER_TIMES))
def book(request: HttpRequest, body: BookIn) -> Status[BookedOut]:
    """Everything a call comes to, at once: request, order, promise."""
    done = commands.book(
        actor=actor_of(request), now=clock.now(), site_id=body.site_id, wanted=body.wanted(),
        details=body.details.known() if body.details else {}, window=_window(body.window), assign=body.assign,
        tell=body.tell,
        standby=body.standby.conditions() if body.standby else None, request_id=body.request_id, version=body.version,
    )  # fmt: skip
    visit = done.visit
    promise = visit.promise
    out = BookedOut(
        request=done.request.number, order_id=done.order.pk, order=done.order.number, visit_id=visit.pk,
        promise=PromiseOut(start=promise.start, end=promise.end) if promise else None,
        technician=technician(visit.technician_id).name if visit.technician_id else None,
    )  # fmt: skip
    return Status(201, out)


@router.post("/visits/{int:visit_id}/promise", response=VisitOut, auth=Needs(Action.OFFER_TIMES))
def take(request: HttpRequest, visit_id: Key, body: TakeIn) -> VisitOut:
    """Promise a window for a visit; it is checked against the days as they are now."""
    window = Interval(start=body.window.start, end=body.window.end)
    commands.take(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, window=window,
        assign=body.assign, tell=body.tell,
    )  # fmt: skip
    return VisitOut.of(orders.visit(visit_id))


@router.put("/visits/{int:visit_id}/standby", response=VisitOut, auth=Needs(Action.OFFER_TIMES))
def standby(request: HttpRequest, visit_id: Key, body: StandbyChangeIn) -> VisitOut:
    """The customer would come forward, under these conditions."""
    put_on_standby(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version,
        conditions=body.conditions(), tell=body.tell,
    )  # fmt: skip
    return VisitOut.of(orders.visit(visit_id))


@router.post("/visits/{int:visit_id}/standby/end", response=VisitOut, auth=Needs(Action.OFFER_TIMES))
def no_standby(request: HttpRequest, visit_id: Key, body: VersionIn) -> VisitOut:
    """The customer no longer waits for an earlier time."""
    take_off_standby(actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version)
    return VisitOut.of(orders.visit(visit_id))


@router.get("/visits/{int:visit_id}/responders", response=list[ResponderOut], auth=Needs(Action.SEE_BOARD))
def responders(request: HttpRequest, visit_id: Key) -> list[dict[str, Any]]:
    """Who could go now, from where they are and what they are in the middle of: in time, and least costly, first."""
    asked = orders.visit(visit_id)
    found = urgent.responders(visit=asked, now=clock.now())
    outside = out_of_reach(actor_of(request), asked, [row.technician_id for row in found])
    return [responder_out(row) for row in found if row.technician_id not in outside]


@router.get("/appointments/capacity", response=CapacityOut, auth=Needs(Action.SEE_BOARD))
def capacity(
    request: HttpRequest, first: date, days: Annotated[int, Query(ge=1, le=14)] = 10, skill: Typed = ""
) -> dict[str, Any]:
    """Hours free against hours promised and expected, by area and day and of the whole company, and what waits."""
    return capacity_out(outlooks.capacity(first=checked(first), days=days, skill=skill or None, now=clock.now()))


@router.get("/appointments/capacity/{day}", response=BehindOut, auth=Needs(Action.SEE_BOARD))
def behind_capacity(
    request: HttpRequest, day: date, area_id: AskedKey | None = None, skill: Typed = ""
) -> dict[str, Any]:  # fmt: skip
    """The work behind the figures of one day in one area; without one, of the whole company."""
    return behind_out(outlooks.behind(day=checked(day), area_id=area_id, skill=skill or None, now=clock.now()))


def _window(promise: Any) -> Interval | None:
    return Interval(start=promise.start, end=promise.end) if promise else None
