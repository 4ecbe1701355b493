"""Shifts: what a weekly pattern means on one day."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, time, timedelta
from zoneinfo import ZoneInfo

from core.basics import Interval
from core.calendars.zones import epoch, local_day


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
    """Working time on one weekday (0 = Monday). An end at or before the start lies on the next day.

    A split shift is one shift with a `gap` between two wall-clock times, in which nobody works.
    """

    weekday: int
    start: time
    end: time
    rest: BreakRule | None = None
    overtime_limit: int = 0
    gap: tuple[time, time] | None = None

    def __post_init__(self) -> None:
        if not 0 <= self.weekday <= 6:
            raise ValueError("a weekday is 0 (Monday) to 6 (Sunday)")
        if self.overtime_limit < 0:
            raise ValueError("overtime cannot be negative")


@dataclass(frozen=True, kw_only=True)
class Shift:
    """A technician's working time on a day, in epoch seconds.

    `rest` is the window in which a break of `rest_seconds` must lie; `overtime_limit` is how many
    seconds past the end work may go on. In the `gap` of a split shift nobody works.
    """

    hours: Interval
    rest: Interval | None = None
    rest_seconds: int = 0
    overtime_limit: int = 0
    gap: Interval | None = None

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
    gap = None
    if found.gap is not None:
        gap = Interval(
            start=_at_or_after(day, found.start, found.gap[0], tz), end=_at_or_after(day, found.start, found.gap[1], tz)
        )
    if found.rest is None:
        return Shift(hours=hours, overtime_limit=found.overtime_limit, gap=gap)
    window = Interval(
        start=_at_or_after(day, found.start, found.rest.earliest, tz),
        end=_at_or_after(day, found.start, found.rest.latest, tz),
    )
    return Shift(
        hours=hours, rest=window, rest_seconds=found.rest.seconds, overtime_limit=found.overtime_limit, gap=gap
    )


def working_date(moment: int, tz: ZoneInfo, *, shift_before: Shift | None, shift_of_day: Shift | None) -> date:
    """The working day that a moment belongs to: a night belongs to the day it began on.

    Parameters
    ----------
    moment
        Epoch second.
    shift_before, shift_of_day
        The shifts that begin on the date before the moment's own, and on it.
    """
    day = local_day(moment, tz)
    begun = shift_of_day is not None and moment >= shift_of_day.hours.start
    still_runs = shift_before is not None and shift_before.hours.start <= moment < shift_before.last_end
    return day - timedelta(days=1) if still_runs and not begun else day


def _at_or_after(day: date, start: time, at: time, tz: ZoneInfo) -> int:
    return epoch(day if at > start else day + timedelta(days=1), at, tz)
