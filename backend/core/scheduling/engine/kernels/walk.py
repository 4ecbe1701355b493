"""Walking a day: forward to costs and earliest departures, backward to latest starts.

Everything is kept in two states: the break still lies ahead, or it is over (or none is due).
"""

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.bundles import State
from core.scheduling.engine.kernels.clock import (
    after_rest,
    arrival,
    before_rest,
    departure,
    start_from,
    start_until,
)
from core.scheduling.engine.kernels.compiled import compiled, inlined


@inlined
def impossible():
    """The state that is not reached."""
    return State(np.int64(f.FAR), np.int64(0), np.int64(0))


@inlined
def state_at(plan, shift, position, rested):
    """The state in which the shift leaves a position; `rested` is 0 or 1."""
    routes = plan.routes
    return State(
        routes[shift, f.LEAVES_0 + rested, position],
        routes[shift, f.SPENT_0 + rested, position],
        routes[shift, f.BUSY_0 + rested, position],
    )


@inlined
def keep_state(plan, shift, position, rested, state):
    plan.routes[shift, f.LEAVES_0 + rested, position] = state.leaves
    plan.routes[shift, f.SPENT_0 + rested, position] = state.spent
    plan.routes[shift, f.BUSY_0 + rested, position] = state.busy


@inlined
def place_at(plan, shift, position):
    """Where a position of the route is: 0 is the start of the shift, COUNT + 1 its end."""
    return plan.shifts[shift, f.START_PLACE] if position == 0 else place_after(plan, shift, position - 1)


@inlined
def place_after(plan, shift, position):
    """Where one goes from a position."""
    if position == plan.shifts[shift, f.COUNT]:
        return plan.shifts[shift, f.END_PLACE]
    return plan.tasks[plan.routes[shift, f.TASK, position + 1], f.PLACE]


@inlined
def too_far(roads, world, origin, to):
    """Whether a drive between two visits is longer than is allowed at any hour."""
    cap = world[f.LONGEST_DRIVE]
    return cap > 0 and roads.drive[roads.drive.shape[0] - 1, origin, to] > cap


@inlined
def metre_cost(roads, world, origin, to):
    return world[f.DRIVE_METRE] * roads.metres[origin, to] if world[f.DRIVE_METRE] > 0 else np.int64(0)


@inlined
def time_cost(plan, task, start, seconds):
    """Cost of lateness and of a moved start."""
    tasks = plan.tasks
    cost = np.int64(0)
    if tasks[task, f.LATE_RATE] > 0:
        cost += tasks[task, f.LATE_RATE] * max(np.int64(0), start + seconds - tasks[task, f.DUE])
    if tasks[task, f.MOVE_RATE] > 0:
        cost += tasks[task, f.MOVE_RATE] * abs(start - tasks[task, f.TOLD])
    return cost


@inlined
def worked(world, plan, task, state, start, seconds, added, driven, waited):
    """The state after work that begins at `start`."""
    spent = state.spent + added + world[f.DRIVE_SECOND] * driven + world[f.WAIT_SECOND] * waited
    return State(start + seconds, spent + time_cost(plan, task, start, seconds), state.busy + driven + seconds)


