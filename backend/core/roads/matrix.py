"""Driving among many places: matrices by period of the day."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array
from scipy.sparse.csgraph import dijkstra

from core.basics import Place, straight_metres_among
from core.roads.graph import OFF_NETWORK_METRES, Arcs, place_arcs
from core.roads.network import RoadNetwork
from core.roads.periods import PERIODS, Period

# A straight line becomes a road by about this factor, driven at a cautious town speed.
ESTIMATE_DETOUR = 1.4
ESTIMATE_METRES_PER_SECOND = 30 / 3.6
# Sources computed at once, and distances held at once: they bound the memory of one job.
SOURCES_AT_ONCE = 128
DISTANCES_AT_ONCE = 16_000_000
# Numbers are kept in as few bytes as they need: a drive below 18 hours takes two.
Unsigned = NDArray[np.unsignedinteger[Any]]


@dataclass(frozen=True, kw_only=True)
class TravelMatrix:
    """Driving among `places`: fifteen bytes for each pair, in a region that is crossed within 18 hours.

    Attributes
    ----------
    seconds : uint16 or wider [len(PERIODS), n, n]
        From row to column, by period of the day.
    metres : uint32[n, n]
        Along the way taken during the day.
    estimated : bool[n, n]
        True where the network gives no path and a straight line was used.
    """

    places: tuple[Place, ...]
    seconds: Unsigned
    metres: Unsigned
    estimated: NDArray[np.bool_]

    @cached_property
    def index(self) -> dict[Place, int]:
        return {place: number for number, place in enumerate(self.places)}

    def only(self, places: Sequence[Place]) -> "TravelMatrix":
        """Just these of the places, in this order; raises KeyError where one is not among them."""
        if tuple(places) == self.places:
            return self
        rows = np.array([self.index[place] for place in places], np.int64)
        pairs = np.ix_(rows, rows)
        seconds = np.empty((len(PERIODS), len(rows), len(rows)), self.seconds.dtype)
        for period in PERIODS:
            seconds[period] = self.seconds[period][pairs]
        return TravelMatrix(
            places=tuple(places), seconds=seconds, metres=self.metres[pairs], estimated=self.estimated[pairs]
        )


NOWHERE = TravelMatrix(
    places=(),
    seconds=np.zeros((len(PERIODS), 0, 0), np.uint16),
    metres=np.zeros((0, 0), np.uint32),
    estimated=np.zeros((0, 0), bool),
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
    return extend_matrix(network, NOWHERE, places, run=run)


def extend_matrix(
    network: RoadNetwork, known: TravelMatrix, places: Sequence[Place], *, run: JobMap = map
) -> TravelMatrix:
    """The matrix with more places: only the new rows and columns are computed."""
    new = [place for place in dict.fromkeys(places) if place not in known.index]
    if not new:
        return known
    everything = known.places + tuple(new)
    grown = _Growing(network=network, places=everything, old=len(known.places))
    grown.take_over(known)
    grown.compute(backwards=False, run=run)
    if known.places:
        grown.compute(backwards=True, run=run)
    return grown.matrix()


@dataclass(kw_only=True)
class _Growing:
    """A matrix in the making: what is new is written into it job by job, so that little else is held."""

    network: RoadNetwork
    places: tuple[Place, ...]
    old: int
    arcs: Arcs = field(init=False)

    def __post_init__(self) -> None:
        size = len(self.places)
        self.arcs = place_arcs(self.network, self.places)
        self.off = np.array([snap.off_metres > OFF_NETWORK_METRES for snap in self.arcs.snaps], dtype=bool)
        self.points = np.array([(place.lon, place.lat) for place in self.places])
        self.seconds: Unsigned = np.zeros((len(PERIODS), size, size), np.uint16)
        self.metres: Unsigned = np.zeros((size, size), np.uint32)
        self.estimated = np.zeros((size, size), bool)

    def take_over(self, known: TravelMatrix) -> None:
        old = self.old
        self.seconds = self.seconds.astype(known.seconds.dtype, copy=False)
        self.seconds[:, :old, :old] = known.seconds
        self.metres[:old, :old], self.estimated[:old, :old] = known.metres, known.estimated

    def compute(self, *, backwards: bool, run: JobMap) -> None:
        """From all new places to all others; backwards: from the old ones to the new."""
        targets = np.arange(self.arcs.first_place, self.arcs.count)
        sources = targets[self.old :]
        targets = targets[: self.old] if backwards else targets
        jobs = list(_jobs(self.network, self.arcs, sources, targets, backwards=backwards))
        for job, (time, length) in zip(jobs, run(solve, jobs), strict=True):
            first = self.old + job.first
            self._write(job.period, slice(first, first + len(job.sources)), time, length, backwards=backwards)

    def _write(
        self, period: int, block: slice, time: NDArray[np.float64], length: NDArray[np.float64] | None, *,
        backwards: bool,
    ) -> None:  # fmt: skip
        others = slice(0, self.old if backwards else len(self.places))
        missing = ~np.isfinite(time) | self.off[block, None] | self.off[None, others]
        guess = ESTIMATE_DETOUR * straight_metres_among(self.points[block], self.points[others])[missing]
        time[missing] = guess / ESTIMATE_METRES_PER_SECOND
        self._widen(float(time.max(initial=0)))
        cells = (others, block) if backwards else (block, others)
        self.seconds[(period, *cells)] = (np.ceil(time).T if backwards else np.ceil(time)).astype(self.seconds.dtype)
        if length is not None:
            length[missing] = guess
            self.metres[cells] = np.round(length.T if backwards else length).astype(np.uint32)
            self.estimated[cells] = missing.T if backwards else missing

    def _widen(self, most: float) -> None:
        """A region in which a drive takes longer than the bytes hold needs more of them."""
        if most > np.iinfo(self.seconds.dtype).max:
            self.seconds = self.seconds.astype(np.uint32)

    def matrix(self) -> TravelMatrix:
        alone = np.arange(len(self.places))
        self.seconds[:, alone, alone], self.metres[alone, alone], self.estimated[alone, alone] = 0, 0, False
        return TravelMatrix(places=self.places, seconds=self.seconds, metres=self.metres, estimated=self.estimated)


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
