"""The board on the map: where everybody was last."""

from dataclasses import dataclass
from datetime import datetime

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.working_days import working_days
from apps.scheduling.assembling import technicians_of
from core.basics import Place
from core.calendars import day_interval, local_day
from foundation.moments import to_datetime


@dataclass(frozen=True, kw_only=True)
class Seen:
    """Where a technician was seen last, when (None: not yet today), and what was going on there."""

    technician_id: int
    name: str
    place: Place
    at: int | None
    doing: str


def last_seen(*, now: datetime) -> list[Seen]:
    """Everybody at work today: where the phone stamped last, else the last visit begun, else the depot."""
    tz = time_zone()
    day = local_day(int(now.timestamp()), tz)
    stretch = day_interval(day, tz)
    lines: dict[int, list[VisitLine]] = {}
    for line in orders.visits_within(stretch):
        for who in technicians_of(line):
            lines.setdefault(who, []).append(line)
    phones = orders.last_phone_places(since=to_datetime(stretch.start))
    found = []
    for person in working_days(day, tz):
        if person.shift is None:
            continue
        begun = [line for line in lines.get(person.id, []) if line.arrived is not None or line.departed is not None]
        place, at, doing = person.start_place, None, f"not seen yet today, depot {person.depot}"
        if begun:
            last = max(begun, key=lambda line: line.arrived or line.departed or 0)
            place, at = last.place, last.finished or last.arrived or last.departed
            doing = f"{last.state.value.replace('_', ' ')}: {last.site}"
        stamped = phones.get(person.id)
        if stamped is not None and (at is None or stamped[1] >= at):
            place, at = stamped
        found.append(Seen(technician_id=person.id, name=person.name, place=place, at=at, doing=doing))
    return found
