"""A year's books in memory: every movement is written down, and levels are what they come to."""

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime, time

import numpy as np
from dateutil.relativedelta import relativedelta

from apps.company.models import Depot
from apps.customers.models import Site
from apps.orders.models import Visit
from apps.people.models import Technician
from apps.stock.models import Fitted, Level, Lot, Movement, Part, Piece, StockPlace, Supplier
from core.calendars import epoch
from core.stock import COUNTED, PlaceKind, proposed
from demo.world.week import Week
from foundation.moments import to_datetime

STOREKEEPERS = ("Milo Tarn", "Dora Quill", "Ada Reyne")


@dataclass
class Books:
    """Places by whose they are, levels by place and part, and the movements so far in the order of their time."""

    parts: dict[str, Part]
    depots: dict[int, StockPlace]
    vans: dict[int, StockPlace]
    suppliers: dict[int, StockPlace]
    nobodys: dict[str, StockPlace]
    depot_of: dict[int, int]
    dice: np.random.Generator
    sites: dict[int, StockPlace] = field(default_factory=dict)
    levels: Counter[tuple[int, int]] = field(default_factory=Counter)
    lots: Counter[tuple[int, int, str]] = field(default_factory=Counter)
    pieces: dict[tuple[int, int], list[str]] = field(default_factory=lambda: defaultdict(list))
    batch_of: dict[tuple[int, str], str] = field(default_factory=dict)
    used: Counter[tuple[int, int]] = field(default_factory=Counter)
    rows: list[Movement] = field(default_factory=list)
    fitted: list[Fitted] = field(default_factory=list)

    @classmethod
    def opened(cls, week: Week) -> "Books":
        people = week.people.technicians
        return cls(
            parts={row.code: row for row in Part.objects.select_related("supplier").filter(untidy=False)},
            depots={row.pk: _place(PlaceKind.DEPOT, depot=row) for row in Depot.objects.order_by("pk")},
            vans={row.pk: _place(PlaceKind.VAN, vehicle=row.vehicle) for row in people},
            suppliers={row.pk: _place(PlaceKind.SUPPLIER, supplier=row) for row in Supplier.objects.order_by("pk")},
            nobodys={
                kind.value: _place(kind)
                for kind in (PlaceKind.ASIDE, PlaceKind.SCRAP, PlaceKind.DIFFERENCE, PlaceKind.TRANSIT)
            },
            depot_of={row.pk: row.depot_id for row in people}, dice=np.random.default_rng(1716),
        )  # fmt: skip

    def site(self, site: Site) -> StockPlace:
        if site.pk not in self.sites:
            self.sites[site.pk] = _place(PlaceKind.SITE, site=site)
        return self.sites[site.pk]

    def at(self, place: StockPlace, part: Part) -> int:
        return self.levels[place.pk, part.pk]

    def move(
        self, part: Part, quantity: int, source: StockPlace, target: StockPlace, reason: str, moment: datetime, *,
        visit: Visit | None = None, note: str = "",
    ) -> list[Movement]:  # fmt: skip
        """Write down a movement; of a part kept by batch one for each batch."""
        by = STOREKEEPERS[len(self.rows) % len(STOREKEEPERS)]
        if visit is not None and visit.technician is not None:
            by = visit.technician.name
        made = [
            Movement(
                part=part, quantity=number, source=source, target=target, reason=reason, serials=serials, batch=batch,
                unit_cost=part.cost, happened_at=moment, recorded_at=moment, actor_name=by, visit=visit, note=note,
            )
            for number, serials, batch in self._pieces(part, quantity, source, target)
        ]  # fmt: skip
        self.rows += made
        for place, sign in ((source, -1), (target, 1)):
            if PlaceKind(place.kind) in COUNTED:
                self.levels[place.pk, part.pk] += sign * quantity
        return made

    def _pieces(
        self, part: Part, quantity: int, source: StockPlace, target: StockPlace
    ) -> Sequence[tuple[int, list[str], str]]:  # fmt: skip
        counted = PlaceKind(source.kind) in COUNTED
        if part.tracking == "serial number":
            own = self.pieces[source.pk, part.pk]
            batch = str(5 + len(self.rows) % 4)
            serials = own[:quantity] if counted else [self._serial(part, batch) for _ in range(quantity)]
            self.pieces[source.pk, part.pk] = own[quantity:] if counted else own
            self.pieces[target.pk, part.pk] += serials
            return [(len(serials), serials, "" if counted else batch)]
        if part.tracking == "batch":
            return self._batches(part, quantity, source, target, counted=counted)
        return [(quantity, [], "")]

    def _serial(self, part: Part, batch: str) -> str:
        serial = f"{part.code[:2].upper()}{part.pk}-{int(self.dice.integers(10_000, 99_999))}-{len(self.batch_of)}"
        self.batch_of[part.pk, serial] = batch
        return serial

    def _batches(
        self, part: Part, quantity: int, source: StockPlace, target: StockPlace, *, counted: bool
    ) -> Sequence[tuple[int, list[str], str]]:  # fmt: skip
        found: list[tuple[int, list[str], str]] = []
        if not counted:
            found.append((quantity, [], f"{part.code[:3].upper()}-{len(self.rows) % 9 + 1}"))
        left = 0 if not counted else quantity
        for (place, key, batch), number in sorted(self.lots.items()):
            if left and (place, key) == (source.pk, part.pk) and number > 0:
                taken = min(left, number)
                found.append((taken, [], batch))
                left -= taken
        for number, _none, batch in found:
            self.lots[source.pk, part.pk, batch] -= number if counted else 0
            self.lots[target.pk, part.pk, batch] += number
        return found

    # --- ways that happen again and again -----------------------------------------------------------------

    def deliver(self, depot: StockPlace, part: Part, quantity: int, moment: datetime) -> None:
        """The supplier brings it."""
        supplier = self.suppliers[part.supplier_id or next(iter(self.suppliers))]
        self.move(part, quantity, supplier, depot, "receipt", moment)

    def load(self, technician: Technician, part: Part, quantity: int, moment: datetime) -> None:
        """From the technician's depot onto the van; what the depot does not have has been delivered before."""
        depot = self.depots[self.depot_of[technician.pk]]
        if self.at(depot, part) < quantity:
            self.deliver(depot, part, max(10, 4 * quantity), moment)
        self.move(part, quantity, depot, self.vans[technician.pk], "transfer", moment)

    def use(self, visit: Visit, part: Part, quantity: int) -> None:
        """Built in at a visit, from the van."""
        technician, at = visit.technician, visit.finished_at
        assert technician is not None
        assert at is not None
        van = self.vans[technician.pk]
        if (lacking := quantity - self.at(van, part)) > 0:
            self.load(technician, part, lacking + 2, visit.departed_at or at)
        for row in self.move(part, quantity, van, self.site(visit.order.site), "use", at, visit=visit):
            self.used[van.pk, part.pk] += row.quantity
            self._fit(row, visit)

    def _fit(self, row: Movement, visit: Visit) -> None:
        months = row.part.warranty_months or 12
        self.fitted += [
            Fitted(
                part=row.part, quantity=quantity, serial=serial, site_id=visit.order.site_id, visit=visit,
                batch=row.batch or self.batch_of.get((row.part_id, serial), ""), asset_id=visit.order.asset_id,
                since=row.happened_at, warranty_until=row.happened_at.date() + relativedelta(months=months),
            )
            for serial, quantity in ([(serial, 1) for serial in row.serials] or [("", row.quantity)])
        ]  # fmt: skip

    # --- the end --------------------------------------------------------------------------------------------

    def close(self) -> None:
        """Write everything: levels are what the movements come to."""
        self.rows.sort(key=lambda row: row.happened_at)
        Movement.objects.bulk_create(self.rows, batch_size=2000)
        Fitted.objects.bulk_create(self.fitted, batch_size=1000)
        kept = {key for key, number in self.levels.items() if number} | set(self.used)
        Level.objects.bulk_create(self._levels(kept), batch_size=1000)
        Lot.objects.bulk_create(
            Lot(place_id=place, part_id=part, batch=batch, quantity=number)
            for (place, part, batch), number in self.lots.items()
            if number and batch and place in {row.pk for row in (*self.depots.values(), *self.vans.values())}
        )
        Piece.objects.bulk_create(
            Piece(part_id=part, serial=serial, batch=self.batch_of.get((part, serial), ""), place_id=place)
            for (place, part), serials in self.pieces.items()
            for serial in serials
        )

    def _levels(self, kept: set[tuple[int, int]]) -> list[Level]:
        parts = {row.pk: row for row in self.parts.values()}
        depots = {row.pk for row in self.depots.values()}
        out = Counter(
            {
                (place, part): number
                for (place, part), number in Counter(
                    (row.source_id, row.part_id) for row in self.rows for _ in range(row.quantity)
                ).items()
                if place in depots
            }
        )
        found = []
        for place, part in sorted(kept):
            supplier = parts[part].supplier
            days = supplier.days if supplier else 3
            used = out[place, part] if place in depots else self.used[place, part]
            level = proposed(used=used, supplier_days=days if place in depots else 1, covered=14)
            wanted = level.target > 0
            found.append(
                Level(
                    place_id=place, part_id=part, quantity=self.levels[place, part],
                    shelf=_shelf(part) if place in depots else "", least=level.least if wanted else None,
                    target=level.target if wanted else None,
                )
            )  # fmt: skip
        return found


def _place(kind: PlaceKind, **of: object) -> StockPlace:
    return StockPlace.objects.create(kind=kind, **of)


def _shelf(part_id: int) -> str:
    return f"{'ABCDEFGH'[part_id // 48 % 8]}-{part_id // 6 % 8 + 1:02d}-{part_id % 6 + 1}"


def moment(week: Week, back: int, hour: float) -> datetime:
    """An hour of a working day so many working days ago."""
    day = np.busday_offset(week.today, -back).astype("datetime64[D]").item()
    return to_datetime(epoch(day, _clock(hour), week.tz))


def _clock(hour: float) -> time:
    return time(int(hour), round(hour % 1 * 60))
