"""When what is told later has happened."""

from hypothesis import given
from hypothesis import strategies as st

from core.field import Told, is_late, placed_in_time

moments = st.integers(0, 2_000_000)


def test_what_the_phone_says_is_taken_as_it_is():
    assert placed_in_time(500, after=400, now=900) == Told(at=500, moved=False)


def test_nothing_happens_in_the_future_or_before_what_came_before():
    assert placed_in_time(9_000, after=None, now=900) == Told(at=900, moved=True)
    assert placed_in_time(100, after=400, now=900) == Told(at=400, moved=True)


@given(said=moments, after=st.none() | moments, now=moments)
def test_it_is_never_later_than_now_and_never_out_of_order_unless_what_came_before_is_still_to_come(said, after, now):
    told = placed_in_time(said, after=after, now=now)
    assert told.at <= now
    assert after is None or told.at >= min(after, now)
    assert told.moved == (told.at != said)


def test_ten_minutes_are_no_delay():
    assert not is_late(1_000, 1_600)
    assert is_late(1_000, 1_601)
