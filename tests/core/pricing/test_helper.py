"""Is the price right?"""

from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.pricing import Category, ItemKind, Known, Line, Taxed, figures, likely, scaled, to_reach

TAX = Taxed(category=Category.STANDARD, percent=Decimal(23))


def labour(hours, price=6_000, **more):
    return Line(
        wording="Fitter", quantity=Decimal(hours), unit_price=price, tax=TAX, unit="HUR", kind=ItemKind.LABOUR, **more
    )


def part(price, **more):
    return Line(wording="Door drive", quantity=Decimal(1), unit_price=price, tax=TAX, kind=ItemKind.PART, **more)


def test_what_a_labour_hour_brings_and_what_is_left():
    # Two people for a quarter of an hour are half a labour-hour.
    lines = [labour("0.5", cost=3_200), part(18_000, cost=11_500), part(900, optional=True, cost=500)]
    found = figures(lines, off=1_000)
    assert (found.revenue, found.hours, found.per_hour) == (20_000, Fraction(1, 2), 40_000)
    assert (found.cost, found.margin, found.percent) == (13_100, 6_900, Fraction(345, 10))


def test_a_fixed_price_knows_the_effort_that_is_in_it():
    fixed = Line(wording="Yearly check", quantity=Decimal(2), unit_price=14_000, tax=TAX, effort=1_500)
    assert figures([fixed]).hours == 3
    assert figures([fixed], hour_cost=3_000).cost == 9_000


def test_what_is_not_known_is_not_guessed():
    found = figures([labour("1"), part(5_000)])
    assert (found.margin, found.percent, found.unknown) == (None, None, 2)
    assert figures([part(5_000, cost=1)]).per_hour is None


@given(st.integers(1, 10**6), st.integers(1, 2_000), st.integers(1, 50_000))
def test_either_way_reaches_what_was_wanted_and_is_the_nearest_that_does(revenue, hundredths, wanted):
    found = figures([labour(str(Decimal(hundredths) / 100), price=0), part(revenue)])
    reached = to_reach(found, wanted)
    assert reached.price >= found.hours * wanted > reached.price - 1
    assert reached.missing == reached.price - revenue
    assert reached.hours * wanted <= revenue < (reached.hours + Fraction(1, 60)) * wanted


def test_a_wish_of_nothing_is_none():
    with pytest.raises(ValueError, match="something"):
        to_reach(figures([]), 0)


@given(st.lists(st.integers(0, 10**6), min_size=1, max_size=9).filter(any), st.integers(0, 10**7))
def test_lines_changed_in_proportion_come_to_the_sum(prices, net):
    parts = scaled(prices, net)
    assert sum(parts) == net
    for part_, price in zip(parts, prices, strict=True):
        assert abs(part_ - Fraction(price * net, sum(prices))) <= len(prices)


def test_finished_work_says_how_likely_an_effort_is_to_suffice():
    known = Known(count=40, mean=5_400, spread=1_800)
    tight, wide = likely(Fraction(1), known), likely(Fraction(3), known)
    assert tight.suffices < 0.2 < 0.95 < wide.suffices
    assert Fraction(3, 2) < tight.hours_at_80 == wide.hours_at_80 < Fraction(5, 2)
    assert likely(tight.hours_at_80, known).suffices == pytest.approx(0.8, abs=0.01)


def test_little_is_said_of_what_is_little_known():
    assert likely(Fraction(1), Known(count=4, mean=3_600, spread=600)) is None
    assert likely(Fraction(1), Known(count=9, mean=3_600, spread=0)).suffices == 1
    assert likely(Fraction(1, 2), Known(count=9, mean=3_600, spread=0)).suffices == 0
