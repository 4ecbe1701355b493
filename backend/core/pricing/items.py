"""Entries of the price list."""

from dataclasses import dataclass
from enum import StrEnum

from core.pricing.units import UNITS


class ItemKind(StrEnum):
    LABOUR = "labour"
    PART = "part"
    FIXED = "fixed price"
    TRAVEL = "travel"
    CHARGE = "charge"
    FEE = "fee"


@dataclass(frozen=True, kw_only=True)
class Item:
    """Something that is sold.

    Attributes
    ----------
    key : never changes; prices and lines hold it.
    unit : code of UN/ECE Recommendation 20.
    price : of one unit without tax on the standard list, in smallest units.
    cost : what one unit costs us; None: not known.
    tax_code : key of the tax code.
    effort : labour-hours of one unit in thousandths, where it is not an hour of labour itself: a fixed price for a job
        of ninety minutes has 1500.

    Raises
    ------
    ValueError
        When it cannot be, with a sentence.
    """

    key: str
    kind: ItemKind
    wording: str
    unit: str
    price: int
    tax_code: str
    cost: int | None = None
    effort: int | None = None
    retired: bool = False

    def __post_init__(self) -> None:
        if not self.wording.strip():
            raise ValueError("an item needs a wording")
        if self.unit not in UNITS:
            raise ValueError(f"{self.unit} is no unit of the list")
        if (self.cost or 0) < 0 or (self.effort or 0) < 0:
            raise ValueError("cost and effort are not negative")
        if self.price < 0 and self.kind is not ItemKind.CHARGE:
            raise ValueError("only a charge may be negative")
