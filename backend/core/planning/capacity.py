"""The outlook: hours that are still free, against hours promised and hours to be expected, by day and area."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from core.basics import Interval
from core.calendars import local_day
from core.planning.day_walk import evaluate_day
from core.planning.plan import Problem
from core.planning.problem import VisitSpec
from core.planning.timetable import Kind


@dataclass(frozen=True, kw_only=True)
class Outlook:
    """One day in one area, in seconds.

    Attributes
    ----------
    shifts : working time of those who work there (and have the skill), breaks taken off.
    placed : of that, work and driving that stands on their days.
    promised : work that was promised for that day there and has no technician.
    expected : work that comes in at short notice on such a day, by experience.
    """

    shifts: int = 0
    placed: int = 0
    promised: int = 0
    expected: int = 0

    @property
    def free(self) -> int:
        return max(0, self.shifts - self.placed)

    @property
    def left(self) -> int:
        """What can still be sold; negative when more is promised and expected than there are hands."""
        return self.free - self.promised - self.expected


def outlook(
    problem: Problem, *, areas: Sequence[str], days: Sequence[date], skill: str | None,
    expected: Mapping[tuple[int, str], int],
) -> dict[tuple[str, date], Outlook]:  # fmt: skip
    """Outlook by area and day.

    A technician counts in every area worked in: the hours of areas overlap, and are not to be added up.

    Parameters
    ----------
    problem
        Days with what is placed; the backlog holds what was promised without a technician.
    skill
        Only technicians who have it, and work that needs it; None: all.
    expected
        Seconds by weekday (Monday is 0) and area.
    """
    free = _by_technician(problem, skill)
    promised = _promised(problem, skill)
    found = {}
    for area in areas:
        for day in days:
            own = [row for (date_, works_in, row) in free if date_ == day and (not works_in or area in works_in)]
            found[area, day] = Outlook(
                shifts=sum(shifts for shifts, _placed in own), placed=sum(placed for _shifts, placed in own),
                promised=promised.get((area, day), 0), expected=expected.get((day.weekday(), area), 0),
            )  # fmt: skip
    return found


def _by_technician(problem: Problem, skill: str | None) -> list[tuple[date, Collection[str], tuple[int, int]]]:
    rows: list[tuple[date, Collection[str], tuple[int, int]]] = []
    for day in problem.days:
        if day.shift is None or (skill is not None and not day.technician.skills.get(skill)):
            continue
        timetable = evaluate_day(day, problem.travel, now=problem.now_for(day))
        now = problem.now_for(day)
        # Of a day that is running only what lies ahead can be sold.
        hours = day.shift.hours
        if now is not None:
            hours = Interval(start=min(max(hours.start, now), hours.end), end=hours.end)
        rest = day.shift.rest_seconds if day.shift.rest is not None and day.shift.rest.end > hours.start else 0
        away = sum(absence.overlap(hours) for absence in day.absences)
        working = max(0, hours.seconds - rest - away)
        ahead = (
            Interval(start=stretch.start, end=stretch.end).overlap(hours)
            for stretch in timetable.stretches
            if stretch.kind in (Kind.WORK, Kind.DRIVE)
        )
        taken = min(working, sum(ahead))
        date_ = local_day(day.shift.hours.start, day.tz)
        rows.append((date_, day.technician.areas, (working, taken)))
    return rows


def _promised(problem: Problem, skill: str | None) -> dict[tuple[str, date], int]:
    found: dict[tuple[str, date], int] = {}
    for visit in problem.backlog if problem.days else ():
        if visit.promise is not None and visit.area is not None and _wants(visit, skill):
            key = (visit.area, local_day(visit.promise.start, problem.days[0].tz))
            found[key] = found.get(key, 0) + (visit.duration or 3600) * visit.crew
    return found


def _wants(visit: VisitSpec, skill: str | None) -> bool:
    return skill is None or skill in visit.needs
