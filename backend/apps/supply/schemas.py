"""Wire shapes of supply: figures, tonight, ways, requests, claims, loans."""

from datetime import date
from typing import Annotated, Literal, Self
from uuid import UUID

from ninja import Field, Schema

from apps.stock.models import Level
from apps.supply.inputs import Asked, CameOut, LoanFields, Picked, Settled
from apps.supply.levels import Coming, Figures, PartRow
from apps.supply.models import Claim, Loan, PartRequest
from apps.supply.queries import Holder
from apps.supply.tonight import OnVan, VanOfDay
from core.stock import MOST, PlaceKind, Tracking
from core.supply import Way, WayKind
from foundation.moments import Moment, to_datetime, to_moment
from foundation.named.api import Code
from foundation.schemas import Answer, Text

Version = Annotated[int, Field(ge=1, le=2**31 - 1)]
Quantity = Annotated[int, Field(ge=1, le=MOST)]
Id = Annotated[int, Field(ge=1, le=2**62)]
OptionalId = Annotated[int, Field(ge=1, le=2**62)] | None
Serials = Annotated[list[Annotated[Text, Field(min_length=1, max_length=60)]], Field(max_length=200)]


class ComingOut(Answer):
    """So many that are ordered, expected on a day (None: nobody knows)."""

    quantity: int
    expected_on: date | None
    order_id: int
    number: str

    @classmethod
    def of(cls, row: Coming) -> Self:
        return cls(quantity=row.quantity, expected_on=row.expected_on, order_id=row.order_id, number=row.number)


class FiguresOut(Answer):
    """On hand, spoken for, free, coming."""

    on_hand: int
    reserved: int
    free: int
    coming: list[ComingOut]

    @classmethod
    def of(cls, row: Figures) -> Self:
        return cls(
            on_hand=row.on_hand, reserved=row.reserved, free=row.free,
            coming=[ComingOut.of(one) for one in row.coming],
        )  # fmt: skip


class PartLineOut(Answer):
    """A part of the list with its figures over all depots and vans; `below`: at how many places it is below its least
    level. `cost` only for who may see what things cost us."""

    code: str
    number: str
    name: str
    unit: str
    supplier_id: int | None
    supplier: str
    tracking: Tracking
    hazardous: bool
    oversized: bool
    retired: bool
    untidy: bool
    photo_id: int | None
    cost: int | None
    price: int | None
    figures: FiguresOut
    below: int

    @classmethod
    def of(cls, row: PartRow, *, sees_costs: bool) -> Self:
        part = row.part
        plain = ("code", "name", "unit", "supplier_id", "tracking", "hazardous", "oversized", "retired", "untidy",
                 "photo_id")  # fmt: skip
        return cls(
            **{name: getattr(part, name) for name in plain}, number=part.number or "",
            supplier=part.supplier.name if part.supplier else "", cost=part.cost if sees_costs else None,
            price=part.item.price if part.item else None, figures=FiguresOut.of(row.figures), below=row.below,
        )  # fmt: skip


class PartListOut(Answer):
    """A page of the list; `total`: how many there are altogether."""

    rows: list[PartLineOut]
    next: str | None
    total: int


class LevelOut(Answer):
    """A part at a place. `by_hand`: somebody set least and target, so nothing proposes others."""

    place_id: int
    place: str
    kind: PlaceKind
    code: str
    part: str
    number: str
    tracking: Tracking
    shelf: str
    least: int | None
    target: int | None
    by_hand: bool
    version: int
    figures: FiguresOut

    @classmethod
    def of(cls, row: Level, figures: Figures) -> Self:
        return cls(
            place_id=row.place_id, place=row.place.name, kind=row.place.what, code=row.part.code, part=row.part.name,
            number=row.part.number or "", tracking=Tracking(row.part.tracking), shelf=row.shelf, least=row.least,
            target=row.target, by_hand=row.by_hand, version=row.version, figures=FiguresOut.of(figures),
        )  # fmt: skip


class ThresholdOut(Answer):
    """Least and target as a year's use proposes them, and what they are now."""

    code: str
    part: str
    used: int
    least: int | None
    target: int | None
    proposed_least: int
    proposed_target: int
    by_hand: bool


