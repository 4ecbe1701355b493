"""A technician's working day: who, from where, when - as values of the core, for the whole company in nine queries."""

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from datetime import date, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import F, Q, QuerySet

from apps.company.queries import holidays_between
from apps.people.models import (
    Absence,
    Certificate,
    FormerEnds,
    Technician,
    TechnicianSkill,
    TechnicianWish,
    WeeklyShiftRow,
)
from core.basics import Interval, Place
from core.calendars import (
    BreakRule,
    Shift,
    WeeklyShift,
    day_interval,
    local_day,
    shift_on,
    week_of_rotation,
    working_date,
)
from core.scheduling import TechnicianSpec
from foundation.errors import NotFound
from foundation.moments import to_datetime

# A certificate without an end.
FOR_GOOD = 1 << 40


@dataclass(frozen=True, kw_only=True, slots=True)
class Away:
    """An absence: which one, when, and why."""

    id: int
    hours: Interval
    reason: str


@dataclass(frozen=True, kw_only=True, slots=True)
class WorkingDay:
    """What planning needs of a technician on one day. `shift` is None on a day off; `holiday` names it if it is one."""

    id: int
    name: str
    phone: str
    email: str
    depot: str
    start_place: Place
    end_place: Place
    spec: TechnicianSpec
    shift: Shift | None
    away: tuple[Away, ...]
    holiday: str = ""

    @property
    def absences(self) -> tuple[Interval, ...]:
        """When nobody works: absences, and the gap of a split shift."""
        gap = () if self.shift is None or self.shift.gap is None else (self.shift.gap,)
        return (*gap, *(absence.hours for absence in self.away))


def working_days(day: date, tz: ZoneInfo) -> list[WorkingDay]:
    """Everybody's, by depot and name."""
    return working_days_between(day, day, tz)[day]


def working_days_between(
    first: date, last: date, tz: ZoneInfo, *, technician_ids: Collection[int] | None = None
) -> dict[date, list[WorkingDay]]:
    """Everybody's (or of these technicians) on each of some days, by depot and name."""
    technicians = Technician.objects.all()
    if technician_ids is not None:
        technicians = technicians.filter(pk__in=technician_ids)
    days = [first + timedelta(days=number) for number in range((last - first).days + 1)]
    return _read(technicians, days, tz)


def working_day(technician_id: int, day: date, tz: ZoneInfo) -> WorkingDay:
    """One technician's.

    Raises
    ------
    NotFound
    """
    found = _read(Technician.objects.filter(pk=technician_id), [day], tz)[day]
    if not found:
        raise NotFound("There is no such technician.", code="no_technician")
    return found[0]


# An end at or before the start is the next day's; overtime of a late shift may run into it.
_PAST_MIDNIGHT = Q(end__lte=F("start")) | Q(end__gte=time(18), overtime_minutes__gt=0) | Q(on_call_until__isnull=False)


@dataclass(frozen=True, kw_only=True)
class WorkingDates:
    """Which working day a moment of somebody's belongs to, by everybody's shifts on some dates and the one before."""

    tz: ZoneInfo
    shifts: Mapping[tuple[int, date], Shift]

    def of(self, technician_id: int | None, moment: int) -> date:
        """Nobody's moment belongs to its date."""
        day = local_day(moment, self.tz)
        if technician_id is None:
            return day
        before = self.shifts.get((technician_id, day - timedelta(days=1)))
        return working_date(moment, self.tz, shift_before=before, shift_of_day=self.shifts.get((technician_id, day)))

    def last_end(self, day: date) -> int:
        """When the last shift that begins on a date is over; midnight where all are over before."""
        ends = (shift.last_end for (_id, on), shift in self.shifts.items() if on == day)
        return max(day_interval(day, self.tz).end, *ends, 0)


def working_dates(first: date, last: date, tz: ZoneInfo) -> WorkingDates:
    """Everybody's, for moments on dates from `first` to `last` and in the night after. Only of those who ever work past
    midnight the shifts are looked at: everybody else's moments belong to their dates."""
    patterns = _patterns({"technician__in": WeeklyShiftRow.objects.filter(_PAST_MIDNIGHT).values("technician_id")})
    if not patterns:
        return WorkingDates(tz=tz, shifts={})
    days = [first + timedelta(days=number) for number in range(-1, (last - first).days + 2)]
    holidays = holidays_between(days[0], days[-1])
    shifts = {
        (key, day): shift for day in days if day not in holidays for key, shift in _shifts(patterns, day, tz).items()
    }
    return WorkingDates(tz=tz, shifts=shifts)


