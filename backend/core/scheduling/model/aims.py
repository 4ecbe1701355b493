"""The aims a plan is weighed by. Their costs are points: driving one second costs one point at weight 1.

An aim has one of three shapes, and one place:

- *given*: what it costs to give a visit to a technician on a day, whatever the hour - a function here;
- *left out*: what it costs to leave a visit unserved - a function here;
- *timed*: it depends on the timetable - a line in `costs_of_day`, and its twin in the engine's kernels.

Evaluator and engine both take the first two from here.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import StrEnum

from core.scheduling.model.day import Day, VisitSpec
from core.scheduling.model.timetable import Kind, Timetable


class Aim(StrEnum):
    SERVED = "served"
    LATENESS = "lateness"
    DRIVING = "driving"
    DISTANCE = "distance"
    OVERTIME = "overtime"
    WAITING = "waiting"
    SKILL_WASTED = "skill_wasted"
    FAIRNESS = "fairness"
    PREFERRED = "preferred"
    SAME_TECHNICIAN = "same_technician"
    AREA_LEFT = "area_left"
    WISHES = "wishes"
    DISTURBANCE = "disturbance"


@dataclass(frozen=True, kw_only=True)
class AimRule:
    """What an aim is called and what it costs at weight 1, in plain words."""

    aim: Aim
    name: str
    costs: str


_NAMES: dict[Aim, tuple[str, str]] = {
    Aim.SERVED: ("Work done", "Leaving a visit undone costs by its priority and value."),
    Aim.LATENESS: ("Lateness", "Each minute past a deadline, times four at priority 1 and a quarter at priority 5."),
    Aim.DRIVING: ("Driving time", "Each minute of driving."),
    Aim.DISTANCE: ("Driving distance", "Each kilometre costs 100 seconds of driving."),
    Aim.OVERTIME: ("Overtime", "Each minute past the end of the shift costs a minute of driving."),
    Aim.WAITING: ("Waiting", "Each minute of waiting between visits costs a minute of driving."),
    Aim.SKILL_WASTED: ("Skill wasted", "Each level above what is needed costs 5 minutes of driving."),
    Aim.FAIRNESS: ("Fair load", "A full day costs more than two half-full ones."),
    Aim.PREFERRED: ("Preferred technician", "Sending somebody else costs 30 minutes of driving."),
    Aim.SAME_TECHNICIAN: ("Same technician as last time", "Sending somebody else costs 20 minutes of driving."),
    Aim.AREA_LEFT: ("Own area", "Leaving one's areas costs 30 minutes of driving."),
    Aim.WISHES: (
        "Wishes of technicians",
        "Work or an area that somebody would rather not have costs 20 minutes of driving; what is not among the liked "
        "costs 5, where they have named any.",
    ),
    Aim.DISTURBANCE: (
        "Plan left alone",
        "Another person costs 30 minutes of driving, another time a quarter of the shift in time; "
        "three times that once the customer was told.",
    ),
}
AIMS: dict[Aim, AimRule] = {aim: AimRule(aim=aim, name=name, costs=costs) for aim, (name, costs) in _NAMES.items()}

# What leaving a visit undone costs, by priority: from 11 hours of driving down to 42 minutes.
WORTH_BY_PRIORITY = {1: 40_000, 2: 20_000, 3: 10_000, 4: 5_000, 5: 2_500}
WORTH_OF_A_UNIT_OF_VALUE = 20
# A visit that was promised to somebody or stands in the plan already is not dropped for a new one.
WORTH_OF_A_PROMISE = 30_000
# Of what leaving it undone costs, each further day of overdue work; after so long it presses twice as much.
OVERDUE_SHARE, OVERDUE_DOUBLES = 0.05, 10 * 86_400
LATE_BY_PRIORITY = {1: 4.0, 2: 2.0, 3: 1.0, 4: 0.5, 5: 0.25}
POINTS_PER_METRE = 0.1
POINTS_PER_LEVEL = 300
OTHER_THAN_PREFERRED, OTHER_THAN_LAST, OUTSIDE_AREA, OTHER_PERSON = 1800, 1200, 1800, 1800
AVOIDED, NOT_LIKED = 1200, 300
POINTS_PER_SECOND_MOVED = 0.25
ONCE_TOLD = 3


@dataclass(frozen=True, kw_only=True)
class Standing:
    """Where a visit stands in the plan now: what a disturbance is measured against."""

    technician_ids: frozenset[int]
    start: int


def _skill_wasted(visit: VisitSpec, day: Day, _standing: Standing | None) -> float:
    skills = day.technician.skills
    if not visit.needs:
        return POINTS_PER_LEVEL * max(0, max(skills.values(), default=1) - 1)
    return POINTS_PER_LEVEL * sum(max(0, skills.get(skill, 0) - least) for skill, least in visit.needs.items())


def _preferred(visit: VisitSpec, day: Day, _standing: Standing | None) -> float:
    return OTHER_THAN_PREFERRED if visit.preferred and day.technician.id not in visit.preferred else 0


def _same_technician(visit: VisitSpec, day: Day, _standing: Standing | None) -> float:
    return OTHER_THAN_LAST if visit.last_technician not in (None, day.technician.id) else 0


def _area_left(visit: VisitSpec, day: Day, _standing: Standing | None) -> float:
    areas = day.technician.areas
    return OUTSIDE_AREA if areas and visit.area is not None and visit.area not in areas else 0


def _wishes(visit: VisitSpec, day: Day, _standing: Standing | None) -> float:
    technician, about = day.technician, {*visit.needs, visit.area}
    if technician.avoids & about:
        return AVOIDED
    return NOT_LIKED if technician.likes and not technician.likes & about else 0


def _other_person(visit: VisitSpec, day: Day, standing: Standing | None) -> float:
    if standing is None or day.technician.id in standing.technician_ids:
        return 0
    return OTHER_PERSON * (ONCE_TOLD if visit.told else 1)


Given = Callable[[VisitSpec, Day, Standing | None], float]
GIVEN: dict[Aim, Given] = {
    Aim.SKILL_WASTED: _skill_wasted,
    Aim.PREFERRED: _preferred,
    Aim.SAME_TECHNICIAN: _same_technician,
    Aim.AREA_LEFT: _area_left,
    Aim.WISHES: _wishes,
    Aim.DISTURBANCE: _other_person,
}


def left_out(visit: VisitSpec, standing: Standing | None) -> Mapping[Aim, float]:
    """Points for leaving a visit undone."""
    worth = WORTH_BY_PRIORITY[visit.priority] + WORTH_OF_A_UNIT_OF_VALUE * visit.value
    # The longer it is overdue the more it presses, up to twice; one day is never cheaper than the next.
    worth += round(WORTH_BY_PRIORITY[visit.priority] * min(1.0, visit.overdue / OVERDUE_DOUBLES))
    # Each for itself: of what stood in the plan and finds no place, what was promised is kept first.
    worth += WORTH_OF_A_PROMISE * ((visit.promise is not None) + (standing is not None))
    unsettled = 2 * OTHER_PERSON * (ONCE_TOLD if visit.told else 1) if standing else 0
    return {Aim.SERVED: worth * visit.crew, Aim.DISTURBANCE: unsettled * visit.crew}


def late_rate(visit: VisitSpec) -> float:
    """Points for each second that work ends after it is due; of overdue work, for each second from now on."""
    if visit.late_from is not None:
        return round(WORTH_BY_PRIORITY[visit.priority] * OVERDUE_SHARE / 86_400, 3)
    return LATE_BY_PRIORITY[visit.priority] if visit.late_after is not None else 0.0


def move_rate(visit: VisitSpec, standing: Standing | None) -> float:
    """Points for each second that work starts before or after it stood in the plan."""
    if standing is None:
        return 0.0
    return POINTS_PER_SECOND_MOVED * (ONCE_TOLD if visit.told else 1)


def busy_points(busy: int, shift_seconds: int) -> int:
    """Grows with the square of the load: two days half full cost half of one full day."""
    return busy * busy // max(1, shift_seconds)


def costs_of_day(day: Day, timetable: Timetable, standing: Mapping[int, Standing]) -> dict[Aim, float]:
    """Points of one technician's day by aim, before any weight. What has begun is past weighing.

    Drives to stops that have begun are left out, and their work, so that the numbers speak of what can
    still be changed.
    """
    points = dict.fromkeys(Aim, 0.0)
    begun = {stop.visit.id for stop in day.running}
    ahead = [stretch for stretch in timetable.stretches if stretch.visit_id not in begun]
    if not [stop for stop in day.stops if stop.visit.id not in begun] and not begun:
        return points
    after = max((times.ends for times in timetable.stops if times.visit_id in begun), default=0)
    ahead = [stretch for stretch in ahead if stretch.start >= after]
    drives = [stretch for stretch in ahead if stretch.kind is Kind.DRIVE]
    points[Aim.DRIVING] = sum(drive.seconds for drive in drives)
    points[Aim.DISTANCE] = POINTS_PER_METRE * sum(drive.metres for drive in drives)
    points[Aim.WAITING] = sum(stretch.seconds for stretch in ahead if stretch.kind is Kind.WAIT)
    if timetable.overtime is not None:
        points[Aim.OVERTIME] = timetable.overtime.seconds
    if day.shift is not None:
        busy = sum(stretch.seconds for stretch in ahead if stretch.kind in (Kind.DRIVE, Kind.WORK))
        points[Aim.FAIRNESS] = busy_points(busy, day.shift.length)
    for stop, times in zip(day.stops, timetable.stops, strict=True):
        visit, stood = stop.visit, standing.get(stop.visit.id)
        if visit.id in begun:
            continue
        for aim, given in GIVEN.items():
            points[aim] += given(visit, day, stood)
        if visit.late_after is not None:
            points[Aim.LATENESS] += late_rate(visit) * max(0, times.ends - visit.late_after)
        if stood is not None:
            points[Aim.DISTURBANCE] += move_rate(visit, stood) * abs(times.starts - stood.start)
    return points
