"""A problem as the engine's arrays, and the engine's routes as a plan."""

from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from core.basics import Interval
from core.orders.links import LinkKind
from core.scheduling.engine import fields as f
from core.scheduling.engine.arrays import Arrays, Int32, Int64
from core.scheduling.engine.search import Found
from core.scheduling.evaluation.day_walk import Whereabouts, evaluate_day, whereabouts
from core.scheduling.evaluation.evaluate import day_of
from core.scheduling.evaluation.rules import fit_rules
from core.scheduling.model.aims import GIVEN, Aim, late_rate, left_out, move_rate
from core.scheduling.model.day import Day, Stop, VisitSpec
from core.scheduling.model.limits import Limit
from core.scheduling.model.problem import Plan, Problem
from core.scheduling.model.timetable import Timetable

SCALE = 1000  # thousandths of a point
Window = tuple[int, int, int]


@dataclass(kw_only=True)
class _Shift:
    """A day of the problem that the engine may put visits on."""

    index: int
    day: Day
    timetable: Timetable
    begun: Whereabouts | None
    starts: int
    kept: list[Stop]
    loose: list[Stop]
    given_up: frozenset[Limit]  # limits that what is kept breaks already: nothing here can mend them
    home: int  # when what is kept alone is over


@dataclass(kw_only=True)
class _Task:
    """A visit, or one technician's part of it."""

    visit: VisitSpec
    shift: int | None = None  # where it stands now
    stop: Stop | None = None
    kept: bool = False
    windows: list[Window] = field(default_factory=list)


