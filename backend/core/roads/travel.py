"""Travel times between places: matrices by period of the day, and the time a drive takes when it starts then."""

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
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
from core.roads.periods import PERIODS, Period, PeriodClock

Int32 = NDArray[np.int32]
# A straight line becomes a road by about this factor, driven at a cautious town speed.
ESTIMATE_DETOUR = 1.4
ESTIMATE_METRES_PER_SECOND = 30 / 3.6
# Sources computed at once, and distances held at once: they bound the memory of one job.
SOURCES_AT_ONCE = 128
DISTANCES_AT_ONCE = 16_000_000


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

    def tables(self, *, start: int, end: int) -> "TravelTables":
        """The same driving as tables, for everything that happens between two moments."""
        ...


@dataclass(frozen=True, kw_only=True)
class TravelTables:
    """Driving between all places, for whoever computes with whole tables.

    Attributes
    ----------
    seconds : int32[layers, n, n]
    metres : int32[n, n]
    spans : int64[k, 3]
        From, until, layer: which layer holds when, in order and without gaps. The first begins at
        the beginning of time and the last never ends.
    """

    seconds: Int32
    metres: Int32
    spans: NDArray[np.int64]


# Before and after everything.
_ALWAYS = 1 << 50


def latest_departure(travel: Travel, origin: int, destination: int, by: int) -> int:
    """The latest moment at which a drive can begin so as to arrive by then.

    Leaving later never arrives earlier, so it is found by halving.
    """
    guess = by - travel.leg(origin, destination, by).seconds
    if guess + travel.leg(origin, destination, guess).seconds <= by:
        low, step = guess, 1
        while low + step + travel.leg(origin, destination, low + step).seconds <= by:
            low, step = low + step, step * 2
        high = low + step
    else:
        high, step = guess, 60
        while guess - step + travel.leg(origin, destination, guess - step).seconds > by:
            high, step = guess - step, step * 2
        low = guess - step
    while high - low > 1:
        middle = (low + high) // 2
        if middle + travel.leg(origin, destination, middle).seconds <= by:
            low = middle
        else:
            high = middle
    return low


