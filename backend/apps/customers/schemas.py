"""Wire shapes of customers."""

from ninja import Field, Schema

from foundation.schemas import Text


class ContactOut(Schema):
    id: int
    name: str
    phone: str
    email: str


class AssetOut(Schema):
    id: int
    kind: str
    make: str
    model: str
    serial: str


class SiteOut(Schema):
    id: int
    name: str
    address: str
    lon: float
    lat: float
    area: str | None
    access_notes: str

    @staticmethod
    def resolve_area(site: object) -> str | None:
        # A row has an Area; a shape made from a row already has its name.
        area = getattr(site, "area", None)
        return getattr(area, "name", area)


class SiteWithAssetsOut(SiteOut):
    assets: list[AssetOut]


class CustomerOut(Schema):
    id: int
    name: str
    phone: str
    email: str


class CustomerDetailOut(CustomerOut):
    contacts: list[ContactOut]
    sites: list[SiteWithAssetsOut]


class HitOut(Schema):
    customer: CustomerOut
    site: SiteOut | None
    asset: AssetOut | None
    because: str


class SimilarOut(Schema):
    customer: CustomerOut
    because: str


class CustomerIn(Schema):
    name: Text = Field(min_length=1, max_length=160)
    phone: Text = Field("", max_length=40)
    email: Text = Field("", max_length=254)
    contact_name: Text = Field("", max_length=120)


class SiteIn(Schema):
    customer_id: int = Field(ge=1, le=2**62)
    name: Text = Field("", max_length=160)
    address: Text = Field(min_length=1, max_length=240)
    lon: float = Field(ge=-180, le=180)
    lat: float = Field(ge=-90, le=90)
    access_notes: Text = Field("", max_length=400)


class AssetIn(Schema):
    site_id: int = Field(ge=1, le=2**62)
    kind: Text = Field(min_length=1, max_length=80)
    make: Text = Field("", max_length=80)
    model: Text = Field("", max_length=80)
    serial: Text = Field("", max_length=60)
