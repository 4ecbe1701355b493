"""Wire shapes of the region."""

from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from foundation.moments import Moment

Layer = Literal["roads", "land", "areas"]


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
