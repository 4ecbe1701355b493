"""Which area a place lies in."""

import json
from collections.abc import Mapping
from typing import Any

import shapely
from shapely.geometry import shape

from core.basics import Place


def joined(first: Mapping[str, Any], second: Mapping[str, Any]) -> dict[str, Any]:
    """The outline of two areas together, as GeoJSON: a Polygon, or a MultiPolygon where they do not touch."""
    outline: dict[str, Any] = json.loads(shapely.to_geojson(shape(first).union(shape(second))))
    return outline


class AreaIndex:
    """Polygons by key. A place lies in the smallest polygon that holds it."""

    def __init__(self, polygons: Mapping[str, Mapping[str, Any]]) -> None:
        """
        Parameters
        ----------
        polygons
            GeoJSON Polygon or MultiPolygon geometries by the area's key.

        Raises
        ------
        ValueError
            When a geometry is not a valid polygon.
        """
        shapes = []
        for key, geometry in polygons.items():
            polygon = shape(geometry)
            if polygon.geom_type not in ("Polygon", "MultiPolygon") or not polygon.is_valid:
                raise ValueError(f"area {key} is not a valid polygon")
            shapes.append((polygon.area, key, polygon))
        shapes.sort(key=lambda row: (row[0], row[1]))
        self._keys = [key for _, key, _ in shapes]
        self._tree = shapely.STRtree([polygon for _, _, polygon in shapes])

    def at(self, place: Place) -> str | None:
        """Key of the smallest area that holds the place, or None."""
        if not self._keys:
            return None
        hits = self._tree.query(shapely.Point(place.lon, place.lat), predicate="intersects")
        return self._keys[int(min(hits))] if len(hits) else None