def working_date_of(technician_id: int, moment: int, tz: ZoneInfo) -> date:
    """The working day that a moment of somebody's belongs to."""
    day = local_day(moment, tz)
    return working_dates(day, day, tz).of(technician_id, moment)


def _read(technicians: QuerySet[Technician], days: list[date], tz: ZoneInfo) -> dict[date, list[WorkingDay]]:
    columns = (
        "id", "name", "phone", "email", "depot__name", "depot__lon", "depot__lat", "starts_at_home", "ends_at_home",
        "home_lon", "home_lat",
    )  # fmt: skip
    rows = list(technicians.order_by("depot__name", "name").values_list(*columns))
    # Of one technician only that one's; of all, everything is read rather than named.
    only: dict[str, Any] = {"technician_id": rows[0][0]} if len(rows) == 1 else {}
    skills: defaultdict[int, dict[str, int]] = defaultdict(dict)
    for key, name, level in TechnicianSkill.objects.filter(**only).values_list("technician_id", "skill__name", "level"):
        skills[key][name] = level
    areas: defaultdict[int, set[str]] = defaultdict(set)
    worked_in = Technician.areas.through.objects.filter(area__removed_at__isnull=True, **only)
    for key, area in worked_in.values_list("technician_id", "area__name"):
        areas[key].add(area)
    papers, likes, avoids = _papers(only, tz), *_wishes(only)
    patterns = _patterns(only)
    # A night shift may run into an absence of the day after.
    until = day_interval(days[-1] + timedelta(days=1), tz).end
    absences = _absences(only, Interval(start=day_interval(days[0], tz).start, end=until))
    specs = {
        key: TechnicianSpec(
            id=key, name=name, skills=skills[key], areas=frozenset(areas[key]), certificates=papers.get(key, {}),
            likes=frozenset(likes[key]), avoids=frozenset(avoids[key]),
        )
        for key, name, *_more in rows
    }  # fmt: skip
    holidays = holidays_between(days[0], days[-1])
    former = _former_ends(only, days[0])
    found: dict[date, list[WorkingDay]] = {}
    for day in days:
        within = day_interval(day, tz)
        shifts = {} if day in holidays else _shifts(patterns, day, tz)
        found[day] = [
            WorkingDay(
                id=key, name=name, phone=phone, email=email, spec=specs[key], shift=shifts.get(key),
                **(
                    _ends_on(former.get(key, ()), day)
                    or {
                        "depot": depot, "start_place": Place(*home) if starts else Place(lon, lat),
                        "end_place": Place(*home) if ends else Place(lon, lat),
                    }
                ),
                away=tuple(row for row in absences[key] if row.hours.overlap(_until_over(within, shifts.get(key)))),
                holiday=holidays.get(day, ""),
            )
            for key, name, phone, email, depot, lon, lat, starts, ends, *home in rows
        ]  # fmt: skip
    return found


_Former = tuple[date, dict[str, Any]]


def _former_ends(only: dict[str, Any], first: date) -> dict[int, list[_Former]]:
    """Where days began and ended before some day after `first`, by technician, the first to end first."""
    found: defaultdict[int, list[_Former]] = defaultdict(list)
    columns = ("technician_id", "until", "depot", "start_lon", "start_lat", "end_lon", "end_lat")
    rows = FormerEnds.objects.filter(until__gt=first, **only).order_by("until").values_list(*columns)
    for key, until, depot, start_lon, start_lat, end_lon, end_lat in rows:
        places = {"start_place": Place(start_lon, start_lat), "end_place": Place(end_lon, end_lat)}
        found[key].append((until, {"depot": depot, **places}))
    return found


def _ends_on(former: Iterable[_Former], day: date) -> dict[str, Any] | None:
    """What held on a day, where that is another than now."""
    return next((ends for until, ends in former if day < until), None)


def _until_over(day: Interval, shift: Shift | None) -> Interval:
    """A day until its shift is over, where that is after midnight."""
    return day if shift is None else Interval(start=day.start, end=max(day.end, shift.last_end))


