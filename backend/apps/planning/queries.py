"""Reading the board, and asking what a placement would mean."""

from collections.abc import Collection, Iterable, Mapping, Sequence, Set
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import partial
from types import MappingProxyType
from zoneinfo import ZoneInfo

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.working_days import Away, WorkingDay, working_day, working_days_between
from apps.planning.assembling import (
    Days,
    Facts,
    days_of,
    facts_of,
    places_of,
    technicians_of,
)
from apps.planning.models import Change, PlanningRun, Reminder
from apps.planning.ties import untied
from apps.planning.vans import less, takings, vans_before
from apps.roads.queries import travel_among
from core.basics import Interval
from core.calendars import day_interval, local_day
from core.orders import VisitState
from core.planning import (
    Broken,
    Day,
    Lamp,
    Timetable,
    Workload,
    evaluate_day,
    lamp,
    pressed_by,
    workload,
)
from core.planning.findings import Finding, findings_of
from core.planning.safety import Spread, is_undone, likelihoods
from core.planning.timetable import StopTimes
from foundation.errors import NotFound
from foundation.moments import to_datetime

# So many changes back.
DEPTH = 50
# Enough to tell nine in ten from eight in ten; a board is looked at often.
BOARD_SAMPLES = 400


@dataclass(frozen=True, kw_only=True)
class LaneDay:
    """One day of a technician on the board. `holiday` names it if it is one."""

    date: date
    hours: Interval
    day: Day
    timetable: Timetable
    workload: Workload
    away: tuple[Away, ...]
    holiday: str
    reminders: tuple[Reminder, ...]


@dataclass(frozen=True, kw_only=True)
class Lane:
    """A technician's days on the board."""

    technician: WorkingDay
    days: list[LaneDay]


@dataclass(frozen=True, kw_only=True)
class Board:
    first: date
    days: int
    hours: Interval
    now: int
    lanes: list[Lane]
    visits: list[VisitLine]
    linked: Set[int]
    facts: Facts


# A month of everybody is looked at as figures, not as lines.
MOST_BOARD_DAYS = 14


def board(
    *, first: date, now: datetime, days: int = 1, technician_ids: Collection[int] | None = None,
    changed: Mapping[int, VisitLine] = MappingProxyType({}), ties: bool = True,
) -> Board:  # fmt: skip
    """Days of everybody, or of some technicians, evaluated.

    Parameters
    ----------
    changed
        Visits as they would be, by id: the board as it would then look.
    ties
        Whether links and crews are looked at, too.
    """
    tz = time_zone()
    last = first + timedelta(days=days - 1)
    hours = Interval(start=day_interval(first, tz).start, end=day_interval(last, tz).end)
    visits = _with(changed, orders.visits_within(hours, technician_ids=technician_ids), hours, technician_ids)
    people = working_days_between(first, last, tz, technician_ids=technician_ids)
    facts = facts_of(visits)
    travel = travel_among(places_of(people[first], visits))
    by_day: dict[date, list[VisitLine]] = {day: [] for day in people}
    for visit in visits:
        assert visit.start is not None  # placed ones only
        by_day[local_day(visit.start, tz)].append(visit)
    moment = int(now.timestamp())
    lanes = {person.id: Lane(technician=person, days=[]) for person in people[first]}
    remembered = _reminders(hours, lanes.keys(), tz)
    vans = vans_before(to_datetime(hours.start), visits, lanes.keys())
    for day, technicians in people.items():
        loaded = days_of(technicians, by_day[day], tz, day=day, facts=facts, travel=travel, vans=vans)
        vans = less(vans, takings(by_day[day]))
        for person in technicians:
            lanes[person.id].days.append(
                _lane_day(loaded, person, moment, date_=day, reminders=remembered.get((person.id, day), ()))
            )
    if ties:
        others = partial(times_on, first, now, days)
        own = times_of(lanes.values())
        _say(lanes.values(), untied(visits, own, hours=hours, times_of=others, changed=changed))
    return Board(
        first=first, days=days, hours=hours, now=moment, lanes=list(lanes.values()), visits=visits,
        linked=orders.linked_ids(), facts=facts,
    )  # fmt: skip


def _lane_day(
    loaded: Days, person: WorkingDay, moment: int, *, date_: date, reminders: Sequence[Reminder]
) -> LaneDay:  # fmt: skip
    own, timetable = loaded.days[person.id], evaluate_on(loaded, person.id, moment)
    return LaneDay(
        date=date_, hours=day_interval(date_, own.tz), day=own, timetable=timetable, away=person.away,
        workload=workload(own, timetable, now=pressed_by(own, moment)), holiday=person.holiday,
        reminders=tuple(reminders),
    )  # fmt: skip


def _with(
    changed: Mapping[int, VisitLine], visits: list[VisitLine], hours: Interval, technician_ids: Collection[int] | None
) -> list[VisitLine]:
    """The visits of these days with some of them as they would be."""
    if not changed:
        return visits
    come = [
        line
        for line in changed.values()
        if line.start is not None
        and hours.start <= line.start < hours.end
        and (technician_ids is None or set(technicians_of(line)) & set(technician_ids))
    ]
    return [line for line in visits if line.id not in changed] + come


def times_on(first: date, now: datetime, days: int, technician_ids: Collection[int]) -> dict[int, StopTimes]:
    """When visits of other people on these days are expected to begin and end."""
    others = board(first=first, now=now, days=days, technician_ids=technician_ids, ties=False)
    return times_of(others.lanes)


def times_of(lanes: Iterable[Lane]) -> dict[int, StopTimes]:
    """When each visit is expected to begin and end, by id."""
    return {stop.visit_id: stop for lane in lanes for day in lane.days for stop in day.timetable.stops}


