"""Technicians and visits as days of the core's evaluator."""

from collections.abc import Iterable
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from apps.orders.lines import VisitLine
from apps.people.working_days import WorkingDay
from apps.roads.queries import travel_among
from core.basics import Place
from core.planning import Actual, Day, Stop, VisitSpec
from core.roads.travel import TimedTravel


@dataclass(frozen=True, kw_only=True)
class Days:
    """Days of several technicians that share one travel matrix."""

    days: dict[int, Day]
    travel: TimedTravel
    index: dict[Place, int]


def days_of(
    technicians: Iterable[WorkingDay],
    visits: Iterable[VisitLine],
    tz: ZoneInfo,
    *,
    also: Iterable[Place] = (),
) -> Days:
    """One Day per technician with their visits of that date. `also` names further places to have in the matrix."""
    technicians, visits = list(technicians), list(visits)
    places = [place for technician in technicians for place in (technician.start_place, technician.end_place)]
    places += [visit.place for visit in visits]
    travel = travel_among([*places, *also])
    index = travel.matrix.index
    stops: dict[int, list[Stop]] = {technician.id: [] for technician in technicians}
    for visit in visits:
        if visit.technician_id in stops:
            stops[visit.technician_id].append(stop_of(visit, index))
    days = {
        technician.id: Day(
            technician=technician.spec,
            tz=tz,
            shift=technician.shift,
            start_place=index[technician.start_place],
            end_place=index[technician.end_place],
            absences=technician.absences,
            stops=tuple(stops[technician.id]),
        )
        for technician in technicians
    }
    return Days(days=days, travel=travel, index=index)


def stop_of(visit: VisitLine, index: dict[Place, int], *, start: int | None = None) -> Stop:
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
    return Stop(visit=spec_of_visit(visit, index), start=begins, actual=actual)


def spec_of_visit(visit: VisitLine, index: dict[Place, int]) -> VisitSpec:
    locked, why = _lock(visit)
    return VisitSpec(
        id=visit.id,
        label=f"{visit.number} {visit.site}",
        place=index[visit.place],
        duration=visit.duration_seconds,
        needs=visit.needs,
        area=visit.area,
        promise=visit.promise,
        earliest=visit.earliest,
        due=visit.due,
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
