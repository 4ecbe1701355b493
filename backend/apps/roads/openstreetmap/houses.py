"""House numbers of an OpenStreetMap extract."""

import re
from collections import Counter, defaultdict
from pathlib import Path
from typing import Any

import osmium

from apps.roads.openstreetmap.boundaries import Boundaries

_Key = tuple[str, str]


def read_houses(path: Path, boundaries: Boundaries | None = None) -> dict[str, Any]:
    """House numbers as GeoJSON, as `core.roads.AddressBook` takes them: of points and of buildings that carry both
    `addr:street` and `addr:housenumber`; with the postcode that most of a street's houses have.

    "12a" and "12b" are number 12: the first one found. A building is where the middle of its corners is.
    """
    rows = list(_read(path))
    districts = boundaries.districts_of([place for *_, place in rows]) if boundaries else [""] * len(rows)
    found: defaultdict[_Key, dict[int, tuple[float, float]]] = defaultdict(dict)
    codes: defaultdict[_Key, Counter[str]] = defaultdict(Counter)
    for (street, number, code, place), district in zip(rows, districts, strict=True):
        found[street, district].setdefault(number, place)
        if code:
            codes[street, district][code] += 1
    return {
        "type": "FeatureCollection",
        "features": [_houses(key, numbers, codes[key]) for key, numbers in sorted(found.items())],
    }


def _read(path: Path) -> "list[tuple[str, int, str, tuple[float, float]]]":
    rows = []
    for row in osmium.FileProcessor(str(path), osmium.osm.WAY | osmium.osm.NODE).with_locations():
        street, number = row.tags.get("addr:street"), _number(row.tags.get("addr:housenumber"))
        place = _middle(row) if street and number else None
        if street and number and place:
            rows.append((street, number, row.tags.get("addr:postcode") or "", place))
    return rows


def _number(text: str | None) -> int:
    """The first number of "12", "12a" or "12-16"; 0 when there is none."""
    digits = re.match(r"\d{1,4}(?!\d)", text or "")
    return int(digits.group()) if digits else 0


def _middle(row: Any) -> tuple[float, float] | None:
    nodes = row.nodes if isinstance(row, osmium.osm.Way) else [row]
    points = [(node.location.lon, node.location.lat) for node in nodes if node.location.valid()]
    # A building's outline ends where it begins.
    points = points[:-1] if len(points) > 1 and points[0] == points[-1] else points
    if not points:
        return None
    lons, lats = zip(*points, strict=True)
    return round(sum(lons) / len(lons), 6), round(sum(lats) / len(lats), 6)


def _houses(key: _Key, rows: dict[int, tuple[float, float]], codes: Counter[str]) -> dict[str, Any]:
    numbers, [(code, _count)] = sorted(rows), codes.most_common(1) or [("", 0)]
    return {
        "type": "Feature",
        "properties": {"street": key[0], "district": key[1], "postcode": code, "numbers": numbers},
        "geometry": {"type": "MultiPoint", "coordinates": [list(rows[number]) for number in numbers]},
    }
