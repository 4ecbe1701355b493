"""Totals: documents computed by hand, and laws that hold for every document."""

from datetime import date
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.pricing import (
    Category,
    Discount,
    Document,
    DocumentCharge,
    Exemption,
    Line,
    Rate,
    TaxCode,
    Taxed,
    taxed,
    totals,
    with_tax,
)

FULL = Taxed(category=Category.STANDARD, percent=Decimal(23))
LOW = Taxed(category=Category.REDUCED, percent=Decimal(6))
NONE = Taxed(category=Category.EXEMPT, percent=Decimal(0), reason="Training")


def line(price, quantity="1", tax=FULL, **more):
    return Line(wording="Something", quantity=Decimal(quantity), unit_price=price, tax=tax, **more)


def percent(number, name="Regular"):
    return Discount(name=name, percent=Decimal(number))


def amount(number, name="Goodwill"):
    return Discount(name=name, amount=number)


# name, document, lines, off, charges, net, [(percent, base, tax)], gross
BY_HAND = [
    ("one hour at 58.00", Document(lines=[line(5800)]), 5800, 0, 0, 5800, [(23, 5800, 1334)], 7134),
    ("a quarter of an hour is rounded once", Document(lines=[line(5799, "0.25")]),  # 1449.75
     1450, 0, 0, 1450, [(23, 1450, 334)], 1784),  # 333.50 up
    ("tax on the sum, not on the lines", Document(lines=[line(10), line(10), line(10)]),  # 3 x 2.3 would be 6
     30, 0, 0, 30, [(23, 30, 7)], 37),
    ("two rates", Document(lines=[line(10_000), line(2_000, tax=LOW)]),
     12_000, 0, 0, 12_000, [(23, 10_000, 2_300), (6, 2_000, 120)], 14_420),
    ("ten percent off one line", Document(lines=[line(9_995, discount=percent(10)), line(500)]),  # 999.5 up: 1000
     9_495, 0, 0, 9_495, [(23, 9_495, 2_184)], 11_679),  # 2183.85
    ("an amount off the whole is shared by what each rate has",
     Document(lines=[line(10_000), line(5_000, tax=LOW)], discounts=[amount(1_000)]),  # 667 and 333
     15_000, 1_000, 0, 14_000, [(23, 9_333, 2_147), (6, 4_667, 280)], 16_427),
    ("five percent off the whole of three rates",
     Document(lines=[line(3_333), line(3_333, tax=LOW), line(3_334, tax=NONE)], discounts=[percent(5)]),  # 500
     10_000, 500, 0, 9_500, [(0, 3_167, 0), (23, 3_166, 728), (6, 3_167, 190)], 10_418),
    ("a fee on the whole", Document(lines=[line(5_000)], charges=[DocumentCharge(name="Paper", amount=250, tax=FULL)]),
     5_000, 0, 250, 5_250, [(23, 5_250, 1_208)], 6_458),  # 1207.5
    ("a deposit is paid", Document(lines=[line(5_000)], paid=2_000), 5_000, 0, 0, 5_000, [(23, 5_000, 1_150)], 6_150),
    ("what is optional counts when it is chosen",
     Document(lines=[line(1_000), line(700, optional=True), line(300, optional=True, chosen=True)]),
     1_300, 0, 0, 1_300, [(23, 1_300, 299)], 1_599),
    ("given back", Document(lines=[line(2_450, "-1.5")]), -3_675, 0, 0, -3_675, [(23, -3_675, -845)], -4_520),  # 845.25
    ("no more off than there is", Document(lines=[line(800)], discounts=[amount(500, "A"), amount(500, "B")]),
     800, 800, 0, 0, [(23, 0, 0)], 0),
    ("nothing", Document(lines=[]), 0, 0, 0, 0, [], 0),
]  # fmt: skip


@pytest.mark.parametrize(("name", "document", "lines", "off", "charges", "net", "taxes", "gross"), BY_HAND)
def test_documents_computed_by_hand(name, document, lines, off, charges, net, taxes, gross):
    found = totals(document)
    assert (found.lines, found.off, found.charges, found.net, found.gross) == (lines, off, charges, net, gross)
    assert [(row.percent, row.base, row.tax) for row in found.taxes] == taxes
    assert found.due == gross - document.paid


taxes = st.sampled_from([FULL, LOW, NONE, Taxed(category=Category.ZERO, percent=Decimal(0))])
discounts = st.one_of(
    st.builds(percent, st.integers(1, 100), st.sampled_from("AB")),
    st.builds(amount, st.integers(1, 50_000), st.sampled_from("CD")),
)
lines = st.builds(
    line, st.integers(0, 200_000), st.decimals(-9, 99, places=3).map(str), taxes,
    discount=st.none() | discounts, optional=st.booleans(), chosen=st.booleans(),
)  # fmt: skip
charges = st.builds(DocumentCharge, name=st.just("Fee"), amount=st.integers(0, 5_000), tax=taxes)
documents = st.builds(
    Document, lines=st.lists(lines, max_size=12), discounts=st.lists(discounts, max_size=3),
    charges=st.lists(charges, max_size=2), paid=st.integers(0, 10_000),
)  # fmt: skip


