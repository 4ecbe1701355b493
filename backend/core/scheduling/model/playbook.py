"""A playbook: which limits hold, and what is worth how much.

A limit that is off, or loosened, is taken out of the visits and days before anything looks at them.
So the evaluator and the engine never ask whether a limit is on, and a limit needs one place only: its
loosening here, next to its rule in `rules` (or `plan_rules`, when it spans several days). What is judged for
a person keeps the visits as they are (`told`): what the playbook does not ask is then noted.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace

from core.basics import Interval, minutes_in_words
from core.scheduling.model.aims import AIMS, Aim
from core.scheduling.model.day import Day, Stop, VisitSpec
from core.scheduling.model.limits import LIMITS, Limit

# "Any overtime": nobody's day goes on longer than this past the end of the shift.
MOST_OVERTIME = 8 * 3600
MOST_WEIGHT = 100.0


@dataclass(frozen=True, kw_only=True)
class Setting:
    """A limit in a playbook: on or off, and its number where it has one (minutes, or a count)."""

    on: bool = True
    number: int | None = None

    def __post_init__(self) -> None:
        if self.number is not None and self.number < 0:
            raise ValueError("a limit's number cannot be negative")


@dataclass(frozen=True, kw_only=True)
class Playbook:
    """Limits that must hold and aims that are weighed.

    A limit that is not named is on without a number, an aim that is not named weighs nothing.

    Raises
    ------
    ValueError
        When a weight is out of range, or a limit is set that cannot be.
    """

    name: str
    limits: Mapping[Limit, Setting] = field(default_factory=dict)
    aims: Mapping[Aim, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for limit, setting in self.limits.items():
            rule = LIMITS[limit]
            if rule.physical and not setting.on:
                raise ValueError(f"“{rule.name}” cannot be switched off")
            if setting.number is not None and not rule.parameter:
                raise ValueError(f"“{rule.name}” takes no number")
        for aim, weight in self.aims.items():
            if not 0 <= weight <= MOST_WEIGHT:
                raise ValueError(f"the weight of “{AIMS[aim].name}” must lie between 0 and {MOST_WEIGHT:.0f}")
        if not any(self.aims.values()):
            raise ValueError("a playbook needs an aim that weighs something")

    def setting(self, limit: Limit) -> Setting:
        return self.limits.get(limit, Setting())

    def weight(self, aim: Aim) -> float:
        return self.aims.get(aim, 0.0)

    def on_visit(self, visit: VisitSpec) -> VisitSpec:
        """The visit with what this playbook does not ask of it taken away."""
        for limit, loosen in _ON_VISITS.items():
            visit = loosen(visit, self.setting(limit))
        return visit

    def on_day(self, day: Day) -> Day:
        """The day, and the visits on it, with what this playbook does not ask taken away."""
        day = self._by_numbers(day)
        if not self.setting(Limit.ABSENCE).on:
            day = replace(day, absences=())
        stops = tuple(self._on_stop(stop) for stop in day.stops)
        return day if stops == day.stops else replace(day, stops=stops)

    def told(self, day: Day) -> Day:
        """The day by this playbook's numbers, with the visits whole: what it does not ask for is noted, not broken."""
        day = self._by_numbers(day)
        stops = tuple(self._with_grace(stop) for stop in day.stops)
        return day if stops == day.stops else replace(day, stops=stops)

    def _by_numbers(self, day: Day) -> Day:
        for limit, loosen in _ON_DAYS.items():
            day = loosen(day, self.setting(limit))
        unasked = frozenset(limit for limit in Limit if not self.setting(limit).on)
        return day if unasked == day.unasked else replace(day, unasked=unasked)

    def told_of(self, visit: VisitSpec) -> VisitSpec:
        """A visit by this playbook's numbers, whole, as `told`."""
        setting = self.setting(Limit.PROMISE)
        return _promise(visit, setting) if setting.on else visit

    def _with_grace(self, stop: Stop) -> Stop:
        visit = self.told_of(stop.visit)
        return stop if visit is stop.visit else replace(stop, visit=visit)

    def _on_stop(self, stop: Stop) -> Stop:
        visit = self.on_visit(stop.visit)
        return stop if visit is stop.visit else replace(stop, visit=visit)


def _promise(visit: VisitSpec, setting: Setting) -> VisitSpec:
    if not setting.on:
        # What was promised is still wanted: being late costs, as for a deadline.
        ends = [window.end + (visit.duration or 0) for window in visit.windows]
        return replace(visit, promise=None, other_windows=(), wanted_by=max(ends, default=None))
    grace = 60 * (setting.number or 0)
    if not grace or visit.promise is None:
        return visit
    return replace(
        visit, promise=_wider(visit.promise, grace), other_windows=tuple(_wider(w, grace) for w in visit.other_windows)
    )