class OnVanOut(Answer):
    """A part on a van or in a depot against the next days: `by_day` counts what is taken on each. `leave`: it is
    proposed to be left at the depot."""

    level: LevelOut
    by_day: dict[str, int]
    last_used: int | None
    leave: bool

    @classmethod
    def of(cls, row: OnVan, figures: Figures) -> Self:
        return cls(
            level=LevelOut.of(row.level, figures), leave=row.leave, last_used=to_moment(row.last_used),
            by_day={day.isoformat(): count for day, count in row.by_day.items()},
        )  # fmt: skip


class PlaceOut(Answer):
    """A place with what lies there, and what it is worth (None: for who may not see costs)."""

    id: int
    kind: PlaceKind
    name: str
    technician_id: int | None
    technician: str
    rows: list[OnVanOut]
    value: int | None


class NeedOut(Answer):
    """What a visit takes of a part."""

    visit_id: int
    version: int
    order_id: int
    label: str
    site: str
    start: int | None
    quantity: int
    van: int
    depot: int
    missing: int


class PartOfDayOut(Answer):
    code: str
    part: str
    quantity: int
    van: int
    depot: int
    missing: int
    visits: list[NeedOut]


class PickOut(Answer):
    """So many of a part to be taken from a shelf; `lies`: how many lie there."""

    code: str
    part: str
    number: str
    barcode: str
    tracking: Tracking
    quantity: int
    shelf: str
    lies: int
    transfer_id: int | None
    note: str


class TransferOut(Answer):
    """Parts promised from one place to another, there at a moment."""

    id: int
    version: int
    code: str
    part: str
    quantity: int
    source: str
    at: int
    errand_id: int | None
    note: str


class VanOfDayOut(Answer):
    """Somebody's van on a day. Not `counted`: nobody counts it, and it is trusted. `depot`: where parts are picked
    before the shift; empty: nowhere."""

    technician_id: int
    technician: str
    van_id: int | None
    van: str
    counted: bool
    depot_id: int | None
    depot: str
    starts: int | None
    missing: int
    parts: list[PartOfDayOut]
    picks: list[PickOut]
    coming: list[TransferOut]

    @classmethod
    def of(cls, row: VanOfDay) -> Self:
        return cls(
            technician_id=row.person.id, technician=row.person.name, van_id=row.van.pk if row.van else None,
            van=row.van.name if row.van else "", counted=row.counted, depot_id=row.depot.pk if row.depot else None,
            depot=row.depot.name if row.depot else "",
            starts=row.person.shift.hours.start if row.person.shift else None, missing=row.missing,
            parts=[
                PartOfDayOut(
                    code=one.part.code, part=one.part.name, quantity=one.quantity, van=one.van, depot=one.depot,
                    missing=one.missing,
                    visits=[
                        NeedOut(
                            visit_id=need.visit.id, version=need.visit.version, order_id=need.visit.order_id,
                            label=need.visit.number, site=need.visit.site, start=need.visit.start,
                            quantity=need.quantity, van=need.van, depot=need.depot, missing=need.missing,
                        )
                        for need in one.visits
                    ],
                )
                for one in row.parts
            ],
            picks=[
                PickOut(
                    code=pick.part.code, part=pick.part.name, number=pick.part.number or "",
                    barcode=pick.part.barcode, tracking=Tracking(pick.part.tracking), quantity=pick.quantity,
                    shelf=pick.shelf, lies=pick.lies, transfer_id=pick.transfer_id, note=pick.note,
                )
                for pick in row.picks
            ],
            coming=[
                TransferOut(
                    id=one.pk, version=one.version, code=one.part.code, part=one.part.name, quantity=one.quantity,
                    source=one.source.name, at=to_moment(one.at) or 0, errand_id=one.errand_id, note=one.note,
                )
                for one in row.coming
            ],
        )  # fmt: skip


class PartWayOut(Answer):
    """A way to get a missing part; see core.supply.Way. `money` in smallest units, only for who may see costs."""

    kind: WayKind
    key: str
    part: str
    quantity: int
    words: str
    start: int | None
    seconds: int
    money: int | None
    in_time: bool
    reasons: list[str]

    @classmethod
    def of(cls, row: Way, *, sees_costs: bool) -> Self:
        return cls(
            kind=row.kind, key=row.key, part=row.part, quantity=row.quantity, words=row.words, start=row.start,
            seconds=row.seconds, money=row.money if sees_costs else None, in_time=row.in_time,
            reasons=list(row.reasons),
        )  # fmt: skip


