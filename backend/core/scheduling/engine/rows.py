"""Tasks and shifts as rows of numbers; see `fields` for the columns."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, fields
from functools import cached_property
from typing import Any

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.arrays import Int32, Int64
from core.scheduling.engine.tasks import OpenShift, Task, Tasks
from core.scheduling.engine.ties import Tied
from core.scheduling.evaluation.rules import fit_rules
from core.scheduling.model.aims import GIVEN, Aim, Standing, late_rate, left_out, move_rate
from core.scheduling.model.day import Day, Stop, TechnicianSpec, VisitSpec
from core.scheduling.model.limits import Limit
from core.scheduling.model.problem import Problem

SCALE = 1000  # thousandths of a point
# What says nothing about who may do a visit and what giving it to them costs. All else is part of the key under which
# an answer is shared between visits, so that a new field of a visit is, too.
_OF_THE_HOUR = {
    "id", "label", "place", "promise", "other_windows", "opening", "earliest", "due", "wanted_by", "late_from",
    "overdue", "crew", "priority", "value", "locked", "locked_because",
}  # fmt: skip
_OF_WHO = tuple(field.name for field in fields(VisitSpec) if field.name not in _OF_THE_HOUR)


def fit_key(visit: VisitSpec, standing: Standing | None) -> tuple[object, ...]:
    """Visits with the same key fit the same technicians at the same cost."""
    values = (getattr(visit, name) for name in _OF_WHO)
    told = (tuple(sorted(value.items())) if isinstance(value, Mapping) else value for value in values)
    return (*told, standing.technician_ids if standing else None)


@dataclass
class Rows:
    """Makes the rows of one problem's tasks and shifts."""

    problem: Problem
    made: Tasks

    def _scaled(self, aim: Aim, points: float = 1.0) -> int:
        return round(SCALE * points * self.problem.playbook.weight(aim))

    # --- what counts --------------------------------------------------------------------------------

    def weights(self, spans: int) -> dict[int, int]:
        """Cost weights, and whether a position's cost needs the whole day walked, by column of `world`."""
        playbook = self.problem.playbook
        weights = {
            f.DRIVE_SECOND: self._scaled(Aim.DRIVING),
            f.DRIVE_METRE: self._scaled(Aim.DISTANCE, 0.1),
            f.WAIT_SECOND: self._scaled(Aim.WAITING),
            f.UNFAIR: self._scaled(Aim.FAIRNESS),
        }
        long_drive = playbook.setting(Limit.LONG_DRIVE)
        if long_drive.on and long_drive.number is not None:
            weights[f.LONGEST_DRIVE] = 60 * long_drive.number
        overtime = playbook.weight(Aim.OVERTIME) > 0 and any(
            shift.day.shift is not None and shift.day.shift.last_end > shift.day.shift.hours.end
            for shift in self.made.shifts
        )
        timed = any(self.late_rate(task) or self._move_rate(task) for task in self.made.tasks)
        simulate = spans > 1 or overtime or timed or weights[f.WAIT_SECOND] > 0 or weights[f.UNFAIR] > 0
        return weights | {f.SIMULATE: int(simulate)}

    def late_rate(self, task: Task) -> int:
        """Cost of each second that a task ends late."""
        return self._scaled(Aim.LATENESS, late_rate(task.visit))

    def _move_rate(self, task: Task) -> int:
        return self._scaled(Aim.DISTURBANCE, move_rate(task.visit, self.problem.standing.get(task.visit.id)))

    # --- rows ---------------------------------------------------------------------------------------

    def of_tasks(self, tied: Tied) -> Int64:
        """int64[tasks, FIRST_WINDOW + 3 * windows]"""
        tasks = self.made.tasks
        widest = max((len(task.windows) for task in tasks), default=1)
        rows = np.zeros((len(tasks), f.FIRST_WINDOW + 3 * max(1, widest)), np.int64)
        for row, task in zip(rows, tasks, strict=True):
            self._describe(row, task)
        rows[:, f.LEADER], rows[:, f.TIED], rows[:, f.CREW_ROW] = tied.leader, tied.tied, tied.crew_row
        rows[:, f.LINKS], rows[:, f.MEMBERS] = tied.link_count, tied.member_count
        return rows

    def _describe(self, row: Int64, task: Task) -> None:
        problem, visit = self.problem, task.visit
        standing = problem.standing.get(visit.id)
        left = left_out(problem.visits[visit.id], standing)
        penalty = sum(points * problem.playbook.weight(aim) for aim, points in left.items()) / visit.crew
        row[f.PENALTY] = round(SCALE * penalty)
        row[f.TOLD] = standing.start if standing else 0
        row[f.MOVE_RATE] = self._move_rate(task)
        stays = task.shift is not None and visit.id not in problem.free
        row[f.HOME] = task.shift if stays and task.shift is not None else -1
        row[f.FIXED] = int(task.kept)
        row[f.GRAIN] = 1 if task.kept else problem.grain
        row[f.PIN_LOW], row[f.PIN_HIGH] = -f.FAR, f.FAR
        self.describe_hours(row, task)

    def describe_hours(self, row: Int64, task: Task) -> None:
        """Where and when: what changes when a task stands for another visit."""
        late_after = task.visit.late_after
        row[f.PLACE], row[f.WINDOWS] = task.visit.place, len(task.windows)
        row[f.DUE] = late_after if late_after is not None else f.FAR
        row[f.LATE_RATE] = self.late_rate(task)
        for number, window in enumerate(task.windows):
            row[f.FIRST_WINDOW + 3 * number : f.FIRST_WINDOW + 3 * number + 3] = window

    def of_shifts(self) -> Int64:
        """int64[shifts, FIRST_BLOCK + 2 * blocks]"""
        most = max((len(shift.blocks) for shift in self.made.shifts), default=0)
        rows = np.zeros((len(self.made.shifts), f.FIRST_BLOCK + 2 * most), np.int64)
        for row, shift in zip(rows, self.made.shifts, strict=True):
            self._describe_shift(row, shift)
        return rows

    def _describe_shift(self, row: Int64, shift: OpenShift) -> None:
        day = shift.day
        assert day.shift is not None
        row[f.START_PLACE] = shift.begun.place if shift.begun else day.start_place
        row[f.END_PLACE] = day.end_place
        row[f.STARTS], row[f.ENDS] = shift.starts, shift.ends
        if Limit.OVERTIME in shift.given_up or shift.called_out:
            row[f.ENDS] = max(shift.ends, shift.home)
        row[f.NORMAL_END], row[f.OVER_RATE] = day.shift.hours.end, self._scaled(Aim.OVERTIME)
        row[f.LENGTH] = max(1, day.shift.length)
        row[f.BEGUN] = int(shift.begun is not None)
        row[f.TECHNICIAN] = day.technician.id
        rest = day.shift.rest
        rested = (shift.begun is not None and shift.begun.rested) or Limit.BREAK in shift.given_up
        if rest is not None and not rested:
            row[f.REST], row[f.REST_FROM], row[f.REST_END] = day.shift.rest_seconds, rest.start, rest.end
            row[f.REST_BY] = rest.end - day.shift.rest_seconds
        row[f.BLOCKS] = len(shift.blocks)
        for number, block in enumerate(shift.blocks):
            base = f.FIRST_BLOCK + 2 * number
            row[base : base + 2] = block.start, block.end

    # --- who can take what ----------------------------------------------------------------------------

    def fits(self, numbers: Iterable[int] | None = None) -> tuple[Int32, Int64]:
        """Of all tasks or of some: length on each shift (-1: not allowed), and what giving it there costs.

        int32[shifts, tasks], int64[shifts, tasks]
        """
        tasks, shifts = self.made.tasks, self.made.shifts
        length = np.full((len(shifts), len(tasks)), -1, np.int32)
        extra = np.zeros((len(shifts), len(tasks)), np.int64)
        known: dict[tuple[object, ...], tuple[int, int]] = {}
        for number in range(len(tasks)) if numbers is None else numbers:
            task = tasks[number]
            key = fit_key(task.visit, self.problem.standing.get(task.visit.id))
            for index in self._open_to(task):
                shift = shifts[index]
                # A certificate may run out between two days.
                day = shift.index if task.visit.certificates else 0
                cell = (key, shift.day.technician.id, day, task.kept)
                if cell not in known:
                    known[cell] = self._fit(task, shift.day)
                length[index, number], extra[index, number] = known[cell]
        return length, extra

    def _open_to(self, task: Task) -> Sequence[int]:
        """Shifts whose hours meet the task's windows."""
        if task.kept:
            assert task.shift is not None
            return [task.shift]
        open_ = np.zeros(len(self._hours), bool)
        for low, high, _end in task.windows:
            open_ |= (low <= self._hours[:, 1]) & (high >= self._hours[:, 0])
        return np.flatnonzero(open_).tolist()

    @cached_property
    def _hours(self) -> Int64:
        """int64[shifts, 2]: from when to when, with overtime."""
        return np.array([(shift.starts, shift.ends) for shift in self.made.shifts], np.int64).reshape(-1, 2)

    def _fit(self, task: Task, day: Day) -> tuple[int, int]:
        visit, playbook = task.visit, self.problem.playbook
        seconds = visit.seconds_for(day.technician.id)
        assert day.shift is not None
        if not task.kept:
            trial = Stop(visit=visit, start=day.shift.hours.start)
            if any(playbook.setting(found.limit).on for found in fit_rules(day, trial)):
                return -1, 0
        standing = self.problem.standing.get(visit.id)
        points = sum(playbook.weight(aim) * given(visit, day, standing) for aim, given in GIVEN.items())
        return seconds if seconds is not None else 3600, round(SCALE * points)

    # --- what is used up ------------------------------------------------------------------------------

    def stores(self) -> dict[str, Any]:
        """What tasks use up, from which store, and each store's size: `demand`, `bucket`, `room` of Arrays.

        Parts lie on a technician's van for all days; on a day on which nothing can be taken along from the depot any
        more, there is only what lies on the van. Visits are counted by day.
        """
        tasks, shifts = self.made.tasks, self.made.shifts
        sizes: list[int] = []
        columns: list[tuple[list[int], list[int]]] = []
        for part in sorted({part for task in tasks for part in task.visit.parts}):
            wanted = [task.visit.parts.get(part, 0) for task in tasks]
            has = [_has(shift.day.technician, part) for shift in shifts]
            used = [sum(stop.takes(part) for stop in shift.day.running) for shift in shifts]
            columns.append((wanted, self._by_van(has, used, sizes)))
            if any(has[i] != most for i, most in enumerate(self._most(has))):
                columns.append((wanted, _by_day(has, used, sizes)))
        if any(shift.day.most_visits is not None for shift in shifts):
            most_visits = [f.FAR if shift.day.most_visits is None else shift.day.most_visits for shift in shifts]
            columns.append(([1] * len(tasks), _by_day(most_visits, [len(s.day.running) for s in shifts], sizes)))
        demand = np.array([wanted for wanted, _ in columns], np.int64).reshape(len(columns), len(tasks)).T.copy()
        bucket = np.array([of for _, of in columns], np.int32).reshape(len(columns), len(shifts)).T.copy()
        room = np.zeros((max(1, len(sizes)), 2), np.int64)
        room[: len(sizes), f.SIZE] = sizes
        return {"demand": demand, "bucket": bucket, "room": room}

    def _most(self, has: Sequence[int]) -> list[int]:
        """By shift, how many its technician has on the day on which they have most."""
        most: dict[int, int] = {}
        people = [shift.day.technician.id for shift in self.made.shifts]
        for who, number in zip(people, has, strict=True):
            most[who] = max(number, most.get(who, number))
        return [most[who] for who in people]

    def _by_van(self, has: Sequence[int], used: Sequence[int], sizes: list[int]) -> list[int]:
        """One store for all days of a technician."""
        store: dict[int, int] = {}
        for shift, most, number in zip(self.made.shifts, self._most(has), used, strict=True):
            who = shift.day.technician.id
            if who not in store:
                store[who] = len(sizes)
                sizes.append(most)
            sizes[store[who]] -= number
        return [store[shift.day.technician.id] for shift in self.made.shifts]


def _by_day(has: Sequence[int], used: Sequence[int], sizes: list[int]) -> list[int]:
    """A store for each day."""
    first = len(sizes)
    sizes += [most - number for most, number in zip(has, used, strict=True)]
    return list(range(first, len(sizes)))


def _has(technician: TechnicianSpec, part: str) -> int:
    return f.FAR if technician.load is None else technician.load.has(part)
