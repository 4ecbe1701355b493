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

    A split shift is one shift with a `gap` between two wall-clock times, in which nobody works. From the end on until
    `on_call_until` somebody is on call; where end and start are the same and they are, the day is on call only.
    """

    weekday: int
    start: time
    end: time
    rest: BreakRule | None = None
    overtime_limit: int = 0
    gap: tuple[time, time] | None = None
    on_call_until: time | None = None

    def __post_init__(self) -> None:
        if not 0 <= self.weekday <= 6:
            raise ValueError("a weekday is 0 (Monday) to 6 (Sunday)")
        if self.overtime_limit < 0:
            raise ValueError("overtime cannot be negative")


@dataclass(frozen=True, kw_only=True)
class Shift:
    """A technician's working time on a day, in epoch seconds.

    `rest` is the window in which a break of `rest_seconds` must lie; `overtime_limit` is how many
    seconds past the end work may go on. In the `gap` of a split shift nobody works. While somebody is `on_call`, after
    the hours, they go out for work of the highest priority only; a day on call only has hours without length.
    """

    hours: Interval
    rest: Interval | None = None
    rest_seconds: int = 0
    overtime_limit: int = 0
    gap: Interval | None = None
    on_call: Interval | None = None

    @property
    def length(self) -> int:
        """Seconds that a full day has: of the hours, or, on call only, of that time."""
        return self.hours.seconds or (self.on_call.seconds if self.on_call is not None else 0)

    @property
    def ordinary_end(self) -> int:
        """Until when work may go on that nobody is called out for."""
        return self.hours.end + self.overtime_limit

    @property
    def last_end(self) -> int:
        """Until when any work may go on."""
        return self.ordinary_end if self.on_call is None else max(self.ordinary_end, self.on_call.end)


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
    on_call = _on_call(day, found, tz)
    if on_call is not None and found.start == found.end:
        return Shift(hours=Interval(start=on_call.start, end=on_call.start), on_call=on_call)
    hours = Interval(start=epoch(day, found.start, tz), end=_at_or_after(day, found.start, found.end, tz))
    gap = None
    if found.gap is not None:
        gap = Interval(
            start=_at_or_after(day, found.start, found.gap[0], tz), end=_at_or_after(day, found.start, found.gap[1], tz)
        )
    if found.rest is None:
        return Shift(hours=hours, overtime_limit=found.overtime_limit, gap=gap, on_call=on_call)
    window = Interval(
        start=_at_or_after(day, found.start, found.rest.earliest, tz),
        end=_at_or_after(day, found.start, found.rest.latest, tz),
    )
    return Shift(
        hours=hours, rest=window, rest_seconds=found.rest.seconds, overtime_limit=found.overtime_limit, gap=gap,
        on_call=on_call,
    )  # fmt: skip


def _on_call(day: date, found: WeeklyShift, tz: ZoneInfo) -> Interval | None:
    """From the end of the hours on; the same time again is a day later."""
    if found.on_call_until is None:
        return None
    starts_on = day if found.end >= found.start else day + timedelta(days=1)
    ends_on = starts_on if found.on_call_until > found.end else starts_on + timedelta(days=1)
    return Interval(start=epoch(starts_on, found.end, tz), end=epoch(ends_on, found.on_call_until, tz))


def week_of_rotation(day: date, begun: date, weeks: int) -> int:
    """Which week of a rotation a day lies in (0: the first). The first one is the week, Monday to Sunday, of the day on
    which the rotation begins."""
    monday, first = (moment - timedelta(days=moment.weekday()) for moment in (day, begun))
    return (monday - first).days // 7 % weeks


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
