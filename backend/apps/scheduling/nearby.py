"""Where a part that a visit lacks can be fetched on that day: at a depot, or from a colleague whose round is near."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, datetime
from functools import cached_property
from zoneinfo import ZoneInfo

from apps.company.models import Depot
from apps.company.queries import settings, time_zone
from apps.orders.lines import VisitLine
from apps.people.working_days import WorkingDay, working_date_of, working_days
from apps.roads.queries import travel_among
from apps.scheduling.assembling import Days, days_of, places_of
from apps.scheduling.placed import placed_on
from apps.scheduling.schedule import evaluate_on
from apps.scheduling.vans import vans_for
from apps.stock.models import Part, StockPlace
from core.basics import Interval, Place
from core.scheduling import Reason, pressed_by
from core.scheduling.judgement.fetching import Fetched, Fetching, fetch_before
from core.scheduling.model.reasons import Code, why
from core.scheduling.model.vans import Vans
from core.stock import PlaceKind

# Of those who could bring it, so many of the nearest are looked at.
NEAREST = 6
# While a visit is dragged, somebody waits for the answer.
NEAREST_IN_A_DRAG = 2


@dataclass(frozen=True, kw_only=True)
class Source:
    """Where a part can be fetched, and the stop that fetches it; from whom, and at which visit of theirs."""

    place: StockPlace
    stop: Fetched
    technician_id: int | None = None
    meeting: VisitLine | None = None


@dataclass
class Nearby:
    """The day of a placed visit that lacks so many of a part, with everybody's visits and places on it, read once for
    all that is asked about it. The visit is as it is, or as it would be."""

    line: VisitLine
    part: Part
    quantity: int
    now: datetime
    nearest: int = NEAREST

    @cached_property
    def tz(self) -> ZoneInfo:
        return time_zone()

    @cached_property
    def day(self) -> date:
        assert self.line.start is not None
        assert self.line.technician_id is not None
        return working_date_of(self.line.technician_id, self.line.start, self.tz)

    @cached_property
    def people(self) -> dict[int, WorkingDay]:
        return {row.id: row for row in working_days(self.day, self.tz)}

    @cached_property
    def placed(self) -> list[VisitLine]:
        return [*(line for line in placed_on(self.day) if line.id != self.line.id), self.line]

    @cached_property
    def depots(self) -> dict[int, Depot]:
        return {row.pk: row for row in Depot.objects.filter(retired=False)}

    @cached_property
    def days(self) -> Days:
        places = places_of(self.people.values(), self.placed)
        places += [Place(row.lon, row.lat) for row in self.depots.values()]
        travel = travel_among(list(dict.fromkeys(places)))
        return days_of(self.people.values(), self.placed, self.tz, day=self.day, travel=travel)

    @cached_property
    def places(self) -> dict[int, StockPlace]:
        rows = StockPlace.objects.select_related("depot", "vehicle", "technician")
        return {row.pk: row for row in rows.filter(kind__in=[PlaceKind.DEPOT, PlaceKind.VAN])}

    @cached_property
    def vans(self) -> Vans:
        """What nobody has spoken for, anywhere."""
        return vans_for([self.line])

    def sources(self) -> Iterator[Source]:
        """Every depot and the nearest colleagues who have it free, each with the best stop before the visit."""
        yield from self._depots()
        yield from self._colleagues()

    def _depots(self) -> Iterator[Source]:
        for place in self.places.values():
            if place.depot_id in self.depots and self.has(place.pk):
                depot = self.depots[place.depot_id]
                found = self._fetched(Place(depot.lon, depot.lat), None, depot.name)
                if found is not None:
                    yield Source(place=place, stop=found)

    def _colleagues(self) -> Iterator[Source]:
        """From their vans, while they are at work somewhere."""
        for colleague in self.near(self.holders()):
            best: tuple[Fetched, VisitLine] | None = None
            times = {row.visit_id: row for row in evaluate_on(self.days, colleague, self._now).stops}
            for line in self.placed:
                if line.technician_id != colleague or line.id not in times or line.finished is not None:
                    continue
                there = Interval(start=times[line.id].starts, end=max(times[line.id].ends, times[line.id].starts + 1))
                found = self._fetched(line.place, there, line.site)
                if found and (best is None or _better(found, best[0])):
                    best = (found, line)
            if best is not None:
                place = self.places[self.vans.supplies.drivers[colleague].van or 0]
                yield Source(place=place, stop=best[0], technician_id=colleague, meeting=best[1])

    def has(self, place: int) -> bool:
        """Whether so many of the part are free there."""
        return self.vans.free_at(place, self.part.code) >= self.quantity

    def holders(self) -> list[int]:
        """Colleagues who have it free on their vans."""
        return [
            key for key, row in self.vans.supplies.drivers.items()
            if key != self.line.technician_id and key in self.people and row.van is not None and self.has(row.van)
        ]  # fmt: skip

    def near(self, technicians: list[int]) -> list[int]:
        """Those whose visits of the day lie nearest."""
        off = {key: min(map(self._off, self._whereabouts(key)), default=None) for key in technicians}
        known = [(distance, key) for key, distance in off.items() if distance is not None]
        return [key for _distance, key in sorted(known)[: self.nearest]]

    @property
    def _now(self) -> int:
        return int(self.now.timestamp())

    def _whereabouts(self, technician_id: int) -> list[Place]:
        own = [line.place for line in self.placed if line.technician_id == technician_id]
        person = self.people[technician_id]
        return own or ([person.start_place] if person.shift is not None else [])

    def _off(self, place: Place) -> float:
        here = self.line.place
        return abs(place.lon - here.lon) + abs(place.lat - here.lat)

    def _fetched(self, place: Place, within: Interval | None, label: str) -> Fetched | None:
        day = self.days.days[self.line.technician_id or 0]
        where = Fetching(
            place=self.days.index[place], seconds=60 * settings().stock_fetch_minutes, within=within, label=label
        )
        name = self.days.facts.names.parts.get(self.part.code, self.part.name)
        return fetch_before(
            day, self.line.id, (name, self.quantity), where, self.days.travel, now=pressed_by(day, self._now)
        )


def _better(one: Fetched, other: Fetched) -> bool:
    return (not one.in_time, one.added, one.start) < (not other.in_time, other.added, other.start)


def where_else(moved: VisitLine, *, now: datetime) -> list[Reason]:
    """Of each part that a visit would lack, who has it and how far off the route: for whoever drags it there."""
    lacking = vans_for([moved]).reserved.missing.get(moved.id, {})
    parts = {row.code: row for row in Part.objects.filter(code__in=lacking)}
    return [_said(moved, parts[code], quantity, now) for code, quantity in lacking.items() if code in parts]


def _said(moved: VisitLine, part: Part, quantity: int, now: datetime) -> Reason:
    search = Nearby(line=replace(moved), part=part, quantity=quantity, now=now, nearest=NEAREST_IN_A_DRAG)
    found = min((row for row in search.sources() if row.stop.in_time), key=lambda row: row.stop.added, default=None)
    if found is None:
        return Reason(weight="note", why=why(Code.PARTS_NOWHERE, part=part.name))
    extra = max(0, found.stop.added - (found.stop.ends - found.stop.start))
    given = {
        "part": part.name, "place": found.place.name, "has": search.vans.free_at(found.place.pk, part.code),
        "detour": extra, "at": found.stop.start,
    }  # fmt: skip
    return Reason(weight="note", why=why(Code.PARTS_ELSEWHERE, search.tz, **given))
