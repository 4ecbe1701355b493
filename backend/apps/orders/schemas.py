"""Wire shapes of orders."""

from typing import Annotated, Any, Self
from uuid import UUID

from ninja import Field, Schema

from apps.intake.schemas import MAX_DURATION, Needs, PromiseIn, PromiseOut
from apps.orders.amounts import has_prices
from apps.orders.inputs import VisitFields
from apps.orders.lines import VisitLine, line_of
from apps.orders.models import Assignment, Visit, VisitEvent, WorkOrder
from core.orders import Step, VisitState, is_movable, transition
from foundation.models import AuditEntry
from foundation.moments import Moment, to_datetime, to_moment
from foundation.schemas import Text

Parts = dict[Annotated[Text, Field(min_length=1, max_length=80)], Annotated[int, Field(ge=1, le=1000)]]
Version = Field(ge=1, le=2**31 - 1)


class OrderIn(Schema):
    request_id: int = Field(ge=1, le=2**62)
    version: int = Version


class OrderOut(Schema):
    id: int
    number: str
    title: str
    visit_ids: list[int]

    @classmethod
    def of(cls, order: WorkOrder) -> Self:
        visits = [visit.pk for visit in order.visits.order_by("id")]
        return cls(id=order.pk, number=order.number, title=order.title, visit_ids=visits)


class VersionIn(Schema):
    """The version that was seen: of whatever is changed, always in the body."""

    version: int = Version


class VisitOut(Schema):
    """A visit as a line of a list. Times are epoch seconds; `takes` are parts from the van, `worth` whole money."""

    id: int
    version: int
    number: str
    state: VisitState
    # Whether it can be given another place; whether nothing is to be done any more.
    movable: bool
    over: bool
    title: str
    job_type: str | None
    customer: str
    site: str
    address: str
    lon: float
    lat: float
    area: str | None
    priority: int
    duration_seconds: int | None
    needs: dict[str, int]
    promise: PromiseOut | None
    earliest: int | None
    due: int | None
    technician_id: int | None
    start: int | None
    pinned: bool
    order_id: int
    part: int
    crew: int
    mates: list[int]
    standby: dict[str, Any] | None
    noted: bool
    takes: dict[str, int]
    worth: int | None

    @classmethod
    def of(cls, visit: VisitLine | Visit) -> Self:
        return cls(**visit_fields(visit if isinstance(visit, VisitLine) else line_of(visit)))


def visit_fields(visit: VisitLine) -> dict[str, Any]:
    """The fields of VisitOut, without checking them again: the board has thousands."""
    promise = visit.promise
    return {
        "id": visit.id,
        "version": visit.version,
        "number": visit.number,
        "state": visit.state,
        "movable": is_movable(visit.state),
        "over": visit.state.is_ended,
        "title": visit.title,
        "job_type": visit.job_type,
        "customer": visit.customer,
        "site": visit.site,
        "address": visit.address,
        "lon": visit.place.lon,
        "lat": visit.place.lat,
        "area": visit.area,
        "priority": visit.priority,
        "duration_seconds": visit.duration_seconds,
        "needs": visit.needs,
        "promise": {"start": promise.start, "end": promise.end} if promise else None,
        "earliest": visit.earliest,
        "due": visit.due,
        "technician_id": visit.technician_id,
        "start": visit.start,
        "pinned": visit.pinned,
        "order_id": visit.order_id,
        "part": visit.part,
        "crew": visit.crew,
        "mates": list(visit.mates),
        "standby": visit.standby,
        "noted": visit.noted,
        "takes": visit.takes,
        "worth": visit.worth,
    }


class VisitEventOut(Schema):
    """What happened to a visit: `at` is when it did, `recorded_at` when we heard of it. `by` stamped it. `key` was
    given by whoever sent it."""

    key: UUID
    step: Step
    at: int
    recorded_at: int
    by: str
    technician_id: int | None
    note: str
    lon: float | None
    lat: float | None

    @classmethod
    def of(cls, event: VisitEvent) -> Self:
        return cls(
            key=event.key, step=Step(event.step), at=int(event.happened_at.timestamp()),
            recorded_at=int(event.recorded_at.timestamp()), by=event.actor_name, technician_id=event.technician_id,
            note=event.note, lon=event.lon, lat=event.lat,
        )  # fmt: skip


