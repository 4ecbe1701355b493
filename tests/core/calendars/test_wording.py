"""Days and times as the company says them."""

from datetime import UTC, date, datetime, time

import pytest

from core.basics import Interval
from core.calendars import Style, day_words, local_time, time_words, use, window_words, zone

TZ = zone("Atlantic/Azores")
DAY = date(2026, 11, 3)


@pytest.fixture(autouse=True)
def _usual_again():
    yield
    use(Style())


def moment(hour: int, minute: int = 0) -> int:
    return int(datetime(2026, 11, 3, hour, minute, tzinfo=UTC).timestamp())


def test_usually_a_day_has_twenty_four_hours_and_comes_before_its_month():
    assert [time_words(time(hour, 5)) for hour in (0, 9, 12, 23)] == ["00:05", "09:05", "12:05", "23:05"]
    assert day_words(DAY) == "Tue 3 Nov"
    assert day_words(DAY, weekday=False, year=True) == "3 Nov 2026"
    assert window_words(Interval(start=moment(11), end=moment(13)), TZ) == "Tue 3 Nov 10:00–12:00"


def test_a_clock_of_twelve_hours_tells_midnight_from_noon():
    use(Style(twelve_hours=True))
    said = [time_words(time(hour, 5)) for hour in (0, 9, 12, 23)]
    assert said == ["12:05 am", "9:05 am", "12:05 pm", "11:05 pm"]
    assert local_time(moment(15), TZ) == "2:00 pm"


def test_the_month_may_come_first():
    use(Style(month_first=True))
    assert day_words(DAY) == "Tue Nov 3"
    assert day_words(DAY, weekday=False, year=True) == "Nov 3, 2026"
