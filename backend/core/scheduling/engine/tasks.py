"""What a problem leaves open: shifts that visits may be put on, and tasks to put there."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from core.basics import Interval
from core.calendars import Shift
from core.orders.links import LinkKind
from core.scheduling.engine import fields as f
from core.scheduling.evaluation.day_walk import Whereabouts, evaluate_day, whereabouts
from core.scheduling.evaluation.evaluate import day_of
from core.scheduling.model.day import Day, Stop, VisitSpec
from core.scheduling.model.limits import Limit
from core.scheduling.model.problem import Problem
from core.scheduling.model.timetable import Timetable

# Starts allowed: earliest start, latest start, latest end.
Window = tuple[int, int, int]


@dataclass(kw_only=True)
class OpenShift:
    """A day of the problem that visits may be put on."""

    index: int
    day: Day
    timetable: Timetable
    begun: Whereabouts | None
    starts: int
    kept: list[Stop]
    loose: list[Stop]
    given_up: frozenset[Limit]  # limits that what is kept breaks already: nothing here can mend them
    home: int  # when what is kept alone is over
    ends: int  # when it is over, with all overtime that is allowed
    called_out: tuple[Interval, ...] = ()  # time on call that is left alone, but for what stands there

    @property
    def blocks(self) -> list[Interval]:
        """When nothing may be worked, in order."""
        absences = () if Limit.ABSENCE in self.given_up else self.day.absences
        return sorted((*absences, *self.called_out))


@dataclass(kw_only=True)
class Task:
    """A visit, or one technician's part of it."""

    visit: VisitSpec
    shift: int | None = None  # where it stands now
    stop: Stop | None = None
    kept: bool = False
    windows: list[Window] = field(default_factory=list)


