"""Whether a customer on the standby list would come forward."""

from datetime import timedelta

import pytest

from core.basics import Interval
from core.orders import would_come
from tests.core.worlds import MONDAY, TZ, at

NOW = at(8)


def span(first: int, last: int, **day: object) -> Interval:
    return Interval(start=at(first, **day), end=at(last, **day))


def test_without_conditions_any_time_ahead_will_do():
    assert would_come({}, span(9, 10), now=NOW, tz=TZ)
    assert not would_come({}, span(6, 7), now=NOW, tz=TZ)


@pytest.mark.parametrize(
    ("part", "hours", "comes"),
    [
        ("morning", (9, 11), True),
        ("morning", (11, 14), True),
        ("morning", (12, 14), False),
        ("afternoon", (9, 11), False),
        ("afternoon", (11, 13), True),
        ("afternoon", (13, 15), True),
        ("", (13, 15), True),
    ],
)
def test_a_part_of_the_day_is_kept_to(part, hours, comes):
    assert would_come({"part": part}, span(*hours), now=NOW, tz=TZ) is comes


def test_only_on_the_weekdays_that_suit():
    assert would_come({"weekdays": [0, 3]}, span(9, 10), now=NOW, tz=TZ)
    assert not would_come({"weekdays": [1]}, span(9, 10), now=NOW, tz=TZ)
    assert would_come({"weekdays": []}, span(9, 10), now=NOW, tz=TZ)


def test_not_before_a_day():
    tuesday = MONDAY + timedelta(days=1)
    wanted = {"not_before": tuesday.isoformat()}
    assert not would_come(wanted, span(9, 10), now=NOW, tz=TZ)
    assert would_come(wanted, span(9, 10, day=tuesday), now=NOW, tz=TZ)


def test_the_notice_they_need_counts_to_the_end_of_the_time():
    assert would_come({"notice_minutes": 90}, span(9, 10), now=NOW, tz=TZ)
    assert not would_come({"notice_minutes": 120}, span(9, 10), now=NOW, tz=TZ)
