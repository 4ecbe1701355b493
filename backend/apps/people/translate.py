"""Rows of people as values of the core."""

from collections.abc import Iterable
from datetime import date
from zoneinfo import ZoneInfo

from apps.people.models import Technician, WeeklyShiftRow
from core.basics import Interval
from core.calendars import BreakRule, Shift, WeeklyShift, shift_on
from core.planning import TechnicianSpec


def spec_of(technician: Technician) -> TechnicianSpec:
    return TechnicianSpec(
        id=technician.pk,
        name=technician.name,
        skills={row.skill.name: row.level for row in technician.skills.all()},
        areas=frozenset(area.name for area in technician.areas.all()),
    )


def shift_of(technician: Technician, day: date, tz: ZoneInfo) -> Shift | None:
    return shift_on(day, [_weekly(row) for row in technician.shifts.all()], tz)


def absences_of(technician: Technician, within: Interval) -> tuple[Interval, ...]:
    """Absences that touch a stretch of time."""
    found: Iterable[Interval] = (
        Interval(start=int(row.start.timestamp()), end=int(row.end.timestamp())) for row in technician.absences.all()
    )
    return tuple(absence for absence in found if absence.overlap(within))


def _weekly(row: WeeklyShiftRow) -> WeeklyShift:
    rest = None
    if row.rest_minutes and row.rest_earliest and row.rest_latest:
        rest = BreakRule(earliest=row.rest_earliest, latest=row.rest_latest, seconds=row.rest_minutes * 60)
    return WeeklyShift(
        weekday=row.weekday, start=row.start, end=row.end, rest=rest, overtime_limit=row.overtime_minutes * 60
    )
