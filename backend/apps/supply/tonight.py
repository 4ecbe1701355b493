"""A day's work held against the vans: what each needs, what it has, what is picked at the depot, what is missing."""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta

from django.db.models import Max, Q

from apps.company.queries import settings, time_zone
from apps.orders.lines import VisitLine
from apps.people.working_days import WorkingDay, working_days
from apps.scheduling.placed import placed_on
from apps.stock.models import Level, Movement, Part, StockPlace, Transfer
from apps.supply.levels import planned
from core.calendars import day_interval
from core.scheduling.model.vans import Vans
from core.stock import MoveReason
from foundation.moments import to_datetime


@dataclass(frozen=True, kw_only=True)
class NeedOfVisit:
    """What one visit takes of a part: from the van, from the depot, and how many are nowhere."""

    visit: VisitLine
    quantity: int
    van: int
    depot: int
    missing: int


@dataclass(kw_only=True)
class PartOfDay:
    """A part that somebody's day takes."""

    part: Part
    visits: list[NeedOfVisit] = field(default_factory=list)

    @property
    def quantity(self) -> int:
        return sum(row.quantity for row in self.visits)

    @property
    def van(self) -> int:
        return sum(row.van for row in self.visits)

    @property
    def depot(self) -> int:
        return sum(row.depot for row in self.visits)

    @property
    def missing(self) -> int:
        return sum(row.missing for row in self.visits)


@dataclass(frozen=True, kw_only=True)
class Pick:
    """So many of a part to be taken from a shelf onto a van; `transfer_id`: because it was promised."""

    part: Part
    quantity: int
    shelf: str
    lies: int
    transfer_id: int | None = None
    note: str = ""


@dataclass(frozen=True, kw_only=True)
class VanOfDay:
    """Somebody's van on a day. `counted`: whether anybody counts it; `depot`: where the shift starts and parts can be
    taken along (None: nowhere)."""

    person: WorkingDay
    counted: bool
    van: StockPlace | None
    depot: StockPlace | None
    parts: Sequence[PartOfDay]
    picks: Sequence[Pick]
    coming: Sequence[Transfer]

    @property
    def missing(self) -> int:
        """How many parts are missing, each counted once."""
        return sum(1 for row in self.parts if row.missing)


def tonight(day: date) -> list[VanOfDay]:
    """Everybody who works or has visits that day, those who lack something first, then by name."""
    lines, people = placed_on(day), working_days(day, time_zone())
    vans = planned()
    by_person = _needs(lines, vans)
    parts = {
        row.code: row for row in Part.objects.filter(code__in={code for own in by_person.values() for code in own})
    }
    places = StockPlace.objects.select_related("depot", "vehicle", "technician").in_bulk(
        {key for row in vans.supplies.drivers.values() for key in (row.van, row.depot) if key}
    )
    transfers = _transfers(day)
    shelves = _shelves(vans, by_person)
    found = [
        _van(person, by_person.get(person.id, {}), parts, vans, places, transfers, shelves, day)
        for person in people
        if person.shift is not None or person.id in by_person
    ]
    return sorted(found, key=lambda row: (-row.missing, row.person.name))


_Needs = Mapping[int, Mapping[str, list[NeedOfVisit]]]


def _needs(lines: Iterable[VisitLine], vans: Vans) -> _Needs:
    """What each technician's visits take, by part, in the order of the day."""
    kinds = {row.van: "van" for row in vans.supplies.drivers.values() if row.van is not None}
    taken: defaultdict[tuple[int, str, str], int] = defaultdict(int)
    for draw in vans.reserved.draws:
        taken[draw.visit, draw.part, kinds.get(draw.place, "depot")] += draw.quantity
    found: defaultdict[int, defaultdict[str, list[NeedOfVisit]]] = defaultdict(lambda: defaultdict(list))
    for line in sorted(lines, key=lambda line: (line.start or 0, line.id)):
        if line.technician_id is None or line.finished is not None:
            continue
        for code, quantity in line.takes.items():
            need = NeedOfVisit(
                visit=line, quantity=quantity, van=taken[line.id, code, "van"], depot=taken[line.id, code, "depot"],
                missing=vans.reserved.missing.get(line.id, {}).get(code, 0),
            )  # fmt: skip
            found[line.technician_id][code].append(need)
    return found


