"""Who could be there first: for work that cannot wait."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from apps.catalogue.models import JobType
from apps.company.queries import time_zone
from apps.customers.models import Site
from apps.customers.people import refused_at
from apps.orders import queries as orders
from apps.orders.lines import VisitLine, line_of
from apps.orders.models import Visit, WorkOrder
from apps.people.working_days import WorkingDay, working_days
from apps.planning.translate import Days, days_of, opening_of, spec_of_visit, stop_of
from core.basics import minutes_in_words
from core.calendars import day_interval, local_day, local_time
from core.orders import VisitState
from core.planning import Day, Verdict, VisitSpec, judge, pressed_by, whereabouts

GRAIN = 300


@dataclass(frozen=True, kw_only=True)
class Rescuer:
    """Somebody who could go: what they are in the middle of, the drive from there, and when they would start."""

    technician_id: int
    name: str
    phone: str
    doing: str
    drive_seconds: int
    start: int
    verdict: Verdict


@dataclass(frozen=True, kw_only=True)
class FirstThere:
    """Until when somebody must be there, and who could be first."""

    respond_by: int
    minutes: int
    first: list[Rescuer]


# So many are named while the caller is on the line; all of them beside the board.
NAMED = 3


def first_there(*, draft: Mapping[str, Any], now: datetime) -> FirstThere | None:
    """For a call that is being taken: None unless its job type has to be responded to within this day."""
    job = JobType.objects.filter(pk=draft["job_type_id"]).first() if draft.get("job_type_id") else None
    moment = int(now.timestamp())
    by = respond_by(job, moment)
    if job is None or by is None:
        return None
    site = Site.objects.select_related("customer", "area").get(pk=draft["site_id"])
    # The visit as it would be made: nothing of it is in the database yet.
    order = WorkOrder(id=0, number="", customer=site.customer, site=site, job_type=job, title=job.name)
    visit = Visit(
        id=0, order=order, duration_seconds=draft["duration_seconds"] or job.duration_seconds or 3600,
        needs=draft["needs"], priority=draft["priority"], takes={},
    )  # fmt: skip
    first = rescuers(visit=visit, now=now)[:NAMED]
    return FirstThere(respond_by=by, minutes=job.respond_minutes or 0, first=first)


def respond_by(job: JobType | None, now: int) -> int | None:
    """Until when work of this type must be responded to, where that is within the day."""
    if job is None or not job.respond_minutes:
        return None
    moment = now + 60 * job.respond_minutes
    return moment if moment <= day_interval(local_day(now, time_zone()), time_zone()).end else None


def rescuers(*, visit: Visit, now: datetime) -> list[Rescuer]:
    """Everybody at work now whose skills allow it, who could be there first first."""
    tz = time_zone()
    moment = int(now.timestamp())
    day = local_day(moment, tz)
    line = line_of(visit)
    people = [person for person in working_days(day, tz) if person.shift and moment < person.shift.last_end]
    placed = orders.visits_within(day_interval(day, tz))
    days = days_of(people, placed, tz, day=day, also=[line])
    opening = opening_of(line, day, day, tz)
    spec = spec_of_visit(line, days.index, opening=opening, refused=refused_at([line.site_id]))
    by_id = {row.id: row for row in placed}
    found = [_rescuer(person, days, line, spec, by_id, moment) for person in people]
    able = [row for row in found if row.verdict.allowed]
    return sorted(able, key=lambda row: (row.start, row.drive_seconds, row.technician_id))


def _rescuer(
    person: WorkingDay, days: Days, line: VisitLine, spec: VisitSpec, lines: dict[int, VisitLine], now: int
) -> Rescuer:
    own = days.days[person.id].without(spec.id)
    pressed = pressed_by(own, now)
    here = whereabouts(own, days.travel, now=pressed)
    assert own.shift is not None
    place = here.place if here else own.start_place
    free = max(here.free if here else own.shift.hours.start, now)
    drive = days.travel.leg(place, spec.place, free).seconds
    start = -(-(free + drive) // GRAIN) * GRAIN
    return Rescuer(
        technician_id=person.id, name=person.name, phone=person.phone, doing=_doing(own, lines, free, now),
        drive_seconds=drive, start=start,
        verdict=judge(own, stop_of(line, spec, start=start), days.travel, now=pressed),
    )  # fmt: skip


def _doing(own: Day, lines: dict[int, VisitLine], free: int, now: int) -> str:
    """What somebody is in the middle of, in words."""
    begun = [lines[stop.visit.id] for stop in own.running if stop.visit.id in lines]
    busy = next((row for row in reversed(begun) if row.state.is_under_way), None)
    if busy is not None:
        words = {VisitState.EN_ROUTE: "on the way to", VisitState.ON_HOLD: "on hold at"}.get(busy.state, "at")
        return f"{words} {busy.site}, free about {local_time(free, own.tz)}"
    last = next((row for row in reversed(begun) if row.finished is not None), None)
    if last is not None and last.finished is not None:
        return f"free for {minutes_in_words(max(0, now - last.finished))}, was last at {last.site}"
    assert own.shift is not None
    if now < own.shift.hours.start:
        return f"begins at {local_time(own.shift.hours.start, own.tz)}"
    return "free, nothing begun yet today"
