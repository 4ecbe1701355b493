"""What is handed to the commands of stock."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from core.stock import Tracking


@dataclass(frozen=True, kw_only=True)
class SubstituteFields:
    """Another part that does instead, by its code; of several the lower rank first."""

    code: str
    rank: int = 1
    both_ways: bool = False


@dataclass(frozen=True, kw_only=True)
class PartFields:
    """See apps.stock.models.Part. `number` empty: the next one is given. `item` is the key of an item of the price
    list. `cost` None: as it is."""

    name: str
    number: str = ""
    unit: str = "C62"
    supplier_id: int | None = None
    supplier_number: str = ""
    cost: int | None = None
    item: str = ""
    gtin: str = ""
    tracking: Tracking = Tracking.PLAIN
    hazardous: bool = False
    oversized: bool = False
    fits: Sequence[str] = ()
    warranty_months: int | None = None
    retired: bool = False
    substitutes: Sequence[SubstituteFields] | None = None


@dataclass(frozen=True, kw_only=True)
class SupplierFields:
    """See apps.stock.models.Supplier."""

    name: str
    email: str = ""
    phone: str = ""
    days: int = 3
    our_number: str = ""
    note: str = ""
    retired: bool = False


@dataclass(frozen=True, kw_only=True)
class Circumstances:
    """What else is known of movements that are booked together.

    happened_at : None: now.
    key : under which they are sent; known already, nothing is booked.
    asset_id : into or out of which equipment.
    unit_costs : what one piece of a part costs, by id of the part; for receipts.
    below_zero : None: as the company's settings say.
    undoes : it was not so after all: what the visit had built in by it never was.
    """

    happened_at: datetime | None = None
    key: UUID | None = None
    visit_id: int | None = None
    asset_id: int | None = None
    note: str = ""
    unit_costs: Mapping[int, int] = field(default_factory=dict)
    below_zero: bool | None = None
    undoes: bool = False


@dataclass(frozen=True, kw_only=True)
class LevelFields:
    """Where at a place a part lies, and how many ought to."""

    shelf: str = ""
    least: int | None = None
    target: int | None = None


@dataclass(frozen=True, kw_only=True)
class ByHand:
    """So many of a part, by its code; `cost` of one, for what comes in."""

    code: str
    quantity: int
    serials: Sequence[str] = ()
    batch: str = ""
    cost: int | None = None


@dataclass(frozen=True, kw_only=True)
class Found:
    """How many of a part lay there; of one with serial numbers which ones; of one kept by batch how many of each."""

    code: str
    quantity: int
    serials: Sequence[str] = ()


PLAINLY = Circumstances()
