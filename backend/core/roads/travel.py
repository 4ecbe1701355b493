"""How long a drive takes when it starts at a given moment."""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from core.basics import Place
from core.roads.matrix import TravelMatrix
from core.roads.periods import PeriodClock

Int32 = NDArray[np.int32]


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


@dataclass(frozen=True)
class TimedTravel:
    """Some places of a matrix, read with the clock: implements Travel.

    Crossing into another period, the rest of the drive goes on at that period's pace. So leaving
    later never arrives earlier (Ichoua, Gendreau & Potvin, EJOR 144, 2003, section 3).

    Attributes
    ----------
    places : what the indices stand for, in their order.
    index : the index of each place.
    """

    matrix: TravelMatrix
    clock: PeriodClock
    places: tuple[Place, ...]
    index: dict[Place, int]
    # Where each place stands in the matrix, which holds others too.
    _rows: list[int]

    @classmethod
    def among(cls, places: Iterable[Place], matrix: TravelMatrix, clock: PeriodClock) -> "TimedTravel":
        """Driving among these places, each counted once; raises KeyError where the matrix lacks one."""
        distinct = tuple(dict.fromkeys(places))
        index = {place: number for number, place in enumerate(distinct)}
        return cls(matrix, clock, distinct, index, [matrix.index[place] for place in distinct])

    def leg(self, origin: int, destination: int, departs: int) -> Leg:
        if origin == destination:
            return Leg(0, 0, False)
        row, column = self._rows[origin], self._rows[destination]
        period, end = self.clock.at(departs)
        # `item` gives Python's own numbers; this is asked thousands of times for one board.
        metres = self.matrix.metres.item(row, column)
        estimated = self.matrix.estimated.item(row, column)
        whole = self.matrix.seconds.item(period, row, column)
        if departs + whole <= end:
            return Leg(whole, metres, estimated)
        moment, share, takes = departs, 1.0, float(whole)
        while moment + share * takes > end:
            share -= (end - moment) / takes
            moment = end
            period, end = self.clock.at(moment)
            takes = float(self.matrix.seconds.item(period, row, column))
        return Leg(math.ceil(moment - departs + share * takes), metres, estimated)

    def tables(self, *, start: int, end: int) -> TravelTables:
        """Driving among these places, and the periods from `start` to `end`; before and after, the first and last
        go on."""
        spans: list[tuple[int, int, int]] = []
        moment = start
        while moment < end:
            period, until = self.clock.at(moment)
            spans.append((moment, until, int(period)))
            moment = until
        spans[0] = (-_ALWAYS, spans[0][1], spans[0][2])
        spans[-1] = (spans[-1][0], _ALWAYS, spans[-1][2])
        own = self.matrix.only(self.places)
        return TravelTables(
            seconds=own.seconds.astype(np.int32, copy=False), metres=own.metres.astype(np.int32, copy=False),
            spans=np.array(spans, dtype=np.int64),
        )  # fmt: skip
