"""Openings: every place a visit could go, ranked, with reasons; and why not the others."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import islice

from core.scheduling.engine import fields as f
from core.scheduling.engine.model import Model
from core.scheduling.engine.search import Search
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.evaluate import evaluate
from core.scheduling.judgement.explaining import SHIFT_OVER, WhyNot, why_here, why_not
from core.scheduling.judgement.proposal import broken_keys
from core.scheduling.model.aims import Aim, costs_of_day
from core.scheduling.model.day import Day, Stop, VisitSpec
from core.scheduling.model.problem import Plan, Problem
from core.scheduling.model.timetable import Kind

SHOWN = 12
# So many technicians who could but have no time are told what would break where it would break least.
EXPLAINED = 24


@dataclass(frozen=True, kw_only=True)
class Seat:
    """One technician's place in an opening: a day of the problem, and the driving it adds."""

    day: int
    technician_id: int
    drive_before: int
    added_drive: int


@dataclass(frozen=True, kw_only=True)
class Opening:
    """A possible placement. `points` is what it adds to the plan's cost, by aim, weighted."""

    start: int
    end: int
    seats: tuple[Seat, ...]
    points: Mapping[Aim, float]
    reasons: tuple[str, ...]

    @property
    def total(self) -> float:
        return sum(self.points.values())


@dataclass(frozen=True, kw_only=True)
class Excluded:
    """A technician who cannot take the visit, and why not."""

    technician_id: int
    why: WhyNot


@dataclass(frozen=True, kw_only=True)
class Openings:
    """What was found for one visit: `considered` places were looked at, `possible` shifts had one."""

    openings: tuple[Opening, ...]
    excluded: tuple[Excluded, ...]
    considered: int
    possible: int