@compiled
def visit_step(roads, world, fits, plan, task, shift, origin, first, ahead, rested):
    """From leaving `origin` to leaving the task's place, in both states of the break.

    Returns them after the task, and whether the break was taken on this leg. Ties go to the earlier break, as the
    evaluator takes it.
    """
    to = plan.tasks[task, f.PLACE]
    seconds = np.int64(fits.length[shift, task])
    # To the first visit one leaves just in time.
    just_in_time = first and plan.shifts[shift, f.BEGUN] == 0
    after_ahead, after_rested = impossible(), impossible()
    rests_here = False
    if not first and too_far(roads, world, origin, to):
        return after_ahead, after_rested, rests_here
    added = fits.extra[shift, task] + metre_cost(roads, world, origin, to)
    start_rested = np.int64(f.FAR)
    if rested.leaves < f.FAR:
        leaves = rested.leaves
        there = arrival(roads, world, origin, to, leaves)
        start_rested = start_from(plan, task, shift, there, seconds)
        if start_rested < f.FAR:
            if just_in_time:
                leaves = max(leaves, departure(roads, world, origin, to, start_rested))
                there = arrival(roads, world, origin, to, leaves)
            after_rested = worked(
                world, plan, task, rested, start_rested, seconds, added, there - leaves, start_rested - there
            )
    if ahead.leaves < f.FAR:
        there = arrival(roads, world, origin, to, ahead.leaves)
        start = start_from(plan, task, shift, there, seconds)
        if start < f.FAR:
            leaves, arrives = ahead.leaves, there
            if just_in_time:
                leaves = max(leaves, departure(roads, world, origin, to, start))
                arrives = arrival(roads, world, origin, to, leaves)
            after_ahead = worked(world, plan, task, ahead, start, seconds, added, arrives - leaves, start - arrives)
        # The break before the drive, or after it.
        leaves = after_rest(plan, shift, ahead.leaves)
        before = arrival(roads, world, origin, to, leaves) if leaves < f.FAR else np.int64(f.FAR)
        after = np.int64(f.FAR) if just_in_time else after_rest(plan, shift, there)
        soonest = min(before, after)
        start = start_from(plan, task, shift, soonest, seconds) if soonest < f.FAR else np.int64(f.FAR)
        if start < start_rested:
            if before <= start:
                waited = leaves - ahead.leaves - plan.shifts[shift, f.REST]
                if just_in_time:
                    leaves = max(leaves, departure(roads, world, origin, to, start))
                    before = arrival(roads, world, origin, to, leaves)
                    waited = np.int64(0)
                driven, waited = before - leaves, waited + start - before
            else:
                driven, waited = there - ahead.leaves, start - there - plan.shifts[shift, f.REST]
            after_rested = worked(world, plan, task, ahead, start, seconds, added, driven, waited)
            rests_here = True
    return after_ahead, after_rested, rests_here


@inlined
def home_step(roads, world, plan, shift, origin, ahead, rested):
    """The way home: arrival (FAR: not feasible), cost of the whole day, whether it ends rested, rested on the way."""
    to = plan.shifts[shift, f.END_PLACE]
    added = metre_cost(roads, world, origin, to)
    at_home, ends_rested, rests_here = impossible(), True, False
    if rested.leaves < f.FAR:
        home = arrival(roads, world, origin, to, rested.leaves)
        driven = home - rested.leaves
        at_home = State(home, rested.spent + added + world[f.DRIVE_SECOND] * driven, rested.busy + driven)
    if ahead.leaves < f.FAR:
        leaves = after_rest(plan, shift, ahead.leaves)
        if leaves < f.FAR:
            home = arrival(roads, world, origin, to, leaves)
            if home < at_home.leaves:
                driven, waited = home - leaves, leaves - plan.shifts[shift, f.REST] - ahead.leaves
                spent = ahead.spent + added + world[f.DRIVE_SECOND] * driven + world[f.WAIT_SECOND] * waited
                at_home = State(home, spent, ahead.busy + driven)
                rests_here = True
        home = arrival(roads, world, origin, to, ahead.leaves)
        # A day that is over early enough needs no break.
        if home <= plan.shifts[shift, f.REST_END] and home < at_home.leaves:
            driven = home - ahead.leaves
            at_home = State(home, ahead.spent + added + world[f.DRIVE_SECOND] * driven, ahead.busy + driven)
            ends_rested, rests_here = False, False
    return day_cost(world, plan, shift, at_home, ends_rested, rests_here)


