"""The generator's plane: metres east and north of the city's middle."""

import math

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

ORIGIN_LON, ORIGIN_LAT = -24.6, 47.2
METRES_PER_DEGREE = math.pi * 6_371_008.8 / 180

PlanePoint = tuple[float, float]


def to_degrees(geometry: BaseGeometry) -> BaseGeometry:
    """From metres to longitude and latitude, to 6 decimals (about 0.1 m)."""
    east = METRES_PER_DEGREE * math.cos(math.radians(ORIGIN_LAT))

    def move(points: np.ndarray) -> np.ndarray:
        return np.round(points / (east, METRES_PER_DEGREE) + (ORIGIN_LON, ORIGIN_LAT), 6)

    return shapely.transform(geometry, move)


def smooth(points: list[PlanePoint], *, rounds: int, closed: bool) -> list[PlanePoint]:
    """Cut the corners of a polyline (Chaikin's scheme), keeping the ends of an open one."""
    for _ in range(rounds):
        pairs = list(zip(points, points[1:] + points[:1] if closed else points[1:], strict=False))
        cut: list[PlanePoint] = [] if closed else [points[0]]
        for (ax, ay), (bx, by) in pairs:
            cut.append((0.75 * ax + 0.25 * bx, 0.75 * ay + 0.25 * by))
            cut.append((0.25 * ax + 0.75 * bx, 0.25 * ay + 0.75 * by))
        points = cut if closed else [*cut, points[-1]]
    return points


def roughen(points: list[PlanePoint], random: np.random.Generator, *, by: float) -> list[PlanePoint]:
    """Halve each side and shift its middle sideways, as coasts do."""
    out: list[PlanePoint] = []
    for (ax, ay), (bx, by_) in zip(points, points[1:] + points[:1], strict=True):
        length = math.hypot(bx - ax, by_ - ay)
        shift = float(random.normal(0, by)) * length
        out.append((ax, ay))
        out.append(((ax + bx) / 2 - (by_ - ay) / length * shift, (ay + by_) / 2 + (bx - ax) / length * shift))
    return out


def blob(random: np.random.Generator, middle: PlanePoint, radius: float, *, stretch: float = 1.0) -> Polygon:
    turns = np.linspace(0, 2 * math.pi, 14, endpoint=False)
    radii = radius * random.uniform(0.75, 1.15, len(turns))
    ring = [
        (middle[0] + stretch * r * math.cos(t), middle[1] + r * math.sin(t)) for r, t in zip(radii, turns, strict=True)
    ]
    return Polygon(smooth(ring, rounds=3, closed=True))


def grid_line(start: PlanePoint, end: PlanePoint, bend: float) -> LineString:
    """A street: nearly straight, bent sideways in its middle by `bend` metres."""
    (ax, ay), (bx, by) = start, end
    length = math.hypot(bx - ax, by - ay)
    across = (-(by - ay) / length, (bx - ax) / length)
    shares = np.linspace(0, 1, 9)
    return LineString(
        [
            (
                ax + (bx - ax) * s + across[0] * bend * math.sin(math.pi * s),
                ay + (by - ay) * s + across[1] * bend * math.sin(math.pi * s),
            )
            for s in shares
        ]
    )
