"""The outlook: hours that are still free, against hours promised and hours to be expected, by day and area."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from core.calendars import local_day
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.workload import workload
from core.scheduling.model.day import VisitSpec
from core.scheduling.model.problem import Problem


@dataclass(frozen=True, kw_only=True)
class Outlook:
    """One day in one area, in seconds.

    Attributes
    ----------
    shifts : working time of those who work there (and have the skill), breaks taken off, shared among their areas.
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
        """What can still be sold; negative when more is promised and expected than people have time for."""
        return self.free - self.promised - self.expected


@dataclass(frozen=True, kw_only=True)
class Worker:
    """Somebody who works on a day: seconds of work left of it, of that taken, and the areas it is shared over."""

    technician_id: int
    name: str
    day: date
    areas: tuple[str, ...]
    working: int
    taken: int

    def share(self, area: str) -> tuple[int, int]:
        """Working and taken seconds that count in one area: an equal part, to the second."""
        if area not in self.areas:
            return 0, 0
        return self._part(self.working, area), self._part(self.taken, area)

    def _part(self, seconds: int, area: str) -> int:
        whole, rest = divmod(seconds, len(self.areas))
        return whole + (self.areas.index(area) < rest)


@dataclass(frozen=True, kw_only=True)
class Outlooks:
    """By area and day, and of the whole company by day; areas add up to the company but for work outside of them."""

    areas: Mapping[tuple[str, date], Outlook]
    total: Mapping[date, Outlook]


def outlook(
    problem: Problem, *, areas: Sequence[str], days: Sequence[date], skill: str | None,
    expected: Mapping[tuple[int, str], int],
) -> Outlooks:  # fmt: skip
    """Outlook by area and day.

    Somebody who works in several areas is shared among them in equal parts; who works everywhere, among all.

    Parameters
    ----------
    problem
        Days with what is placed; the backlog holds what was promised without a technician.
    skill
        Only technicians who have it, and work that needs it; None: all.
    expected
        Seconds by weekday (Monday is 0) and area; outside of all areas it is "".
    """
    everybody = workers(problem, areas=areas, skill=skill)
    promised = promised_work(problem, skill)
    found = {}
    for area in areas:
        for day in days:
            shares = [worker.share(area) for worker in everybody if worker.day == day]
            found[area, day] = Outlook(
                shifts=sum(working for working, _taken in shares), placed=sum(taken for _working, taken in shares),
                promised=_seconds(promised.get((area, day), ())), expected=expected.get((day.weekday(), area), 0),
            )  # fmt: skip
    total = {}
    for day in days:
        own = [worker for worker in everybody if worker.day == day]
        total[day] = Outlook(
            shifts=sum(worker.working for worker in own), placed=sum(worker.taken for worker in own),
            promised=sum(_seconds(visits) for (_area, date_), visits in promised.items() if date_ == day),
            expected=sum(seconds for (weekday, _area), seconds in expected.items() if weekday == day.weekday()),
        )  # fmt: skip
    return Outlooks(areas=found, total=total)


def workers(problem: Problem, *, areas: Sequence[str], skill: str | None) -> list[Worker]:
    """Who works on the problem's days (and has the skill), with what is left of each day and what of that is taken."""
    rows = []
    for day in problem.days:
        if day.shift is None or (skill is not None and not day.technician.skills.get(skill)):
            continue
        now = problem.now_for(day)
        used = workload(day, evaluate_day(day, problem.travel, now=now), now=now)
        works_in = [area for area in areas if not day.technician.areas or area in day.technician.areas]
        rows.append(
            Worker(
                technician_id=day.technician.id, name=day.technician.name, working=used.ahead, taken=used.taken,
                day=local_day(day.shift.hours.start, day.tz), areas=tuple(works_in),
            )
        )  # fmt: skip
    return rows


def promised_work(problem: Problem, skill: str | None) -> dict[tuple[str, date], list[VisitSpec]]:
    """What was promised and has no technician, by area ("": outside of all) and day."""
    found: dict[tuple[str, date], list[VisitSpec]] = {}
    for visit in problem.backlog if problem.days else ():
        if visit.promise is not None and _wants(visit, skill):
            key = (visit.area or "", local_day(visit.promise.start, problem.days[0].tz))
            found.setdefault(key, []).append(visit)
    return found


def seconds_of(visit: VisitSpec) -> int:
    """Work that a visit is counted as; an hour while nobody has said how long it takes."""
    return (visit.duration or 3600) * visit.crew


def _seconds(visits: Iterable[VisitSpec]) -> int:
    return sum(seconds_of(visit) for visit in visits)


def _wants(visit: VisitSpec, skill: str | None) -> bool:
    return skill is None or skill in visit.needs
