"""Crews: the places of each member, and those that meet."""

import numpy as np

from core.scheduling.engine import fields as f
from core.scheduling.engine.kernels.chance import chance
from core.scheduling.engine.kernels.clock import start_from, start_until
from core.scheduling.engine.kernels.compiled import compiled, inlined
from core.scheduling.engine.kernels.places import added_drive, early_ends, has_room, is_cut_off
from core.scheduling.engine.kernels.routes import pin, put_in
from core.scheduling.engine.kernels.walk import latest_leave, place_after, place_at
from core.scheduling.engine.tuning import CREW_BY_CHANCE, CREW_EARLY, CREW_PLACES, CREW_TRIES


@compiled
def technician_of_others(ties, plan, task):
    """The technician who must do it because they do a visit that the same person has to do; -1: anybody."""
    for tie in range(plan.tasks[task, f.LINKS]):
        other = ties.links[task, tie, f.OTHER]
        if ties.links[task, tie, f.KIND] == f.SAME_TECHNICIAN and plan.tasks[other, f.SHIFT] >= 0:
            return plan.shifts[plan.tasks[other, f.SHIFT], f.TECHNICIAN]
    return np.int64(-1)


@compiled
def make_way(rows, last, first, added):
    """Move what is dearer one row down, from row `last` up to `first`; the row that is free then."""
    row = last
    while row > first and rows[row - 1, f.ADDED] > added:
        for column in range(rows.shape[1]):
            rows[row, column] = rows[row - 1, column]
        row -= 1
    return row


@compiled
def starts_between(plan, task, shift, seconds, ends0, ends1, leave0, leave1):
    """Earliest and latest start at a place, in the state of the break that leaves more; empty: FAR, -FAR."""
    low, high = np.int64(f.FAR), np.int64(-f.FAR)
    if ends1 < f.FAR and leave1 > -f.FAR:
        latest = start_until(plan, task, shift, leave1 - seconds, seconds)
        if ends1 - seconds <= latest:
            low, high = ends1 - seconds, latest
    if ends0 < f.FAR and leave0 > -f.FAR:
        latest = start_until(plan, task, shift, leave0 - seconds, seconds)
        if ends0 - seconds <= latest and latest - ends0 + seconds > high - low:
            low, high = ends0 - seconds, latest
    return low, high


@compiled
def crew_places(roads, world, fits, plan, task, shift, out):
    """The cheapest places of a crew's task on the shift, each with the starts it allows; how many.

    Written to `out` from its second row on; the first says which version they are of.
    """
    routes, stops = plan.routes, plan.shifts[shift, f.COUNT]
    here = plan.tasks[task, f.PLACE]
    seconds = np.int64(fits.length[shift, task])
    begun = plan.shifts[shift, f.BEGUN]
    found = 0
    for position in range(stops + 1):
        origin, to = place_at(plan, shift, position), place_after(plan, shift, position)
        leaves0, leaves1 = routes[shift, f.LEAVES_0, position], routes[shift, f.LEAVES_1, position]
        soonest = min(leaves0, leaves1)
        if soonest >= f.FAR:
            break
        if world[f.LONGEST_DRIVE] > 0 and is_cut_off(roads, world, plan, shift, position, here):
            continue
        added = added_drive(roads, world, soonest, stops + begun, origin, here, to) + fits.extra[shift, task]
        if found == CREW_PLACES and added >= out[found, f.ADDED]:
            continue
        ends0, ends1 = early_ends(roads, world, plan, task, shift, seconds, origin, position == 0, leaves0, leaves1)
        latest0, latest1 = routes[shift, f.LATEST_0, position + 1], routes[shift, f.LATEST_1, position + 1]
        leave0, leave1 = latest_leave(roads, world, plan, shift, here, to, latest0, latest1, position == stops)
        low, high = starts_between(plan, task, shift, seconds, ends0, ends1, leave0, leave1)
        if low > high:
            continue
        if found < CREW_PLACES:
            found += 1
        row = make_way(out, found, 1, added)
        out[row, f.ADDED], out[row, f.AFTER] = added, position
        out[row, f.EARLIEST], out[row, f.LATEST] = low, high
    return found