class TakeWayIn(Schema):
    """The way to take, by its key, for a part that a visit lacks."""

    visit_id: Id
    version: Version
    part: Code
    key: Text = Field(max_length=300)


class WayTakenOut(Answer):
    """What was done, and the stop at which it is fetched, if there is one."""

    words: str
    errand_id: int | None


class PickedIn(Schema):
    code: Code
    quantity: Quantity
    serials: Serials = Field(default_factory=list)
    batch: Text = Field("", max_length=40)
    transfer_id: OptionalId = None

    def row(self) -> Picked:
        return Picked(**self.dict())


class PickIn(Schema):
    """What was picked for somebody's day. `key`: sent again, nothing is booked twice."""

    technician_id: Id
    day: date
    picked: list[PickedIn] = Field(min_length=1, max_length=300)
    key: UUID | None = None


class LeaveIn(Schema):
    codes: list[Code] = Field(min_length=1, max_length=500)


class AcceptThresholdsIn(Schema):
    """Which proposals are taken, by code of the part."""

    codes: list[Code] = Field(min_length=1, max_length=2000)


class PartRequestOut(Answer):
    """A part that somebody asks for, and what became of it."""

    id: int
    version: int
    code: str
    part: str
    quantity: int
    tracking: Tracking
    technician_id: int
    technician: str
    visit_id: int | None
    order_id: int | None
    visit: str
    needed_by: int | None
    must: bool
    substitute_allowed: bool
    words: str
    state: str
    answer: str
    source: str
    expected_on: date | None
    purchase_id: int | None
    asked_at: int
    asked_by: str

    @classmethod
    def of(cls, row: PartRequest) -> Self:
        return cls(
            id=row.pk, version=row.version, code=row.part.code, part=row.part.name, quantity=row.quantity,
            tracking=Tracking(row.part.tracking), technician_id=row.technician_id, technician=row.technician.name,
            visit_id=row.visit_id,
            order_id=row.visit.order_id if row.visit else None, visit=row.visit.label if row.visit else "",
            needed_by=to_moment(row.needed_by), must=row.must, substitute_allowed=row.substitute_allowed,
            words=row.words, state=row.state, answer=row.answer,
            source=row.transfer.source.name if row.transfer else "",
            expected_on=row.line.order.expected_on if row.line else None,
            purchase_id=row.line.order_id if row.line else None, asked_at=to_moment(row.asked_at) or 0,
            asked_by=row.asked_by,
        )  # fmt: skip


class AskPartIn(Schema):
    """A part that is asked for: by when, whether the work cannot be done without it, for which visit."""

    code: Code
    quantity: Quantity = 1
    technician_id: Id
    visit_id: OptionalId = None
    needed_by: Moment | None = None
    must: bool = True
    substitute_allowed: bool = False
    words: Text = Field("", max_length=300)

    def asked(self) -> Asked:
        values = self.dict(exclude={"needed_by"})
        return Asked(**values, needed_by=to_datetime(self.needed_by) if self.needed_by else None)


class SeenIn(Schema):
    version: Version


class HandOverIn(SeenIn):
    """Which pieces, of a part that has numbers or batches."""

    serials: Serials = Field(default_factory=list)
    batch: Text = Field("", max_length=40)


class PromisePartIn(SeenIn):
    """From where, and when it is there."""

    place_id: Id
    at: Moment


class RefusePartIn(SeenIn):
    because: Text = Field(max_length=300)


class HolderOut(Answer):
    """Who has a part free: how many, and how far away by road at the moment (None: nobody knows where they are)."""

    place_id: int
    place: str
    technician: str
    free: int
    seconds: int | None
    substitute: str

    @classmethod
    def of(cls, row: Holder) -> Self:
        return cls(
            place_id=row.place.pk,
            place=row.place.name,
            technician=row.technician,
            free=row.free,
            seconds=row.seconds,
            substitute=row.substitute,
        )


