"""Offering a time: windows that can be kept, what the caller wishes, and which window is better, in words.

What can be kept is found by `engine.offering`; here is what is weighed and said about it.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, time
from zoneinfo import ZoneInfo

from core.basics import Interval, minutes_in_words
from core.calendars import day_words, epoch, local_day, local_time
from core.scheduling.judgement.proposal import ProposedChange
from core.scheduling.model.day import Stop

NOON = time(12)
# An hour of driving more is as bad as driving can get; three visits near by are as good as near can get.
WORST_DRIVE, BEST_NEAR = 3600, 3


@dataclass(frozen=True, kw_only=True)
class Wish:
    """What the caller wishes. Nothing said: any time.

    Attributes
    ----------
    not_before, not_after : first and last day that suit.
    weekdays : 0 is Monday; none named: any.
    part : "morning" (arrival begins before noon), "afternoon", or "" for either.
    """

    not_before: date | None = None
    not_after: date | None = None
    weekdays: frozenset[int] = frozenset()
    part: str = ""

    def __post_init__(self) -> None:
        if self.part not in ("", "morning", "afternoon"):
            raise ValueError("a part of the day is morning or afternoon")
        if any(not 0 <= day <= 6 for day in self.weekdays):
            raise ValueError("a weekday is 0 (Monday) to 6")

    def allows(self, window: Interval, tz: ZoneInfo) -> bool:
        day = local_day(window.start, tz)
        if (self.not_before and day < self.not_before) or (self.not_after and day > self.not_after):
            return False
        if self.weekdays and day.weekday() not in self.weekdays:
            return False
        noon = epoch(day, NOON, tz)
        if self.part == "morning":
            return window.start < noon and window.end <= noon + 3600
        return self.part != "afternoon" or window.start >= noon

    def in_words(self) -> str:
        names = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
        parts = [self.part and f"in the {self.part}", ", ".join(names[day] for day in sorted(self.weekdays))]
        parts.append(f"from {day_words(self.not_before, weekday=False)}" if self.not_before else "")
        parts.append(f"until {day_words(self.not_after, weekday=False)}" if self.not_after else "")
        return ", ".join(filter(None, parts)) or "any time"


@dataclass(frozen=True, kw_only=True)
class OfferRules:
    """How windows are weighed, and what is never recommended. Weights are shares of each other; `near_metres` is by
    road."""

    near_metres: int = 2500
    near: int = 30
    driving: int = 30
    soon: int = 20
    rare: int = 10
    load: int = 10
    shown: int = 4
    least: int = 35
    recommend: bool = True
    # Nothing is recommended that begins after it: urgent work cannot wait for a better window.
    respond_by: int | None = None
    # The site lies in none of the company's areas: nobody is known to go there.
    outside: bool = False

    def is_late(self, window: Interval) -> bool:
        """Whether it begins after the moment by which somebody has to respond."""
        return self.respond_by is not None and window.start > self.respond_by


@dataclass(frozen=True, kw_only=True)
class Facts:
    """What is known of the best placement within a window.

    Attributes
    ----------
    near : visits planned or promised within the near distance that day; `near_area` where they are; `near_nobody`
        those of them that were promised and have nobody yet, in words.
    added_drive : seconds.
    days_ahead, horizon : days from today, and days looked at.
    rare_skill : a skill the technician has and the work does not need, that `rare_holders` have that day.
    load : share of that day's shifts (of those who could go) that is taken.
    able : how many technicians could keep the window.
    """

    near: int
    near_area: str | None
    added_drive: int
    days_ahead: int
    horizon: int
    rare_skill: str | None
    rare_holders: int
    load: float
    able: int
    technician: str
    last_hands: bool = False
    near_nobody: tuple[str, ...] = ()


def score(facts: Facts, rules: OfferRules) -> tuple[int, dict[str, int]]:
    """Points of 100, and what each part gives (its weight's share of them)."""
    merits = {
        "near": min(facts.near, BEST_NEAR) / BEST_NEAR,
        "driving": 1 - min(max(facts.added_drive, 0), WORST_DRIVE) / WORST_DRIVE,
        "soon": 1 - min(facts.days_ahead, facts.horizon) / max(1, facts.horizon),
        "rare": 1.0 if facts.rare_skill is None else 1 - 1 / facts.rare_holders,
        "load": 1 - min(1.0, facts.load),
    }
    weights = {name: getattr(rules, name) for name in merits}
    total = sum(weights.values())
    parts = {name: round(100 * weights[name] * merit / total) for name, merit in merits.items()}
    exact = sum(weights[name] * merit for name, merit in merits.items())
    return round(100 * exact / total), parts


def in_words(facts: Facts, rules: OfferRules) -> tuple[str, ...]:
    """Why the window is good or not, the weightiest first."""
    km = f"{rules.near_metres / 1000:g} km"
    reasons = []
    if facts.near:
        where = f", in {facts.near_area}" if facts.near_area else ""
        reasons.append(f"{facts.near} other visit{'s' if facts.near > 1 else ''} within {km} that day{where}")
        if facts.near_nobody:
            reasons.append(f"Near {facts.near_nobody[0]}, nobody yet")
    else:
        reasons.append(f"Nothing else within {km} that day")
    more = facts.added_drive
    reasons.append(f"{minutes_in_words(abs(more))} {'more' if more >= 0 else 'less'} driving for {facts.technician}")
    if facts.last_hands:
        reasons.append(f"{facts.technician} was there last time")
    if facts.able == 1:
        reasons.append(f"Only {facts.technician} could keep it")
    else:
        reasons.append(f"{facts.able} technicians could keep it")
    if facts.rare_skill is not None and facts.rare_holders <= 2:
        others = "nobody else" if facts.rare_holders == 1 else "one other"
        reasons.append(f"Takes time of {facts.technician}, who has {facts.rare_skill} with {others} that day")
    if facts.load >= 0.85:
        reasons.append(f"That day is {facts.load:.0%} full")
    return tuple(reasons)


@dataclass(frozen=True, kw_only=True)
class Offer:
    """A window that can be kept, with the placement that proves it.

    `moves` are changes to placed, unpromised or less pressing work that keeping it would need; none: nothing moves.
    `days` is the proof: what would stand on the days (by index) that keeping it touches, the new visit included.
    """

    window: Interval
    start: int
    technician_ids: tuple[int, ...]
    score: int
    parts: Mapping[str, int]
    reasons: tuple[str, ...]
    recommended: bool = False
    moves: tuple[ProposedChange, ...] = ()
    days: Mapping[int, tuple[Stop, ...]] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class Remedy:
    """What would make a window possible that cannot be kept now."""

    window: Interval
    sentence: str


@dataclass(frozen=True, kw_only=True)
class Offers:
    """Windows best first; and, where there are none, why, and what would help. `looked_at` windows were tried."""

    offers: tuple[Offer, ...]
    looked_at: int
    refusals: tuple[str, ...] = ()
    remedies: tuple[Remedy, ...] = field(default=())


def windows_on(
    days: Sequence[date], spans: Sequence[tuple[time, time]], tz: ZoneInfo, *, now: int, minutes: int | None = None
) -> list[Interval]:
    """The windows offered on these days that have not begun, by time.

    Parameters
    ----------
    spans
        Clock times of the company's windows.
    minutes
        A job type's own length of a promise: windows of that length, one after the other from the first
        span's start to the last one's end.
    """
    if minutes is not None and spans:
        first, last = min(start for start, _ in spans), max(end for _, end in spans)
        made = []
        for day in days:
            start, closes = epoch(day, first, tz), epoch(day, last, tz)
            while start + 60 * minutes <= closes:
                made.append(Interval(start=start, end=start + 60 * minutes))
                start += 60 * minutes
    else:
        made = [Interval(start=epoch(day, start, tz), end=epoch(day, end, tz)) for day in days for start, end in spans]
    return sorted(window for window in made if window.start > now)


def window_in_words(window: Interval, tz: ZoneInfo) -> str:
    day = local_day(window.start, tz)
    return f"{day_words(day)}, {local_time(window.start, tz)}–{local_time(window.end, tz)}"
