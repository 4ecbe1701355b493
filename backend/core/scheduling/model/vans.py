"""What technicians can take parts from, once everything planned has spoken for its own."""

from collections import Counter, defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property

from core.scheduling.model.day import Arrival, Load
from core.stock import Draw, Driver, Reserved, Supplies


@dataclass(frozen=True, kw_only=True)
class Vans:
    """What lies on vans and in depots of the parts in question, and who will take what of it.

    begun : days of technicians who have set out, so that nothing is taken along from the depot any more.
    """

    parts: frozenset[str] = frozenset()
    supplies: Supplies = field(default_factory=Supplies)
    reserved: Reserved = field(default_factory=lambda: Reserved(draws=(), missing={}))
    begun: Collection[tuple[int, date]] = ()

    @cached_property
    def _own(self) -> Mapping[tuple[int, int], Sequence[Draw]]:
        """What each technician takes from each place."""
        found: defaultdict[tuple[int, int], list[Draw]] = defaultdict(list)
        for draw in self.reserved.draws:
            found[draw.place, draw.technician].append(draw)
        return found

    @cached_property
    def _unspoken(self) -> Mapping[int, Mapping[str, int]]:
        """What of each place nobody takes; below zero where more was promised than there is."""
        return {
            place: {part: there.get(part, 0) - self.reserved.at(place, part) for part in self.parts}
            for place, there in self.supplies.on_hand.items()
        }

    def load(self, technician_id: int, day: date) -> Load | None:
        """What somebody can take on a day: the van, and what is free at the depot where the shift starts; less what
        others will take, and what they themselves take on days before. None: nobody counts the van."""
        driver = self.supplies.drivers.get(technician_id)
        if driver is None or driver.van is None:
            return None
        depot = depot_of(driver, day, self.begun)
        return Load(
            van=self._left(driver.van, technician_id, day),
            depot=driver.depot_name if depot is not None else "",
            free={} if depot is None else self._left(depot, technician_id, day),
            arrivals=tuple(
                Arrival(at=row.at, part=row.part, quantity=row.quantity)
                for row in self.supplies.coming
                if row.target == driver.van and row.part in self.parts and row.day == day
            ),
        )

    def run_load(self, technician_id: int, first: date, day: date) -> Load | None:
        """The same for a day of a run that begins on `first`: what earlier days of the run take is still there, for the
        run itself counts it. What is free at a depot is shared out among those who start there, so that two are never
        promised the same piece; what somebody has spoken for is theirs."""
        load, driver = self.load(technician_id, day), self.supplies.drivers.get(technician_id)
        if load is None or driver is None or driver.van is None:
            return load
        van = Counter(self._left(driver.van, technician_id, first))
        for row in self.supplies.coming:
            if row.target == driver.van and row.part in self.parts and first <= row.day < day:
                van[row.part] += row.quantity
        free = self._share(driver, first) if load.depot else {}
        return Load(van=dict(van), depot=load.depot, free=free, arrivals=load.arrivals)

    def _share(self, driver: Driver, first: date) -> dict[str, int]:
        """Somebody's share of what is free at their depot, and what they have spoken for."""
        assert driver.depot is not None
        mates = self._mates[driver.depot]
        own = Counter[str]()
        for draw in self._own.get((driver.depot, driver.id), ()):
            if draw.day >= first:
                own[draw.part] += draw.quantity
        shared = {}
        for part, unspoken in self._unspoken[driver.depot].items():
            share, rest = divmod(max(0, unspoken), len(mates))
            shared[part] = own[part] + share + (mates.index(driver.id) < rest)
        return shared

    @cached_property
    def _mates(self) -> Mapping[int, Sequence[int]]:
        """Who starts at each depot with a van that is counted."""
        found: defaultdict[int, list[int]] = defaultdict(list)
        for row in sorted(self.supplies.drivers.values(), key=lambda row: row.id):
            if row.depot is not None and row.van is not None and not row.starts_at_home:
                found[row.depot].append(row.id)
        return found

    def free_at(self, place: int, part: str) -> int:
        """How many of a part at a place nobody has spoken for."""
        return max(0, self._unspoken.get(place, {}).get(part, 0))

    def _left(self, place: int, technician_id: int, day: date) -> dict[str, int]:
        """What nobody takes, what has come by the day, and what they take themselves from then on. Below zero where it
        will be taken from what is still to come."""
        left = dict(self._unspoken[place])
        for row in self.supplies.coming:
            if row.target == place and row.day < day and row.part in left:
                left[row.part] += row.quantity
        for draw in self._own.get((place, technician_id), ()):
            if draw.day >= day and draw.part in left:
                left[draw.part] += draw.quantity
        return left


def depot_of(driver: Driver, day: date, begun: Collection[tuple[int, date]]) -> int | None:
    """The depot from which somebody can take something along on a day."""
    return None if driver.starts_at_home or (driver.id, day) in begun else driver.depot


def sources(driver: Driver | None, day: date, begun: Collection[tuple[int, date]]) -> tuple[int, ...]:
    """Where a visit of somebody's takes its parts from; nowhere: nobody counts their van."""
    if driver is None or driver.van is None:
        return ()
    depot = depot_of(driver, day, begun)
    return (driver.van,) if depot is None else (driver.van, depot)