@dataclass(frozen=True, kw_only=True)
class TravelMatrix:
    """Driving among `places`.

    Attributes
    ----------
    seconds : int32[len(PERIODS), n, n]
        From row to column, by period of the day.
    metres : int32[n, n]
        Along the way taken during the day.
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
        metres = self.matrix.metres.item(origin, destination)
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

    def tables(self, *, start: int, end: int) -> TravelTables:
        """The matrix, and the periods from `start` to `end`; before and after, the first and last go on."""
        spans: list[tuple[int, int, int]] = []
        moment = start
        while moment < end:
            period, until = self.clock.at(moment)
            spans.append((moment, until, int(period)))
            moment = until
        spans[0] = (-_ALWAYS, spans[0][1], spans[0][2])
        spans[-1] = (spans[-1][0], _ALWAYS, spans[-1][2])
        return TravelTables(
            seconds=self.matrix.seconds, metres=self.matrix.metres, spans=np.array(spans, dtype=np.int64)
        )


@dataclass(frozen=True, kw_only=True)
class Job:
    """Shortest paths from some places in one period: a piece of work for one process.

    `lengths` is given where the metres along the paths are wanted as well.
    """

    period: int
    first: int
    weights: csr_array
    sources: NDArray[np.int64]
    targets: NDArray[np.int64]
    lengths: csr_array | None


def solve(job: Job) -> tuple[NDArray[np.float64], NDArray[np.float64] | None]:
    """Seconds [source, target], and metres where they were asked for; infinite where there is no path."""
    if job.lengths is None:
        return dijkstra(job.weights, indices=job.sources)[:, job.targets], None
    time, before = dijkstra(job.weights, indices=job.sources, return_predecessors=True)
    return time[:, job.targets], _metres_along(before, job.lengths)[:, job.targets]


# Runs jobs in order: `map` itself, or that of a pool of processes.
JobMap = Callable[..., Iterable[tuple[NDArray[np.float64], NDArray[np.float64] | None]]]


def compute_matrix(network: RoadNetwork, places: Sequence[Place], *, run: JobMap = map) -> TravelMatrix:
    """Driving among all `places`, each named once.

    A place off the network, or one no road leads to, gets a straight-line estimate, flagged.

    Parameters
    ----------
    run
        Applies a function to jobs, in order; a process pool's `map` computes them in parallel.
    """
    distinct = tuple(dict.fromkeys(places))
    arcs = place_arcs(network, distinct)
    targets = np.arange(arcs.first_place, arcs.count)
    seconds, metres = _shortest(network, arcs, targets, targets, run=run)
    return _with_estimates(distinct, arcs, seconds, metres)


def extend_matrix(
    network: RoadNetwork, known: TravelMatrix, places: Sequence[Place], *, run: JobMap = map
) -> TravelMatrix:
    """The matrix with more places: only the new rows and columns are computed."""
    new = [place for place in dict.fromkeys(places) if place not in known.index]
    if not new:
        return known
    everything = known.places + tuple(new)
    arcs = place_arcs(network, everything)
    all_targets = np.arange(arcs.first_place, arcs.count)
    fresh = all_targets[len(known.places) :]
    out_seconds, out_metres = _shortest(network, arcs, fresh, all_targets, run=run)
    in_seconds, in_metres = _shortest(network, arcs, fresh, all_targets, run=run, backwards=True)
    size, old = len(everything), len(known.places)
    seconds, metres = np.zeros((len(PERIODS), size, size)), np.zeros((size, size))
    seconds[:, :old, :old], metres[:old, :old] = known.seconds, known.metres
    seconds[:, old:, :], metres[old:, :] = out_seconds, out_metres
    seconds[:, :old, old:] = np.swapaxes(in_seconds, 1, 2)[:, :old]
    metres[:old, old:] = in_metres.T[:old]
    result = _with_estimates(everything, arcs, seconds, metres)
    result.estimated[:old, :old] = known.estimated
    return result


def _shortest(
    network: RoadNetwork,
    arcs: Arcs,
    sources: NDArray[np.int64],
    targets: NDArray[np.int64],
    *,
    run: JobMap,
    backwards: bool = False,
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Seconds [period, source, target] and metres [source, target]; infinite where there is no path."""
    seconds = np.empty((len(PERIODS), len(sources), len(targets)))
    metres = np.empty((len(sources), len(targets)))
    jobs = list(_jobs(network, arcs, sources, targets, backwards=backwards))
    for job, (time, length) in zip(jobs, run(solve, jobs), strict=True):
        block = slice(job.first, job.first + len(job.sources))
        seconds[job.period, block] = time
        if length is not None:
            metres[block] = length
    return seconds, metres


def _jobs(
    network: RoadNetwork,
    arcs: Arcs,
    sources: NDArray[np.int64],
    targets: NDArray[np.int64],
    *,
    backwards: bool,
) -> Iterator[Job]:
    lengths = csr_array((arcs.metres + 1e-3, (arcs.tail, arcs.head)), shape=(arcs.count, arcs.count))
    if backwards:
        lengths = lengths.T.tocsr()
    at_once = max(1, min(SOURCES_AT_ONCE, DISTANCES_AT_ONCE // arcs.count))
    for period in PERIODS:
        weights = arcs.weights(network, period)
        if backwards:
            weights = weights.T.tocsr()
        for first in range(0, len(sources), at_once):
            yield Job(
                period=int(period),
                first=first,
                weights=weights,
                sources=sources[first : first + at_once],
                targets=targets,
                lengths=lengths if period is Period.DAY else None,
            )


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
        metres[i, j] = guess
        seconds[:, i, j] = guess / ESTIMATE_METRES_PER_SECOND
    seconds[:, np.arange(len(places)), np.arange(len(places))] = 0
    np.fill_diagonal(metres, 0)
    return TravelMatrix(
        places=places,
        seconds=np.ceil(seconds).astype(np.int32),
        metres=np.round(metres).astype(np.int32),
        estimated=missing,
    )
