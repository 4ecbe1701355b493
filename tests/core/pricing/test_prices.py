"""Which price applies, and what a change of a list makes of it."""

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.pricing import Holder, Item, ItemKind, PriceBook, PriceRow, Raise, ended, last_day, raised

ITEM = Item(key="hour", kind=ItemKind.LABOUR, wording="Hour of a fitter", unit="HUR", price=5_800, tax_code="full")
DAY = date(2026, 11, 30)
OCTOBER = date(2026, 10, 1)


def row(price, holder=Holder.LIST, key=1, since=OCTOBER, until=None, least="0"):
    return PriceRow(
        item="hour", holder=holder, holder_key=key, price=price, valid_from=since, valid_until=until,
        least=Decimal(least),
    )  # fmt: skip


def asked(rows, quantity="1", day=DAY, customer=7, list_=1):
    return PriceBook(rows).price(ITEM, Decimal(quantity), day, customer=customer, list_=list_)


def test_the_customer_s_own_price_comes_before_the_list_s_and_that_before_the_standard_one():
    own, listed = row(5_000, Holder.CUSTOMER, 7), row(5_400)
    standard = row(5_900, Holder.STANDARD, None)
    assert asked([own, listed, standard]).price == 5_000
    assert asked([listed, standard]).row == listed
    assert asked([own, listed, standard], customer=8, list_=2).price == 5_900
    assert asked([own, listed], customer=None, list_=None).price == 5_800
    assert asked([]).holder is Holder.STANDARD


def test_a_price_holds_from_its_day_until_the_one_before_the_next():
    rows = [row(5_000, until=DAY), row(5_200, since=DAY)]
    assert [asked(rows, day=DAY + timedelta(days=by)).price for by in (-1, 0, 1)] == [5_000, 5_200, 5_200]
    assert asked(rows, day=OCTOBER - timedelta(days=1)).price == 5_800
    assert last_day(rows[0]) == DAY - timedelta(days=1)


def test_more_may_cost_less_each():
    rows = [row(5_400), row(5_000, least="10"), row(4_600, least="40.5")]
    assert [asked(rows, quantity).price for quantity in ("1", "9.999", "10", "40.499", "40.5", "900")] == [
        5_400, 5_400, 5_000, 5_000, 4_600, 4_600,
    ]  # fmt: skip


def test_a_quantity_break_that_has_ended_leaves_the_one_below():
    rows = [row(5_400), row(5_000, least="10", until=DAY)]
    assert asked(rows, "20").price == 5_400


rows = st.builds(
    row, st.integers(1, 9_999), st.sampled_from(list(Holder)), st.integers(1, 2),
    st.integers(0, 60).map(lambda by: OCTOBER + timedelta(days=by)), st.none(), st.sampled_from(["0", "5", "10"]),
)  # fmt: skip


@given(st.lists(rows, max_size=12), st.sampled_from(["1", "5", "12"]), st.integers(0, 80))
def test_what_is_found_is_what_going_through_all_of_them_finds(held, quantity, by):
    day = OCTOBER + timedelta(days=by)
    held = [replace(one, holder_key=None) if one.holder is Holder.STANDARD else one for one in held]
    best = None
    for holder, key in ((Holder.CUSTOMER, 1), (Holder.LIST, 2), (Holder.STANDARD, None)):
        able = [
            one for one in held
            if (one.holder, one.holder_key) == (holder, key) and one.holds_on(day) and one.least <= Decimal(quantity)
        ]  # fmt: skip
        if able:
            top = max((one.least, one.valid_from) for one in able)
            best = {one.price for one in able if (one.least, one.valid_from) == top}
            break
    found = asked(held, quantity, day, customer=1, list_=2).price
    assert found in (best or {ITEM.price})


@pytest.mark.parametrize(
    ("change", "before", "after"),
    [
        (Raise(percent=Decimal("3.5")), 5_800, 6_003), (Raise(percent=Decimal("3.5"), step=50), 5_800, 6_000),
        (Raise(percent=Decimal(-10)), 5_805, 5_225), (Raise(amount=120), 5_800, 5_920),
        (Raise(amount=-9_000), 5_800, 0), (Raise(percent=Decimal(2), step=5), 99, 100),
    ],
)  # fmt: skip
def test_a_list_is_changed_by_percent_or_amount(change, before, after):
    assert change.of(before) == after


def test_a_change_from_a_day_on_never_changes_the_days_before():
    new_year = date(2027, 1, 1)
    over, now, ahead = row(5_000, until=DAY), row(5_200, since=DAY), row(5_600, since=date(2027, 3, 1))
    changes = raised([over, now, ahead], Raise(percent=Decimal(10)), valid_from=new_year)
    assert [(one.before, one.after.price, one.after.valid_from) for one in changes] == [
        (now, 5_720, new_year), (ahead, 6_160, date(2027, 3, 1)),
    ]  # fmt: skip
    kept = [over, *(ended(one.before, before=new_year) for one in changes), *(one.after for one in changes)]
    after = [one for one in kept if one is not None]
    for by in range(-70, 32):
        day = DAY + timedelta(days=by)
        assert asked(after, day=day).price == asked([over, now, ahead], day=day).price
    assert asked(after, day=new_year).price == 5_720


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"wording": " "}, "wording"),
        ({"unit": "XX"}, "no unit"),
        ({"price": -1}, "negative"),
        ({"cost": -1}, "negative"),
    ],
)
def test_an_item_that_cannot_be_says_why(fields, words):
    with pytest.raises(ValueError, match=words):
        Item(**{**vars(ITEM), **fields})
