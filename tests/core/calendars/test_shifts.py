"""Shifts from weekly patterns, in a zone whose clock changes."""

from datetime import UTC, date, datetime, time, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.calendars import (
    BreakRule,
    WeeklyShift,
    day_interval,
    epoch,
    local_day,
    local_time,
    shift_on,
    week_of_rotation,
    zone,
)

AZORES = zone("Atlantic/Azores")
SPRING, AUTUMN = date(2027, 3, 28), date(2026, 10, 25)
HOUR = 3600


def pattern(weekday, start, end, **more):
    return WeeklyShift(weekday=weekday, start=start, end=end, **more)


def test_an_ordinary_day():
    rest = BreakRule(earliest=time(11, 30), latest=time(14), seconds=1800)
    shift = shift_on(date(2026, 11, 23), [pattern(0, time(8), time(16), rest=rest, overtime_limit=3600)], AZORES)
    assert shift.hours.start == int(datetime(2026, 11, 23, 9, tzinfo=UTC).timestamp())
    assert shift.hours.seconds == 8 * HOUR
    assert shift.rest.seconds == 2.5 * HOUR
    assert shift.last_end == shift.hours.end + HOUR


def test_a_day_off_has_no_shift():
    assert shift_on(date(2026, 11, 22), [pattern(0, time(8), time(16))], AZORES) is None


def test_a_night_shift_ends_on_the_next_day_with_its_break_after_midnight():
    rest = BreakRule(earliest=time(1), latest=time(3), seconds=1800)
    shift = shift_on(date(2026, 11, 23), [pattern(0, time(22), time(6), rest=rest)], AZORES)
    assert shift.hours.seconds == 8 * HOUR
    assert local_day(shift.rest.start, AZORES) == date(2026, 11, 24)


@pytest.mark.parametrize(("day", "hours"), [(SPRING, 23), (AUTUMN, 25), (date(2026, 11, 23), 24)])
def test_days_on_which_the_clock_changes_are_shorter_or_longer(day, hours):
    assert day_interval(day, AZORES).seconds == hours * HOUR


def test_a_night_shift_over_a_clock_change_keeps_its_wall_clock_times():
    night = [pattern(5, time(22), time(6))]
    saturday_before_autumn, saturday_before_spring = date(2026, 10, 24), date(2027, 3, 27)
    assert shift_on(saturday_before_autumn, night, AZORES).hours.seconds == 9 * HOUR
    assert shift_on(saturday_before_spring, night, AZORES).hours.seconds == 7 * HOUR


def test_a_wall_clock_time_that_comes_twice_means_the_first():
    assert epoch(AUTUMN, time(0, 30), AZORES) == int(datetime(2026, 10, 25, 0, 30, tzinfo=UTC).timestamp())


def test_a_wall_clock_time_that_is_skipped_means_an_hour_later():
    assert local_time(epoch(SPRING, time(0, 30), AZORES), AZORES) == "01:30"


def test_an_unknown_zone_is_said_so():
    with pytest.raises(ValueError, match="no such time zone: Atlantic/Varn"):
        zone("Atlantic/Varn")


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: pattern(7, time(8), time(16)),
        lambda: pattern(0, time(8), time(16), overtime_limit=-1),
        lambda: BreakRule(earliest=time(14), latest=time(11), seconds=60),
        lambda: BreakRule(earliest=time(11), latest=time(14), seconds=0),
    ],
)
def test_impossible_patterns_cannot_exist(wrong):
    with pytest.raises(ValueError):
        wrong()


@given(
    st.dates(date(2000, 1, 1), date(2090, 1, 1)),
    st.sampled_from(["Atlantic/Azores", "Asia/Kolkata", "America/New_York"]),
)
def test_days_follow_each_other_without_gap(day, name):
    tz = zone(name)
    today = day_interval(day, tz)
    assert 22 * HOUR <= today.seconds <= 26 * HOUR
    assert local_day(today.start, tz) == day
    assert local_day(today.end - 1, tz) == day


def test_a_single_day_may_have_another_shift_or_none():
    usual = [WeeklyShift(weekday=0, start=time(8), end=time(16))]
    monday, next_monday = date(2026, 11, 23), date(2026, 11, 30)
    short = WeeklyShift(weekday=0, start=time(10), end=time(12))
    exceptions = {monday: short, next_monday: None}
    tz = zone("Atlantic/Azores")
    assert shift_on(monday, usual, tz, exceptions=exceptions).hours.seconds == 2 * 3600
    assert shift_on(next_monday, usual, tz, exceptions=exceptions) is None
    assert shift_on(date(2026, 12, 7), usual, tz, exceptions=exceptions).hours.seconds == 8 * 3600


def test_on_call_begins_when_the_hours_end_and_lasts_into_the_next_day():
    shift = shift_on(date(2026, 11, 23), [pattern(0, time(8), time(16), on_call_until=time(8))], AZORES)
    assert (shift.hours.seconds, shift.on_call.seconds) == (8 * HOUR, 16 * HOUR)
    assert shift.on_call.start == shift.hours.end == shift.ordinary_end
    assert shift.last_end == epoch(date(2026, 11, 24), time(8), AZORES)


def test_on_call_after_a_late_shift_begins_on_the_next_day():
    shift = shift_on(date(2026, 11, 23), [pattern(0, time(18), time(2), on_call_until=time(6))], AZORES)
    assert shift.on_call.start == epoch(date(2026, 11, 24), time(2), AZORES)
    assert shift.on_call.seconds == 4 * HOUR


def test_a_day_on_call_only_has_no_hours():
    shift = shift_on(date(2026, 11, 28), [pattern(5, time(8), time(8), on_call_until=time(20))], AZORES)
    assert (shift.hours.seconds, shift.on_call.seconds) == (0, 12 * HOUR)


@given(st.dates(date(2020, 1, 1), date(2035, 1, 1)), st.integers(0, 3000), st.integers(1, 8))
def test_a_rotation_begins_with_its_first_week_and_comes_round(begun, later, weeks):
    day = begun + timedelta(days=later)
    number = week_of_rotation(day, begun, weeks)
    assert 0 <= number < weeks
    assert week_of_rotation(begun, begun, weeks) == 0
    assert week_of_rotation(day + timedelta(weeks=weeks), begun, weeks) == number
    assert week_of_rotation(day + timedelta(weeks=1), begun, weeks) == (number + 1) % weeks
