"""The road taken between two places: for drawing, and street by street for whoever drives it."""

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
import shapely
from scipy.sparse.csgraph import dijkstra
from shapely.ops import substring

from core.basics import Place
from core.roads.graph import OFF_NETWORK_METRES, Arcs, place_arcs
from core.roads.network import Floats, RoadNetwork
from core.roads.periods import Period


@dataclass(frozen=True, kw_only=True)
class Way:
    """A stretch of one street (its name, or empty), and how one turns into it."""

    street: str
    metres: int
    turn: str


@dataclass(frozen=True, kw_only=True)
class Path:
    """Points of the road as (longitude, latitude); `estimated` when it is only the straight line."""

    points: tuple[tuple[float, float], ...]
    estimated: bool
    ways: tuple[Way, ...] = ()


# Less than this is going on, more is turning, still more is turning back (degrees).
STRAIGHT_ON, SHARP, BACK = 25.0, 120.0, 165.0


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
    pieces = _pieces(network, arcs, chain[::-1])
    points = (ends[0], *_points(network, pieces), ends[1])
    return Path(points=points, estimated=False, ways=_ways(pieces))


@dataclass(frozen=True, kw_only=True)
class _Piece:
    street: str
    metres: float
    line: Floats  # metres on the local plane, in the direction of travel


def _pieces(network: RoadNetwork, arcs: Arcs, chain: list[int]) -> list[_Piece]:
    between = arcs.arc_between()
    found = []
    for tail, head in pairwise(chain):
        arc = between[tail, head]
        segment = arcs.segment[arc]
        whole: shapely.LineString = network.lines[segment]
        line = np.array(substring(whole, arcs.begin[arc], arcs.end[arc]).coords)
        found.append(_Piece(street=network.names[segment], metres=float(arcs.metres[arc]), line=line))
    return found


def _points(network: RoadNetwork, pieces: list[_Piece]) -> list[tuple[float, float]]:
    points: list[tuple[float, float]] = []
    for piece in pieces:
        for lon, lat in network.degrees(piece.line):
            point = (round(float(lon), 6), round(float(lat), 6))
            if not points or points[-1] != point:
                points.append(point)
    return points


def _ways(pieces: list[_Piece]) -> tuple[Way, ...]:
    """Street by street: pieces of one street that follow each other are one."""
    found: list[Way] = []
    before: _Piece | None = None
    for piece in pieces:
        if len(piece.line) < 2 or piece.metres < 1:
            continue
        if found and before is not None and piece.street == found[-1].street:
            found[-1] = replace(found[-1], metres=found[-1].metres + round(piece.metres))
        else:
            turn = _turn(before, piece) if before is not None else _heading(piece)
            found.append(Way(street=piece.street, metres=round(piece.metres), turn=turn))
        before = piece
    return tuple(found)


def _heading(piece: _Piece) -> str:
    east, north = piece.line[1] - piece.line[0]
    eighth = round(np.degrees(np.arctan2(east, north)) / 45) % 8
    names = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
    return f"head {names[eighth]}"


def _turn(before: _Piece, piece: _Piece) -> str:
    """How one street goes on into the next: the angle between the last and the first metres."""
    (x1, y1), (x2, y2) = before.line[-1] - before.line[-2], piece.line[1] - piece.line[0]
    angle = float(np.degrees(np.arctan2(x1 * y2 - y1 * x2, x1 * x2 + y1 * y2)))
    if abs(angle) < STRAIGHT_ON:
        return "straight on"
    if abs(angle) > BACK:
        return "turn back"
    side = "left" if angle > 0 else "right"
    return f"sharp {side}" if abs(angle) > SHARP else side
