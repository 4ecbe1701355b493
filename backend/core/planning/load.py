"""How full a day is: what its timetable takes of the shift."""

from dataclasses import dataclass

from core.planning.problem import Day
from core.planning.timetable import Kind, Timetable


@dataclass(frozen=True, kw_only=True)
class DayLoad:
    """Seconds of a day: the shift (absences taken off), work and driving in it, overtime; and how many visits."""

    shift: int
    work: int
    drive: int
    overtime: int
    visits: int

    @property
    def share(self) -> float:
        """Work and driving as a share of the shift; 1 where there is something to do and no shift."""
        taken = self.work + self.drive
        return taken / self.shift if self.shift else float(taken > 0)


def load_of(day: Day, timetable: Timetable) -> DayLoad:
    """The load of a day that was evaluated."""
    hours = day.shift.hours if day.shift else None
    away = sum(absence.overlap(hours) for absence in day.absences) if hours else 0
    return DayLoad(
        shift=max(0, hours.seconds - away) if hours else 0,
        work=timetable.total(Kind.WORK),
        drive=timetable.total(Kind.DRIVE),
        overtime=timetable.overtime.seconds if timetable.overtime else 0,
        visits=len(timetable.stops),
    )
