"""Rounding, sharing, and amounts as people type them."""

from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.pricing import (
    Category,
    Discount,
    Line,
    Taxed,
    amount_of,
    digits_of,
    exact_quantity,
    plain_text,
    rounded,
    share,
)

AMOUNTS = st.integers(-(10**9), 10**9)


@pytest.mark.parametrize(
    ("exact", "whole"),
    [
        (Decimal("0.5"), 1), (Decimal("1.5"), 2), (Decimal("2.5"), 3), (Decimal("0.4999"), 0), (Fraction(7, 2), 4),
        (Decimal("-0.5"), -1), (Decimal("-2.5"), -3), (Fraction(-1, 3), 0), (7, 7),
    ],
)  # fmt: skip
def test_a_half_goes_away_from_nothing(exact, whole):
    assert rounded(exact) == whole


@given(st.fractions())
def test_a_credit_mirrors_its_invoice(exact):
    assert rounded(-exact) == -rounded(exact)
    assert abs(rounded(exact) - exact) <= Fraction(1, 2)


@given(AMOUNTS, st.lists(st.integers(0, 10**7), min_size=1, max_size=12))
def test_shares_add_up_and_each_is_next_to_its_exact_part(amount, weights):
    parts = share(amount, weights)
    assert sum(parts) == amount
    total = sum(weights)
    if total:
        for part, weight in zip(parts, weights, strict=True):
            assert abs(part - Fraction(amount * weight, total)) < 1
            assert weight or part == 0


def test_nothing_is_shared_by_less_than_nothing():
    for weights in ([], [1, -1]):
        with pytest.raises(ValueError, match="not negative"):
            share(10, weights)


@pytest.mark.parametrize(
    ("text", "currency", "amount"),
    [
        ("12", "EUR", 1200), ("12.5", "EUR", 1250), ("12,50", "EUR", 1250), ("1,234.50", "EUR", 123450),
        ("1.234,50", "EUR", 123450), ("1 234,50", "EUR", 123450), ("1,234", "EUR", 123400), ("-3.10", "EUR", -310),
        (".5", "EUR", 50), ("1234", "JPY", 1234), ("1,234", "JPY", 1234), ("1.234", "KWD", 1234), ("0", "EUR", 0),
    ],
)  # fmt: skip
def test_amounts_are_read_as_people_write_them(text, currency, amount):
    assert amount_of(text, currency) == amount


@pytest.mark.parametrize("text", ["", "x", "1.2.3.4x", "1e3", "12.345.6789", "--1", "٣", "1.234 5x"])
def test_what_is_no_amount_is_refused(text):
    with pytest.raises(ValueError, match=r"no amount|digits"):
        amount_of(text, "EUR")


@given(AMOUNTS, st.sampled_from(["EUR", "JPY", "KWD"]))
def test_what_is_written_is_read_as_what_it_was(amount, currency):
    assert amount_of(plain_text(amount, currency), currency) == amount


def test_currencies_have_their_digits():
    assert [digits_of(currency) for currency in ("EUR", "USD", "JPY", "KWD")] == [2, 2, 0, 3]


def test_a_quantity_has_three_digits():
    assert exact_quantity(Decimal("1.2345")) == Decimal("1.235")


@given(
    quantity=st.decimals(-10_000, 10_000, places=4), price=st.integers(-(10**8), 10**8),
    percent=st.decimals(Decimal("0.001"), 100, places=3),
)  # fmt: skip
def test_whole_numbers_count_what_fractions_do(quantity, price, percent):
    tax = Taxed(category=Category.STANDARD, percent=Decimal(20))
    line = Line(wording="x", quantity=quantity, unit_price=price, tax=tax, cost=price)
    exact = Fraction(exact_quantity(quantity)) * price
    assert line.gross == line.total_cost == rounded(exact)
    off = Discount(name="x", percent=percent).off(line.gross)
    assert off == (min(line.gross, rounded(Fraction(percent) * line.gross / 100)) if line.gross > 0 else 0)
