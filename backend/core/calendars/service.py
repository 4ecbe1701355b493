"""Service calendars: when a contract's clock runs, and deadlines counted on it."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, time, timedelta
from zoneinfo import ZoneInfo

from core.basics import Interval
from core.calendars.zones import epoch, local_day

# A deadline further away than this is a mistake in the calendar, not a long wait.
MOST_DAYS = 3660


@dataclass(frozen=True, kw_only=True)
class Hours:
    """Open hours on one day, by the wall clock. An end at or before the start lies on the next day."""

    start: time
    end: time


@dataclass(frozen=True, kw_only=True)
class ServiceCalendar:
    """When service is given, in one time zone.

    Attributes
    ----------
    week : hours by weekday, Monday first; ignored `around_the_clock`.
    holidays : days without service.
    exceptions : hours of single days, in place of the week's and the holidays'.
    """

    tz: ZoneInfo
    week: tuple[tuple[Hours, ...], ...] = ((),) * 7
    holidays: frozenset[date] = frozenset()
    exceptions: dict[date, tuple[Hours, ...]] = field(default_factory=dict)
    around_the_clock: bool = False

    def __post_init__(self) -> None:
        if len(self.week) != 7:
            raise ValueError("a week has seven days")

    def open_from(self, moment: int) -> Iterator[Interval]:
        """Open stretches from a moment on, in order; the first is cut off at the moment. Without end.

        Raises
        ------
        ValueError
            When nothing is open for years.
        """
        if self.around_the_clock:
            yield Interval(start=moment, end=moment + MOST_DAYS * 86_400)
            return
        day = local_day(moment, self.tz) - timedelta(days=1)  # yesterday's hours may reach into today
        idle, reached = 0, moment
        while idle < MOST_DAYS:
            found = False
            for stretch in self._on(day):
                if stretch.end > reached:
                    # Hours that overlap count once.
                    yield Interval(start=max(stretch.start, reached), end=stretch.end)
                    reached, found = stretch.end, True
            idle = 0 if found else idle + 1
            day += timedelta(days=1)
        raise ValueError("this calendar is never open")

    def within(self, hours: Interval) -> Iterator[Interval]:
        """Open stretches of some hours, in order, cut off at both ends; hours that overlap count once."""
        if self.around_the_clock:
            yield hours
            return
        day, reached = local_day(hours.start, self.tz) - timedelta(days=1), hours.start
        while day <= local_day(hours.end, self.tz):
            for stretch in self._on(day):
                start, end = max(stretch.start, reached), min(stretch.end, hours.end)
                if start < end:
                    yield Interval(start=start, end=end)
                    reached = end
            day += timedelta(days=1)

    def _on(self, day: date) -> list[Interval]:
        hours: tuple[Hours, ...] = () if day in self.holidays else self.week[day.weekday()]
        hours = self.exceptions.get(day, hours)
        stretches = []
        for row in hours:
            ends_on = day if row.end > row.start else day + timedelta(days=1)
            stretches.append(Interval(start=epoch(day, row.start, self.tz), end=epoch(ends_on, row.end, self.tz)))
        return sorted(stretches)


def deadline(calendar: ServiceCalendar, start: int, seconds: int, *, stops: Iterable[Interval] = ()) -> int:
    """The moment at which so many seconds of service time are over.

    Parameters
    ----------
    start
        When the clock starts (epoch seconds); closed hours do not count.
    stops
        Stretches in which the clock stands still, because the customer is waited for.

    Returns
    -------
    int
        Epoch second. Real seconds count, so a night in which the clock is put back is an hour longer.
    """
    if seconds < 0:
        raise ValueError("a deadline lies ahead")
    left, still = seconds, _merged(stops)
    if left == 0:
        return start
    for stretch in calendar.open_from(start):
        for running in _without(stretch, still):
            if running.seconds >= left:
                return running.start + left
            left -= running.seconds
    raise ValueError("this calendar ends before the deadline")


def service_seconds(calendar: ServiceCalendar, start: int, end: int, *, stops: Iterable[Interval] = ()) -> int:
    """Service time between two moments: how much of a deadline is used up."""
    total, still = 0, _merged(stops)
    if end <= start:
        return 0
    for stretch in calendar.open_from(start):
        if stretch.start >= end:
            break
        inside = Interval(start=stretch.start, end=min(stretch.end, end))
        total += sum(running.seconds for running in _without(inside, still))
    return total


def _merged(stretches: Iterable[Interval]) -> list[Interval]:
    merged: list[Interval] = []
    for stretch in sorted(stretches):
        if merged and stretch.start <= merged[-1].end:
            merged[-1] = Interval(start=merged[-1].start, end=max(merged[-1].end, stretch.end))
        else:
            merged.append(stretch)
    return merged


def _without(stretch: Interval, stops: Sequence[Interval]) -> Iterator[Interval]:
    """What is left of a stretch between the stops."""
    at = stretch.start
    for stop in stops:
        if stop.end <= at:
            continue
        if stop.start >= stretch.end:
            break
        if stop.start > at:
            yield Interval(start=at, end=stop.start)
        at = max(at, stop.end)
    if at < stretch.end:
        yield Interval(start=at, end=stretch.end)
