"""Every number of the search that could be another one, with its origin.

SISR: Christiaens & Vanden Berghe, Slack Induction by String Removals for Vehicle Routing Problems, Transportation
Science 54(2), 2020. Where no paper is named, the number was found by measurement: `./relay bench planner`.
"""

from typing import NamedTuple


class Tuning(NamedTuple):
    """How a search wanders.

    `hot` and `cold` are the first and last temperature as shares of the mean cost of a leg. With `adapts`, a
    search that is short for its number of visits begins colder: it has no time to wander.
    """

    hot: float = 0.3
    cold: float = 0.003
    removals: float = 10.0  # mean number of visits taken out (SISR, section 6)
    longest: float = 10.0  # longest string (SISR, section 6)
    split: float = 0.5  # how often some stops inside a string are kept (SISR, section 6)
    stretch: float = 0.01  # how likely it is to stop keeping more of them (SISR, section 6)
    blink: float = 0.01  # how likely a place is overlooked (SISR, section 6)
    unserved_seed: float = 0.3  # how often the strings are cut around what is not served
    adapts: bool = False


# From a plan that people rely on the search goes only a little way: cold from the start.
WARM = Tuning(hot=0.1, cold=0.002, removals=8.0, unserved_seed=0.5)
# From here on, per visit, a search has time to begin as hot as it likes.
ENOUGH_SECONDS, ENOUGH_ITERATIONS = 0.02, 200
COLDEST_START = 0.25

# Ruin: neighbours looked at around a seed; strings are short, so more are never reached.
NEAR = 300

# Recreate: orders by chance for each one by a rule; the blink of the second look, when the first was overlooked;
# and rounds in which a visit gets its chance after what it follows.
RANDOM_ORDERS = 3
SECOND_BLINK = 0.3
ROUNDS_FOR_FOLLOWERS = 12

# Links: how often what is followed is held to its earliest start rather than to one by chance.
HELD_EARLY = 0.7

# Crews: best places kept per member and shift; candidates over all shifts; combinations looked at; and how often the
# crew starts as early as it can, or up to which share at a moment by chance (else as late as it can).
CREW_PLACES, CREW_CANDIDATES = 3, 20
CREW_TRIES = 5000
CREW_EARLY, CREW_BY_CHANCE = 0.6, 0.7

# Changes of what tasks are held to that one iteration may log: where there are groups, and where there are none; and
# so many must be free before a group is put in.
PINS_LOGGED, PINS_LOGGED_PER_TASK, PINS_WITHOUT_GROUPS = 20_000, 4, 300
PINS_FOR_A_GROUP = 200

# The search looks up from its work this often, so a stop is obeyed at once.
LOOK_UP_SECONDS = 0.04
FIRST_CHUNK = 20
