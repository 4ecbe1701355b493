"""House numbers of the made-up city: along each street, odd on the left and even on the right."""

from collections import defaultdict
from collections.abc import Iterator
from typing import Any

import numpy as np
import shapely
from shapely.geometry import shape
from shapely.ops import linemerge

from core.basics.places import EARTH_RADIUS_METRES

METRES_BETWEEN_NUMBERS = 9.0
SETBACK_METRES = 12.0


def numbered(streets: dict[str, Any]) -> Iterator[dict[str, Any]]:
    """By street of a FeatureCollection of lines, a MultiPoint feature with `street`, `district` and `numbers`."""
    parts: defaultdict[tuple[str, str], list[shapely.LineString]] = defaultdict(list)
    for feature in streets["features"]:
        properties = feature["properties"]
        if properties.get("name"):
            parts[properties["name"], properties.get("district") or ""].append(shape(feature["geometry"]))
    starts = np.array([line.coords[0] for lines in parts.values() for line in lines])
    origin = starts.mean(axis=0)
    per_degree = np.pi * EARTH_RADIUS_METRES / 180
    scale = np.array([per_degree * np.cos(np.radians(origin[1])), per_degree])
    for (street, district), lines in sorted(parts.items()):
        line = _longest(lines, origin, scale)
        numbers = range(1, max(1, int(line.length / METRES_BETWEEN_NUMBERS)) + 1)
        places = [_beside(line, number) / scale + origin for number in numbers]
        yield {
            "type": "Feature",
            "properties": {"street": street, "district": district, "numbers": list(numbers)},
            "geometry": {
                "type": "MultiPoint",
                "coordinates": [[round(float(lon), 6), round(float(lat), 6)] for lon, lat in places],
            },
        }


def _longest(lines: list[shapely.LineString], origin: np.ndarray, scale: np.ndarray) -> shapely.LineString:
    flat = [shapely.LineString((np.array(line.coords) - origin) * scale) for line in lines]
    merged = linemerge(flat) if len(flat) > 1 else flat[0]
    pieces = list(merged.geoms) if merged.geom_type == "MultiLineString" else [merged]
    return max(pieces, key=lambda piece: piece.length)


def _beside(line: shapely.LineString, number: int) -> np.ndarray:
    along = number * METRES_BETWEEN_NUMBERS
    at = np.array(line.interpolate(along).coords[0])
    ahead = np.array(line.interpolate(min(along + 1, line.length)).coords[0])
    behind = np.array(line.interpolate(max(along - 1, 0)).coords[0])
    direction = ahead - behind
    length = float(np.hypot(*direction)) or 1.0
    across = np.array([-direction[1], direction[0]]) / length
    return np.asarray(at + across * (SETBACK_METRES if number % 2 else -SETBACK_METRES))
