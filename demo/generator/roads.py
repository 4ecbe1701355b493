"""Roads on the ground: ring, embankments, three bridges, district grids, village lanes."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from demo.generator.ground import DISTRICTS, EMBANKMENT, VILLAGES, Ground
from demo.generator.names import StreetNames
from demo.generator.plane import grid_line, smooth

SPEED = {"bridge": 50, "ring": 80, "main": 50, "street": 36, "lane": 60}
LEFT_OUT = 0.10
SHORTEST_METRES = 4.0


@dataclass(frozen=True)
class Road:
    line: LineString
    name: str
    kind: str
    district: str


def make_roads(ground: Ground, random: np.random.Generator) -> list[Road]:
    """Segments between junctions, each with its name, class and district."""
    names = StreetNames(random)
    roads = list(_ring_and_bridges(ground))
    for zone in ground.zones:
        roads += _zone_edges(ground, zone)
        for district in DISTRICTS:
            cell = ground.cells[district].intersection(zone)
            if cell.area > 150_000:
                roads += _cell_edges(ground, zone, cell, district)
                roads += _grid(cell, district, names, random, spacing=random.uniform(190, 250))
    for village, middle in VILLAGES.items():
        patch = Point(middle).buffer(800).intersection(ground.land.buffer(-100))
        roads += _grid(patch, village, names, random, spacing=210)
    roads += _country(ground, random)
    return _cut_at_junctions(roads, ground, random)


def _ring_and_bridges(ground: Ground) -> Iterator[Road]:
    water = ground.water
    for part in _lines(ground.ring.difference(water)):
        yield Road(part, "Ring Road", "ring", "")
    for part in _lines(ground.ring.intersection(water)):
        yield Road(part, "Lock Bridge", "bridge", "Northlock")
    for name, district, ends in (
        ("Quay Bridge", "Old Quay", ((-1300, 150), (-300, 50))),
        ("Salt Bridge", "Saltmarsh", ((1200, 700), (2200, 750))),
    ):
        for part in _lines(LineString(ends).intersection(water)):
            yield Road(part, name, "bridge", district)


def _zone_edges(ground: Ground, zone: Polygon) -> Iterator[Road]:
    """Along the rivers and the shore; where the zone ends at the ring, the ring is there already."""
    off_ring = zone.exterior.difference(ground.ring.buffer(2))
    for district, cell in ground.cells.items():
        for part in _lines(off_ring.intersection(cell)):
            middle = part.interpolate(0.5, normalized=True)
            river = min(ground.rivers.items(), key=lambda row: row[1].distance(middle))
            by_river = river[1].distance(middle) < EMBANKMENT + 15
            name = f"{district} Embankment" if by_river else f"{district} Shore Road"
            yield Road(part, name, "main", district)


def _cell_edges(ground: Ground, zone: Polygon, cell: BaseGeometry, district: str) -> Iterator[Road]:
    inner = cell.boundary.difference(zone.exterior.buffer(2)).intersection(zone)
    for other, other_cell in ground.cells.items():
        # Each edge lies between two cells: the one first in the alphabet draws it.
        if other <= district:
            continue
        for part in _lines(inner.intersection(other_cell.boundary.buffer(1))):
            if part.length > 60:
                yield Road(_reach(part), f"{other} Road", "main", district)


def _reach(line: LineString) -> LineString:
    """The line a little longer at both ends, so that it meets what it was cut at."""
    (ax, ay), (bx, by) = line.coords[0], line.coords[-1]
    length = math.hypot(bx - ax, by - ay) or 1
    dx, dy = (bx - ax) / length * 6, (by - ay) / length * 6
    return LineString([(ax - dx, ay - dy), *line.coords, (bx + dx, by + dy)])


def _grid(
    cell: BaseGeometry, district: str, names: StreetNames, random: np.random.Generator, *, spacing: float
) -> Iterator[Road]:
    """Two families of streets, turned by an angle of the district's own."""
    angle = random.uniform(-0.5, 0.5)
    middle, reach = cell.centroid, 4000
    reaching = cell.buffer(4)
    for turn, gap in ((angle, spacing), (angle + math.pi / 2, spacing * 1.35)):
        along, across = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
        for number in range(-20, 21):
            offset = (number + random.uniform(-0.2, 0.2)) * gap
            x, y = middle.x + across[0] * offset, middle.y + across[1] * offset
            line = grid_line(
                (x - along[0] * reach, y - along[1] * reach),
                (x + along[0] * reach, y + along[1] * reach),
                float(random.normal(0, 60)),
            )
            parts = [part for part in _lines(line.intersection(reaching)) if part.length > 150]
            if parts:
                name = names.take()
                yield from (Road(part, name, "street", district) for part in parts)


def _country(ground: Ground, random: np.random.Generator) -> Iterator[Road]:
    """From each village to the ring, and between the two in the west."""
    links = [(name, middle, _nearest_on_ring(ground, middle)) for name, middle in VILLAGES.items()]
    links.append(("Hale", VILLAGES["Hale"], VILLAGES["Tarn Cross"]))
    for name, start, end in links:
        bend = [
            (
                start[0] + (end[0] - start[0]) * share + float(random.normal(0, 220)),
                start[1] + (end[1] - start[1]) * share + float(random.normal(0, 220)),
            )
            for share in (0.25, 0.5, 0.75)
        ]
        line = LineString(smooth([start, *bend, end], rounds=3, closed=False))
        yield Road(_reach(line), f"{name} Road" if end not in VILLAGES.values() else "Tarn Lane", "lane", name)


def _nearest_on_ring(ground: Ground, middle: tuple[float, float]) -> tuple[float, float]:
    at = ground.ring.interpolate(ground.ring.project(Point(middle)))
    return (at.x, at.y)


def _cut_at_junctions(roads: list[Road], ground: Ground, random: np.random.Generator) -> list[Road]:
    """Node all lines together; each piece keeps the name of the road it came from."""
    lines = [road.line for road in roads]
    noded = shapely.union_all(shapely.set_precision(lines, 0.5), grid_size=0.5)
    tree = shapely.STRtree(lines)
    barrier = shapely.union_all([line.buffer(EMBANKMENT - 20) for line in ground.rivers.values()])
    closed = shapely.union_all([ground.tarn.buffer(30), ground.runway.buffer(60)])
    segments = []
    for piece in _lines(noded):
        middle = piece.interpolate(0.5, normalized=True)
        # Of roads that run on top of each other the first in the list wins: ring before street.
        near = tree.query(middle, predicate="dwithin", distance=1.5)
        road = roads[int(min(near))] if len(near) else roads[int(tree.nearest(middle))]
        if road.kind not in ("bridge", "ring") and piece.intersects(barrier):
            continue
        if road.kind == "street" and piece.intersects(closed):
            continue
        left_out = road.kind == "street" and random.random() < LEFT_OUT
        if piece.length >= SHORTEST_METRES and not left_out:
            segments.append(Road(piece, road.name, road.kind, road.district))
    return segments


def _lines(geometry: BaseGeometry) -> list[LineString]:
    merged = shapely.line_merge(geometry)
    parts = list(getattr(merged, "geoms", [merged]))
    return [part for part in parts if isinstance(part, LineString) and part.length > 1]
