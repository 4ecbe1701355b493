"""HTTP: parts, suppliers, places, movements."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from apps.people import queries as people
from apps.stock import commands, queries
from apps.stock import schemas as shapes
from apps.stock.labels import CodeKind, labels_pdf
from apps.stock.models import Part
from core.roles import Action
from core.stock import PlaceKind
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.actors import may
from foundation.named.api import CodeInPath
from foundation.pages import Cursor
from foundation.schemas import AskedKey, Key, Typed

router = Router()


@router.get("/technicians/{int:technician_id}/van", response=list[shapes.VanPartOut], auth=Needs(Action.SEE_STOCK))
def van(request: HttpRequest, technician_id: Key) -> list[shapes.VanPartOut]:
    """What lies on a technician's van, by part; empty: nobody counts it."""
    return [shapes.VanPartOut.of(row) for row in queries.van(people.technician(technician_id))]


@router.put("/technicians/{int:technician_id}/van", response=list[shapes.VanPartOut], auth=Needs(Action.MOVE_STOCK))
def count(request: HttpRequest, technician_id: Key, body: shapes.CountIn) -> list[shapes.VanPartOut]:
    """Say how many of a part lie on a van; the van as it is then."""
    commands.count(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, part_name=body.part,
        quantity=body.quantity, version=body.version,
    )  # fmt: skip
    return [shapes.VanPartOut.of(row) for row in queries.van(people.technician(technician_id))]


# --- parts --------------------------------------------------------------------------------------------------


@router.get("/parts", response=list[shapes.PartOut], auth=Needs(Action.SEE_ORDERS))
def parts(request: HttpRequest) -> list[Part]:
    """The parts that are known, to choose from while typing."""
    return queries.parts()


@router.post("/parts", response={201: list[shapes.PartOut]}, auth=Needs(Action.CHANGE_VISITS))
def name_parts(request: HttpRequest, body: shapes.PartsIn) -> Status[list[Part]]:
    """The parts of these names, in order; those that are not known yet are made."""
    return Status(201, commands.name_parts(actor=actor_of(request), now=clock.now(), names=body.names))


def _part(request: HttpRequest, code: str) -> shapes.PartRecordOut:
    row = queries.part(code)
    sees = may(actor_of(request), Action.SEE_MARGIN)
    return shapes.PartRecordOut.of(row, sees_costs=sees, moved=queries.has_moved(row))


@router.get("/parts/{code}", response=shapes.PartRecordOut, auth=Needs(Action.SEE_STOCK))
def part(request: HttpRequest, code: CodeInPath) -> shapes.PartRecordOut:
    """One part."""
    return _part(request, code)


@router.post("/part-records", response={201: shapes.PartRecordOut}, auth=Needs(Action.MOVE_STOCK))
def add_part(request: HttpRequest, body: shapes.StockPartIn) -> Status[shapes.PartRecordOut]:
    """A new part."""
    row = commands.put_part(actor=actor_of(request), now=clock.now(), fields=body.fields())
    return Status(201, _part(request, row.code))


@router.put("/parts/{code}", response=shapes.PartRecordOut, auth=Needs(Action.MOVE_STOCK))
def change_part(request: HttpRequest, code: CodeInPath, body: shapes.StockPartChangeIn) -> shapes.PartRecordOut:
    """Another name, supplier, barcode."""
    commands.put_part(actor=actor_of(request), now=clock.now(), fields=body.fields(), code=code, version=body.version)
    return _part(request, code)


@router.put("/parts/{code}/photo", response=shapes.PartRecordOut, auth=Needs(Action.MOVE_STOCK))
def set_photo(request: HttpRequest, code: CodeInPath, body: shapes.PhotoIn) -> shapes.PartRecordOut:
    """Its picture."""
    commands.set_photo(actor=actor_of(request), now=clock.now(), code=code, version=body.version, file_id=body.file_id)
    return _part(request, code)


@router.post("/parts/{code}/merge", response=shapes.PartRecordOut, auth=Needs(Action.MOVE_STOCK))
def merge_part(request: HttpRequest, code: CodeInPath, body: shapes.PartMergeIn) -> shapes.PartRecordOut:
    """Two that are one; the one that is kept."""
    kept = commands.merge_parts(
        actor=actor_of(request), now=clock.now(), code=code, version=body.version, into=body.into
    )
    return _part(request, kept.code)


@router.get("/parts/{code}/whereabouts", response=shapes.WhereaboutsOut, auth=Needs(Action.SEE_STOCK))
def whereabouts(
    request: HttpRequest, code: CodeInPath, batch: Typed = "", removed: bool = False
) -> shapes.WhereaboutsOut:
    """Where all of a part are, or of one batch: what lies with us, and what is built in."""
    found = queries.whereabouts(queries.part(code), batch=batch, removed=removed)
    return shapes.WhereaboutsOut(
        lying=[shapes.LyingOut(**vars(row)) for row in found.lying],
        fitted=[shapes.FittedOut.of(row) for row in found.fitted], batches=found.batches,
    )  # fmt: skip


@router.get("/stock/fitted", response=list[shapes.FittedOut], auth=Needs(Action.SEE_CUSTOMERS))
def fitted(
    request: HttpRequest, asset_id: AskedKey | None = None, site_id: AskedKey | None = None
) -> list[shapes.FittedOut]:
    """What is built into a piece of equipment, or at a site, the newest first; and what came out again."""
    return [shapes.FittedOut.of(row) for row in queries.fitted(asset_id=asset_id, site_id=site_id)]


