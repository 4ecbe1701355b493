"""Reading days off: what was asked for, and how much of a year's holiday is taken."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date, timedelta
from zoneinfo import ZoneInfo

from apps.people.models import Absence, DaysAsked, Technician
from apps.people.working_days import working_days_between
from core.basics import Interval
from core.calendars import day_interval
from foundation.moments import to_datetime


@dataclass(frozen=True)
class Allowance:
    """Days of holiday in a year: how many somebody has (None: nobody counts them), and how many are taken."""

    year: int
    days: int | None
    taken: int


def asked_by(technician_id: int, *, limit: int = 30) -> list[DaysAsked]:
    """One technician's own, newest first."""
    return list(DaysAsked.objects.filter(technician_id=technician_id).order_by("-first_day", "-pk")[:limit])


def waiting() -> list[DaysAsked]:
    """What nobody has answered, by the first day."""
    rows = DaysAsked.objects.select_related("technician").defer("technician__portrait")
    return list(rows.filter(state="asked").order_by("first_day", "pk"))


def allowance_of(technician_id: int, year: int, tz: ZoneInfo) -> Allowance:
    """Granted holidays of a year, counted in working days."""
    first, last = date(year, 1, 1), date(year, 12, 31)
    span = Interval(start=day_interval(first, tz).start, end=day_interval(last + timedelta(days=1), tz).start)
    rows = Absence.objects.filter(
        technician_id=technician_id, kind="holiday", start__lt=to_datetime(span.end), end__gt=to_datetime(span.start)
    )
    taken = [Interval(start=int(row.start.timestamp()), end=int(row.end.timestamp())) for row in rows]
    has = Technician.objects.filter(pk=technician_id).values_list("holiday_days", flat=True).first()
    return Allowance(year=year, days=has, taken=_working_days(technician_id, taken, first, last, tz) if taken else 0)


def working_days_of(row: DaysAsked, tz: ZoneInfo) -> int:
    """How many working days are asked for."""
    start = day_interval(row.first_day, tz).start
    end = day_interval(row.last_day + timedelta(days=1), tz).start
    return _working_days(row.technician_id, [Interval(start=start, end=end)], row.first_day, row.last_day, tz)


def _working_days(technician_id: int, away: Collection[Interval], first: date, last: date, tz: ZoneInfo) -> int:
    """Days whose hours lie in these stretches for the greater part; what is on call only is no working day."""
    days = working_days_between(first, last, tz, technician_ids=[technician_id])
    shifts = [row.shift for rows in days.values() for row in rows if row.shift is not None and row.shift.hours.seconds]
    return sum(2 * sum(row.overlap(shift.hours) for row in away) > shift.hours.seconds for shift in shifts)
