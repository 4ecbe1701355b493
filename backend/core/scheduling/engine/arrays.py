"""The arrays the kernels work on, allocated from what a problem says."""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from core.scheduling.engine import fields as f
from core.scheduling.engine.bundles import Fits, Roads, Stores, Ties
from core.scheduling.engine.tuning import NEAR

Int32 = NDArray[np.int32]
Int64 = NDArray[np.int64]


@dataclass(kw_only=True)
class Arrays:
    """A problem as numbers.

    Attributes
    ----------
    drive : int32[periods + 1, places, places]
        Seconds by period of the day; the last layer is the slowest period's.
    metres : int32[places, places]
    spans : int64[stretches, 3]
        From, until, period: stretches of the clock with one speed, in order, without gaps.
    length : int32[shifts, tasks]
        Seconds of work; -1 where the technician may not do the task at all.
    extra : int64[shifts, tasks]
        Cost of giving the task to that shift, whatever the hour.
    demand : int64[tasks, resources]; bucket : int32[shifts, resources]; room : int64[buckets, 2]
        What tasks use up, from which store, and each store's size (and use, filled in by the search).
    links : int64[tasks, most, LINK]; members : int64[tasks, crew]
        Of each task, and of the group that a task leads; the rows of `tasks` say how many.
    weights : DRIVE_SECOND and so on by column of `world`
    """

    drive: Int32
    metres: Int32
    spans: Int64
    tasks: Int64
    shifts: Int64
    length: Int32
    extra: Int64
    demand: Int64
    bucket: Int32
    room: Int64
    links: Int64
    members: Int64
    weights: dict[int, int]

    # Made from the above.
    grid: Int32 = field(init=False)
    world: Int64 = field(init=False)
    eligible: Int32 = field(init=False)
    near: Int32 = field(init=False)
    orders: NDArray[np.float64] = field(init=False)

    def __post_init__(self) -> None:
        self.world = np.zeros(f.WORLD, np.int64)
        for column, value in self.weights.items():
            self.world[column] = value
        self._lay_grid()
        self.find_eligible()
        self._find_near()
        self._find_orders()

    # In bundles, for the kernels; made anew whenever they are asked for, because arrays may be exchanged.

    @property
    def roads(self) -> Roads:
        return Roads(self.drive, self.metres, self.spans, self.grid)

    @property
    def fits(self) -> Fits:
        return Fits(self.length, self.extra, self.eligible)

    @property
    def stores(self) -> Stores:
        return Stores(self.demand, self.bucket, self.room)

    @property
    def ties(self) -> Ties:
        return Ties(self.links, self.members)

    @property
    def n(self) -> int:
        return len(self.tasks)

    @property
    def m(self) -> int:
        return len(self.shifts)

    def _lay_grid(self) -> None:
        """A coarse index into the spans, so that a moment is found without searching."""
        spans = self.spans
        self.world[f.SPANS] = len(spans)
        cell = 900
        first = int(spans[0, 1]) if len(spans) > 1 else 0
        last = int(spans[-1, 0]) if len(spans) > 1 else 0
        start = first - cell
        cells = max(1, (last - start) // cell + 2)
        moments = start + cell * np.arange(cells)
        self.grid = np.searchsorted(spans[:, 1], moments, side="right").clip(0, len(spans) - 1).astype(np.int32)
        self.grid[0] = 0
        self.world[f.GRID_FROM], self.world[f.GRID_CELL] = start, cell

    def find_eligible(self) -> None:
        """Which shifts could take each task; to be called again when `length` changes."""
        allowed = self.length >= 0
        counts = allowed.sum(axis=0) if self.m else np.zeros(self.n, np.int64)
        self.tasks[:, f.ELIGIBLE] = counts
        self.eligible = np.zeros((self.n, max(1, self.m)), np.int32)
        for c in range(self.n):
            found = np.flatnonzero(allowed[:, c])
            self.eligible[c, : len(found)] = found

    def _find_near(self) -> None:
        places = self.tasks[:, f.PLACE]
        between = self.drive[0][np.ix_(places, places)].astype(np.int64)
        between += between.T
        order = np.argsort(between, axis=1, kind="stable")[:, : min(self.n, NEAR)]
        self.near = np.ascontiguousarray(order, np.int32)

    def _find_orders(self) -> None:
        """In which orders absent tasks are put back: by distance, windows, length, worth, scarcity."""
        tasks, n = self.tasks, self.n
        if n == 0 or self.m == 0:
            self.orders = np.zeros((1, max(1, n)))
            return
        far = self.drive[0][self.shifts[:, f.START_PLACE]][:, tasks[:, f.PLACE]].min(axis=0).astype(float)
        longest = self.length.max(axis=0).astype(float)
        opens = tasks[:, f.FIRST_WINDOW].astype(float)
        last = tasks[np.arange(n), f.FIRST_WINDOW + 3 * (tasks[:, f.WINDOWS] - 1) + 1].astype(float)
        worth = self.group_penalty().astype(float)
        wanted = self.demand.sum(axis=1).astype(float)
        keys = [-far, far, last - opens, opens, -last]
        keys += [-wanted, -wanted] if wanted.any() else [-longest]
        if len(np.unique(worth)) > 1:
            each_second = -worth / (longest + 900.0)
            keys += [-worth, each_second, each_second, tasks[:, f.ELIGIBLE].astype(float)]
        self.orders = np.ascontiguousarray(np.array(keys))

    def group_penalty(self) -> Int64:
        """Per task, what leaving out its whole group costs."""
        total = np.zeros(self.n, np.int64)
        np.add.at(total, self.tasks[:, f.LEADER], self.tasks[:, f.PENALTY])
        return np.asarray(total[self.tasks[:, f.LEADER]], dtype=np.int64)
