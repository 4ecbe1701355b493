"""Points on the earth: WGS 84 longitude and latitude, in that order as GeoJSON has it."""

import math
from dataclasses import dataclass

EARTH_RADIUS_METRES = 6_371_008.8


@dataclass(frozen=True, order=True)
class Place:
    """A point in degrees.

    Raises
    ------
    ValueError
        When a coordinate is not a number or off the globe.
    """

    lon: float
    lat: float

    def __post_init__(self) -> None:
        if not (-180 <= self.lon <= 180 and -90 <= self.lat <= 90):
            raise ValueError(f"not a place on the globe: longitude {self.lon}, latitude {self.lat}")


def straight_metres(origin: Place, destination: Place) -> float:
    """Great-circle distance in metres (haversine formula)."""
    lat1, lat2 = math.radians(origin.lat), math.radians(destination.lat)
    half_lat = (lat2 - lat1) / 2
    half_lon = math.radians(destination.lon - origin.lon) / 2
    chord = math.sin(half_lat) ** 2 + math.cos(lat1) * math.cos(lat2) * math.sin(half_lon) ** 2
    return 2 * EARTH_RADIUS_METRES * math.asin(min(1.0, math.sqrt(chord)))
