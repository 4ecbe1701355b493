"""Wire shapes of stock: parts, and what lies where."""

from datetime import date
from typing import Annotated, Self
from uuid import UUID

from ninja import Field, Schema

from apps.stock.inputs import ByHand, Found, LevelFields, PartFields, SubstituteFields, SupplierFields
from apps.stock.models import CountLine, Fitted, Level, Movement, Part, StockPlace, Supplier
from core.stock import MOST, CountScope, MoveReason, PlaceKind, Tracking
from foundation.moments import to_moment
from foundation.named.api import Code
from foundation.schemas import Text

Version = Annotated[int, Field(ge=1, le=2**31 - 1)]
Count = Annotated[int, Field(ge=0, le=MOST)]
Amount = Annotated[int, Field(ge=0, le=10**13)]


class PartOut(Schema):
    """`code` is what visits and vans hold; the name may change. A retired one is not asked for any more."""

    code: str
    name: str
    retired: bool


class PartsIn(Schema):
    names: list[Annotated[Text, Field(min_length=1, max_length=80)]] = Field(min_length=1, max_length=40)


class VanPartOut(Schema):
    """`part` is its name, `code` its key."""

    code: str
    part: str
    quantity: int
    version: int

    @classmethod
    def of(cls, row: Level) -> Self:
        return cls(code=row.part.code, part=row.part.name, quantity=row.quantity, version=row.version)


class CountIn(Schema):
    """`quantity` left out: the van does not carry it any more. `version` of the row seen; left out: a new part."""

    part: Text = Field(max_length=80)
    quantity: Count | None = None
    version: Version | None = None


class PlaceCountIn(Schema):
    """The same at any place, of a part by its code."""

    quantity: Count | None = None
    version: Version | None = None


class SubstituteIn(Schema):
    """`code` of the other part; of several the lower rank first."""

    code: Code
    rank: int = Field(1, ge=1, le=99)
    both_ways: bool = False


class SubstituteOut(SubstituteIn):
    """Another part that does instead."""

    name: str
    number: str


class PartFacts(Schema):
    """What is known of a part; see apps.stock.models.Part."""

    name: Text = Field(max_length=80)
    number: Text = Field("", max_length=40)
    unit: Text = Field("C62", max_length=3)
    supplier_id: int | None = Field(None, ge=1, le=2**62)
    supplier_number: Text = Field("", max_length=60)
    cost: Amount | None = None
    item: Text = Field("", max_length=40)
    gtin: Text = Field("", max_length=20)
    tracking: Tracking = Tracking.PLAIN
    hazardous: bool = False
    oversized: bool = False
    fits: list[Annotated[Text, Field(max_length=160)]] = Field(default_factory=list, max_length=100)
    warranty_months: int | None = Field(None, ge=1, le=600)
    retired: bool = False


class StockPartIn(PartFacts):
    """A part. `substitutes` left out: as they are."""

    substitutes: list[SubstituteIn] | None = Field(None, max_length=20)

    def fields(self) -> PartFields:
        values = self.dict(exclude={"version", "substitutes"})
        instead = None
        if self.substitutes is not None:
            instead = [SubstituteFields(**one.dict()) for one in self.substitutes]
        return PartFields(**values, substitutes=instead)


class StockPartChangeIn(StockPartIn):
    version: Version


class PartRecordOut(PartFacts):
    """A part as it is; `cost` and `price` only for who may see what things cost us, and the price list's. `instead_of`:
    for which parts it does as well. `moved`: it was moved already, so how its pieces are told apart stays. Its files
    are kept under `id`."""

    id: int
    code: str
    version: int
    supplier: str
    price: int | None
    item_wording: str
    photo_id: int | None
    untidy: bool
    moved: bool
    barcode: str
    substitutes: list[SubstituteOut]
    instead_of: list[SubstituteOut]

    @classmethod
    def of(cls, row: Part, *, sees_costs: bool, moved: bool) -> Self:
        plain = ("id", "name", "unit", "supplier_id", "supplier_number", "gtin", "tracking", "hazardous", "oversized",
                 "fits", "warranty_months", "retired", "code", "version", "photo_id", "untidy", "barcode")  # fmt: skip
        return cls(
            **{name: getattr(row, name) for name in plain}, number=row.number or "", moved=moved,
            cost=row.cost if sees_costs else None, item=row.item.key if row.item else "",
            price=row.item.price if row.item else None, item_wording=row.item.wording if row.item else "",
            supplier=row.supplier.name if row.supplier else "",
            substitutes=[
                SubstituteOut(code=one.other.code, name=one.other.name, number=one.other.number or "", rank=one.rank,
                              both_ways=one.both_ways)
                for one in sorted(row.substitutes.all(), key=lambda one: (one.rank, one.other.name))
            ],
            instead_of=[
                SubstituteOut(code=one.part.code, name=one.part.name, number=one.part.number or "", rank=one.rank,
                              both_ways=one.both_ways)
                for one in sorted(row.substitute_for.all(), key=lambda one: one.part.name)
            ],
        )  # fmt: skip


