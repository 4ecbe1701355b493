"""Billed time, surcharges by the clock, journeys."""

from datetime import UTC, date, datetime, time
from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.basics import Interval
from core.calendars import Hours, ServiceCalendar, zone
from core.pricing import Billing, Surcharge, TravelRule, TravelWay, bands, labour_price, travel_price

TZ = zone("Atlantic/Azores")
QUARTERS = Billing(step=900, least=1800)
EVENING = Surcharge(
    name="Evening", percent=Fraction(50),
    calendar=ServiceCalendar(tz=TZ, week=((Hours(start=time(18), end=time(22)),),) * 7),
)  # fmt: skip
NIGHT = Surcharge(
    name="Night", percent=Fraction(100),
    calendar=ServiceCalendar(tz=TZ, week=((Hours(start=time(20), end=time(6)),),) * 7),
)  # fmt: skip
CHRISTMAS = Surcharge(
    name="Holiday", percent=Fraction(150),
    calendar=ServiceCalendar(tz=TZ, exceptions={date(2026, 12, 25): (Hours(start=time(), end=time()),)}),
)  # fmt: skip


def at(hour: int, minute: int = 0, day: int = 30) -> int:
    """On a winter's day the Azores are an hour behind UTC."""
    return int(datetime(2026, 11, day, hour, minute, tzinfo=UTC).timestamp()) + 3600


def hours(start: tuple[int, int], end: tuple[int, int]) -> Interval:
    return Interval(start=at(*start), end=at(*end))


@pytest.mark.parametrize(
    ("worked", "billed"), [(0, 0), (1, 1800), (1800, 1800), (1801, 2700), (3600, 3600), (3601, 4500)]
)
def test_time_is_billed_per_started_step_and_at_least_so_much(worked, billed):
    assert QUARTERS.billed(worked) == billed


@pytest.mark.parametrize(
    ("stretch", "price"),
    [
        (hours((9, 0), (10, 0)), 6_000),
        (hours((9, 0), (9, 10)), 3_000),  # the least: half an hour
        (hours((9, 0), (9, 50)), 6_000),  # a quarter was started
        (hours((17, 0), (19, 0)), 15_000),  # an hour plain, one of the evening
        (hours((19, 0), (21, 0)), 9_000 + 12_000),  # the night's is the higher of two at once
        (hours((17, 30), (18, 5)), 3_000 + 2_250),  # five minutes and ten more that were started, in the evening
    ],
)
def test_labour_costs_more_by_the_clock(stretch, price):
    assert labour_price(stretch, 6_000, QUARTERS, [EVENING, NIGHT]) == price


def test_a_night_reaches_into_the_morning_and_the_highest_holds_alone():
    found = bands(Interval(start=at(17), end=at(17) + 14 * 3600), [EVENING, NIGHT])
    said = [(band.hours.seconds // 3600, band.surcharge.name if band.surcharge else "") for band in found]
    assert said == [(1, ""), (2, "Evening"), (10, "Night"), (1, "")]


def test_a_calendar_with_one_day_in_it_costs_nothing_elsewhere():
    assert labour_price(hours((9, 0), (10, 0)), 6_000, QUARTERS, [CHRISTMAS]) == 6_000
    christmas = int(datetime(2026, 12, 25, 11, tzinfo=UTC).timestamp())
    assert labour_price(Interval(start=christmas, end=christmas + 3600), 6_000, QUARTERS, [CHRISTMAS]) == 15_000


@given(st.integers(0, 86_400 * 3), st.integers(0, 86_400 * 2), st.lists(st.sampled_from([EVENING, NIGHT, CHRISTMAS])))
def test_bands_cover_the_work_once_and_cost_no_less_than_plain(start, length, surcharges):
    stretch = Interval(start=at(0) + start, end=at(0) + start + length)
    found = bands(stretch, surcharges)
    assert sum(band.hours.seconds for band in found) == length
    assert all(one.hours.end == two.hours.start for one, two in pairwise(found))
    exact = Billing(step=1)
    assert labour_price(stretch, 6_000, exact, surcharges) >= labour_price(stretch, 6_000, exact)


FLAT = TravelRule(way=TravelWay.FLAT, flat=((3, 2_500), (4, 4_000)), otherwise=5_500, least=3_000)


@pytest.mark.parametrize(
    ("rule", "area", "price"),
    [
        (FLAT, 4, 4_000), (FLAT, 3, 3_000), (FLAT, None, 5_500),
        (TravelRule(way=TravelWay.PER_KM, rate=62), None, 1_525),  # 24.6 km: 1525.2
        (TravelRule(way=TravelWay.PER_HOUR, rate=4_800, least=2_000), None, 3_200),  # 40 minutes
        (TravelRule(way=TravelWay.NONE, least=900), None, 0),
    ],
)  # fmt: skip
def test_a_journey_is_counted_one_way_or_another(rule, area, price):
    assert travel_price(rule, area=area, metres=24_600, seconds=2_400) == price
