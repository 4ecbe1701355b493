"""Driving by the clock: periods of the day, and leaving later never arrives earlier."""

from datetime import UTC, date, datetime, time
from zoneinfo import ZoneInfo

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from core.basics import Place
from core.calendars import epoch
from core.roads import Period, PeriodClock, TravelMatrix
from core.roads.travel import TimedTravel

TZ = ZoneInfo("Atlantic/Azores")
DAY = date(2026, 11, 23)


def travel(*seconds_by_period):
    seconds = np.zeros((5, 2, 2), dtype=np.int32)
    seconds[:, 0, 1] = seconds_by_period
    places = (Place(0, 0), Place(1, 1))
    matrix = TravelMatrix(
        places=places, seconds=seconds, metres=seconds[2] * 10, estimated=np.zeros((2, 2), dtype=bool)
    )
    return TimedTravel.among(matrix.places, matrix, PeriodClock(TZ))


def test_the_periods_of_a_day():
    clock = PeriodClock(TZ)
    seen = {hour: clock.at(epoch(DAY, time(hour), TZ))[0] for hour in (3, 7, 10, 17, 20, 23)}
    assert seen == {
        3: Period.NIGHT,
        7: Period.MORNING_PEAK,
        10: Period.DAY,
        17: Period.EVENING_PEAK,
        20: Period.EVENING,
        23: Period.NIGHT,
    }


def test_a_period_ends_when_the_next_begins():
    assert PeriodClock(TZ).at(epoch(DAY, time(8), TZ))[1] == epoch(DAY, time(9), TZ)


def test_on_the_day_the_clock_changes_the_periods_follow_the_wall():
    spring = date(2027, 3, 28)
    moment = int(datetime(2027, 3, 28, 6, 45, tzinfo=UTC).timestamp())  # 06:45 summer time
    assert PeriodClock(TZ).at(moment) == (Period.MORNING_PEAK, epoch(spring, time(9), TZ))


def test_a_drive_within_one_period_takes_that_period_s_time():
    assert travel(600, 1200, 900, 1200, 600).leg(0, 1, epoch(DAY, time(10), TZ)).seconds == 900


def test_a_drive_into_a_faster_period_goes_on_at_its_pace():
    # From 08:50, 600 of 1200 seconds by 09:00, the other half takes 450 at the day's pace.
    leg = travel(600, 1200, 900, 1200, 600).leg(0, 1, epoch(DAY, time(8, 50), TZ))
    assert leg.seconds == 600 + 450


def test_no_drive_to_where_one_is():
    assert travel(600, 1200, 900, 1200, 600).leg(1, 1, 0).seconds == 0


@settings(max_examples=300)
@given(st.lists(st.integers(60, 9000), min_size=5, max_size=5), st.integers(0, 86_400), st.integers(1, 7200))
def test_leaving_later_never_arrives_earlier(seconds, first, later):
    roads = travel(*seconds)
    start = epoch(DAY, time(), TZ) + first
    early = start + roads.leg(0, 1, start).seconds
    late = start + later + roads.leg(0, 1, start + later).seconds
    assert late >= early