class ClaimOut(Answer):
    """A defective part on its way to the supplier and back."""

    id: int
    version: int
    code: str
    part: str
    quantity: int
    serial: str
    supplier: str
    asset: str
    because: str
    state: str
    supplier_says: str
    credit: int | None
    warranty_until: date | None
    made_at: int
    made_by: str
    sent_at: int | None
    ended_at: int | None

    @classmethod
    def of(cls, row: Claim) -> Self:
        plain = ("version", "quantity", "serial", "because", "state", "supplier_says", "credit", "warranty_until",
                 "made_by")  # fmt: skip
        return cls(
            id=row.pk, code=row.part.code, part=row.part.name, supplier=row.supplier.name,
            asset=row.asset.words if row.asset else "", made_at=to_moment(row.made_at) or 0,
            sent_at=to_moment(row.sent_at), ended_at=to_moment(row.ended_at),
            **{name: getattr(row, name) for name in plain},
        )  # fmt: skip


class CameOutIn(Schema):
    """A part that was removed at a site, or turned out defective on a van or in a depot."""

    code: Code
    quantity: Quantity = 1
    because: Text = Field(max_length=200)
    what: Literal["kept", "defective", "thrown away"]
    site_id: OptionalId = None
    asset_id: OptionalId = None
    place_id: OptionalId = None
    to_place_id: OptionalId = None
    visit_id: OptionalId = None
    serial: Text = Field("", max_length=60)
    batch: Text = Field("", max_length=40)

    def out(self) -> CameOut:
        return CameOut(**self.dict())


class SettleIn(SeenIn):
    """What the supplier answered."""

    state: Literal["credited", "replaced", "refused"]
    says: Text = Field("", max_length=200)
    credit: int | None = Field(None, ge=1, le=10**13)
    place_id: OptionalId = None
    serials: Serials = Field(default_factory=list)

    def how(self) -> Settled:
        return Settled(
            state=self.state, says=self.says, credit=self.credit, place_id=self.place_id, serials=tuple(self.serials)
        )


class LoanOut(Answer):
    """Something lent, to whom, until when. `overdue`: it was due before today."""

    id: int
    version: int
    what: str
    code: str
    asset_id: int | None
    whom: str
    site_id: int | None
    technician_id: int | None
    source: str
    lent_at: int
    lent_by: str
    due: date
    overdue: bool
    calibrated_until: date | None
    note: str
    reminded_at: int | None
    fetch_order_id: int | None
    fetch: str
    returned_at: int | None

    @classmethod
    def of(cls, row: Loan, *, what: str, whom: str, today: date) -> Self:
        return cls(
            id=row.pk, version=row.version, what=what, code=row.part.code if row.part else "", asset_id=row.asset_id,
            whom=whom, site_id=row.site_id, technician_id=row.technician_id,
            source=row.source.name if row.source else "", lent_at=to_moment(row.lent_at) or 0, lent_by=row.lent_by,
            due=row.due, overdue=row.returned_at is None and row.due < today, calibrated_until=row.calibrated_until,
            note=row.note, reminded_at=to_moment(row.reminded_at),
            fetch_order_id=row.fetch.order_id if row.fetch else None, fetch=row.fetch.label if row.fetch else "",
            returned_at=to_moment(row.returned_at),
        )  # fmt: skip


class LendIn(Schema):
    """What is lent, from where, to whom, until when."""

    due: date
    code: Text = Field("", max_length=40)
    asset_id: OptionalId = None
    quantity: Quantity = 1
    serial: Text = Field("", max_length=60)
    source_id: OptionalId = None
    site_id: OptionalId = None
    technician_id: OptionalId = None
    calibrated_until: date | None = None
    note: Text = Field("", max_length=200)

    def fields(self) -> LoanFields:
        return LoanFields(**self.dict())


class BackIn(SeenIn):
    """Where it was put; left out: where it came from."""

    place_id: OptionalId = None


class DueIn(SeenIn):
    due: date


class PressingOut(Answer):
    """Something about stock that somebody should look at now. `key` stays the same as long as it does."""

    key: str
    label: str
    sentence: str
    order_id: int | None
    place_id: int | None


class SupplyCountsOut(Answer):
    """What waits in each part of supply: missing parts of the next working day, requests without an answer, orders
    that are late, proposals, loans overdue, claims at hand, levels below their least."""

    day: date
    missing: int
    asked: int
    late: int
    proposals: int
    overdue: int
    aside: int
    below: int
