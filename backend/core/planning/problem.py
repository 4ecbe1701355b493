"""A technician's day as the evaluator sees it. Places are indices into the travel matrix."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from zoneinfo import ZoneInfo

from core.basics import Interval
from core.calendars import Shift


@dataclass(frozen=True, kw_only=True)
class VisitSpec:
    """What a visit asks for.

    Attributes
    ----------
    duration : seconds of work, or None when nobody has estimated it yet.
    needs : least level (1-5) by skill.
    promise : the arrival window the customer was told.
    locked : may not be moved; with `locked_because` in words.
    """

    id: int
    label: str
    place: int
    duration: int | None
    needs: Mapping[str, int] = field(default_factory=dict)
    area: str | None = None
    promise: Interval | None = None
    earliest: int | None = None
    due: int | None = None
    locked: bool = False
    locked_because: str = ""

    def __post_init__(self) -> None:
        if self.duration is not None and self.duration <= 0:
            raise ValueError("a duration is positive, or None while it is unknown")
        if any(not 1 <= level <= 5 for level in self.needs.values()):
            raise ValueError("a skill level is 1 to 5")


@dataclass(frozen=True, kw_only=True)
class Actual:
    """What has really happened at a stop so far, in epoch seconds."""

    departed: int | None = None
    arrived: int | None = None
    finished: int | None = None


@dataclass(frozen=True, kw_only=True)
class Stop:
    """A visit on the day, planned to start at `start` (epoch seconds)."""

    visit: VisitSpec
    start: int
    actual: Actual = Actual()

    @property
    def order(self) -> tuple[int, int]:
        """By what happened where something has, else by what is planned."""
        return (self.actual.arrived or self.actual.departed or self.start, self.visit.id)


@dataclass(frozen=True, kw_only=True)
class TechnicianSpec:
    """Who does the work: level by skill, and the areas worked in (none named: everywhere)."""

    id: int
    name: str
    skills: Mapping[str, int]
    areas: frozenset[str] = frozenset()


@dataclass(frozen=True, kw_only=True)
class Day:
    """One technician's day: what the evaluator turns into a timetable.

    `shift` is None on a day off. `start_place` and `end_place` are where the shift begins and ends.
    """

    technician: TechnicianSpec
    tz: ZoneInfo
    shift: Shift | None
    start_place: int
    end_place: int
    absences: tuple[Interval, ...] = ()
    stops: tuple[Stop, ...] = ()

    def __post_init__(self) -> None:
        object.__setattr__(self, "stops", tuple(sorted(self.stops, key=lambda stop: stop.order)))

    def without(self, visit_id: int) -> "Day":
        return self._with_stops(stop for stop in self.stops if stop.visit.id != visit_id)

    def with_stop(self, new: Stop) -> "Day":
        """The day with this stop, in place of the same visit's earlier one if there is one."""
        return self._with_stops([*(s for s in self.stops if s.visit.id != new.visit.id), new])

    def _with_stops(self, stops: object) -> "Day":
        return Day(
            technician=self.technician,
            tz=self.tz,
            shift=self.shift,
            start_place=self.start_place,
            end_place=self.end_place,
            absences=self.absences,
            stops=tuple(stops),  # type: ignore[arg-type]
        )