class Model:
    """A problem made ready for the engine.

    Attributes
    ----------
    arrays : what the kernels work on.
    routes, pins : the plan as it stands, to begin with.
    impossible : visits that have no window at all, or no duration, by id with the limit that says so.
    """

    def __init__(self, problem: Problem, *, still: bool = False) -> None:
        """`still`: what is kept starts exactly as it stands; nothing that comes in pushes it to later."""
        self.problem = problem
        self.still = still
        self.playbook = problem.playbook
        self.impossible: dict[int, Limit] = {}
        together = [link for link in problem.links if link.kind is LinkKind.TOGETHER]
        self._partners = {visit_id for link in together for visit_id in (link.first, link.second)}
        self.shifts = self._open_shifts()
        self.tasks = self._make_tasks()
        self.of_visit: dict[int, list[int]] = {}
        for number, task in enumerate(self.tasks):
            self.of_visit.setdefault(task.visit.id, []).append(number)
        self.arrays = self._make_arrays()
        self.routes = [[] for _ in self.shifts]  # type: list[list[int]]
        self.pins: dict[int, tuple[int, int]] = {}
        self._lay_out_what_stands()

    # --- shifts and tasks ---------------------------------------------------------------------------

    def _open_shifts(self) -> list[_Shift]:
        found = []
        for index in range(len(self.problem.days)):
            day, timetable = day_of(self.problem, self.problem.as_it_stands, index)
            now = self.problem.now_for(day)
            if day.shift is None or (self.problem.now is not None and day.shift.last_end <= self.problem.now):
                continue
            begun = whereabouts(day, self.problem.travel, now=now)
            starts = begun.free if begun else max(day.shift.hours.start, now or 0)
            ahead = [stop for stop in day.stops if not stop.has_begun]
            kept = [stop for stop in ahead if self._is_kept(stop.visit)]
            loose = [stop for stop in ahead if not self._is_kept(stop.visit)]
            alone = timetable
            if loose:
                staying = replace(day, stops=tuple(stop for stop in day.stops if stop not in loose))
                alone = evaluate_day(staying, self.problem.travel, now=now)
            found.append(
                _Shift(
                    index=index, day=day, timetable=timetable, begun=begun, starts=starts, kept=kept, loose=loose,
                    given_up=frozenset(broken.limit for broken in alone.broken), home=alone.ends or starts,
                )
            )  # fmt: skip
        return found

    def _is_kept(self, visit: VisitSpec) -> bool:
        """What has no window any more (its promise has passed) stays too: that is for people to settle."""
        return visit.locked or visit.id not in self.problem.movable or not self._windows(visit)

    def _make_tasks(self) -> list[_Task]:
        tasks = []
        planned: Counter[int] = Counter()
        for number, shift in enumerate(self.shifts):
            for stop in (*shift.kept, *shift.loose):
                kept = self._is_kept(stop.visit)
                windows = self._kept_windows(shift, stop) if kept else self._windows(stop.visit)
                tasks.append(_Task(visit=stop.visit, shift=number, stop=stop, kept=kept, windows=windows))
                planned[stop.visit.id] += 1
        for visit in self.problem.backlog:
            visit = self.playbook.on_visit(visit)
            windows = self._windows(visit)
            if visit.duration is None:
                self.impossible[visit.id] = Limit.DURATION
            elif not windows:
                self.impossible[visit.id] = Limit.PROMISE
            else:
                tasks += [_Task(visit=visit, windows=windows) for _ in range(visit.crew)]
        self._spread_impossible(tasks)
        tasks = [task for task in tasks if task.visit.id not in self.impossible]
        # A crew that is short of somebody may be completed.
        for task in [task for task in tasks if task.stop is not None and not task.kept]:
            missing = task.visit.crew - planned[task.visit.id]
            planned[task.visit.id] += max(0, missing)
            tasks += [_Task(visit=task.visit, windows=task.windows) for _ in range(missing)]
        return tasks

    def _spread_impossible(self, tasks: Sequence[_Task]) -> None:
        """What starts with, or comes after, something impossible is impossible too."""
        loose = {task.visit.id for task in tasks if task.stop is None}
        again = True
        while again:
            again = False
            for link in self.problem.links:
                pairs = [(link.first, link.second)] if link.kind is LinkKind.AFTER else []
                if link.kind is LinkKind.TOGETHER:
                    pairs = [(link.first, link.second), (link.second, link.first)]
                for one, two in pairs:
                    if one in self.impossible and two in loose and two not in self.impossible:
                        self.impossible[two] = Limit.LINK
                        again = True

    def _windows(self, visit: VisitSpec) -> list[Window]:
        """Starts allowed to a visit: (earliest start, latest start, latest end), by time, without overlap."""
        earliest = visit.earliest if visit.earliest is not None else -f.FAR
        due = visit.due if visit.due is not None and self.playbook.setting(Limit.DUE).on else f.FAR
        arrivals = [(w.start, w.end) for w in _merged(visit.windows)] or [(-f.FAR, f.FAR)]
        opening = [(w.start, w.end) for w in _merged(visit.opening)] or [(-f.FAR, f.FAR)]
        found = []
        for low, high in arrivals:
            for opens, closes in opening:
                start, end = max(low, opens, earliest), min(closes, due)
                if start <= min(high, end):
                    found.append((start, min(high, end), end))
        if self.problem.now is not None:
            found = [window for window in found if window[1] >= self.problem.now]
        return sorted(found)

    def _kept_windows(self, shift: _Shift, stop: Stop) -> list[Window]:
        """A kept visit starts when it stands, or later where its own windows and nothing else allow it."""
        times = shift.timetable.stop(stop.visit.id)
        assert times is not None
        really = max(stop.start, times.starts)
        if self.still or stop.visit.locked or stop.visit.crew > 1 or stop.visit.id in self._partners:
            return [(stop.start, really, f.FAR)]  # others rely on its hour
        later = [(max(low, stop.start), high, end) for low, high, end in self._windows(stop.visit)]
        seconds = times.ends - times.starts
        if any(low <= really <= high and really + seconds <= end for low, high, end in later):
            return [window for window in later if window[0] <= window[1]]
        # It breaks a limit as it stands: that is nobody's fault here, and no reason to move it.
        return [(stop.start, really, f.FAR)]

    # --- arrays -------------------------------------------------------------------------------------

    def _make_arrays(self) -> Arrays:
        tables = self._tables()
        slowest = tables.seconds.max(axis=0, keepdims=True)
        links, members = self._tie()
        demand, bucket, room = self._resources()
        length, extra = self._fits()
        return Arrays(
            drive=np.ascontiguousarray(np.concatenate([tables.seconds, slowest]), np.int32),
            metres=np.ascontiguousarray(tables.metres, np.int32),
            spans=np.ascontiguousarray(tables.spans, np.int64),
            tasks=self._task_rows(),
            shifts=self._shift_rows(),
            length=length,
            extra=extra,
            demand=demand,
            bucket=bucket,
            room=room,
            links=links,
            members=members,
            weights=self._weights(len(tables.spans)),
        )

    def _tables(self) -> Any:
        starts = [shift.starts for shift in self.shifts] or [0]
        ends = [shift.day.shift.last_end for shift in self.shifts if shift.day.shift] or [86_400]
        return self.problem.travel.tables(start=min(starts) - 86_400, end=max(ends) + 86_400)

    def _weights(self, spans: int) -> dict[int, int]:
        def scaled(aim: Aim, points: float = 1.0) -> int:
            return round(SCALE * points * self.playbook.weight(aim))

        weights = {
            f.DRIVE_SECOND: scaled(Aim.DRIVING),
            f.DRIVE_METRE: scaled(Aim.DISTANCE, 0.1),
            f.WAIT_SECOND: scaled(Aim.WAITING),
            f.UNFAIR: scaled(Aim.FAIRNESS),
        }
        long_drive = self.playbook.setting(Limit.LONG_DRIVE)
        if long_drive.on and long_drive.number is not None:
            weights[f.LONGEST_DRIVE] = 60 * long_drive.number
        overtime = self.playbook.weight(Aim.OVERTIME) > 0 and any(
            shift.day.shift is not None and shift.day.shift.overtime_limit > 0 for shift in self.shifts
        )
        timed = any(self._late_rate(task) or self._move_rate(task) for task in self.tasks)
        simulate = spans > 1 or overtime or timed or weights[f.WAIT_SECOND] > 0 or weights[f.UNFAIR] > 0
        return weights | {f.SIMULATE: int(simulate)}

    def _late_rate(self, task: _Task) -> int:
        return round(SCALE * self.playbook.weight(Aim.LATENESS) * late_rate(task.visit))

    def _move_rate(self, task: _Task) -> int:
        standing = self.problem.standing.get(task.visit.id)
        return round(SCALE * self.playbook.weight(Aim.DISTURBANCE) * move_rate(task.visit, standing))

    def _task_rows(self) -> Int64:
        widest = max((len(task.windows) for task in self.tasks), default=1)
        rows = np.zeros((len(self.tasks), f.FIRST_WINDOW + 3 * max(1, widest)), np.int64)
        for c, task in enumerate(self.tasks):
            visit, row = task.visit, rows[c]
            standing = self.problem.standing.get(visit.id)
            left = left_out(self.problem.visits[visit.id], standing)
            penalty = sum(points * self.playbook.weight(aim) for aim, points in left.items()) / visit.crew
            row[f.PLACE], row[f.WINDOWS] = visit.place, len(task.windows)
            row[f.PENALTY] = round(SCALE * penalty)
            row[f.DUE] = visit.late_after if visit.late_after is not None else f.FAR
            row[f.LATE_RATE] = self._late_rate(task)
            row[f.TOLD] = standing.start if standing else 0
            row[f.MOVE_RATE] = self._move_rate(task)
            stays = task.shift is not None and visit.id not in self.problem.free
            row[f.HOME] = task.shift if stays else -1
            row[f.FIXED] = int(task.kept)
            row[f.GRAIN] = 1 if task.kept else self.problem.grain
            row[f.PIN_LOW], row[f.PIN_HIGH] = -f.FAR, f.FAR
            row[f.LEADER], row[f.TIED], row[f.CREW_ROW] = self._leader[c], int(self._tied[c]), self._crew_row[c]
            for number, window in enumerate(task.windows):
                row[f.FIRST_WINDOW + 3 * number : f.FIRST_WINDOW + 3 * number + 3] = window
        return rows

    def _shift_rows(self) -> Int64:
        most = max((len(shift.day.absences) for shift in self.shifts), default=0)
        rows = np.zeros((len(self.shifts), f.FIRST_BLOCK + 2 * most), np.int64)
        overtime = round(SCALE * self.playbook.weight(Aim.OVERTIME))
        for v, shift in enumerate(self.shifts):
            day, row = shift.day, rows[v]
            assert day.shift is not None
            row[f.START_PLACE] = shift.begun.place if shift.begun else day.start_place
            row[f.END_PLACE] = day.end_place
            row[f.STARTS], row[f.ENDS] = shift.starts, day.shift.last_end
            if Limit.OVERTIME in shift.given_up:
                row[f.ENDS] = max(day.shift.last_end, shift.home)
            row[f.NORMAL_END], row[f.OVER_RATE] = day.shift.hours.end, overtime
            row[f.LENGTH] = max(1, day.shift.hours.seconds)
            row[f.BEGUN] = int(shift.begun is not None)
            row[f.TECHNICIAN] = day.technician.id
            rest = day.shift.rest
            rested = (shift.begun is not None and shift.begun.rested) or Limit.BREAK in shift.given_up
            if rest is not None and not rested:
                row[f.REST], row[f.REST_FROM], row[f.REST_END] = day.shift.rest_seconds, rest.start, rest.end
                row[f.REST_BY] = rest.end - day.shift.rest_seconds
            absences = () if Limit.ABSENCE in shift.given_up else sorted(day.absences)
            row[f.BLOCKS] = len(absences)
            for number, absence in enumerate(absences):
                base = f.FIRST_BLOCK + 2 * number
                row[base : base + 2] = absence.start, absence.end
        return rows

    def _fits(self) -> tuple[Int32, Int64]:
        return self._fits_of(list(enumerate(self.tasks)))

    def _fits_of(self, tasks: Sequence[tuple[int, _Task]]) -> tuple[Int32, Int64]:
        """Length of each task on each shift (-1: not allowed), and what giving it there costs."""
        n, m = len(self.tasks), len(self.shifts)
        length = np.full((m, n), -1, np.int32)
        extra = np.zeros((m, n), np.int64)
        starts = np.array([shift.starts for shift in self.shifts], np.int64)
        ends = np.array([shift.day.shift.last_end for shift in self.shifts if shift.day.shift], np.int64)
        known: dict[tuple[object, ...], tuple[int, int]] = {}
        for c, task in tasks:
            if task.kept:
                assert task.shift is not None
                candidates: Iterable[int] = [task.shift]
            else:
                open_ = np.zeros(m, bool)
                for low, high, _end in task.windows:
                    open_ |= (low <= ends) & (high >= starts)
                candidates = [int(v) for v in np.flatnonzero(open_)]
            key = _fit_key(task.visit, self.problem.standing.get(task.visit.id))
            for v in candidates:
                day = self.shifts[v].day
                cell = (key, day.technician.id, self.shifts[v].index if task.visit.certificates else 0, task.kept)
                if cell not in known:
                    known[cell] = self._fit(task, day)
                length[v, c], extra[v, c] = known[cell]
        return length, extra

    def _fit(self, task: _Task, day: Day) -> tuple[int, int]:
        visit = task.visit
        seconds = visit.seconds_for(day.technician.id)
        assert day.shift is not None
        if not task.kept:
            trial = Stop(visit=visit, start=day.shift.hours.start)
            if any(self.playbook.setting(found.limit).on for found in fit_rules(day, trial)):
                return -1, 0
        standing = self.problem.standing.get(visit.id)
        points = sum(self.playbook.weight(aim) * given(visit, day, standing) for aim, given in GIVEN.items())
        return seconds if seconds is not None else 3600, round(SCALE * points)

    def _resources(self) -> tuple[Int64, Int32, Int64]:
        """Parts lie on a technician's van for all days; visits are counted by day."""
        parts = sorted({part for task in self.tasks for part in task.visit.parts})
        counted = any(shift.day.most_visits is not None for shift in self.shifts)
        kinds = [*parts, *([None] if counted else [])]
        demand = np.zeros((len(self.tasks), len(kinds)), np.int64)
        bucket = np.zeros((len(self.shifts), len(kinds)), np.int32)
        rooms: list[int] = []
        vans: dict[tuple[int, str], int] = {}
        for r, part in enumerate(kinds):
            for c, task in enumerate(self.tasks):
                demand[c, r] = 1 if part is None else task.visit.parts.get(part, 0)
            for v, shift in enumerate(self.shifts):
                running = shift.day.running
                if part is None:
                    bucket[v, r] = len(rooms)
                    most = shift.day.most_visits
                    rooms.append(f.FAR if most is None else most - len(running))
                    continue
                key = (shift.day.technician.id, part)
                if key not in vans:
                    vans[key] = len(rooms)
                    stock = shift.day.technician.parts
                    rooms.append(f.FAR if stock is None else stock.get(part, 0))
                rooms[vans[key]] -= sum(stop.takes(part) for stop in running)
                bucket[v, r] = vans[key]
        room = np.zeros((max(1, len(rooms)), 2), np.int64)
        room[: len(rooms), 0] = rooms
        return demand, bucket, room

    # --- crews and links ----------------------------------------------------------------------------

    def _tie(self) -> tuple[Int64, Int64]:
        n = len(self.tasks)
        groups = self._groups()
        self._leader = list(range(n))
        self._tied = [False] * n
        self._number_crews(groups)
        per_task = self._link_rows()
        most = max((len(found) for found in per_task.values()), default=0)
        links = np.zeros((n, 1 + 4 * most), np.int64)
        for c, found in per_task.items():
            self._tied[c] = True
            links[c, 0] = len(found)
            for number, entry in enumerate(found):
                links[c, 1 + 4 * number : 5 + 4 * number] = entry
        members = np.zeros((n, 1 + max((len(group) for group in groups), default=1)), np.int64)
        members[:, 0], members[:, 1] = 1, np.arange(n)
        for group in groups:
            members[group, 0] = 0
            members[group[0], : 1 + len(group)] = (len(group), *group)
        return links, members

    def _number_crews(self, groups: Sequence[Sequence[int]]) -> None:
        """A row of the crew cache for each kind of member, and a leader for each group."""
        self._crew_row = [-1] * len(self.tasks)
        rows: dict[tuple[int, int], int] = {}
        for group in groups:
            for c in group:
                self._leader[c], self._tied[c] = group[0], True
                # Members are alike as long as none of them stands anywhere yet.
                alike = (self.tasks[c].visit.id, -1 if self.tasks[c].shift is None else c)
                self._crew_row[c] = rows.setdefault(alike, len(rows))

    def _groups(self) -> list[list[int]]:
        """Tasks that start together: a crew's, and those of visits linked so. What is kept keeps its start anyway."""
        root = {visit_id: visit_id for visit_id in self.of_visit}

        def find(visit_id: int) -> int:
            while root[visit_id] != visit_id:
                visit_id = root[visit_id]
            return visit_id

        for one, two in self._started_together():
            kept, loose = sorted((one, two), key=lambda visit_id: not self._stays(visit_id))
            if not self._stays(kept):
                root[find(two)] = find(one)
            elif not self._stays(loose):
                self._start_with(kept, loose)
        gathered: dict[int, list[int]] = {}
        for visit_id, tasks in self.of_visit.items():
            if not self._stays(visit_id):
                gathered.setdefault(find(visit_id), []).extend(tasks)
        return [group for group in gathered.values() if len(group) > 1]

    def _started_together(self) -> list[tuple[int, int]]:
        return [
            (link.first, link.second)
            for link in self.problem.links
            if link.kind is LinkKind.TOGETHER and link.first in self.of_visit and link.second in self.of_visit
        ]

    def _stays(self, visit_id: int) -> bool:
        return self.tasks[self.of_visit[visit_id][0]].kept

    def _start_with(self, kept: int, loose: int) -> None:
        """A visit that starts with one that stays has no choice of its hour."""
        stop = self.tasks[self.of_visit[kept][0]].stop
        assert stop is not None
        for c in self.of_visit[loose]:
            self.tasks[c].windows = _clipped(self.tasks[c].windows, stop.start, stop.start)

    def _link_rows(self) -> dict[int, list[tuple[int, int, int, int]]]:
        found: dict[int, list[tuple[int, int, int, int]]] = {}
        for link in self.problem.links:
            first, second = self.of_visit.get(link.first, []), self.of_visit.get(link.second, [])
            greatest = f.FAR if link.greatest is None else link.greatest
            if link.kind is LinkKind.AFTER and second and not first:
                self._after_what_is_settled(link.first, second, link.least, greatest)
            elif link.kind is LinkKind.AFTER and first and second:
                if self.tasks[second[0]].kept:
                    self._before_what_is_kept(first, second, link.least)
                    continue
                for one in first:
                    found.setdefault(second[0], []).append((f.FOLLOWS, one, link.least, greatest))
                    found.setdefault(one, []).append((f.LEADS, second[0], link.least, greatest))
            elif link.kind is LinkKind.SAME_HANDS and first and second:
                found.setdefault(first[0], []).append((f.SAME_HANDS, second[0], 0, 0))
                found.setdefault(second[0], []).append((f.SAME_HANDS, first[0], 0, 0))
        return found

    def _after_what_is_settled(self, visit_id: int, tasks: Sequence[int], least: int, greatest: int) -> None:
        """The first end is begun or over: it is a plain bound on the second."""
        ends = self._end_of(visit_id)
        if ends is None:
            return  # it is nobody's here; or it cannot be planned, and what stands after it stands already
        for c in tasks:
            self.tasks[c].windows = _clipped(self.tasks[c].windows, ends + least, min(f.FAR, ends + greatest))

    def _before_what_is_kept(self, first: Sequence[int], second: Sequence[int], least: int) -> None:
        stop = self.tasks[second[0]].stop
        assert stop is not None
        for c in first:
            self.tasks[c].windows = [
                (low, high, min(end, stop.start - least)) for low, high, end in self.tasks[c].windows
            ]

    def _end_of(self, visit_id: int) -> int | None:
        for index, day in enumerate(self.problem.days):
            if any(stop.visit.id == visit_id for stop in day.stops):
                applied = self.playbook.on_day(self.problem.days[index])
                times = evaluate_day(applied, self.problem.travel, now=self.problem.now_for(applied)).stop(visit_id)
                return times.ends if times else None
        return None

    # --- other visits in the place of these -----------------------------------------------------------

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
        if any(visit.place >= len(a.metres) for visit in visits.values()):
            tables = self._tables()
            slowest = tables.seconds.max(axis=0, keepdims=True)
            a.drive = np.ascontiguousarray(np.concatenate([tables.seconds, slowest]), np.int32)
            a.metres = np.ascontiguousarray(tables.metres, np.int32)
        for c, visit in visits.items():
            task = self.tasks[c]
            task.visit = self.playbook.on_visit(visit)
            task.windows = self._windows(task.visit)[:1]
            row = a.tasks[c]
            row[f.PLACE], row[f.WINDOWS] = visit.place, len(task.windows)
            row[f.DUE] = task.visit.late_after if task.visit.late_after is not None else f.FAR
            row[f.LATE_RATE] = self._late_rate(task)
            row[f.FIRST_WINDOW : f.FIRST_WINDOW + 3] = task.windows[0] if task.windows else (0, -1, 0)
            if row[f.LATE_RATE]:
                a.world[f.SIMULATE] = 1
        length, extra = self._fits_of([(c, self.tasks[c]) for c in visits])
        for c in visits:
            length[list(closed), c] = -1
            a.length[:, c], a.extra[:, c] = length[:, c], extra[:, c]
            able = np.flatnonzero(length[:, c] >= 0)
            a.eligible[c, : len(able)] = able
            a.tasks[c, f.ELIGIBLE] = len(able)

    # --- what stands --------------------------------------------------------------------------------

    def _lay_out_what_stands(self) -> None:
        numbers = {(task.shift, task.visit.id): c for c, task in enumerate(self.tasks) if task.shift is not None}
        starts: dict[int, int] = {}
        for v, shift in enumerate(self.shifts):
            ahead = sorted([*shift.kept, *shift.loose], key=lambda stop: stop.order)
            self.routes[v] = [numbers[v, stop.visit.id] for stop in ahead]
            for stop in ahead:
                times = shift.timetable.stop(stop.visit.id)
                starts[numbers[v, stop.visit.id]] = max(stop.start, times.starts) if times else stop.start
        # A crew starts when the last of them is there.
        together: dict[int, int] = {}
        for c, start in starts.items():
            together[self._leader[c]] = max(start, together.get(self._leader[c], start))
        for c in starts:
            if self._tied[c]:
                self.pins[c] = (together[self._leader[c]],) * 2

    def plan_of(self, found: Found) -> Plan:
        """The engine's routes as a plan; what it had no say in stays as it is."""
        stops = [day.stops for day in self.problem.days]
        for v, route in enumerate(found.routes):
            if v in found.closed:
                continue
            stops[self.shifts[v].index] = self.stops_of(v, route)
        return Plan(stops=tuple(stops))

    def stops_of(self, v: int, route: Sequence[tuple[int, int]]) -> tuple[Stop, ...]:
        """A shift's stops: what has begun, and tasks with their starts; a stop whose time does not change stays."""
        shift = self.shifts[v]
        original = {stop.visit.id: stop for stop in self.problem.days[shift.index].stops}
        stops = [stop for stop in original.values() if stop.has_begun]
        for c, start in route:
            visit_id = self.tasks[c].visit.id
            old, times = original.get(visit_id), shift.timetable.stop(visit_id)
            unmoved = old is not None and times is not None and start == times.starts
            stops.append(old if unmoved and old else Stop(visit=self.problem.visits[visit_id], start=start))
        return tuple(sorted(stops, key=lambda stop: stop.order))


def _merged(windows: Sequence[Interval]) -> list[Interval]:
    """Overlapping windows as one, so that the first one found is the earliest."""
    merged: list[Interval] = []
    for window in sorted(windows):
        if merged and window.start <= merged[-1].end:
            merged[-1] = Interval(start=merged[-1].start, end=max(merged[-1].end, window.end))
        else:
            merged.append(window)
    return merged


def _clipped(windows: Sequence[Window], low: int, high: int) -> list[Window]:
    clipped = [(max(start, low), min(last, high), end) for start, last, end in windows]
    return [window for window in clipped if window[0] <= window[1]]


def _fit_key(visit: VisitSpec, standing: Any) -> tuple[object, ...]:
    """Visits with the same key fit the same technicians at the same cost."""
    return (
        tuple(sorted(visit.needs.items())), visit.certificates, visit.area, visit.required, visit.forbidden,
        visit.preferred, visit.last_technician, tuple(sorted(visit.parts.items())), visit.told, visit.duration,
        tuple(sorted(visit.durations.items())), standing.technician_ids if standing else None,
    )  # fmt: skip
