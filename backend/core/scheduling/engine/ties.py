"""Tasks that are tied to each other: crews, and visits linked to visits."""

from collections.abc import Mapping, Sequence

import numpy as np

from core.orders.links import LinkKind
from core.scheduling.engine import fields as f
from core.scheduling.engine.arrays import Int64
from core.scheduling.engine.tasks import Tasks, Window
from core.scheduling.evaluation.day_walk import evaluate_day


class Tied:
    """Groups and links of tasks. What is tied to something that stays has its windows narrowed here.

    Attributes
    ----------
    leader, tied, crew_row, link_count, member_count : by task, as the columns of their names in `fields`.
    links : int64[tasks, most, LINK]
    members : int64[tasks, crew]
    """

    def __init__(self, tasks: Tasks) -> None:
        self._problem, self._tasks, self._of_visit = tasks.problem, tasks.tasks, tasks.of_visit
        n = len(self._tasks)
        groups = self._groups()
        self.leader, self.tied = np.arange(n), np.zeros(n, bool)
        self.link_count, self.member_count = np.zeros(n, np.int64), np.ones(n, np.int64)
        self._number_crews(groups)
        self.links = self._links_of(self._link_rows())
        self.members = np.zeros((n, max((len(group) for group in groups), default=1)), np.int64)
        self.members[:, 0] = np.arange(n)
        for group in groups:
            self.member_count[group] = 0
            self.member_count[group[0]] = len(group)
            self.members[group[0], : len(group)] = group

    def _links_of(self, per_task: Mapping[int, Sequence[tuple[int, int, int, int]]]) -> Int64:
        most = max((len(found) for found in per_task.values()), default=0)
        links = np.zeros((len(self._tasks), most, f.LINK), np.int64)
        for task, found in per_task.items():
            self.tied[task] = True
            self.link_count[task] = len(found)
            links[task, : len(found)] = found
        return links

    def _number_crews(self, groups: Sequence[Sequence[int]]) -> None:
        """A row of the crew cache for each kind of member, and a leader for each group."""
        self.crew_row = np.full(len(self._tasks), -1)
        rows: dict[tuple[int, int], int] = {}
        for group in groups:
            for task in group:
                self.leader[task], self.tied[task] = group[0], True
                # Members are alike as long as none of them stands anywhere yet.
                alike = (self._tasks[task].visit.id, -1 if self._tasks[task].shift is None else task)
                self.crew_row[task] = rows.setdefault(alike, len(rows))

    def _groups(self) -> list[list[int]]:
        """Tasks that start together: a crew's, and those of visits linked so. What is kept keeps its start anyway."""
        root = {visit_id: visit_id for visit_id in self._of_visit}

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
        for visit_id, tasks in self._of_visit.items():
            if not self._stays(visit_id):
                gathered.setdefault(find(visit_id), []).extend(tasks)
        return [group for group in gathered.values() if len(group) > 1]

    def _started_together(self) -> list[tuple[int, int]]:
        return [
            (link.first, link.second)
            for link in self._problem.links
            if link.kind is LinkKind.TOGETHER and link.first in self._of_visit and link.second in self._of_visit
        ]

    def _stays(self, visit_id: int) -> bool:
        return self._tasks[self._of_visit[visit_id][0]].kept

    def _start_with(self, kept: int, loose: int) -> None:
        """A visit that starts with one that stays has no choice of its hour."""
        stop = self._tasks[self._of_visit[kept][0]].stop
        assert stop is not None
        for task in self._of_visit[loose]:
            self._tasks[task].windows = _clipped(self._tasks[task].windows, stop.start, stop.start)

    def _link_rows(self) -> dict[int, list[tuple[int, int, int, int]]]:
        found: dict[int, list[tuple[int, int, int, int]]] = {}
        for link in self._problem.links:
            first, second = self._of_visit.get(link.first, []), self._of_visit.get(link.second, [])
            greatest = f.FAR if link.greatest is None else link.greatest
            if link.kind is LinkKind.AFTER and second and not first:
                self._after_what_is_settled(link.first, second, link.least, greatest)
            elif link.kind is LinkKind.AFTER and first and second:
                if self._tasks[second[0]].kept:
                    self._before_what_is_kept(first, second, link.least)
                    continue
                for one in first:
                    found.setdefault(second[0], []).append((f.FOLLOWS, one, link.least, greatest))
                    found.setdefault(one, []).append((f.LEADS, second[0], link.least, greatest))
            elif link.kind is LinkKind.SAME_TECHNICIAN and first and second:
                found.setdefault(first[0], []).append((f.SAME_TECHNICIAN, second[0], 0, 0))
                found.setdefault(second[0], []).append((f.SAME_TECHNICIAN, first[0], 0, 0))
        return found

    def _after_what_is_settled(self, visit_id: int, tasks: Sequence[int], least: int, greatest: int) -> None:
        """The first end is begun or over: it is a plain bound on the second."""
        ends = self._end_of(visit_id)
        if ends is None:
            return  # it is nobody's here; or it cannot be planned, and what stands after it stands already
        for task in tasks:
            self._tasks[task].windows = _clipped(self._tasks[task].windows, ends + least, min(f.FAR, ends + greatest))

    def _before_what_is_kept(self, first: Sequence[int], second: Sequence[int], least: int) -> None:
        stop = self._tasks[second[0]].stop
        assert stop is not None
        for task in first:
            self._tasks[task].windows = [
                (low, high, min(end, stop.start - least)) for low, high, end in self._tasks[task].windows
            ]

    def _end_of(self, visit_id: int) -> int | None:
        for index, day in enumerate(self._problem.days):
            if any(stop.visit.id == visit_id for stop in day.stops):
                applied = self._problem.playbook.on_day(self._problem.days[index])
                times = evaluate_day(applied, self._problem.travel, now=self._problem.now_for(applied)).stop(visit_id)
                return times.ends if times else None
        return None


def _clipped(windows: Sequence[Window], low: int, high: int) -> list[Window]:
    clipped = [(max(start, low), min(last, high), end) for start, last, end in windows]
    return [window for window in clipped if window[0] <= window[1]]
