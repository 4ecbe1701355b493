"""Wire shapes of the phone."""

from datetime import UTC, date, datetime
from typing import Annotated, Any, Literal, Self
from uuid import UUID

from ninja import Field, Schema

from apps.daylogs.schemas import DayLogOut, EarlierDayOut, VehicleChoiceOut
from apps.field.inputs import SentDeed
from apps.field.models import FieldDeed
from apps.orders.inputs import Base, Deed
from apps.orders.schemas import VisitDetailOut, VisitOut
from apps.people.models import DaysAsked
from apps.reports.schemas import LatelyOut, ReaderOut, ReportOut, SentReportOut
from apps.stock.models import Part
from apps.supply.models import PartRequest
from core.basics import Place
from core.field import Choice, Outcome, is_late
from core.orders import Stand, Step, VisitState, transition
from core.stock import Tracking
from foundation.moments import Moment, to_datetime, to_moment
from foundation.schemas import Text


class WhereIn(Schema):
    lon: float = Field(ge=-180, le=180)
    lat: float = Field(ge=-90, le=90)
    accuracy_metres: float | None = Field(None, ge=0, le=10_000_000)


class BaseIn(Schema):
    """The visit as it was seen: its state, and when it was to begin."""

    state: VisitState
    start: Moment | None = None


class DaysAskedIn(Schema):
    """Whole days off. `words`: what the desk should know."""

    first_day: date = Field(ge=date(2001, 1, 1), le=date(2099, 12, 1))
    last_day: date = Field(ge=date(2001, 1, 1), le=date(2099, 12, 1))
    kind: Literal["holiday", "sickness", "training", "other"]
    words: Text = Field("", max_length=300)


class DaysAskedOut(Schema):
    id: int
    first_day: date
    last_day: date
    kind: str
    words: str
    state: Literal["asked", "granted", "declined", "withdrawn", "taken back"]
    answered_by: str
    answer: str

    @staticmethod
    def resolve_state(row: DaysAsked) -> str:
        """An absence that was removed was taken back."""
        return "taken back" if row.state == "granted" and row.absence_id is None else row.state


class AllowanceOut(Schema):
    """Working days of holiday; `days` null: nobody counts them."""

    year: int
    days: int | None
    taken: int


class DaysOffOut(Schema):
    allowance: AllowanceOut
    asked: list[DaysAskedOut]


class FieldStepIn(Schema):
    """`key` is made on the phone: sent twice under the same one, it is done once. `happened_at`: when it was done, if
    that is not now. `based_on`: the visit as it was seen; then `version` can be left out, and what else was
    changed meanwhile does not stand in the way.
    """

    version: int | None = Field(None, ge=1, le=2**31 - 1)
    step: Step
    note: Text = Field("", max_length=2000)
    where: WhereIn | None = None
    key: UUID | None = None
    happened_at: Moment | None = None
    based_on: BaseIn | None = None

    def deed(self) -> Deed:
        where = self.where
        return Deed(
            key=self.key, based_on=Base(**self.based_on.dict()) if self.based_on else None,
            happened_at=to_datetime(self.happened_at) if self.happened_at is not None else None,
            where=Place(where.lon, where.lat) if where else None,
            accuracy_metres=where.accuracy_metres if where else None,
        )  # fmt: skip


class AheadOut(Schema):
    """A step that may be taken, and where it leads: the number of a stand."""

    step: Step
    needs_note: bool
    to: int


class StandOut(Schema):
    state: VisitState
    actions: list[AheadOut]

    @classmethod
    def of(cls, stand: Stand) -> Self:
        return cls(
            state=stand.state,
            actions=[AheadOut(step=step, needs_note=transition(step).needs_note, to=to) for step, to in stand.steps],
        )


class KnownPartOut(Schema):
    """A part of the catalogue, as it is found on the phone: by its name, number, or what its label says."""

    code: str
    name: str
    number: str
    barcode: str
    unit: str
    tracking: Tracking

    @classmethod
    def of(cls, row: Part) -> Self:
        return cls(
            code=row.code, name=row.name, number=row.number or "", barcode=row.barcode, unit=row.unit,
            tracking=Tracking(row.tracking),
        )  # fmt: skip


class OwnVanOut(Schema):
    """What lies on the own van. `serials`: the pieces, of a part that has numbers."""

    code: str
    name: str
    quantity: int
    unit: str
    shelf: str
    serials: list[str]


class KnownItemOut(Schema):
    """An item of the price list, as something that may be charged."""

    key: str
    words: str
    unit: str


class AskedPartOut(Schema):
    """A part that was asked for from a visit, and what became of it."""

    code: str
    part: str
    quantity: int
    needed_by: int | None
    must: bool
    state: str
    answer: str

    @classmethod
    def of(cls, row: PartRequest) -> Self:
        return cls(
            code=row.part.code,
            part=row.part.name,
            quantity=row.quantity,
            needed_by=to_moment(row.needed_by),
            must=row.must,
            state=row.state,
            answer=row.answer,
        )


class FieldVisitOut(VisitDetailOut):
    """A visit as the phone shows it. `ahead`: what may follow, the present stand first. `known`: names of what this
    technician's phones have told of it, so that nothing is counted twice."""

    ahead: list[StandOut]
    report: ReportOut
    lately: list[LatelyOut]
    asked: list[AskedPartOut]
    sent: list[SentReportOut]
    readers: list[ReaderOut]
    known: list[UUID]


class FieldRowOut(VisitOut):
    """A visit of the day. `ahead` as for a whole visit; `known`: keys of what happened that the server knows of."""

    ahead: list[StandOut]
    known: list[UUID]


