"""Wire shapes of the company."""

from datetime import date
from typing import Annotated, Any

from ninja import Field, Schema

from foundation.schemas import Text


class DepotIn(Schema):
    name: Text = Field(max_length=60)
    address: Text = Field(max_length=200)
    lon: float = Field(ge=-180, le=180)
    lat: float = Field(ge=-90, le=90)


class DepotChangeIn(DepotIn):
    version: int = Field(ge=1, le=2**31 - 1)


class DepotOut(Schema):
    id: int
    version: int
    name: str
    address: str
    lon: float
    lat: float
    retired: bool


class DepotRetireIn(Schema):
    version: int = Field(ge=1, le=2**31 - 1)
    retired: bool


class AreaOut(Schema):
    id: int
    name: str


class CompanyFieldsIn(Schema):
    """See apps.company.inputs.CompanyFields."""

    name: Text = Field(max_length=120)
    time_zone: Text = Field(max_length=60)
    currency: Text = Field(max_length=3)
    address: Text = Field("", max_length=300)
    phone: Text = Field("", max_length=40)
    email: Text = Field("", max_length=254)
    tax_number: Text = Field("", max_length=40)
    country: Text = Field("", max_length=2)
    region: Text = Field("", max_length=40)


class CompanyChangeIn(CompanyFieldsIn):
    version: int = Field(ge=1, le=2**31 - 1)


class StyleOut(Schema):
    """How days and times are shown; see core.calendars.Style. `week_begins`: Monday, Sunday or Saturday."""

    twelve_hours: bool
    month_first: bool
    week_begins: str


class CompanyOut(CompanyChangeIn):
    """`logo` changes with the logo; empty: there is none."""

    logo: str
    style: StyleOut
    areas: list[AreaOut]
    depots: list[DepotOut]


class RegionOut(Schema):
    key: str
    name: str


class CountryOut(Schema):
    """A country whose public holidays are known, and its parts that have others."""

    code: str
    regions: list[RegionOut]


class PublicHolidayOut(Schema):
    """`is_ours`: the company has that day off already."""

    day: date
    name: str
    is_ours: bool


class PublicHolidaysIn(Schema):
    country: Text = Field(max_length=2)
    region: Text = Field("", max_length=40)
    year: int = Field(ge=2001, le=2099)
    days: list[date] = Field(max_length=120)


class SettingOut(Schema):
    """One setting with its explanation; `value` as it is now."""

    key: str
    group: str
    name: str
    explanation: str
    kind: str
    unit: str
    least: float | None
    most: float | None
    choices: list[str]
    value: Any
    default: Any
    words: list[str]


class SettingsOut(Schema):
    version: int
    settings: list[SettingOut]


class SettingsIn(Schema):
    version: int = Field(ge=1, le=2**31 - 1)
    changes: dict[str, Any]


class QuestionIn(Schema):
    """A question of a checklist, or a field of one's own."""

    key: Text = Field(max_length=40)
    label: Text = Field(max_length=120)
    kind: str
    required: str = "never"
    least: float | None = None
    most: float | None = None
    unit: Text = Field("", max_length=20)
    choices: list[Text] = Field(default_factory=list, max_length=60)
    shown_if: tuple[str, Any] | None = None
    hint: Text = Field("", max_length=200)


class FieldMergeIn(Schema):
    """`into` is the key of the field that is kept."""

    version: int = Field(ge=0, le=2**31 - 1)
    into: Text = Field(max_length=40)


class RecordFieldsOut(Schema):
    record: str
    version: int
    questions: list[QuestionIn]


class RecordFieldsIn(Schema):
    version: int = Field(ge=0, le=2**31 - 1)
    questions: list[QuestionIn] = Field(max_length=80)


class AreaIn(Schema):
    """An area as it was drawn: a new one, or (with its key and the version that was seen) one that is known."""

    name: Text = Field(max_length=60)
    polygon: dict[str, Any]
    area_id: Annotated[int, Field(ge=1, le=2**62)] | None = None
    version: int = Field(0, ge=0, le=2**31 - 1)


class HolidayIn(Schema):
    day: date = Field(ge=date(2001, 1, 1), le=date(2099, 12, 1))
    name: Text = Field(min_length=1, max_length=60)


class HolidayOut(Schema):
    id: int
    day: date
    name: str
