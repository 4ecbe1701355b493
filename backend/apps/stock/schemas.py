"""Wire shapes of stock: parts, and what lies where."""

from typing import Annotated, Self

from ninja import Field, Schema

from apps.stock.inputs import LevelFields, PartFields, SubstituteFields, SupplierFields
from apps.stock.models import Level, Part, StockPlace, Supplier
from core.stock import MOST, PlaceKind, Tracking
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
    """`free` of it anywhere is asked with the part's levels."""

    name: str
    number: str


class PartIn(Schema):
    """A part; see apps.stock.models.Part. `substitutes` left out: as they are."""

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
    substitutes: list[SubstituteIn] | None = Field(None, max_length=20)

    def fields(self) -> PartFields:
        values = self.dict(exclude={"version", "substitutes"})
        instead = None
        if self.substitutes is not None:
            instead = [SubstituteFields(**one.dict()) for one in self.substitutes]
        return PartFields(**values, substitutes=instead)


class PartChangeIn(PartIn):
    version: Version


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
