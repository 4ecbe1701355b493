"""The roads of an OpenStreetMap extract (.osm.pbf or .osm)."""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import osmium

from apps.roads.openstreetmap.boundaries import Boundaries
from core.roads import BadRegion, RoadNetwork, network_from_geojson

# Our class and the speed (km/h) taken where the map names none, by the map's class of road.
ROADS: dict[str, tuple[str, int]] = {
    "motorway": ("ring", 110),
    "motorway_link": ("ring", 60),
    "trunk": ("ring", 90),
    "trunk_link": ("ring", 50),
    "primary": ("main", 70),
    "primary_link": ("main", 45),
    "secondary": ("main", 60),
    "secondary_link": ("main", 40),
    "tertiary": ("street", 50),
    "tertiary_link": ("street", 35),
    "unclassified": ("street", 45),
    "residential": ("street", 30),
    "living_street": ("lane", 10),
    "service": ("lane", 15),
    "road": ("street", 40),
}
_FORBIDDEN = {"no", "private", "agricultural", "forestry"}
_WORDS_FOR_SPEED = {"walk": 7.0, "none": 130.0}
MILE = 1.609344


@dataclass
class Report:
    """What was read, and what was left out and why."""

    segments: int = 0
    kilometres: float = 0.0
    dropped: Counter[str] = field(default_factory=Counter)

    def lines(self) -> list[str]:
        kept = f"{self.segments} road segments, {self.kilometres:.0f} km"
        return [kept, *(f"left out: {count} {why}" for why, count in self.dropped.most_common())]


def read_roads(path: Path, boundaries: Boundaries | None = None) -> tuple[dict[str, Any], RoadNetwork, Report]:
    """Roads as GeoJSON, the network they make, and a report. A road is in the district of its middle.

    Ways are cut where they meet. Speeds are the map's `maxspeed`, else usual ones; `oneway`, roundabouts
    and motorways are minded, turn restrictions are not. Of several unconnected parts the largest is kept.

    Raises
    ------
    BadRegion
        When the file cannot be read, or holds no road a car may take.
    """
    report = Report()
    try:
        features = list(_features(path, report))
    except (RuntimeError, OSError, ValueError) as error:
        raise BadRegion(f"{path.name} is no OpenStreetMap extract that can be read: {error}") from error
    _name_districts(features, boundaries)
    collection = {"type": "FeatureCollection", "features": features}
    if not features:
        raise BadRegion(f"{path.name} holds no road that a car may take.")
    network = network_from_geojson(collection)
    report.segments, report.kilometres = len(network.tail), float(network.metres.sum()) / 1000
    if network.dropped:
        report.dropped["segments apart from the largest connected part"] = network.dropped
    return collection, network, report


def _name_districts(features: list[dict[str, Any]], boundaries: Boundaries | None) -> None:
    if not boundaries:
        return
    middles = [row["geometry"]["coordinates"][len(row["geometry"]["coordinates"]) // 2] for row in features]
    for row, district in zip(features, boundaries.districts_of(middles), strict=True):
        # Stretches of one way share their properties, and may lie in two districts.
        row["properties"] = row["properties"] | {"district": row["properties"]["district"] or district}


def _features(path: Path, report: Report) -> Iterator[dict[str, Any]]:
    """One LineString per stretch between junctions."""
    used: Counter[int] = Counter()
    ways = []
    for way in osmium.FileProcessor(str(path), osmium.osm.WAY | osmium.osm.NODE).with_locations():
        if not isinstance(way, osmium.osm.Way) or "highway" not in way.tags:
            continue
        tags = {tag.k: tag.v for tag in way.tags}
        why = _why_not(tags)
        if why:
            report.dropped[why] += 1
            continue
        nodes = [(node.ref, node.lon, node.lat) for node in way.nodes if node.location.valid()]
        if len(nodes) < len(way.nodes):
            report.dropped["ways with points outside the extract (kept as far as they are in it)"] += 1
        if len(nodes) < 2:
            continue
        used.update(node[0] for node in nodes)
        # Ends count twice: a way always ends in a junction.
        used.update((nodes[0][0], nodes[-1][0]))
        ways.append((tags, nodes))
    for tags, nodes in ways:
        yield from _stretches(tags, nodes, used)


def _why_not(tags: dict[str, str]) -> str | None:
    if tags["highway"] not in ROADS:
        return f"ways not for cars ({tags['highway']})" if tags["highway"] in _COMMON else "ways not for cars"
    access = tags.get("motor_vehicle", tags.get("vehicle", tags.get("access", "yes")))
    if access in _FORBIDDEN:
        return "roads closed to cars"
    return "areas, not roads" if tags.get("area") == "yes" else None


_COMMON = {"footway", "cycleway", "path", "track", "steps", "pedestrian", "construction"}


def _stretches(
    tags: dict[str, str], nodes: list[tuple[int, float, float]], used: Counter[int]
) -> Iterator[dict[str, Any]]:
    kind, usual = ROADS[tags["highway"]]
    direction = _direction(tags)
    if direction < 0:
        nodes = nodes[::-1]
    properties = {
        "class": kind,
        "speed_kmh": round(_speed(tags.get("maxspeed", "")) or usual, 1),
        "name": tags.get("name", ""),
        "oneway": direction != 0,
        "district": tags.get("addr:suburb", ""),
    }
    line = [nodes[0]]
    for node in nodes[1:]:
        line.append(node)
        if used[node[0]] > 1:
            points = [[round(lon, 7), round(lat, 7)] for _ref, lon, lat in line]
            yield {
                "type": "Feature",
                "properties": properties,
                "geometry": {"type": "LineString", "coordinates": points},
            }
            line = [node]


def _direction(tags: dict[str, str]) -> int:
    """1: one way as drawn, -1: one way against it, 0: both ways."""
    oneway = tags.get("oneway", "")
    if oneway in ("-1", "reverse"):
        return -1
    if oneway in ("yes", "true", "1"):
        return 1
    if oneway in ("no", "false", "0"):
        return 0
    return 1 if tags.get("junction") == "roundabout" or tags["highway"] in ("motorway", "motorway_link") else 0


def _speed(text: str) -> float | None:
    """Kilometres an hour from "50", "30 mph", "walk"; None when it says nothing usable."""
    plain = text.split(";")[0].strip().lower()
    if plain in _WORDS_FOR_SPEED:
        return _WORDS_FOR_SPEED[plain]
    number, _, unit = plain.partition(" ")
    if not number.replace(".", "", 1).isdigit() or float(number) <= 0:
        return None
    return float(number) * (MILE if unit == "mph" else 1.0)
