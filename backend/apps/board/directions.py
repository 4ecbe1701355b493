"""Technicians' days on the road: their drives in order, with the way they take."""

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from datetime import date, datetime

from apps.company.queries import time_zone
from apps.orders.lines import VisitLine
from apps.people.queries import technician as technician_by_id
from apps.people.working_days import WorkingDay, working_days_between
from apps.roads.queries import paths
from apps.scheduling.assembling import Days, days_of
from apps.scheduling.placed import placed_on
from apps.scheduling.schedule import evaluate_on
from core.basics import Place
from core.roads import Path, Way
from core.scheduling import Kind, Stretch


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
    """The drives of a technician's day in their order, along the roads.

    Raises
    ------
    NotFound
    """
    return rounds(day=day, now=now, technician_ids=[technician_by_id(technician_id).pk])[technician_id]


def rounds(*, day: date, now: datetime, technician_ids: Collection[int] | None = None) -> dict[int, list[Drive]]:
    """The drives of a day of everybody, or of some technicians; somebody who drives nowhere has none."""
    tz = time_zone()
    people = working_days_between(day, day, tz, technician_ids=technician_ids)[day]
    placed = placed_on(day, technician_ids=[person.id for person in people])
    days = days_of(people, placed, tz, day=day)
    lines = {line.id: line for line in placed}
    legs = [leg for person in people for leg in _legs(person, days, lines, int(now.timestamp()))]
    roads = paths([(leg.origin, leg.destination, leg.stretch.start) for leg in legs])
    found: dict[int, list[Drive]] = {person.id: [] for person in people}
    for leg, road in zip(legs, roads, strict=True):
        found[leg.person.id].append(_drive(leg, road))
    return found


@dataclass(frozen=True, kw_only=True)
class _Leg:
    """A drive before its road is known; `line` is the visit it leads to."""

    person: WorkingDay
    stretch: Stretch
    line: VisitLine | None
    origin: Place
    destination: Place


def _legs(person: WorkingDay, days: Days, lines: Mapping[int, VisitLine], now: int) -> Iterator[_Leg]:
    here = person.start_place
    for stretch in evaluate_on(days, person.id, now).stretches:
        if stretch.kind is not Kind.DRIVE:
            continue
        line = lines.get(stretch.visit_id or 0)
        there = line.place if line else person.end_place
        yield _Leg(person=person, stretch=stretch, line=line, origin=here, destination=there)
        here = there


def _drive(leg: _Leg, road: Path) -> Drive:
    line, stretch = leg.line, leg.stretch
    return Drive(
        visit_id=stretch.visit_id, leads_to=line.site if line else f"depot {leg.person.depot}",
        address=line.address if line else "", leaves=stretch.start, seconds=stretch.seconds, metres=stretch.metres,
        estimated=road.estimated, ways=road.ways, points=road.points,
    )  # fmt: skip
