"""Changing routes so that they can be put back as they were."""

from core.scheduling.engine import fields as f
from core.scheduling.engine.kernels.compiled import compiled
from core.scheduling.engine.kernels.walk import backward, forward, recompute, settle


@compiled
def touch(plan, journal, world, shift):
    """Keep the shift as it was, once per iteration, and give it a new version."""
    if plan.shifts[shift, f.TOUCHED] == 0:
        plan.shifts[shift, f.TOUCHED] = 1
        journal.touched[world[f.TOUCHED_COUNT]] = shift
        world[f.TOUCHED_COUNT] += 1
        plan.shifts[shift, f.OLD_COUNT] = plan.shifts[shift, f.COUNT]
        plan.shifts[shift, f.OLD_COST] = plan.shifts[shift, f.COST]
        plan.shifts[shift, f.OLD_VERSION] = plan.shifts[shift, f.VERSION]
        plan.shifts[shift, f.OLD_BAD] = plan.shifts[shift, f.BAD]
        width = plan.shifts[shift, f.COUNT] + 2
        for row in range(f.ROUTE_ROWS):
            for position in range(width):
                journal.backup[shift, row, position] = plan.routes[shift, row, position]
    world[f.VERSIONS] += 1
    plan.shifts[shift, f.VERSION] = world[f.VERSIONS]


@compiled
def load(stores, task, shift, sign):
    """Count what a task uses up on a shift (1), or no longer does (-1)."""
    for resource in range(stores.demand.shape[1]):
        if stores.demand[task, resource] > 0:
            stores.room[stores.bucket[shift, resource], f.USED] += sign * stores.demand[task, resource]


@compiled
def put_in(roads, world, fits, stores, plan, journal, task, shift, position):
    """Put the task on the shift after the position."""
    touch(plan, journal, world, shift)
    stops = plan.shifts[shift, f.COUNT]
    for at in range(stops, position, -1):
        other = plan.routes[shift, f.TASK, at]
        plan.routes[shift, f.TASK, at + 1] = other
        plan.tasks[other, f.POSITION] = at + 1
    for at in range(stops + 1, position, -1):
        plan.routes[shift, f.LATEST_0, at + 1] = plan.routes[shift, f.LATEST_0, at]
        plan.routes[shift, f.LATEST_1, at + 1] = plan.routes[shift, f.LATEST_1, at]
    plan.routes[shift, f.TASK, position + 1] = task
    plan.tasks[task, f.SHIFT] = shift
    plan.tasks[task, f.POSITION] = position + 1
    plan.shifts[shift, f.COUNT] = stops + 1
    load(stores, task, shift, 1)
    before = plan.shifts[shift, f.COST]
    forward(roads, world, fits, plan, shift, position + 1)
    backward(roads, world, fits, plan, shift, position + 1)
    settle(roads, world, plan, shift)
    world[f.TOTAL] += plan.shifts[shift, f.COST] - before - plan.tasks[task, f.PENALTY]


@compiled
def refresh(roads, world, fits, plan, journal, shift):
    """Compute a route again whose tasks or pins have changed."""
    touch(plan, journal, world, shift)
    before = plan.shifts[shift, f.COST]
    recompute(roads, world, fits, plan, shift)
    world[f.TOTAL] += plan.shifts[shift, f.COST] - before


@compiled
def take_out(roads, world, fits, stores, plan, journal, task):
    """Take one task off its shift; the list of absent ones is the caller's."""
    shift = plan.tasks[task, f.SHIFT]
    touch(plan, journal, world, shift)
    for position in range(plan.tasks[task, f.POSITION], plan.shifts[shift, f.COUNT]):
        other = plan.routes[shift, f.TASK, position + 1]
        plan.routes[shift, f.TASK, position] = other
        plan.tasks[other, f.POSITION] = position
    plan.shifts[shift, f.COUNT] -= 1
    plan.tasks[task, f.SHIFT] = f.REMOVED
    load(stores, task, shift, -1)
    world[f.TOTAL] += plan.tasks[task, f.PENALTY]
    refresh(roads, world, fits, plan, journal, shift)


@compiled
def pin(plan, world, journal, task, low, high):
    """Narrow (or widen) the starts allowed to a task, so that it can be taken back."""
    entry = world[f.LOGGED]
    if entry < journal.pin_log.shape[0]:
        journal.pin_log[entry, f.PINNED] = task
        journal.pin_log[entry, f.OLD_LOW] = plan.tasks[task, f.PIN_LOW]
        journal.pin_log[entry, f.OLD_HIGH] = plan.tasks[task, f.PIN_HIGH]
        world[f.LOGGED] += 1
    plan.tasks[task, f.PIN_LOW] = low
    plan.tasks[task, f.PIN_HIGH] = high
