"""Wire shapes of the region."""

from typing import Any, Literal

from ninja import Schema

Layer = Literal["roads", "land", "areas"]


class AddressOut(Schema):
    """An address and its point; `likeness` 0-100; `area` is None outside every area."""

    address: str
    lon: float
    lat: float
    likeness: float
    area: str | None


class PathOut(Schema):
    points: list[tuple[float, float]]
    estimated: bool


class LayerOut(Schema):
    type: str
    features: list[dict[str, Any]]


class TrafficOut(Schema):
    """`shares`: by class of road, how much of the free speed is left."""

    period: str
    shares: dict[str, float]