class AssignmentOut(Schema):
    """One person's part in a visit; times are null until they happened."""

    technician_id: int
    name: str
    leads: bool
    accepted_at: int | None
    departed_at: int | None
    arrived_at: int | None
    finished_at: int | None

    @classmethod
    def of(cls, row: Assignment) -> Self:
        return cls(
            technician_id=row.technician_id, name=row.technician.name, leads=row.leads,
            accepted_at=to_moment(row.accepted_at), departed_at=to_moment(row.departed_at),
            arrived_at=to_moment(row.arrived_at), finished_at=to_moment(row.finished_at),
        )  # fmt: skip


class HistoryOut(Schema):
    at: int
    by: str
    sentence: str
    note: str

    @classmethod
    def of(cls, entry: AuditEntry) -> Self:
        return cls(
            at=int(entry.at.timestamp()),
            by=entry.actor_name,
            sentence=entry.sentence or entry.action,
            note=str(entry.changes.get("note", "")),
        )


class ActionOut(Schema):
    """Something the reader may do to a visit now; `needs_note`: only with a few words."""

    step: Step
    needs_note: bool


class VisitDetailOut(VisitOut):
    """All about a visit. `actions` is what the reader may do, the next thing first; `parts` is how many visits the
    order has; `priced`: what the visit brings follows from the order's lines.

    `assignments`: who goes, whoever leads first, and what each of them said and did.
    """

    customer_id: int
    customer_phone: str
    access_notes: str
    contact_name: str
    contact_phone: str
    description: str
    asset: str | None
    notes: str
    outcome: str
    technician: str | None
    assignments: list[AssignmentOut]
    actions: list[ActionOut]
    parts: int
    priced: bool
    events: list[VisitEventOut]
    history: list[HistoryOut]

    @classmethod
    def build(
        cls, visit: Visit, events: list[VisitEvent], assignments: list[Assignment], history: list[AuditEntry],
        steps: list[Step],
    ) -> "VisitDetailOut":  # fmt: skip
        """`steps`: what the reader may do next."""
        order, asset = visit.order, visit.order.asset
        return cls(
            **visit_fields(line_of(visit)),
            customer_id=order.customer_id,
            customer_phone=order.customer.phone,
            access_notes=order.site.access_notes,
            contact_name=order.contact_name,
            contact_phone=order.contact_phone,
            description=order.description,
            asset=" ".join(filter(None, [asset.kind, asset.make, asset.model, asset.serial])) if asset else None,
            notes=visit.notes,
            outcome=visit.outcome,
            technician=visit.technician.name if visit.technician else None,
            parts=order.visits.count(),
            priced=has_prices(order),
            assignments=[AssignmentOut.of(row) for row in assignments],
            actions=[ActionOut(step=step, needs_note=transition(step).needs_note) for step in steps],
            events=[VisitEventOut.of(event) for event in events],
            history=[HistoryOut.of(entry) for entry in history],
        )


class VisitFieldsIn(Schema):
    version: int = Version
    duration_seconds: int | None = Field(ge=60, le=MAX_DURATION)
    priority: int = Field(ge=1, le=5)
    needs: Needs
    promise: PromiseIn | None
    earliest: Moment | None
    due: Moment | None
    notes: Text = Field(max_length=4000)
    pinned: bool
    worth: int | None = Field(ge=0, le=10_000_000)
    crew: int | None = Field(None, ge=1, le=8)
    title: Text | None = Field(None, max_length=120)
    takes: Parts | None = Field(None, max_length=40)

    def fields(self) -> VisitFields:
        promise = (to_datetime(self.promise.start), to_datetime(self.promise.end)) if self.promise else None
        return VisitFields(
            duration_seconds=self.duration_seconds,
            priority=self.priority,
            needs=self.needs,
            promise=promise,
            earliest=to_datetime(self.earliest) if self.earliest else None,
            due=to_datetime(self.due) if self.due else None,
            notes=self.notes,
            pinned=self.pinned,
            crew=self.crew,
            title=self.title,
            takes=self.takes,
            worth=self.worth,
        )
