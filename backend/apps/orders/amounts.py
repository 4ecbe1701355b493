"""What an order costs: its lines with prices, for whom they count, and what follows from them."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from decimal import Decimal
from typing import Any

from apps.catalogue.models import JobType
from apps.company.queries import depots, settings
from apps.customers.models import Site
from apps.orders.inputs import NewOrder
from apps.orders.models import LearnedLength, Visit, WorkOrder
from apps.orders.work import usual_work
from apps.pricing import charging
from apps.pricing.charging import Journey
from apps.pricing.documents import Buyer, counted, filled, line_fields
from apps.pricing.figuring import Sums, Yardstick, hour_cost, in_smallest, sums, whole
from apps.pricing.inputs import LineFields
from apps.pricing.models import Charging
from apps.pricing.queries import day_of
from apps.roads.queries import travel_among
from core.basics import Interval, Place, straight_metres
from core.orders import VisitState
from core.orders.sequences import shared_worth
from core.pricing import Billing, Known, TravelWay, exact_quantity
from foundation.moments import to_moment

Kept = list[dict[str, Any]]


def buyer_of(order: WorkOrder) -> Buyer:
    """Whoever pays: their list, their own prices and their exemption count, on the day the order was made."""
    return Buyer(day=day_of(order.made_at), customer_id=order.payer_id or order.customer_id)


def kept_lines(order: WorkOrder) -> Kept:
    """An order's own lines; of one from before there were any, those its job type had, priced as on the day it was
    made."""
    if order.lines is not None:
        found: Kept = order.lines
        return found
    own = order.work.get("lines")
    rows = usual_work(order, "lines") if own is None else own
    return filled([line_fields(row, number) for number, row in enumerate(rows)], buyer_of(order))


def sums_of(order: WorkOrder) -> Sums:
    return sums(kept_lines(order), order.discounts, buyer_of(order), yardstick(order.job_type))


def yardstick(job: JobType | None) -> Yardstick:
    """What a price for work of a kind is compared with."""
    wanted = settings().wanted_per_hour if job is None or job.wanted_per_hour is None else job.wanted_per_hour
    return Yardstick(per_hour=in_smallest(wanted), hour_cost=hour_cost(), known=known_length(job))


def known_length(job: JobType | None) -> Known | None:
    """How long work of a kind has taken here, in labour: of everybody who went."""
    row = LearnedLength.objects.filter(job_type=job).first() if job is not None else None
    if row is None or job is None:
        return None
    return Known(count=row.count, mean=row.mean * job.crew, spread=row.spread * job.crew)


def lines_for(
    job_lines: Sequence[Mapping[str, Any]], buyer: Buyer, *, seconds: int | None, crew: int, needs: Sequence[str],
    site: Site, hours: Interval | None, stretched: float = 1.0,
) -> Kept:  # fmt: skip
    """Lines of new work: what its job type has, or labour; the journey; what the clock adds.

    Whatever is told of a price goes through here, and so does the order that is made: the two are the same.

    Parameters
    ----------
    hours
        When it is done (epoch seconds); None: nobody knows, and the clock adds nothing.
    stretched
        Labour that is counted by the hour, times this: more than usual, where a range is told.
    """
    rules = charging.charging()
    wanted = [line_fields(row, number) for number, row in enumerate(job_lines)]
    if not wanted:
        wanted = charging.without_lines(rules, seconds=seconds, crew=crew, needs=needs)
    rows = filled(wanted, buyer)
    if stretched != 1.0:
        rows = filled([_stretched(row, stretched, charging.billing_of(rules)) for row in rows], buyer)
    if not any(row["kind"] == "travel" for row in rows):
        travel = charging.travel_line(rules, _journey(rules, site))
        rows += filled([travel], buyer) if travel else []
    if hours is not None:
        rows += filled(charging.clock_lines(rules, counted(rows, buyer), hours), buyer)
    return rows


def hours_of(new: NewOrder) -> Interval | None:
    """When new work is done, as far as it is known: from the beginning of its promise."""
    start = to_moment(new.promise[0])
    return None if start is None else Interval(start=start, end=start + (new.work.duration_seconds or 3600))


def travel_is_flat() -> bool:
    """Whether a journey costs the same within an area."""
    return charging.travel_of(charging.charging()).way in (TravelWay.NONE, TravelWay.FLAT)


def _stretched(row: Mapping[str, Any], by: float, billing: Billing) -> LineFields:
    line = line_fields(row)
    if row["kind"] != "labour" or row["unit"] != "HUR":
        return line
    seconds = billing.billed(round(float(line.quantity) * 3600 * by))
    return replace(line, quantity=exact_quantity(Decimal(seconds) / 3600))


def _journey(rules: Charging, site: Site) -> Journey:
    way = charging.travel_of(rules).way
    if way in (TravelWay.NONE, TravelWay.FLAT):
        return Journey(area_id=site.area_id)
    there = Place(site.lon, site.lat)
    starts = [Place(row.lon, row.lat) for row in depots() if not row.retired]
    if not starts:
        return Journey(area_id=site.area_id)
    nearest = min(starts, key=lambda place: straight_metres(place, there))
    travel = travel_among([nearest, there])
    leg = travel.leg(travel.index[nearest], travel.index[there], _NOON)
    return Journey(area_id=site.area_id, metres=2 * leg.metres, seconds=2 * leg.seconds)


# Journeys are counted as if at noon of any day: what is charged does not hang on the traffic.
_NOON = 12 * 3600


# More than a visit can be said to bring.
MOST_WORTH = 10_000_000


def worth_of(rows: Sequence[Mapping[str, Any]], discounts: Sequence[Mapping[str, Any]], buyer: Buyer) -> int | None:
    """What lines bring without tax, in whole units of the currency; None: none of them has a price."""
    if all(row.get("price") is None for row in rows):
        return None
    return min(MOST_WORTH, max(0, whole(sums(rows, discounts, buyer, Yardstick()).totals.net)))


def share_worth(order: WorkOrder) -> list[Visit]:
    """Let the visits bring what the lines do; those whose worth changed. Not saved."""
    worth = worth_of(kept_lines(order), order.discounts, buyer_of(order))
    if worth is None:
        return []
    visits = list(order.visits.select_for_update().order_by("part", "id"))
    going = [visit for visit in visits if visit.state not in (VisitState.CANCELLED, VisitState.MISSED)] or visits
    shares = shared_worth(worth, [visit.duration_seconds for visit in going])
    changed = []
    for visit, share in zip(going, shares, strict=True):
        if visit.worth != share:
            visit.worth = share
            changed.append(visit)
    return changed


def has_prices(order: WorkOrder) -> bool:
    """Whether what the order brings follows from its lines."""
    return any(row.get("price") is not None for row in kept_lines(order))
