"""What planned visits will take, and from where: from the van first, then from the depot where the shift starts."""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date


@dataclass(frozen=True, kw_only=True)
class Need:
    """What a planned visit takes.

    day : the working day it is on.
    start : epoch seconds.
    sources : the places it may take from, the nearest first (van, then depot); empty: nobody counts the van, and it is
        trusted to have what is needed.
    """

    visit: int
    technician: int
    day: date
    start: int
    parts: Mapping[str, int]
    sources: tuple[int, ...]


@dataclass(frozen=True, kw_only=True)
class Coming:
    """Parts that somebody will bring or fetch from one place to another, there at a moment (epoch seconds) of a day."""

    part: str
    quantity: int
    source: int
    target: int
    at: int
    day: date


@dataclass(frozen=True, kw_only=True)
class Driver:
    """Where a technician takes parts from: ids of the places, None where nobody counts them."""

    id: int
    van: int | None
    depot: int | None
    depot_name: str = ""
    starts_at_home: bool = False


@dataclass(frozen=True, kw_only=True)
class Supplies:
    """What lies in depots and on vans of some parts, and what is on its way between them.

    on_hand : by place, how many of each part, by its code. A place that nobody counts is not there.
    drivers : by technician.
    """

    on_hand: Mapping[int, Mapping[str, int]] = field(default_factory=dict)
    coming: tuple[Coming, ...] = ()
    drivers: Mapping[int, Driver] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class Draw:
    """So many of a part that a visit will take from a place."""

    visit: int
    technician: int
    day: date
    place: int
    part: str
    quantity: int


@dataclass(frozen=True, kw_only=True)
class Reserved:
    """What is spoken for.

    draws : by whom and from where.
    missing : by visit, how many of which part are nowhere they could be taken from.
    """

    draws: Sequence[Draw]
    missing: Mapping[int, Mapping[str, int]]
    _by_place: dict[tuple[int, str], int] = field(default_factory=dict, repr=False)

    def at(self, place: int, part: str) -> int:
        """How many of a part are spoken for at a place."""
        return self._by_place.get((place, part), 0)


def reserve(needs: Iterable[Need], on_hand: Mapping[int, Mapping[str, int]], coming: Iterable[Coming] = ()) -> Reserved:
    """Speak for parts in the order in which visits begin: who comes first takes first, as it will happen.

    Parameters
    ----------
    on_hand
        By place, how many of each part lie there.
    coming
        What is on its way or will be fetched: it is spoken for where it comes from, and there to be taken from its
        moment on.
    """
    pool: dict[int, Counter[str]] = defaultdict(Counter, {key: Counter(parts) for key, parts in on_hand.items()})
    arrivals = sorted(coming, key=lambda row: (row.at, row.target, row.part))
    for row in arrivals:
        pool[row.source][row.part] -= row.quantity
    draws: list[Draw] = []
    missing: dict[int, dict[str, int]] = {}
    arrived = 0
    for need in sorted(needs, key=lambda need: (need.start, need.visit)):
        while arrived < len(arrivals) and arrivals[arrived].at <= need.start:
            row = arrivals[arrived]
            pool[row.target][row.part] += row.quantity
            arrived += 1
        for part, wanted in need.parts.items():
            left = _take(pool, need, part, wanted, draws)
            if left and need.sources:
                missing.setdefault(need.visit, {})[part] = left
    spoken: Counter[tuple[int, str]] = Counter()
    for draw in draws:
        spoken[draw.place, draw.part] += draw.quantity
    for row in arrivals:
        spoken[row.source, row.part] += row.quantity
    return Reserved(draws=draws, missing=missing, _by_place=dict(spoken))


def _take(pool: dict[int, Counter[str]], need: Need, part: str, wanted: int, draws: list[Draw]) -> int:
    """Take from one place after the other; how many are nowhere."""
    for place in need.sources:
        taken = min(wanted, max(0, pool[place][part]))
        if taken:
            pool[place][part] -= taken
            wanted -= taken
            draws.append(
                Draw(visit=need.visit, technician=need.technician, day=need.day, place=place, part=part, quantity=taken)
            )
        if not wanted:
            break
    return wanted
