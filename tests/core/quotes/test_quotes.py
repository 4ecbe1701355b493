"""Quotes in the core: states, alternatives, discounts, deposits, what a new version changes."""

from dataclasses import replace
from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.pricing import Category, Discount, ItemKind, Line, Taxed
from core.quotes import (
    CannotBeChosen,
    Deposit,
    Option,
    QuoteState,
    QuoteStep,
    Terms,
    after,
    changes,
    chosen,
    digest,
    follow_up_day,
    is_over,
    last_day,
    may_be_edited,
    most_given,
    steps_from,
    what_is_missing,
)

FULL = Taxed(category=Category.STANDARD, percent=Decimal(20))
MONDAY = date(2026, 11, 30)


def line(key="l1", price=10_000, **more):
    return Line(
        key=key, wording=more.pop("wording", f"Work {key}"), quantity=Decimal(1), unit_price=price, tax=FULL, **more
    )


REPAIR = Option(key="a", name="Repair", lines=(line(), line("l2", 2_500, optional=True)))
REPLACE = Option(key="b", name="Replace the drive", lines=(line("l1", 48_000),))


def money(amount):
    return f"{amount / 100:.2f}"


@pytest.mark.parametrize(
    ("state", "step", "becomes"),
    [
        ("draft", "send", "sent"), ("sent", "approve", "approved"), ("sent", "refuse", "refused"),
        ("sent", "expire", "expired"), ("sent", "withdraw", "withdrawn"), ("draft", "withdraw", "withdrawn"),
        ("sent", "revise", "sent"), ("refused", "revise", "draft"), ("expired", "revise", "draft"),
        ("approved", "refuse", None), ("approved", "revise", None), ("refused", "approve", None),
        ("expired", "approve", None), ("draft", "approve", None), ("sent", "send", None),
    ],
)  # fmt: skip
def test_each_step_leads_on_from_where_it_may_be_taken(state, step, becomes):
    found = after(QuoteState(state), QuoteStep(step))
    assert (found.value if found else None) == becomes


def test_what_was_sent_is_edited_only_as_the_version_that_is_to_replace_it():
    assert may_be_edited(QuoteState.DRAFT, revising=False)
    assert not may_be_edited(QuoteState.SENT, revising=False)
    assert may_be_edited(QuoteState.SENT, revising=True)
    assert after(QuoteState.SENT, QuoteStep.SEND, revising=True) is QuoteState.SENT
    assert after(QuoteState.SENT, QuoteStep.REVISE, revising=True) is None
    assert steps_from(QuoteState.APPROVED) == ()


@given(st.sampled_from(QuoteState), st.sampled_from(QuoteStep), st.booleans())
def test_nothing_leads_on_from_what_was_approved(state, step, revising):
    found = after(state, step, revising=revising)
    if state is QuoteState.APPROVED:
        assert found is None
    if found is QuoteState.APPROVED:
        assert state is QuoteState.SENT


def test_an_optional_line_counts_where_it_is_ticked():
    assert REPAIR.totals().gross == 12_000
    assert REPAIR.totals({"l2"}).gross == 15_000
    assert [one.key for one in REPAIR.bought({"l2"})] == ["l1", "l2"]
    assert [one.key for one in REPAIR.bought(set())] == ["l1"]


def test_a_line_that_is_ticked_for_the_customer_counts_until_they_untick_it():
    option = replace(REPAIR, lines=(line(), line("l2", 2_500, optional=True, chosen=True)))
    assert (option.totals().gross, option.totals(set()).gross) == (15_000, 12_000)


@pytest.mark.parametrize(("key", "ticked"), [("c", set()), ("a", {"l1"}), ("a", {"x"}), ("b", {"l2"})])
def test_what_is_not_offered_cannot_be_chosen(key, ticked):
    with pytest.raises(CannotBeChosen):
        chosen([REPAIR, REPLACE], key, ticked)


def test_what_is_missing_is_said_before_anything_is_offered():
    assert what_is_missing([REPAIR, REPLACE]) == []
    assert what_is_missing([]) == ["Offer at least one way to do it."]
    assert what_is_missing([replace(REPAIR, lines=(line(optional=True),))]) == ["“Repair” has no line yet."]
    assert what_is_missing([REPAIR, replace(REPLACE, name="repair")]) == ["Two of the ways have the same name."]
    assert what_is_missing([REPAIR, replace(REPLACE, name="")]) == ["Each of the ways needs a name."]
    assert what_is_missing([replace(REPLACE, lines=(line(price=-5, kind=ItemKind.CHARGE),))]) == [
        "“Replace the drive” comes to less than nothing."
    ]
    five = [replace(REPLACE, key=key, name=key) for key in "abcde"]
    assert "More than 4" in what_is_missing(five)[0]