class Tasks:
    """A problem's open shifts and tasks.

    Attributes
    ----------
    shifts, tasks : by number, as everywhere in the engine.
    of_visit : the tasks of each visit.
    impossible : visits that have no window at all, or no duration, by id with the limit that says so.
    """

    def __init__(self, problem: Problem, *, still: bool) -> None:
        """`still`: what is kept starts exactly as it stands; nothing that comes in pushes it to later."""
        self.problem = problem
        self.still = still
        self.playbook = problem.playbook
        # Time on call is planned only where all that is to be planned is urgent.
        moved = [problem.visits[key] for key in problem.movable if key in problem.visits]
        self._plans_on_call = all(visit.calls_out for visit in (*moved, *problem.backlog))
        self.impossible: dict[int, Limit] = {}
        together = [link for link in problem.links if link.kind is LinkKind.TOGETHER]
        self._partners = {visit_id for link in together for visit_id in (link.first, link.second)}
        self.shifts = self._open_shifts()
        self.tasks = self._make_tasks()
        self.of_visit: dict[int, list[int]] = {}
        for number, task in enumerate(self.tasks):
            self.of_visit.setdefault(task.visit.id, []).append(number)

    def _open_shifts(self) -> list[OpenShift]:
        found = []
        for index in range(len(self.problem.days)):
            day, timetable = day_of(self.problem, self.problem.as_it_stands, index)
            now = self.problem.now_for(day)
            if day.shift is None or (self.problem.now is not None and day.shift.last_end <= self.problem.now):
                continue
            ends = day.shift.last_end if self._plans_on_call else day.shift.ordinary_end
            if ends <= day.shift.hours.start:
                continue
            begun = whereabouts(day, self.problem.travel, now=now)
            starts = begun.free if begun else max(day.shift.hours.start, now or 0)
            ahead = [stop for stop in day.stops if not stop.has_begun]
            out = {times.visit_id for times in timetable.stops if times.ends > ends and ends < day.shift.last_end}
            kept = [stop for stop in ahead if self.is_kept(stop.visit) or stop.visit.id in out]
            held = {stop.visit.id for stop in kept}
            loose = [stop for stop in ahead if stop.visit.id not in held]
            alone = timetable
            if loose:
                staying = replace(day, stops=tuple(stop for stop in day.stops if stop not in loose))
                alone = evaluate_day(staying, self.problem.travel, now=now)
            found.append(
                OpenShift(
                    index=index, day=day, timetable=timetable, begun=begun, starts=starts, kept=kept, loose=loose,
                    given_up=frozenset(broken.limit for broken in alone.broken), home=alone.ends or starts,
                    ends=ends, called_out=_left_alone(day.shift, timetable, ends),
                )
            )  # fmt: skip
        return found

    def is_kept(self, visit: VisitSpec) -> bool:
        """What has no window any more (its promise has passed) stays too: that is for people to settle."""
        return visit.locked or visit.id not in self.problem.movable or not self.windows(visit)

    def _make_tasks(self) -> list[Task]:
        tasks = []
        planned: Counter[int] = Counter()
        for number, shift in enumerate(self.shifts):
            for place, stop in enumerate((*shift.kept, *shift.loose)):
                kept = place < len(shift.kept)
                windows = self._kept_windows(shift, stop) if kept else self.windows(stop.visit)
                tasks.append(Task(visit=stop.visit, shift=number, stop=stop, kept=kept, windows=windows))
                planned[stop.visit.id] += 1
        for visit in self.problem.backlog:
            visit = self.playbook.on_visit(visit)
            windows = self.windows(visit)
            if visit.duration is None:
                self.impossible[visit.id] = Limit.DURATION
            elif not windows:
                self.impossible[visit.id] = Limit.PROMISE
            else:
                tasks += [Task(visit=visit, windows=windows) for _ in range(visit.crew)]
        self._spread_impossible(tasks)
        tasks = [task for task in tasks if task.visit.id not in self.impossible]
        # A crew that is short of somebody may be completed.
        for task in [task for task in tasks if task.stop is not None and not task.kept]:
            missing = task.visit.crew - planned[task.visit.id]
            planned[task.visit.id] += max(0, missing)
            tasks += [Task(visit=task.visit, windows=task.windows) for _ in range(missing)]
        return tasks

    def _spread_impossible(self, tasks: Sequence[Task]) -> None:
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

    def windows(self, visit: VisitSpec) -> list[Window]:
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

    def _kept_windows(self, shift: OpenShift, stop: Stop) -> list[Window]:
        """A kept visit starts when it stands, or later where its own windows and nothing else allow it."""
        times = shift.timetable.stop(stop.visit.id)
        assert times is not None
        really = max(stop.start, times.starts)
        if self.still or stop.visit.locked or stop.visit.crew > 1 or stop.visit.id in self._partners:
            return [(stop.start, really, f.FAR)]  # others rely on its hour
        assert shift.day.shift is not None
        by = f.FAR if stop.visit.calls_out or shift.day.shift.on_call is None else shift.day.shift.ordinary_end
        later = [(max(low, stop.start), min(high, by), min(end, by)) for low, high, end in self.windows(stop.visit)]
        seconds = times.ends - times.starts
        if any(low <= really <= high and really + seconds <= end for low, high, end in later):
            return [window for window in later if window[0] <= window[1]]
        # It breaks a limit as it stands: that is nobody's fault here, and no reason to move it.
        return [(stop.start, really, f.FAR)]


def _left_alone(shift: Shift, timetable: Timetable, ends: int) -> tuple[Interval, ...]:
    """Time on call after `ends`, but for the work that stands there; empty: nothing stands there."""
    if ends >= shift.last_end:
        return ()
    found, at = [], ends
    called_out = [times for times in timetable.stops if times.ends > ends]
    for times in called_out:
        if times.starts > at:
            found.append(Interval(start=at, end=times.starts))
        at = max(at, times.ends)
    return (*found, Interval(start=at, end=max(at, shift.last_end))) if called_out else ()


def _merged(windows: Sequence[Interval]) -> list[Interval]:
    """Overlapping windows as one, so that the first one found is the earliest."""
    merged: list[Interval] = []
    for window in sorted(windows):
        if merged and window.start <= merged[-1].end:
            merged[-1] = Interval(start=merged[-1].start, end=max(merged[-1].end, window.end))
        else:
            merged.append(window)
    return merged
