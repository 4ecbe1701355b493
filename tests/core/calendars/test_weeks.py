"""Whether a week can be worked as it is written."""

from datetime import time

import pytest

from core.calendars import BreakRule, WeeklyShift, problem_of_rotation


def shift(weekday, start, end, **more):
    return WeeklyShift(weekday=weekday, start=time(*start), end=time(*end), **more)


def rest(start, end, minutes):
    return BreakRule(earliest=time(*start), latest=time(*end), seconds=60 * minutes)


@pytest.mark.parametrize(
    "week",
    [
        [],
        [shift(day, (8,), (16,), rest=rest((11, 30), (14,), 30)) for day in range(5)],
        [shift(0, (7,), (19,), gap=(time(11), time(15)))],
        # A night's break and gap lie after midnight.
        [shift(4, (22,), (6,), rest=rest((1,), (3,), 45))],
        [shift(4, (20,), (6,), gap=(time(23), time(1)))],
        # From Sunday night into Monday, which begins when it ends.
        [shift(6, (22,), (6,)), shift(0, (6,), (14,))],
        [shift(2, (0,), (0,))],
        # On call through the night until the next day begins, and on a Saturday alone.
        [shift(0, (8,), (16,), on_call_until=time(8)), shift(1, (8,), (16,))],
        [shift(5, (8,), (8,), on_call_until=time(8)), shift(6, (8,), (8,), on_call_until=time(8))],
    ],
)
def test_a_week_that_can_be_worked(week):
    assert problem_of_rotation([week]) == ""


@pytest.mark.parametrize(
    ("week", "problem"),
    [
        ([shift(1, (8,), (12,)), shift(1, (13,), (17,))], "Tuesday has two shifts: write one, with a gap"),
        ([shift(0, (8,), (16,), gap=(time(7), time(9)))], "Monday: the gap must lie within the shift"),
        ([shift(0, (8,), (16,), gap=(time(12), time(11)))], "Monday: the gap must lie within the shift"),
        (
            [shift(0, (8,), (16,), rest=rest((15,), (17,), 30))],
            "Monday: the time for the break must lie within the shift",
        ),
        (
            [shift(0, (8,), (16,), rest=rest((12,), (12, 20), 30))],
            "Monday: the break is longer than the time it may lie in",
        ),
        ([shift(6, (22,), (7,)), shift(0, (6,), (14,))], "Sunday's shift ends after Monday's has begun"),
        (
            [shift(0, (8,), (16,), on_call_until=time(8)), shift(1, (7,), (16,))],
            "Monday's shift ends after Tuesday's has begun",
        ),
        (
            [shift(0, (8,), (16,), on_call_until=time(9))],
            "Monday: hours and time on call together are longer than a day",
        ),
    ],
)
def test_a_week_that_cannot(week, problem):
    assert problem_of_rotation([week]) == problem


def test_weeks_in_turn_are_told_apart_and_follow_each_other():
    late, early = [shift(6, (22,), (7,))], [shift(0, (6,), (14,))]
    assert problem_of_rotation([late, []]) == ""
    assert problem_of_rotation([late, early]) == "Sunday's shift ends after Monday's has begun"
    assert problem_of_rotation([early, late]) == "Sunday's shift ends after Monday's has begun"
    assert problem_of_rotation([[], [shift(1, (8,), (12,)), shift(1, (13,), (17,))]]) == (
        "Week 2: Tuesday has two shifts: write one, with a gap"
    )
