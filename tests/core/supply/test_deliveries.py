"""When what is ordered comes."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.supply import delivery_day

FRIDAY = date(2026, 11, 27)


@pytest.mark.parametrize(
    ("ordered", "days", "holidays", "comes"),
    [
        (FRIDAY, 0, [], FRIDAY),
        (FRIDAY, 1, [], date(2026, 11, 30)),
        (FRIDAY, 4, [date(2026, 12, 1)], date(2026, 12, 2)),
        (FRIDAY, 3, [date(2026, 11, 30), date(2026, 12, 1)], date(2026, 12, 2)),
        (FRIDAY, 5, [date(2026, 12, 1)], date(2026, 12, 2)),
    ],
)
def test_it_comes_on_the_next_day_on_which_goods_are_taken_in(ordered, days, holidays, comes):
    assert delivery_day(ordered, days, holidays=holidays) == comes


@given(st.dates(date(2020, 1, 1), date(2040, 1, 1)), st.integers(0, 60))
def test_it_never_comes_sooner_and_never_on_a_weekend(ordered, days):
    comes = delivery_day(ordered, days)
    assert timedelta(days=days) <= comes - ordered <= timedelta(days=days + 2)
    assert comes.weekday() < 5
