"""The lamp of a promise."""

import pytest

from core.basics import Interval
from core.scheduling import Actual, Aim, Lamp, Limit, Playbook, Setting, StopTimes, evaluate_day, lamp
from core.scheduling.evaluation.safety import Spread, likelihoods
from tests.core.worlds import HOUR, TableTravel, at, day, shift, stop

PROMISE = Interval(start=at(10), end=at(12))


def times(starts):
    return StopTimes(
        visit_id=1, drive_seconds=600, drive_metres=6000, arrives=starts, starts=starts, ends=starts + HOUR
    )


@pytest.mark.parametrize(
    ("starts", "likelihood", "expected"),
    [
        (at(10), 0.99, Lamp.DARK),
        (at(11), 0.89, Lamp.WATCH),
        (at(12), None, Lamp.DARK),
        (at(12, 1), 0.99, Lamp.BROKEN),
        (at(9, 59), 0.99, Lamp.BROKEN),
    ],
)
def test_it_tells_how_likely_the_promise_is_to_be_kept(starts, likelihood, expected):
    """Whether it is broken is the evaluator's word: a minute early or late is."""
    planned = day(promised(1, starts, PROMISE.start, PROMISE.end), shift_=shift(7, 18))
    timetable = evaluate_day(planned, TRAVEL)
    found = lamp(PROMISE, timetable.stop(1), broken=timetable.broken_for(1), likelihood=likelihood)
    assert found is expected


def test_a_promise_that_the_playbook_gives_some_minutes_of_grace_is_kept_within_them():
    lenient = Playbook(name="Lenient", limits={Limit.PROMISE: Setting(number=15)}, aims={Aim.SERVED: 1.0})
    planned = lenient.told(day(promised(1, at(12, 10), PROMISE.start, PROMISE.end), shift_=shift(7, 18)))
    timetable = evaluate_day(planned, TRAVEL)
    assert lamp(PROMISE, timetable.stop(1), broken=timetable.broken_for(1), likelihood=0.99) is Lamp.DARK


def test_a_promise_nobody_is_assigned_to_is_broken():
    assert lamp(PROMISE, None) is Lamp.BROKEN


def test_without_a_promise_it_stays_dark():
    assert lamp(None, None) is Lamp.DARK


def test_once_arrived_in_time_it_stays_dark():
    assert lamp(PROMISE, times(at(11, 55)), arrived=True) is Lamp.DARK


# --- likelihoods ------------------------------------------------------------------------------------

TRAVEL = TableTravel()


def chances(*days, spread=0.2, drive=0.15, seed=1, samples=4000, now=None):
    timetables = [evaluate_day(one, TRAVEL, now=now) for one in days]
    work = {stop.visit.id: spread for one in days for stop in one.stops}
    return likelihoods(days, timetables, spread=Spread(work=work, drive=drive), seed=seed, samples=samples)


def promised(number, start, first, last, **more):
    return stop(number, start, promise=Interval(start=first, end=last), **more)


def test_without_scatter_the_plan_is_what_happens():
    assert chances(day(promised(1, at(9), at(9), at(10))), spread=0, drive=0) == {1: 1.0}
    assert chances(day(promised(1, at(9), at(10), at(11))), spread=0, drive=0) == {1: 0.0}


def test_the_tighter_the_less_likely():
    def second(last):
        return chances(day(stop(1, at(9)), promised(2, at(10, 10), at(10), last)))[2]

    # An hour of work scatters by 12 minutes, so one in two runs past 10:10 and few past 10:40.
    assert second(at(10, 11)) == pytest.approx(0.55, abs=0.1)
    assert second(at(10, 40)) == pytest.approx(0.98, abs=0.03)
    assert second(at(11, 30)) == 1.0


def test_an_early_end_does_not_start_the_next_visit_early():
    found = chances(day(stop(1, at(9)), promised(2, at(12), at(12), at(13))))
    assert found[2] == 1.0


def test_what_has_happened_does_not_scatter():
    arrived = Actual(arrived=at(9, 58))
    planned = day(promised(1, at(10), at(9), at(10), actual=arrived))
    assert chances(planned, now=at(10, 5)) == {1: 1.0}


def test_the_break_takes_its_time():
    rested = shift(rest=True)
    loose = chances(day(stop(1, at(11)), promised(2, at(12, 10), at(12), at(12, 30))))
    with_break = chances(day(stop(1, at(11)), promised(2, at(12, 40), at(12), at(12, 50)), shift_=rested))
    assert loose[2] > 0.9
    assert with_break[2] == pytest.approx(0.78, abs=0.1)


def test_the_same_seed_gives_the_same_likelihoods():
    planned = day(stop(1, at(9)), promised(2, at(10, 10), at(10), at(10, 30)))
    assert chances(planned, seed=3) == chances(planned, seed=3)
    assert chances(planned, seed=3) != chances(planned, seed=4)


def test_no_days_no_likelihoods():
    assert chances() == {}
