"""Administrative boundaries of an OpenStreetMap extract: they tell towns apart, and may become areas."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import Any

import osmium
import shapely
from shapely import wkb

# Districts and towns; what is larger (counties, states) tells no streets apart.
LEVELS = range(6, 12)
DISTRICT_LEVELS = range(8, 12)
# About fifty metres: boundaries are drawn, and looked up by the middles of streets.
TOLERANCE = 0.0005


@dataclass(frozen=True)
class Boundary:
    """A named boundary and its level (larger: a smaller unit)."""

    name: str
    level: int
    outline: shapely.Geometry


@dataclass(frozen=True)
class Boundaries:
    """The boundaries of a region."""

    rows: Sequence[Boundary]

    def __len__(self) -> int:
        return len(self.rows)

    @cached_property
    def _districts(self) -> list[Boundary]:
        """The smallest ones first."""
        rows = [row for row in self.rows if row.level in DISTRICT_LEVELS]
        return sorted(rows, key=lambda row: shapely.area(row.outline))

    def districts_of(self, points: Sequence[Sequence[float]]) -> list[str]:
        """The name of the smallest district around each point (longitude, latitude); empty where there is none."""
        found = [""] * len(points)
        if not self._districts or not points:
            return found
        tree = shapely.STRtree([row.outline for row in self._districts])
        inside, around = tree.query(shapely.points([tuple(point[:2]) for point in points]), predicate="within")
        smallest: dict[int, int] = {}
        for point, district in zip(inside.tolist(), around.tolist(), strict=True):
            smallest[point] = min(district, smallest.get(point, district))
        for point, district in smallest.items():
            found[point] = self._districts[district].name
        return found

    def geojson(self) -> dict[str, Any]:
        return {
            "type": "FeatureCollection",
            "features": [
                {
                    "type": "Feature",
                    "properties": {"name": row.name, "level": row.level},
                    "geometry": shapely.geometry.mapping(row.outline),
                }
                for row in self.rows
            ],
        }


def read_boundaries(path: Path) -> Boundaries:
    """Those with a name, by level and name. What cannot be closed is left out."""
    factory, rows = osmium.geom.WKBFactory(), []
    wanted = osmium.filter.TagFilter(("boundary", "administrative"))
    for row in osmium.FileProcessor(str(path)).with_areas(wanted).with_filter(wanted):
        if not isinstance(row, osmium.osm.Area):
            continue
        name, level = row.tags.get("name"), row.tags.get("admin_level") or ""
        if name and level.isdigit() and int(level) in LEVELS:
            outline = wkb.loads(factory.create_multipolygon(row), hex=True)
            simple = shapely.simplify(outline, TOLERANCE)
            rows.append(Boundary(name, int(level), simple if simple.is_valid else outline))
    return Boundaries(sorted(rows, key=lambda row: (row.level, row.name)))
