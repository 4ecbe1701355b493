"""What is placed, by working day: what is done in a night belongs to the day its shift began on."""

from collections.abc import Collection
from datetime import date, timedelta

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.working_days import WorkingDates, working_dates
from core.basics import Interval
from core.calendars import day_interval


def placed_by_day(
    first: date, last: date, *, technician_ids: Collection[int] | None = None
) -> tuple[dict[date, list[VisitLine]], WorkingDates]:
    """The visits of each working day from `first` to `last`, of everybody or of some technicians; a crew's is on the
    day of whoever leads."""
    tz = time_zone()
    dates = working_dates(first, last, tz)
    hours = Interval(start=day_interval(first, tz).start, end=dates.last_end(last))
    found: dict[date, list[VisitLine]] = {
        first + timedelta(days=number): [] for number in range((last - first).days + 1)
    }
    for line in orders.visits_within(hours, technician_ids=technician_ids):
        assert line.start is not None  # placed ones only
        day = dates.of(line.technician_id, line.start)
        if day in found:
            found[day].append(line)
    return found, dates


def placed_on(day: date, *, technician_ids: Collection[int] | None = None) -> list[VisitLine]:
    """The visits of one working day."""
    return placed_by_day(day, day, technician_ids=technician_ids)[0][day]
