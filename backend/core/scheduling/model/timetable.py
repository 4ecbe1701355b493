"""The evaluator's answer: what happens when, and which limits that breaks."""

from dataclasses import dataclass
from enum import StrEnum

from core.basics import Interval
from core.scheduling.model.limits import Broken


class Kind(StrEnum):
    DRIVE = "drive"
    WAIT = "wait"
    WORK = "work"
    BREAK = "break"


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """A piece of the day. `visit_id` is whom it serves; None for the break and the way home."""

    kind: Kind
    start: int
    end: int
    visit_id: int | None = None
    metres: int = 0
    estimated: bool = False

    @property
    def seconds(self) -> int:
        return self.end - self.start


@dataclass(frozen=True, kw_only=True)
class StopTimes:
    """When a visit is really expected: arrival, start and end of work, and the drive before it."""

    visit_id: int
    drive_seconds: int
    drive_metres: int
    arrives: int
    starts: int
    ends: int


@dataclass(frozen=True, kw_only=True)
class Timetable:
    """A day in order. Stretches never overlap; they may leave gaps where nothing is to be done.

    `broken` are limits that do not hold; `noted` those that do not hold and that the playbook does not ask for.
    """

    stretches: tuple[Stretch, ...]
    stops: tuple[StopTimes, ...]
    broken: tuple[Broken, ...]
    overtime: Interval | None
    noted: tuple[Broken, ...] = ()

    def total(self, kind: Kind) -> int:
        """Seconds spent on one kind of thing."""
        return sum(stretch.seconds for stretch in self.stretches if stretch.kind is kind)

    @property
    def metres(self) -> int:
        return sum(stretch.metres for stretch in self.stretches)

    @property
    def ends(self) -> int | None:
        return self.stretches[-1].end if self.stretches else None

    def stop(self, visit_id: int) -> StopTimes | None:
        return next((stop for stop in self.stops if stop.visit_id == visit_id), None)

    def broken_for(self, visit_id: int) -> tuple[Broken, ...]:
        return tuple(broken for broken in self.broken if broken.visit_id == visit_id)
