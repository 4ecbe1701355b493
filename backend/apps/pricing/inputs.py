"""What is handed to the commands of pricing."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from typing import Any

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


@dataclass(frozen=True, kw_only=True)
class DiscountFields:
    """Something off under a name, percent or amount; see core.pricing.Discount. `key`: of one of the company's."""

    name: str
    percent: Decimal = Decimal(0)
    amount: int = 0
    valid_until: date | None = None
    key: str = ""


@dataclass(frozen=True, kw_only=True)
class LineFields:
    """A line as somebody typed it; see core.pricing.Line.

    `item` is the key of an item, or nothing for free text. `unit_price` None: what the price list says (free text has
    none then). `tax` is the key of a tax code, empty: that of the item, else the company's first. `cost` None: that of
    the item. `key` is what the line is known by within its document.
    """

    key: str
    wording: str
    quantity: Decimal = Decimal(1)
    item: str = ""
    unit: str = "C62"
    unit_price: int | None = None
    cost: int | None = None
    effort: int | None = None
    tax: str = ""
    discount: DiscountFields | None = None
    tag: str = ""
    optional: bool = False
    chosen: bool = False


@dataclass(frozen=True, kw_only=True)
class NamedDiscountFields:
    """A discount of the company's; `times`: how often it may be given at most."""

    name: str
    percent: Decimal = Decimal(0)
    amount: int = 0
    valid_until: date | None = None
    times: int | None = None
    retired: bool = False


@dataclass(frozen=True, kw_only=True)
class ChargingFields:
    """See the table of the same name."""

    labour_item: str = ""
    skill_items: Mapping[str, str] = field(default_factory=dict)
    step_minutes: int = 15
    least_minutes: int = 0
    surcharges: Sequence[Mapping[str, Any]] = ()
    travel_item: str = ""
    travel: Mapping[str, Any] = field(default_factory=dict)
