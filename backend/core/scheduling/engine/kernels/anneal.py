"""Annealing: ruin, recreate, and keep or take back."""

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.kernels.chance import chance
from core.scheduling.engine.kernels.compiled import compiled
from core.scheduling.engine.kernels.recreate import recreate
from core.scheduling.engine.kernels.routes import load
from core.scheduling.engine.kernels.ruin import ruin


@compiled
def keep_best(world, plan, best):
    """Note the plan as it is as the best one met."""
    world[f.BEST_TOTAL] = world[f.TOTAL]
    for shift in range(plan.shifts.shape[0]):
        plan.shifts[shift, f.BEST_COUNT] = plan.shifts[shift, f.COUNT]
        for position in range(1, plan.shifts[shift, f.COUNT] + 1):
            task = plan.routes[shift, f.TASK, position]
            best.best_routes[shift, position] = task
            if plan.tasks[task, f.TIED] == 1:
                best.best_pins[task, f.LOW] = plan.tasks[task, f.PIN_LOW]
                best.best_pins[task, f.HIGH] = plan.tasks[task, f.PIN_HIGH]


@compiled
def restore(world, stores, plan, journal, lists, total, count):
    """Everything as it was before the iteration."""
    for number in range(world[f.TOUCHED_COUNT]):
        shift = journal.touched[number]
        for position in range(1, plan.shifts[shift, f.COUNT] + 1):
            load(stores, plan.routes[shift, f.TASK, position], shift, -1)
            plan.tasks[plan.routes[shift, f.TASK, position], f.SHIFT] = f.WAITING
    for number in range(world[f.TOUCHED_COUNT]):
        shift = journal.touched[number]
        plan.shifts[shift, f.TOUCHED] = 0
        plan.shifts[shift, f.COUNT] = plan.shifts[shift, f.OLD_COUNT]
        plan.shifts[shift, f.VERSION] = plan.shifts[shift, f.OLD_VERSION]
        plan.shifts[shift, f.COST] = plan.shifts[shift, f.OLD_COST]
        plan.shifts[shift, f.BAD] = plan.shifts[shift, f.OLD_BAD]
        width = plan.shifts[shift, f.COUNT] + 2
        for row in range(f.ROUTE_ROWS):
            for position in range(width):
                plan.routes[shift, row, position] = journal.backup[shift, row, position]
        for position in range(1, plan.shifts[shift, f.COUNT] + 1):
            task = plan.routes[shift, f.TASK, position]
            plan.tasks[task, f.SHIFT] = shift
            plan.tasks[task, f.POSITION] = position
            load(stores, task, shift, 1)
    for number in range(world[f.LOGGED] - 1, -1, -1):
        plan.tasks[journal.pin_log[number, f.PINNED], f.PIN_LOW] = journal.pin_log[number, f.OLD_LOW]
        plan.tasks[journal.pin_log[number, f.PINNED], f.PIN_HIGH] = journal.pin_log[number, f.OLD_HIGH]
    world[f.TOTAL] = total
    world[f.ABSENT] = count
    for number in range(count):
        lists.absent[number] = lists.before[number]
        plan.tasks[lists.absent[number], f.SHIFT] = f.WAITING


@compiled
def anneal(
    roads, world, fits, stores, ties, near, crews, cache, orders, lists, plan, journal, best, dice, tuning,
    iterations, planned, share, hot, cooling,
):  # fmt: skip
    """A stretch of the search. The temperature is hot * exp(cooling * share of the search that is over).

    That share is counted in iterations when `planned` says how many there will be, so that the answer
    does not depend on how the search was cut into stretches; else it is `share`, by the clock.
    """
    heat = hot * np.exp(cooling * share)
    for iteration in range(iterations):
        if planned > 0:
            heat = hot * np.exp(cooling * (world[f.ROUNDS] + iteration) / planned)
        total = world[f.TOTAL]
        count = world[f.ABSENT]
        for number in range(count):
            lists.before[number] = lists.absent[number]
        world[f.TOUCHED_COUNT] = 0
        world[f.LOGGED] = 0
        world[f.ITERATION] += 1
        ruin(roads, world, fits, stores, ties, near, plan, journal, lists, dice, tuning)
        recreate(roads, world, fits, stores, ties, crews, cache, orders, lists, plan, journal, dice, tuning.blink)
        holds = world[f.LOGGED] < journal.pin_log.shape[0]
        for number in range(world[f.TOUCHED_COUNT]):
            if plan.shifts[journal.touched[number], f.BAD] == 1:
                holds = False
        if holds and world[f.TOTAL] < total - heat * np.log(chance(dice) + 1e-300):
            world[f.ACCEPTED] += 1
            if world[f.TOTAL] < world[f.BEST_TOTAL]:
                keep_best(world, plan, best)
            for number in range(world[f.TOUCHED_COUNT]):
                plan.shifts[journal.touched[number], f.TOUCHED] = 0
        else:
            restore(world, stores, plan, journal, lists, total, count)
    world[f.ROUNDS] += iterations
