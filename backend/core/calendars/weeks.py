"""Whether the shifts of a week can be worked as they are written."""

from collections.abc import Sequence
from datetime import time

from core.calendars.shifts import WeeklyShift

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
DAY_MINUTES = 24 * 60


def problem_of_week(shifts: Sequence[WeeklyShift]) -> str:
    """What is wrong with a week, in words; empty: nothing is."""
    days = [shift.weekday for shift in shifts]
    for weekday in days:
        if days.count(weekday) > 1:
            return f"{WEEKDAYS[weekday]} has two shifts: write one, with a gap"
    for shift in shifts:
        if problem := _problem_of_shift(shift):
            return f"{WEEKDAYS[shift.weekday]}: {problem}"
    return _overlap(shifts)


def _problem_of_shift(shift: WeeklyShift) -> str:
    begin, length = _minutes(shift.start), _length(shift)
    if shift.gap is not None:
        gap = [_after(begin, moment) for moment in shift.gap]
        if not 0 < gap[0] < gap[1] < length:
            return "the gap must lie within the shift"
    if shift.rest is not None:
        window = [_after(begin, moment) for moment in (shift.rest.earliest, shift.rest.latest)]
        if not 0 <= window[0] < window[1] <= length:
            return "the time for the break must lie within the shift"
        if window[1] - window[0] < shift.rest.seconds // 60:
            return "the break is longer than the time it may lie in"
    return ""


def _overlap(shifts: Sequence[WeeklyShift]) -> str:
    """A shift that runs past midnight ends before the next day's begins."""
    by_day = {shift.weekday: shift for shift in shifts}
    for shift in shifts:
        following = by_day.get((shift.weekday + 1) % 7)
        over = _minutes(shift.start) + _length(shift) - DAY_MINUTES
        if following is not None and over > _minutes(following.start):
            return f"{WEEKDAYS[shift.weekday]}'s shift ends after {WEEKDAYS[following.weekday]}'s has begun"
    return ""


def _minutes(moment: time) -> int:
    return 60 * moment.hour + moment.minute


def _length(shift: WeeklyShift) -> int:
    """Minutes from start to end; the same time twice is a whole day."""
    return (_minutes(shift.end) - _minutes(shift.start)) % DAY_MINUTES or DAY_MINUTES


def _after(begin: int, moment: time) -> int:
    """Minutes from the beginning of a shift to a wall-clock time."""
    return (_minutes(moment) - begin) % DAY_MINUTES
