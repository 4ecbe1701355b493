"""Points on the earth: WGS 84 longitude and latitude, in that order as GeoJSON has it."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

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


def straight_metres_among(origins: NDArray[np.float64], destinations: NDArray[np.float64]) -> NDArray[np.float64]:
    """`straight_metres` from each of some points to each of others.

    Parameters
    ----------
    origins, destinations : float64[n, 2], float64[m, 2]
        Longitude and latitude in degrees.

    Returns
    -------
    float64[n, m]
    """
    lon1, lat1 = np.radians(origins).T[:, :, None]
    lon2, lat2 = np.radians(destinations).T[:, None, :]
    chord = np.sin((lat2 - lat1) / 2) ** 2 + np.cos(lat1) * np.cos(lat2) * np.sin((lon2 - lon1) / 2) ** 2
    return np.asarray(2 * EARTH_RADIUS_METRES * np.arcsin(np.minimum(1.0, np.sqrt(chord))))