class FieldDayOut(Schema):
    technician_id: int
    day: date
    visits: list[FieldRowOut]


class FieldLogOut(DayLogOut):
    """One's own day as the phone shows it. `vehicles`: what may be driven; `earlier`: days before, of which something
    is still asked; `known` as for a visit."""

    vehicles: list[VehicleChoiceOut]
    earlier: list[EarlierDayOut]
    known: list[UUID]


class KnownIn(Schema):
    """What this phone has taken along already: marks by name."""

    phone: UUID
    known: dict[str, Annotated[str, Field(max_length=40)]] = Field(default_factory=dict, max_length=2000)


class AlongOut(Schema):
    """One thing to take along; `content` as the address of its kind would answer."""

    name: str
    mark: str
    content: FieldDayOut | FieldVisitOut


class TakenAlongOut(Schema):
    """`names` are all things that are to be on the phone, `news` those that are new there or have changed."""

    names: list[str]
    news: list[AlongOut]


class PhoneIn(Schema):
    """`id` is made on the phone, and stays the same on it for this person."""

    id: UUID
    name: Text = Field(min_length=1, max_length=80)


class PhoneKeyOut(Schema):
    """`key`: what the phone's store is sealed with, base64. `now`: the server's clock, milliseconds."""

    id: UUID
    key: str
    now: int


class PhoneStandOut(Schema):
    """Whether what a phone keeps may still be read on it."""

    open: bool


class PieceOut(Schema):
    """How many bytes of the picture are here."""

    length: int


class PhoneOut(Schema):
    """A phone somebody has signed in on."""

    id: UUID
    name: str
    seen_at: Moment
    signed_out_at: Moment | None
    signed_out_by: str

    @staticmethod
    def resolve_seen_at(row: Any) -> int | None:
        return to_moment(row.seen_at)

    @staticmethod
    def resolve_signed_out_at(row: Any) -> int | None:
        return to_moment(row.signed_out_at)


# Since the epoch. A phone's own clock may say anything.
Milliseconds = Annotated[int, Field(ge=-(2**62), le=2**62)]
MOST_DEEDS = 100
_EARLIEST, _LATEST = 946_684_800_000, 4_102_444_800_000


def _from_milliseconds(moment: int) -> datetime:
    return datetime.fromtimestamp(min(_LATEST, max(_EARLIEST, moment)) // 1000, UTC)


class DeedIn(Schema):
    """See apps.field.models.FieldDeed. `device_at` and `happened_at` in milliseconds; out of reach, they are brought
    into it: what was done is not lost over a wrong clock."""

    id: UUID
    number: int = Field(ge=1, le=2**31 - 1)
    previous: UUID | None = None
    kind: Text = Field(min_length=1, max_length=20)
    visit_id: int | None = Field(None, ge=1, le=2**62)
    body: dict[str, Any] = Field(default_factory=dict)
    based_on: BaseIn | None = None
    device_at: Milliseconds
    happened_at: Milliseconds
    where: WhereIn | None = None

    def sent(self) -> SentDeed:
        where = self.where
        return SentDeed(
            id=self.id, number=self.number, previous=self.previous, kind=self.kind, visit_id=self.visit_id,
            body=self.body, based_on=Base(**self.based_on.dict()) if self.based_on else None,
            happened_at=_from_milliseconds(self.happened_at), device_at=_from_milliseconds(self.device_at),
            where=Place(where.lon, where.lat) if where else None,
            accuracy_metres=where.accuracy_metres if where else None,
        )  # fmt: skip


class DeedsIn(Schema):
    phone: UUID
    deeds: list[DeedIn] = Field(min_length=1, max_length=MOST_DEEDS)


class DeedAnswerOut(Schema):
    id: UUID
    outcome: Literal["applied", "refused", "waiting", "again", "kept"]
    sentence: str
    missing: UUID | None


class DeedsOut(Schema):
    """`now`: the server's clock, milliseconds."""

    now: int
    answers: list[DeedAnswerOut]


def for_the_office(kind: str, body: dict[str, Any]) -> dict[str, Any]:
    """What the office reads of a deed: a note that somebody wrote for themselves it does not."""
    return body | {"text": ""} if kind == "note" and body.get("reader") == "self" else body


class WaitingDeedOut(Schema):
    """Both sides of what contradicts: `told` from the field, and `now` in the records."""

    id: UUID
    visit_id: int | None
    order_id: int | None
    label: str
    technician_id: int
    technician: str
    kind: str
    body: dict[str, Any]
    sentence: str
    saw: BaseIn | None
    state: VisitState | None
    whose: str
    start: Moment | None
    happened_at: Moment
    received_at: Moment
    late: bool

    @classmethod
    def of(cls, row: FieldDeed) -> Self:
        visit = row.visit
        happened, received = int(row.happened_at.timestamp()), int(row.received_at.timestamp())
        return cls(
            id=row.pk, visit_id=row.visit_id, order_id=visit.order_id if visit else None,
            label=f"{visit.order.number} {visit.order.site.name}" if visit else "the day",
            technician_id=row.technician_id, technician=row.technician.name, kind=row.kind,
            body=for_the_office(row.kind, row.body),
            sentence=row.sentence, saw=BaseIn(**row.based_on) if row.based_on else None,
            state=VisitState(visit.state) if visit else None,
            whose=visit.technician.name if visit and visit.technician else "",
            start=to_moment(visit.start) if visit else None,
            happened_at=happened, received_at=received, late=is_late(happened, received),
        )  # fmt: skip


class DeedChoiceIn(Schema):
    choice: Choice
    words: Text = Field("", max_length=300)


class DeedChoiceOut(Schema):
    id: UUID
    outcome: Outcome
    choice: str
    sentence: str
