"""Where a price comes from, in words."""

from apps.customers.models import Customer
from apps.pricing.models import PriceList
from core.calendars import day_words
from core.pricing import Holder, PriceFound


class Holders:
    """Names of lists and customers, each read once."""

    def __init__(self) -> None:
        self._known: dict[tuple[Holder, int], str] = {}

    def source(self, found: PriceFound) -> str:
        """Like "Harbour list, from 1 Oct 2026", "own price of Gull House" or "standard price"."""
        row = found.row
        if row is None:
            return "standard price"
        since = f"from {day_words(row.valid_from, weekday=False, year=True)}"
        many = f", from {row.least.normalize():f} on" if row.least else ""
        if row.holder is Holder.STANDARD:
            return f"standard price, {since}{many}"
        name = self._name(row.holder, row.holder_key or 0)
        return f"{name} list, {since}{many}" if row.holder is Holder.LIST else f"own price of {name}, {since}{many}"

    def _name(self, holder: Holder, key: int) -> str:
        if (holder, key) not in self._known:
            rows = PriceList.objects.all() if holder is Holder.LIST else Customer.objects.all()
            self._known[holder, key] = rows.filter(pk=key).values_list("name", flat=True).first() or ""
        return self._known[holder, key]


def source(found: PriceFound) -> str:
    """Where one price comes from."""
    return Holders().source(found)
