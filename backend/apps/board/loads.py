"""How full each day of weeks ahead is, from the timetables the board shows."""

from collections.abc import Collection
from datetime import date, datetime, timedelta

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.working_days import working_days_between
from apps.roads.queries import travel_among
from apps.scheduling.assembling import days_of, facts_of, places_of
from apps.scheduling.schedule import evaluate_on
from apps.scheduling.vans import NOT_COUNTED
from core.basics import Interval
from core.calendars import day_interval, local_day
from core.scheduling import Workload, pressed_by, workload

MOST_DAYS = 42


def loads(
    *, first: date, days: int, now: datetime, technician_ids: Collection[int] | None = None
) -> dict[int, dict[date, Workload]]:
    """By technician: the load of each day."""
    tz = time_zone()
    last = first + timedelta(days=days - 1)
    stretch = Interval(start=day_interval(first, tz).start, end=day_interval(last, tz).end)
    visits = orders.visits_within(stretch, technician_ids=technician_ids)
    people = working_days_between(first, last, tz, technician_ids=technician_ids)
    by_day: dict[date, list[VisitLine]] = {day: [] for day in people}
    for visit in visits:
        assert visit.start is not None  # placed ones only
        by_day[local_day(visit.start, tz)].append(visit)
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
