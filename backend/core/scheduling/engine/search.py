"""Driving the compiled search: state, temperature, progress and stopping."""

import math
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine import kernels
from core.scheduling.engine.arrays import CANDIDATES, Arrays, Int64
from core.scheduling.engine.kernels import CREW_FIELDS, CREW_PLACES

# The search looks up from its work this often, so a stop is obeyed at once.
LOOK_UP_SECONDS = 0.04
FIRST_CHUNK = 20


@dataclass(frozen=True, kw_only=True)
class Tuning:
    """The search's own numbers; names and first values from the paper, adapted by measurement.

    `hot` and `cold` are the first and last temperature as shares of the mean cost of a leg. With `adapts`, a
    search that is short for its number of visits begins colder: it has no time to wander.
    """

    hot: float = 0.3
    cold: float = 0.003
    removals: float = 10.0
    longest: float = 10.0
    split: float = 0.5
    stretch: float = 0.01
    blink: float = 0.01
    unserved_seed: float = 0.3
    adapts: bool = False


# From here on, per visit, a search has time to begin as hot as it likes.
ENOUGH_SECONDS, ENOUGH_ITERATIONS = 0.02, 200
COLDEST_START = 0.25


@dataclass(frozen=True, kw_only=True)
class Budget:
    """How long to search: by iterations (the same answer each time), by seconds, or both."""

    iterations: int | None = None
    seconds: float | None = None

    def __post_init__(self) -> None:
        if self.iterations is None and self.seconds is None:
            raise ValueError("a search needs a limit")


@dataclass(frozen=True, kw_only=True)
class Progress:
    """Where a search stands. Costs are points (a weighted second of driving is one)."""

    share: float
    iterations: int
    seconds: float
    cost: float


@dataclass(frozen=True, kw_only=True)
class Found:
    """The best plan of a search: per shift its tasks and their starts, in order.

    `closed` shifts do not hold even with what must stay on them; they were left as they are.
    """

    cost: int
    closed: frozenset[int]
    routes: list[list[tuple[int, int]]]
    iterations: int
    seconds: float
    stopped: bool


