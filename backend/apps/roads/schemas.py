"""Wire shapes of the region."""

from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from apps.roads.models import RegionFile
from foundation.moments import Moment
from foundation.schemas import Text

Layer = Literal["roads", "land", "areas"]


class BoundaryOut(Schema):
    """A boundary of the region, by its number; larger levels are smaller units."""

    number: int
    name: str
    level: int


class RegionIn(Schema):
    """The key of an extract that was sent in parts with its name, or the path of one that lies on the server."""

    key: Text = Field("", max_length=40)
    name: Text = Field("", max_length=300)
    path: Text = Field("", max_length=600)


class RegionFileOut(Schema):
    """`step` says what is being done, `share` how far it is; `report` is what was read."""

    id: int
    name: str
    state: Literal["waiting", "running", "done", "failed"]
    step: str
    share: float
    report: list[str]
    failure: str
    asked_at: int
    asked_by: str

    @staticmethod
    def resolve_asked_at(row: RegionFile) -> int:
        return int(row.asked_at.timestamp())


class RoadRegionOut(Schema):
    """`is_own`: it was brought in here; otherwise it is the one that is shipped. `can_change`: not in a demo."""

    is_own: bool
    can_change: bool
    kilometres: float
    streets: int
    houses: int
    boundaries: list[BoundaryOut]
    last: RegionFileOut | None


class AddressOut(Schema):
    """An address and its point; `likeness` 0-100; `area` is None outside every area."""

    address: str
    lon: float
    lat: float
    likeness: float
    area: str | None
    # A house number that was typed and is not in that street.
    missing: int = 0


class PathOut(Schema):
    points: list[tuple[float, float]]
    estimated: bool


Point = tuple[Annotated[float, Field(ge=-180, le=180)], Annotated[float, Field(ge=-90, le=90)]]


class TourIn(Schema):
    """Places in the order in which they are driven to, as longitude and latitude, and about when."""

    at: Moment
    points: list[Point] = Field(min_length=1, max_length=60)


class ToursIn(Schema):
    tours: list[TourIn] = Field(max_length=60)


class TourOut(Schema):
    """The road through all places of a tour."""

    points: list[tuple[float, float]]


class LayerOut(Schema):
    type: str
    features: list[dict[str, Any]]


class TrafficOut(Schema):
    """`shares`: by class of road, how much of the free speed is left."""

    period: str
    shares: dict[str, float]
