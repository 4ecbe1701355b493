"""Documents that are read with tax: what stands there adds up, to the cent."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.pricing import Category, Discount, Document, Line, Taxed, many, read_with_tax, totals

FULL = Taxed(category=Category.STANDARD, percent=Decimal(16))
LOW = Taxed(category=Category.REDUCED, percent=Decimal("4"))
NONE = Taxed(category=Category.EXEMPT, percent=Decimal(0), reason="training")


def line(price, tax=FULL, **more):
    return Line(wording="x", quantity=Decimal(more.pop("quantity", 1)), unit_price=price, tax=tax, **more)


def test_a_discount_on_the_whole_is_read_with_its_tax():
    off = Discount(name="Regular customer", percent=Decimal(5))
    read = read_with_tax(Document(lines=[line(52_800), line(1_900)], discounts=[off]))
    # 528.00 and 19.00 at 16 %: 612.48 and 22.04; 27.35 less without tax are 31.73 less with it.
    assert read.lines == (61_248, 2_204)
    assert read.discounts == (("Regular customer", 3_173),)


def test_what_rounding_leaves_is_in_one_of_the_lines():
    # Three times 0.03 at 16 %: each 0.03 and half a cent of tax, together 0.09 and 0.01.
    assert sum(read_with_tax(Document(lines=[line(3)] * 3)).lines) == 10


quantities = st.decimals(Decimal("0.001"), 50, places=3)
lines = st.builds(line, st.integers(0, 10**6), st.sampled_from([FULL, LOW, NONE]), quantity=quantities)
offs = st.builds(Discount, name=st.sampled_from("abc"), percent=st.decimals(1, 40, places=1))


@given(st.lists(lines, min_size=1, max_size=8), st.lists(offs, max_size=2))
def test_lines_less_discounts_are_the_total(rows, discounts):
    document = Document(lines=rows, discounts=discounts)
    read = read_with_tax(document)
    assert sum(read.lines) - sum(amount for _name, amount in read.discounts) == totals(document).gross


@pytest.mark.parametrize(
    ("quantity", "unit", "words"), [("1.5", "HUR", "1.5 h"), ("4.000", "C62", "4 ×"), ("60", "MTR", "60 m")]
)
def test_a_quantity_has_a_short_word(quantity, unit, words):
    assert many(Decimal(quantity), unit) == words
