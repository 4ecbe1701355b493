"""A problem to plan, and a plan for it."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from core.orders.links import Link
from core.roads.travel import Travel
from core.scheduling.model.aims import Standing
from core.scheduling.model.day import Day, Stop, VisitSpec, pressed_by
from core.scheduling.model.links import check_links
from core.scheduling.model.playbook import Playbook
from core.scheduling.model.timetable import Timetable


@dataclass(frozen=True, kw_only=True)
class Plan:
    """Who does what when: the stops of each of a problem's days, in the same order. A crew's visit is on several."""

    stops: tuple[tuple[Stop, ...], ...]

    @cached_property
    def where(self) -> Mapping[int, tuple[tuple[int, Stop], ...]]:
        """By visit: the days (as indices) and stops it stands on."""
        found: dict[int, list[tuple[int, Stop]]] = {}
        for index, stops in enumerate(self.stops):
            for stop in stops:
                found.setdefault(stop.visit.id, []).append((index, stop))
        return {visit_id: tuple(places) for visit_id, places in found.items()}


@dataclass(frozen=True, kw_only=True)
class Problem:
    """Technicians' days as they stand, and what may be changed about them.

    Attributes
    ----------
    days : one per technician and day, with the stops now on it.
    backlog : visits that stand nowhere.
    movable : ids of visits on the days that may go to another technician or time, or back to the
        backlog. The others stay with their technician and start no earlier than they stand.
    free : ids of movable visits that may also become earlier where they stand (a day put in better order).
    now : epoch second before which nothing can begin; None when all lies ahead.
    grain : new starts are multiples of so many seconds, as people say times.

    Raises
    ------
    ValueError
        When links form a ring, or a visit is both on a day and in the backlog.
    """

    days: tuple[Day, ...]
    backlog: tuple[VisitSpec, ...] = ()
    links: tuple[Link, ...] = ()
    playbook: Playbook
    travel: Travel
    movable: frozenset[int] = frozenset()
    free: frozenset[int] = frozenset()
    now: int | None = None
    grain: int = 1
    standing: Mapping[int, Standing] = field(init=False)

    def __post_init__(self) -> None:
        standing: dict[int, Standing] = {}
        for day in self.days:
            for stop in day.stops:
                known = standing.get(stop.visit.id)
                people = frozenset({day.technician.id}) | (known.technician_ids if known else frozenset())
                standing[stop.visit.id] = Standing(technician_ids=people, start=stop.start)
        object.__setattr__(self, "standing", standing)
        check_links(self.links, self.visits)
        twice = {visit.id for visit in self.backlog} & standing.keys()
        if twice:
            raise ValueError(f"in the backlog and on a day: {sorted(twice)}")

    @cached_property
    def visits(self) -> Mapping[int, VisitSpec]:
        """Everything on the days and in the backlog, by id."""
        found = {stop.visit.id: stop.visit for day in self.days for stop in day.stops}
        return found | {visit.id: visit for visit in self.backlog}

    @cached_property
    def as_it_stands(self) -> Plan:
        return Plan(stops=tuple(day.stops for day in self.days))

    @cached_property
    def last_days(self) -> dict[int, tuple[tuple[Stop, ...], tuple[Day, Timetable]]]:
        """What each day was evaluated to last, with the stops it had then. Kept by `evaluate.day_of`."""
        return {}

    def day(self, index: int, plan: Plan) -> Day:
        """One of the days as a plan has it."""
        return replace(self.days[index], stops=plan.stops[index])

    def now_for(self, day: Day) -> int | None:
        """The moment before which nothing on that day can still begin; None when it is not running."""
        return None if self.now is None else pressed_by(day, self.now)
