"""How full each day of weeks ahead is, from the timetables the board shows."""

from collections.abc import Collection
from datetime import date, datetime, timedelta

from apps.company.queries import time_zone
from apps.people.working_days import working_days_between
from apps.roads.queries import travel_among
from apps.scheduling.assembling import days_of, facts_of, places_of
from apps.scheduling.placed import placed_by_day
from apps.scheduling.schedule import evaluate_on
from apps.scheduling.vans import NOT_COUNTED
from core.scheduling import Workload, pressed_by, workload

MOST_DAYS = 42


def loads(
    *, first: date, days: int, now: datetime, technician_ids: Collection[int] | None = None
) -> dict[int, dict[date, Workload]]:
    """By technician: the load of each day."""
    tz = time_zone()
    last = first + timedelta(days=days - 1)
    by_day, _dates = placed_by_day(first, last, technician_ids=technician_ids)
    visits = [visit for lines in by_day.values() for visit in lines]
    people = working_days_between(first, last, tz, technician_ids=technician_ids)
    facts = facts_of(visits)
    travel = travel_among(places_of(people[first], visits))
    found: dict[int, dict[date, Workload]] = {}
    for day, technicians in people.items():
        # What lies on vans changes no minute.
        loaded = days_of(technicians, by_day[day], tz, day=day, facts=facts, travel=travel, vans=NOT_COUNTED)
        for person in technicians:
            own = loaded.days[person.id]
            timetable = evaluate_on(loaded, person.id, int(now.timestamp()))
            used = workload(own, timetable, now=pressed_by(own, int(now.timestamp())))
            found.setdefault(person.id, {})[day] = used
    return found
