"""The ways to get a missing part to a visit, from the days as they stand and what nobody has spoken for."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from decimal import Decimal
from functools import cached_property

from apps.company.queries import company
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.people.models import Technician
from apps.pricing.figuring import hour_cost
from apps.scheduling.assembling import stop_of
from apps.scheduling.judging import judge_placement
from apps.scheduling.nearby import Nearby, Source
from apps.scheduling.vans import vans_for
from apps.stock.models import Part, Substitute
from apps.supply.levels import comes_on
from core.basics import minutes_in_words
from core.calendars import day_words, local_day, local_time
from core.pricing import digits_of
from core.scheduling import Verdict
from core.scheduling.evaluation.rules import fit_broken
from core.scheduling.model.limits import Limit
from core.scheduling.model.vans import Vans, sources
from core.supply import Rates, Way, WayKind, ranked
from foundation.errors import NotFound, Rejected


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
    return ranked(_Search(line=missing.line, part=missing.part, quantity=missing.quantity, now=now).ways())


@dataclass
class _Search(Nearby):
    """What can be fetched, and the other ways."""

    @cached_property
    def vans(self) -> Vans:
        """With what does instead: what nobody has spoken for, anywhere."""
        codes = {self.part.code, *(other.code for other, _rank in self.substitutes)}
        # Asked with the parts of all, so that what others will take of a substitute is seen, too.
        asked = replace(self.line, takes={**self.line.takes, **dict.fromkeys(codes - self.line.takes.keys(), 0)})
        return vans_for([asked])

    @cached_property
    def substitutes(self) -> list[tuple[Part, int]]:
        return substitutes_of(self.part)

    @cached_property
    def rates(self) -> Rates:
        technician = Technician.objects.select_related("vehicle").get(pk=self.line.technician_id or 0)
        scale = digits_of(company().currency)
        hour = Decimal(technician.cost_per_hour or 0).scaleb(scale) or Decimal(hour_cost() or 0)
        vehicle = technician.vehicle
        kilometre = Decimal((vehicle.cost_per_km if vehicle else None) or 0).scaleb(scale)
        return Rates(hour=hour, kilometre=kilometre)

    def ways(self) -> Iterator[Way]:
        yield from self._substitutes()
        yield from (self._stop_way(source) for source in self.sources())
        yield from self._givings()
        yield from self._supplier()

    def _substitutes(self) -> Iterator[Way]:
        """Another part that does instead, and that lies on the van or in the depot where the shift starts."""
        driver = self.vans.supplies.drivers.get(self.line.technician_id or 0)
        own = sources(driver, self.day, self.vans.begun)
        for other, rank in self.substitutes:
            there = sum(self.vans.free_at(place, other.code) for place in own)
            if there < self.quantity:
                continue
            dearer = ((other.cost or 0) - (self.part.cost or 0)) * self.quantity
            yield Way(
                kind=WayKind.SUBSTITUTE, key=f"substitute {other.code}", part=other.code, quantity=self.quantity,
                words=f"Take {other.name} instead", money=dearer,
                reasons=(f"{there} there to take along, choice {rank} of what does instead",),
            )  # fmt: skip

    def _givings(self) -> Iterator[Way]:
        """Somebody else, who has it, does the visit at its time."""
        line, start = self.line, self.line.start
        assert start is not None
        if line.crew > 1 or line.pinned or line.state.is_under_way:
            return
        for technician in self.near(self._able(start)):
            verdict = judge_placement(line=line, technician_id=technician, start=start, now=self.now)
            if not verdict.allowed:
                continue
            yield Way(
                kind=WayKind.GIVE, key=f"give {technician}", part=self.part.code, quantity=self.quantity,
                words=f"Give the visit to {self.people[technician].name}, at its time", technician_id=technician,
                start=start, seconds=verdict.extra_drive_seconds, money=self.rates.of(verdict.extra_drive_seconds, 0),
                in_time=verdict.is_plain, reasons=_warned(verdict),
            )  # fmt: skip

    def _able(self, start: int) -> list[int]:
        """Of those who have it, who may do the visit."""
        stop = stop_of(self.line, self.days.spec(self.line, self.day), start=start)
        return [
            key for key in self.holders()
            if not any(row.limit is not Limit.PARTS for row in fit_broken(self.days.days[key], stop))
        ]  # fmt: skip

    def _supplier(self) -> Iterator[Way]:
        """Ordered now, it comes to the depot; the technician takes it along from there."""
        supplier = self.part.supplier
        if supplier is None or supplier.retired:
            return
        comes = comes_on(supplier, local_day(int(self.now.timestamp()), self.tz))
        yield Way(
            kind=WayKind.SUPPLIER, key=f"supplier {supplier.pk}", part=self.part.code, quantity=self.quantity,
            words=f"Order from {supplier.name}", in_time=comes < self.day,
            reasons=(f"comes {day_words(comes)}",),
        )  # fmt: skip

    def _stop_way(self, source: Source) -> Way:
        found, place = source.stop, source.place
        kind = WayKind.DEPOT if source.technician_id is None else WayKind.COLLEAGUE
        words = f"Stop at the depot {place.name}"
        if source.technician_id is not None and source.meeting is not None:
            words = f"Meet {self.people[source.technician_id].name} at {source.meeting.site}"
        later = (start for _visit, start in found.moved)
        return Way(
            kind=kind, key=" ".join(map(str, (kind.value, place.pk, found.start, *later))), part=self.part.code,
            quantity=self.quantity, words=f"{words}, {local_time(found.start, self.tz)}", place_id=place.pk,
            technician_id=source.technician_id, meeting_id=source.meeting.id if source.meeting else None,
            start=found.start, there_at=found.ends, seconds=found.added, metres=found.metres,
            money=self.rates.of(found.added, found.metres), in_time=found.in_time, moves=found.moved,
            reasons=(*_warned(found.verdict), *(self._moved(*row) for row in found.moved)),
        )  # fmt: skip

    def _moved(self, visit_id: int, start: int) -> str:
        line = next(row for row in self.placed if row.id == visit_id)
        later = minutes_in_words(start - (line.start or start))
        return f"{line.number} {line.site} begins {later} later, at {local_time(start, self.tz)}"


def _warned(verdict: Verdict) -> tuple[str, ...]:
    return tuple(row.sentence for row in verdict.reasons if row.weight in ("refuses", "asks", "warns"))


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