@compiled
def places_now(roads, world, fits, crews, plan, task, shift):
    """How many places a crew's member has on the shift as it is; they stand in the crew cache."""
    row = plan.tasks[task, f.CREW_ROW]
    places = crews.crew_cache[row, shift]
    if places[f.HEADER, f.SEEN_VERSION] != plan.shifts[shift, f.VERSION]:
        places[f.HEADER, f.SEEN_VERSION] = plan.shifts[shift, f.VERSION]
        places[f.HEADER, f.HOW_MANY] = crew_places(roads, world, fits, plan, task, shift, places)
    return places[f.HEADER, f.HOW_MANY]


@compiled
def crew_candidates(roads, world, fits, stores, ties, crews, plan, dice, blink, task, out):
    """Places for one member of a crew among all shifts, the cheapest first; how many.

    `out` is int64[most, CANDIDATE].
    """
    low, high = crews.bounds[f.LOW], crews.bounds[f.HIGH]
    limit = out.shape[0]
    found = 0
    technician = technician_of_others(ties, plan, task)
    for choice in range(plan.tasks[task, f.ELIGIBLE]):
        shift = np.int64(fits.eligible[task, choice])
        if technician >= 0 and plan.shifts[shift, f.TECHNICIAN] != technician:
            continue
        if not has_room(stores, task, shift):
            continue
        count = places_now(roads, world, fits, crews, plan, task, shift)
        places = crews.crew_cache[plan.tasks[task, f.CREW_ROW], shift]
        for place in range(1, count + 1):
            added = places[place, f.ADDED]
            if places[place, f.EARLIEST] > high or places[place, f.LATEST] < low or chance(dice) < blink:
                continue
            if found == limit and added >= out[limit - 1, f.ADDED]:
                break
            if found < limit:
                found += 1
            row = make_way(out, found - 1, 0, added)
            for column in range(f.ON_SHIFT):
                out[row, column] = places[place, column]
            out[row, f.ON_SHIFT] = shift
    return found


@compiled
def crew_could_go(roads, world, fits, crews, ties, plan, journal, leader):
    """Whether a route that has just changed has a place for any member of a crew that had none."""
    for member in range(plan.tasks[leader, f.MEMBERS]):
        task = ties.members[leader, member]
        if member > 0 and are_alike(ties, plan, leader, member):
            continue
        for number in range(world[f.TOUCHED_COUNT]):
            shift = journal.touched[number]
            if fits.length[shift, task] >= 0 and places_now(roads, world, fits, crews, plan, task, shift) > 0:
                return True
    return False


@inlined
def are_alike(ties, plan, leader, member):
    """Whether a member has the same places as the one before."""
    task, before = ties.members[leader, member], ties.members[leader, member - 1]
    return plan.tasks[task, f.CREW_ROW] == plan.tasks[before, f.CREW_ROW]


@inlined
def picked(crews, which, member, column):
    """A column of the candidate of a member: the one that is tried (NOW) or that was CHOSEN."""
    return crews.candidates[crews.picks[f.LIKE, member], crews.picks[which, member], column]


@compiled
def choose_crew(plan, size, crews, limit):
    """The cheapest one place per member, on different technicians, whose starts meet; its cost (DEAR: none).

    Depth first over the candidates in order of cost, cut off where the cheapest rest is too dear.
    """
    picks = crews.picks
    best = limit
    picks[f.REST_OF, size] = 0
    for member in range(size - 1, -1, -1):
        picks[f.REST_OF, member] = picks[f.REST_OF, member + 1] + crews.candidates[picks[f.LIKE, member], 0, f.ADDED]
    depth = 0
    picks[f.NOW, 0] = -1
    hit = False
    tries = 0
    while depth >= 0 and tries < CREW_TRIES:
        tries += 1
        picks[f.NOW, depth] += 1
        if picks[f.NOW, depth] >= picks[f.FOUND, picks[f.LIKE, depth]]:
            depth -= 1
            continue
        cost = np.int64(0)
        for member in range(depth + 1):
            cost += picked(crews, f.NOW, member, f.ADDED)
        if cost + picks[f.REST_OF, depth + 1] >= best:
            depth -= 1
            continue
        if not can_meet(plan, crews, depth):
            continue
        if depth == size - 1:
            best = cost
            hit = True
            for member in range(size):
                picks[f.CHOSEN, member] = picks[f.NOW, member]
            depth -= 1
        else:
            depth += 1
            # Members that are alike are tried in one order only.
            alike = picks[f.LIKE, depth] == picks[f.LIKE, depth - 1]
            picks[f.NOW, depth] = picks[f.NOW, depth - 1] if alike else -1
    return best if hit else np.int64(f.DEAR)


