"""Wire shapes of customers."""

from datetime import date
from typing import Annotated, Any, Literal, Self

from ninja import Field, Schema

from apps.customers.inputs import AssetFields, CustomerFields, SiteFields
from apps.customers.models import Asset, Customer, Site
from apps.customers.queries import Twin
from core.basics import Place
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]
Version = Field(ge=1, le=2**31 - 1)
Tags = Annotated[list[Annotated[Text, Field(max_length=40)]], Field(max_length=20)]


class ContactOut(Schema):
    id: int
    version: int
    name: str
    role: str
    phone: str
    email: str
    channel: str
    site_id: int | None


class AssetOut(Schema):
    id: int
    version: int
    kind: str
    make: str
    model: str
    serial: str
    state: str
    parent_id: int | None
    installed_on: date | None
    warranty_until: date | None
    extra: dict[str, Any]


class SiteOut(Schema):
    id: int
    version: int
    name: str
    address: str
    lon: float
    lat: float
    area: str | None
    access_notes: str
    opening: list[str]

    @staticmethod
    def resolve_area(site: object) -> str | None:
        # A row has an Area; a shape made from a row already has its name.
        area = site.get("area") if isinstance(site, dict) else getattr(site, "area", None)
        return getattr(area, "name", area)


class SiteOnMapOut(Schema):
    id: int
    name: str
    address: str
    lon: float
    lat: float
    customer_id: int
    customer_name: str


class NamedOut(Schema):
    id: int
    name: str


class SiteWithAssetsOut(SiteOut):
    assets: list[AssetOut]
    preferred: list[NamedOut]
    refused: list[NamedOut]
    required: list[NamedOut]
    extra: dict[str, Any]


class CustomerOut(Schema):
    id: int
    name: str
    phone: str
    email: str
    needs_po_number: bool
    tags: list[str]


class MergeOut(Schema):
    id: int
    gone: NamedOut
    at: int
    by: str


class CustomerDetailOut(CustomerOut):
    version: int
    payer: NamedOut | None
    payer_address: str
    extra: dict[str, Any]
    merged_into: NamedOut | None
    merge: MergeOut | None
    contacts: list[ContactOut]
    sites: list[SiteWithAssetsOut]


class HitOut(Schema):
    customer: CustomerOut
    site: SiteOut | None
    asset: AssetOut | None
    because: str


class TwinOut(Schema):
    """A customer that may be the same, laid beside the new one."""

    customer: CustomerOut
    because: list[str]
    sites: list[SiteOut]

    @classmethod
    def of(cls, twin: Twin) -> Self:
        return cls(
            customer=CustomerOut.from_orm(twin.customer),
            because=twin.because,
            sites=[SiteOut.from_orm(site) for site in twin.sites[:4]],
        )


class SaidOfOut(Schema):
    """What a site says of a technician."""

    how: Literal["required", "preferred", "refused"]
    site_id: int
    site: str
    customer_id: int
    customer: str


class NoteIn(Schema):
    text: Text = Field(max_length=4000)


class CustomerIn(Schema):
    name: Text = Field(min_length=1, max_length=160)
    phone: Text = Field("", max_length=40)
    email: Text = Field("", max_length=254)
    contact_name: Text = Field("", max_length=120)
    payer_id: Id | None = None
    payer_address: Text = Field("", max_length=300)
    needs_po_number: bool = False
    tags: Tags = Field(default_factory=list)
    extra: dict[str, Any] = Field(default_factory=dict)

    def fields(self) -> CustomerFields:
        return CustomerFields(**self.dict(exclude={"contact_name", "version"}))


class CustomerChangeIn(CustomerIn):
    version: int = Version


class ContactIn(Schema):
    """A new contact, or one (`id`) as it was seen in `version`; `anyway`: also if somebody there looks like a twin."""

    id: Id | None = None
    version: int = Field(0, ge=0, le=2**31)
    anyway: bool = False
    name: Text = Field(max_length=120)
    role: Text = Field("", max_length=60)
    phone: Text = Field("", max_length=40)
    email: Text = Field("", max_length=254)
    channel: Literal["text", "e-mail", "call"] = "text"
    site_id: Id | None = None


class SiteFieldsIn(Schema):
    name: Text = Field("", max_length=160)
    address: Text = Field(min_length=1, max_length=240)
    lon: float = Field(ge=-180, le=180)
    lat: float = Field(ge=-90, le=90)
    access_notes: Text = Field("", max_length=400)
    opening: list[Annotated[Text, Field(max_length=11)]] = Field(default_factory=list, max_length=7)
    preferred: list[Id] = Field(default_factory=list, max_length=50)
    refused: list[Id] = Field(default_factory=list, max_length=50)
    required: list[Id] = Field(default_factory=list, max_length=50)
    extra: dict[str, Any] = Field(default_factory=dict)

    def fields(self) -> SiteFields:
        values = self.dict(exclude={"lon", "lat", "customer_id", "version"})
        return SiteFields(**values, place=Place(self.lon, self.lat))


class SiteIn(SiteFieldsIn):
    customer_id: Id


class SiteChangeIn(SiteFieldsIn):
    version: int = Version


class AssetFieldsIn(Schema):
    kind: Text = Field(min_length=1, max_length=80)
    make: Text = Field("", max_length=80)
    model: Text = Field("", max_length=80)
    serial: Text = Field("", max_length=60)
    installed_on: date | None = None
    warranty_until: date | None = None
    state: Text = Field("in service", max_length=14)
    parent_id: Id | None = None
    extra: dict[str, Any] = Field(default_factory=dict)

    def fields(self) -> AssetFields:
        return AssetFields(**self.dict(exclude={"site_id", "version"}))


class AssetIn(AssetFieldsIn):
    site_id: Id


class AssetChangeIn(AssetFieldsIn):
    version: int = Version


class MergeIn(Schema):
    kept_id: Id
    gone_id: Id


def detail_of(row: Customer, merge: Any) -> dict[str, Any]:
    """A customer as CustomerDetailOut takes it."""
    made = None
    if merge is not None:
        made = {"id": merge.pk, "gone": merge.gone, "at": int(merge.at.timestamp()), "by": merge.by}
    return {
        "id": row.pk, "name": row.name, "phone": row.phone, "email": row.email, "tags": row.tags,
        "needs_po_number": row.needs_po_number, "version": row.version, "payer": row.payer,
        "payer_address": row.payer_address, "extra": row.extra, "merged_into": row.merged_into, "merge": made,
        "contacts": list(row.contacts.all()),
        "sites": [_site(site) for site in sorted(row.sites.all(), key=lambda site: site.pk)],
    }  # fmt: skip


def _site(site: Site) -> dict[str, Any]:
    return {
        **SiteOut.from_orm(site).dict(),
        "assets": [AssetOut.from_orm(asset) for asset in _in_order(list(site.assets.all()))],
        "preferred": list(site.preferred.all()), "refused": list(site.refused.all()),
        "required": list(site.required.all()), "extra": site.extra,
    }  # fmt: skip


def _in_order(assets: list[Asset]) -> list[Asset]:
    """Parts after what they are part of."""
    return sorted(assets, key=lambda asset: (asset.parent_id or asset.pk, asset.parent_id is not None, asset.pk))
