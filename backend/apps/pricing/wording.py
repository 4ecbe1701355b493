"""Where a price comes from, in words."""

from apps.customers.models import Customer
from apps.pricing.models import PriceList
from core.calendars import day_words
from core.pricing import Holder, PriceFound


def source(found: PriceFound) -> str:
    """Like "Harbour list, from 1 Oct 2026", "own price of Gull House" or "standard price"."""
    row = found.row
    if row is None:
        return "standard price"
    key = row.holder_key or 0
    since = f"from {day_words(row.valid_from, weekday=False, year=True)}"
    many = f", from {row.least.normalize():f} on" if row.least else ""
    if row.holder is Holder.LIST:
        name = PriceList.objects.filter(pk=key).values_list("name", flat=True).first() or ""
        return f"{name} list, {since}{many}"
    if row.holder is Holder.CUSTOMER:
        name = Customer.objects.filter(pk=key).values_list("name", flat=True).first() or ""
        return f"own price of {name}, {since}{many}"
    return f"standard price, {since}{many}"