def _say(lanes: Iterable[Lane], found: Mapping[int, Sequence[Broken]]) -> None:
    """What does not hold across days stands with what else is broken of the days of its visits."""
    for lane in lanes:
        for number, day in enumerate(lane.days):
            if own := [row for stop in day.timetable.stops for row in found.get(stop.visit_id, ())]:
                timetable = replace(day.timetable, broken=(*day.timetable.broken, *own))
                lane.days[number] = replace(day, timetable=timetable)


def findings(board_: Board) -> tuple[Finding, ...]:
    """The limits that do not hold on the board, each once: what every count of them counts."""
    return findings_of((lane.technician.id, day.date, day.timetable) for lane in board_.lanes for day in lane.days)


def _reminders(hours: Interval, ids: Collection[int], tz: ZoneInfo) -> dict[tuple[int, date], list[Reminder]]:
    found: dict[tuple[int, date], list[Reminder]] = {}
    within = (to_datetime(hours.start), to_datetime(hours.end))
    rows = Reminder.objects.filter(at__gte=within[0], at__lt=within[1], technician_id__in=ids)
    for row in rows.order_by("at", "id"):
        found.setdefault((row.technician_id, row.at.astimezone(tz).date()), []).append(row)
    return found


def evaluate_on(days: Days, technician_id: int, now: int) -> Timetable:
    day = days.days[technician_id]
    return evaluate_day(day, days.travel, now=pressed_by(day, now))


def safety(board_: Board) -> dict[int, tuple[Lamp, float | None]]:
    """How safe each promise on the board is: its lamp, and how likely it is to be kept."""
    every = [day for lane in board_.lanes for day in lane.days]
    promised = [row for row in every if any(stop.visit.windows for stop in row.day.stops)]
    chances = likelihoods(
        [row.day for row in promised],
        [row.timetable for row in promised],
        spread=Spread(work=board_.facts.spread(board_.visits)),
        samples=BOARD_SAMPLES,
    )
    times = times_of(board_.lanes)
    broken: dict[int, list[Broken]] = {}
    for row in every:
        for one in row.timetable.broken:
            if one.visit_id is not None:
                broken.setdefault(one.visit_id, []).append(one)
    found = {}
    for visit in board_.visits:
        chance, arrived, own = chances.get(visit.id), visit.arrived is not None, broken.get(visit.id, ())
        undone = is_undone(own)
        shown = lamp(visit.promise, times.get(visit.id), broken=own, arrived=arrived, likelihood=chance)
        found[visit.id] = (shown, None if visit.promise is None or arrived or undone else chance)
    return found


def day_of(line: VisitLine, technician_id: int, day: date) -> tuple[Day, Days, list[VisitLine]]:
    """A technician's day as the one of whom it is asked why a visit stands there, with all its visits."""
    others = orders.visits_within(day_interval(day, time_zone()), technician_ids=[technician_id])
    people = [working_day(technician_id, day, time_zone())]
    days = days_of(people, others, time_zone(), day=day, facts=facts_of([line, *others], wishes=True))
    return days.days[technician_id], days, others


def backlog_reasons(visit: VisitLine, now: int, *, declined: Set[int] = frozenset()) -> list[str]:
    """Why a visit is in the backlog, the loudest first."""
    if visit.technician_id is not None:
        return ["standby"]
    reasons = []
    if visit.promise is not None:
        reasons.append("nobody")
    if visit.id in declined:
        reasons.append("declined")
    if (visit.due is not None and visit.due < now) or (visit.promise is not None and visit.promise.end < now):
        reasons.append("overdue")
    if visit.duration_seconds is None:
        reasons.append("no duration")
    if visit.standby is not None:
        reasons.append("standby")
    return reasons or ["unplaced"]


def undoable(*, actor_id: int, screen: str = "", limit: int = DEPTH) -> list[Change]:
    """What this dispatcher did last and can still undo, newest first."""
    return list(Change.objects.filter(actor_id=actor_id, screen=screen, undone=False).order_by("-id")[:limit])


def redoable(*, actor_id: int, screen: str = "", limit: int = DEPTH) -> list[Change]:
    """What this dispatcher undid and can do again, the next one first."""
    return list(Change.objects.filter(actor_id=actor_id, screen=screen, redoable=True).order_by("id")[:limit])


def unsent(*, day: date, days: int = 1, technician_id: int | None = None) -> list[VisitLine]:
    """Placed visits of some days that nobody has been told about."""
    tz = time_zone()
    last = day + timedelta(days=days - 1)
    stretch = Interval(start=day_interval(day, tz).start, end=day_interval(last, tz).end)
    ids = None if technician_id is None else [technician_id]
    return [row for row in orders.visits_within(stretch, technician_ids=ids) if row.state is VisitState.PLACED]


# How far back it counts who worked together, and how often makes it worth saying.
TOGETHER_WEEKS, TOGETHER_LEAST = 26, 3


def often_together(*, now: datetime) -> list[tuple[tuple[int, ...], int]]:
    """Who went to visits together lately, and how often, the most frequent first."""
    return orders.went_together(since=now - timedelta(weeks=TOGETHER_WEEKS), least=TOGETHER_LEAST)


def latest_runs(*, limit: int = 20) -> list[PlanningRun]:
    """The last planning runs, newest first."""
    return list(PlanningRun.objects.defer("proposal").order_by("-id")[:limit])


def run(run_id: int) -> PlanningRun:
    found = PlanningRun.objects.filter(pk=run_id).first()
    if found is None:
        raise NotFound("There is no such planning run.", code="no_run")
    return found
