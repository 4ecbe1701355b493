"""The road taken between two places: for drawing, and street by street for whoever drives it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
import shapely
from scipy.sparse.csgraph import dijkstra
from shapely.ops import substring

from core.basics import Place
from core.roads.graph import OFF_NETWORK_METRES, Arcs, place_arcs
from core.roads.network import Floats, Ints, RoadNetwork
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


@dataclass(frozen=True, kw_only=True)
class Errand:
    """From where to where, in which period of the day."""

    origin: Place
    destination: Place
    period: Period


def path_between(network: RoadNetwork, origin: Place, destination: Place, period: Period) -> Path:
    """The fastest road in that period."""
    return paths_between(network, [Errand(origin=origin, destination=destination, period=period)])[0]


def paths_between(network: RoadNetwork, errands: Sequence[Errand]) -> list[Path]:
    """The fastest road of each errand, in their order; many at once share their searches."""
    places = list(dict.fromkeys(place for errand in errands for place in (errand.origin, errand.destination)))
    arcs = place_arcs(network, places)
    node = {place: arcs.first_place + number for number, place in enumerate(places)}
    between = arcs.arc_between()
    found: dict[Errand, Path] = {}
    for period in sorted({errand.period for errand in errands}):
        asked = [errand for errand in dict.fromkeys(errands) if errand.period == period]
        starts = list(dict.fromkeys(node[errand.origin] for errand in asked))
        times, befores = dijkstra(arcs.weights(network, period), indices=starts, return_predecessors=True)
        for errand in asked:
            row, goal = starts.index(node[errand.origin]), node[errand.destination]
            chain = _chain_to(befores[row], goal, node[errand.origin]) if np.isfinite(times[row][goal]) else None
            found[errand] = _path(network, arcs, between, errand, chain)
    return [found[errand] for errand in errands]


def _chain_to(before: Ints, goal: int, start: int) -> list[int]:
    """Nodes from the start to the goal."""
    chain = [goal]
    while chain[-1] != start:
        chain.append(int(before[chain[-1]]))
    return chain[::-1]


def _path(
    network: RoadNetwork, arcs: Arcs, between: Mapping[tuple[int, int], int], errand: Errand, chain: list[int] | None
) -> Path:
    ends = ((errand.origin.lon, errand.origin.lat), (errand.destination.lon, errand.destination.lat))
    if errand.origin == errand.destination:
        return Path(points=(ends[0],), estimated=False)
    if chain is None:
        return Path(points=ends, estimated=True)
    snaps = (arcs.snaps[node - arcs.first_place] for node in (chain[0], chain[-1]))
    if any(snap.off_metres > OFF_NETWORK_METRES for snap in snaps):
        return Path(points=ends, estimated=True)
    pieces = _pieces(network, arcs, between, chain)
    points = (ends[0], *_points(network, pieces), ends[1])
    return Path(points=points, estimated=False, ways=_ways(pieces))


@dataclass(frozen=True, kw_only=True)
class _Piece:
    street: str
    metres: float
    line: Floats  # metres on the local plane, in the direction of travel


def _pieces(network: RoadNetwork, arcs: Arcs, between: Mapping[tuple[int, int], int], chain: list[int]) -> list[_Piece]:
    found = []
    for tail, head in pairwise(chain):
        arc = between[tail, head]
        segment = arcs.segment[arc]
        line = _course(network, int(segment), float(arcs.begin[arc]), float(arcs.end[arc]))
        found.append(_Piece(street=network.names[segment], metres=float(arcs.metres[arc]), line=line))
    return found


def _course(network: RoadNetwork, segment: int, begin: float, end: float) -> Floats:
    """Points of a segment from one of its metres to another, either way round."""
    length = network.metres[segment]
    if {begin, end} == {0.0, length}:
        return network.courses[segment] if end > begin else network.courses[segment][::-1]
    whole: shapely.LineString = network.lines[segment]
    return np.array(substring(whole, begin, end).coords)


def _points(network: RoadNetwork, pieces: list[_Piece]) -> list[tuple[float, float]]:
    """Degrees to six decimals; a point that comes twice, where pieces meet, is one."""
    rows = np.round(network.degrees(np.concatenate([piece.line for piece in pieces])), 6).tolist()
    points = [(lon, lat) for lon, lat in rows]
    return [point for point, before in zip(points, [None, *points], strict=False) if point != before]


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
