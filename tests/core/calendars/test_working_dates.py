"""Which working day a moment belongs to: a night belongs to the day it began on, in any zone."""

from datetime import date, time
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.calendars import WeeklyShift, epoch, local_day, shift_on, working_date

ZONES = [ZoneInfo(name) for name in ("Asia/Tokyo", "Atlantic/Azores", "America/Los_Angeles")]
TUESDAY, WEDNESDAY = date(2026, 11, 24), date(2026, 11, 25)
NIGHT = [WeeklyShift(weekday=day, start=time(22), end=time(6), overtime_limit=3600) for day in range(7)]
EARLY = [WeeklyShift(weekday=day, start=time(5), end=time(13)) for day in range(7)]


@pytest.fixture(params=ZONES, ids=str)
def tz(request):
    return request.param


def on(moment, tz, before, today):
    day = local_day(moment, tz)
    yesterday = date.fromordinal(day.toordinal() - 1)
    return working_date(moment, tz, shift_before=shift_on(yesterday, before, tz), shift_of_day=shift_on(day, today, tz))


@pytest.mark.parametrize(
    ("hour", "expected"),
    [(2, TUESDAY), (5, TUESDAY), (6, TUESDAY), (7, WEDNESDAY), (12, WEDNESDAY), (23, WEDNESDAY)],
)
def test_what_is_done_before_the_night_is_over_belongs_to_the_evening_before(tz, hour, expected):
    """22:00 to 06:00 and an hour of overtime."""
    assert on(epoch(WEDNESDAY, time(hour), tz), tz, NIGHT, NIGHT) == expected


def test_the_own_shift_of_a_day_is_its_own_from_its_start_on(tz):
    assert on(epoch(WEDNESDAY, time(4, 59), tz), tz, NIGHT, EARLY) == TUESDAY
    assert on(epoch(WEDNESDAY, time(5), tz), tz, NIGHT, EARLY) == WEDNESDAY


def test_who_works_by_day_has_no_night(tz):
    assert on(epoch(WEDNESDAY, time(2), tz), tz, EARLY, EARLY) == WEDNESDAY
    assert on(epoch(WEDNESDAY, time(2), tz), tz, [], []) == WEDNESDAY


@given(st.sampled_from(ZONES), st.integers(0, 366 * 1440))
def test_every_moment_of_a_shift_belongs_to_the_day_it_began_on(tz, minute):
    """Also on the nights on which the clock changes."""
    moment = epoch(date(2026, 1, 1), time(0), tz) + minute * 60
    day = on(moment, tz, NIGHT, NIGHT)
    shift = shift_on(day, NIGHT, tz)
    in_it = shift.hours.start <= moment < shift.last_end
    by_day = local_day(moment, tz) == day and moment < shift.hours.start
    assert in_it or by_day