@compiled
def can_meet(plan, crews, depth):
    """Whether the candidates tried for the members up to `depth` are different people who can start together."""
    first, until = crews.bounds[f.LOW], crews.bounds[f.HIGH]
    newest = plan.shifts[picked(crews, f.NOW, depth, f.ON_SHIFT), f.TECHNICIAN]
    for member in range(depth + 1):
        first = max(first, picked(crews, f.NOW, member, f.EARLIEST))
        until = min(until, picked(crews, f.NOW, member, f.LATEST))
        if member < depth and plan.shifts[picked(crews, f.NOW, member, f.ON_SHIFT), f.TECHNICIAN] == newest:
            return False
    return first <= until


@compiled
def common_start(fits, ties, crews, plan, leader, start, high):
    """The first start from `start` on that suits all of a crew; a range may have gaps between windows."""
    again = True
    while again:
        again = False
        for member in range(plan.tasks[leader, f.MEMBERS]):
            task = ties.members[leader, member]
            shift = picked(crews, f.CHOSEN, member, f.ON_SHIFT)
            found = start_from(plan, task, shift, start, np.int64(fits.length[shift, task]))
            if found > high:
                return np.int64(f.FAR)
            if found != start:
                start = found
                again = True
    return start


@compiled
def crew_start(fits, ties, crews, plan, dice, leader):
    """A start for the chosen places: mostly the earliest, else the latest or one by chance; FAR: none suits all."""
    low, high = crews.bounds[f.LOW], crews.bounds[f.HIGH]
    for member in range(plan.tasks[leader, f.MEMBERS]):
        low = max(low, picked(crews, f.CHOSEN, member, f.EARLIEST))
        high = min(high, picked(crews, f.CHOSEN, member, f.LATEST))
    luck = chance(dice)
    start = low
    if luck >= CREW_BY_CHANCE:
        start = high
    elif luck >= CREW_EARLY:
        start = low + np.int64(chance(dice) * (high - low + 1))
    start = common_start(fits, ties, crews, plan, leader, start, high)
    if start >= f.FAR:
        start = common_start(fits, ties, crews, plan, leader, low, high)
    return start


@compiled
def insert_crew(roads, world, fits, stores, ties, crews, plan, journal, dice, blink, leader):
    """Put a group that starts together on as many technicians, pinned to one start."""
    size = plan.tasks[leader, f.MEMBERS]
    penalty = np.int64(0)
    for member in range(size):
        task = ties.members[leader, member]
        penalty += plan.tasks[task, f.PENALTY]
        crews.picks[f.LIKE, member] = member
        if member > 0 and are_alike(ties, plan, leader, member):
            crews.picks[f.LIKE, member] = crews.picks[f.LIKE, member - 1]
            continue
        crews.picks[f.FOUND, member] = crew_candidates(
            roads, world, fits, stores, ties, crews, plan, dice, blink, task, crews.candidates[member]
        )
        if crews.picks[f.FOUND, member] == 0:
            return False
    if choose_crew(plan, size, crews, penalty) >= f.DEAR:
        return False
    start = crew_start(fits, ties, crews, plan, dice, leader)
    if start >= f.FAR:
        return False
    for member in range(size):
        pin(plan, world, journal, ties.members[leader, member], start, start)
    for member in range(size):
        shift, position = picked(crews, f.CHOSEN, member, f.ON_SHIFT), picked(crews, f.CHOSEN, member, f.AFTER)
        put_in(roads, world, fits, stores, plan, journal, ties.members[leader, member], shift, position)
    return True
