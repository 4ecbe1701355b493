"""The compiled search: ruin and recreate with simulated annealing over technicians' shifts.

Slack induction by string removals (Christiaens & Vanden Berghe, Transportation Science 54(2), 2020), on
a model with breaks, crews, links, absences and driving that depends on the hour. docs/planner.md says
what the arrays mean and why; `fields` names their columns.

One file on purpose: numba keeps compiled code by file and does not notice that a function called from
another file has changed. Arrays are separate arguments on purpose: read from a tuple, each access costs
a count of references and the search runs twenty times slower.
"""

from typing import Any

import numpy as np
from numba import njit

from core.scheduling.engine.fields import (
    ABSENT,
    ACCEPTED,
    BAD,
    BEGUN,
    BEST_COUNT,
    BEST_TOTAL,
    BLOCKS,
    BUSY_0,
    BUSY_1,
    COST,
    COUNT,
    CREW_ROW,
    DEAR,
    DRIVE_METRE,
    DRIVE_SECOND,
    DUE,
    ELIGIBLE,
    END_PLACE,
    ENDS,
    FAR,
    FIRST_BLOCK,
    FIRST_WINDOW,
    FIXED,
    FOLLOWS,
    GRAIN,
    GRID_CELL,
    GRID_FROM,
    HOME,
    ITERATION,
    LATE_RATE,
    LATEST_0,
    LATEST_1,
    LEADER,
    LEADS,
    LEAVES_0,
    LEAVES_1,
    LENGTH,
    LOGGED,
    LONGEST_DRIVE,
    MOVE_RATE,
    NORMAL_END,
    OLD_BAD,
    OLD_COST,
    OLD_COUNT,
    OLD_VERSION,
    OVER_RATE,
    PENALTY,
    PIN_HIGH,
    PIN_LOW,
    PLACE,
    POSITION,
    REMOVED,
    REST,
    REST_BY,
    REST_END,
    REST_FROM,
    ROUNDS,
    ROUTE_ROWS,
    SAME_HANDS,
    SHIFT,
    SIMULATE,
    SPANS,
    SPENT_0,
    SPENT_1,
    STACKED,
    STAMP,
    START_PLACE,
    STARTS,
    TASK,
    TECHNICIAN,
    TIED,
    TOLD,
    TOTAL,
    TOUCHED,
    TOUCHED_COUNT,
    UNFAIR,
    VERSION,
    VERSIONS,
    WAIT_SECOND,
    WAITING,
    WINDOWS,
)

# Without numba's reference counting (nothing here allocates): counting the arrays of each call made the
# search six times slower.
compiled: Any = njit(cache=True, error_model="numpy", _nrt=False)
# Small and asked for at every position: a call would cost more than the work.
inlined: Any = njit(cache=True, error_model="numpy", _nrt=False, forceinline=True)
# Best places kept per crew member and shift, and tried together.
CREW_PLACES = 3
CREW_FIELDS = 4  # delta, position, earliest start, latest start
# Rows of the work space in which a crew is chosen.
FOUND, NOW, CHOSEN, REST_OF, LIKE = range(5)


# --- chance ---------------------------------------------------------------------------------------


@inlined
def chance(dice):
    """Uniform in [0, 1): xorshift64 (Marsaglia, Journal of Statistical Software 8(14), 2003)."""
    x = dice[0]
    x ^= x << np.uint64(13)
    x ^= x >> np.uint64(7)
    x ^= x << np.uint64(17)
    dice[0] = x
    return float(x >> np.uint64(11)) * (1.0 / 9007199254740992.0)


# --- the clock: driving by the hour, work within windows -----------------------------------------


@compiled
def span_at(spans, grid, world, moment):
    """Index of the stretch of one speed that holds `moment`."""
    cell = (moment - world[GRID_FROM]) // world[GRID_CELL]
    if cell < 0:
        cell = 0
    elif cell >= grid.shape[0]:
        cell = grid.shape[0] - 1
    k = np.int64(grid[cell])
    while moment >= spans[k, 1]:
        k += 1
    return k


@inlined
def arrival(drive, spans, grid, world, origin, to, departs):
    """Moment of arrival when leaving `origin` then."""
    if world[SPANS] == 1:
        return departs + drive[0, origin, to]
    return arrival_by_hour(drive, spans, grid, world, origin, to, departs)


@compiled
def arrival_by_hour(drive, spans, grid, world, origin, to, departs):
    """The same arithmetic as core.roads.travel.TimedTravel."""
    if origin == to:
        return departs
    k = span_at(spans, grid, world, departs)
    whole = np.int64(drive[spans[k, 2], origin, to])
    if departs + whole <= spans[k, 1]:
        return departs + whole
    moment = departs
    share = 1.0
    takes = float(whole)
    while float(moment) + share * takes > float(spans[k, 1]):
        share -= (spans[k, 1] - moment) / takes
        moment = spans[k, 1]
        k += 1
        takes = float(drive[spans[k, 2], origin, to])
    return departs + np.int64(np.ceil(float(moment - departs) + share * takes))


@inlined
def departure(drive, spans, grid, world, origin, to, by):
    """The latest moment to leave so as to arrive by then: the inverse of `arrival`."""
    if world[SPANS] == 1:
        return by - drive[0, origin, to]
    return departure_by_hour(drive, spans, grid, world, origin, to, by)


@compiled
def departure_by_hour(drive, spans, grid, world, origin, to, by):
    """Back along the spans; the last second is found by trying, because arrivals are rounded up."""
    if origin == to:
        return by
    k = span_at(spans, grid, world, by)
    whole = np.int64(drive[spans[k, 2], origin, to])
    if by - whole >= spans[k, 0]:
        guess = by - whole
    else:
        moment = by
        share = 1.0
        takes = float(whole)
        while k > 0 and float(moment) - share * takes < float(spans[k, 0]):
            share -= (moment - spans[k, 0]) / takes
            moment = spans[k, 0]
            k -= 1
            takes = float(drive[spans[k, 2], origin, to])
        guess = moment - np.int64(np.floor(share * takes))
    while arrival(drive, spans, grid, world, origin, to, guess) > by:
        guess -= 1
    while arrival(drive, spans, grid, world, origin, to, guess + 1) <= by:
        guess += 1
    return guess


