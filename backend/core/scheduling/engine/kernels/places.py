"""Where a task would go, and what that costs."""

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.kernels.chance import chance
from core.scheduling.engine.kernels.clock import after_rest, arrival, span_at, start_from
from core.scheduling.engine.kernels.compiled import compiled, inlined
from core.scheduling.engine.kernels.walk import cost_with, place_after, place_at, too_far


@inlined
def has_room(stores, task, shift):
    """Whether the shift still has the parts and the capacity the task takes."""
    for resource in range(stores.demand.shape[1]):
        wanted = stores.demand[task, resource]
        store = stores.bucket[shift, resource]
        if wanted > 0 and stores.room[store, f.USED] + wanted > stores.room[store, f.SIZE]:
            return False
    return True


@inlined
def holds_after(roads, world, plan, shift, origin, to, leaves0, leaves1, latest0, latest1, last):
    """Whether leaving `origin` then (break ahead, break over) reaches `to` by the latest starts there."""
    if leaves1 < f.FAR and arrival(roads, world, origin, to, leaves1) <= latest1:
        return True
    if leaves0 < f.FAR:
        there = arrival(roads, world, origin, to, leaves0)
        if there <= latest0:
            return True
        rested = after_rest(plan, shift, leaves0)
        if rested < f.FAR and arrival(roads, world, origin, to, rested) <= latest1:
            return True
        if not last and after_rest(plan, shift, there) <= latest1:
            return True
    return False


@inlined
def early_ends(roads, world, plan, task, shift, seconds, origin, first, leaves0, leaves1):
    """Earliest end of the task in both states of the break: `visit_step` without its cost."""
    to = plan.tasks[task, f.PLACE]
    ends0, start1 = np.int64(f.FAR), np.int64(f.FAR)
    if leaves1 < f.FAR:
        start1 = start_from(plan, task, shift, arrival(roads, world, origin, to, leaves1), seconds)
    if leaves0 < f.FAR:
        there = arrival(roads, world, origin, to, leaves0)
        start = start_from(plan, task, shift, there, seconds)
        if start < f.FAR:
            ends0 = start + seconds
        soonest = np.int64(f.FAR)
        rested = after_rest(plan, shift, leaves0)
        if rested < f.FAR:
            soonest = arrival(roads, world, origin, to, rested)
        if not (first and plan.shifts[shift, f.BEGUN] == 0):
            soonest = min(soonest, after_rest(plan, shift, there))
        if soonest < f.FAR:
            start1 = min(start1, start_from(plan, task, shift, soonest, seconds))
    return ends0, (start1 + seconds if start1 < f.FAR else np.int64(f.FAR))


@inlined
def added_drive(roads, world, leaving, stops, origin, via, to):
    """Cost of driving by way of `via`, by the tables of the period in which one leaves; of an empty day all of it."""
    period = np.int64(0)
    if world[f.SPANS] > 1:
        period = roads.spans[span_at(roads, world, leaving), f.PERIOD]
    seconds = np.int64(roads.drive[period, origin, via]) + roads.drive[period, via, to]
    if stops > 0:
        seconds -= roads.drive[period, origin, to]
    cost = seconds * world[f.DRIVE_SECOND]
    if world[f.DRIVE_METRE] > 0:
        longer = np.int64(roads.metres[origin, via]) + roads.metres[via, to]
        if stops > 0:
            longer -= roads.metres[origin, to]
        cost += longer * world[f.DRIVE_METRE]
    return cost


@compiled
def is_cut_off(roads, world, plan, shift, position, here):
    """Whether a drive to or from a place put in after a position would be too long."""
    before, after = place_at(plan, shift, position), place_after(plan, shift, position)
    return (position > 0 and too_far(roads, world, before, here)) or (
        position < plan.shifts[shift, f.COUNT] and too_far(roads, world, here, after)
    )


@compiled
def best_in_route(roads, world, fits, plan, dice, task, shift, blink):
    """The cheapest feasible position of the task in the shift: added cost and position (-1: none)."""
    tasks, routes = plan.tasks, plan.routes
    best, best_position = np.int64(f.DEAR), np.int64(-1)
    stops = plan.shifts[shift, f.COUNT]
    here = tasks[task, f.PLACE]
    seconds = np.int64(fits.length[shift, task])
    first = max(tasks[task, f.PIN_LOW], tasks[task, f.FIRST_WINDOW])
    last_window = f.FIRST_WINDOW + 3 * (tasks[task, f.WINDOWS] - 1)
    last = min(tasks[task, f.PIN_HIGH], tasks[task, last_window + 1])
    # An insertion may fill a wait: so much it can save beyond what it costs to drive.
    saving = world[f.WAIT_SECOND] * seconds
    begun = plan.shifts[shift, f.BEGUN]
    to = plan.shifts[shift, f.START_PLACE]
    for position in range(stops + 1):
        leaves0, leaves1 = routes[shift, f.LEAVES_0, position], routes[shift, f.LEAVES_1, position]
        soonest = min(leaves0, leaves1)
        if soonest > last or soonest >= f.FAR:
            break
        origin, to = to, place_after(plan, shift, position)
        latest0, latest1 = routes[shift, f.LATEST_0, position + 1], routes[shift, f.LATEST_1, position + 1]
        if max(latest0, latest1) < first + seconds:
            continue
        added = added_drive(roads, world, soonest, stops + begun, origin, here, to) + fits.extra[shift, task] - saving
        if added >= best:
            continue
        if blink > 0.0 and chance(dice) < blink:
            continue
        if world[f.LONGEST_DRIVE] > 0 and is_cut_off(roads, world, plan, shift, position, here):
            continue
        ends0, ends1 = early_ends(roads, world, plan, task, shift, seconds, origin, position == 0, leaves0, leaves1)
        if not holds_after(roads, world, plan, shift, here, to, ends0, ends1, latest0, latest1, position == stops):
            continue
        if world[f.SIMULATE] == 1:
            added = cost_with(roads, world, fits, plan, task, shift, position) - plan.shifts[shift, f.COST]
        if added < best:
            best, best_position = added, position
    return best, best_position


@compiled
def rank(roads, world, fits, stores, plan, dice, task, out):
    """The best place of the task on every shift that can take it; how many. `out` is int64[shifts, CANDIDATE]."""
    found = 0
    for choice in range(plan.tasks[task, f.ELIGIBLE]):
        shift = np.int64(fits.eligible[task, choice])
        if not has_room(stores, task, shift):
            continue
        added, position = best_in_route(roads, world, fits, plan, dice, task, shift, 0.0)
        if position >= 0:
            out[found, f.ADDED], out[found, f.AFTER], out[found, f.ON_SHIFT] = added, position, shift
            found += 1
    return found
