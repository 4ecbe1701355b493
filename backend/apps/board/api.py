"""HTTP: reading the board and what stands beside it."""

from datetime import date
from typing import Annotated, Any

import orjson
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from apps.board import directions, filling, mapping, queries, schemas
from apps.board import loads as loads_of
from apps.board import why_here as reasons
from apps.board.attention import Matter
from apps.board.attention import attention as found_attention
from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.backlog import backlog as backlog_of
from apps.orders.schemas import VisitOut, visit_fields
from apps.people.queries import certificates
from apps.people.queries import technicians as people
from apps.people.working_days import working_days
from apps.scheduling.horizon import Numbers, checked, named
from core.basics import Interval
from core.calendars import local_day
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.moments import Moment
from foundation.schemas import AskedKey, Key, Typed

LONGEST_GAP = 24 * 3600


router = Router()


@router.get("/board/lanes", response=list[schemas.LaneHeadOut], auth=Needs(Action.SEE_BOARD))
def lanes(request: HttpRequest) -> HttpResponse:
    """Everybody who has a line on the board, by depot and name."""
    found = working_days(_today(), time_zone())
    papers = certificates([technician.id for technician in found])
    heads = [schemas.lane_head(technician, papers.get(technician.id, [])) for technician in found]
    return HttpResponse(orjson.dumps(heads), content_type="application/json")


@router.get("/board", response=schemas.BoardOut, auth=Needs(Action.SEE_BOARD))
def board(
    request: HttpRequest, day: Annotated[date | None, Query()] = None,
    days: Annotated[int, Query(ge=1, le=queries.MOST_DAYS)] = 1, technicians: Numbers = "",
) -> HttpResponse:  # fmt: skip
    """Days of everybody, or of some technicians: lanes with their timetables, visits with their lamps.

    Without `day`: from today on. `technicians` are ids, separated by commas.
    """
    first = checked(day) if day else _today()
    found = queries.board(first=first, days=days, now=clock.now(), technician_ids=named(technicians))
    # Written straight: checking thousands of values of our own again would triple the time.
    return HttpResponse(orjson.dumps(schemas.board_out(found)), content_type="application/json")


@router.post("/board/backlog", response=schemas.BacklogOut, auth=Needs(Action.SEE_BOARD))
def backlog(request: HttpRequest, body: schemas.BacklogIn) -> HttpResponse:
    """Work without a place, the most pressing first. By POST, because filters can be many; nothing changes."""
    found = backlog_of(body.filters(), sort=body.sort)
    now = int(clock.now().timestamp())
    rows = [
        visit_fields(visit) | {"reasons": queries.backlog_reasons(visit, now, declined=found.declined)}
        for visit in found.lines
    ]
    return HttpResponse(orjson.dumps({"total": found.total, "visits": rows}), content_type="application/json")


@router.get("/visits", response=list[VisitOut], auth=Needs(Action.SEE_BOARD))
def find_visits(request: HttpRequest, text: Typed) -> list[VisitOut]:
    """Visits that are not over, by what is typed."""
    return [VisitOut.of(row) for row in orders.find_visits(text)]


@router.get("/board/load", response=list[schemas.LoadOut], auth=Needs(Action.SEE_BOARD))
def load(
    request: HttpRequest, day: date, days: Annotated[int, Query(ge=1, le=loads_of.MOST_DAYS)] = 35,
    technicians: Numbers = "",
) -> list[dict[str, Any]]:  # fmt: skip
    """How full each day of weeks ahead is, of everybody or of the technicians named."""
    found = loads_of.loads(first=checked(day), days=days, now=clock.now(), technician_ids=named(technicians))
    names = {row.pk: row.name for row in people()}
    return [schemas.load_out(key, names[key], rows) for key, rows in found.items()]


@router.get("/board/rounds", response=list[schemas.RoundOut], auth=Needs(Action.SEE_BOARD))
def rounds(request: HttpRequest, day: date, technicians: Numbers = "") -> HttpResponse:
    """The drives of a day of everybody or of the technicians named, in their order, along the roads."""
    found = directions.rounds(day=checked(day), now=clock.now(), technician_ids=named(technicians))
    content = orjson.dumps([schemas.round_out(key, drives) for key, drives in found.items()])
    return HttpResponse(content, content_type="application/json")


@router.get("/board/attention", response=list[schemas.MatterOut], auth=Needs(Action.SEE_BOARD))
def attention(request: HttpRequest) -> list[Matter]:
    """Declined visits, promises with nobody, promises of today that will not be kept."""
    return list(found_attention(now=clock.now()))


@router.get("/board/last-seen", response=list[schemas.SeenOut], auth=Needs(Action.SEE_BOARD))
def last_seen(request: HttpRequest) -> list[dict[str, Any]]:
    """Where everybody who works today was seen last."""
    return [
        {"technician_id": row.technician_id, "name": row.name, "lon": row.place.lon, "lat": row.place.lat,
         "at": row.at, "doing": row.doing}
        for row in mapping.last_seen(now=clock.now())
    ]  # fmt: skip


@router.get("/board/gap", response=schemas.GapOut, auth=Needs(Action.SEE_BOARD))
def gap(
    request: HttpRequest, technician_id: AskedKey, start: Moment, end: Moment, but: AskedKey | None = None
) -> dict[str, Any]:
    """What could fill a stretch of somebody's day: the standby list first, then what lies near."""
    if not 0 < end - start <= LONGEST_GAP:
        raise Rejected("A gap ends after it begins, on the same day.", field="end")
    hours = Interval(start=start, end=end)
    found = filling.filling(
        technician_id=technician_id, around=hours, now=clock.now(), but=but, actor=actor_of(request)
    )
    return schemas.gap_out(technician_id, found)


@router.get("/visits/{visit_id}/next", response=schemas.GapOut | None, auth=Needs(Action.SEE_BOARD))
def what_next(request: HttpRequest, visit_id: Key) -> dict[str, Any] | None:
    """What could come next after a visit: its technician's next free stretch, and what fits there."""
    found = filling.gap_around(visit_id=visit_id, now=clock.now())
    if found is None:
        return None
    technician_id, hours = found
    fill = filling.filling(technician_id=technician_id, around=hours, now=clock.now(), actor=actor_of(request))
    return schemas.gap_out(technician_id, fill)


@router.get("/visits/{visit_id}/why", response=schemas.WhyHereOut | None, auth=Needs(Action.SEE_BOARD))
def why_here(request: HttpRequest, visit_id: Key) -> dict[str, Any] | None:
    """Why a visit stands where it stands; nothing while it stands nowhere."""
    found = reasons.why_here(visit_id=visit_id, now=clock.now())
    return schemas.why_here_out(found) if found else None


def _today() -> date:
    return local_day(int(clock.now().timestamp()), time_zone())