@inlined
def day_cost(world, plan, shift, at_home, ends_rested, rests_here):
    """Overtime and fairness, counted once a day is over; FAR where it ends too late."""
    shifts = plan.shifts
    if at_home.leaves > shifts[shift, f.ENDS]:
        return np.int64(f.FAR), np.int64(0), ends_rested, rests_here
    cost = at_home.spent
    if at_home.leaves > shifts[shift, f.NORMAL_END]:
        cost += shifts[shift, f.OVER_RATE] * (at_home.leaves - shifts[shift, f.NORMAL_END])
    if world[f.UNFAIR] > 0:
        cost += world[f.UNFAIR] * (at_home.busy * at_home.busy // shifts[shift, f.LENGTH])
    return at_home.leaves, cost, ends_rested, rests_here


@inlined
def set_out(plan, shift):
    """Both states at the start of a shift."""
    begins = State(plan.shifts[shift, f.STARTS], np.int64(0), np.int64(0))
    if plan.shifts[shift, f.REST] > 0:
        return begins, impossible()
    return impossible(), begins


@compiled
def forward(roads, world, fits, plan, shift, first_changed):
    """Earliest departures and costs from a position on."""
    before = first_changed - 1
    origin = place_at(plan, shift, before)
    ahead, rested = state_at(plan, shift, before, 0), state_at(plan, shift, before, 1)
    for position in range(first_changed, plan.shifts[shift, f.COUNT] + 1):
        task = plan.routes[shift, f.TASK, position]
        ahead, rested, _ = visit_step(roads, world, fits, plan, task, shift, origin, position == 1, ahead, rested)
        keep_state(plan, shift, position, 0, ahead)
        keep_state(plan, shift, position, 1, rested)
        origin = plan.tasks[task, f.PLACE]


@inlined
def latest_leave(roads, world, plan, shift, origin, to, latest0, latest1, last):
    """Latest departures (break ahead, break over) from `origin` with which work at `to` can start by the latest
    starts there; `last`: `to` is the end of the shift."""
    leave0, leave1 = np.int64(-f.FAR), np.int64(-f.FAR)
    if latest1 > -f.FAR:
        leave1 = departure(roads, world, origin, to, latest1)
    if plan.shifts[shift, f.REST] > 0:
        if latest0 > -f.FAR:
            leave0 = departure(roads, world, origin, to, latest0)
        if latest1 > -f.FAR:
            leave0 = max(leave0, before_rest(plan, shift, leave1))
            if not last:
                there = before_rest(plan, shift, latest1)
                if there > -f.FAR:
                    leave0 = max(leave0, departure(roads, world, origin, to, there))
    return leave0, leave1


@compiled
def backward(roads, world, fits, plan, shift, last_changed):
    """Latest starts from a position back to the first; the end of the route must be set."""
    routes, stops = plan.routes, plan.shifts[shift, f.COUNT]
    to = place_after(plan, shift, last_changed)
    latest0 = routes[shift, f.LATEST_0, last_changed + 1]
    latest1 = routes[shift, f.LATEST_1, last_changed + 1]
    for position in range(last_changed, 0, -1):
        task = routes[shift, f.TASK, position]
        origin = plan.tasks[task, f.PLACE]
        last = position == stops
        leave0, leave1 = np.int64(-f.FAR), np.int64(-f.FAR)
        if last or not too_far(roads, world, origin, to):
            leave0, leave1 = latest_leave(roads, world, plan, shift, origin, to, latest0, latest1, last)
        seconds = np.int64(fits.length[shift, task])
        latest0 = start_until(plan, task, shift, leave0 - seconds, seconds) if leave0 > -f.FAR else np.int64(-f.FAR)
        latest1 = start_until(plan, task, shift, leave1 - seconds, seconds) if leave1 > -f.FAR else np.int64(-f.FAR)
        routes[shift, f.LATEST_0, position] = latest0
        routes[shift, f.LATEST_1, position] = latest1
        to = origin


@compiled
def settle(roads, world, plan, shift):
    """Cost of the day, and whether it holds, once `forward` has been along it."""
    stops = plan.shifts[shift, f.COUNT]
    plan.shifts[shift, f.BAD] = 0
    if stops == 0 and plan.shifts[shift, f.BEGUN] == 0:
        plan.shifts[shift, f.COST] = 0
        return
    ahead, rested = state_at(plan, shift, stops, 0), state_at(plan, shift, stops, 1)
    home, cost, _, _ = home_step(roads, world, plan, shift, place_at(plan, shift, stops), ahead, rested)
    plan.shifts[shift, f.COST] = cost
    if home >= f.FAR:
        plan.shifts[shift, f.BAD] = 1


@compiled
def recompute(roads, world, fits, plan, shift):
    """All of a route from its list of tasks."""
    stops = plan.shifts[shift, f.COUNT]
    rests = plan.shifts[shift, f.REST] > 0
    ahead, rested = set_out(plan, shift)
    keep_state(plan, shift, 0, 0, ahead)
    keep_state(plan, shift, 0, 1, rested)
    ends = plan.shifts[shift, f.ENDS]
    plan.routes[shift, f.LATEST_0, stops + 1] = min(ends, plan.shifts[shift, f.REST_END]) if rests else -f.FAR
    plan.routes[shift, f.LATEST_1, stops + 1] = ends
    forward(roads, world, fits, plan, shift, 1)
    backward(roads, world, fits, plan, shift, stops)
    settle(roads, world, plan, shift)


@compiled
def cost_with(roads, world, fits, plan, task, shift, position):
    """Cost of the day of the shift with the task after the position; DEAR when it does not hold."""
    routes = plan.routes
    ahead, rested = state_at(plan, shift, position, 0), state_at(plan, shift, position, 1)
    origin = place_at(plan, shift, position)
    there = task
    for at in range(position, plan.shifts[shift, f.COUNT] + 1):
        if at > position:
            there = routes[shift, f.TASK, at]
        ahead, rested, _ = visit_step(roads, world, fits, plan, there, shift, origin, at == 0, ahead, rested)
        if ahead.leaves >= f.FAR and rested.leaves >= f.FAR:
            return np.int64(f.DEAR)
        origin = plan.tasks[there, f.PLACE]
        if at == position or world[f.UNFAIR] > 0:
            continue
        if ahead.leaves == routes[shift, f.LEAVES_0, at] and rested.leaves == routes[shift, f.LEAVES_1, at]:
            # From here on the day goes as it went without the task, unless the two states now differ in cost.
            more_ahead = ahead.spent - routes[shift, f.SPENT_0, at]
            more_rested = rested.spent - routes[shift, f.SPENT_1, at]
            if ahead.leaves >= f.FAR:
                return plan.shifts[shift, f.COST] + more_rested
            if rested.leaves >= f.FAR or more_ahead == more_rested:
                return plan.shifts[shift, f.COST] + more_ahead
    home, cost, _, _ = home_step(roads, world, plan, shift, origin, ahead, rested)
    return cost if home < f.FAR else np.int64(f.DEAR)


@compiled
def timetable(roads, world, fits, plan, shift, out):
    """Starts of work along the shift, written to out[STARTS_AT]; whether the day holds."""
    stops = plan.shifts[shift, f.COUNT]
    ahead, rested = set_out(plan, shift)
    for position in range(1, stops + 1):
        task = plan.routes[shift, f.TASK, position]
        origin = place_at(plan, shift, position - 1)
        ahead, rested, rests_here = visit_step(
            roads, world, fits, plan, task, shift, origin, position == 1, ahead, rested
        )
        out[f.ENDS_0, position] = ahead.leaves
        out[f.ENDS_1, position] = rested.leaves
        out[f.RESTED, position] = 1 if rests_here else 0
    home, _, is_rested, rests_here = home_step(roads, world, plan, shift, place_at(plan, shift, stops), ahead, rested)
    if home >= f.FAR and stops > 0:
        return False
    # Back from the end: before the leg on which the break was taken, it still lay ahead.
    state = 1 if is_rested and not rests_here else 0
    for position in range(stops, 0, -1):
        task = plan.routes[shift, f.TASK, position]
        out[f.STARTS_AT, position - 1] = out[f.ENDS_0 + state, position] - fits.length[shift, task]
        if state == 1 and out[f.RESTED, position] == 1:
            state = 0
    return True
