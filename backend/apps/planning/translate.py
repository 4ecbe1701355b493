"""Technicians and visits as days of the core's evaluator."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date, timedelta
from types import MappingProxyType
from zoneinfo import ZoneInfo

from apps.customers.people import refused_at
from apps.orders.lines import VisitLine
from apps.people.working_days import WorkingDay
from apps.planning.vans import Vans, vans_before
from apps.roads.queries import travel_among
from core.basics import Interval, Place
from core.calendars import day_interval, epoch
from core.company.settings import parse_span
from core.planning import Actual, Day, Stop, TechnicianSpec, VisitSpec
from core.roads.travel import TimedTravel
from foundation.moments import to_datetime


@dataclass(frozen=True, kw_only=True)
class Days:
    """Days of several technicians that share one travel matrix. `refused`: who is refused at the sites looked at."""

    days: dict[int, Day]
    travel: TimedTravel
    index: dict[Place, int]
    refused: Mapping[int, frozenset[int]]


def days_of(
    technicians: Iterable[WorkingDay],
    visits: Iterable[VisitLine],
    tz: ZoneInfo,
    *,
    day: date,
    also: Iterable[VisitLine] = (),
    refused: Mapping[int, frozenset[int]] | None = None,
    travel: TimedTravel | None = None,
    vans: Vans | None = None,
) -> Days:
    """One Day per technician with their visits of that date.

    Parameters
    ----------
    also
        Further visits that are asked about: their places are in the matrix, and vans are looked at for their parts.
    refused, travel, vans
        Who is refused at the visits' sites, driving among all places, and what is left on vans when the day begins,
        where that is known already.
    """
    technicians, visits, also = list(technicians), list(visits), list(also)
    travel = travel or travel_among([*places_of(technicians, visits), *(line.place for line in also)])
    index = travel.matrix.index
    stops: dict[int, list[Stop]] = {technician.id: [] for technician in technicians}
    if refused is None:
        refused = refused_at(visit.site_id for visit in visits)
    if vans is None:
        begins = to_datetime(day_interval(day, tz).start)
        vans = vans_before(begins, [*visits, *also], stops.keys(), but=[line.id for line in also])
    for visit in visits:
        for technician_id in hands_of(visit):
            if technician_id in stops:
                spec = spec_of_visit(visit, index, opening=opening_of(visit, day, day, tz), refused=refused)
                spec = spec if technician_id == visit.technician_id else with_empty_hands(spec)
                stops[technician_id].append(stop_of(visit, spec))
    days = {
        technician.id: Day(
            technician=with_van(technician.spec, vans),
            tz=tz,
            shift=technician.shift,
            start_place=index[technician.start_place],
            end_place=index[technician.end_place],
            absences=technician.absences,
            stops=tuple(stops[technician.id]),
        )
        for technician in technicians
    }
    return Days(days=days, travel=travel, index=index, refused=refused)


def places_of(technicians: Iterable[WorkingDay], visits: Iterable[VisitLine]) -> list[Place]:
    """Where days begin and end, and where the visits are."""
    places = [place for technician in technicians for place in (technician.start_place, technician.end_place)]
    return [*places, *(visit.place for visit in visits)]


def with_van(technician: TechnicianSpec, vans: Vans) -> TechnicianSpec:
    """The technician with what is on the van, if anybody counts it."""
    van = vans.get(technician.id)
    return technician if van is None else replace(technician, parts=van)


def with_empty_hands(visit: VisitSpec) -> VisitSpec:
    """The visit as somebody meets it who goes along: its parts are on the van of the one who leads."""
    return replace(visit, parts={}) if visit.parts else visit


def hands_of(visit: VisitLine) -> tuple[int, ...]:
    """Who goes: the technician and the mates."""
    return () if visit.technician_id is None else (visit.technician_id, *visit.mates)


def opening_of(visit: VisitLine, first: date, last: date, tz: ZoneInfo) -> tuple[Interval, ...]:
    """When the site is open on these days; empty: always.

    A week more is looked at, so that a site that is closed on all of these days has hours all the same: others.
    """
    if not any(visit.opening):
        return ()
    found = []
    for number in range((last - first).days + 8):
        day = first + timedelta(days=number)
        span = visit.opening[day.weekday()]
        if span:
            start, end = parse_span(span)
            found.append(Interval(start=epoch(day, start, tz), end=epoch(day, end, tz)))
    return tuple(found)


def stop_of(visit: VisitLine, spec: VisitSpec, *, start: int | None = None) -> Stop:
    """A visit as a stop, at its own start or at another one.

    Raises
    ------
    ValueError
        When it has no start of its own and none is given.
    """
    begins = visit.start if start is None else start
    if begins is None:
        raise ValueError("a visit without a start is no stop")
    actual = Actual(departed=visit.departed, arrived=visit.arrived, finished=visit.finished)
    return Stop(visit=spec, start=begins, actual=actual)


def spec_of_visit(
    visit: VisitLine, index: dict[Place, int], *, opening: tuple[Interval, ...] = (),
    refused: Mapping[int, frozenset[int]] = MappingProxyType({}), promised: bool = True,
) -> VisitSpec:  # fmt: skip
    """A visit as the core knows it. Without `promised`, what was promised is left out: the customer is asked anew."""
    locked, why = _lock(visit)
    return VisitSpec(
        id=visit.id,
        label=f"{visit.number} {visit.site}",
        place=index[visit.place],
        duration=visit.duration_seconds,
        needs=visit.needs,
        area=visit.area,
        promise=visit.promise if promised else None,
        earliest=visit.earliest,
        due=visit.due,
        crew=visit.crew,
        opening=opening,
        forbidden=refused.get(visit.site_id, frozenset()),
        parts=visit.takes,
        value=visit.worth or 0,
        locked=locked,
        locked_because=why,
    )


def _lock(visit: VisitLine) -> tuple[bool, str]:
    if visit.state.is_under_way:
        return True, f"It is {visit.state.value.replace('_', ' ')}: what is under way does not move"
    if visit.state.is_ended:
        return True, f"It is {visit.state.value}"
    if visit.pinned:
        return True, "It is pinned: take the pin out first"
    return False, ""
