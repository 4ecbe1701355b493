"""How full each day of weeks ahead is: work against shifts, without the driving, which only the board works out."""

from dataclasses import dataclass
from datetime import date, timedelta

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.people.working_days import working_days_between
from core.basics import Interval
from core.calendars import day_interval

MOST_DAYS = 42


@dataclass(frozen=True, kw_only=True)
class DayLoad:
    """One day of a technician: seconds of shift (absences taken off) and of work, and how many visits."""

    date: date
    shift: int
    work: int
    visits: int


def loads(*, first: date, days: int) -> dict[int, list[DayLoad]]:
    """By technician: each day's load."""
    tz = time_zone()
    last = first + timedelta(days=days - 1)
    stretch = Interval(start=day_interval(first, tz).start, end=day_interval(last, tz).end)
    work = orders.work_by_day(stretch, tz)
    found: dict[int, list[DayLoad]] = {}
    for day, people in working_days_between(first, last, tz).items():
        for person in people:
            hours = person.shift.hours if person.shift else None
            away = sum(absence.overlap(hours) for absence in person.absences) if hours else 0
            seconds, visits = work.get((person.id, day), (0, 0))
            row = DayLoad(date=day, shift=max(0, hours.seconds - away) if hours else 0, work=seconds, visits=visits)
            found.setdefault(person.id, []).append(row)
    return found
