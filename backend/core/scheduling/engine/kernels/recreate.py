"""Recreate: absent tasks are put back."""

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.kernels.chance import chance
from core.scheduling.engine.kernels.compiled import compiled, inlined
from core.scheduling.engine.kernels.crews import crew_could_go
from core.scheduling.engine.kernels.places import best_in_route, has_room
from core.scheduling.engine.kernels.routes import put_in
from core.scheduling.engine.kernels.ties import insert_tied
from core.scheduling.engine.tuning import RANDOM_ORDERS, ROUNDS_FOR_FOLLOWERS, SECOND_BLINK


@compiled
def sort_absent(world, lists, orders, dice):
    """One of the orders at random, or a random order; a stable insertion sort."""
    count = world[f.ABSENT]
    chosen = int(chance(dice) * (orders.shape[0] + RANDOM_ORDERS))
    for number in range(count):
        lists.keys[number] = orders[chosen, lists.absent[number]] if chosen < orders.shape[0] else chance(dice)
    for number in range(1, count):
        key = lists.keys[number]
        task = lists.absent[number]
        place = number - 1
        while place >= 0 and lists.keys[place] > key:
            lists.keys[place + 1] = lists.keys[place]
            lists.absent[place + 1] = lists.absent[place]
            place -= 1
        lists.keys[place + 1] = key
        lists.absent[place + 1] = task


@inlined
def insert_alone(roads, world, fits, stores, cache, plan, journal, dice, blink, task):
    """Put a task that is tied to nothing where it costs least, and less than leaving it out; whether it went in."""
    limited = stores.demand.shape[1] > 0
    best, best_shift, best_position = plan.tasks[task, f.PENALTY], np.int64(-1), np.int64(-1)
    # What was unserved before had no opening: only the routes just changed can have one.
    waiting = plan.tasks[task, f.SHIFT] == f.WAITING
    choices = world[f.TOUCHED_COUNT] if waiting else plan.tasks[task, f.ELIGIBLE]
    for choice in range(choices):
        shift = journal.touched[choice] if waiting else np.int64(fits.eligible[task, choice])
        if fits.length[shift, task] < 0 or (limited and not has_room(stores, task, shift)):
            continue
        if cache[task, shift, f.SEEN_VERSION] == plan.shifts[shift, f.VERSION]:
            added, position = cache[task, shift, f.BEST_ADDED], cache[task, shift, f.BEST_AFTER]
        else:
            added, position = best_in_route(roads, world, fits, plan, dice, task, shift, 0.0)
            cache[task, shift, f.SEEN_VERSION] = plan.shifts[shift, f.VERSION]
            cache[task, shift, f.BEST_ADDED], cache[task, shift, f.BEST_AFTER] = added, position
        if added < best:
            if chance(dice) < blink:
                added, position = best_in_route(roads, world, fits, plan, dice, task, shift, SECOND_BLINK)
                if added >= best:
                    continue
            best, best_shift, best_position = added, shift, position
    if best_shift < 0:
        return False
    put_in(roads, world, fits, stores, plan, journal, task, best_shift, best_position)
    return True


@compiled
def is_hopeless(roads, world, fits, ties, crews, plan, journal, task):
    """Whether nothing has changed for a crew that had no place before."""
    return (
        plan.tasks[task, f.SHIFT] == f.WAITING
        and plan.tasks[task, f.LINKS] == 0
        and not crew_could_go(roads, world, fits, crews, ties, plan, journal, task)
    )


@compiled
def recreate(roads, world, fits, stores, ties, crews, cache, orders, lists, plan, journal, dice, blink):
    """Put absent tasks back greedily, with blinks (section 5.2 of the paper)."""
    sort_absent(world, lists, orders, dice)
    again, rounds = True, 0
    while again:
        rounds += 1
        left = 0
        placed_tied, failed_tied = False, False
        for number in range(world[f.ABSENT]):
            task = lists.absent[number]
            tied = plan.tasks[task, f.TIED] == 1
            if tied:
                placed = not is_hopeless(roads, world, fits, ties, crews, plan, journal, task) and insert_tied(
                    roads, world, fits, stores, ties, crews, plan, journal, dice, blink, task
                )
                placed_tied = placed_tied or placed
                failed_tied = failed_tied or (not placed and plan.tasks[task, f.LINKS] > 0)
            else:
                placed = insert_alone(roads, world, fits, stores, cache, plan, journal, dice, blink, task)
            if not placed:
                plan.tasks[task, f.SHIFT] = f.WAITING
                lists.absent[left] = task
                left += 1
        world[f.ABSENT] = left
        # A follower may come before its leader in the order: then it gets another chance.
        again = placed_tied and failed_tied and rounds < ROUNDS_FOR_FOLLOWERS
