"""HTTP: files of customers in and out, and areas drawn on the map."""

import json
from typing import Annotated, Any, Literal

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Field, File, Path, Router, Schema, Status
from ninja.files import UploadedFile

from apps.company import commands as company
from apps.company.queries import areas as company_areas
from apps.company.schemas import AreaIn
from apps.customers import commands, exporting, importing, queries
from apps.customers.geojson import import_sites
from apps.customers.importing.reading import own_keys
from apps.customers.models import CustomerFile
from apps.customers.off_the_map import OffTheMap, off_the_map
from apps.roads.queries import boundaries
from core.basics.tables import decode
from core.customers import columns_of, needed_columns
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.schemas import Key, MergeInto, Text, UseOut

router = Router()
Kind = Annotated[Literal["customers", "sites", "contacts", "assets"], Path()]
LARGEST = 15 * 1024 * 1024


class CustomerFileOut(Schema):
    """A file that is read in. `counts` has new, change, same, refused, and the headings that mean no column; `outcome`
    the same of what was brought in so far. `columns` is what each heading means, `choices` what it may mean."""

    id: int
    kind: str
    name: str
    state: str
    share: float
    counts: dict[str, Any]
    failure: str
    uploaded_at: int
    rows: list[dict[str, Any]]
    columns: dict[str, str]
    choices: list[str]
    needed: list[str]
    outcome: dict[str, int]
    refused: list[dict[str, Any]]
    stop_asked: bool

    @classmethod
    def of(cls, row: CustomerFile, *, rows: bool = True) -> "CustomerFileOut":
        return cls(
            id=row.pk, kind=row.kind, name=row.name, state=row.state, share=row.share, counts=row.counts,
            failure=row.failure, uploaded_at=int(row.uploaded_at.timestamp()), rows=row.rows if rows else [],
            columns=row.columns, choices=columns_of(row.kind, own_keys(row.kind)), needed=needed_columns(row.kind),
            outcome=row.outcome, refused=row.refused if rows else [], stop_asked=row.stop_asked,
        )  # fmt: skip


class ColumnsIn(Schema):
    columns: dict[Annotated[Text, Field(max_length=200)], Annotated[Text, Field(max_length=60)]] = Field(max_length=200)


class GeoJsonTakenOut(Schema):
    made: int
    problems: list[str]


@router.get("/customers/import", response=list[CustomerFileOut], auth=Needs(Action.IMPORT))
def files(request: HttpRequest) -> list[CustomerFileOut]:
    """The last files, newest first."""
    return [CustomerFileOut.of(row, rows=False) for row in importing.latest_files()]


@router.post("/customers/import/of/{kind}", response={201: CustomerFileOut}, auth=Needs(Action.IMPORT))
def upload(request: HttpRequest, kind: Kind, file: File[UploadedFile]) -> Status[CustomerFileOut]:
    """Have a CSV (contacts: or vCard) file read. Makes nothing yet."""
    if (file.size or 0) > LARGEST:
        raise Rejected("The file is larger than 15 MB: split it.", field="file")
    row = importing.upload(
        actor=actor_of(request), now=clock.now(), kind=kind, name=file.name or "file", text=decode(file.read())
    )
    return Status(201, CustomerFileOut.of(row))


@router.get("/customers/import/{int:file_id}", response=CustomerFileOut, auth=Needs(Action.IMPORT))
def one_file(request: HttpRequest, file_id: Key) -> CustomerFileOut:
    """How far a file is, and what its rows would make."""
    return CustomerFileOut.of(importing.file(file_id))


@router.post("/customers/import/{int:file_id}/accept", response=CustomerFileOut, auth=Needs(Action.IMPORT))
def accept(request: HttpRequest, file_id: Key) -> CustomerFileOut:
    """Bring in the accepted rows, in the background; or go on where it was stopped."""
    importing.accept(actor=actor_of(request), now=clock.now(), file_id=file_id)
    return CustomerFileOut.of(importing.file(file_id))


