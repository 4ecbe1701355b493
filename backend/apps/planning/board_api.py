"""HTTP: more of the board - first time that fits, lengths, many at once, gaps, urgent work."""

from datetime import date
from typing import Annotated, Any

import orjson
from django.http import HttpRequest, HttpResponse
from ninja import Path, Query, Router

from apps.orders import queries as orders
from apps.orders.schemas import VisitOut
from apps.people.commands import close_calendar, renew_calendar
from apps.people.queries import technicians as people
from apps.planning import board_schemas as shapes
from apps.planning import commands, directions, feeds, filling, mapping, schemas, urgent
from apps.planning import loads as loads_of
from apps.planning import why_here as reasons
from apps.planning.attention import Matter
from apps.planning.attention import attention as found_attention
from apps.planning.horizon import Numbers, checked, named
from core.basics import Interval
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.moments import Moment
from foundation.schemas import AskedKey, Key, Typed

router = Router()
LONGEST_GAP = 24 * 3600


@router.get("/visits", response=list[VisitOut], auth=Needs(Action.SEE_BOARD))
def find_visits(request: HttpRequest, text: Typed) -> list[VisitOut]:
    """Visits that are not over, by what is typed."""
    return [VisitOut.of(row) for row in orders.find_visits(text)]


@router.post("/visits/{visit_id}/place-first", response=schemas.PlacedOut, auth=Needs(Action.PLAN))
def place_first(request: HttpRequest, visit_id: Key, body: shapes.FirstIn) -> dict[str, Any]:
    """Put a visit on somebody's day at the first time at which it fits without harm."""
    visit, verdict = commands.place_first(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version,
        technician_id=body.technician_id, day=checked(body.day),
    )  # fmt: skip
    return {"visit": VisitOut.of(visit), "verdict": schemas.verdict_out(verdict)}


@router.post("/visits/{visit_id}/length", response=VisitOut, auth=Needs(Action.CHANGE_VISITS))
def stretch(request: HttpRequest, visit_id: Key, body: shapes.StretchIn) -> VisitOut:
    """Give a visit another length."""
    visit = commands.stretch(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, seconds=body.seconds
    )
    return VisitOut.of(visit)


@router.post("/bulk", response=shapes.BulkOut, auth=Needs(Action.PLAN))
def bulk(request: HttpRequest, body: shapes.BulkIn) -> dict[str, Any]:
    """Do the same to many visits, or say what would become of them. Undone in one step."""
    outcomes = commands.bulk(
        actor=actor_of(request), now=clock.now(), visits=[(row.id, row.version) for row in body.visits],
        wanted=body.wanted(), preview=body.preview,
    )  # fmt: skip
    return shapes.bulk_out(outcomes)


@router.get("/load", response=list[shapes.LoadOut], auth=Needs(Action.SEE_BOARD))
def load(
    request: HttpRequest, day: date, days: Annotated[int, Query(ge=1, le=loads_of.MOST_DAYS)] = 35,
    technicians: Numbers = "",
) -> list[dict[str, Any]]:  # fmt: skip
    """How full each day of weeks ahead is, of everybody or of the technicians named."""
    found = loads_of.loads(first=checked(day), days=days, now=clock.now(), technician_ids=named(technicians))
    names = {row.pk: row.name for row in people()}
    return [shapes.load_out(key, names[key], rows) for key, rows in found.items()]


@router.get("/rounds", response=list[shapes.RoundOut], auth=Needs(Action.SEE_BOARD))
def rounds(request: HttpRequest, day: date, technicians: Numbers = "") -> HttpResponse:
    """The drives of a day of everybody or of the technicians named, in their order, along the roads."""
    found = directions.rounds(day=checked(day), now=clock.now(), technician_ids=named(technicians))
    content = orjson.dumps([shapes.round_out(key, drives) for key, drives in found.items()])
    return HttpResponse(content, content_type="application/json")


@router.get("/attention", response=list[shapes.MatterOut], auth=Needs(Action.SEE_BOARD))
def attention(request: HttpRequest) -> list[Matter]:
    """Declined visits, promises with nobody, promises of today that will not be kept."""
    return list(found_attention(now=clock.now()))


@router.get("/last-seen", response=list[shapes.SeenOut], auth=Needs(Action.SEE_BOARD))
def last_seen(request: HttpRequest) -> list[dict[str, Any]]:
    """Where everybody who works today was seen last."""
    return [
        {"technician_id": row.technician_id, "name": row.name, "lon": row.place.lon, "lat": row.place.lat,
         "at": row.at, "doing": row.doing}
        for row in mapping.last_seen(now=clock.now())
    ]  # fmt: skip


@router.get("/technicians/{technician_id}/calendar-link", response=shapes.CalendarLinkOut, auth=Needs(Action.PLAN))
def calendar_link(request: HttpRequest, technician_id: Key) -> dict[str, str | None]:
    """The secret address of a technician's calendar, for any program that reads iCalendar."""
    return {"path": feeds.feed_path(technician_id)}


@router.post("/technicians/{technician_id}/calendar-link", response=shapes.CalendarLinkOut, auth=Needs(Action.PLAN))
def renew_calendar_link(request: HttpRequest, technician_id: Key) -> dict[str, str | None]:
    """Another address for the calendar; the old one is dead."""
    renew_calendar(actor=actor_of(request), now=clock.now(), technician_id=technician_id)
    return {"path": feeds.feed_path(technician_id)}