class OpeningFinder:
    """A problem kept ready, so that each question costs milliseconds. Everything placed stays where it is."""

    def __init__(self, problem: Problem) -> None:
        self.problem = replace(problem, movable=frozenset(), free=frozenset())
        self._ready(self.problem)

    def _ready(self, problem: Problem) -> None:
        self.model = Model(problem, still=True)
        self.search = Search(self.model.arrays)
        self._begin()

    def _begin(self) -> None:
        self.search.begin(seed=1, routes=self.model.routes, pins=self.model.pins)

    def openings(self, visit_id: int, *, limit: int = SHOWN) -> Openings:
        """All technicians × days × positions for one visit, the cheapest first.

        Raises
        ------
        KeyError
            When the problem has no such visit.
        """
        visit = self.problem.visits[visit_id]
        if visit_id in self.problem.standing:
            return OpeningFinder(_taken_off(self.problem, visit)).openings(visit_id, limit=limit)
        tasks = self.model.of_visit.get(visit_id, [])
        found: list[Opening] = []
        possible: set[int] = set()
        if tasks and self.model.arrays.m and self.model.arrays.tasks[tasks[0], f.TIED]:
            found, possible = self._tied(tasks, visit)
        elif tasks and self.model.arrays.m:
            ranked = self.search.rank(tasks[0])
            possible = {v for _cost, v, _k in ranked}
            tried = (self._opening(visit, {v: self._starts(tasks[0], v, k)}) for _cost, v, k in ranked)
            found = list(islice((opening for opening in tried if opening), limit))
        shifts = self.model.shifts
        considered = sum(len(self.model.routes[v]) + 1 for v in range(len(shifts)))
        able = {shifts[v].day.technician.id for v in possible}
        return Openings(
            openings=tuple(sorted(found, key=lambda opening: (opening.total, opening.start))[:limit]),
            excluded=self._excluded(visit, able),
            considered=considered,
            possible=len(possible),
        )

    def _starts(self, c: int, v: int, k: int) -> tuple[Stop, ...]:
        """The stops of shift `v` with the visit after position `k`, at the starts the engine gives them."""
        route = [task for task, _start in self.search.route_of(v)]
        with_it = [*route[:k], c, *route[k:]]
        starts = self.search.starts_of(v, with_it)
        return self.model.stops_of(v, list(zip(with_it, starts, strict=True)))

    def _opening(self, visit: VisitSpec, stops: Mapping[int, tuple[Stop, ...]]) -> Opening | None:
        """What putting just this visit on the days does to them, by the evaluator.

        None where it breaks something: the engine may have found room by moving on what stood there badly,
        and a person who takes an opening moves nothing else.
        """
        points = dict.fromkeys(Aim, 0.0)
        seats, reasons, start, end = [], [], 0, 0
        for v, planned in stops.items():
            shift = self.model.shifts[v]
            now = self.problem.now_for(shift.day)
            there = self.problem.days[shift.index]
            own = Stop(visit=visit, start=next(stop.start for stop in planned if stop.visit.id == visit.id))
            stops_with_it = tuple(sorted((*there.stops, own), key=lambda stop: stop.order))
            day = self.problem.playbook.on_day(replace(there, stops=stops_with_it))
            after = evaluate_day(day, self.problem.travel, now=now)
            known = {(row.limit, row.visit_id) for row in shift.timetable.broken}
            asked = {(row.limit, row.visit_id) for row in after.broken if self.problem.playbook.setting(row.limit).on}
            if asked - known:
                return None
            old, new = (
                costs_of_day(shift.day, shift.timetable, self.problem.standing),
                costs_of_day(day, after, self.problem.standing),
            )
            for aim in Aim:
                points[aim] += (new[aim] - old[aim]) * self.problem.playbook.weight(aim)
            times = after.stop(visit.id)
            assert times is not None
            start, end = times.starts, times.ends
            added = after.total(Kind.DRIVE) - shift.timetable.total(Kind.DRIVE)
            seats.append(
                Seat(
                    day=shift.index,
                    technician_id=day.technician.id,
                    drive_before=times.drive_seconds,
                    added_drive=added,
                )
            )
            words = why_here(day, shift.timetable, after, self.problem.playbook.on_visit(visit))
            reasons += [f"{day.technician.name}: {word}" if len(stops) > 1 else word for word in words]
        if self._breaks_a_link(visit, start, [seat.day for seat in seats]):
            return None
        return Opening(start=start, end=end, seats=tuple(seats), points=points, reasons=tuple(reasons))

    def _breaks_a_link(self, visit: VisitSpec, start: int, days: Sequence[int]) -> bool:
        if not any(visit.id in (link.first, link.second) for link in self.problem.links):
            return False
        stops = list(self.problem.as_it_stands.stops)
        for index in days:
            stop = Stop(visit=visit, start=start)
            stops[index] = tuple(sorted((*stops[index], stop), key=lambda stop: stop.order))
        after = evaluate(self.problem, Plan(stops=tuple(stops)))
        return bool(broken_keys(after) - self._broken_before)

    @cached_property
    def _broken_before(self) -> set[tuple[int | None, str, int | None]]:
        return broken_keys(evaluate(self.problem, self.problem.as_it_stands))

    # --- crews and linked visits ----------------------------------------------------------------------

    def _tied(self, tasks: list[int], visit: VisitSpec) -> tuple[list[Opening], set[int]]:
        """The best opening of each date; what it is tied to keeps its place."""
        a, found, possible = self.model.arrays, [], set()
        leader = int(a.tasks[tasks[0], f.LEADER])
        group = [int(c) for c in a.members[leader, : a.tasks[leader, f.MEMBERS]]]
        if any(self.model.tasks[c].visit.id != visit.id for c in group):
            return [], set()  # it starts together with another visit: they are planned in one step
        dates: dict[object, list[int]] = {}
        for v, shift in enumerate(self.model.shifts):
            assert shift.day.shift is not None
            dates.setdefault(shift.day.shift.hours.start // 86_400, []).append(v)
        allowed, counts = a.eligible.copy(), a.tasks[:, f.ELIGIBLE].copy()
        for shifts in dates.values():
            for c in group:
                fitting = [v for v in shifts if a.length[v, c] >= 0]
                a.eligible[c, : len(fitting)] = fitting
                a.tasks[c, f.ELIGIBLE] = len(fitting)
                possible |= set(fitting)
            if self.search.put_tied(leader):
                stops = {
                    int(a.tasks[c, f.SHIFT]): self.model.stops_of(
                        int(a.tasks[c, f.SHIFT]), self.search.route_of(int(a.tasks[c, f.SHIFT]))
                    )
                    for c in group
                }
                opening = self._opening(visit, stops)
                if opening:
                    found.append(opening)
            self._begin()
        a.eligible[:], a.tasks[:, f.ELIGIBLE] = allowed, counts
        return found, possible if found else set()

    # --- who cannot -------------------------------------------------------------------------------------

    def _excluded(self, visit: VisitSpec, able: set[int]) -> tuple[Excluded, ...]:
        """Reasons for each technician without an opening; worked out in full for the first ones only."""
        rows = []
        for number, (technician_id, own) in enumerate(
            (key, own) for key, own in self._days_by_technician.items() if key not in able
        ):
            why = why_not(self.problem, own, visit, thorough=number < EXPLAINED) if own else SHIFT_OVER
            rows.append(Excluded(technician_id=technician_id, why=why))
        return tuple(rows)

    @cached_property
    def _days_by_technician(self) -> dict[int, list[Day]]:
        """Days that are not over yet, as the playbook sees them."""
        days: dict[int, list[Day]] = {day.technician.id: [] for day in self.problem.days}
        for shift in self.model.shifts:
            days[shift.day.technician.id].append(shift.day)
        for day in self.problem.days:
            if day.shift is None:
                days[day.technician.id].append(day)
        return days


def _taken_off(problem: Problem, visit: VisitSpec) -> Problem:
    """The problem with a placed visit in the backlog: where else could it be?"""
    days = tuple(day.without(visit.id) for day in problem.days)
    return replace(problem, days=days, backlog=(*problem.backlog, replace(visit, locked=False)))
