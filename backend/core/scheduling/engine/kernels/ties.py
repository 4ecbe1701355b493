"""Links: what follows, and what the same technician has to do."""

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.kernels.chance import chance
from core.scheduling.engine.kernels.clock import start_until
from core.scheduling.engine.kernels.compiled import compiled
from core.scheduling.engine.kernels.crews import insert_crew, technician_of_others
from core.scheduling.engine.kernels.places import best_in_route, has_room
from core.scheduling.engine.kernels.routes import pin, put_in, refresh
from core.scheduling.engine.kernels.ruin import loosen_what_it_follows
from core.scheduling.engine.tuning import HELD_EARLY, PINS_FOR_A_GROUP


@compiled
def start_range(plan, fits, task):
    """Earliest and latest start that the route leaves a task now (in one state of the break)."""
    routes, shift, position = plan.routes, plan.tasks[task, f.SHIFT], plan.tasks[task, f.POSITION]
    seconds = np.int64(fits.length[shift, task])
    low, high = np.int64(f.FAR), np.int64(-f.FAR)
    for rested in (1, 0):
        ends = routes[shift, f.LEAVES_0 + rested, position]
        latest = routes[shift, f.LATEST_0 + rested, position]
        if ends < f.FAR and ends - seconds <= latest and ends - seconds < low:
            low, high = ends - seconds, latest
    return low, high


@compiled
def hold(roads, world, fits, plan, journal, dice, ahead, exactly):
    """Hold a planned task to a start it can keep, so that nothing put before it later breaks a link; FAR: it has none.

    `exactly`: what follows it may not come too late either.
    """
    tasks, shift = plan.tasks, plan.tasks[ahead, f.SHIFT]
    low, high = start_range(plan, fits, ahead)
    if low > high:
        return np.int64(f.FAR)
    held = low if chance(dice) < HELD_EARLY else low + np.int64(chance(dice) * (high - low + 1))
    # A moment picked at random may lie between two windows.
    held = max(low, start_until(plan, ahead, shift, held, np.int64(fits.length[shift, ahead])))
    if tasks[ahead, f.PIN_LOW] == tasks[ahead, f.PIN_HIGH]:
        return tasks[ahead, f.PIN_LOW]
    if tasks[ahead, f.PIN_HIGH] < f.FAR:
        held = low  # something else follows it already: earlier is safe for both
        if tasks[ahead, f.PIN_HIGH] < held:
            return np.int64(f.FAR)
    pin(plan, world, journal, ahead, held if exactly else tasks[ahead, f.PIN_LOW], held)
    refresh(roads, world, fits, plan, journal, shift)
    return held


@compiled
def bounds_of(roads, world, fits, ties, plan, journal, dice, leader, out):
    """What its links leave a group: out[LOW] to out[HIGH]; False when a predecessor is not planned."""
    out[f.LOW], out[f.HIGH] = -f.FAR, f.FAR
    for member in range(plan.tasks[leader, f.MEMBERS]):
        task = ties.members[leader, member]
        for tie in range(plan.tasks[task, f.LINKS]):
            if ties.links[task, tie, f.KIND] != f.FOLLOWS:
                continue
            ahead = ties.links[task, tie, f.OTHER]
            if plan.tasks[ahead, f.SHIFT] < 0:
                return False
            bounded = ties.links[task, tie, f.GREATEST] < f.FAR
            held = hold(roads, world, fits, plan, journal, dice, ahead, bounded)
            if held >= f.FAR:
                return False
            ends = held + fits.length[plan.tasks[ahead, f.SHIFT], ahead]
            out[f.LOW] = max(out[f.LOW], ends + ties.links[task, tie, f.LEAST])
            if bounded:
                out[f.HIGH] = min(out[f.HIGH], ends + ties.links[task, tie, f.GREATEST])
    return out[f.LOW] <= out[f.HIGH]


@compiled
def insert_linked(roads, world, fits, stores, ties, crews, plan, journal, dice, blink, task):
    """Put one linked task where it costs least, held to what its links leave it; whether it went in."""
    pin(plan, world, journal, task, crews.bounds[f.LOW], crews.bounds[f.HIGH])
    best, best_shift, best_position = plan.tasks[task, f.PENALTY], np.int64(-1), np.int64(-1)
    technician = technician_of_others(ties, plan, task)
    for choice in range(plan.tasks[task, f.ELIGIBLE]):
        shift = np.int64(fits.eligible[task, choice])
        if technician >= 0 and plan.shifts[shift, f.TECHNICIAN] != technician:
            continue
        if not has_room(stores, task, shift):
            continue
        added, position = best_in_route(roads, world, fits, plan, dice, task, shift, blink)
        if added < best:
            best, best_shift, best_position = added, shift, position
    if best_shift < 0:
        pin(plan, world, journal, task, np.int64(-f.FAR), np.int64(f.FAR))
        return False
    put_in(roads, world, fits, stores, plan, journal, task, best_shift, best_position)
    return True


@compiled
def insert_tied(roads, world, fits, stores, ties, crews, plan, journal, dice, blink, leader):
    """Put a crew or a linked visit into the plan, where its links allow; whether it went in."""
    if world[f.LOGGED] + PINS_FOR_A_GROUP > journal.pin_log.shape[0]:
        return False  # what is not logged could not be taken back
    done = False
    if bounds_of(roads, world, fits, ties, plan, journal, dice, leader, crews.bounds):
        if plan.tasks[leader, f.MEMBERS] > 1:
            done = insert_crew(roads, world, fits, stores, ties, crews, plan, journal, dice, blink, leader)
        else:
            done = insert_linked(roads, world, fits, stores, ties, crews, plan, journal, dice, blink, leader)
    if not done:
        loosen_what_it_follows(roads, world, fits, ties, plan, journal, leader)
    return done
