"""Wire shapes of purchase orders."""

from datetime import date
from typing import Self
from uuid import UUID

from ninja import Field, Schema

from apps.supply.inputs import Came, LineWanted
from apps.supply.models import PurchaseLine, PurchaseOrder
from apps.supply.schemas import Id, OptionalId, Quantity, Serials, Version
from core.stock import Tracking
from foundation.moments import to_moment
from foundation.named.api import Code
from foundation.schemas import Text


class PurchaseLineOut(Schema):
    """A part of a purchase order. `difference`: what one cost more than ordered, where it has come at another price."""

    id: int
    code: str
    part: str
    number: str
    their_number: str
    tracking: Tracking
    quantity: int
    price: int | None
    received: int
    paid: int | None
    difference: int | None
    by_itself: bool

    @classmethod
    def of(cls, row: PurchaseLine) -> Self:
        known = row.paid is not None and row.price is not None
        return cls(
            id=row.pk, code=row.part.code, part=row.part.name, number=row.part.number or "",
            their_number=row.part.supplier_number, tracking=Tracking(row.part.tracking), quantity=row.quantity,
            price=row.price, received=row.received, paid=row.paid,
            difference=(row.paid or 0) - (row.price or 0) if known else None, by_itself=row.by_itself,
        )  # fmt: skip


class PurchaseOrderOut(Schema):
    """Parts ordered from a supplier. `late`: it was expected before today and has not all come. `total`: None where a
    price is not known."""

    id: int
    version: int
    number: str
    supplier_id: int
    supplier: str
    email: str
    target_id: int
    target: str
    state: str
    note: str
    made_at: int
    made_by: str
    ordered_at: int | None
    ordered_by: str
    expected_on: date | None
    mailed: bool
    late: bool
    total: int | None
    lines: list[PurchaseLineOut]

    @classmethod
    def of(cls, row: PurchaseOrder, today: date) -> Self:
        lines = sorted(row.lines.all(), key=lambda line: line.part.name)
        priced = all(line.price is not None for line in lines)
        going = row.state in ("ordered", "received in part")
        return cls(
            id=row.pk, version=row.version, number=row.number, supplier_id=row.supplier_id, supplier=row.supplier.name,
            email=row.supplier.email, target_id=row.target_id, target=row.target.name, state=row.state, note=row.note,
            made_at=to_moment(row.made_at) or 0, made_by=row.made_by, ordered_at=to_moment(row.ordered_at),
            ordered_by=row.ordered_by, expected_on=row.expected_on, mailed=row.mailed_at is not None,
            late=going and row.expected_on is not None and row.expected_on < today,
            total=sum((line.price or 0) * line.quantity for line in lines) if priced else None,
            lines=[PurchaseLineOut.of(line) for line in lines],
        )  # fmt: skip


class PurchasesOut(Schema):
    rows: list[PurchaseOrderOut]
    next: str | None


class LineIn(Schema):
    code: Code
    quantity: Quantity
    price: int | None = Field(None, ge=0, le=10**13)

    def line(self) -> LineWanted:
        return LineWanted(**self.dict())


class ProposalIn(Schema):
    """A proposal by hand: added to the one there is for this supplier and depot."""

    supplier_id: Id
    place_id: OptionalId = None
    lines: list[LineIn] = Field(default_factory=list, max_length=500)


class LinesIn(Schema):
    """What a proposal asks for: all of its lines."""

    version: Version
    lines: list[LineIn] = Field(max_length=500)
    note: Text = Field("", max_length=300)


class SendPurchaseIn(Schema):
    """`expected_on` left out: as the supplier usually delivers."""

    version: Version
    expected_on: date | None = None


class ExpectIn(Schema):
    version: Version
    expected_on: date


class CameIn(Schema):
    """What has come of a line: how many, what each cost (left out: as ordered)."""

    line_id: Id
    quantity: Quantity
    price: int | None = Field(None, ge=0, le=10**13)
    serials: Serials = Field(default_factory=list)
    batch: Text = Field("", max_length=40)

    def row(self) -> Came:
        return Came(**self.dict())


class ReceiveIn(Schema):
    """`key`: sent again, nothing is booked twice."""

    version: Version
    came: list[CameIn] = Field(min_length=1, max_length=500)
    key: UUID | None = None


class CallOffIn(Schema):
    version: Version
    because: Text = Field("", max_length=200)
