"""The network with places put into it, ready for shortest paths."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array

from core.basics import Place
from core.roads.network import Ints, RoadNetwork, Snap

# Farther from any road than this, a place is off the network and gets an estimate.
OFF_NETWORK_METRES = 400.0
# From the kerb to the door, and along tracks that are not on the map.
OFF_ROAD_METRES_PER_SECOND = 4.0
# scipy takes a stored zero for "no arc".
LEAST_SECONDS = 0.01


@dataclass(frozen=True, kw_only=True)
class Arcs:
    """Directed arcs over junctions (0..n-1) and places (n..n+k-1).

    `segment` is the road segment an arc runs on; `begin` and `end` are metres along it.
    """

    count: int
    first_place: int
    snaps: tuple[Snap, ...]
    tail: Ints
    head: Ints
    segment: Ints
    begin: NDArray[np.float64]
    end: NDArray[np.float64]
    metres: NDArray[np.float64]
    extra_seconds: NDArray[np.float64]

    def weights(self, network: RoadNetwork, period: int) -> csr_array:
        """Seconds over each arc in that period, as a sparse matrix [from, to]."""
        whole = network.seconds[period][self.segment]
        share = np.abs(self.end - self.begin) / network.metres[self.segment]
        seconds = np.maximum(whole * share + self.extra_seconds, LEAST_SECONDS)
        return _fastest(self.count, self.tail, self.head, seconds)

    def arc_between(self) -> dict[tuple[int, int], int]:
        """Index of the shortest arc between two junctions or places."""
        best: dict[tuple[int, int], int] = {}
        for arc in np.argsort(-self.metres, kind="stable"):
            best[int(self.tail[arc]), int(self.head[arc])] = int(arc)
        return best


def _fastest(count: int, tail: Ints, head: Ints, seconds: NDArray[np.float64]) -> csr_array:
    """Of parallel arcs the fastest (a sparse matrix would add them up)."""
    order = np.lexsort((seconds, head, tail))
    tail, head, seconds = tail[order], head[order], seconds[order]
    first = np.ones(len(tail), dtype=bool)
    first[1:] = (tail[1:] != tail[:-1]) | (head[1:] != head[:-1])
    return csr_array((seconds[first], (tail[first], head[first])), shape=(count, count))


def place_arcs(network: RoadNetwork, places: Sequence[Place]) -> Arcs:
    """Put places into the graph: each becomes a node between the ends of its segment."""
    snaps = tuple(network.snap(places))
    junctions = len(network.nodes)
    rows: list[tuple[int, int, int, float, float, float]] = []
    on_segment: defaultdict[int, list[int]] = defaultdict(list)
    for index, snap in enumerate(snaps):
        on_segment[snap.segment].append(index)
    for segment, members in on_segment.items():
        members.sort(key=lambda index: snaps[index].along_metres)
        rows += _chain(network, segment, [(junctions + index, snaps[index]) for index in members])
    extra = np.array(rows, dtype=float).reshape(-1, 6)
    whole = np.arange(len(network.tail))
    back = whole[network.two_way]
    zero = np.zeros
    tails, heads, segments = (extra[:, number].astype(np.int64) for number in range(3))
    begin = np.concatenate([zero(len(whole)), network.metres[back], extra[:, 3]])
    end = np.concatenate([network.metres, zero(len(back)), extra[:, 4]])
    return Arcs(
        count=junctions + len(places),
        first_place=junctions,
        snaps=snaps,
        tail=np.concatenate([network.tail, network.head[back], tails]),
        head=np.concatenate([network.head, network.tail[back], heads]),
        segment=np.concatenate([whole, back, segments]),
        begin=begin,
        end=end,
        metres=np.abs(end - begin),
        extra_seconds=np.concatenate([zero(len(whole) + len(back)), extra[:, 5]]),
    )


def _chain(
    network: RoadNetwork, segment: int, members: list[tuple[int, Snap]]
) -> list[tuple[int, int, int, float, float, float]]:
    """Arcs tail -> place -> place -> head along one segment, and back where it is two-way."""
    length = float(network.metres[segment])
    stations: list[tuple[int, float, float]] = [(int(network.tail[segment]), 0.0, 0.0)]
    stations += [(node, snap.along_metres, snap.off_metres) for node, snap in members]
    stations.append((int(network.head[segment]), length, 0.0))
    rows = []
    # A place must be left and entered by way of its own track only, so all pairs, not only neighbours.
    for first in range(len(stations)):
        for second in range(first + 1, len(stations)):
            (a, at_a, off_a), (b, at_b, off_b) = stations[first], stations[second]
            if a < len(network.nodes) and b < len(network.nodes):
                continue
            delay = (off_a + off_b) / OFF_ROAD_METRES_PER_SECOND
            rows.append((a, b, segment, at_a, at_b, delay))
            if network.two_way[segment]:
                rows.append((b, a, segment, at_b, at_a, delay))
    return rows
