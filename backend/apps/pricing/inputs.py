"""What is handed to the commands of pricing."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from core.pricing import Category, ItemKind


@dataclass(frozen=True, kw_only=True)
class TaxFields:
    """`rates` is (percent, from which day on)."""

    name: str
    category: Category
    reason: str = ""
    rates: Sequence[tuple[Decimal, date]] = ()
    retired: bool = False


@dataclass(frozen=True, kw_only=True)
class ItemFields:
    """`tax` is the key of a tax code; see core.pricing.Item."""

    kind: ItemKind
    wording: str
    unit: str
    price: int
    tax: str
    cost: int | None = None
    effort: int | None = None
    retired: bool = False


@dataclass(frozen=True, kw_only=True)
class PriceHolder:
    """Whose prices: a list's, a customer's, or neither: everybody's."""

    list_id: int | None = None
    customer_id: int | None = None
