"""What each visit of an order brings of the order's worth."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.orders.sequences import shared_worth


@pytest.mark.parametrize(
    ("worth", "seconds", "shares"),
    [
        (None, [3600, 3600], [None, None]),
        (300, [3600], [300]),
        (300, [3600, 7200], [100, 200]),
        (100, [1200, 1200, 1200], [34, 33, 33]),
        (300, [None, 3600], [150, 150]),
        (0, [600, 600], [0, 0]),
    ],
)
def test_shares_go_by_length_and_the_rest_to_the_first(worth, seconds, shares):
    assert shared_worth(worth, seconds) == shares


@given(st.integers(0, 10_000_000), st.lists(st.none() | st.integers(60, 10**6), min_size=1, max_size=12))
def test_nothing_is_lost_and_nothing_owed(worth, seconds):
    shares = shared_worth(worth, seconds)
    assert sum(shares) == worth
    assert len(shares) == len(seconds)
    assert min(shares) >= 0
