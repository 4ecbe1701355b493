"""A longer job, shared among days."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.orders.sequences import MOST_DAYS, day_lengths

HOUR = 3600


@pytest.mark.parametrize(
    ("seconds", "days", "wanted"),
    [
        (8 * HOUR, 1, (8 * HOUR,)),
        (8 * HOUR, 2, (4 * HOUR, 4 * HOUR)),
        (10 * HOUR, 3, (12_000, 12_000, 12_000)),
        (7 * HOUR + 60, 2, (12_900, 12_360)),
        (300, 4, (300,)),
        (61, 1, (61,)),
    ],
)
def test_days_are_alike_and_the_last_one_has_the_rest(seconds, days, wanted):
    assert day_lengths(seconds, days) == wanted


@given(seconds=st.integers(60, 14 * 86_400), days=st.integers(1, MOST_DAYS))
def test_no_second_is_lost_and_no_day_is_longer_than_those_before(seconds, days):
    lengths = day_lengths(seconds, days)
    assert sum(lengths) == seconds
    assert 1 <= len(lengths) <= days
    assert list(lengths) == sorted(lengths, reverse=True)
    assert all(length % 300 == 0 for length in lengths[:-1])


@pytest.mark.parametrize("days", [0, -1, MOST_DAYS + 1])
def test_less_than_a_day_or_too_many_is_refused(days):
    with pytest.raises(ValueError, match="over 1 to 10 days"):
        day_lengths(HOUR, days)