@router.delete("/technicians/{technician_id}/calendar-link", response=shapes.CalendarLinkOut, auth=Needs(Action.PLAN))
def close_calendar_link(request: HttpRequest, technician_id: Key) -> dict[str, str | None]:
    """Let nobody read the calendar until its link is renewed."""
    close_calendar(actor=actor_of(request), now=clock.now(), technician_id=technician_id)
    return {"path": None}


@router.get("/calendar/{token}", auth=None, response={200: bytes})
def calendar(request: HttpRequest, token: Annotated[str, Path(max_length=120)]) -> HttpResponse:
    """A technician's visits as iCalendar. The link itself is the secret."""
    answer = HttpResponse(
        feeds.calendar(token, now=clock.now(), base=request.build_absolute_uri("/")),
        content_type="text/calendar; charset=utf-8",
    )
    answer["Content-Disposition"] = 'inline; filename="visits.ics"'
    return answer


@router.get("/route-sheet", response={200: bytes}, auth=Needs(Action.SEE_BOARD))
def route_sheet(request: HttpRequest, day: date, technician_id: AskedKey | None = None) -> HttpResponse:
    """The day on paper, of one technician or of everybody."""
    content = feeds.route_sheet(day=checked(day), technician_id=technician_id, now=clock.now())
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="route-sheet-{day.isoformat()}.pdf"'
    return answer


@router.get("/gap", response=shapes.GapOut, auth=Needs(Action.SEE_BOARD))
def gap(
    request: HttpRequest, technician_id: AskedKey, start: Moment, end: Moment, but: AskedKey | None = None
) -> dict[str, Any]:
    """What could fill a stretch of somebody's day: the standby list first, then what lies near."""
    if not 0 < end - start <= LONGEST_GAP:
        raise Rejected("A gap ends after it begins, on the same day.", field="end")
    hours = Interval(start=start, end=end)
    found = filling.fillers(technician_id=technician_id, gap=hours, now=clock.now(), but=but)
    return shapes.gap_out(technician_id, hours, found)


@router.get("/visits/{visit_id}/next", response=shapes.GapOut | None, auth=Needs(Action.SEE_BOARD))
def what_next(request: HttpRequest, visit_id: Key) -> dict[str, Any] | None:
    """What could come next after a visit: its technician's next free stretch, and what fits there."""
    found = filling.gap_around(visit_id=visit_id, now=clock.now())
    if found is None:
        return None
    technician_id, hours = found
    return shapes.gap_out(
        technician_id, hours, filling.fillers(technician_id=technician_id, gap=hours, now=clock.now())
    )


@router.post("/visits/{visit_id}/forward", response=schemas.PlacedOut, auth=Needs(Action.PLAN))
def forward(request: HttpRequest, visit_id: Key, body: shapes.ForwardIn) -> dict[str, Any]:
    """Bring a standby visit forward: placed, promised for then, off the list; undone in one step."""
    visit, verdict = commands.bring_forward(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version,
        technician_id=body.technician_id, start=body.start,
    )  # fmt: skip
    return {"visit": VisitOut.of(visit), "verdict": schemas.verdict_out(verdict)}


@router.get("/visits/{visit_id}/why", response=shapes.WhyHereOut | None, auth=Needs(Action.SEE_BOARD))
def why_here(request: HttpRequest, visit_id: Key) -> dict[str, Any] | None:
    """Why a visit stands where it stands; nothing while it stands nowhere."""
    found = reasons.why_here(visit_id=visit_id, now=clock.now())
    return shapes.why_here_out(found) if found else None


@router.get("/visits/{visit_id}/rescuers", response=list[shapes.RescuerOut], auth=Needs(Action.SEE_BOARD))
def rescuers(request: HttpRequest, visit_id: Key) -> list[dict[str, Any]]:
    """Who could go now, from where they are and what they are in the middle of: in time, and least costly, first."""
    found = urgent.rescuers(visit=orders.visit(visit_id), now=clock.now())
    return [shapes.rescuer_out(row) for row in found]


@router.get("/visits/{visit_id}/give", response=shapes.DecisionOut, auth=Needs(Action.PLAN))
def decision(
    request: HttpRequest, visit_id: Key, technician_id: Annotated[int, Query(ge=1, le=2**62)]
) -> dict[str, Any]:
    """What giving urgent work to somebody comes to: who gives way, and where each of them could go instead."""
    found = urgent.decision(visit=orders.visit(visit_id), technician_id=technician_id, now=clock.now())
    return shapes.decision_out(found)


@router.post("/visits/{visit_id}/give", response=schemas.PlacedOut, auth=Needs(Action.PLAN))
def give(request: HttpRequest, visit_id: Key, body: shapes.GiveIn) -> dict[str, Any]:
    """Give urgent work to somebody at once: placed, told to the phone, and what gives way goes where it was decided."""
    visit, verdict = commands.give(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version,
        technician_id=body.technician_id, start=body.start, because=body.because,
        moves=[move.known() for move in body.moves],
    )  # fmt: skip
    return {"visit": VisitOut.of(visit), "verdict": schemas.verdict_out(verdict)}
