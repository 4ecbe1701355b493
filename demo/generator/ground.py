"""Coast, rivers, hills, districts: what the roads have to live with."""

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import LineString, MultiPoint, Point, Polygon
from shapely.geometry.base import BaseGeometry

from demo.generator.plane import PlanePoint, blob, roughen, smooth

DISTRICTS: dict[str, PlanePoint] = {
    "Old Quay": (400, -250),
    "Ropewalk": (-2300, -250),
    "Saltmarsh": (3100, 300),
    "Millrace": (300, 1700),
    "Northlock": (600, 3900),
    "Kilnfield": (-2700, 1900),
    "Orchard Rise": (-3100, 4200),
    "Airfield": (4700, 3000),
    "Gull Point": (5100, -700),
    "Westcliff": (-4800, 600),
}
VILLAGES: dict[str, PlanePoint] = {"Hale": (-8700, 3500), "Tarn Cross": (-5300, 9000), "Little Ombury": (5300, 8700)}

_COAST: list[PlanePoint] = [
    (-7000, -1800), (-5600, -1300), (-4200, -1800), (-2600, -1500), (-1500, -1950), (-500, -1500), (600, -1250),
    (1700, -1700), (2600, -1350), (3800, -2000), (5600, -2200), (7000, -1000), (8300, 800), (9600, 2600),
    (9000, 5200), (9800, 8200), (8000, 10800), (5200, 12200), (1800, 11900), (-1200, 13000), (-4800, 12000),
    (-8200, 11200), (-11000, 9000), (-12500, 5800), (-11600, 2500), (-10000, 300), (-8600, -1500),
]  # fmt: skip
_RIVERS: dict[str, list[PlanePoint]] = {
    "River Varn": [
        (-2600, 11500), (-1500, 8000), (-1000, 5600), (-1350, 3000), (-900, 1000), (-750, -600), (-600, -2600),
    ],
    "Salt Brook": [(2500, 4700), (2150, 3000), (1750, 1200), (1500, -300), (1650, -2600)],
}  # fmt: skip
_RING: list[PlanePoint] = [
    (-5600, -900), (-6000, 1500), (-5300, 4300), (-3300, 6000), (0, 6500), (3000, 6100), (5600, 4700), (6500, 2300),
    (6300, 0), (5900, -1500),
]  # fmt: skip
EMBANKMENT = 110.0


@dataclass(frozen=True)
class Ground:
    """All in metres of the plane. `zones` are the built-up parts inside the ring, split by the rivers."""

    land: Polygon
    rivers: dict[str, LineString]
    tarn: Polygon
    hills: list[Polygon]
    runway: Polygon
    pier: LineString
    ring: LineString
    zones: list[Polygon]
    cells: dict[str, BaseGeometry]

    @property
    def water(self) -> BaseGeometry:
        return shapely.union_all([line.buffer(EMBANKMENT, cap_style="flat") for line in self.rivers.values()])


def make_ground(random: np.random.Generator) -> Ground:
    coast = _COAST
    for strength in (0.10, 0.08, 0.05):
        coast = roughen(coast, random, by=strength)
    land = Polygon(smooth(coast, rounds=2, closed=True))
    rivers = {name: LineString(smooth(points, rounds=3, closed=False)) for name, points in _RIVERS.items()}
    ring_line = LineString(smooth(_RING, rounds=3, closed=False))
    # Closed far out at sea; the coast cuts it off.
    inside = Polygon([*ring_line.coords, (5900, -6000), (-5600, -6000)])
    built = inside.intersection(land.buffer(-140))
    barrier = shapely.union_all([line.buffer(EMBANKMENT, cap_style="flat") for line in rivers.values()])
    zones = [part for part in _polygons(built.difference(barrier)) if part.area > 300_000]
    return Ground(
        land=land,
        rivers={name: _on_land(line, land) for name, line in rivers.items()},
        tarn=blob(random, (2550, 4900), 260, stretch=1.3),
        hills=[blob(random, (-7800, 7300), radius, stretch=1.4) for radius in (2600, 1700, 800)]
        + [blob(random, (-9600, 5900), 900)],
        runway=LineString([(4300, 4050), (5900, 3350)]).buffer(60, cap_style="flat"),
        pier=LineString([(1050, -1250), (1000, -2150)]),
        ring=ring_line.intersection(land),
        zones=zones,
        cells=_cells(land),
    )


def _cells(land: Polygon) -> dict[str, BaseGeometry]:
    """The part of the island nearest to each district or village."""
    middles = DISTRICTS | VILLAGES
    found = shapely.voronoi_polygons(MultiPoint(list(middles.values())), extend_to=land)
    cells: dict[str, BaseGeometry] = {}
    for cell in found.geoms:
        name = next(name for name, middle in middles.items() if cell.contains(Point(middle)))
        cells[name] = _polygons(cell.intersection(land))[0]
    return cells


def _polygons(geometry: BaseGeometry) -> list[Polygon]:
    parts = list(getattr(geometry, "geoms", [geometry]))
    return sorted((part for part in parts if isinstance(part, Polygon)), key=lambda part: -part.area)


def _on_land(line: LineString, land: Polygon) -> LineString:
    clipped = line.intersection(land)
    parts = list(getattr(clipped, "geoms", [clipped]))
    return max(parts, key=lambda part: part.length)
