"""Whether the shifts of a week, or of several that follow each other in turn, can be worked as they are written."""

from collections.abc import Sequence
from datetime import time

from core.calendars.shifts import WeeklyShift

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
DAY_MINUTES = 24 * 60


def problem_of_rotation(weeks: Sequence[Sequence[WeeklyShift]]) -> str:
    """What is wrong with weeks that follow each other and begin anew after the last, in words; empty: nothing is."""
    for number, week in enumerate(weeks):
        if problem := _problem_of_week(week):
            return problem if len(weeks) == 1 else f"Week {number + 1}: {problem}"
    return _overlap(weeks)


def _problem_of_week(shifts: Sequence[WeeklyShift]) -> str:
    days = [shift.weekday for shift in shifts]
    for weekday in days:
        if days.count(weekday) > 1:
            return f"{WEEKDAYS[weekday]} has two shifts: write one, with a gap"
    for shift in shifts:
        if problem := _problem_of_shift(shift):
            return f"{WEEKDAYS[shift.weekday]}: {problem}"
    return ""


def _problem_of_shift(shift: WeeklyShift) -> str:
    begin, length = _minutes(shift.start), _length(shift)
    if length + _on_call_length(shift) > DAY_MINUTES:
        return "hours and time on call together are longer than a day"
    if shift.gap is not None:
        gap = [_after(begin, moment) for moment in shift.gap]
        if not 0 < gap[0] < gap[1] < length:
            return "the gap must lie within the shift"
    if shift.rest is not None and length:
        window = [_after(begin, moment) for moment in (shift.rest.earliest, shift.rest.latest)]
        if not 0 <= window[0] < window[1] <= length:
            return "the time for the break must lie within the shift"
        if window[1] - window[0] < shift.rest.seconds // 60:
            return "the break is longer than the time it may lie in"
    return ""


def _overlap(weeks: Sequence[Sequence[WeeklyShift]]) -> str:
    """A shift that runs past midnight ends before the next day's begins."""
    days = [{shift.weekday: shift for shift in week} for week in weeks]
    for number, week in enumerate(days):
        for weekday, shift in week.items():
            following_week = week if weekday < 6 else days[(number + 1) % len(days)]
            following = following_week.get((weekday + 1) % 7)
            over = _minutes(shift.start) + _length(shift) + _on_call_length(shift) - DAY_MINUTES
            if following is not None and over > _minutes(following.start):
                return f"{WEEKDAYS[weekday]}'s shift ends after {WEEKDAYS[following.weekday]}'s has begun"
    return ""


def _minutes(moment: time) -> int:
    return 60 * moment.hour + moment.minute


def _length(shift: WeeklyShift) -> int:
    """Minutes from start to end; the same time twice is a whole day, or, with time on call, no hours at all."""
    whole = 0 if shift.on_call_until is not None else DAY_MINUTES
    return (_minutes(shift.end) - _minutes(shift.start)) % DAY_MINUTES or whole


def _on_call_length(shift: WeeklyShift) -> int:
    """Minutes on call after the hours."""
    if shift.on_call_until is None:
        return 0
    return (_minutes(shift.on_call_until) - _minutes(shift.end)) % DAY_MINUTES or DAY_MINUTES


def _after(begin: int, moment: time) -> int:
    """Minutes from the beginning of a shift to a wall-clock time."""
    return (_minutes(moment) - begin) % DAY_MINUTES