@router.post("/customers/import/{int:file_id}/columns", response=CustomerFileOut, auth=Needs(Action.IMPORT))
def choose_columns(request: HttpRequest, file_id: Key, body: ColumnsIn) -> CustomerFileOut:
    """Say what the headings mean, and read the file again; remembered for the next one."""
    importing.choose_columns(actor=actor_of(request), now=clock.now(), file_id=file_id, columns=body.columns)
    return CustomerFileOut.of(importing.file(file_id))


@router.post("/customers/import/{int:file_id}/stop", response=CustomerFileOut, auth=Needs(Action.IMPORT))
def stop(request: HttpRequest, file_id: Key) -> CustomerFileOut:
    """Stop bringing in; what came in stays."""
    importing.stop(actor=actor_of(request), now=clock.now(), file_id=file_id)
    return CustomerFileOut.of(importing.file(file_id))


@router.get("/customers/import/{int:file_id}/refused.csv", response={200: bytes}, auth=Needs(Action.IMPORT))
def refused(request: HttpRequest, file_id: Key) -> StreamingHttpResponse:
    """The refused rows as a file, with why, to be mended and sent again."""
    return _download(importing.refused_rows(file_id), "refused.csv", "text/csv; charset=utf-8")


@router.get("/customers/export/{kind}.csv", response={200: bytes}, auth=Needs(Action.IMPORT))
def export(request: HttpRequest, kind: Kind) -> StreamingHttpResponse:
    """All customers, sites, contacts or assets as CSV."""
    return _download(exporting.as_csv(kind), f"{kind}.csv", "text/csv; charset=utf-8")


@router.get("/customers/contacts.vcf", response={200: bytes}, auth=Needs(Action.IMPORT))
def vcards(request: HttpRequest) -> StreamingHttpResponse:
    """All contacts as vCards."""
    return _download(exporting.as_vcards(), "contacts.vcf", "text/vcard; charset=utf-8")


@router.get("/sites.geojson", response={200: bytes}, auth=Needs(Action.IMPORT))
def geojson(request: HttpRequest) -> StreamingHttpResponse:
    """All sites as GeoJSON."""
    return _download(exporting.as_geojson(), "sites.geojson", "application/geo+json")


@router.post("/sites.geojson", response={201: GeoJsonTakenOut}, auth=Needs(Action.IMPORT))
def take_geojson(request: HttpRequest, file: File[UploadedFile]) -> Status[GeoJsonTakenOut]:
    """Sites from GeoJSON points."""
    made, problems = import_sites(actor=actor_of(request), now=clock.now(), collection=_json(file))
    return Status(201, GeoJsonTakenOut(made=made, problems=problems))


@router.get("/areas.geojson", response=dict[str, Any], auth=Needs(Action.SEE_MAP))
def areas(request: HttpRequest) -> dict[str, Any]:
    """All areas as GeoJSON."""
    features = [
        {
            "type": "Feature", "id": area.pk, "geometry": area.polygon,
            "properties": {"name": area.name, "version": area.version},
        }
        for area in company_areas()
    ]  # fmt: skip
    return {"type": "FeatureCollection", "features": features}


@router.post("/areas.geojson", response={201: GeoJsonTakenOut}, auth=Needs(Action.CHANGE_SETTINGS))
def take_areas(request: HttpRequest, file: File[UploadedFile]) -> Status[GeoJsonTakenOut]:
    """Areas from GeoJSON polygons; every site finds its area anew."""
    made = company.put_areas(actor=actor_of(request), now=clock.now(), collection=_json(file))
    moved = commands.find_areas(actor=actor_of(request), now=clock.now())
    return Status(201, GeoJsonTakenOut(made=made, problems=[f"{moved} sites now lie in another area"] if moved else []))


class BoundariesIn(Schema):
    """Boundaries of the region by their numbers."""

    numbers: list[Annotated[int, Field(ge=0, le=10**6)]] = Field(min_length=1, max_length=500)


@router.post("/areas/from-boundaries", response={201: GeoJsonTakenOut}, auth=Needs(Action.CHANGE_SETTINGS))
def areas_from_boundaries(request: HttpRequest, body: BoundariesIn) -> Status[GeoJsonTakenOut]:
    """Areas with the outlines of districts and towns; every site finds its area anew."""
    made = company.put_areas(actor=actor_of(request), now=clock.now(), collection=boundaries(body.numbers))
    moved = commands.find_areas(actor=actor_of(request), now=clock.now())
    return Status(201, GeoJsonTakenOut(made=made, problems=[f"{moved} sites now lie in another area"] if moved else []))


