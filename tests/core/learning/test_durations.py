"""Learned durations: drawn towards the mean of the kind, the more the less is known."""

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.learning import learn

MINUTE = 60


def test_too_few_say_nothing():
    assert learn([(1, 3600)] * 4) is None


def test_everybody_alike_is_the_mean_of_all():
    found = learn([(who, minutes * MINUTE) for who in (1, 2, 3) for minutes in (50, 60, 70)])
    assert found.mean == 60 * MINUTE
    assert found.count == 9
    assert all(own.seconds == 60 * MINUTE and own.count == 3 for own in found.own.values())
    assert found.for_duration(90 * MINUTE) == {}


def test_the_estimate_by_hand():
    # Means 40 and 80 minutes from three visits each, which scatter by 7.
    samples = [(1, 33), (1, 47), (2, 73), (2, 87), (1, 40), (2, 80)]
    found = learn([(who, minutes * MINUTE) for who, minutes in samples])
    within = (49 * 4) / 4  # minutes squared, freedom 6 - 2
    between = (3 * 400 * 2 / 1 - within) / 3
    weight = 3 / (3 + within / between)
    assert found.own[1].seconds / MINUTE == pytest.approx(60 - weight * 20)
    assert found.own[2].seconds / MINUTE == pytest.approx(60 + weight * 20)
    assert found.spread / MINUTE == pytest.approx(within**0.5)


def test_one_lucky_visit_counts_for_little():
    dice = random.Random(1)
    usual = [(who, round(dice.gauss(60, 12) * MINUTE)) for who in (1, 2, 3, 4) for _ in range(40)]
    found = learn([*usual, (5, 20 * MINUTE)])
    assert found.own[5].seconds > 50 * MINUTE
    assert found.own[5].count == 1


def test_a_visit_of_another_length_takes_each_their_own_share_of_it():
    samples = [(1, m * MINUTE) for m in (44, 45, 46)] + [(2, m * MINUTE) for m in (74, 75, 76)]
    assert learn(samples).for_duration(120 * MINUTE) == {1: 90 * MINUTE, 2: 150 * MINUTE}


@given(st.lists(st.tuples(st.integers(1, 4), st.integers(60, 20_000)), min_size=5, max_size=60))
def test_estimates_lie_between_the_own_mean_and_the_mean_of_all(samples):
    found = learn(samples)
    for who, own in found.own.items():
        values = [seconds for technician, seconds in samples if technician == who]
        mean = sum(values) / len(values)
        low, high = sorted((mean, found.mean))
        assert low - 1e-6 <= own.seconds <= high + 1e-6
        assert own.count == len(values)