def _wider(window: Interval, grace: int) -> Interval:
    return Interval(start=window.start - grace, end=window.end + grace)


def _overtime(day: Day, setting: Setting) -> Day:
    if day.shift is None:
        return day
    allowed = day.shift.overtime_limit
    if not setting.on:
        allowed = MOST_OVERTIME
    elif setting.number is not None:
        allowed = min(allowed, 60 * setting.number)
    if allowed == day.shift.overtime_limit:
        return day
    return replace(day, shift=replace(day.shift, overtime_limit=allowed))


def _break(day: Day, setting: Setting) -> Day:
    if setting.on or day.shift is None:
        return day
    return replace(day, shift=replace(day.shift, rest=None, rest_seconds=0))


def _long_drive(day: Day, setting: Setting) -> Day:
    most = 60 * setting.number if setting.on and setting.number is not None else None
    return day if most == day.longest_drive else replace(day, longest_drive=most)


def _capacity(day: Day, setting: Setting) -> Day:
    most = [limit for limit in (day.most_visits, setting.number) if limit is not None]
    allowed = min(most, default=None) if setting.on else None
    return day if allowed == day.most_visits else replace(day, most_visits=allowed)


_ON_VISITS: dict[Limit, Callable[[VisitSpec, Setting], VisitSpec]] = {
    Limit.PROMISE: _promise,
    Limit.SKILL: lambda visit, s: visit if s.on else replace(visit, needs={}),
    Limit.CERTIFICATE: lambda visit, s: visit if s.on else replace(visit, certificates=frozenset()),
    Limit.FORBIDDEN: lambda visit, s: visit if s.on else replace(visit, forbidden=frozenset()),
    Limit.REQUIRED: lambda visit, s: visit if s.on else replace(visit, required=frozenset()),
    Limit.PARTS: lambda visit, s: visit if s.on else replace(visit, parts={}),
    Limit.OPENING: lambda visit, s: visit if s.on else replace(visit, opening=()),
    Limit.EARLIEST: lambda visit, s: visit if s.on else replace(visit, earliest=None),
}
_ON_DAYS: dict[Limit, Callable[[Day, Setting], Day]] = {
    Limit.OVERTIME: _overtime,
    Limit.BREAK: _break,
    Limit.CAPACITY: _capacity,
    Limit.LONG_DRIVE: _long_drive,
}


def in_words(limit: Limit, setting: Setting) -> str:
    """What a limit asks under this setting, as a sentence."""
    rule = LIMITS[limit]
    if not setting.on:
        return "Not asked."
    if setting.number is None:
        return rule.words
    amount, of = str(setting.number), "this many"
    if "minutes" in rule.parameter:
        amount, of = minutes_in_words(60 * setting.number), "this many minutes"
    return f"{rule.words.removesuffix('.')}: {rule.parameter.replace(of, amount)}."


_OFF = Setting(on=False)
_COMMON = {
    Aim.SERVED: 1.0,
    Aim.LATENESS: 1.0,
    Aim.DRIVING: 1.0,
    Aim.OVERTIME: 2.0,
    Aim.WAITING: 0.1,
    Aim.SKILL_WASTED: 0.5,
    Aim.PREFERRED: 1.0,
    Aim.SAME_TECHNICIAN: 0.5,
    Aim.AREA_LEFT: 1.0,
    Aim.WISHES: 1.0,
    Aim.DISTURBANCE: 1.0,
}
KEEP_PROMISES = Playbook(
    name="Keep promises",
    limits={Limit.DUE: _OFF, Limit.LONG_DRIVE: _OFF, Limit.CAPACITY: _OFF},
    aims={**_COMMON, Aim.LATENESS: 3.0, Aim.DISTURBANCE: 2.0, Aim.FAIRNESS: 0.1},
)
LEAST_DRIVING = Playbook(
    name="Least driving",
    limits={Limit.DUE: _OFF, Limit.LONG_DRIVE: Setting(number=45), Limit.CAPACITY: _OFF},
    aims={**_COMMON, Aim.DRIVING: 3.0, Aim.DISTANCE: 0.5, Aim.WAITING: 0.0, Aim.SAME_TECHNICIAN: 0.0},
)
MOST_VALUE = Playbook(
    name="Most value",
    limits={Limit.DUE: _OFF, Limit.LONG_DRIVE: _OFF, Limit.CAPACITY: _OFF, Limit.AREA: _OFF},
    aims={**_COMMON, Aim.SERVED: 3.0, Aim.OVERTIME: 0.5, Aim.SKILL_WASTED: 1.0, Aim.DISTURBANCE: 0.5},
)
READY_MADE = (KEEP_PROMISES, LEAST_DRIVING, MOST_VALUE)
