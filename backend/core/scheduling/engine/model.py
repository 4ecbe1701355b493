"""A problem as the engine's arrays, and the engine's routes as a plan."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import Any

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.arrays import Arrays, Int32
from core.scheduling.engine.rows import Rows
from core.scheduling.engine.search import Found
from core.scheduling.engine.tasks import Tasks
from core.scheduling.engine.ties import Tied
from core.scheduling.model.day import Stop, VisitSpec
from core.scheduling.model.problem import Plan, Problem


class Model:
    """A problem made ready for the engine. Tasks and shifts go by their numbers.

    Attributes
    ----------
    arrays : what the kernels work on.
    routes, pins : the plan as it stands, to begin with.
    shifts, tasks, of_visit, impossible : see `Tasks`.
    """

    def __init__(self, problem: Problem, *, still: bool = False) -> None:
        """`still`: what is kept starts exactly as it stands; nothing that comes in pushes it to later."""
        self.problem = problem
        self._made = Tasks(problem, still=still)
        self.shifts, self.tasks = self._made.shifts, self._made.tasks
        self.of_visit, self.impossible = self._made.of_visit, self._made.impossible
        self.tied = Tied(self._made)
        self._rows = Rows(problem, self._made)
        self.arrays = self._make_arrays()
        self.routes = [[] for _ in self.shifts]  # type: list[list[int]]
        self._lay_out_what_stands()

    def _make_arrays(self) -> Arrays:
        tables = self._tables()
        length, extra = self._rows.fits()
        return Arrays(
            drive=_with_slowest(tables.seconds),
            metres=np.ascontiguousarray(tables.metres, np.int32),
            spans=np.ascontiguousarray(tables.spans, np.int64),
            tasks=self._rows.of_tasks(self.tied),
            shifts=self._rows.of_shifts(),
            length=length,
            extra=extra,
            **self._rows.stores(),
            links=self.tied.links,
            members=self.tied.members,
            weights=self._rows.weights(len(tables.spans)),
        )

    def _tables(self) -> Any:
        starts = [shift.starts for shift in self.shifts] or [0]
        ends = [shift.ends for shift in self.shifts] or [86_400]
        return self.problem.travel.tables(start=min(starts) - 86_400, end=max(ends) + 86_400)

    # --- other visits in the place of these -----------------------------------------------------------

    def reach(self, places: Iterable[int]) -> None:
        """Know the ways to these places, where the travel of the problem has more of them than when it was made."""
        a = self.arrays
        if max(places, default=0) >= len(a.metres):
            tables = self._tables()
            a.drive, a.metres = _with_slowest(tables.seconds), np.ascontiguousarray(tables.metres, np.int32)

    def retarget(self, visits: Mapping[int, VisitSpec], *, closed: Collection[int] = ()) -> None:
        """Let tasks of the backlog, each alone, stand for other visits with one window: the rest of the model stays.

        For asking about many windows at once without making the model anew. Only `Search.rank` may be
        asked afterwards: what a search keeps about the tasks is not made anew.

        Parameters
        ----------
        visits
            By task. A crew of one, no links.
        closed
            Shifts that the search has closed.
        """
        a = self.arrays
        self.reach(visit.place for visit in visits.values())
        for number, visit in visits.items():
            task, row = self.tasks[number], a.tasks[number]
            task.visit = self.problem.playbook.on_visit(visit)
            task.windows = self._made.windows(task.visit)[:1]
            row[f.FIRST_WINDOW : f.FIRST_WINDOW + 3] = 0, -1, 0  # where it has none, nothing fits
            self._rows.describe_hours(row, task)
            if row[f.LATE_RATE]:
                a.world[f.SIMULATE] = 1
        length, extra = self._rows.fits(visits)
        for number in visits:
            length[list(closed), number] = -1
            a.length[:, number], a.extra[:, number] = length[:, number], extra[:, number]
            able = np.flatnonzero(length[:, number] >= 0)
            a.eligible[number, : len(able)] = able
            a.tasks[number, f.ELIGIBLE] = len(able)

    # --- what stands --------------------------------------------------------------------------------

    def _lay_out_what_stands(self) -> None:
        numbers = {(task.shift, task.visit.id): n for n, task in enumerate(self.tasks) if task.shift is not None}
        starts: dict[int, int] = {}
        for index, shift in enumerate(self.shifts):
            ahead = sorted([*shift.kept, *shift.loose], key=lambda stop: stop.order)
            self.routes[index] = [numbers[index, stop.visit.id] for stop in ahead]
            for stop in ahead:
                times = shift.timetable.stop(stop.visit.id)
                starts[numbers[index, stop.visit.id]] = max(stop.start, times.starts) if times else stop.start
        # A crew starts when the last of them is there.
        leader = self.tied.leader.tolist()
        together: dict[int, int] = {}
        for task, start in starts.items():
            together[leader[task]] = max(start, together.get(leader[task], start))
        self.pins = {task: (together[leader[task]],) * 2 for task in starts if self.tied.tied[task]}

    def plan_of(self, found: Found) -> Plan:
        """The engine's routes as a plan; what it had no say in stays as it is."""
        stops = [day.stops for day in self.problem.days]
        for number, route in enumerate(found.routes):
            if number in found.closed:
                continue
            stops[self.shifts[number].index] = self.stops_of(number, route)
        return Plan(stops=tuple(stops))

    def stops_of(self, number: int, route: Sequence[tuple[int, int]]) -> tuple[Stop, ...]:
        """A shift's stops: what has begun, and tasks with their starts; a stop whose time does not change stays."""
        shift = self.shifts[number]
        original = {stop.visit.id: stop for stop in self.problem.days[shift.index].stops}
        stops = [stop for stop in original.values() if stop.has_begun]
        for task, start in route:
            visit_id = self.tasks[task].visit.id
            old, times = original.get(visit_id), shift.timetable.stop(visit_id)
            unmoved = old is not None and times is not None and start == times.starts
            stops.append(old if unmoved and old else Stop(visit=self.problem.visits[visit_id], start=start))
        return tuple(sorted(stops, key=lambda stop: stop.order))


def _with_slowest(seconds: Int32) -> Int32:
    """Driving by period, and behind it what is the slowest of all periods."""
    return np.ascontiguousarray(np.concatenate([seconds, seconds.max(axis=0, keepdims=True)]), np.int32)