class PhotoIn(Schema):
    """`file_id` of a picture that was uploaded to the part; left out: none."""

    version: Version
    file_id: int | None = Field(None, ge=1, le=2**62)


class PartMergeIn(Schema):
    version: Version
    into: Code


class SupplierIn(Schema):
    """Whom parts are bought from; `days` from ordering to having it."""

    name: Text = Field(max_length=120)
    email: Text = Field("", max_length=254)
    phone: Text = Field("", max_length=40)
    days: int = Field(3, ge=0, le=365)
    our_number: Text = Field("", max_length=40)
    note: Text = Field("", max_length=300)
    retired: bool = False

    def fields(self) -> SupplierFields:
        return SupplierFields(**self.dict(exclude={"version"}))


class SupplierChangeIn(SupplierIn):
    version: Version


class SupplierOut(SupplierChangeIn):
    id: int
    parts: int

    @classmethod
    def of(cls, row: Supplier) -> Self:
        names = ("id", "version", "name", "email", "phone", "days", "our_number", "note", "retired")
        return cls(parts=getattr(row, "part_count", 0), **{name: getattr(row, name) for name in names})


class StockPlaceOut(Schema):
    """A place where parts lie; of a van also who drives it (None: nobody)."""

    id: int
    kind: PlaceKind
    name: str
    technician_id: int | None = None
    technician: str = ""

    @classmethod
    def of(cls, row: StockPlace, drivers: dict[int, tuple[int, str]]) -> Self:
        who = drivers.get(row.pk)
        return cls(
            id=row.pk, kind=row.what, name=row.name, technician_id=who[0] if who else None,
            technician=who[1] if who else "",
        )  # fmt: skip


class LevelIn(Schema):
    """Where at a place a part lies, and between which levels it is kept; both, or neither."""

    shelf: Text = Field("", max_length=20)
    least: Count | None = None
    target: Count | None = None
    version: Version | None = None

    def fields(self) -> LevelFields:
        return LevelFields(shelf=self.shelf, least=self.least, target=self.target)


class ScannedOut(Schema):
    """What a code may mean: a part, and the serial number where a piece was scanned."""

    code: str
    name: str
    number: str
    tracking: Tracking
    serial: str

    @classmethod
    def of(cls, part: Part, serial: str) -> Self:
        return cls(
            code=part.code, name=part.name, number=part.number or "", tracking=Tracking(part.tracking), serial=serial
        )


class MovementOut(Schema):
    """So many of a part from one place to another, and why."""

    id: int
    part: str
    code: str
    quantity: int
    source: str
    source_id: int
    target: str
    target_id: int
    reason: MoveReason
    serials: list[str]
    batch: str
    at: int
    by: str
    visit_id: int | None
    order_id: int | None
    visit: str
    note: str

    @classmethod
    def of(cls, row: Movement) -> Self:
        return cls(
            id=row.pk, part=row.part.name, code=row.part.code, quantity=row.quantity, source=row.source.name,
            source_id=row.source_id, target=row.target.name, target_id=row.target_id, reason=MoveReason(row.reason),
            serials=row.serials, batch=row.batch, at=to_moment(row.happened_at) or 0, by=row.actor_name,
            visit_id=row.visit_id, order_id=row.visit.order_id if row.visit else None,
            visit=row.visit.label if row.visit else "", note=row.note,
        )  # fmt: skip


class MovementsOut(Schema):
    """A page of movements, the newest first; `next`: where the following ones begin."""

    rows: list[MovementOut]
    next: str | None


Serials = Annotated[list[Annotated[Text, Field(min_length=1, max_length=60)]], Field(max_length=200)]


