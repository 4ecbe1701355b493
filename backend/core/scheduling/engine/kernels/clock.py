"""The clock: driving by the hour, starts within windows and between absences, the break."""

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.kernels.compiled import compiled, inlined


@compiled
def span_at(roads, world, moment):
    """Index of the stretch of one speed that holds `moment`."""
    cell = (moment - world[f.GRID_FROM]) // world[f.GRID_CELL]
    if cell < 0:
        cell = 0
    elif cell >= roads.grid.shape[0]:
        cell = roads.grid.shape[0] - 1
    span = np.int64(roads.grid[cell])
    while moment >= roads.spans[span, f.UNTIL]:
        span += 1
    return span


@inlined
def arrival(roads, world, origin, to, departs):
    """Moment of arrival when leaving `origin` then."""
    if world[f.SPANS] == 1:
        return departs + roads.drive[0, origin, to]
    return arrival_by_hour(roads, world, origin, to, departs)


@compiled
def arrival_by_hour(roads, world, origin, to, departs):
    """The same arithmetic as core.roads.travel.TimedTravel."""
    if origin == to:
        return departs
    span = span_at(roads, world, departs)
    whole = np.int64(roads.drive[roads.spans[span, f.PERIOD], origin, to])
    if departs + whole <= roads.spans[span, f.UNTIL]:
        return departs + whole
    moment = departs
    share = 1.0
    takes = float(whole)
    while float(moment) + share * takes > float(roads.spans[span, f.UNTIL]):
        share -= (roads.spans[span, f.UNTIL] - moment) / takes
        moment = roads.spans[span, f.UNTIL]
        span += 1
        takes = float(roads.drive[roads.spans[span, f.PERIOD], origin, to])
    return departs + np.int64(np.ceil(float(moment - departs) + share * takes))


@inlined
def departure(roads, world, origin, to, by):
    """The latest moment to leave so as to arrive by then: the inverse of `arrival`."""
    if world[f.SPANS] == 1:
        return by - roads.drive[0, origin, to]
    return departure_by_hour(roads, world, origin, to, by)


@compiled
def departure_by_hour(roads, world, origin, to, by):
    """Back along the spans; the last second is found by trying, because arrivals are rounded up."""
    if origin == to:
        return by
    span = span_at(roads, world, by)
    whole = np.int64(roads.drive[roads.spans[span, f.PERIOD], origin, to])
    if by - whole >= roads.spans[span, f.FROM]:
        guess = by - whole
    else:
        moment = by
        share = 1.0
        takes = float(whole)
        while span > 0 and float(moment) - share * takes < float(roads.spans[span, f.FROM]):
            share -= (moment - roads.spans[span, f.FROM]) / takes
            moment = roads.spans[span, f.FROM]
            span -= 1
            takes = float(roads.drive[roads.spans[span, f.PERIOD], origin, to])
        guess = moment - np.int64(np.floor(share * takes))
    while arrival(roads, world, origin, to, guess) > by:
        guess -= 1
    while arrival(roads, world, origin, to, guess + 1) <= by:
        guess += 1
    return guess


@inlined
def start_from(plan, task, shift, moment, seconds):
    """The first start of work at or after `moment`; FAR when there is none."""
    tasks, shifts = plan.tasks, plan.shifts
    stays = tasks[task, f.HOME] == shift
    at = max(moment, tasks[task, f.PIN_LOW])
    if stays:
        at = max(at, tasks[task, f.TOLD])
    while True:
        found = np.int64(f.FAR)
        for window in range(tasks[task, f.WINDOWS]):
            base = f.FIRST_WINDOW + 3 * window
            start = max(at, tasks[task, base])
            if not stays or start != tasks[task, f.TOLD]:
                start = -(-start // tasks[task, f.GRAIN]) * tasks[task, f.GRAIN]
            if start <= tasks[task, base + 1] and start + seconds <= tasks[task, base + 2]:
                found = start
                break
        if found > tasks[task, f.PIN_HIGH]:
            return np.int64(f.FAR)
        clear = True
        for block in range(shifts[shift, f.BLOCKS]):
            begins = shifts[shift, f.FIRST_BLOCK + 2 * block]
            ends = shifts[shift, f.FIRST_BLOCK + 2 * block + 1]
            if found < ends and found + seconds > begins:
                at = ends
                clear = False
                break
        if clear:
            return found


@inlined
def start_until(plan, task, shift, moment, seconds):
    """The last start of work at or before `moment`; -FAR when there is none."""
    tasks, shifts = plan.tasks, plan.shifts
    stays, told = tasks[task, f.HOME] == shift, tasks[task, f.TOLD]
    at = min(moment, tasks[task, f.PIN_HIGH])
    while True:
        found = np.int64(-f.FAR)
        for window in range(tasks[task, f.WINDOWS] - 1, -1, -1):
            base = f.FIRST_WINDOW + 3 * window
            latest = min(at, min(tasks[task, base + 1], tasks[task, base + 2] - seconds))
            start = latest // tasks[task, f.GRAIN] * tasks[task, f.GRAIN]
            if stays and start < told and latest >= told:
                start = told
            if start >= tasks[task, base]:
                found = start
                break
        if found < tasks[task, f.PIN_LOW] or (stays and found < told):
            return np.int64(-f.FAR)
        clear = True
        for block in range(shifts[shift, f.BLOCKS]):
            begins = shifts[shift, f.FIRST_BLOCK + 2 * block]
            ends = shifts[shift, f.FIRST_BLOCK + 2 * block + 1]
            if found < ends and found + seconds > begins:
                at = begins - seconds
                clear = False
                break
        if clear:
            return found


@inlined
def after_rest(plan, shift, moment):
    """When the break is over that begins at `moment`, or as soon after it as it may; FAR: it is too late for it."""
    begins = max(moment, plan.shifts[shift, f.REST_FROM])
    if begins > plan.shifts[shift, f.REST_BY]:
        return np.int64(f.FAR)
    return begins + plan.shifts[shift, f.REST]


@inlined
def before_rest(plan, shift, moment):
    """The latest beginning of a break that is over by `moment`; -FAR: it cannot be."""
    begins = min(plan.shifts[shift, f.REST_BY], moment - plan.shifts[shift, f.REST])
    return begins if begins >= plan.shifts[shift, f.REST_FROM] else np.int64(-f.FAR)
