"""What stands on technicians' days, evaluated: read by the board, by proposals, by whatever is judged."""

from collections.abc import Collection, Iterable, Mapping, Sequence, Set
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import partial
from types import MappingProxyType

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.working_days import Away, WorkingDay, working_day, working_days_between
from apps.roads.queries import travel_among
from apps.scheduling.assembling import (
    Days,
    Facts,
    days_of,
    facts_of,
    places_of,
    technicians_of,
)
from apps.scheduling.placed import placed_by_day, placed_on
from apps.scheduling.ties import untied
from apps.scheduling.vans import vans_for
from core.basics import Interval
from core.calendars import day_interval
from core.scheduling import (
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
from core.scheduling.evaluation.findings import Finding, findings_of
from core.scheduling.evaluation.safety import Spread, is_undone, likelihoods
from core.scheduling.model.timetable import StopTimes

# Enough to tell nine in ten from eight in ten; a board is looked at often.
SAMPLES = 400


@dataclass(frozen=True, kw_only=True)
class LaneDay:
    """One day of a technician. `holiday` names it if it is one."""

    date: date
    hours: Interval
    day: Day
    timetable: Timetable
    workload: Workload
    away: tuple[Away, ...]
    holiday: str


@dataclass(frozen=True, kw_only=True)
class Lane:
    """A technician's days."""

    technician: WorkingDay
    days: list[LaneDay]


@dataclass(frozen=True, kw_only=True)
class Schedule:
    """Some days of everybody, or of some technicians.

    Attributes
    ----------
    linked : ids of the visits that are tied to others.
    """

    first: date
    days: int
    hours: Interval
    now: int
    lanes: list[Lane]
    visits: list[VisitLine]
    linked: Set[int]
    facts: Facts


def schedule(
    *, first: date, now: datetime, days: int = 1, technician_ids: Collection[int] | None = None,
    changed: Mapping[int, VisitLine] = MappingProxyType({}), ties: bool = True,
) -> Schedule:  # fmt: skip
    """Days of everybody, or of some technicians, evaluated.

    Parameters
    ----------
    changed
        Visits as they would be, by id: the days as they would then look.
    ties
        Whether links and crews are looked at, too.
    """
    tz = time_zone()
    last = first + timedelta(days=days - 1)
    hours = Interval(start=day_interval(first, tz).start, end=day_interval(last, tz).end)
    by_day = _by_day(changed, first, last, technician_ids)
    visits = [visit for lines in by_day.values() for visit in lines]
    people = working_days_between(first, last, tz, technician_ids=technician_ids)
    facts = facts_of(visits)
    travel = travel_among(places_of(people[first], visits))
    moment = int(now.timestamp())
    lanes = {person.id: Lane(technician=person, days=[]) for person in people[first]}
    vans = vans_for(visits)
    for day, technicians in people.items():
        loaded = days_of(technicians, by_day[day], tz, day=day, facts=facts, travel=travel, vans=vans)
        for person in technicians:
            lanes[person.id].days.append(_lane_day(loaded, person, moment, date_=day))
    links = orders.links_of([visit.id for visit in visits]) if ties else []
    if ties:
        others = partial(times_on, first, now, days)
        own = times_of(lanes.values())
        _say(lanes.values(), untied(visits, links, own, hours=hours, times_of=others, changed=changed))
    return Schedule(
        first=first, days=days, hours=hours, now=moment, lanes=list(lanes.values()), visits=visits,
        linked=frozenset(key for link in links for key in (link.first, link.second)), facts=facts,
    )  # fmt: skip


def _lane_day(loaded: Days, person: WorkingDay, moment: int, *, date_: date) -> LaneDay:
    own, timetable = loaded.days[person.id], evaluate_on(loaded, person.id, moment)
    return LaneDay(
        date=date_, hours=day_interval(date_, own.tz), day=own, timetable=timetable, away=person.away,
        workload=workload(own, timetable, now=pressed_by(own, moment)), holiday=person.holiday,
    )  # fmt: skip


def _by_day(
    changed: Mapping[int, VisitLine], first: date, last: date, technician_ids: Collection[int] | None
) -> dict[date, list[VisitLine]]:
    """The visits of these working days with some of them as they would be."""
    by_day, dates = placed_by_day(first, last, technician_ids=technician_ids)
    if not changed:
        return by_day
    found = {day: [line for line in lines if line.id not in changed] for day, lines in by_day.items()}
    for line in changed.values():
        wanted = technician_ids is None or set(technicians_of(line)) & set(technician_ids)
        if line.start is not None and wanted and (day := dates.of(line.technician_id, line.start)) in found:
            found[day].append(line)
    return found


def times_on(first: date, now: datetime, days: int, technician_ids: Collection[int]) -> dict[int, StopTimes]:
    """When visits of other people on these days are expected to begin and end."""
    others = schedule(first=first, now=now, days=days, technician_ids=technician_ids, ties=False)
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


def findings(shown: Schedule) -> tuple[Finding, ...]:
    """The limits that do not hold on some days, each once: what every count of them counts."""
    return findings_of((lane.technician.id, day.date, day.timetable) for lane in shown.lanes for day in lane.days)


def evaluate_on(days: Days, technician_id: int, now: int) -> Timetable:
    day = days.days[technician_id]
    return evaluate_day(day, days.travel, now=pressed_by(day, now))


def safety(shown: Schedule) -> dict[int, tuple[Lamp, float | None]]:
    """How safe each promise on some days is: its lamp, and how likely it is to be kept."""
    every = [day for lane in shown.lanes for day in lane.days]
    promised = [row for row in every if any(stop.visit.windows for stop in row.day.stops)]
    chances = likelihoods(
        [row.day for row in promised],
        [row.timetable for row in promised],
        spread=Spread(work=shown.facts.spread(shown.visits)),
        samples=SAMPLES,
    )
    times = times_of(shown.lanes)
    broken: dict[int, list[Broken]] = {}
    for row in every:
        for one in row.timetable.broken:
            if one.visit_id is not None:
                broken.setdefault(one.visit_id, []).append(one)
    found = {}
    for visit in shown.visits:
        chance, arrived, own = chances.get(visit.id), visit.arrived is not None, broken.get(visit.id, ())
        undone = is_undone(own)
        light = lamp(visit.promise, times.get(visit.id), broken=own, arrived=arrived, likelihood=chance)
        found[visit.id] = (light, None if visit.promise is None or arrived or undone else chance)
    return found


def day_of(line: VisitLine, technician_id: int, day: date) -> tuple[Day, Days, list[VisitLine]]:
    """A technician's day as the one of whom it is asked why a visit stands there, with all its visits."""
    others = placed_on(day, technician_ids=[technician_id])
    people = [working_day(technician_id, day, time_zone())]
    days = days_of(people, others, time_zone(), day=day, facts=facts_of([line, *others], wishes=True))
    return days.days[technician_id], days, others
