"""A technician's day on the road: its drives in order, with the way they take."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.working_days import working_day
from apps.planning.queries import evaluate_on
from apps.planning.translate import days_of
from apps.roads.queries import path
from core.calendars import day_interval
from core.planning import Kind, Stretch
from core.roads import Path, Way
from foundation.moments import to_datetime


@dataclass(frozen=True, kw_only=True)
class Drive:
    """A drive of a day. `visit_id` is where it leads; None: home."""

    visit_id: int | None
    leads_to: str
    address: str
    leaves: int
    seconds: int
    metres: int
    estimated: bool
    ways: tuple[Way, ...]
    points: tuple[tuple[float, float], ...]


def drives(*, technician_id: int, day: date, now: datetime) -> list[Drive]:
    """The drives of a technician's day in their order, along the roads."""
    return list(_drives(technician_id, day, now))


def _drives(technician_id: int, day: date, now: datetime) -> Iterator[Drive]:
    tz = time_zone()
    person = working_day(technician_id, day, tz)
    placed = orders.visits_within(day_interval(day, tz), technician_ids=[technician_id])
    days = days_of([person], placed, tz, day=day)
    timetable = evaluate_on(days, technician_id, int(now.timestamp()))
    lines = {line.id: line for line in placed}
    here = person.start_place
    for stretch in timetable.stretches:
        if stretch.kind is not Kind.DRIVE:
            continue
        line = lines.get(stretch.visit_id or 0)
        there = line.place if line else person.end_place
        road = path(here, there, to_datetime(stretch.start))
        yield _drive(stretch, line, person.depot, road)
        here = there


def _drive(stretch: Stretch, line: VisitLine | None, depot: str, road: Path) -> Drive:
    return Drive(
        visit_id=stretch.visit_id, leads_to=line.site if line else f"depot {depot}",
        address=line.address if line else "", leaves=stretch.start, seconds=stretch.seconds, metres=stretch.metres,
        estimated=road.estimated, ways=road.ways, points=road.points,
    )  # fmt: skip