class OffTheMapOut(Schema):
    """Sites farther from every road than anybody walks: how many, and the first of them. `suggestion` is where their
    address is found."""

    class Site(Schema):
        id: int
        customer_id: int
        customer: str
        name: str
        address: str
        kilometres: float
        suggestion: str

    count: int
    sites: list[Site]


@router.get("/sites/off-the-map", response=OffTheMapOut, auth=Needs(Action.IMPORT))
def sites_off_the_map(request: HttpRequest) -> OffTheMap:
    """Sites whose point is on no road of the region: their points want to be tidied."""
    return off_the_map()


@router.put("/areas", response=GeoJsonTakenOut, auth=Needs(Action.CHANGE_SETTINGS))
def draw_area(request: HttpRequest, body: AreaIn) -> GeoJsonTakenOut:
    """Keep an area that was drawn or edited on the map; every site finds its area anew."""
    company.draw_area(
        actor=actor_of(request), now=clock.now(), name=body.name, polygon=body.polygon, area_id=body.area_id,
        version=body.version,
    )  # fmt: skip
    moved = commands.find_areas(actor=actor_of(request), now=clock.now())
    return GeoJsonTakenOut(made=1, problems=[f"{moved} sites now lie in another area"] if moved else [])


@router.delete("/areas/{int:area_id}", response=GeoJsonTakenOut, auth=Needs(Action.CHANGE_SETTINGS))
def remove_area(request: HttpRequest, area_id: Key) -> GeoJsonTakenOut:
    """Take an area off the map; it can be put back."""
    company.remove_area(actor=actor_of(request), now=clock.now(), area_id=area_id)
    moved = commands.find_areas(actor=actor_of(request), now=clock.now())
    return GeoJsonTakenOut(made=0, problems=[f"{moved} sites now lie in another area"] if moved else [])


@router.get("/areas/{int:area_id}/uses", response=list[UseOut], auth=Needs(Action.SEE_CUSTOMERS))
def area_uses(request: HttpRequest, area_id: Key) -> list[UseOut]:
    """Who is in an area."""
    return [UseOut(what=what, count=count) for what, count in queries.area_uses(area_id)]


@router.post("/areas/{int:area_id}/merge", response=GeoJsonTakenOut, auth=Needs(Action.CHANGE_SETTINGS))
def merge_area(request: HttpRequest, area_id: Key, body: MergeInto) -> GeoJsonTakenOut:
    """Make it one with another area: the outline of both, and whoever is in either."""
    commands.merge_area(actor=actor_of(request), now=clock.now(), area_id=area_id, version=body.version, into=body.into)
    moved = commands.find_areas(actor=actor_of(request), now=clock.now())
    return GeoJsonTakenOut(made=1, problems=[f"{moved} sites now lie in another area"] if moved else [])


@router.post("/areas/{int:area_id}/back", response=GeoJsonTakenOut, auth=Needs(Action.CHANGE_SETTINGS))
def put_area_back(request: HttpRequest, area_id: Key) -> GeoJsonTakenOut:
    """Put an area that was removed back on the map."""
    company.put_area_back(actor=actor_of(request), now=clock.now(), area_id=area_id)
    moved = commands.find_areas(actor=actor_of(request), now=clock.now())
    return GeoJsonTakenOut(made=1, problems=[f"{moved} sites now lie in another area"] if moved else [])


def _download(rows: Any, name: str, media_type: str) -> StreamingHttpResponse:
    answer = StreamingHttpResponse(rows, content_type=media_type)
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


def _json(file: UploadedFile) -> dict[str, Any]:
    if (file.size or 0) > LARGEST:
        raise Rejected("The file is larger than 15 MB: split it.", field="file")
    try:
        found = json.loads(decode(file.read()))
    except ValueError as error:
        raise Rejected("This is no GeoJSON file.", field="file") from error
    if not isinstance(found, dict):
        raise Rejected("This is no GeoJSON file.", field="file")
    return found
