"""What parts cost, how many ought to be there, what a count is worth: numbers that can be checked by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.stock import CountedLine, average_after, gtin, needs_second, proposed, sample, total_worth, value, wanted


def test_the_average_moves_with_what_comes_in():
    # 10 at 4.00 and 5 at 7.00 are 15 at 5.00.
    assert average_after(cost=400, held=10, quantity=5, unit_cost=700) == 500
    assert average_after(cost=None, held=10, quantity=5, unit_cost=700) == 700
    assert average_after(cost=400, held=0, quantity=1, unit_cost=700) == 700
    assert average_after(cost=400, held=-3, quantity=1, unit_cost=700) == 700


@given(st.integers(0, 10**6), st.integers(1, 10**4), st.integers(1, 10**4), st.integers(0, 10**6))
def test_an_average_lies_between_what_it_is_made_of(cost, held, quantity, unit_cost):
    found = average_after(cost=cost, held=held, quantity=quantity, unit_cost=unit_cost)
    assert min(cost, unit_cost) <= found <= max(cost, unit_cost)


def test_levels_are_proposed_from_use_and_the_suppliers_days():
    # 365 a year, 4 days: 4 go until it is there; 4 + 1.645 × 2 = 7.3; and 30 for the month after.
    assert vars_of(proposed(used=365, supplier_days=4)) == (8, 38)
    assert vars_of(proposed(used=0, supplier_days=4)) == (0, 0)
    assert vars_of(proposed(used=2, supplier_days=3)) == (1, 2)


def vars_of(threshold):
    return threshold.least, threshold.target


@given(st.integers(0, 5000), st.integers(0, 60))
def test_who_uses_more_or_waits_longer_keeps_no_less(used, days):
    here = proposed(used=used, supplier_days=days)
    assert here.target >= here.least >= 0
    assert proposed(used=used + 10, supplier_days=days).least >= here.least
    assert proposed(used=used, supplier_days=days + 1).least >= here.least


@pytest.mark.parametrize(
    ("on_hand", "coming", "reserved", "expected"),
    [(10, 0, 0, 0), (4, 0, 0, 16), (4, 5, 0, 0), (6, 0, 3, 17), (0, 0, 0, 20), (-2, 0, 0, 22)],
)
def test_what_is_below_its_least_level_is_filled_up_to_the_target(on_hand, coming, reserved, expected):
    assert wanted(on_hand=on_hand, coming=coming, reserved=reserved, least=5, target=20) == expected


def test_without_levels_nothing_is_wanted():
    assert wanted(on_hand=0, coming=0, reserved=9, least=None, target=None) == 0


def line(on_books, found, *, moved=0, cost=100, part=1):
    return CountedLine(part=part, on_books=on_books, moved=moved, found=found, cost=cost)


def test_a_count_goes_on_beside_the_work():
    # Ten on the books, two were taken before they were counted: eight found is right.
    assert line(10, 8, moved=-2).difference == 0
    assert line(10, 7, moved=-2).worth == -100


def test_too_many_here_do_not_make_up_for_too_few_there():
    lines = [line(10, 12), line(10, 8)]
    assert total_worth(lines) == 400
    assert not needs_second(lines, limit=400)
    assert needs_second(lines, limit=399)
    assert needs_second([line(1, 0, cost=None)], limit=10**6)
    assert not needs_second([line(1, 1, cost=None)], limit=0)


def test_a_sample_is_the_same_for_the_same_seed_and_another_for_another():
    parts = list(range(1, 101))
    drawn = sample(parts, size=10, seed="monday")
    assert len(drawn) == 10
    assert drawn == sample(list(reversed(parts)), size=10, seed="monday") == sorted(drawn)
    assert drawn != sample(parts, size=10, seed="tuesday")
    assert sample(parts, size=500, seed="x") == parts


def test_what_lies_there_is_worth_its_costs():
    assert value([(3, 250), (2, None), (-1, 100)]) == 650


def test_a_gtin_is_checked_by_its_last_digit():
    assert gtin(" 4006381-333931 ") == "4006381333931"
    with pytest.raises(ValueError, match="its last digit would have to be 1"):
        gtin("4006381333932")
    for wrong in ("", "12345", "abc", "40063813339310000"):
        with pytest.raises(ValueError, match="8, 12, 13 or 14 digits"):
            gtin(wrong)
