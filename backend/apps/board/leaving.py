"""What is left to do when somebody leaves."""

from datetime import date, timedelta

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.scheduling.horizon import checked
from core.basics import Interval
from core.calendars import day_interval

# Nothing is planned further ahead.
AHEAD_SECONDS = 3 * 366 * 86_400


def planned_after(technician_id: int, day: date) -> list[VisitLine]:
    """Visits that somebody leads or goes along with after a day, by their start; what has begun or ended is over."""
    end = day_interval(checked(day + timedelta(days=1)), time_zone()).start
    ahead = Interval(start=end, end=end + AHEAD_SECONDS)
    rows = orders.visits_within(ahead, technician_ids=[technician_id])
    planned = [row for row in rows if row.start is not None and not row.state.is_under_way and not row.state.is_ended]
    return sorted(planned, key=lambda row: (row.start or 0, row.id))
