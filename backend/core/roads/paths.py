"""The road taken between two places, for drawing."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely
from scipy.sparse.csgraph import dijkstra
from shapely.ops import substring

from core.basics import Place
from core.roads.graph import OFF_NETWORK_METRES, Arcs, place_arcs
from core.roads.network import RoadNetwork
from core.roads.periods import Period


@dataclass(frozen=True, kw_only=True)
class Path:
    """Points of the road as (longitude, latitude); `estimated` when it is only the straight line."""

    points: tuple[tuple[float, float], ...]
    estimated: bool


def path_between(network: RoadNetwork, origin: Place, destination: Place, period: Period) -> Path:
    """The fastest road in that period."""
    ends = ((origin.lon, origin.lat), (destination.lon, destination.lat))
    if origin == destination:
        return Path(points=(ends[0],), estimated=False)
    arcs = place_arcs(network, [origin, destination])
    if any(snap.off_metres > OFF_NETWORK_METRES for snap in arcs.snaps):
        return Path(points=ends, estimated=True)
    start, goal = arcs.first_place, arcs.first_place + 1
    times, befores = dijkstra(arcs.weights(network, period), indices=[start], return_predecessors=True)
    time, before = times[0], befores[0]
    if not np.isfinite(time[goal]):
        return Path(points=ends, estimated=True)
    chain = [goal]
    while chain[-1] != start:
        chain.append(int(before[chain[-1]]))
    return Path(points=(ends[0], *_trace(network, arcs, chain[::-1]), ends[1]), estimated=False)


def _trace(network: RoadNetwork, arcs: Arcs, chain: list[int]) -> list[tuple[float, float]]:
    between = arcs.arc_between()
    points: list[tuple[float, float]] = []
    for tail, head in pairwise(chain):
        arc = between[tail, head]
        line: shapely.LineString = network.lines[arcs.segment[arc]]
        piece = substring(line, arcs.begin[arc], arcs.end[arc])
        for lon, lat in network.degrees(np.array(piece.coords)):
            point = (round(float(lon), 6), round(float(lat), 6))
            if not points or points[-1] != point:
                points.append(point)
    return points