@given(documents)
def test_parts_add_up_and_no_cent_appears_or_vanishes(document):
    found = totals(document)
    assert found.lines == sum(row.net for row in document.lines if row.counts)
    assert found.net == found.lines - found.off + found.charges
    assert sum(row.base for row in found.taxes) == found.net
    assert sum(row.tax for row in found.taxes) == found.tax
    assert found.gross == found.net + found.tax
    assert found.due == found.gross - found.paid
    assert found.off == sum(taken for _name, taken in found.discounts)
    for row in found.taxes:
        assert abs(row.tax - row.base * Fraction(row.percent) / 100) <= Fraction(1, 2)


@given(documents, st.randoms())
def test_the_order_of_lines_discounts_and_charges_is_irrelevant(document, random):
    mixed = [random.sample(part, len(part)) for part in (document.lines, document.discounts, document.charges)]
    turned = Document(lines=mixed[0], discounts=mixed[1], charges=mixed[2], paid=document.paid)
    assert totals(turned) == totals(document)


@given(documents)
def test_a_line_that_is_not_chosen_changes_nothing(document):
    more = Document(
        lines=[*document.lines, line(99_999, optional=True)], discounts=document.discounts, charges=document.charges,
        paid=document.paid,
    )  # fmt: skip
    assert totals(more) == totals(document)


@given(st.lists(lines, max_size=8), st.lists(discounts, max_size=3))
def test_discounts_never_take_more_than_there_is(rows, off):
    found = totals(Document(lines=rows, discounts=off))
    assert 0 <= found.off <= max(0, found.lines)
    for row in rows:
        assert 0 <= row.off <= max(0, row.gross)


@given(st.lists(lines, max_size=8))
def test_a_credit_of_everything_leaves_nothing(rows):
    plain = [line(row.unit_price, str(row.quantity), row.tax) for row in rows]
    back = [line(row.unit_price, str(-row.quantity), row.tax) for row in rows]
    found = totals(Document(lines=[*plain, *back]))
    assert (found.net, found.tax, found.gross) == (0, 0, 0)


def test_a_rate_changes_on_its_day_and_a_customer_may_be_exempt():
    rates = [Rate(percent=Decimal(percent), valid_from=date(year, 1, 1)) for percent, year in ((23, 2026), (24, 2027))]
    code = TaxCode(key="full", name="Full rate", category=Category.STANDARD, rates=tuple(rates))
    days = (date(2025, 6, 1), date(2026, 12, 31), date(2027, 1, 1))
    assert [taxed(code, day).percent for day in days] == [23, 23, 24]
    papers = Exemption(reason="Diplomatic mission", number="D-7", valid_until=date(2026, 12, 31))
    assert taxed(code, days[1], papers) == Taxed(
        category=Category.EXEMPT, percent=Decimal(0), reason="Diplomatic mission (D-7)"
    )
    assert taxed(code, days[2], papers).percent == 24


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"category": Category.STANDARD}, "needs a rate"),
        ({"category": Category.EXEMPT}, "needs a reason"),
        ({"category": Category.ZERO, "rates": (Rate(percent=Decimal(6), valid_from=date(2026, 1, 1)),)}, "no rate"),
        ({"category": Category.STANDARD, "rates": (Rate(percent=Decimal(100), valid_from=date(2026, 1, 1)),)}, "below"),
    ],
)
def test_a_tax_code_that_cannot_be_says_why(fields, words):
    with pytest.raises(ValueError, match=words):
        TaxCode(key="x", name="X", **fields)


def test_prices_with_tax_are_for_reading():
    assert (with_tax(5_799, FULL), with_tax(-5_799, FULL), with_tax(100, NONE)) == (7_133, -7_133, 100)


@pytest.mark.parametrize(
    "fields", [{}, {"percent": Decimal(5), "amount": 5}, {"percent": Decimal(101)}, {"amount": -1}]
)
def test_a_discount_that_cannot_be_says_why(fields):
    with pytest.raises(ValueError, match="discount"):
        Discount(name="Odd", **fields)


def test_a_discount_holds_until_its_day_and_so_many_times():
    until = Discount(name="Autumn", percent=Decimal(5), valid_until=date(2026, 11, 30))
    assert until.holds_on(date(2026, 11, 30))
    assert not until.holds_on(date(2026, 12, 1))
    assert not Discount(name="Three times", amount=500, times_left=0).holds_on(date(2026, 11, 30))