def _transfers(day: date) -> Mapping[int, list[Transfer]]:
    """What is promised to each place on a day and has not changed hands."""
    hours = day_interval(day, time_zone())
    rows = Transfer.objects.filter(state="open", at__gte=to_datetime(hours.start), at__lt=to_datetime(hours.end))
    found: defaultdict[int, list[Transfer]] = defaultdict(list)
    for row in rows.select_related("part", "source__depot", "source__vehicle", "source__technician").order_by(
        "at", "id"
    ):
        found[row.target_id].append(row)
    return found


def _shelves(vans: Vans, by_person: _Needs) -> Mapping[tuple[int, str], tuple[str, int]]:
    codes = {code for own in by_person.values() for code in own}
    depots = {row.depot for row in vans.supplies.drivers.values() if row.depot is not None}
    rows = Level.objects.filter(place__in=depots, part__code__in=codes)
    return {
        (place, code): (shelf, quantity)
        for place, code, shelf, quantity in rows.values_list("place_id", "part__code", "shelf", "quantity")
    }


def _van(
    person: WorkingDay, needs: Mapping[str, list[NeedOfVisit]], parts: Mapping[str, Part], vans: Vans,
    places: Mapping[int, StockPlace], transfers: Mapping[int, list[Transfer]],
    shelves: Mapping[tuple[int, str], tuple[str, int]], day: date,
) -> VanOfDay:  # fmt: skip
    driver = vans.supplies.drivers.get(person.id)
    van = places.get(driver.van) if driver and driver.van else None
    own = [
        PartOfDay(part=parts[code], visits=rows) for code, rows in sorted(needs.items(), key=lambda row: row[0])
        if code in parts
    ]  # fmt: skip
    depot_id = driver.depot if driver and not driver.starts_at_home and (person.id, day) not in vans.begun else None
    depot = places.get(depot_id) if depot_id else None
    coming = transfers.get(van.pk, []) if van else []
    picks = [
        Pick(part=row.part, quantity=row.depot, shelf=shelf, lies=lies)
        for row in own
        if row.depot and depot is not None
        for shelf, lies in [shelves.get((depot.pk, row.part.code), ("", 0))]
    ]
    picks += [
        Pick(part=row.part, quantity=row.quantity, shelf="", lies=0, transfer_id=row.pk, note=row.note)
        for row in coming
        if depot is not None and row.source_id == depot.pk and row.errand_id is None
    ]
    return VanOfDay(
        person=person, counted=van is not None, van=van, depot=depot, parts=own,
        picks=sorted(picks, key=lambda row: (row.shelf, row.part.name)), coming=coming,
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class OnVan:
    """A part on a van: how many are there, how many the next days take, by day; when it was used last, and whether it
    is proposed to be left at the depot."""

    level: Level
    reserved: int
    by_day: Mapping[date, int]
    last_used: datetime | None
    leave: bool

    @property
    def free(self) -> int:
        return self.level.quantity - self.reserved


def on_van(place: StockPlace, *, now: datetime, vans: Vans | None = None) -> list[OnVan]:
    """What lies on a van against what the next days take, and what could stay at the depot: not used for as long as
    the company says, and spoken for by nothing."""
    vans, weeks = vans or planned(), settings().stock_unused_weeks
    levels = list(Level.objects.filter(place=place).select_related("part", "part__supplier").order_by("part__name"))
    used = dict(
        Movement.objects.filter(source=place, reason=MoveReason.USE).values_list("part_id").annotate(Max("happened_at"))
    )
    since = now - timedelta(weeks=weeks)
    came = set(
        Movement.objects.filter(target=place, happened_at__gte=since).filter(
            ~Q(reason=MoveReason.COUNT)
        ).values_list("part_id", flat=True)
    )  # fmt: skip
    by_day: defaultdict[str, defaultdict[date, int]] = defaultdict(lambda: defaultdict(int))
    for draw in vans.reserved.draws:
        if draw.place == place.pk:
            by_day[draw.part][draw.day] += draw.quantity
    found = []
    for level in levels:
        reserved = vans.reserved.at(place.pk, level.part.code)
        last = used.get(level.part_id)
        unused = level.quantity > 0 and reserved == 0 and (last is None or last < since) and level.part_id not in came
        found.append(
            OnVan(level=level, reserved=reserved, by_day=dict(by_day[level.part.code]), last_used=last, leave=unused)
        )
    return found
