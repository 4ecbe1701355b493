"""The road graph, built from a GeoJSON collection of line strings."""

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.sparse import csr_array
from scipy.sparse.csgraph import connected_components

from core.basics import Place
from core.basics.places import EARTH_RADIUS_METRES
from core.roads.periods import PERIODS, SPEED_SHARE

Ints = NDArray[np.int64]
Floats = NDArray[np.float64]


class BadRegion(ValueError):
    """The data cannot be a road network; the text says why."""


@dataclass(frozen=True, kw_only=True)
class Snap:
    """Where a place meets the network: a segment, how far along it, how far off it."""

    segment: int
    along_metres: float
    off_metres: float


@dataclass(frozen=True, kw_only=True)
class RoadNetwork:
    """Road segments between junctions.

    Attributes
    ----------
    nodes : float64[n, 2]
        Junctions as longitude, latitude.
    tail, head : int64[m]
        Junction at the first and last point of each segment.
    metres : float64[m]
    seconds : float64[len(PERIODS), m]
        Driving time over the whole segment, by period of the day.
    two_way : bool[m]
        False: only from tail to head.
    lines : shapely geometries [m]
        In metres on a local plane, see `flat`.
    names, classes : str[m]
    """

    nodes: Floats
    tail: Ints
    head: Ints
    metres: Floats
    seconds: Floats
    two_way: NDArray[np.bool_]
    lines: NDArray[np.object_]
    names: tuple[str, ...]
    classes: tuple[str, ...]
    origin: Place
    dropped: int = field(default=0)

    def flat(self, lonlat: Floats) -> Floats:
        """Degrees to metres east and north of the origin (equirectangular: fine for one region)."""
        return (np.asarray(lonlat, dtype=float) - (self.origin.lon, self.origin.lat)) * self._scale

    def degrees(self, flat: Floats) -> Floats:
        return np.asarray(flat, dtype=float) / self._scale + (self.origin.lon, self.origin.lat)

    @cached_property
    def _scale(self) -> Floats:
        return _scale_at(self.origin)

    @cached_property
    def tree(self) -> shapely.STRtree:
        return shapely.STRtree(self.lines)

    @cached_property
    def courses(self) -> tuple[Floats, ...]:
        """The points of each segment from its tail to its head, in metres on the local plane."""
        points, of = shapely.get_coordinates(self.lines, return_index=True)
        return tuple(np.split(points, np.flatnonzero(np.diff(of)) + 1))

    @cached_property
    def fingerprint(self) -> str:
        """A name for this network's data, to keep computed travel times under."""
        digest = hashlib.sha256(self.nodes.tobytes())
        for part in (self.tail, self.head, self.seconds):
            digest.update(np.ascontiguousarray(part).tobytes())
        return digest.hexdigest()[:16]

    def snap(self, places: Sequence[Place]) -> list[Snap]:
        """The nearest point of the network for each place."""
        if not places:
            return []
        points = shapely.points(self.flat(np.array([(place.lon, place.lat) for place in places])))
        segments = self.tree.nearest(points)
        lines = self.lines[segments]
        along, off = shapely.line_locate_point(lines, points), shapely.distance(lines, points)
        return [
            Snap(segment=int(segment), along_metres=float(a), off_metres=float(o))
            for segment, a, o in zip(segments, along, off, strict=True)
        ]


def _scale_at(origin: Place) -> Floats:
    per_degree = np.pi * EARTH_RADIUS_METRES / 180
    return np.array([per_degree * np.cos(np.radians(origin.lat)), per_degree])


def network_from_geojson(collection: Mapping[str, Any]) -> RoadNetwork:
    """Build the graph from a FeatureCollection.

    Each LineString is one segment; segments meet where their end points are equal to 6 decimals.
    Properties: `class` (see periods.SPEED_SHARE), `speed_kmh`, `name`, `oneway`. Of several
    unconnected parts the largest is kept.

    Raises
    ------
    BadRegion
        When there is no usable road in it.
    """
    rows = [row for feature in collection.get("features", []) if (row := _segment(feature))]
    if not rows:
        raise BadRegion("The file holds no road: it needs LineString features with a class and a speed.")
    ends = np.array([(row[0][0], row[0][-1]) for row in rows]).reshape(-1, 2)
    nodes, index = np.unique(np.round(ends, 6), axis=0, return_inverse=True)
    pairs = np.asarray(index).reshape(-1, 2)
    kept = _largest_part(len(nodes), pairs)
    rows = [row for row, keep in zip(rows, kept, strict=True) if keep]
    return _assemble(rows, nodes, pairs[kept], dropped=int((~kept).sum()))


_Row = tuple[Floats, dict[str, Any]]


def _segment(feature: Mapping[str, Any]) -> _Row | None:
    geometry, properties = feature.get("geometry") or {}, feature.get("properties") or {}
    if geometry.get("type") != "LineString" or properties.get("class") not in SPEED_SHARE:
        return None
    try:
        line = np.array(geometry["coordinates"], dtype=float)
        speed = float(properties["speed_kmh"])
    except (KeyError, TypeError, ValueError):
        return None
    if line.ndim != 2 or line.shape[0] < 2 or line.shape[1] < 2 or not speed > 0:
        return None
    return line[:, :2], dict(properties)


def _largest_part(count: int, pairs: Ints) -> NDArray[np.bool_]:
    links = csr_array((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(count, count))
    _parts, label = connected_components(links, directed=False)
    sizes = np.bincount(label)
    kept: NDArray[np.bool_] = label[pairs[:, 0]] == sizes.argmax()
    return kept


def _assemble(rows: list[_Row], nodes: Floats, pairs: Ints, *, dropped: int) -> RoadNetwork:
    used, index = np.unique(pairs, return_inverse=True)
    nodes = nodes[used]
    pairs = np.asarray(index).reshape(-1, 2)
    origin = Place(float(nodes[:, 0].mean()), float(nodes[:, 1].mean()))
    scale = _scale_at(origin)
    lines = np.array([shapely.LineString((line - (origin.lon, origin.lat)) * scale) for line, _ in rows])
    metres = np.maximum(shapely.length(lines), 0.1)
    classes = tuple(str(properties["class"]) for _, properties in rows)
    free = np.array([float(properties["speed_kmh"]) / 3.6 for _, properties in rows])
    share = np.array([SPEED_SHARE[name] for name in classes]).T
    assert share.shape[0] == len(PERIODS)
    return RoadNetwork(
        nodes=nodes,
        tail=pairs[:, 0],
        head=pairs[:, 1],
        metres=metres,
        seconds=metres / (free * share),
        two_way=np.array([not properties.get("oneway") for _, properties in rows]),
        lines=lines,
        names=tuple(str(properties.get("name") or "") for _, properties in rows),
        classes=classes,
        origin=origin,
        dropped=dropped,
    )
