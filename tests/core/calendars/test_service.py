"""Service calendars and deadlines, counted by hand."""

from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.basics import Interval
from core.calendars import Hours, ServiceCalendar, deadline, epoch, service_seconds, zone

AZORES = zone("Atlantic/Azores")
HOUR = 3600
OFFICE = (Hours(start=time(8), end=time(17)),)
WEEKDAYS = (OFFICE,) * 5 + ((), ())
FRIDAY, SATURDAY, MONDAY = date(2026, 11, 20), date(2026, 11, 21), date(2026, 11, 23)


def calendar(**more):
    return ServiceCalendar(**({"tz": AZORES, "week": WEEKDAYS} | more))


def at(day, hour, minute=0, tz=AZORES):
    return epoch(day, time(hour, minute), tz)


def test_within_one_day():
    assert deadline(calendar(), at(FRIDAY, 9), 4 * HOUR) == at(FRIDAY, 13)


def test_what_is_left_goes_on_after_the_weekend():
    assert deadline(calendar(), at(FRIDAY, 15), 4 * HOUR) == at(MONDAY, 10)


def test_a_call_at_night_starts_to_count_in_the_morning():
    assert deadline(calendar(), at(SATURDAY, 22), HOUR) == at(MONDAY, 9)


def test_holidays_do_not_count_and_exceptions_do():
    tuesday = MONDAY + timedelta(days=1)
    closed = calendar(holidays=frozenset({MONDAY}))
    assert deadline(closed, at(FRIDAY, 16), 2 * HOUR) == at(tuesday, 9)
    opened = calendar(exceptions={SATURDAY: (Hours(start=time(10), end=time(12)),)})
    assert deadline(opened, at(FRIDAY, 16), 2 * HOUR) == at(SATURDAY, 11)


def test_around_the_clock_counts_every_second():
    assert deadline(calendar(around_the_clock=True), at(SATURDAY, 3), 45 * 60) == at(SATURDAY, 3, 45)


def test_the_clock_stands_still_while_the_customer_is_waited_for():
    waiting = [Interval(start=at(FRIDAY, 10), end=at(FRIDAY, 12)), Interval(start=at(FRIDAY, 11), end=at(FRIDAY, 13))]
    assert deadline(calendar(), at(FRIDAY, 9), 2 * HOUR, stops=waiting) == at(FRIDAY, 14)


def test_a_night_shift_reaches_into_the_next_day():
    nights = (Hours(start=time(22), end=time(6)),)
    night = calendar(week=(nights,) * 7)
    assert deadline(night, at(FRIDAY, 2), 5 * HOUR) == at(FRIDAY, 23)


@pytest.mark.parametrize(
    ("zone_name", "day", "hours"),
    [
        ("Atlantic/Azores", date(2026, 3, 28), 7),  # put forward: the night is an hour shorter
        ("Atlantic/Azores", date(2026, 10, 24), 9),  # put back: an hour longer
        ("America/New_York", date(2026, 3, 7), 7),
        ("Australia/Lord_Howe", date(2026, 10, 3), 7.5),  # half an hour
        ("Asia/Kathmandu", date(2026, 3, 28), 8),  # never
    ],
)
def test_the_nights_the_clock_changes_are_as_long_as_they_are(zone_name, day, hours):
    tz = zone(zone_name)
    night = ServiceCalendar(tz=tz, week=((Hours(start=time(22), end=time(6)),),) * 7)
    start, end = at(day, 22, tz=tz), at(day + timedelta(days=1), 6, tz=tz)
    assert service_seconds(night, start, end) == hours * HOUR
    assert deadline(night, start, int(hours * HOUR)) == end


def test_a_calendar_that_is_never_open_says_so():
    with pytest.raises(ValueError, match="never open"):
        deadline(calendar(week=((),) * 7), at(FRIDAY, 9), HOUR)


def test_a_deadline_lies_ahead():
    with pytest.raises(ValueError):
        deadline(calendar(), at(FRIDAY, 9), -1)


MOMENTS = st.integers(at(date(2026, 3, 20), 0), at(date(2026, 11, 20), 0))
ZONES = st.sampled_from(["Atlantic/Azores", "Europe/London", "America/Chicago", "Pacific/Auckland", "UTC"])


@given(MOMENTS, st.integers(0, 100 * HOUR), ZONES, st.lists(st.tuples(MOMENTS, st.integers(0, 40 * HOUR)), max_size=3))
@settings(max_examples=300)
def test_the_service_time_up_to_a_deadline_is_what_was_asked_for(start, seconds, zone_name, waits):
    tz = ZoneInfo(zone_name)
    own = ServiceCalendar(tz=tz, week=WEEKDAYS, holidays=frozenset({datetime.fromtimestamp(start, tz).date()}))
    stops = [Interval(start=begin, end=begin + length) for begin, length in waits]
    end = deadline(own, start, seconds, stops=stops)
    assert service_seconds(own, start, end, stops=stops) == seconds