@inlined
def start_from(tasks, c, shifts, v, moment, length):
    """The first start of work at or after `moment`; FAR when there is none."""
    at = max(moment, tasks[c, PIN_LOW])
    if tasks[c, HOME] == v:
        at = max(at, tasks[c, TOLD])
    while True:
        found = np.int64(FAR)
        for w in range(tasks[c, WINDOWS]):
            base = FIRST_WINDOW + 3 * w
            start = max(at, tasks[c, base])
            if tasks[c, HOME] != v or start != tasks[c, TOLD]:
                start = -(-start // tasks[c, GRAIN]) * tasks[c, GRAIN]
            if start <= tasks[c, base + 1] and start + length <= tasks[c, base + 2]:
                found = start
                break
        if found > tasks[c, PIN_HIGH]:
            return np.int64(FAR)
        clear = True
        for b in range(shifts[v, BLOCKS]):
            begins = shifts[v, FIRST_BLOCK + 2 * b]
            ends = shifts[v, FIRST_BLOCK + 2 * b + 1]
            if found < ends and found + length > begins:
                at = ends
                clear = False
                break
        if clear:
            return found


@inlined
def start_until(tasks, c, shifts, v, moment, length):
    """The last start of work at or before `moment`; -FAR when there is none."""
    at = min(moment, tasks[c, PIN_HIGH])
    while True:
        found = np.int64(-FAR)
        for w in range(tasks[c, WINDOWS] - 1, -1, -1):
            base = FIRST_WINDOW + 3 * w
            latest = min(at, min(tasks[c, base + 1], tasks[c, base + 2] - length))
            start = latest // tasks[c, GRAIN] * tasks[c, GRAIN]
            if tasks[c, HOME] == v and start < tasks[c, TOLD] and latest >= tasks[c, TOLD]:
                start = tasks[c, TOLD]
            if start >= tasks[c, base]:
                found = start
                break
        if found < tasks[c, PIN_LOW] or (tasks[c, HOME] == v and found < tasks[c, TOLD]):
            return np.int64(-FAR)
        clear = True
        for b in range(shifts[v, BLOCKS]):
            begins = shifts[v, FIRST_BLOCK + 2 * b]
            ends = shifts[v, FIRST_BLOCK + 2 * b + 1]
            if found < ends and found + length > begins:
                at = begins - length
                clear = False
                break
        if clear:
            return found


# --- walking a day --------------------------------------------------------------------------------


@inlined
def time_cost(tasks, c, start, length):
    """Cost of lateness and of a moved start."""
    cost = np.int64(0)
    if tasks[c, LATE_RATE] > 0:
        cost += tasks[c, LATE_RATE] * max(np.int64(0), start + length - tasks[c, DUE])
    if tasks[c, MOVE_RATE] > 0:
        cost += tasks[c, MOVE_RATE] * abs(start - tasks[c, TOLD])
    return cost


@compiled
def visit_step(
    drive, metres, spans, grid, world, tasks, c, shifts, v, length, extra, origin, first, t0, c0, u0, t1, c1, u1
):
    """From leaving `origin` to leaving the task's place, in both states of the break.

    t, c, u: departure, cost and busy seconds so far. Returns them after the task, and whether the
    break was taken on this leg. Ties go to the earlier break, as the evaluator takes it.
    """
    to = tasks[c, PLACE]
    per_second = world[DRIVE_SECOND]
    extra += world[DRIVE_METRE] * metres[origin, to] if world[DRIVE_METRE] > 0 else np.int64(0)
    cap = world[LONGEST_DRIVE]
    just_in_time = first and shifts[v, BEGUN] == 0
    n0 = np.int64(FAR)
    n1 = np.int64(FAR)
    m0 = np.int64(0)
    m1 = np.int64(0)
    b0 = np.int64(0)
    b1 = np.int64(0)
    rested_here = False
    if cap > 0 and not first and drive[drive.shape[0] - 1, origin, to] > cap:
        return n0, m0, b0, n1, m1, b1, rested_here
    start1 = np.int64(FAR)
    if t1 < FAR:
        there = arrival(drive, spans, grid, world, origin, to, t1)
        start1 = start_from(tasks, c, shifts, v, there, length)
        if start1 < FAR:
            if just_in_time:
                leaves = max(t1, departure(drive, spans, grid, world, origin, to, start1))
                there = arrival(drive, spans, grid, world, origin, to, leaves)
                driven = there - leaves
            else:
                driven = there - t1
            m1 = c1 + extra + per_second * driven + world[WAIT_SECOND] * (start1 - there)
            m1 += time_cost(tasks, c, start1, length)
            b1 = u1 + driven + length
            n1 = start1 + length
    if t0 < FAR:
        there = arrival(drive, spans, grid, world, origin, to, t0)
        start0 = start_from(tasks, c, shifts, v, there, length)
        if start0 < FAR:
            if just_in_time:
                leaves = max(t0, departure(drive, spans, grid, world, origin, to, start0))
                arrives = arrival(drive, spans, grid, world, origin, to, leaves)
                driven = arrives - leaves
            else:
                arrives = there
                driven = there - t0
            m0 = c0 + extra + per_second * driven + world[WAIT_SECOND] * (start0 - arrives)
            m0 += time_cost(tasks, c, start0, length)
            b0 = u0 + driven + length
            n0 = start0 + length
        before = np.int64(FAR)
        begins = max(t0, shifts[v, REST_FROM])
        leaves = begins + shifts[v, REST]
        if begins <= shifts[v, REST_BY]:
            before = arrival(drive, spans, grid, world, origin, to, leaves)
        after = np.int64(FAR)
        if not just_in_time:
            begins = max(there, shifts[v, REST_FROM])
            if begins <= shifts[v, REST_BY]:
                after = begins + shifts[v, REST]
        soonest = min(before, after)
        if soonest < FAR:
            start = start_from(tasks, c, shifts, v, soonest, length)
            if start < start1:
                if before <= start:
                    if just_in_time:
                        leaves = max(leaves, departure(drive, spans, grid, world, origin, to, start))
                        before = arrival(drive, spans, grid, world, origin, to, leaves)
                        waited = start - before
                    else:
                        waited = start - before + leaves - t0 - shifts[v, REST]
                    driven = before - leaves
                else:
                    driven = there - t0
                    waited = start - there - shifts[v, REST]
                m1 = c0 + extra + per_second * driven + world[WAIT_SECOND] * waited + time_cost(tasks, c, start, length)
                b1 = u0 + driven + length
                n1 = start + length
                rested_here = True
    return n0, m0, b0, n1, m1, b1, rested_here


@inlined
def home_step(drive, metres, spans, grid, world, shifts, v, origin, t0, c0, u0, t1, c1, u1):
    """The way home: arrival (FAR: not feasible), cost of the whole day, state in which it ends, rested on the way."""
    to = shifts[v, END_PLACE]
    extra = world[DRIVE_METRE] * metres[origin, to] if world[DRIVE_METRE] > 0 else np.int64(0)
    home0 = np.int64(FAR)
    home1 = np.int64(FAR)
    cost0 = np.int64(0)
    cost1 = np.int64(0)
    busy0 = np.int64(0)
    busy1 = np.int64(0)
    rested_here = False
    if t1 < FAR:
        home1 = arrival(drive, spans, grid, world, origin, to, t1)
        cost1 = c1 + extra + world[DRIVE_SECOND] * (home1 - t1)
        busy1 = u1 + home1 - t1
    if t0 < FAR:
        there = arrival(drive, spans, grid, world, origin, to, t0)
        if there <= shifts[v, REST_END]:
            home0 = there
            cost0 = c0 + extra + world[DRIVE_SECOND] * (there - t0)
            busy0 = u0 + there - t0
        begins = max(t0, shifts[v, REST_FROM])
        if begins <= shifts[v, REST_BY]:
            leaves = begins + shifts[v, REST]
            there = arrival(drive, spans, grid, world, origin, to, leaves)
            if there < home1:
                home1 = there
                cost1 = c0 + extra + world[DRIVE_SECOND] * (there - leaves) + world[WAIT_SECOND] * (begins - t0)
                busy1 = u0 + there - leaves
                rested_here = True
    state = 1
    home = home1
    cost = cost1
    busy = busy1
    if home0 < home1:
        state = 0
        home = home0
        cost = cost0
        busy = busy0
        rested_here = False
    if home > shifts[v, ENDS]:
        return np.int64(FAR), np.int64(0), state, rested_here
    if home > shifts[v, NORMAL_END]:
        cost += shifts[v, OVER_RATE] * (home - shifts[v, NORMAL_END])
    if world[UNFAIR] > 0:
        cost += world[UNFAIR] * (busy * busy // shifts[v, LENGTH])
    return home, cost, state, rested_here


@compiled
def forward(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, v, k0):
    """Earliest departures and costs from position `k0` on."""
    origin = shifts[v, START_PLACE] if k0 == 1 else tasks[routes[v, TASK, k0 - 1], PLACE]
    t0 = routes[v, LEAVES_0, k0 - 1]
    t1 = routes[v, LEAVES_1, k0 - 1]
    c0 = routes[v, SPENT_0, k0 - 1]
    c1 = routes[v, SPENT_1, k0 - 1]
    u0 = routes[v, BUSY_0, k0 - 1]
    u1 = routes[v, BUSY_1, k0 - 1]
    for k in range(k0, shifts[v, COUNT] + 1):
        c = routes[v, TASK, k]
        t0, c0, u0, t1, c1, u1, _ = visit_step(
            drive, metres, spans, grid, world, tasks, c, shifts, v, np.int64(length[v, c]), extra[v, c], origin, k == 1,
            t0, c0, u0, t1, c1, u1,
        )  # fmt: skip
        routes[v, LEAVES_0, k] = t0
        routes[v, LEAVES_1, k] = t1
        routes[v, SPENT_0, k] = c0
        routes[v, SPENT_1, k] = c1
        routes[v, BUSY_0, k] = u0
        routes[v, BUSY_1, k] = u1
        origin = tasks[c, PLACE]


@inlined
def latest_leave(drive, spans, grid, world, shifts, v, origin, to, z0, z1, first, last):
    """Latest departures (state 0, state 1) from `origin` with which work at `to` can start by z0, z1."""
    l1 = np.int64(-FAR)
    if z1 > -FAR:
        l1 = departure(drive, spans, grid, world, origin, to, z1)
    l0 = np.int64(-FAR)
    if shifts[v, REST] > 0:
        if z0 > -FAR:
            l0 = departure(drive, spans, grid, world, origin, to, z0)
        if z1 > -FAR:
            at = min(shifts[v, REST_BY], l1 - shifts[v, REST])
            if at >= shifts[v, REST_FROM]:
                l0 = max(l0, at)
            if not last and not first:
                at = min(shifts[v, REST_BY], z1 - shifts[v, REST])
                if at >= shifts[v, REST_FROM]:
                    l0 = max(l0, departure(drive, spans, grid, world, origin, to, at))
    return l0, l1


@compiled
def backward(drive, spans, grid, world, length, tasks, shifts, routes, v, k0):
    """Latest starts from position `k0` back to the first; the end of the route must be set."""
    n = shifts[v, COUNT]
    cap = world[LONGEST_DRIVE]
    to = shifts[v, END_PLACE] if k0 == n else tasks[routes[v, TASK, k0 + 1], PLACE]
    z0 = routes[v, LATEST_0, k0 + 1]
    z1 = routes[v, LATEST_1, k0 + 1]
    for k in range(k0, 0, -1):
        c = routes[v, TASK, k]
        origin = tasks[c, PLACE]
        last = k == n
        if cap > 0 and not last and drive[drive.shape[0] - 1, origin, to] > cap:
            z0 = np.int64(-FAR)
            z1 = np.int64(-FAR)
        else:
            l0, l1 = latest_leave(drive, spans, grid, world, shifts, v, origin, to, z0, z1, False, last)
            d = np.int64(length[v, c])
            z0 = start_until(tasks, c, shifts, v, l0 - d, d) if l0 > -FAR else np.int64(-FAR)
            z1 = start_until(tasks, c, shifts, v, l1 - d, d) if l1 > -FAR else np.int64(-FAR)
        routes[v, LATEST_0, k] = z0
        routes[v, LATEST_1, k] = z1
        to = origin


@compiled
def settle(drive, metres, spans, grid, world, tasks, shifts, routes, v):
    """Cost of the day, and whether it holds, once `forward` has been along it."""
    n = shifts[v, COUNT]
    shifts[v, BAD] = 0
    if n == 0 and shifts[v, BEGUN] == 0:
        shifts[v, COST] = 0
        return
    origin = shifts[v, START_PLACE] if n == 0 else tasks[routes[v, TASK, n], PLACE]
    home, cost, _, _ = home_step(
        drive, metres, spans, grid, world, shifts, v, origin, routes[v, LEAVES_0, n], routes[v, SPENT_0, n], routes[v, BUSY_0, n],
        routes[v, LEAVES_1, n], routes[v, SPENT_1, n], routes[v, BUSY_1, n],
    )  # fmt: skip
    shifts[v, COST] = cost
    if home >= FAR:
        shifts[v, BAD] = 1


@compiled
def recompute(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, v):
    """All of a route from its list of tasks."""
    n = shifts[v, COUNT]
    rests = shifts[v, REST] > 0
    routes[v, LEAVES_0, 0] = shifts[v, STARTS] if rests else FAR
    routes[v, LEAVES_1, 0] = FAR if rests else shifts[v, STARTS]
    for row in range(SPENT_0, ROUTE_ROWS):
        routes[v, row, 0] = 0
    routes[v, LATEST_0, n + 1] = min(shifts[v, ENDS], shifts[v, REST_END]) if rests else -FAR
    routes[v, LATEST_1, n + 1] = shifts[v, ENDS]
    forward(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, v, 1)
    backward(drive, spans, grid, world, length, tasks, shifts, routes, v, n)
    settle(drive, metres, spans, grid, world, tasks, shifts, routes, v)


@compiled
def cost_with(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, c, v, k):
    """Cost of the day of shift `v` with task `c` after position `k`; DEAR when it does not hold."""
    n = shifts[v, COUNT]
    t0 = routes[v, LEAVES_0, k]
    t1 = routes[v, LEAVES_1, k]
    c0 = routes[v, SPENT_0, k]
    c1 = routes[v, SPENT_1, k]
    u0 = routes[v, BUSY_0, k]
    u1 = routes[v, BUSY_1, k]
    origin = shifts[v, START_PLACE] if k == 0 else tasks[routes[v, TASK, k], PLACE]
    x = c
    for i in range(k, n + 1):
        if i > k:
            x = routes[v, TASK, i]
        t0, c0, u0, t1, c1, u1, _ = visit_step(
            drive, metres, spans, grid, world, tasks, x, shifts, v, np.int64(length[v, x]), extra[v, x], origin, i == 0,
            t0, c0, u0, t1, c1, u1,
        )  # fmt: skip
        if t0 >= FAR and t1 >= FAR:
            return np.int64(DEAR)
        origin = tasks[x, PLACE]
        if i > k and world[UNFAIR] == 0 and t0 == routes[v, LEAVES_0, i] and t1 == routes[v, LEAVES_1, i]:
            # From here on the day goes as it went without the task.
            if t0 >= FAR:
                return shifts[v, COST] + c1 - routes[v, SPENT_1, i]
            if t1 >= FAR or c0 - routes[v, SPENT_0, i] == c1 - routes[v, SPENT_1, i]:
                return shifts[v, COST] + c0 - routes[v, SPENT_0, i]
    home, cost, _, _ = home_step(
        drive, metres, spans, grid, world, shifts, v, origin, t0, c0, u0, t1, c1, u1
    )  # fmt: skip
    return cost if home < FAR else np.int64(DEAR)


@compiled
def timetable(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, v, out):
    """Starts of work along shift `v`, written to out[0]; whether the day holds. `out` is int64[4, stops + 2]."""
    n = shifts[v, COUNT]
    rests = shifts[v, REST] > 0
    far = np.int64(FAR)
    zero = np.int64(0)
    t0 = shifts[v, STARTS] if rests else far
    t1 = far if rests else shifts[v, STARTS]
    origin = shifts[v, START_PLACE]
    for k in range(1, n + 1):
        c = routes[v, TASK, k]
        t0, _c0, _u0, t1, _c1, _u1, here = visit_step(
            drive, metres, spans, grid, world, tasks, c, shifts, v, np.int64(length[v, c]), extra[v, c], origin, k == 1,
            t0, zero, zero, t1, zero, zero,
        )  # fmt: skip
        out[1, k] = t0
        out[2, k] = t1
        out[3, k] = 1 if here else 0
        origin = tasks[c, PLACE]
    home, _cost, state, here = home_step(
        drive, metres, spans, grid, world, shifts, v, origin, t0, zero, zero, t1, zero, zero
    )  # fmt: skip
    if home >= FAR and n > 0:
        return False
    if state == 1 and here:
        state = 0
    for k in range(n, 0, -1):
        out[0, k - 1] = out[1 + state, k] - length[v, routes[v, TASK, k]]
        if state == 1 and out[3, k] == 1:
            state = 0
    return True


# --- where a task would go ------------------------------------------------------------------------


@inlined
def has_room(demand, bucket, room, c, v):
    """Whether shift `v` still has the parts and the capacity task `c` takes."""
    for r in range(demand.shape[1]):
        need = demand[c, r]
        if need > 0 and room[bucket[v, r], 1] + need > room[bucket[v, r], 0]:
            return False
    return True


@inlined
def holds_after(drive, spans, grid, world, shifts, v, origin, to, t0, t1, z0, z1, last):
    """Whether leaving `origin` at t0 / t1 (state 0 / 1) reaches `to` by z0 / z1."""
    if t1 < FAR and arrival(drive, spans, grid, world, origin, to, t1) <= z1:
        return True
    if t0 < FAR:
        there = arrival(drive, spans, grid, world, origin, to, t0)
        if there <= z0:
            return True
        begins = max(t0, shifts[v, REST_FROM])
        if begins <= shifts[v, REST_BY]:
            there_rested = arrival(drive, spans, grid, world, origin, to, begins + shifts[v, REST])
            if there_rested <= z1:
                return True
        if not last:
            begins = max(there, shifts[v, REST_FROM])
            if begins <= shifts[v, REST_BY] and begins + shifts[v, REST] <= z1:
                return True
    return False


@inlined
def early_ends(drive, spans, grid, world, tasks, c, shifts, v, length, origin, first, t0, t1):
    """Earliest end of the task in both states: `visit_step` without its cost."""
    to = tasks[c, PLACE]
    n0 = np.int64(FAR)
    start1 = np.int64(FAR)
    if t1 < FAR:
        start1 = start_from(tasks, c, shifts, v, arrival(drive, spans, grid, world, origin, to, t1), length)
    if t0 < FAR:
        there = arrival(drive, spans, grid, world, origin, to, t0)
        start = start_from(tasks, c, shifts, v, there, length)
        if start < FAR:
            n0 = start + length
        soonest = np.int64(FAR)
        begins = max(t0, shifts[v, REST_FROM])
        if begins <= shifts[v, REST_BY]:
            soonest = arrival(drive, spans, grid, world, origin, to, begins + shifts[v, REST])
        if not (first and shifts[v, BEGUN] == 0):
            begins = max(there, shifts[v, REST_FROM])
            if begins <= shifts[v, REST_BY]:
                soonest = min(soonest, begins + shifts[v, REST])
        if soonest < FAR:
            start1 = min(start1, start_from(tasks, c, shifts, v, soonest, length))
    return n0, (start1 + length if start1 < FAR else np.int64(FAR))


@inlined
def added_drive(drive, metres, world, period, n, origin, via, to):
    """Cost of driving by way of `via`, by the tables of one period."""
    seconds = np.int64(drive[period, origin, via]) + drive[period, via, to]
    if n > 0:
        seconds -= drive[period, origin, to]
    cost = seconds * world[DRIVE_SECOND]
    if world[DRIVE_METRE] > 0:
        longer = np.int64(metres[origin, via]) + metres[via, to]
        if n > 0:
            longer -= metres[origin, to]
        cost += longer * world[DRIVE_METRE]
    return cost


@compiled
def best_in_route(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, dice, c, v, blink):
    """The cheapest feasible position of task `c` in shift `v`: added cost and position (-1: none)."""
    best = np.int64(DEAR)
    at = np.int64(-1)
    n = shifts[v, COUNT]
    here = tasks[c, PLACE]
    d = np.int64(length[v, c])
    last = min(tasks[c, PIN_HIGH], tasks[c, FIRST_WINDOW + 3 * (tasks[c, WINDOWS] - 1) + 1])
    first = max(tasks[c, PIN_LOW], tasks[c, FIRST_WINDOW])
    origin = shifts[v, START_PLACE]
    exact = world[SIMULATE] == 0
    cap = world[LONGEST_DRIVE]
    slowest = drive.shape[0] - 1
    # An insertion may fill a wait: so much it can save beyond what it costs to drive.
    saving = world[WAIT_SECOND] * d
    begun = shifts[v, BEGUN]
    for k in range(n + 1):
        t0 = routes[v, LEAVES_0, k]
        t1 = routes[v, LEAVES_1, k]
        soonest = min(t0, t1)
        if soonest > last or soonest >= FAR:
            break
        to = shifts[v, END_PLACE] if k == n else tasks[routes[v, TASK, k + 1], PLACE]
        z0 = routes[v, LATEST_0, k + 1]
        z1 = routes[v, LATEST_1, k + 1]
        if max(z0, z1) < first + d:
            origin = to
            continue
        period = np.int64(0) if world[SPANS] == 1 else spans[span_at(spans, grid, world, soonest), 2]
        delta = added_drive(drive, metres, world, period, n + begun, origin, here, to) + extra[v, c] - saving
        before = origin
        origin = to
        if delta >= best:
            continue
        if blink > 0.0 and chance(dice) < blink:
            continue
        if cap > 0 and ((k > 0 and drive[slowest, before, here] > cap) or (k < n and drive[slowest, here, to] > cap)):
            continue
        n0, n1 = early_ends(drive, spans, grid, world, tasks, c, shifts, v, d, before, k == 0, t0, t1)
        if not holds_after(drive, spans, grid, world, shifts, v, here, to, n0, n1, z0, z1, k == n):
            continue
        if not exact:
            delta = (
                cost_with(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, c, v, k)
                - shifts[v, COST]
            )
        if delta < best:
            best = delta
            at = k
    return best, at


# --- changing routes ------------------------------------------------------------------------------


@compiled
def touch(shifts, routes, backup, world, touched, v):
    """Keep shift `v` as it was, once per iteration, and give it a new version."""
    if shifts[v, TOUCHED] == 0:
        shifts[v, TOUCHED] = 1
        touched[world[TOUCHED_COUNT]] = v
        world[TOUCHED_COUNT] += 1
        shifts[v, OLD_COUNT] = shifts[v, COUNT]
        shifts[v, OLD_COST] = shifts[v, COST]
        shifts[v, OLD_VERSION] = shifts[v, VERSION]
        shifts[v, OLD_BAD] = shifts[v, BAD]
        n = shifts[v, COUNT] + 2
        for row in range(ROUTE_ROWS):
            for k in range(n):
                backup[v, row, k] = routes[v, row, k]
    world[VERSIONS] += 1
    shifts[v, VERSION] = world[VERSIONS]


@compiled
def load(demand, bucket, room, c, v, sign):
    for r in range(demand.shape[1]):
        if demand[c, r] > 0:
            room[bucket[v, r], 1] += sign * demand[c, r]


@compiled
def put_in(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, tasks, shifts, routes, backup, touched,
    c, v, k,
):  # fmt: skip
    """Put task `c` on shift `v` after position `k`."""
    touch(shifts, routes, backup, world, touched, v)
    n = shifts[v, COUNT]
    for i in range(n, k, -1):
        x = routes[v, TASK, i]
        routes[v, TASK, i + 1] = x
        tasks[x, POSITION] = i + 1
    for i in range(n + 1, k, -1):
        routes[v, LATEST_0, i + 1] = routes[v, LATEST_0, i]
        routes[v, LATEST_1, i + 1] = routes[v, LATEST_1, i]
    routes[v, TASK, k + 1] = c
    tasks[c, SHIFT] = v
    tasks[c, POSITION] = k + 1
    shifts[v, COUNT] = n + 1
    load(demand, bucket, room, c, v, 1)
    before = shifts[v, COST]
    forward(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, v, k + 1)
    backward(drive, spans, grid, world, length, tasks, shifts, routes, v, k + 1)
    settle(drive, metres, spans, grid, world, tasks, shifts, routes, v)
    world[TOTAL] += shifts[v, COST] - before - tasks[c, PENALTY]


@compiled
def refresh(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, backup, touched, v):
    """Compute a route again whose tasks or pins have changed."""
    touch(shifts, routes, backup, world, touched, v)
    before = shifts[v, COST]
    recompute(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, v)
    world[TOTAL] += shifts[v, COST] - before


@compiled
def take_out(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, tasks, shifts, routes, backup, touched, c
):  # fmt: skip
    """Take one task off its shift; the list of absent ones is the caller's."""
    v = tasks[c, SHIFT]
    touch(shifts, routes, backup, world, touched, v)
    for k in range(tasks[c, POSITION], shifts[v, COUNT]):
        x = routes[v, TASK, k + 1]
        routes[v, TASK, k] = x
        tasks[x, POSITION] = k
    shifts[v, COUNT] -= 1
    tasks[c, SHIFT] = REMOVED
    load(demand, bucket, room, c, v, -1)
    world[TOTAL] += tasks[c, PENALTY]
    refresh(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, backup, touched, v)


@compiled
def pin(tasks, world, pin_log, c, low, high):
    """Narrow (or widen) the starts allowed to a task, so that it can be taken back."""
    i = world[LOGGED]
    if i < pin_log.shape[0]:
        pin_log[i, 0] = c
        pin_log[i, 1] = tasks[c, PIN_LOW]
        pin_log[i, 2] = tasks[c, PIN_HIGH]
        world[LOGGED] += 1
    tasks[c, PIN_LOW] = low
    tasks[c, PIN_HIGH] = high


@compiled
def push_group(tasks, world, stack, leader):
    """Note a tied group for taking out, once per iteration."""
    if tasks[leader, STAMP] != world[ITERATION] and tasks[leader, FIXED] == 0:
        tasks[leader, STAMP] = world[ITERATION]
        stack[world[STACKED]] = leader
        world[STACKED] += 1


@compiled
def cut_string(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, tasks, shifts, routes, backup, touched,
    absent, stack, v, first, count, kept_from, kept,
):  # fmt: skip
    """Take `count` neighbouring stops from position `first` off a shift, but for `kept` of them; fixed ones stay."""
    touch(shifts, routes, backup, world, touched, v)
    n = shifts[v, COUNT]
    w = first
    for k in range(first, n + 1):
        c = routes[v, TASK, k]
        goes = k < first + count and not (kept_from <= k < kept_from + kept) and tasks[c, FIXED] == 0
        if goes and tasks[tasks[c, LEADER], FIXED] == 0:
            tasks[c, SHIFT] = REMOVED
            load(demand, bucket, room, c, v, -1)
            world[TOTAL] += tasks[c, PENALTY]
            if tasks[c, TIED] == 0:
                absent[world[ABSENT]] = c
                world[ABSENT] += 1
            else:
                push_group(tasks, world, stack, tasks[c, LEADER])
        else:
            routes[v, TASK, w] = c
            tasks[c, POSITION] = w
            w += 1
    shifts[v, COUNT] = w - 1
    refresh(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, backup, touched, v)


@compiled
def loosen(
    drive, metres, spans, grid, world, length, extra, links, tasks, shifts, routes, backup, touched, pin_log, p
):  # fmt: skip
    """Give a predecessor its freedom back when nothing that follows it is planned any more."""
    if tasks[p, SHIFT] < 0 or tasks[p, CREW_ROW] >= 0:
        return
    low = np.int64(-FAR)
    high = np.int64(FAR)
    for i in range(links[p, 0]):
        kind = links[p, 1 + 4 * i]
        other = links[p, 2 + 4 * i]
        if kind == LEADS and tasks[other, SHIFT] >= 0:
            return
        if kind == FOLLOWS and tasks[other, SHIFT] >= 0:
            ends = tasks[other, PIN_HIGH] + length[tasks[other, SHIFT], other]
            low = max(low, ends + links[p, 3 + 4 * i])
            if links[p, 4 + 4 * i] < FAR:
                high = min(high, ends + links[p, 4 + 4 * i])
    if tasks[p, PIN_LOW] != low or tasks[p, PIN_HIGH] != high:
        pin(tasks, world, pin_log, p, low, high)
        v = tasks[p, SHIFT]
        refresh(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, backup, touched, v)


@compiled
def cut_groups(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, links, members, tasks, shifts, routes,
    backup, touched, absent, stack, pin_log,
):  # fmt: skip
    """Take out the rest of every group that lost a member, and whatever follows it or shares its hands."""
    i = 0
    while i < world[STACKED]:
        leader = stack[i]
        i += 1
        absent[world[ABSENT]] = leader
        world[ABSENT] += 1
        for q in range(members[leader, 0]):
            c = members[leader, 1 + q]
            if tasks[c, SHIFT] >= 0:
                take_out(
                    drive, metres, spans, grid, world, length, extra, demand, bucket, room, tasks, shifts, routes,
                    backup, touched, c,
                )  # fmt: skip
            pin(tasks, world, pin_log, c, np.int64(-FAR), np.int64(FAR))
            for x in range(links[c, 0]):
                other = links[c, 2 + 4 * x]
                if links[c, 1 + 4 * x] != FOLLOWS and tasks[other, SHIFT] >= 0:
                    push_group(tasks, world, stack, tasks[other, LEADER])
    for j in range(world[STACKED]):
        leader = stack[j]
        for q in range(members[leader, 0]):
            c = members[leader, 1 + q]
            for x in range(links[c, 0]):
                if links[c, 1 + 4 * x] == FOLLOWS:
                    loosen(
                        drive, metres, spans, grid, world, length, extra, links, tasks, shifts, routes, backup,
                        touched, pin_log, links[c, 2 + 4 * x],
                    )  # fmt: skip
    world[STACKED] = 0


@compiled
def ruin(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, links, members, near, tasks, shifts,
    routes, backup, touched, absent, stack, pin_log, dice, removals, longest, split, stretch, unserved_seed,
):  # fmt: skip
    """Take strings of stops out of the routes around a seed (section 5.1 of the paper)."""
    n = tasks.shape[0]
    used = 0
    stops = 0
    for v in range(shifts.shape[0]):
        if shifts[v, COUNT] > 0:
            used += 1
            stops += shifts[v, COUNT]
    if used == 0:
        return
    string_most = min(longest, stops / used)
    strings_most = 4.0 * removals / (1.0 + string_most) - 1.0
    strings = int(chance(dice) * strings_most + 1.0)
    if world[ABSENT] > 0 and chance(dice) < unserved_seed:
        seed = absent[int(chance(dice) * world[ABSENT])]
    else:
        seed = int(chance(dice) * n)
    done = 0
    for i in range(near.shape[1]):
        c = near[seed, i]
        v = tasks[c, SHIFT]
        if v < 0 or shifts[v, TOUCHED] != 0:
            continue
        m = shifts[v, COUNT]
        size = min(m, int(chance(dice) * min(float(m), string_most) + 1.0))
        at = tasks[c, POSITION]
        kept = 0
        if 1 < size < m and chance(dice) < split:
            kept = 1
            while size + kept < m and chance(dice) > stretch:
                kept += 1
        whole = size + kept
        low = max(1, at - whole + 1)
        high = min(at, m - whole + 1)
        first = low + int(chance(dice) * (high - low + 1))
        kept_from = first + int(chance(dice) * (size + 1)) if kept > 0 else -1
        cut_string(
            drive, metres, spans, grid, world, length, extra, demand, bucket, room, tasks, shifts, routes, backup,
            touched, absent, stack, v, first, whole, kept_from, kept,
        )  # fmt: skip
        done += 1
        if done >= strings:
            break
    cut_groups(
        drive, metres, spans, grid, world, length, extra, demand, bucket, room, links, members, tasks, shifts, routes,
        backup, touched, absent, stack, pin_log,
    )  # fmt: skip


# --- crews and links ------------------------------------------------------------------------------


@compiled
def start_range(tasks, routes, length, c):
    """Earliest and latest start that the route leaves a task now (in one state of the break)."""
    v = tasks[c, SHIFT]
    k = tasks[c, POSITION]
    d = np.int64(length[v, c])
    early = routes[v, LEAVES_1, k] - d
    if routes[v, LEAVES_1, k] < FAR and early <= routes[v, LATEST_1, k]:
        low, high = early, routes[v, LATEST_1, k]
    else:
        low, high = np.int64(FAR), np.int64(-FAR)
    early = routes[v, LEAVES_0, k] - d
    if routes[v, LEAVES_0, k] < FAR and early <= routes[v, LATEST_0, k] and early < low:
        low, high = early, routes[v, LATEST_0, k]
    return low, high


@compiled
def bounds_of(
    drive, metres, spans, grid, world, length, extra, links, members, tasks, shifts, routes, backup, touched, pin_log,
    dice, leader, out,
):  # fmt: skip
    """What its links leave a group: out = [earliest start, latest start]; False when a predecessor is not planned.

    A predecessor is held to a start it can keep, so that nothing put before it later breaks the link.
    """
    out[0] = -FAR
    out[1] = FAR
    for q in range(members[leader, 0]):
        c = members[leader, 1 + q]
        for x in range(links[c, 0]):
            if links[c, 1 + 4 * x] != FOLLOWS:
                continue
            p = links[c, 2 + 4 * x]
            v = tasks[p, SHIFT]
            if v < 0:
                return False
            low, high = start_range(tasks, routes, length, p)
            if low > high:
                return False
            held = low if chance(dice) < 0.7 else low + np.int64(chance(dice) * (high - low + 1))
            # A moment picked at random may lie between two windows.
            held = max(low, start_until(tasks, p, shifts, v, held, np.int64(length[v, p])))
            bounded = links[c, 4 + 4 * x] < FAR
            if tasks[p, PIN_LOW] == tasks[p, PIN_HIGH]:
                held = tasks[p, PIN_LOW]
            else:
                if tasks[p, PIN_HIGH] < FAR:
                    held = low  # something else follows it already: earlier is safe for both
                    if tasks[p, PIN_HIGH] < held:
                        return False
                pin(tasks, world, pin_log, p, held if bounded else tasks[p, PIN_LOW], held)
                refresh(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, backup, touched, v)
            ends = held + length[v, p]
            out[0] = max(out[0], ends + links[c, 3 + 4 * x])
            if bounded:
                out[1] = min(out[1], ends + links[c, 4 + 4 * x])
    return out[0] <= out[1]


@compiled
def technicians_of(links, tasks, shifts, c):
    """The technician who must do it because they do a visit it shares hands with; -1: anybody."""
    for x in range(links[c, 0]):
        other = links[c, 2 + 4 * x]
        if links[c, 1 + 4 * x] == SAME_HANDS and tasks[other, SHIFT] >= 0:
            return shifts[tasks[other, SHIFT], TECHNICIAN]
    return np.int64(-1)


@compiled
def crew_places(drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, c, v, out):
    """The cheapest places of a crew's task in shift `v`, each with the starts it allows; how many.

    Written to `out` from its second row on; the first says which version they are of.
    """
    n = shifts[v, COUNT]
    here = tasks[c, PLACE]
    d = np.int64(length[v, c])
    cap = world[LONGEST_DRIVE]
    slowest = drive.shape[0] - 1
    found = 0
    origin = shifts[v, START_PLACE]
    for k in range(n + 1):
        to = shifts[v, END_PLACE] if k == n else tasks[routes[v, TASK, k + 1], PLACE]
        before = origin
        origin = to
        t0 = routes[v, LEAVES_0, k]
        t1 = routes[v, LEAVES_1, k]
        soonest = min(t0, t1)
        if soonest >= FAR:
            break
        if cap > 0 and ((k > 0 and drive[slowest, before, here] > cap) or (k < n and drive[slowest, here, to] > cap)):
            continue
        period = np.int64(0) if world[SPANS] == 1 else spans[span_at(spans, grid, world, soonest), 2]
        delta = added_drive(drive, metres, world, period, n + shifts[v, BEGUN], before, here, to) + extra[v, c]
        if found == CREW_PLACES and delta >= out[found, 0]:
            continue
        n0, n1 = early_ends(drive, spans, grid, world, tasks, c, shifts, v, d, before, k == 0, t0, t1)
        l0, l1 = latest_leave(
            drive, spans, grid, world, shifts, v, here, to, routes[v, LATEST_0, k + 1], routes[v, LATEST_1, k + 1], False, k == n
        )  # fmt: skip
        low = np.int64(FAR)
        high = np.int64(-FAR)
        if n1 < FAR and l1 > -FAR:
            latest = start_until(tasks, c, shifts, v, l1 - d, d)
            if n1 - d <= latest:
                low = n1 - d
                high = latest
        if n0 < FAR and l0 > -FAR:
            latest = start_until(tasks, c, shifts, v, l0 - d, d)
            if n0 - d <= latest and latest - n0 + d > high - low:
                low = n0 - d
                high = latest
        if low > high:
            continue
        if found < CREW_PLACES:
            found += 1
        i = found
        while i > 1 and out[i - 1, 0] > delta:
            for f in range(CREW_FIELDS):
                out[i, f] = out[i - 1, f]
            i -= 1
        out[i, 0] = delta
        out[i, 1] = k
        out[i, 2] = low
        out[i, 3] = high
    return found


@compiled
def crew_candidates(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, crew_cache, tasks, shifts,
    routes, dice, blink, c, low, high, out,
):  # fmt: skip
    """Places for one member of a crew among all shifts, cheapest first: [delta, shift, position, from, until]."""
    limit = out.shape[0]
    found = 0
    hands = technicians_of(links, tasks, shifts, c)
    row = tasks[c, CREW_ROW]
    for e in range(tasks[c, ELIGIBLE]):
        v = np.int64(eligible[c, e])
        if hands >= 0 and shifts[v, TECHNICIAN] != hands:
            continue
        if not has_room(demand, bucket, room, c, v):
            continue
        if crew_cache[row, v, 0, 0] != shifts[v, VERSION]:
            crew_cache[row, v, 0, 0] = shifts[v, VERSION]
            crew_cache[row, v, 0, 1] = crew_places(
                drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, c, v, crew_cache[row, v]
            )  # fmt: skip
        for q in range(1, crew_cache[row, v, 0, 1] + 1):
            delta = crew_cache[row, v, q, 0]
            if crew_cache[row, v, q, 2] > high or crew_cache[row, v, q, 3] < low or chance(dice) < blink:
                continue
            if found == limit and delta >= out[limit - 1, 0]:
                break
            i = found
            if found < limit:
                found += 1
            else:
                i = limit - 1
            while i > 0 and out[i - 1, 0] > delta:
                for f in range(5):
                    out[i, f] = out[i - 1, f]
                i -= 1
            out[i, 0] = delta
            out[i, 1] = v
            out[i, 2] = crew_cache[row, v, q, 1]
            out[i, 3] = crew_cache[row, v, q, 2]
            out[i, 4] = crew_cache[row, v, q, 3]
    return found


@compiled
def crew_could_go(
    drive, metres, spans, grid, world, length, extra, crew_cache, members, tasks, shifts, routes, touched, leader
):  # fmt: skip
    """Whether a route that has just changed has a place for any member of a crew that had none."""
    for q in range(members[leader, 0]):
        c = members[leader, 1 + q]
        row = tasks[c, CREW_ROW]
        if q > 0 and row == tasks[members[leader, q], CREW_ROW]:
            continue
        for i in range(world[TOUCHED_COUNT]):
            v = touched[i]
            if length[v, c] < 0:
                continue
            if crew_cache[row, v, 0, 0] != shifts[v, VERSION]:
                crew_cache[row, v, 0, 0] = shifts[v, VERSION]
                crew_cache[row, v, 0, 1] = crew_places(
                    drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, c, v, crew_cache[row, v]
                )  # fmt: skip
            if crew_cache[row, v, 0, 1] > 0:
                return True
    return False


@compiled
def choose_crew(shifts, size, candidates, picks, low, high, limit):
    """The cheapest one place per member, on different technicians, whose starts meet; its cost (DEAR: none).

    `picks` is work space: int64[5, members + 1]; LIKE says whose list of candidates each member uses.

    Depth first over the candidates in order of cost, cut off where the cheapest rest is too dear.
    """
    best = limit
    picks[REST_OF, size] = 0
    for q in range(size - 1, -1, -1):
        picks[REST_OF, q] = picks[REST_OF, q + 1] + candidates[picks[LIKE, q], 0, 0]
    depth = 0
    picks[NOW, 0] = -1
    hit = False
    steps = 0
    while depth >= 0 and steps < 5000:
        steps += 1
        picks[NOW, depth] += 1
        spent = np.int64(0)
        for q in range(depth):
            spent += candidates[picks[LIKE, q], picks[NOW, q], 0]
        i = picks[NOW, depth]
        if (
            i >= picks[FOUND, picks[LIKE, depth]]
            or spent + candidates[picks[LIKE, depth], i, 0] + picks[REST_OF, depth + 1] >= best
        ):
            depth -= 1
            continue
        first = max(low, candidates[picks[LIKE, depth], i, 3])
        until = min(high, candidates[picks[LIKE, depth], i, 4])
        clash = False
        for q in range(depth):
            first = max(first, candidates[picks[LIKE, q], picks[NOW, q], 3])
            until = min(until, candidates[picks[LIKE, q], picks[NOW, q], 4])
            one = shifts[candidates[picks[LIKE, q], picks[NOW, q], 1], TECHNICIAN]
            if one == shifts[candidates[picks[LIKE, depth], i, 1], TECHNICIAN]:
                clash = True
        if clash or first > until:
            continue
        if depth == size - 1:
            best = spent + candidates[picks[LIKE, depth], i, 0]
            hit = True
            for q in range(size):
                picks[CHOSEN, q] = picks[NOW, q]
            depth -= 1
        else:
            depth += 1
            # Members that are alike are tried in one order only.
            alike = picks[LIKE, depth] == picks[LIKE, depth - 1]
            picks[NOW, depth] = picks[NOW, depth - 1] if alike else -1
    return best if hit else np.int64(DEAR)


@compiled
def common_start(length, members, tasks, shifts, leader, candidates, picks, start, high):
    """The first start from `start` on that suits all of a crew; a range may have gaps between windows."""
    again = True
    while again:
        again = False
        for q in range(members[leader, 0]):
            c = members[leader, 1 + q]
            v = candidates[picks[LIKE, q], picks[CHOSEN, q], 1]
            found = start_from(tasks, c, shifts, v, start, np.int64(length[v, c]))
            if found > high:
                return np.int64(FAR)
            if found != start:
                start = found
                again = True
    return start


@compiled
def insert_crew(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, members, crew_cache,
    tasks, shifts, routes, backup, touched, pin_log, dice, blink, leader, bounds, candidates, picks,
):  # fmt: skip
    """Put a group that starts together on as many technicians, pinned to one start."""
    size = members[leader, 0]
    penalty = np.int64(0)
    for q in range(size):
        c = members[leader, 1 + q]
        penalty += tasks[c, PENALTY]
        row = tasks[c, CREW_ROW]
        picks[LIKE, q] = q
        if q > 0 and row == tasks[members[leader, q], CREW_ROW]:
            picks[LIKE, q] = picks[LIKE, q - 1]
            continue
        picks[FOUND, q] = crew_candidates(
            drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, crew_cache, tasks,
            shifts, routes, dice, blink, c, bounds[0], bounds[1], candidates[q],
        )  # fmt: skip
        if picks[FOUND, q] == 0:
            return False
    if choose_crew(shifts, size, candidates, picks, bounds[0], bounds[1], penalty) >= DEAR:
        return False
    low = bounds[0]
    high = bounds[1]
    for q in range(size):
        low = max(low, candidates[picks[LIKE, q], picks[CHOSEN, q], 3])
        high = min(high, candidates[picks[LIKE, q], picks[CHOSEN, q], 4])
    luck = chance(dice)
    start = low
    if luck >= 0.7:
        start = high
    elif luck >= 0.6:
        start = low + np.int64(chance(dice) * (high - low + 1))
    start = common_start(length, members, tasks, shifts, leader, candidates, picks, start, high)
    if start >= FAR:
        start = common_start(length, members, tasks, shifts, leader, candidates, picks, low, high)
    if start >= FAR:
        return False
    for q in range(size):
        c = members[leader, 1 + q]
        pin(tasks, world, pin_log, c, start, start)
    for q in range(size):
        c = members[leader, 1 + q]
        put_in(
            drive, metres, spans, grid, world, length, extra, demand, bucket, room, tasks, shifts, routes, backup,
            touched, c, candidates[picks[LIKE, q], picks[CHOSEN, q], 1], candidates[picks[LIKE, q], picks[CHOSEN, q], 2],
        )  # fmt: skip
    return True


@compiled
def insert_tied(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, members, crew_cache,
    tasks, shifts, routes, backup, touched, pin_log, dice, blink, leader, bounds, candidates, picks,
):  # fmt: skip
    """Put a crew or a linked visit into the plan, where its links allow; whether it went in."""
    if world[LOGGED] + 200 > pin_log.shape[0]:
        return False  # what is not logged could not be taken back
    held = bounds_of(
        drive, metres, spans, grid, world, length, extra, links, members, tasks, shifts, routes, backup, touched,
        pin_log, dice, leader, bounds,
    )  # fmt: skip
    done = False
    if held and members[leader, 0] > 1:
        done = insert_crew(
            drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, members,
            crew_cache, tasks, shifts, routes, backup, touched, pin_log, dice, blink, leader, bounds, candidates, picks,
        )  # fmt: skip
    elif held:
        pin(tasks, world, pin_log, leader, bounds[0], bounds[1])
        best = tasks[leader, PENALTY]
        where = np.int64(-1)
        at = np.int64(-1)
        hands = technicians_of(links, tasks, shifts, leader)
        for e in range(tasks[leader, ELIGIBLE]):
            v = np.int64(eligible[leader, e])
            if (hands >= 0 and shifts[v, TECHNICIAN] != hands) or not has_room(demand, bucket, room, leader, v):
                continue
            delta, k = best_in_route(
                drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, dice, leader, v, blink
            )  # fmt: skip
            if delta < best:
                best = delta
                where = v
                at = k
        if where >= 0:
            put_in(
                drive, metres, spans, grid, world, length, extra, demand, bucket, room, tasks, shifts, routes, backup,
                touched, leader, where, at,
            )  # fmt: skip
            done = True
        else:
            pin(tasks, world, pin_log, leader, np.int64(-FAR), np.int64(FAR))
    if not done:
        for q in range(members[leader, 0]):
            c = members[leader, 1 + q]
            for x in range(links[c, 0]):
                if links[c, 1 + 4 * x] == FOLLOWS:
                    loosen(
                        drive, metres, spans, grid, world, length, extra, links, tasks, shifts, routes, backup,
                        touched, pin_log, links[c, 2 + 4 * x],
                    )  # fmt: skip
    return done


# --- recreate and anneal --------------------------------------------------------------------------


@compiled
def sort_absent(world, absent, orders, keys, dice):
    """One of the orders at random, or a random order; a stable insertion sort."""
    n = world[ABSENT]
    r = int(chance(dice) * (orders.shape[0] + 3))
    for i in range(n):
        keys[i] = orders[r, absent[i]] if r < orders.shape[0] else chance(dice)
    for i in range(1, n):
        key = keys[i]
        c = absent[i]
        j = i - 1
        while j >= 0 and keys[j] > key:
            keys[j + 1] = keys[j]
            absent[j + 1] = absent[j]
            j -= 1
        keys[j + 1] = key
        absent[j + 1] = c


@compiled
def recreate(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, members, crew_cache,
    cache, orders, keys, tasks, shifts, routes, backup, touched, absent, pin_log, dice, blink, bounds, candidates, picks,
):  # fmt: skip
    """Put absent tasks back greedily, with blinks (section 5.2 of the paper)."""
    sort_absent(world, absent, orders, keys, dice)
    left = 0
    limited = demand.shape[1] > 0
    waiting_again = True
    rounds = 0
    while waiting_again:
        # A follower may come before its leader in the order: then it gets a second chance.
        waiting_again = False
        rounds += 1
        n = world[ABSENT]
        left = 0
        placed_tied = False
        failed_tied = False
        for i in range(n):
            c = absent[i]
            if tasks[c, TIED] == 1:
                hopeless = tasks[c, SHIFT] == WAITING and links[c, 0] == 0 and not crew_could_go(
                    drive, metres, spans, grid, world, length, extra, crew_cache, members, tasks, shifts, routes,
                    touched, c,
                )  # fmt: skip
                if not hopeless and insert_tied(
                    drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, members,
                    crew_cache, tasks, shifts, routes, backup, touched, pin_log, dice, blink, c, bounds, candidates, picks,
                ):  # fmt: skip
                    placed_tied = True
                else:
                    failed_tied = failed_tied or links[c, 0] > 0
                    tasks[c, SHIFT] = WAITING
                    absent[left] = c
                    left += 1
                continue
            best = tasks[c, PENALTY]
            where = np.int64(-1)
            at = np.int64(-1)
            # What was unserved before had no opening: only the routes just changed can have one.
            waiting = tasks[c, SHIFT] == WAITING
            choices = world[TOUCHED_COUNT] if waiting else tasks[c, ELIGIBLE]
            for e in range(choices):
                v = touched[e] if waiting else np.int64(eligible[c, e])
                if length[v, c] < 0 or (limited and not has_room(demand, bucket, room, c, v)):
                    continue
                if cache[c, v, 0] == shifts[v, VERSION]:
                    delta = cache[c, v, 1]
                    k = cache[c, v, 2]
                else:
                    delta, k = best_in_route(
                        drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, dice, c, v, 0.0
                    )  # fmt: skip
                    cache[c, v, 0] = shifts[v, VERSION]
                    cache[c, v, 1] = delta
                    cache[c, v, 2] = k
                if delta < best:
                    if chance(dice) < blink:
                        delta, k = best_in_route(
                            drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, dice, c, v, 0.3
                        )  # fmt: skip
                        if delta >= best:
                            continue
                    best = delta
                    where = v
                    at = k
            if where >= 0:
                put_in(
                    drive, metres, spans, grid, world, length, extra, demand, bucket, room, tasks, shifts, routes,
                    backup, touched, c, where, at,
                )  # fmt: skip
            else:
                absent[left] = c
                tasks[c, SHIFT] = WAITING
                left += 1
        world[ABSENT] = left
        waiting_again = placed_tied and failed_tied and rounds < 12


@compiled
def keep_best(world, tasks, shifts, routes, best_routes, best_pins):
    world[BEST_TOTAL] = world[TOTAL]
    for v in range(shifts.shape[0]):
        shifts[v, BEST_COUNT] = shifts[v, COUNT]
        for k in range(1, shifts[v, COUNT] + 1):
            c = routes[v, TASK, k]
            best_routes[v, k] = c
            if tasks[c, TIED] == 1:
                best_pins[c, 0] = tasks[c, PIN_LOW]
                best_pins[c, 1] = tasks[c, PIN_HIGH]


@compiled
def restore(world, demand, bucket, room, tasks, shifts, routes, backup, touched, absent, before, pin_log, total, count):
    """Everything as it was before the iteration."""
    for i in range(world[TOUCHED_COUNT]):
        v = touched[i]
        for k in range(1, shifts[v, COUNT] + 1):
            load(demand, bucket, room, routes[v, TASK, k], v, -1)
            tasks[routes[v, TASK, k], SHIFT] = WAITING
    for i in range(world[TOUCHED_COUNT]):
        v = touched[i]
        shifts[v, TOUCHED] = 0
        shifts[v, COUNT] = shifts[v, OLD_COUNT]
        shifts[v, VERSION] = shifts[v, OLD_VERSION]
        shifts[v, COST] = shifts[v, OLD_COST]
        shifts[v, BAD] = shifts[v, OLD_BAD]
        n = shifts[v, COUNT] + 2
        for row in range(ROUTE_ROWS):
            for k in range(n):
                routes[v, row, k] = backup[v, row, k]
        for k in range(1, shifts[v, COUNT] + 1):
            c = routes[v, TASK, k]
            tasks[c, SHIFT] = v
            tasks[c, POSITION] = k
            load(demand, bucket, room, c, v, 1)
    for i in range(world[LOGGED] - 1, -1, -1):
        tasks[pin_log[i, 0], PIN_LOW] = pin_log[i, 1]
        tasks[pin_log[i, 0], PIN_HIGH] = pin_log[i, 2]
    world[TOTAL] = total
    world[ABSENT] = count
    for i in range(count):
        absent[i] = before[i]
        tasks[absent[i], SHIFT] = WAITING


@compiled
def anneal(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, members, near, crew_cache,
    cache, orders, keys, tasks, shifts, routes, backup, touched, absent, before, stack, pin_log, best_routes,
    best_pins, dice, bounds, candidates, picks, iterations, planned, share, hot, cooling, removals, longest, split, stretch,
    blink, unserved_seed,
):  # fmt: skip
    """A stretch of the search. The temperature is hot * exp(cooling * share of the search that is over).

    That share is counted in iterations when `planned` says how many there will be, so that the answer
    does not depend on how the search was cut into stretches; else it is `share`, by the clock.
    """
    heat = hot * np.exp(cooling * share)
    for i in range(iterations):
        if planned > 0:
            heat = hot * np.exp(cooling * (world[ROUNDS] + i) / planned)
        total = world[TOTAL]
        count = world[ABSENT]
        for i in range(count):
            before[i] = absent[i]
        world[TOUCHED_COUNT] = 0
        world[LOGGED] = 0
        world[ITERATION] += 1
        ruin(
            drive, metres, spans, grid, world, length, extra, demand, bucket, room, links, members, near, tasks,
            shifts, routes, backup, touched, absent, stack, pin_log, dice, removals, longest, split, stretch,
            unserved_seed,
        )  # fmt: skip
        recreate(
            drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, links, members,
            crew_cache, cache, orders, keys, tasks, shifts, routes, backup, touched, absent, pin_log, dice, blink,
            bounds, candidates, picks,
        )  # fmt: skip
        holds = world[LOGGED] < pin_log.shape[0]
        for i in range(world[TOUCHED_COUNT]):
            if shifts[touched[i], BAD] == 1:
                holds = False
        if holds and world[TOTAL] < total - heat * np.log(chance(dice) + 1e-300):
            world[ACCEPTED] += 1
            if world[TOTAL] < world[BEST_TOTAL]:
                keep_best(world, tasks, shifts, routes, best_routes, best_pins)
            for i in range(world[TOUCHED_COUNT]):
                shifts[touched[i], TOUCHED] = 0
        else:
            restore(
                world, demand, bucket, room, tasks, shifts, routes, backup, touched, absent, before, pin_log, total,
                count,
            )  # fmt: skip
    world[ROUNDS] += iterations


@compiled
def rank(
    drive, metres, spans, grid, world, length, extra, demand, bucket, room, eligible, tasks, shifts, routes, dice, c,
    out,
):  # fmt: skip
    """The best position of task `c` in every shift that can take it: out[k] = added cost, shift, position; how many."""
    found = 0
    for e in range(tasks[c, ELIGIBLE]):
        v = np.int64(eligible[c, e])
        if not has_room(demand, bucket, room, c, v):
            continue
        delta, k = best_in_route(
            drive, metres, spans, grid, world, length, extra, tasks, shifts, routes, dice, c, v, 0.0
        )  # fmt: skip
        if k >= 0:
            out[found, 0] = delta
            out[found, 1] = v
            out[found, 2] = k
            found += 1
    return found
