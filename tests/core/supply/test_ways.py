"""What a way costs, and which of several comes first."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.supply import Rates, Way, WayKind, ranked

RATES = Rates(hour=Decimal(6000), kilometre=Decimal(40))


def way(kind=WayKind.DEPOT, key="", **more):
    return Way(kind=kind, key=key or kind.value, part="contactor", quantity=1, words="", **more)


@pytest.mark.parametrize(
    ("seconds", "metres", "cost"),
    [(0, 0, 0), (3600, 0, 6000), (0, 1000, 40), (540, 4500, 900 + 180), (-540, -4500, -900 - 180), (1, 0, 2)],
)
def test_more_of_a_day_costs_time_and_distance_and_less_is_worth_as_much(seconds, metres, cost):
    assert RATES.of(seconds, metres) == cost


def test_what_is_in_time_comes_before_what_is_cheap():
    late, dear = way(key="late", money=0, in_time=False), way(key="dear", money=9000)
    assert ranked([late, dear]) == [dear, late]


def test_of_those_in_time_the_cheapest_comes_first_and_of_those_too_late_as_well():
    given_ways = [way(key=key, money=money, in_time=fits) for key, money, fits in
                  [("a", 300, False), ("b", 500, True), ("c", 200, False), ("d", 100, True)]]  # fmt: skip
    assert [each.key for each in ranked(given_ways)] == ["d", "b", "c", "a"]


def test_of_equal_cost_what_disturbs_least_comes_first():
    assert [each.kind for each in ranked(way(kind) for kind in WayKind)] == [
        WayKind.SUBSTITUTE, WayKind.DEPOT, WayKind.COLLEAGUE, WayKind.GIVE, WayKind.SUPPLIER,
    ]  # fmt: skip


WAYS = st.builds(
    way,
    st.sampled_from(WayKind),
    key=st.text("abc", min_size=1, max_size=3),
    money=st.integers(-500, 500),
    in_time=st.booleans(),
)


@given(
    st.lists(WAYS, unique_by=lambda each: each.key).flatmap(
        lambda ways: st.tuples(st.just(ways), st.permutations(ways))
    )
)
def test_the_order_does_not_hang_on_the_order_they_were_found_in(found):
    first, second = found
    assert ranked(first) == ranked(second)
    assert sorted(each.key for each in ranked(first)) == sorted(each.key for each in first)
