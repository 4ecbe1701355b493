"""Driving the compiled search: state, temperature, progress and stopping."""

import math
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine import kernels
from core.scheduling.engine.arrays import Arrays, Int64
from core.scheduling.engine.bundles import Best, Crews, Journal, Lists, Plan
from core.scheduling.engine.tuning import (
    COLDEST_START,
    CREW_CANDIDATES,
    CREW_PLACES,
    ENOUGH_ITERATIONS,
    ENOUGH_SECONDS,
    FIRST_CHUNK,
    LOOK_UP_SECONDS,
    PINS_LOGGED,
    PINS_LOGGED_PER_TASK,
    PINS_WITHOUT_GROUPS,
    Tuning,
)


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
        self.routes = np.zeros((m, f.ROUTE_ROWS, width), np.int64)
        self.plan = Plan(arrays.tasks, arrays.shifts, self.routes)
        self.best = Best(np.zeros((m, width), np.int64), np.zeros((n, 2), np.int64))
        self.cache = np.zeros((n, m, f.CACHED), np.int64)
        self.crews = self._crews()
        grouped = bool((arrays.tasks[:, f.TIED] == 1).any())
        pins = PINS_LOGGED + PINS_LOGGED_PER_TASK * n if grouped else PINS_WITHOUT_GROUPS
        self.journal = Journal(
            np.zeros_like(self.routes), np.zeros(max(n, m) + 2, np.int64), np.zeros((pins, f.PIN), np.int64)
        )
        absent, before = (np.zeros(max(n, m) + 2, np.int64) for _ in range(2))
        self.lists = Lists(absent, before, np.zeros(n + 1, np.int64), np.zeros(n + 1))
        self.closed: set[int] = set()
        self.dice = np.ones(1, np.uint64)

    def _crews(self) -> Crews:
        a = self.arrays
        rows = int(a.tasks[:, f.CREW_ROW].max(initial=-1)) + 1
        size = max(2, int(a.tasks[:, f.MEMBERS].max(initial=1)))
        return Crews(
            crew_cache=np.zeros((max(1, rows), max(1, a.m), 1 + CREW_PLACES, f.ON_SHIFT), np.int64),
            bounds=np.zeros(2, np.int64),
            candidates=np.zeros((size, CREW_CANDIDATES, f.CANDIDATE), np.int64),
            picks=np.zeros((f.PICKS, size + 1), np.int64),
        )

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
        self.crews.crew_cache[:] = 0
        for shift in range(a.m):
            # What stands where it may not be at all is taken out before anything is computed.
            able = [task for task in routes[shift] if a.length[shift, task] >= 0]
            self._lay_out(shift, [] if shift in self.closed else able)
        self._close(routes)
        self._drop_broken_groups()
        absent = [
            task
            for task in range(a.n)
            if a.tasks[task, f.SHIFT] < 0 and a.tasks[task, f.LEADER] == task and not a.tasks[task, f.FIXED]
        ]
        self.lists.absent[: len(absent)] = absent
        a.world[f.ABSENT] = len(absent)
        a.world[f.TOTAL] = self._total()
        self._keep_best()

    def _total(self) -> int:
        """Cost of the plan on the arrays: its days, and what is left out of it."""
        a = self.arrays
        missing = (a.tasks[:, f.SHIFT] < 0) & (a.tasks[:, f.FIXED] == 0)
        return int(a.shifts[:, f.COST].sum() + a.tasks[missing, f.PENALTY].sum())

    def _lay_out(self, shift: int, wanted: list[int]) -> None:
        a = self.arrays
        while True:
            self._set_route(shift, wanted)
            if not a.shifts[shift, f.BAD] or not wanted:
                break
            loose = [i for i, task in enumerate(wanted) if not a.tasks[task, f.FIXED]]
            if not loose:
                wanted.clear()  # it does not hold as it must stay: `_close` sees to it
                continue
            del wanted[loose[-1]]
        for position, task in enumerate(wanted, start=1):
            a.tasks[task, f.SHIFT], a.tasks[task, f.POSITION] = shift, position
            kernels.load(a.stores, task, shift, 1)

    def _close(self, routes: Sequence[Sequence[int]]) -> None:
        """Nothing goes to a shift that does not hold with what must stay on it."""
        a = self.arrays
        for shift, wanted in enumerate(routes):
            if any(a.tasks[task, f.FIXED] and a.tasks[task, f.SHIFT] < 0 for task in wanted):
                self.closed.add(shift)
                a.length[shift, :] = -1
                for task in [int(other) for other in self.routes[shift, f.TASK, 1 : a.shifts[shift, f.COUNT] + 1]]:
                    self._drop(task)
        if self.closed:
            a.find_eligible()

    def _drop_broken_groups(self) -> None:
        """A crew that is not complete, or a link whose first end is missing, does not stand."""
        a = self.arrays
        again = True
        while again:
            again = False
            for leader in np.flatnonzero(a.tasks[:, f.MEMBERS]):
                group = self._group(int(leader))
                # What must stay stays, even where a crew was never complete.
                there = (a.tasks[group, f.SHIFT] >= 0) & (a.tasks[group, f.FIXED] == 0)
                orphan = any(
                    kind == f.FOLLOWS and a.tasks[other, f.SHIFT] < 0
                    for task in group
                    for kind, other, _least, _greatest in a.links[task, : a.tasks[task, f.LINKS]]
                )
                complete = (a.tasks[group, f.SHIFT] >= 0).all()
                if there.any() and (orphan or not complete):
                    for task in group[there]:
                        self._drop(int(task))
                    again = True
                if not (a.tasks[group, f.SHIFT] >= 0).all():
                    a.tasks[group, f.PIN_LOW], a.tasks[group, f.PIN_HIGH] = -f.FAR, f.FAR

    def _group(self, leader: int) -> Int64:
        return self.arrays.members[leader, : self.arrays.tasks[leader, f.MEMBERS]]

    def _drop(self, task: int) -> None:
        a = self.arrays
        shift = int(a.tasks[task, f.SHIFT])
        rest = [int(other) for other in self.routes[shift, f.TASK, 1 : a.shifts[shift, f.COUNT] + 1] if other != task]
        for other in [*rest, task]:
            kernels.load(a.stores, other, shift, -1)
            a.tasks[other, f.SHIFT] = f.REMOVED
        self._lay_out(shift, rest)

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
        best = [
            [int(task) for task in self.best.best_routes[shift, 1 : a.shifts[shift, f.BEST_COUNT] + 1]]
            for shift in range(a.m)
        ]
        for task in np.flatnonzero(a.tasks[:, f.TIED]):
            a.tasks[task, f.PIN_LOW], a.tasks[task, f.PIN_HIGH] = self.best.best_pins[task]
        a.tasks[:, f.SHIFT] = f.WAITING
        for shift, tasks in enumerate(best):
            self._set_route(shift, tasks)
            a.tasks[tasks, f.SHIFT] = shift
        for leader in np.flatnonzero(a.tasks[:, f.MEMBERS] > 1):
            self._pull_forward([int(task) for task in self._group(int(leader))])
        routes = [list(zip(tasks, self.starts_on(shift), strict=True)) for shift, tasks in enumerate(best)]
        return Found(
            cost=self._total(),
            closed=frozenset(self.closed),
            routes=routes,
            iterations=int(a.world[f.ROUNDS]),
            seconds=seconds,
            stopped=stopped,
        )

    def starts_on(self, shift: int) -> list[int]:
        """Starts of work of the stops now on shift `shift`; empty when the day does not hold."""
        a = self.arrays
        count = int(a.shifts[shift, f.COUNT])
        out = np.zeros((f.TIMES, count + 2), np.int64)
        holds = kernels.timetable(a.roads, a.world, a.fits, self.plan, shift, out)
        return [int(start) for start in out[f.STARTS_AT, :count]] if holds else []

    def _pull_forward(self, group: list[int]) -> None:
        """Let a crew start as early as it can where that costs nothing: the search is content with any start."""
        a = self.arrays
        where = {task: int(a.tasks[task, f.SHIFT]) for task in group}
        if min(where.values()) < 0 or a.tasks[group, f.LINKS].any() or a.tasks[group, f.FIXED].any():
            return
        held = int(a.tasks[group[0], f.PIN_LOW])
        cost = sum(int(a.shifts[shift, f.COST]) for shift in where.values())
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
            for task, shift in where.items():
                a.tasks[task, f.PIN_LOW], a.tasks[task, f.PIN_HIGH] = low, f.FAR
                self._recompute(shift)
                starts = dict(self.route_of(shift)) if not a.shifts[shift, f.BAD] else {}
                firsts.append(starts.get(task, held))
            if max(firsts) == low or max(firsts) >= held:
                return min(max(firsts), held)
            low = max(firsts)
        return held

    def _pinned_cost(self, where: dict[int, int], start: int) -> int:
        """Cost of a group's shifts with its start held; DEAR when they do not hold so."""
        a = self.arrays
        for task in where:
            a.tasks[task, f.PIN_LOW] = a.tasks[task, f.PIN_HIGH] = start
        for shift in where.values():
            self._recompute(shift)
        if any(a.shifts[shift, f.BAD] for shift in where.values()):
            return f.DEAR
        return sum(int(a.shifts[shift, f.COST]) for shift in where.values())

    def starts_of(self, shift: int, tasks: Sequence[int]) -> list[int]:
        """Starts of work if shift `shift` had these tasks; the shift itself stays as it is."""
        count = int(self.arrays.shifts[shift, f.COUNT])
        kept = [int(task) for task in self.routes[shift, f.TASK, 1 : count + 1]]
        self._set_route(shift, tasks)
        starts = self.starts_on(shift)
        self._set_route(shift, kept)
        return starts

    def route_of(self, shift: int) -> list[tuple[int, int]]:
        """Tasks now on shift `shift`, with their starts."""
        tasks = [int(task) for task in self.routes[shift, f.TASK, 1 : self.arrays.shifts[shift, f.COUNT] + 1]]
        return list(zip(tasks, self.starts_on(shift), strict=True))

    def put_tied(self, leader: int) -> bool:
        """Put a crew or a linked visit where it costs least; whether there was a place."""
        a = self.arrays
        a.world[f.TOUCHED_COUNT] = a.world[f.LOGGED] = 0
        done = kernels.insert_tied(
            a.roads, a.world, a.fits, a.stores, a.ties, self.crews, self.plan, self.journal, self.dice, 0.0, leader
        )
        return bool(done)

    def _set_route(self, shift: int, tasks: Sequence[int]) -> None:
        self.arrays.shifts[shift, f.COUNT] = len(tasks)
        self.routes[shift, f.TASK, 1 : len(tasks) + 1] = tasks
        self._recompute(shift)

    def rank(self, task: int) -> list[tuple[int, int, int]]:
        """Added cost, shift and position of the best opening in every shift that has one, cheapest first."""
        a = self.arrays
        out: Int64 = np.zeros((max(1, a.m), f.CANDIDATE), np.int64)
        count = kernels.rank(a.roads, a.world, a.fits, a.stores, self.plan, self.dice, task, out)
        return sorted((int(row[f.ADDED]), int(row[f.ON_SHIFT]), int(row[f.AFTER])) for row in out[:count])

    # --- calls into the kernels -----------------------------------------------------------------

    def _recompute(self, shift: int) -> None:
        a = self.arrays
        kernels.recompute(a.roads, a.world, a.fits, self.plan, shift)

    def _keep_best(self) -> None:
        kernels.keep_best(self.arrays.world, self.plan, self.best)

    def _recreate(self, blink: float) -> None:
        a = self.arrays
        kernels.recreate(
            a.roads, a.world, a.fits, a.stores, a.ties, self.crews, self.cache, a.orders, self.lists, self.plan,
            self.journal, self.dice, blink,
        )  # fmt: skip

    def _anneal(self, iterations: int, planned: int, share: float, hot: float) -> None:
        a, tuning = self.arrays, self.tuning
        cooling = math.log(tuning.cold / tuning.hot)  # over as many powers of ten, wherever it begins
        kernels.anneal(
            a.roads, a.world, a.fits, a.stores, a.ties, a.near, self.crews, self.cache, a.orders, self.lists,
            self.plan, self.journal, self.best, self.dice, tuning, iterations, planned, share, hot, cooling,
        )  # fmt: skip


def _next_chunk(chunk: int, took: float) -> int:
    if took < LOOK_UP_SECONDS / 4:
        return chunk * 2
    if took > LOOK_UP_SECONDS:
        return max(FIRST_CHUNK, chunk // 2)
    return chunk
