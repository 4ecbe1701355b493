"""Which price applies: the customer's own, a list's, or the standard one; by day and by quantity."""

from bisect import bisect_right
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from decimal import Decimal
from enum import StrEnum

from core.pricing.items import Item
from core.pricing.money import rounded


class Holder(StrEnum):
    """Whose price it is, the nearest first."""

    CUSTOMER = "customer"
    LIST = "list"
    STANDARD = "standard"


@dataclass(frozen=True, kw_only=True)
class PriceRow:
    """A price of an item from a day on and until before another one, from a quantity on.

    `holder_key` is the customer or the list; None for the standard one.
    """

    item: str
    holder: Holder
    holder_key: int | None = None
    price: int
    valid_from: date
    valid_until: date | None = None
    least: Decimal = Decimal(0)

    def holds_on(self, day: date) -> bool:
        return self.valid_from <= day and (self.valid_until is None or day < self.valid_until)


@dataclass(frozen=True, kw_only=True)
class PriceFound:
    """A price and where it came from; without a row it is the item's own."""

    price: int
    holder: Holder
    row: PriceRow | None = None


_Held = tuple[str, Holder, int | None]


class PriceBook:
    """Prices by item and holder, looked up without going through all of them."""

    def __init__(self, rows: Iterable[PriceRow]) -> None:
        found: defaultdict[_Held, list[PriceRow]] = defaultdict(list)
        for row in rows:
            found[row.item, row.holder, row.holder_key].append(row)
        self._rows = {key: sorted(held, key=lambda row: row.least) for key, held in found.items()}

    def price(
        self, item: Item, quantity: Decimal, day: date, *, customer: int | None = None, list_: int | None = None
    ) -> PriceFound:
        """What one unit costs that customer on that day, buying so many.

        The customer's own price comes before the list's, whatever it is; the standard one comes last. Of several of
        one holder the one for the largest quantity that is reached holds, and of those the one that began last.
        """
        for holder, key in ((Holder.CUSTOMER, customer), (Holder.LIST, list_), (Holder.STANDARD, None)):
            if key is None and holder is not Holder.STANDARD:
                continue
            row = _at(self._rows.get((item.key, holder, key), ()), quantity, day)
            if row is not None:
                return PriceFound(price=row.price, holder=holder, row=row)
        return PriceFound(price=item.price, holder=Holder.STANDARD)


def _at(rows: Sequence[PriceRow], quantity: Decimal, day: date) -> PriceRow | None:
    reached = bisect_right(rows, quantity, key=lambda row: row.least)
    best: PriceRow | None = None
    for row in reversed(rows[:reached]):
        if best is not None and row.least < best.least:
            break
        if row.holds_on(day) and (best is None or row.valid_from > best.valid_from):
            best = row
    return best


@dataclass(frozen=True, kw_only=True)
class Raise:
    """A change of a list: by thousandths of a percent, or by an amount; rounded to a multiple of `step`."""

    percent: Decimal = Decimal(0)
    amount: int = 0
    step: int = 1

    def of(self, price: int) -> int:
        """The price after it; never below nothing where it was not before."""
        exact = Decimal(price) * (1 + self.percent / 100) + self.amount
        after = rounded(exact / self.step) * self.step
        return after if price < 0 else max(0, after)


@dataclass(frozen=True, kw_only=True)
class Raised:
    """A row as it was and as it is from a day on."""

    before: PriceRow
    after: PriceRow


def raised(rows: Iterable[PriceRow], change: Raise, *, valid_from: date) -> list[Raised]:
    """What a change of a list makes of its rows from a day on: each that holds then ends the day before, and a new one
    begins. Rows that begin later are changed as they are; those that have ended stay."""
    found = []
    for row in rows:
        if row.valid_until is not None and row.valid_until <= valid_from:
            continue
        begins = max(row.valid_from, valid_from)
        found.append(Raised(before=row, after=replace(row, price=change.of(row.price), valid_from=begins)))
    return found


def ended(row: PriceRow, *, before: date) -> PriceRow | None:
    """A row that holds no more from a day on; None: it never held before."""
    if row.valid_from >= before:
        return None
    until = before if row.valid_until is None else min(row.valid_until, before)
    return replace(row, valid_until=until)


def last_day(row: PriceRow) -> date | None:
    """The last day on which a price holds; None: for good."""
    return None if row.valid_until is None else row.valid_until - timedelta(days=1)
