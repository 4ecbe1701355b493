"""The arrays that kernels are handed, in bundles: what belongs together travels together."""

from typing import Any, NamedTuple

Array = Any  # kernels know the type of each; see `arrays.Arrays` and `search.Search` for the shapes


class Roads(NamedTuple):
    """Driving: seconds by period, metres, stretches of the clock with one speed, and the grid into them."""

    drive: Array
    metres: Array
    spans: Array
    grid: Array


class Fits(NamedTuple):
    """Who can take what: seconds of work, what it costs whatever the hour, and the shifts that can."""

    length: Array
    extra: Array
    eligible: Array


class Stores(NamedTuple):
    """What tasks use up: parts on vans, visits a day."""

    demand: Array
    bucket: Array
    room: Array


class Ties(NamedTuple):
    """Links of each task, and the members of each group."""

    links: Array
    members: Array


class Plan(NamedTuple):
    """Who does what when: rows of tasks and shifts, and the routes."""

    tasks: Array
    shifts: Array
    routes: Array


class Journal(NamedTuple):
    """How the plan was before this iteration, where it was touched."""

    backup: Array
    touched: Array
    pin_log: Array


class Lists(NamedTuple):
    """Tasks outside the plan, now and before this iteration; groups to be taken out; keys to sort by."""

    absent: Array
    before: Array
    stack: Array
    keys: Array


class Crews(NamedTuple):
    """Places of crew members by shift and version, and the work space in which a crew is chosen."""

    crew_cache: Array
    bounds: Array
    candidates: Array
    picks: Array


class Best(NamedTuple):
    """The best plan met so far."""

    best_routes: Array
    best_pins: Array


class State(NamedTuple):
    """A technician on the way through a day: departure (FAR: not possible), cost and busy seconds so far."""

    leaves: Any
    spent: Any
    busy: Any
