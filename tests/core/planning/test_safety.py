"""The lamp of a promise."""

import pytest

from core.basics import Interval
from core.planning import Lamp, StopTimes, lamp
from tests.core.worlds import HOUR, at

PROMISE = Interval(start=at(10), end=at(12))


def times(starts):
    return StopTimes(
        visit_id=1, drive_seconds=600, drive_metres=6000, arrives=starts, starts=starts, ends=starts + HOUR
    )


@pytest.mark.parametrize(
    ("starts", "expected"),
    [
        (at(10), Lamp.DARK),
        (at(11, 40), Lamp.DARK),
        (at(11, 41), Lamp.WATCH),
        (at(12), Lamp.WATCH),
        (at(12, 1), Lamp.BROKEN),
        (at(9, 59), Lamp.BROKEN),
    ],
)
def test_it_tells_how_much_room_is_left(starts, expected):
    assert lamp(PROMISE, times(starts)) is expected


def test_a_promise_nobody_is_assigned_to_is_broken():
    assert lamp(PROMISE, None) is Lamp.BROKEN


def test_without_a_promise_it_stays_dark():
    assert lamp(None, None) is Lamp.DARK


def test_once_arrived_in_time_it_stays_dark():
    assert lamp(PROMISE, times(at(11, 55)), arrived=True) is Lamp.DARK
