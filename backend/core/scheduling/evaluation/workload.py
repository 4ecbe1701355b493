"""What a day's shift is used for and what is free of it: one answer for lanes, weeks, capacity and gaps."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from core.basics import Interval
from core.scheduling.model.day import Day
from core.scheduling.model.timetable import Kind, Timetable

# Less is not worth filling.
LEAST_GAP = 1800
_BUSY = (Kind.WORK, Kind.DRIVE)


@dataclass(frozen=True, kw_only=True)
class Workload:
    """One technician's day, in seconds.

    Attributes
    ----------
    working : of the shift, without the break and absences.
    work, drive, overtime, visits : of the whole day, also outside the shift.
    ahead, taken : of `working` what lies ahead, and of that what work and driving take.
    free : stretches ahead, within the shift, in which nobody works, drives, rests or is away, by time.
    """

    working: int
    work: int
    drive: int
    overtime: int
    visits: int
    ahead: int
    taken: int
    free: tuple[Interval, ...]

    @property
    def share(self) -> float:
        """Work and driving as a share of what can be worked; 1 where there is something to do and nothing can."""
        used = self.work + self.drive
        return used / self.working if self.working else float(used > 0)

    @property
    def left(self) -> int:
        """What is still free ahead; a break that is still owed is taken off."""
        return self.ahead - self.taken

    @property
    def gaps(self) -> tuple[Interval, ...]:
        """The free stretches that are long enough to be filled."""
        return tuple(stretch for stretch in self.free if stretch.seconds >= LEAST_GAP)


def workload(day: Day, timetable: Timetable, *, now: int | None = None) -> Workload:
    """What a day that was evaluated is used for.

    Parameters
    ----------
    now
        Of a day that is running only what lies ahead is free; None: the day lies ahead.
    """
    used = {
        "work": timetable.total(Kind.WORK), "drive": timetable.total(Kind.DRIVE), "visits": len(timetable.stops),
        "overtime": timetable.overtime.seconds if timetable.overtime else 0,
    }  # fmt: skip
    if day.shift is None:
        return Workload(working=0, ahead=0, taken=0, free=(), **used)
    hours = day.shift.hours
    rest = _of(Kind.BREAK, timetable=timetable)
    begins = hours.start if now is None else min(max(hours.start, now), hours.end)
    ahead = Interval(start=begins, end=hours.end)
    busy = [*_of(*_BUSY, timetable=timetable), *rest, *day.absences]
    return Workload(
        working=_workable(day, hours, rest), ahead=(left := _workable(day, ahead, rest)), free=_between(ahead, busy),
        taken=min(left, sum(row.overlap(ahead) for row in _of(*_BUSY, timetable=timetable))), **used,
    )  # fmt: skip


def _of(*kinds: Kind, timetable: Timetable) -> list[Interval]:
    return [Interval(start=row.start, end=row.end) for row in timetable.stretches if row.kind in kinds]


def _workable(day: Day, hours: Interval, rest: Sequence[Interval]) -> int:
    """What of some hours can be worked. A break that stands nowhere yet is owed until its window is over."""
    assert day.shift is not None
    taken = sum(row.overlap(hours) for row in rest)
    if not rest and day.shift.rest is not None and day.shift.rest.end > hours.start:
        taken = day.shift.rest_seconds
    return max(0, hours.seconds - taken - sum(absence.overlap(hours) for absence in day.absences))


def _between(hours: Interval, busy: Iterable[Interval]) -> tuple[Interval, ...]:
    found, at = [], hours.start
    for row in sorted(busy, key=lambda row: row.start):
        if row.start >= hours.end:
            break
        if row.start > at:
            found.append(Interval(start=at, end=row.start))
        at = max(at, row.end)
    if hours.end > at:
        found.append(Interval(start=at, end=hours.end))
    return tuple(found)
