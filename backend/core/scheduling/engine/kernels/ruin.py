"""Ruin: strings of stops, and what is tied to them, leave the plan."""

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.kernels.chance import chance
from core.scheduling.engine.kernels.compiled import compiled
from core.scheduling.engine.kernels.routes import load, pin, refresh, take_out, touch


@compiled
def push_group(plan, world, lists, leader):
    """Note a tied group for taking out, once per iteration."""
    if plan.tasks[leader, f.STAMP] != world[f.ITERATION] and plan.tasks[leader, f.FIXED] == 0:
        plan.tasks[leader, f.STAMP] = world[f.ITERATION]
        lists.stack[world[f.STACKED]] = leader
        world[f.STACKED] += 1


@compiled
def cut_string(roads, world, fits, stores, plan, journal, lists, shift, first, count, kept_from, kept):
    """Take `count` neighbouring stops from position `first` off a shift, but for `kept` of them; fixed ones stay."""
    touch(plan, journal, world, shift)
    stops = plan.shifts[shift, f.COUNT]
    free = first
    for position in range(first, stops + 1):
        task = plan.routes[shift, f.TASK, position]
        goes = (
            position < first + count
            and not (kept_from <= position < kept_from + kept)
            and plan.tasks[task, f.FIXED] == 0
        )
        if goes and plan.tasks[plan.tasks[task, f.LEADER], f.FIXED] == 0:
            plan.tasks[task, f.SHIFT] = f.REMOVED
            load(stores, task, shift, -1)
            world[f.TOTAL] += plan.tasks[task, f.PENALTY]
            if plan.tasks[task, f.TIED] == 0:
                lists.absent[world[f.ABSENT]] = task
                world[f.ABSENT] += 1
            else:
                push_group(plan, world, lists, plan.tasks[task, f.LEADER])
        else:
            plan.routes[shift, f.TASK, free] = task
            plan.tasks[task, f.POSITION] = free
            free += 1
    plan.shifts[shift, f.COUNT] = free - 1
    refresh(roads, world, fits, plan, journal, shift)


@compiled
def loosen(roads, world, fits, ties, plan, journal, ahead):
    """Give a predecessor its freedom back when nothing that follows it is planned any more."""
    if plan.tasks[ahead, f.SHIFT] < 0 or plan.tasks[ahead, f.CREW_ROW] >= 0:
        return
    low = np.int64(-f.FAR)
    high = np.int64(f.FAR)
    for tie in range(plan.tasks[ahead, f.LINKS]):
        kind = ties.links[ahead, tie, f.KIND]
        other = ties.links[ahead, tie, f.OTHER]
        if kind == f.LEADS and plan.tasks[other, f.SHIFT] >= 0:
            return
        if kind == f.FOLLOWS and plan.tasks[other, f.SHIFT] >= 0:
            ends = plan.tasks[other, f.PIN_HIGH] + fits.length[plan.tasks[other, f.SHIFT], other]
            low = max(low, ends + ties.links[ahead, tie, f.LEAST])
            if ties.links[ahead, tie, f.GREATEST] < f.FAR:
                high = min(high, ends + ties.links[ahead, tie, f.GREATEST])
    if plan.tasks[ahead, f.PIN_LOW] != low or plan.tasks[ahead, f.PIN_HIGH] != high:
        pin(plan, world, journal, ahead, low, high)
        shift = plan.tasks[ahead, f.SHIFT]
        refresh(roads, world, fits, plan, journal, shift)


@compiled
def loosen_what_it_follows(roads, world, fits, ties, plan, journal, leader):
    """Give back their freedom to all that a group follows."""
    for member in range(plan.tasks[leader, f.MEMBERS]):
        task = ties.members[leader, member]
        for tie in range(plan.tasks[task, f.LINKS]):
            if ties.links[task, tie, f.KIND] == f.FOLLOWS:
                loosen(roads, world, fits, ties, plan, journal, ties.links[task, tie, f.OTHER])


@compiled
def cut_groups(roads, world, fits, stores, ties, plan, journal, lists):
    """Take out the rest of every group that lost a member, and whatever follows it or goes with its technician."""
    number = 0
    while number < world[f.STACKED]:
        leader = lists.stack[number]
        number += 1
        lists.absent[world[f.ABSENT]] = leader
        world[f.ABSENT] += 1
        for member in range(plan.tasks[leader, f.MEMBERS]):
            task = ties.members[leader, member]
            if plan.tasks[task, f.SHIFT] >= 0:
                take_out(roads, world, fits, stores, plan, journal, task)
            pin(plan, world, journal, task, np.int64(-f.FAR), np.int64(f.FAR))
            for tie in range(plan.tasks[task, f.LINKS]):
                other = ties.links[task, tie, f.OTHER]
                if ties.links[task, tie, f.KIND] != f.FOLLOWS and plan.tasks[other, f.SHIFT] >= 0:
                    push_group(plan, world, lists, plan.tasks[other, f.LEADER])
    for number in range(world[f.STACKED]):
        loosen_what_it_follows(roads, world, fits, ties, plan, journal, lists.stack[number])
    world[f.STACKED] = 0


@compiled
def string_sizes(plan, tuning):
    """The longest string, and how many strings at most (section 5.1 of the paper); 0, 0 when nothing is planned."""
    used, stops = 0, 0
    for shift in range(plan.shifts.shape[0]):
        if plan.shifts[shift, f.COUNT] > 0:
            used += 1
            stops += plan.shifts[shift, f.COUNT]
    if used == 0:
        return 0.0, 0.0
    longest = min(tuning.longest, stops / used)
    return longest, 4.0 * tuning.removals / (1.0 + longest) - 1.0


@compiled
def ruin(roads, world, fits, stores, ties, near, plan, journal, lists, dice, tuning):
    """Take strings of stops out of the routes around a seed (section 5.1 of the paper)."""
    longest, strings_most = string_sizes(plan, tuning)
    if longest == 0.0:
        return
    strings = int(chance(dice) * strings_most + 1.0)
    if world[f.ABSENT] > 0 and chance(dice) < tuning.unserved_seed:
        seed = lists.absent[int(chance(dice) * world[f.ABSENT])]
    else:
        seed = int(chance(dice) * plan.tasks.shape[0])
    done = 0
    for neighbour in range(near.shape[1]):
        task = near[seed, neighbour]
        shift = plan.tasks[task, f.SHIFT]
        if shift < 0 or plan.shifts[shift, f.TOUCHED] != 0:
            continue
        stops = plan.shifts[shift, f.COUNT]
        size = min(stops, int(chance(dice) * min(float(stops), longest) + 1.0))
        kept = 0
        if 1 < size < stops and chance(dice) < tuning.split:
            kept = 1
            while size + kept < stops and chance(dice) > tuning.stretch:
                kept += 1
        position, span = plan.tasks[task, f.POSITION], size + kept
        low, high = max(1, position - span + 1), min(position, stops - span + 1)
        first = low + int(chance(dice) * (high - low + 1))
        kept_from = first + int(chance(dice) * (size + 1)) if kept > 0 else -1
        cut_string(roads, world, fits, stores, plan, journal, lists, shift, first, span, kept_from, kept)
        done += 1
        if done >= strings:
            break
    cut_groups(roads, world, fits, stores, ties, plan, journal, lists)