@router.get("/stock/scan", response=list[shapes.ScannedOut], auth=Needs(Action.SEE_STOCK))
def scan(request: HttpRequest, code: Typed) -> list[shapes.ScannedOut]:
    """What a scanned code may mean; nothing: it is not known."""
    return [shapes.ScannedOut.of(row, serial) for row, serial in queries.scanned(code)]


@router.get("/stock/labels", auth=Needs(Action.SEE_STOCK), response={200: bytes})
def labels(
    request: HttpRequest, codes: Annotated[str, Query(max_length=20_000)], kind: CodeKind = CodeKind.BARS,
    copies: Annotated[int, Query(ge=1, le=100)] = 1,
) -> HttpResponse:  # fmt: skip
    """Labels of parts, by their codes with commas between, as PDF."""
    content = labels_pdf([code for code in codes.split(",") if code], kind=kind, copies=copies)
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="labels.pdf"'
    return answer


# --- suppliers ----------------------------------------------------------------------------------------------


@router.get("/stock/suppliers", response=list[shapes.SupplierOut], auth=Needs(Action.SEE_STOCK))
def suppliers(request: HttpRequest, retired: bool = False) -> list[shapes.SupplierOut]:
    """Whom parts are bought from."""
    return [shapes.SupplierOut.of(row) for row in queries.suppliers(retired=retired)]


@router.post("/stock/suppliers", response={201: shapes.SupplierOut}, auth=Needs(Action.ORDER_PARTS))
def add_supplier(request: HttpRequest, body: shapes.SupplierIn) -> Status[shapes.SupplierOut]:
    """A new supplier."""
    row = commands.put_supplier(actor=actor_of(request), now=clock.now(), fields=body.fields())
    return Status(201, shapes.SupplierOut.of(row))


@router.put("/stock/suppliers/{int:supplier_id}", response=shapes.SupplierOut, auth=Needs(Action.ORDER_PARTS))
def change_supplier(request: HttpRequest, supplier_id: Key, body: shapes.SupplierChangeIn) -> shapes.SupplierOut:
    """Another address or delivery time."""
    row = commands.put_supplier(
        actor=actor_of(request), now=clock.now(), fields=body.fields(), supplier_id=supplier_id, version=body.version
    )
    return shapes.SupplierOut.of(row)


# --- places, levels, movements ------------------------------------------------------------------------------


@router.get("/stock/places", response=list[shapes.StockPlaceOut], auth=Needs(Action.SEE_STOCK))
def places(request: HttpRequest) -> list[shapes.StockPlaceOut]:
    """Depots and vans where something lies, or was counted."""
    rows = queries.places([PlaceKind.DEPOT, PlaceKind.VAN])
    drivers = queries.drivers()
    return [shapes.StockPlaceOut.of(row, drivers) for row in rows]


@router.post("/stock/places", response=list[shapes.StockPlaceOut], auth=Needs(Action.MOVE_STOCK))
def open_places(request: HttpRequest) -> list[shapes.StockPlaceOut]:
    """Let every depot and vehicle be a place of stock; those that are one stay as they are."""
    commands.open_places(actor=actor_of(request), now=clock.now())
    return places(request)


@router.put("/stock/places/{int:place_id}/levels/{code}", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def set_level(request: HttpRequest, place_id: Key, code: CodeInPath, body: shapes.LevelIn) -> Status[None]:
    """Where at a place a part lies, and between which levels it is kept."""
    commands.set_level(
        actor=actor_of(request), now=clock.now(), place_id=place_id, code=code, version=body.version,
        fields=body.fields(),
    )  # fmt: skip
    return Status(204, None)


@router.put("/stock/places/{int:place_id}/count/{code}", response={204: None}, auth=Needs(Action.MOVE_STOCK))
def count_at(request: HttpRequest, place_id: Key, code: CodeInPath, body: shapes.PlaceCountIn) -> Status[None]:
    """Say how many of a part lie at a place."""
    commands.count_at(
        actor=actor_of(request), now=clock.now(), place_id=place_id, code=code, quantity=body.quantity,
        version=body.version,
    )  # fmt: skip
    return Status(204, None)


@router.get("/stock/movements", response=shapes.MovementsOut, auth=Needs(Action.SEE_STOCK))
def movements(
    request: HttpRequest, part: Typed = "", place_id: AskedKey | None = None, cursor: Cursor = ""
) -> shapes.MovementsOut:
    """Movements of a part or at a place, the newest first."""
    page = queries.movements(code=part, place_id=place_id, cursor=cursor)
    return shapes.MovementsOut(rows=[shapes.MovementOut.of(row) for row in page.rows], next=page.next)


@router.post("/stock/movements", response={201: list[shapes.MovementOut]}, auth=Needs(Action.MOVE_STOCK))
def book(request: HttpRequest, body: shapes.BookPartsIn) -> Status[list[shapes.MovementOut]]:
    """Book what was moved, thrown away or taken in."""
    made = commands.book_by_hand(
        actor=actor_of(request), now=clock.now(), reason=body.reason, rows=[one.row() for one in body.rows],
        source_id=body.source_id, target_id=body.target_id, note=body.note, key=body.key,
    )  # fmt: skip
    return Status(201, [shapes.MovementOut.of(row) for row in queries.movements_named([row.pk for row in made])])


@router.get("/stock/matters", response=list[shapes.StockMatterOut], auth=Needs(Action.SEE_STOCK))
def matters(request: HttpRequest) -> list[shapes.StockMatterOut]:
    """Levels below zero, levels that are not the sum of their movements, parts named in a hurry."""
    return [shapes.StockMatterOut(**vars(row)) for row in queries.matters()]
