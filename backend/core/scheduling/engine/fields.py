"""Columns of the engine's arrays. All times are epoch seconds, all costs thousandths of a point, int64."""

from itertools import count

FAR = 1 << 40  # later than any moment
DEAR = 1 << 55  # dearer than any plan

# A task: one visit, or one technician's part in a crew's visit. `tasks[n, FIRST_WINDOW + 3 * windows]`
_next = count().__next__
PLACE = _next()
WINDOWS = _next()  # how many
PENALTY = _next()  # cost of leaving it unserved; of a tied group, on its leader
ELIGIBLE = _next()  # how many shifts could take it
SHIFT = _next()  # where it is; REMOVED or WAITING while it is nowhere
POSITION = _next()  # 1 is the first stop
DUE = _next()
LATE_RATE = _next()  # per second that work ends after DUE
TOLD = _next()  # start that stands in the plan now
HOME = _next()  # shift on which it does not become earlier than TOLD; -1: none
MOVE_RATE = _next()  # per second that it starts before or after TOLD
GRAIN = _next()  # starts are multiples of so many seconds
PIN_LOW = _next()
PIN_HIGH = _next()
FIXED = _next()  # 1: never taken out
LEADER = _next()  # the task that stands for its group in the list of absent ones
TIED = _next()  # 1: belongs to a crew or a link
CREW_ROW = _next()  # row in the crew cache
LINKS = _next()  # how many
MEMBERS = _next()  # how many tasks its group has; on its leader
STAMP = _next()  # iteration that took the group out
FIRST_WINDOW = _next()  # then per window: earliest start, latest start, latest end

REMOVED, WAITING = -1, -2

# A technician's shift. `shifts[m, FIRST_BLOCK + 2 * blocks]`
_next = count().__next__
START_PLACE = _next()
END_PLACE = _next()
STARTS = _next()
ENDS = _next()  # back at the end place, with all overtime that is allowed
REST = _next()  # seconds of break still to take; 0: none
REST_FROM = _next()
REST_BY = _next()  # latest beginning of the break
REST_END = _next()  # a day that is over by then needs no break
NORMAL_END = _next()
OVER_RATE = _next()
LENGTH = _next()  # seconds of the shift, for fairness
BEGUN = _next()  # 1: under way, waiting counts from STARTS on
TECHNICIAN = _next()
BLOCKS = _next()  # how many absences
COUNT = _next()  # stops on it
VERSION = _next()
TOUCHED = _next()
COST = _next()
BAD = _next()  # 1: no feasible timetable
OLD_COUNT = _next()
OLD_VERSION = _next()
OLD_COST = _next()
OLD_BAD = _next()
BEST_COUNT = _next()
FIRST_BLOCK = _next()  # then per absence: start, end

# Rows of `routes[m, ROUTE_ROWS, width]`; index 0 is the start of the shift, COUNT + 1 its end.
# State 0: the break still lies ahead. State 1: it is over, or none is due.
_next = count().__next__
TASK = _next()
LEAVES_0 = _next()  # earliest departure
LEAVES_1 = _next()
LATEST_0 = _next()  # latest start of work with which the rest of the day still holds
LATEST_1 = _next()
SPENT_0 = _next()  # cost up to the departure
SPENT_1 = _next()
BUSY_0 = _next()  # seconds of work and driving up to the departure
BUSY_1 = _next()
ROUTE_ROWS = _next()

# One number each. `world`
_next = count().__next__
TOTAL = _next()
ABSENT = _next()
BEST_TOTAL = _next()
VERSIONS = _next()
TOUCHED_COUNT = _next()
ACCEPTED = _next()
ITERATION = _next()
STACKED = _next()
LOGGED = _next()
SPANS = _next()  # stretches of the clock with one speed
GRID_FROM = _next()
GRID_CELL = _next()
DRIVE_SECOND = _next()  # cost weights
DRIVE_METRE = _next()
WAIT_SECOND = _next()
UNFAIR = _next()
LONGEST_DRIVE = _next()  # between two visits; 0: no limit
SIMULATE = _next()  # 1: a position's cost needs the whole day walked
ROUNDS = _next()  # iterations asked for
WORLD = _next()

# A link as seen from one task. `links[n, most, LINK]`
_next = count().__next__
KIND = _next()
OTHER = _next()  # the task at the other end
LEAST = _next()  # gaps between the end of the one and the start of the other
GREATEST = _next()
LINK = _next()
FOLLOWS, LEADS, SAME_TECHNICIAN = 0, 1, 2

# A stretch of the clock with one speed. `spans[stretches, 3]`
FROM, UNTIL, PERIOD = 0, 1, 2

# A store of parts, or a day's count of visits. `room[buckets, 2]`
SIZE, USED = 0, 1

# A change of what a task is held to, so that it can be taken back. `pin_log[most, PIN]`
PINNED, OLD_LOW, OLD_HIGH, PIN = 0, 1, 2, 3

# A place of a task: what it adds, after which position, which starts it allows, on which shift.
_next = count().__next__
ADDED = _next()
AFTER = _next()
EARLIEST = _next()
LATEST = _next()
ON_SHIFT = _next()
CANDIDATE = _next()
# The best place of a task on a shift, as it was at a version of the shift. `cache[n, m, CACHED]`
SEEN_VERSION, BEST_ADDED, BEST_AFTER, CACHED = 0, 1, 2, 3
# The first row of a crew member's places on a shift says of which version they are, and how many.
HEADER, HOW_MANY = 0, 1

# Earliest and latest start that links leave a group.
LOW, HIGH = 0, 1

# Work space in which a crew is chosen, a column for each member. `picks[PICKS, members + 1]`
_next = count().__next__
FOUND = _next()  # how many candidates
NOW = _next()  # the one that is tried
CHOSEN = _next()  # that of the best crew so far
REST_OF = _next()  # the least that this member and those after it add
LIKE = _next()  # whose list of candidates it uses
PICKS = _next()

# What `timetable` writes. `out[TIMES, stops + 2]`
STARTS_AT, ENDS_0, ENDS_1, RESTED, TIMES = 0, 1, 2, 3, 4