class Search:
    """One annealing over one problem. Not safe to use from two threads."""

    def __init__(self, arrays: Arrays, *, tuning: Tuning | None = None) -> None:
        self.arrays = arrays
        self.tuning = tuning or Tuning(adapts=True)
        n, m = arrays.n, arrays.m
        width = self._width()
        crew_rows = int(arrays.tasks[:, f.CREW_ROW].max(initial=-1)) + 1
        size = max(2, int(arrays.members[:, 0].max(initial=1)))
        self.routes = np.zeros((m, f.ROUTE_ROWS, width), np.int64)
        self.backup = np.zeros_like(self.routes)
        self.best_routes = np.zeros((m, width), np.int64)
        self.best_pins = np.zeros((n, 2), np.int64)
        self.cache = np.zeros((n, m, 3), np.int64)
        self.crew_cache = np.zeros((max(1, crew_rows), max(1, m), 1 + CREW_PLACES, CREW_FIELDS), np.int64)
        self.touched, self.absent, self.before = (np.zeros(max(n, m) + 2, np.int64) for _ in range(3))
        self.closed: set[int] = set()
        self.stack = np.zeros(n + 1, np.int64)
        self.keys = np.zeros(n + 1)
        self.pin_log = np.zeros((20_000 + 4 * n if (arrays.tasks[:, f.TIED] == 1).any() else 300, 3), np.int64)
        self.dice = np.ones(1, np.uint64)
        self.bounds = np.zeros(2, np.int64)
        self.candidates = np.zeros((size, CANDIDATES, 5), np.int64)
        self.picks = np.zeros((5, size + 1), np.int64)

    def _width(self) -> int:
        """No route can hold more than all tasks that fit on its shift."""
        if self.arrays.n == 0 or self.arrays.m == 0:
            return 3
        return int((self.arrays.length >= 0).sum(axis=1).max()) + 4

    # --- a start --------------------------------------------------------------------------------

    def begin(self, *, seed: int, routes: Sequence[Sequence[int]], pins: dict[int, tuple[int, int]]) -> None:
        """Take up a plan: tasks per shift, and the starts that crews and links hold them to.

        A task that does not fit where it is put is left out, the last ones of a route first.
        """
        a = self.arrays
        # A seed's bits are spread before the generator starts, or near seeds would begin alike.
        mixed = (seed * 0x9E3779B97F4A7C15 + 88172645463325252) % (1 << 64)
        self.dice[0] = np.uint64(mixed | 1)
        a.tasks[:, f.SHIFT] = f.REMOVED
        a.tasks[:, f.STAMP] = 0
        a.tasks[:, f.PIN_LOW], a.tasks[:, f.PIN_HIGH] = -f.FAR, f.FAR
        for task, (low, high) in pins.items():
            a.tasks[task, f.PIN_LOW], a.tasks[task, f.PIN_HIGH] = low, high
        a.shifts[:, f.TOUCHED] = 0
        a.shifts[:, f.VERSION] = np.arange(1, a.m + 1)
        a.room[:, 1] = 0
        a.world[: f.SPANS] = 0
        a.world[f.ROUNDS] = 0
        a.world[f.VERSIONS] = a.m
        self.cache[:] = 0
        self.crew_cache[:] = 0
        for v in range(a.m):
            # What stands where it may not be at all is taken out before anything is computed.
            able = [c for c in routes[v] if a.length[v, c] >= 0]
            self._lay_out(v, [] if v in self.closed else able)
        self._close(routes)
        self._drop_broken_groups()
        absent = [
            c for c in range(a.n) if a.tasks[c, f.SHIFT] < 0 and a.tasks[c, f.LEADER] == c and not a.tasks[c, f.FIXED]
        ]
        self.absent[: len(absent)] = absent
        a.world[f.ABSENT] = len(absent)
        a.world[f.TOTAL] = self._total()
        self._keep_best()

    def _total(self) -> int:
        """Cost of the plan on the arrays: its days, and what is left out of it."""
        a = self.arrays
        missing = (a.tasks[:, f.SHIFT] < 0) & (a.tasks[:, f.FIXED] == 0)
        return int(a.shifts[:, f.COST].sum() + a.tasks[missing, f.PENALTY].sum())

    def _lay_out(self, v: int, wanted: list[int]) -> None:
        a = self.arrays
        while True:
            self._set_route(v, wanted)
            if not a.shifts[v, f.BAD] or not wanted:
                break
            loose = [i for i, c in enumerate(wanted) if not a.tasks[c, f.FIXED]]
            if not loose:
                wanted.clear()  # it does not hold as it must stay: `_close` sees to it
                continue
            del wanted[loose[-1]]
        for position, c in enumerate(wanted, start=1):
            a.tasks[c, f.SHIFT], a.tasks[c, f.POSITION] = v, position
            kernels.load(a.demand, a.bucket, a.room, c, v, 1)

    def _close(self, routes: Sequence[Sequence[int]]) -> None:
        """Nothing goes to a shift that does not hold with what must stay on it."""
        a = self.arrays
        for v, wanted in enumerate(routes):
            if any(a.tasks[c, f.FIXED] and a.tasks[c, f.SHIFT] < 0 for c in wanted):
                self.closed.add(v)
                a.length[v, :] = -1
                for c in [int(x) for x in self.routes[v, f.TASK, 1 : a.shifts[v, f.COUNT] + 1]]:
                    self._drop(c)
        if self.closed:
            a.find_eligible()

    def _drop_broken_groups(self) -> None:
        """A crew that is not complete, or a link whose first end is missing, does not stand."""
        a = self.arrays
        again = True
        while again:
            again = False
            for leader in np.flatnonzero(a.members[:, 0]):
                group = a.members[leader, 1 : 1 + a.members[leader, 0]]
                # What must stay stays, even where a crew was never complete.
                there = (a.tasks[group, f.SHIFT] >= 0) & (a.tasks[group, f.FIXED] == 0)
                orphan = any(
                    a.links[c, 1 + 4 * x] == f.FOLLOWS and a.tasks[a.links[c, 2 + 4 * x], f.SHIFT] < 0
                    for c in group
                    for x in range(a.links[c, 0])
                )
                whole = (a.tasks[group, f.SHIFT] >= 0).all()
                if there.any() and (orphan or not whole):
                    for c in group[there]:
                        self._drop(int(c))
                    again = True
                if not (a.tasks[group, f.SHIFT] >= 0).all():
                    a.tasks[group, f.PIN_LOW], a.tasks[group, f.PIN_HIGH] = -f.FAR, f.FAR

    def _drop(self, c: int) -> None:
        a = self.arrays
        v = int(a.tasks[c, f.SHIFT])
        rest = [int(x) for x in self.routes[v, f.TASK, 1 : a.shifts[v, f.COUNT] + 1] if x != c]
        for x in [*rest, c]:
            kernels.load(a.demand, a.bucket, a.room, x, v, -1)
            a.tasks[x, f.SHIFT] = f.REMOVED
        self._lay_out(v, rest)

    # --- searching ------------------------------------------------------------------------------

    def fill(self) -> None:
        """Put what is absent in greedily, without any search."""
        a = self.arrays
        if a.n == 0 or a.m == 0:
            return
        a.world[f.TOUCHED_COUNT] = 0
        a.world[f.LOGGED] = 0
        self._recreate(0.0)
        a.shifts[:, f.TOUCHED] = 0
        if not a.shifts[:, f.BAD].any():
            self._keep_best()

    def run(
        self,
        budget: Budget,
        *,
        progress: Callable[[Progress], None] | None = None,
        should_stop: Callable[[], bool] | None = None,
    ) -> Found:
        """Anneal within the budget; the best plan met.

        Parameters
        ----------
        progress
            Called between chunks of some 40 ms.
        should_stop
            Asked as often; when it says so, the best so far is returned at once.
        """
        began = time.perf_counter()
        world = self.arrays.world
        stopped = False
        share = 0.0
        idle = self.arrays.n == 0 or self.arrays.m == 0 or not (self.arrays.tasks[:, f.FIXED] == 0).any()
        hot = self._hot(budget)
        chunk = FIRST_CHUNK
        while not idle and share < 1.0:
            if should_stop is not None and should_stop():
                stopped = True
                break
            asked = chunk
            if budget.iterations is not None:
                asked = min(asked, budget.iterations - int(world[f.ROUNDS]))
            if asked <= 0:
                break
            chunk_began = time.perf_counter()
            planned = budget.iterations if budget.seconds is None else None
            self._anneal(asked, planned or 0, share, hot)
            chunk = _next_chunk(chunk, time.perf_counter() - chunk_began)
            share = self._share(budget, time.perf_counter() - began)
            if progress is not None:
                progress(self._progress(share, time.perf_counter() - began))
        return self._found(time.perf_counter() - began, stopped)

    def _share(self, budget: Budget, spent: float) -> float:
        shares = []
        if budget.seconds is not None:
            shares.append(spent / budget.seconds)
        if budget.iterations is not None:
            shares.append(self.arrays.world[f.ROUNDS] / budget.iterations)
        return min(1.0, max(shares))

    def _hot(self, budget: Budget) -> float:
        a = self.arrays
        served = int((a.tasks[:, f.SHIFT] >= 0).sum())
        a_leg = float(a.shifts[:, f.COST].sum()) / max(1, served)
        share = 1.0
        if self.tuning.adapts and budget.seconds is not None:
            share = budget.seconds / (ENOUGH_SECONDS * max(1, a.n))
        elif self.tuning.adapts and budget.iterations is not None:
            share = budget.iterations / (ENOUGH_ITERATIONS * max(1, a.n))
        return max(a_leg, 1000.0) * self.tuning.hot * min(1.0, max(COLDEST_START, share))

    def _progress(self, share: float, seconds: float) -> Progress:
        world = self.arrays.world
        return Progress(
            share=share, iterations=int(world[f.ROUNDS]), seconds=seconds, cost=int(world[f.BEST_TOTAL]) / 1000
        )

    def _found(self, seconds: float, stopped: bool) -> Found:
        """The best plan with its starts: laid out again, with the pins it was found with."""
        a = self.arrays
        best = [[int(c) for c in self.best_routes[v, 1 : a.shifts[v, f.BEST_COUNT] + 1]] for v in range(a.m)]
        for c in np.flatnonzero(a.tasks[:, f.TIED]):
            a.tasks[c, f.PIN_LOW], a.tasks[c, f.PIN_HIGH] = self.best_pins[c]
        a.tasks[:, f.SHIFT] = f.WAITING
        for v, tasks in enumerate(best):
            self._set_route(v, tasks)
            a.tasks[tasks, f.SHIFT] = v
        for leader in np.flatnonzero(a.members[:, 0] > 1):
            self._pull_forward([int(c) for c in a.members[leader, 1 : 1 + a.members[leader, 0]]])
        routes = [list(zip(tasks, self.starts_on(v), strict=True)) for v, tasks in enumerate(best)]
        return Found(
            cost=self._total(),
            closed=frozenset(self.closed),
            routes=routes,
            iterations=int(a.world[f.ROUNDS]),
            seconds=seconds,
            stopped=stopped,
        )

    def starts_on(self, v: int) -> list[int]:
        """Starts of work of the stops now on shift `v`; empty when the day does not hold."""
        a = self.arrays
        count = int(a.shifts[v, f.COUNT])
        out = np.zeros((4, count + 2), np.int64)
        holds = kernels.timetable(
            a.drive, a.metres, a.spans, a.grid, a.world, a.length, a.extra, a.tasks, a.shifts, self.routes, v, out
        )
        return [int(start) for start in out[0, :count]] if holds else []

    def _pull_forward(self, group: list[int]) -> None:
        """Let a crew start as early as it can where that costs nothing: the search is content with any start."""
        a = self.arrays
        where = {c: int(a.tasks[c, f.SHIFT]) for c in group}
        if min(where.values()) < 0 or a.links[group, 0].any() or a.tasks[group, f.FIXED].any():
            return
        held = int(a.tasks[group[0], f.PIN_LOW])
        cost = sum(int(a.shifts[v, f.COST]) for v in where.values())
        start = self._common_start(where, held)
        if start < held and self._pinned_cost(where, start) > cost:
            start = held
        self._pinned_cost(where, min(start, held))

    def _common_start(self, where: dict[int, int], held: int) -> int:
        """The first start that suits all: where each would start if nothing held it, until they agree."""
        a = self.arrays
        low = int(-f.FAR)
        for _ in range(20):
            firsts = []
            for c, v in where.items():
                a.tasks[c, f.PIN_LOW], a.tasks[c, f.PIN_HIGH] = low, f.FAR
                self._recompute(v)
                starts = dict(self.route_of(v)) if not a.shifts[v, f.BAD] else {}
                firsts.append(starts.get(c, held))
            if max(firsts) == low or max(firsts) >= held:
                return min(max(firsts), held)
            low = max(firsts)
        return held

    def _pinned_cost(self, where: dict[int, int], start: int) -> int:
        """Cost of a group's shifts with its start held; DEAR when they do not hold so."""
        a = self.arrays
        for c in where:
            a.tasks[c, f.PIN_LOW] = a.tasks[c, f.PIN_HIGH] = start
        for v in where.values():
            self._recompute(v)
        if any(a.shifts[v, f.BAD] for v in where.values()):
            return f.DEAR
        return sum(int(a.shifts[v, f.COST]) for v in where.values())

    def starts_of(self, v: int, tasks: Sequence[int]) -> list[int]:
        """Starts of work if shift `v` had these tasks; the shift itself stays as it is."""
        count = int(self.arrays.shifts[v, f.COUNT])
        kept = [int(c) for c in self.routes[v, f.TASK, 1 : count + 1]]
        self._set_route(v, tasks)
        starts = self.starts_on(v)
        self._set_route(v, kept)
        return starts

    def route_of(self, v: int) -> list[tuple[int, int]]:
        """Tasks now on shift `v`, with their starts."""
        tasks = [int(c) for c in self.routes[v, f.TASK, 1 : self.arrays.shifts[v, f.COUNT] + 1]]
        return list(zip(tasks, self.starts_on(v), strict=True))

    def put_tied(self, leader: int) -> bool:
        """Put a crew or a linked visit where it costs least; whether there was a place."""
        a = self.arrays
        a.world[f.TOUCHED_COUNT] = a.world[f.LOGGED] = 0
        done = kernels.insert_tied(
            a.drive, a.metres, a.spans, a.grid, a.world, a.length, a.extra, a.demand, a.bucket, a.room, a.eligible,
            a.links, a.members, self.crew_cache, a.tasks, a.shifts, self.routes, self.backup, self.touched,
            self.pin_log, self.dice, 0.0, leader, self.bounds, self.candidates, self.picks,
        )  # fmt: skip
        return bool(done)

    def _set_route(self, v: int, tasks: Sequence[int]) -> None:
        self.arrays.shifts[v, f.COUNT] = len(tasks)
        self.routes[v, f.TASK, 1 : len(tasks) + 1] = tasks
        self._recompute(v)

    def rank(self, c: int) -> list[tuple[int, int, int]]:
        """Added cost, shift and position of the best opening in every shift that has one, cheapest first."""
        a = self.arrays
        out: Int64 = np.zeros((max(1, a.m), 3), np.int64)
        count = kernels.rank(
            a.drive, a.metres, a.spans, a.grid, a.world, a.length, a.extra, a.demand, a.bucket, a.room, a.eligible,
            a.tasks, a.shifts, self.routes, self.dice, c, out,
        )  # fmt: skip
        return sorted((int(delta), int(v), int(k)) for delta, v, k in out[:count])

    # --- calls into the kernels -----------------------------------------------------------------

    def _recompute(self, v: int) -> None:
        a = self.arrays
        kernels.recompute(
            a.drive, a.metres, a.spans, a.grid, a.world, a.length, a.extra, a.tasks, a.shifts, self.routes, v
        )

    def _keep_best(self) -> None:
        a = self.arrays
        kernels.keep_best(a.world, a.tasks, a.shifts, self.routes, self.best_routes, self.best_pins)

    def _recreate(self, blink: float) -> None:
        a = self.arrays
        kernels.recreate(
            a.drive, a.metres, a.spans, a.grid, a.world, a.length, a.extra, a.demand, a.bucket, a.room, a.eligible,
            a.links, a.members, self.crew_cache, self.cache, a.orders, self.keys, a.tasks, a.shifts, self.routes,
            self.backup, self.touched, self.absent, self.pin_log, self.dice, blink, self.bounds, self.candidates,
            self.picks,
        )  # fmt: skip

    def _anneal(self, iterations: int, planned: int, share: float, hot: float) -> None:
        a, t = self.arrays, self.tuning
        cooling = math.log(t.cold / t.hot)  # over as many powers of ten, wherever it begins
        kernels.anneal(
            a.drive, a.metres, a.spans, a.grid, a.world, a.length, a.extra, a.demand, a.bucket, a.room, a.eligible,
            a.links, a.members, a.near, self.crew_cache, self.cache, a.orders, self.keys, a.tasks, a.shifts,
            self.routes, self.backup, self.touched, self.absent, self.before, self.stack, self.pin_log,
            self.best_routes, self.best_pins, self.dice, self.bounds, self.candidates, self.picks, iterations, planned,
            share, hot, cooling, t.removals, t.longest, t.split, t.stretch, t.blink, t.unserved_seed,
        )  # fmt: skip


def _next_chunk(chunk: int, took: float) -> int:
    if took < LOOK_UP_SECONDS / 4:
        return chunk * 2
    if took > LOOK_UP_SECONDS:
        return max(FIRST_CHUNK, chunk // 2)
    return chunk
