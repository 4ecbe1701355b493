"""A technician's working day: who, from where, when - as values of the core, for the whole company in five queries."""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import QuerySet

from apps.people.models import Absence, Technician, TechnicianSkill, WeeklyShiftRow
from core.basics import Interval, Place
from core.calendars import BreakRule, Shift, WeeklyShift, day_interval, shift_on
from core.planning import TechnicianSpec
from foundation.errors import NotFound
from foundation.moments import to_datetime


@dataclass(frozen=True, kw_only=True, slots=True)
class WorkingDay:
    """What planning needs of a technician on one day. `shift` is None on a day off."""

    id: int
    name: str
    phone: str
    depot: str
    start_place: Place
    end_place: Place
    spec: TechnicianSpec
    shift: Shift | None
    absences: tuple[Interval, ...]


def working_days(day: date, tz: ZoneInfo) -> list[WorkingDay]:
    """Everybody's, by depot and name."""
    return list(_read(Technician.objects.all(), day, tz))


def working_day(technician_id: int, day: date, tz: ZoneInfo) -> WorkingDay:
    """One technician's.

    Raises
    ------
    NotFound
    """
    found = next(_read(Technician.objects.filter(pk=technician_id), day, tz), None)
    if found is None:
        raise NotFound("There is no such technician.", code="no_technician")
    return found


def _read(technicians: QuerySet[Technician], day: date, tz: ZoneInfo) -> Iterator[WorkingDay]:
    columns = ("id", "name", "phone", "depot__name", "depot__lon", "depot__lat")
    rows = list(technicians.order_by("depot__name", "name").values_list(*columns))
    # Of one technician only that one's; of all, everything is read rather than named.
    only: dict[str, Any] = {"technician_id": rows[0][0]} if len(rows) == 1 else {}
    skills: defaultdict[int, dict[str, int]] = defaultdict(dict)
    for key, name, level in TechnicianSkill.objects.filter(**only).values_list("technician_id", "skill__name", "level"):
        skills[key][name] = level
    areas: defaultdict[int, set[str]] = defaultdict(set)
    worked_in = Technician.areas.through.objects.filter(**only)
    for key, area in worked_in.values_list("technician_id", "area__name"):
        areas[key].add(area)
    shifts = _shifts(only, day, tz)
    absences = _absences(only, day_interval(day, tz))
    for key, name, phone, depot, lon, lat in rows:
        place = Place(lon, lat)
        spec = TechnicianSpec(id=key, name=name, skills=skills[key], areas=frozenset(areas[key]))
        yield WorkingDay(
            id=key,
            name=name,
            phone=phone,
            depot=depot,
            start_place=place,
            end_place=place,
            spec=spec,
            shift=shifts.get(key),
            absences=tuple(absences[key]),
        )


def _shifts(only: dict[str, Any], day: date, tz: ZoneInfo) -> dict[int, Shift]:
    columns = ("technician_id", "start", "end", "rest_earliest", "rest_latest", "rest_minutes", "overtime_minutes")
    found = {}
    # Most technicians share one of a few patterns: each is worked out once.
    known: dict[tuple[Any, ...], Shift | None] = {}
    for key, *pattern in WeeklyShiftRow.objects.filter(weekday=day.weekday(), **only).values_list(*columns):
        shape = tuple(pattern)
        if shape not in known:
            known[shape] = shift_on(day, [_weekly(day.weekday(), *pattern)], tz)
        if shift := known[shape]:
            found[key] = shift
    return found


def _weekly(weekday: int, start: Any, end: Any, earliest: Any, latest: Any, rest: int, overtime: int) -> WeeklyShift:
    rule = None
    if rest and earliest and latest:
        rule = BreakRule(earliest=earliest, latest=latest, seconds=rest * 60)
    return WeeklyShift(weekday=weekday, start=start, end=end, rest=rule, overtime_limit=overtime * 60)


def _absences(only: dict[str, Any], within: Interval) -> defaultdict[int, list[Interval]]:
    found: defaultdict[int, list[Interval]] = defaultdict(list)
    touching = Absence.objects.filter(start__lt=to_datetime(within.end), end__gt=to_datetime(within.start), **only)
    for key, start, end in touching.order_by("start").values_list("technician_id", "start", "end"):
        found[key].append(Interval(start=int(start.timestamp()), end=int(end.timestamp())))
    return found
