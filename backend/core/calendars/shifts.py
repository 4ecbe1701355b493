"""Shifts: what a weekly pattern means on one day."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, time, timedelta
from zoneinfo import ZoneInfo

from core.basics import Interval
from core.calendars.zones import epoch


@dataclass(frozen=True, kw_only=True)
class BreakRule:
    """A break of `seconds` that begins and ends between two wall-clock times."""

    earliest: time
    latest: time
    seconds: int

    def __post_init__(self) -> None:
        if self.seconds <= 0:
            raise ValueError("a break needs a length")
        if self.latest <= self.earliest:
            raise ValueError("a break's window must end after it begins")


@dataclass(frozen=True, kw_only=True)
class WeeklyShift:
    """Working time on one weekday (0 = Monday). An end at or before the start lies on the next day."""

    weekday: int
    start: time
    end: time
    rest: BreakRule | None = None
    overtime_limit: int = 0

    def __post_init__(self) -> None:
        if not 0 <= self.weekday <= 6:
            raise ValueError("a weekday is 0 (Monday) to 6 (Sunday)")
        if self.overtime_limit < 0:
            raise ValueError("overtime cannot be negative")


@dataclass(frozen=True, kw_only=True)
class Shift:
    """A technician's working time on a day, in epoch seconds.

    `rest` is the window in which a break of `rest_seconds` must lie; `overtime_limit` is how many
    seconds past the end work may go on.
    """

    hours: Interval
    rest: Interval | None = None
    rest_seconds: int = 0
    overtime_limit: int = 0

    @property
    def last_end(self) -> int:
        return self.hours.end + self.overtime_limit


def shift_on(
    day: date,
    patterns: Iterable[WeeklyShift],
    tz: ZoneInfo,
    *,
    exceptions: Mapping[date, WeeklyShift | None] | None = None,
) -> Shift | None:
    """The shift that begins on `day`, or None on a day off.

    On the days the clock changes the wall-clock times hold, so a night shift is an hour shorter or longer.

    Parameters
    ----------
    exceptions
        Single days with another shift than the week's, or with none; the weekday they name does not matter.
    """
    if exceptions is not None and day in exceptions:
        found = exceptions[day]
    else:
        found = next((pattern for pattern in patterns if pattern.weekday == day.weekday()), None)
    if found is None:
        return None
    hours = Interval(start=epoch(day, found.start, tz), end=_at_or_after(day, found.start, found.end, tz))
    if found.rest is None:
        return Shift(hours=hours, overtime_limit=found.overtime_limit)
    window = Interval(
        start=_at_or_after(day, found.start, found.rest.earliest, tz),
        end=_at_or_after(day, found.start, found.rest.latest, tz),
    )
    return Shift(hours=hours, rest=window, rest_seconds=found.rest.seconds, overtime_limit=found.overtime_limit)


def _at_or_after(day: date, start: time, at: time, tz: ZoneInfo) -> int:
    return epoch(day if at > start else day + timedelta(days=1), at, tz)
