"""What the orders of a list come to, by the tags of their lines."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from apps.orders.listing import Filters, narrowed
from apps.pricing.documents import Buyer, counted, discount_of, holding
from apps.pricing.queries import day_of
from core.pricing import ByTag, Document, by_tag
from foundation.errors import Rejected

Kept = list[dict[str, Any]]

# Counting these takes about a second.
MOST_ORDERS = 10_000


@dataclass(frozen=True, kw_only=True)
class OrdersByTag:
    """`without` are from before orders had lines of their own, and are not counted."""

    found: ByTag
    without: int


def orders_by_tag(filters: Filters, *, now: datetime) -> OrdersByTag:
    """Group the lines of the orders that are found.

    Raises
    ------
    Rejected
        When they are too many to be counted at once.
    """
    rows = narrowed(filters, now)
    without, orders = rows.filter(lines__isnull=True).count(), rows.filter(lines__isnull=False).count()
    if orders > MOST_ORDERS:
        raise Rejected(
            f"These are {orders:,} orders: choose days or other filters, so that they are {MOST_ORDERS:,} at most.",
            code="too_many",
        )
    made = rows.filter(lines__isnull=False).order_by().values_list("lines", "discounts", "made_at")
    return OrdersByTag(found=by_tag(_documents(made.iterator(chunk_size=1000))), without=without)


def _documents(rows: Iterable[tuple[Kept | None, Kept, datetime]]) -> Iterator[Document]:
    buyers: dict[date, Buyer] = {}
    for lines, discounts, made_at in rows:
        day = day_of(made_at)
        # Whoever pays: tax changes nothing of what is counted here.
        buyer = buyers.setdefault(day, Buyer(day=day))
        off = holding([discount_of(row) for row in discounts], day)
        yield Document(lines=counted(lines or (), buyer), discounts=tuple(off))