def test_the_highest_discount_counts_with_everything_ticked():
    ten = Discount(name="Regular", percent=Decimal(10))
    half = Discount(name="Sorry", amount=1_250)
    option = replace(REPAIR, lines=(line(discount=ten), line("l2", 2_500, optional=True, discount=half)))
    # 1,000 + 1,250 of 12,500: 18 %.
    assert most_given([REPLACE, option]) == 18
    assert most_given([replace(option, discounts=(Discount(name="All", percent=Decimal("0.5")),))]) == 19
    assert most_given([]) == 0


@given(st.integers(0, 10**9), st.decimals(0, 100, places=2), st.integers(0, 10**9))
def test_a_deposit_is_never_more_than_everything(gross, percent, amount):
    assert 0 <= Deposit(percent=percent).of(gross) <= gross
    assert 0 <= Deposit(amount=amount).of(gross) <= gross


def test_a_deposit_is_a_share_or_an_amount():
    assert Deposit(percent=Decimal(30)).of(15_000) == 4_500
    assert Deposit(amount=20_000).of(15_000) == 15_000
    with pytest.raises(ValueError, match="percentage or an amount"):
        Deposit(percent=Decimal(1), amount=1)


def test_a_quote_holds_through_its_last_day_and_is_asked_about_before():
    until = last_day(MONDAY, 30)
    assert until == date(2026, 12, 30)
    assert (is_over(until, until), is_over(until, date(2026, 12, 31))) == (False, True)
    assert follow_up_day(MONDAY, 5, until) == date(2026, 12, 5)
    assert follow_up_day(MONDAY, 0, until) is None
    assert follow_up_day(MONDAY, 31, until) is None


def test_a_new_version_says_what_changed():
    more = replace(
        REPAIR,
        lines=(replace(line(wording="Adjust the door"), quantity=Decimal("1.5")), line("l3", 900, wording="Roller")),
    )
    assert changes([REPAIR], [more], money=money) == [
        "without Work l2", "Work l1 is now Adjust the door", "Adjust the door: 1.5 instead of 1", "with Roller, 9.00",
        "190.80 with tax instead of 120.00",
    ]  # fmt: skip


def test_options_that_come_and_go_are_named_and_prices_told_apart():
    cheaper = replace(REPAIR, lines=(line(price=9_000), REPAIR.lines[1]))
    assert changes([REPAIR], [cheaper, REPLACE], money=money) == [
        "Repair: Work l1: 90.00 each instead of 100.00", "Repair: 108.00 with tax instead of 120.00",
        "“Replace the drive” is new",
    ]  # fmt: skip
    assert changes([REPAIR, REPLACE], [REPAIR], money=money) == ["“Replace the drive” is no longer offered"]


def test_terms_that_changed_are_said_and_nothing_is_said_of_what_did_not():
    before = Terms(valid_until=MONDAY, deposit=100, texts=(("terms", "a"), ("scope", "x")))
    later = Terms(valid_until=date(2026, 12, 1), deposit=200, texts=(("terms", "b"), ("scope", "x")))
    assert changes([REPAIR], [REPAIR], money=money, terms=(before, before)) == []
    assert changes([REPAIR], [REPAIR], money=money, terms=(before, later)) == [
        "valid until 2026-12-01 instead of 2026-11-30", "a deposit of 2.00 instead of 1.00", "other words: terms",
    ]  # fmt: skip


def test_a_long_list_of_changes_says_how_many_more():
    many = replace(REPAIR, lines=tuple(line(f"n{number}") for number in range(40)))
    found = changes([REPAIR], [many], money=money)
    assert (len(found), found[-1]) == (12, "and 32 more")


def test_a_fingerprint_follows_the_words_and_not_their_order():
    assert digest({"a": 1, "b": ["x", 2]}) == digest({"b": ["x", 2], "a": 1})
    assert digest({"a": 1}) != digest({"a": 2})
    assert len(digest({})) == 64