def _wishes(only: dict[str, Any]) -> tuple[defaultdict[int, set[str]], defaultdict[int, set[str]]]:
    """Names of the skills and areas that each likes, and would rather not have."""
    found: tuple[defaultdict[int, set[str]], defaultdict[int, set[str]]] = defaultdict(set), defaultdict(set)
    rows = TechnicianWish.objects.filter(**only).filter(Q(area__isnull=True) | Q(area__removed_at__isnull=True))
    for key, likes, skill, area in rows.values_list("technician_id", "likes", "skill__name", "area__name"):
        found[0 if likes else 1][key].add(skill or area)
    return found


def _papers(only: dict[str, Any], tz: ZoneInfo) -> dict[int, dict[str, int]]:
    """The last second of each certificate, by technician and name; of two of one name, the one that lasts longer."""
    found: defaultdict[int, dict[str, int]] = defaultdict(dict)
    ends: dict[date, int] = {}  # many end on one day
    rows = Certificate.objects.filter(**only).values_list("technician_id", "kind__name", "valid_until")
    for key, name, until in rows:
        if until is not None and until not in ends:
            ends[until] = day_interval(until, tz).end - 1
        last = FOR_GOOD if until is None else ends[until]
        found[key][name] = max(last, found[key].get(name, 0))
    return found


_Pattern = tuple[Any, ...]


@dataclass(frozen=True, slots=True)
class _Kept:
    """Who works how on a weekday, from a day on and until before another one."""

    technician_id: int
    shape: _Pattern
    valid_from: date
    valid_until: date | None
    week: int
    weeks: int

    def holds_on(self, day: date) -> bool:
        if self.valid_from > day or (self.valid_until is not None and day >= self.valid_until):
            return False
        return self.weeks == 1 or week_of_rotation(day, self.valid_from, self.weeks) == self.week


def _patterns(only: dict[str, Any]) -> dict[int, list[_Kept]]:
    """By weekday: who works, and how."""
    columns = (
        "weekday", "technician_id", "valid_from", "valid_until", "week", "weeks", "start", "end", "rest_earliest",
        "rest_latest", "rest_minutes", "overtime_minutes", "gap_start", "gap_end", "on_call_until",
    )  # fmt: skip
    found: defaultdict[int, list[_Kept]] = defaultdict(list)
    for weekday, key, since, until, week, weeks, *shape in WeeklyShiftRow.objects.filter(**only).values_list(*columns):
        found[weekday].append(_Kept(key, tuple(shape), since, until, week, weeks))
    return found


def _shifts(patterns: dict[int, list[_Kept]], day: date, tz: ZoneInfo) -> dict[int, Shift]:
    # Most technicians share one of a few patterns: each is worked out once.
    known: dict[_Pattern, Shift | None] = {}
    found = {}
    for row in patterns.get(day.weekday(), ()):
        if not row.holds_on(day):
            continue
        if row.shape not in known:
            known[row.shape] = shift_on(day, [_weekly(day.weekday(), *row.shape)], tz)
        if shift := known[row.shape]:
            found[row.technician_id] = shift
    return found


def _weekly(
    weekday: int, start: Any, end: Any, earliest: Any, latest: Any, rest: int, overtime: int, gap_start: Any,
    gap_end: Any, on_call: Any,
) -> WeeklyShift:  # fmt: skip
    rule = None
    if rest and earliest and latest:
        rule = BreakRule(earliest=earliest, latest=latest, seconds=rest * 60)
    gap = (gap_start, gap_end) if gap_start and gap_end else None
    return WeeklyShift(
        weekday=weekday, start=start, end=end, rest=rule, overtime_limit=overtime * 60, gap=gap, on_call_until=on_call
    )


def _absences(only: dict[str, Any], within: Interval) -> defaultdict[int, list[Away]]:
    found: defaultdict[int, list[Away]] = defaultdict(list)
    touching = Absence.objects.filter(start__lt=to_datetime(within.end), end__gt=to_datetime(within.start), **only)
    columns = ("technician_id", "id", "start", "end", "reason")
    for key, id_, start, end, reason in touching.order_by("start").values_list(*columns):
        hours = Interval(start=int(start.timestamp()), end=int(end.timestamp()))
        found[key].append(Away(id=id_, hours=hours, reason=reason))
    return found
