"""Lines of a document, and discounts on one of them or on the whole."""

from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from fractions import Fraction

from core.pricing.items import ItemKind
from core.pricing.money import rounded_ratio, thousandths
from core.pricing.tax import Taxed
from core.pricing.units import SECONDS


@dataclass(frozen=True, kw_only=True)
class Discount:
    """Something off under a name: so many percent, or an amount; until a day (the last one), or for so many times.

    Raises
    ------
    ValueError
        When it is neither or both, or more than everything.
    """

    name: str
    percent: Decimal = Decimal(0)
    amount: int = 0
    valid_until: date | None = None
    times_left: int | None = None

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise ValueError("a discount needs a name, for the customer reads it")
        if bool(self.percent) == bool(self.amount):
            raise ValueError("a discount is a percentage or an amount")
        if not 0 <= self.percent <= 100 or self.amount < 0:
            raise ValueError("a discount takes off nothing below zero and no more than everything")

    def holds_on(self, day: date) -> bool:
        return (self.valid_until is None or day <= self.valid_until) and self.times_left != 0

    def off(self, net: int) -> int:
        """What it takes off an amount without tax: never more than there is, nor anything of a credit."""
        if net <= 0:
            return 0
        if not self.percent:
            return min(self.amount, net)
        numerator, denominator = self.percent.as_integer_ratio()
        return min(rounded_ratio(numerator * net, 100 * denominator), net)


@dataclass(frozen=True, kw_only=True)
class Line:
    """One line.

    Attributes
    ----------
    quantity : three digits after the point; negative for what is given back.
    unit_price : of one unit without tax, in smallest units.
    discount : None: nothing off.
    cost : what one unit costs us; None: not known.
    effort : labour-hours of one unit in thousandths; None: by the unit where it is labour, else none.
    optional, chosen : one that the customer may choose; it counts where it is chosen.
    key : what it is known by within its document.
    """

    wording: str
    quantity: Decimal
    unit_price: int
    tax: Taxed
    unit: str = "C62"
    item: str | None = None
    kind: ItemKind = ItemKind.FIXED
    discount: Discount | None = None
    cost: int | None = None
    effort: int | None = None
    tag: str = ""
    optional: bool = False
    chosen: bool = False
    key: str = ""

    @property
    def counts(self) -> bool:
        """Whether it is part of the totals."""
        return self.chosen or not self.optional

    @property
    def gross(self) -> int:
        """Quantity times price, rounded once."""
        return rounded_ratio(thousandths(self.quantity) * self.unit_price, 1000)

    @property
    def off(self) -> int:
        """What its discount takes off."""
        return 0 if self.discount is None else self.discount.off(self.gross)

    @property
    def net(self) -> int:
        """What stands at the end of the line, without tax (EN 16931: BT-131)."""
        gross = self.gross
        return gross if self.discount is None else gross - self.discount.off(gross)

    @property
    def total_cost(self) -> int | None:
        """What it costs us; None: not known."""
        return None if self.cost is None else rounded_ratio(thousandths(self.quantity) * self.cost, 1000)

    @property
    def labour_hours(self) -> Fraction:
        """People times hours."""
        quantity = Fraction(thousandths(self.quantity), 1000)
        if self.effort is not None:
            return quantity * Fraction(self.effort, 1000)
        return quantity * Fraction(SECONDS.get(self.unit, 0), 3600) if self.kind is ItemKind.LABOUR else Fraction(0)