class ByHandIn(Schema):
    """So many of a part; `cost` of one, for what comes in."""

    code: Code
    quantity: int = Field(ge=1, le=MOST)
    serials: Serials = Field(default_factory=list)
    batch: Text = Field("", max_length=40)
    cost: Amount | None = None

    def row(self) -> ByHand:
        return ByHand(**self.dict())


class BookPartsIn(Schema):
    """Parts moved, thrown away (no target) or taken in (no source). `key`: sent again, nothing is booked twice."""

    reason: MoveReason
    rows: list[ByHandIn] = Field(min_length=1, max_length=200)
    source_id: int | None = Field(None, ge=1, le=2**62)
    target_id: int | None = Field(None, ge=1, le=2**62)
    note: Text = Field("", max_length=200)
    key: UUID | None = None


class FittedOut(Schema):
    """A part that is built in, or was."""

    id: int
    part: str
    code: str
    quantity: int
    serial: str
    batch: str
    site_id: int
    site: str
    customer_id: int
    asset_id: int | None
    asset: str
    since: int
    order_id: int | None
    visit: str
    warranty_until: date | None
    removed_at: int | None
    removed_because: str

    @classmethod
    def of(cls, row: Fitted) -> Self:
        return cls(
            id=row.pk, part=row.part.name, code=row.part.code, quantity=row.quantity, serial=row.serial,
            batch=row.batch, site_id=row.site_id, site=row.site.name, customer_id=row.site.customer_id,
            asset_id=row.asset_id, asset=row.asset.words if row.asset else "", since=to_moment(row.since) or 0,
            order_id=row.visit.order_id if row.visit else None, visit=row.visit.label if row.visit else "",
            warranty_until=row.warranty_until, removed_at=to_moment(row.removed_at),
            removed_because=row.removed_because,
        )  # fmt: skip


class LyingOut(Schema):
    """Pieces or a batch that lie somewhere of ours."""

    place_id: int
    place: str
    batch: str
    serial: str
    quantity: int


class WhereaboutsOut(Schema):
    """Where all of a part are, or of one batch of it: what lies with us, and what is built in."""

    lying: list[LyingOut]
    fitted: list[FittedOut]
    batches: list[str]


class CountBeginIn(Schema):
    """What of a place is to be counted."""

    place_id: int = Field(ge=1, le=2**62)
    scope: CountScope
    shelf: Text = Field("", max_length=20)
    size: int = Field(10, ge=1, le=500)


class FoundIn(Schema):
    code: Code
    quantity: Count
    serials: Serials = Field(default_factory=list)

    def row(self) -> Found:
        return Found(**self.dict())


class FoundRowsIn(Schema):
    found: list[FoundIn] = Field(min_length=1, max_length=500)


class CountStepIn(Schema):
    version: Version


class ExplainIn(CountStepIn):
    """Why parts differ, by code."""

    words: dict[Annotated[Text, Field(max_length=40)], Annotated[Text, Field(max_length=200)]] = Field(max_length=500)


class CountLineOut(Schema):
    """A part of a count. While it is counted, what the books say is not told: `on_books` and what follows are None."""

    code: str
    part: str
    number: str
    tracking: Tracking
    shelf: str
    found: int | None
    serials: list[str]
    on_books: int | None
    moved: int | None
    difference: int | None
    worth: int | None
    explanation: str

    @classmethod
    def of(cls, row: CountLine, *, blind: bool, difference: int, worth: int | None) -> Self:
        return cls(
            code=row.part.code, part=row.part.name, number=row.part.number or "", tracking=Tracking(row.part.tracking),
            shelf=row.shelf, found=row.found, serials=row.serials, on_books=None if blind else row.on_books,
            moved=None if blind else row.moved, difference=None if blind else difference,
            worth=None if blind else worth, explanation=row.explanation,
        )  # fmt: skip


class CountSheetOut(Schema):
    """A count of a place. `second`: somebody else than who counted has to book it."""

    id: int
    version: int
    place_id: int
    place: str
    scope: CountScope
    shelf: str
    state: str
    begun_at: int
    begun_by: str
    counted_by: str
    counted_by_me: bool
    booked_by: str
    lines: list[CountLineOut]
    counted: int
    second: bool


class StockMatterOut(Schema):
    """Something about stock that somebody should look at."""

    kind: str
    place_id: int
    place: str
    code: str
    part: str
    sentence: str
