"""What there is to plan: visits, technicians' days, links. Places are indices into the travel matrix."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from zoneinfo import ZoneInfo

from core.basics import Interval
from core.calendars import Shift, local_day
from core.scheduling.model.limits import Limit
from core.scheduling.model.reasons import Why


@dataclass(frozen=True, kw_only=True)
class VisitSpec:
    """What a visit asks for.

    Attributes
    ----------
    duration : seconds of work, or None when nobody has estimated it yet.
    durations : seconds by technician, where somebody's differs from `duration` (learned).
    needs : least level (1-5) by skill.
    certificates : names of certificates that must be valid on the day.
    promise : the arrival window the customer was told; `other_windows` would suit the customer as well.
    opening : when the site can be worked at; empty: always.
    earliest, due : work starts no earlier, and ought to end by.
    wanted_by : work ought to end by, and no limit: a promise that a playbook has turned into a wish.
    crew : how many technicians work it together.
    parts : how many of each part it takes from the van.
    required, forbidden, preferred : ids of technicians.
    last_technician : who was there last.
    late_from, overdue : see `overdue_at`.
    priority : 1 (highest) to 5; `value` in the company's currency.
    told : the customer was told when somebody comes.
    locked : may not be moved; `locked_because` says why.
    """

    id: int
    label: str
    place: int
    duration: int | None
    durations: Mapping[int, int] = field(default_factory=dict)
    needs: Mapping[str, int] = field(default_factory=dict)
    certificates: frozenset[str] = frozenset()
    area: str | None = None
    promise: Interval | None = None
    other_windows: tuple[Interval, ...] = ()
    opening: tuple[Interval, ...] = ()
    earliest: int | None = None
    due: int | None = None
    wanted_by: int | None = None
    late_from: int | None = None
    overdue: int = 0
    crew: int = 1
    parts: Mapping[str, int] = field(default_factory=dict)
    required: frozenset[int] = frozenset()
    forbidden: frozenset[int] = frozenset()
    preferred: frozenset[int] = frozenset()
    last_technician: int | None = None
    priority: int = 3
    value: int = 0
    told: bool = False
    locked: bool = False
    locked_because: Why | None = None

    def __post_init__(self) -> None:
        if self.duration is not None and self.duration <= 0:
            raise ValueError("a duration is positive, or None while it is unknown")
        if any(not 1 <= level <= 5 for level in self.needs.values()):
            raise ValueError("a skill level is 1 to 5")
        if not 1 <= self.priority <= 5:
            raise ValueError("a priority is 1 (highest) to 5")
        if self.crew < 1:
            raise ValueError("a crew has at least one member")

    @property
    def calls_out(self) -> bool:
        """Whether somebody on call goes out for it."""
        return self.priority == 1

    def seconds_for(self, technician_id: int) -> int | None:
        """How long this technician is expected to take."""
        return self.durations.get(technician_id, self.duration) if self.duration is not None else None

    @property
    def late_after(self) -> int | None:
        """The moment from which on every second costs."""
        if self.late_from is not None:
            return self.late_from
        return min((moment for moment in (self.due, self.wanted_by) if moment is not None), default=None)

    @property
    def windows(self) -> tuple[Interval, ...]:
        """Arrival windows that keep the promise, by time; empty: nothing was promised."""
        if self.promise is None:
            return self.other_windows
        return tuple(sorted({self.promise, *self.other_windows}))


def overdue_at(visit: VisitSpec, now: int) -> VisitSpec:
    """A visit as it is to be planned once its deadline, or the window it was promised, has passed: it cannot be kept
    any more, so it forbids nothing, and each day that goes by costs."""
    ends = [window.end for window in visit.windows]
    passed = [moment for moment in (visit.due, max(ends, default=None)) if moment is not None and moment < now]
    if not passed:
        return visit
    late = replace(visit, late_from=now, overdue=now - min(passed))
    return replace(late, promise=None, other_windows=()) if ends and max(ends) < now else late


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

    def takes(self, part: str) -> int:
        """How many of a part it will still take from the van: what is finished has taken its own."""
        return self.visit.parts.get(part, 0) if self.actual.finished is None else 0

    @property
    def has_begun(self) -> bool:
        return self.actual.departed is not None or self.actual.arrived is not None or self.actual.finished is not None

    @property
    def order(self) -> tuple[int, int]:
        """By what happened where something has, else by what is planned."""
        return (self.actual.arrived or self.actual.departed or self.start, self.visit.id)


@dataclass(frozen=True, kw_only=True)
class Arrival:
    """So many of a part that are brought or fetched, there from a moment on (epoch seconds)."""

    at: int
    part: str
    quantity: int


@dataclass(frozen=True, kw_only=True)
class Load:
    """Where somebody's parts of a day come from.

    van : what is left on it when the day begins, once others have theirs; below zero where more of it is spoken for.
    depot : where the shift starts; empty: nothing can be taken along from there. `free` is what of it nobody else
        takes.
    arrivals : what is brought or fetched in the course of the day.
    """

    van: Mapping[str, int]
    depot: str = ""
    free: Mapping[str, int] = field(default_factory=dict)
    arrivals: tuple[Arrival, ...] = ()

    def with_other(self, other: "Load") -> "Load":
        """The same with the figures of another for the parts that it names."""
        named = other.van.keys() | other.free.keys()
        return replace(
            self, van={**self.van, **other.van}, free={**self.free, **other.free}, depot=self.depot or other.depot,
            arrivals=(*(row for row in self.arrivals if row.part not in named), *other.arrivals),
        )  # fmt: skip

    def has(self, part: str) -> int:
        """How many of a part there are in the course of the day."""
        return self.by(part, None)

    def by(self, part: str, moment: int | None) -> int:
        """How many there are at a moment; None: at the end."""
        brought = (row.quantity for row in self.arrivals if row.part == part and (moment is None or row.at <= moment))
        return max(0, self.van.get(part, 0) + self.free.get(part, 0) + sum(brought))


@dataclass(frozen=True, kw_only=True)
class TechnicianSpec:
    """Who does the work: level by skill, and the areas worked in (none named: everywhere).

    `certificates`: last second of validity by name. `load`: what parts can be taken from; None: nobody counts the van.
    `likes` and `avoids`: kinds of work, by the names of skills they need, and areas.
    """

    id: int
    name: str
    skills: Mapping[str, int]
    areas: frozenset[str] = frozenset()
    certificates: Mapping[str, int] = field(default_factory=dict)
    load: Load | None = None
    likes: frozenset[str] = frozenset()
    avoids: frozenset[str] = frozenset()


@dataclass(frozen=True, kw_only=True)
class Day:
    """One technician's day: what the evaluator turns into a timetable.

    `shift` is None on a day off. `start_place` and `end_place` are where the shift begins and ends. `longest_drive`:
    at most so many seconds between two visits. `unasked`: limits that the playbook does not ask for; what of them does
    not hold is noted, and is no broken limit.
    """

    technician: TechnicianSpec
    tz: ZoneInfo
    shift: Shift | None
    start_place: int
    end_place: int
    absences: tuple[Interval, ...] = ()
    stops: tuple[Stop, ...] = ()
    most_visits: int | None = None
    longest_drive: int | None = None
    unasked: frozenset[Limit] = frozenset()

    def __post_init__(self) -> None:
        object.__setattr__(self, "stops", tuple(sorted(self.stops, key=lambda stop: stop.order)))

    def without(self, visit_id: int) -> "Day":
        return self._with_stops(stop for stop in self.stops if stop.visit.id != visit_id)

    def with_stop(self, new: Stop) -> "Day":
        """The day with this stop, in place of the same visit's earlier one if there is one."""
        return self._with_stops([*(s for s in self.stops if s.visit.id != new.visit.id), new])

    def _with_stops(self, stops: Iterable[Stop]) -> "Day":
        return replace(self, stops=tuple(stops))

    @property
    def running(self) -> tuple[Stop, ...]:
        """Stops that have begun: the technician is on the way there, or was."""
        return tuple(stop for stop in self.stops if stop.has_begun)


def pressed_by(day: Day, now: int) -> int | None:
    """`now` on the day that is running, else None: plans of past and coming days stay as they are."""
    begins = day.shift.hours.start if day.shift else (day.stops[0].start if day.stops else now)
    if local_day(begins, day.tz) == local_day(now, day.tz):
        return now
    # A night shift runs on past midnight.
    return now if day.shift is not None and begins <= now <= day.shift.last_end else None
