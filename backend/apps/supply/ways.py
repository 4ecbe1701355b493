"""The ways to get a missing part to a visit, from the days as they stand and what nobody has spoken for."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from decimal import Decimal
from functools import cached_property
from zoneinfo import ZoneInfo

from apps.company.models import Depot
from apps.company.queries import company, settings, time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.models import Technician
from apps.people.working_days import WorkingDay, working_date_of, working_days
from apps.pricing.figuring import hour_cost
from apps.roads.queries import travel_among
from apps.scheduling.assembling import Days, days_of, places_of, stop_of
from apps.scheduling.judging import judge_placement
from apps.scheduling.placed import placed_on
from apps.scheduling.schedule import evaluate_on
from apps.scheduling.vans import vans_for
from apps.stock.models import Part, StockPlace, Substitute
from core.basics import Interval, Place
from core.calendars import day_words, local_day, local_time
from core.pricing import digits_of
from core.scheduling import pressed_by
from core.scheduling.evaluation.rules import fit_broken
from core.scheduling.judgement.fetching import Fetched, Fetching, fetch_before
from core.scheduling.model.limits import Limit
from core.scheduling.model.vans import Vans, sources
from core.stock import PlaceKind
from core.supply import Rates, Way, WayKind, ranked
from foundation.errors import NotFound, Rejected

# Of those who could bring it, or go instead, so many of the nearest are looked at.
NEAREST = 6


@dataclass(frozen=True, kw_only=True)
class Missing:
    """So many of a part that a placed visit needs and that can be taken from nowhere."""

    line: VisitLine
    part: Part
    quantity: int


def missing_of(visit_id: int, code: str) -> Missing:
    """What is missing of a part for a placed visit.

    Raises
    ------
    NotFound
        When there is no such visit or part.
    Rejected
        When nothing of it is missing (any more).
    """
    line = orders.line(visit_id)
    part = Part.objects.select_related("supplier").filter(code=code, merged_into="").first()
    if part is None:
        raise NotFound("There is no such part (any more).", code="no_part")
    quantity = vans_for([line]).reserved.missing.get(visit_id, {}).get(code, 0)
    if not quantity or line.technician_id is None or line.start is None:
        raise Rejected(f"Nothing of {part.name} is missing for {line.number} (any more).", code="not_missing")
    return Missing(line=line, part=part, quantity=quantity)


def ways_for(missing: Missing, *, now: datetime) -> list[Way]:
    """All ways to get it there, the best first."""
    return ranked(_Search(missing, now).ways())


@dataclass
class _Search:
    """The day of the visit, with everybody's visits and places on it, read once for all the ways."""

    missing: Missing
    now: datetime

    @property
    def line(self) -> VisitLine:
        return self.missing.line

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
        return placed_on(self.day)

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
        """With what does instead: what nobody has spoken for, anywhere."""
        codes = {self.missing.part.code, *(other.code for other, _rank in self.substitutes)}
        # Asked with the parts of all, so that what others will take of a substitute is seen, too.
        asked = replace(self.line, takes={**self.line.takes, **dict.fromkeys(codes - self.line.takes.keys(), 0)})
        return vans_for([asked])

    @cached_property
    def substitutes(self) -> list[tuple[Part, int]]:
        return substitutes_of(self.missing.part)

    @cached_property
    def rates(self) -> Rates:
        technician = Technician.objects.select_related("vehicle").get(pk=self.line.technician_id or 0)
        scale = digits_of(company().currency)
        hour = Decimal(technician.cost_per_hour or 0).scaleb(scale) or Decimal(hour_cost() or 0)
        vehicle = technician.vehicle
        kilometre = Decimal((vehicle.cost_per_km if vehicle else None) or 0).scaleb(scale)
        return Rates(hour=hour, kilometre=kilometre)

    # --- the ways -------------------------------------------------------------------------------------------

    def ways(self) -> Iterator[Way]:
        yield from self._substitutes()
        yield from self._depots()
        yield from self._colleagues()
        yield from self._givings()
        yield from self._supplier()

    def _depots(self) -> Iterator[Way]:
        """A stop at a depot that has it."""
        for place in self.places.values():
            if place.depot_id not in self.depots or not self._has(place.pk):
                continue
            depot = self.depots[place.depot_id]
            found = self._fetched(Place(depot.lon, depot.lat), None, depot.name)
            if found is not None:
                yield self._stop_way(WayKind.DEPOT, place, found, f"Stop at the depot {depot.name}")

    def _colleagues(self) -> Iterator[Way]:
        """From the van of somebody whose round comes near, while they are at work somewhere."""
        for colleague in self._holders():
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
                name = self.people[colleague].name
                words = f"Meet {name} at {best[1].site}"
                way = self._stop_way(WayKind.COLLEAGUE, place, best[0], words)
                yield replace(way, technician_id=colleague, meeting_id=best[1].id)

    def _substitutes(self) -> Iterator[Way]:
        """Another part that does instead, and that lies on the van or in the depot where the shift starts."""
        for other, rank in self.substitutes:
            there = sum(self.vans.free_at(place, other.code) for place in self._own_places)
            if there < self.missing.quantity:
                continue
            dearer = ((other.cost or 0) - (self.missing.part.cost or 0)) * self.missing.quantity
            yield Way(
                kind=WayKind.SUBSTITUTE, key=f"substitute {other.code}", part=other.code,
                quantity=self.missing.quantity, words=f"Take {other.name} instead", money=dearer,
                reasons=(f"{there} there to take along, number {rank} of what does instead",),
            )  # fmt: skip

    def _givings(self) -> Iterator[Way]:
        """Somebody else, who has it, does the visit at its time."""
        line, start = self.line, self.line.start
        assert start is not None
        if line.crew > 1 or line.pinned or line.state.is_under_way:
            return
        for technician in self._holders(fitting=True):
            verdict = judge_placement(line=line, technician_id=technician, start=start, now=self.now)
            if not verdict.allowed:
                continue
            name = self.people[technician].name
            yield Way(
                kind=WayKind.GIVE, key=f"give {technician}", part=self.missing.part.code,
                quantity=self.missing.quantity, words=f"Give the visit to {name}, at its time",
                technician_id=technician, start=start, seconds=verdict.extra_drive_seconds,
                money=self.rates.of(verdict.extra_drive_seconds, 0), in_time=verdict.is_plain,
                reasons=tuple(row.sentence for row in verdict.reasons if row.weight in ("refuses", "asks", "warns")),
            )  # fmt: skip

    def _supplier(self) -> Iterator[Way]:
        """Ordered now, it comes to the depot; the technician takes it along from there."""
        part, supplier = self.missing.part, self.missing.part.supplier
        if supplier is None or supplier.retired:
            return
        comes = local_day(self._now, self.tz) + timedelta(days=supplier.days)
        yield Way(
            kind=WayKind.SUPPLIER, key=f"supplier {supplier.pk}", part=part.code, quantity=self.missing.quantity,
            words=f"Order from {supplier.name}", in_time=comes < self.day,
            reasons=(f"comes {day_words(comes)}: {supplier.days} days",),
        )  # fmt: skip

    # --- what they have in common ----------------------------------------------------------------------------

    @property
    def _own_places(self) -> tuple[int, ...]:
        """Where the visit takes its parts from: the van, and the depot where the shift starts."""
        driver = self.vans.supplies.drivers.get(self.line.technician_id or 0)
        return sources(driver, self.day, self.vans.begun)

    @property
    def _now(self) -> int:
        return int(self.now.timestamp())

    def _has(self, place: int, part: str = "") -> bool:
        return self.vans.free_at(place, part or self.missing.part.code) >= self.missing.quantity

    def _holders(self, *, fitting: bool = False) -> list[int]:
        """Who has it free on the van, those whose visits are nearest; or only those who may do the visit, too."""
        drivers = self.vans.supplies.drivers
        held = [
            key for key, row in drivers.items()
            if key != self.line.technician_id and key in self.people and row.van is not None and self._has(row.van)
        ]  # fmt: skip
        if fitting:
            spec = self.days.spec(self.line, self.day)
            assert self.line.start is not None
            stop = stop_of(self.line, spec, start=self.line.start)
            held = [
                key for key in held
                if not any(row.limit is not Limit.PARTS for row in fit_broken(self.days.days[key], stop))
            ]  # fmt: skip
        near = {key: min(map(self._off, self._whereabouts(key)), default=None) for key in held}
        return sorted((key for key in held if near[key] is not None), key=lambda key: (near[key], key))[:NEAREST]

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
        name = self.days.facts.names.parts.get(self.missing.part.code, self.missing.part.name)
        return fetch_before(
            day, self.line.id, (name, self.missing.quantity), where, self.days.travel,
            now=pressed_by(day, self._now),
        )  # fmt: skip

    def _stop_way(self, kind: WayKind, place: StockPlace, found: Fetched, words: str) -> Way:
        warned = [row for row in found.verdict.reasons if row.weight in ("refuses", "asks", "warns")]
        return Way(
            kind=kind, key=f"{kind.value} {place.pk} {found.start}", part=self.missing.part.code,
            quantity=self.missing.quantity, words=f"{words}, {local_time(found.start, self.tz)}",
            place_id=place.pk, start=found.start, there_at=found.ends,
            seconds=found.added, metres=found.metres, money=self.rates.of(found.added, found.metres),
            in_time=found.in_time, reasons=tuple(row.sentence for row in warned),
        )  # fmt: skip


def _better(one: Fetched, other: Fetched) -> bool:
    return (not one.in_time, one.added) < (not other.in_time, other.added)


def substitutes_of(part: Part) -> list[tuple[Part, int]]:
    """What does instead of a part, the first choice first, with its rank."""
    own = Substitute.objects.select_related("other").filter(part=part, other__retired=False, other__merged_into="")
    back = Substitute.objects.select_related("part").filter(other=part, both_ways=True, part__retired=False)
    found = [(row.other, row.rank) for row in own] + [(row.part, row.rank) for row in back]
    return sorted(found, key=lambda row: (row[1], row[0].name))


def way_named(ways: Sequence[Way], key: str) -> Way:
    """
    Raises
    ------
    Rejected
        When there is no such way any more.
    """
    found = next((way for way in ways if way.key == key), None)
    if found is None:
        raise Rejected("That way is not open any more. Look at what there is now.", code="way_gone")
    return found
