"""Travel times between places: matrices by period of the day, and the time a drive takes when it starts then."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array
from scipy.sparse.csgraph import dijkstra

from core.basics import Place, straight_metres
from core.roads.graph import OFF_NETWORK_METRES, Arcs, place_arcs
from core.roads.network import RoadNetwork
from core.roads.periods import PERIODS, PeriodClock

Int32 = NDArray[np.int32]
# A straight line becomes a road by about this factor, driven at a cautious town speed.
ESTIMATE_DETOUR = 1.4
ESTIMATE_METRES_PER_SECOND = 30 / 3.6
# Sources computed at once: bounds the memory of the distances to every junction.
SOURCES_AT_ONCE = 128


@dataclass(frozen=True)
class Leg:
    """One drive: seconds and metres; `estimated` when no road was found for it."""

    seconds: int
    metres: int
    estimated: bool


class Travel(Protocol):
    """What the planner needs to know about driving. Places are indices."""

    def leg(self, origin: int, destination: int, departs: int) -> Leg:
        """The drive that begins at epoch second `departs`."""
        ...


@dataclass(frozen=True, kw_only=True)
class TravelMatrix:
    """Driving among `places`.

    Attributes
    ----------
    seconds, metres : int32[len(PERIODS), n, n]
        From row to column, by period of the day.
    estimated : bool[n, n]
        True where the network gives no path and a straight line was used.
    """

    places: tuple[Place, ...]
    seconds: Int32
    metres: Int32
    estimated: NDArray[np.bool_]

    @cached_property
    def index(self) -> dict[Place, int]:
        return {place: number for number, place in enumerate(self.places)}


@dataclass(frozen=True)
class TimedTravel:
    """A matrix read with the clock: implements Travel.

    Crossing into another period, the rest of the drive goes on at that period's pace. So leaving
    later never arrives earlier (Ichoua, Gendreau & Potvin, EJOR 144, 2003, section 3).
    """

    matrix: TravelMatrix
    clock: PeriodClock

    def leg(self, origin: int, destination: int, departs: int) -> Leg:
        if origin == destination:
            return Leg(0, 0, False)
        period, end = self.clock.at(departs)
        # `item` gives Python's own numbers; this is asked thousands of times for one board.
        metres = self.matrix.metres.item(period, origin, destination)
        estimated = self.matrix.estimated.item(origin, destination)
        whole = self.matrix.seconds.item(period, origin, destination)
        if departs + whole <= end:
            return Leg(whole, metres, estimated)
        moment, share, takes = departs, 1.0, float(whole)
        while moment + share * takes > end:
            share -= (end - moment) / takes
            moment = end
            period, end = self.clock.at(moment)
            takes = float(self.matrix.seconds.item(period, origin, destination))
        return Leg(math.ceil(moment - departs + share * takes), metres, estimated)


def compute_matrix(network: RoadNetwork, places: Sequence[Place]) -> TravelMatrix:
    """Driving among all `places`, each named once.

    A place off the network, or one no road leads to, gets a straight-line estimate, flagged.
    """
    distinct = tuple(dict.fromkeys(places))
    arcs = place_arcs(network, distinct)
    targets = np.arange(arcs.first_place, arcs.count)
    seconds, metres = _shortest(network, arcs, targets, targets)
    return _with_estimates(distinct, arcs, seconds, metres)


def extend_matrix(network: RoadNetwork, known: TravelMatrix, places: Sequence[Place]) -> TravelMatrix:
    """The matrix with more places: only the new rows and columns are computed."""
    new = [place for place in dict.fromkeys(places) if place not in known.index]
    if not new:
        return known
    everything = known.places + tuple(new)
    arcs = place_arcs(network, everything)
    all_targets = np.arange(arcs.first_place, arcs.count)
    fresh = all_targets[len(known.places) :]
    out_seconds, out_metres = _shortest(network, arcs, fresh, all_targets)
    in_seconds, in_metres = _shortest(network, arcs, fresh, all_targets, backwards=True)
    size, old = len(everything), len(known.places)
    seconds, metres = (np.zeros((len(PERIODS), size, size)) for _ in range(2))
    seconds[:, :old, :old], metres[:, :old, :old] = known.seconds, known.metres
    seconds[:, old:, :], metres[:, old:, :] = out_seconds, out_metres
    seconds[:, :old, old:] = np.swapaxes(in_seconds, 1, 2)[:, :old]
    metres[:, :old, old:] = np.swapaxes(in_metres, 1, 2)[:, :old]
    result = _with_estimates(everything, arcs, seconds, metres)
    result.estimated[:old, :old] = known.estimated
    return result


def _shortest(
    network: RoadNetwork,
    arcs: Arcs,
    sources: NDArray[np.int64],
    targets: NDArray[np.int64],
    *,
    backwards: bool = False,
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Seconds and metres [period, source, target]; infinite where there is no path."""
    seconds = np.empty((len(PERIODS), len(sources), len(targets)))
    metres = np.empty_like(seconds)
    lengths = csr_array((arcs.metres + 1e-3, (arcs.tail, arcs.head)), shape=(arcs.count, arcs.count))
    if backwards:
        lengths = lengths.T.tocsr()
    for period in PERIODS:
        weights = arcs.weights(network, period)
        if backwards:
            weights = weights.T.tocsr()
        for first in range(0, len(sources), SOURCES_AT_ONCE):
            block = slice(first, first + SOURCES_AT_ONCE)
            time, before = dijkstra(weights, indices=sources[block], return_predecessors=True)
            seconds[period, block] = time[:, targets]
            metres[period, block] = _metres_along(before, lengths)[:, targets]
    return seconds, metres


def _metres_along(before: NDArray[np.int32], lengths: csr_array) -> NDArray[np.float64]:
    """Length of each shortest-path tree's branches, by doubling the steps taken towards the root.

    Parameters
    ----------
    before : int32[sources, nodes]
        Predecessor of each node, negative at the root and where there is no path.
    """
    nodes = np.arange(before.shape[1])
    parent = np.where(before < 0, nodes, before)
    step = np.zeros(before.shape)
    for row in range(before.shape[0]):
        reached = np.flatnonzero(before[row] >= 0)
        step[row, reached] = np.asarray(lengths[before[row, reached], reached]).ravel()
    total = step
    while True:
        further = np.take_along_axis(parent, parent, axis=1)
        total = total + np.where(parent == nodes, 0.0, np.take_along_axis(total, parent, axis=1))
        if (further == parent).all():
            return total
        parent = further


def _with_estimates(
    places: tuple[Place, ...], arcs: Arcs, seconds: NDArray[np.float64], metres: NDArray[np.float64]
) -> TravelMatrix:
    off = np.array([snap.off_metres > OFF_NETWORK_METRES for snap in arcs.snaps], dtype=bool)
    missing = ~np.isfinite(seconds).all(axis=0) | off[:, None] | off[None, :]
    np.fill_diagonal(missing, False)
    for i, j in np.argwhere(missing):
        guess = straight_metres(places[i], places[j]) * ESTIMATE_DETOUR
        metres[:, i, j] = guess
        seconds[:, i, j] = guess / ESTIMATE_METRES_PER_SECOND
    for table in (seconds, metres):
        table[:, np.arange(len(places)), np.arange(len(places))] = 0
    return TravelMatrix(
        places=places,
        seconds=np.ceil(seconds).astype(np.int32),
        metres=np.round(metres).astype(np.int32),
        estimated=missing,
    )
