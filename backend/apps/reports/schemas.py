"""Wire shapes of reports. Times are epoch seconds."""

from typing import Annotated, Any, Self
from uuid import UUID

from ninja import Field, Schema

from apps.reports.entries import Entries, Goer
from apps.reports.models import (
    Charge,
    Mileage,
    Picture,
    RemovedPart,
    SaidTime,
    SentReport,
    UsedPart,
    VisitNote,
    WorkAccepted,
)
from apps.reports.queries import Report
from core.reports import Line, Standing
from core.stock import Tracking
from foundation.moments import to_moment
from foundation.schemas import Text


class TaskOut(Schema):
    """A task of the order; `at` null: not done yet."""

    words: str
    at: int | None
    by: str


class GivenOut(Schema):
    """An answer as it was given."""

    key: str
    value: Any
    at: int
    by: str


class VisitNoteOut(Schema):
    """`reader`: for whom it was written."""

    reader: str
    text: str
    at: int
    by: str

    @classmethod
    def of(cls, row: VisitNote) -> Self:
        return cls(reader=row.reader, text=row.text, at=int(row.at.timestamp()), by=row.technician.name)


class VisitPictureOut(Schema):
    """`here`: it has come itself; until then it is on the phone. `original`: the photo that was drawn on."""

    id: UUID
    kind: str
    caption: str
    pair: str
    question: str
    original: UUID | None
    size: int
    here: bool
    at: int
    by: str

    @classmethod
    def of(cls, row: Picture) -> Self:
        return cls(
            id=row.pk, kind=row.kind, caption=row.caption, pair=row.pair, question=row.question,
            original=row.original_id, size=row.size,
            here=row.file_id is not None, at=int(row.at.timestamp()), by=row.technician.name,
        )  # fmt: skip


class AcceptanceOut(Schema):
    ended: str
    name: str
    rating: int | None
    words: str
    signature: UUID | None
    at: int
    by: str

    @classmethod
    def of(cls, row: WorkAccepted) -> Self:
        return cls(
            ended=row.ended, name=row.name, rating=row.rating, words=row.words, signature=row.signature_id,
            at=int(row.at.timestamp()), by=row.technician.name,
        )  # fmt: skip


class PlannedPartOut(Schema):
    """A part that the visit was to take."""

    code: str
    name: str
    quantity: int
    unit: str
    tracking: Tracking


class UsedPartOut(Schema):
    """`quantity` 0: it was planned and not needed. `source`: from where, in words. `booked`: stock knows of it."""

    id: UUID
    code: str
    name: str
    quantity: int
    unit: str
    serials: list[str]
    batch: str
    place_id: int | None
    source: str
    elsewhere: str
    booked: bool
    at: int
    by: str

    @classmethod
    def of(cls, row: UsedPart) -> Self:
        return cls(
            id=row.pk, code=row.part.code, name=row.part.name, quantity=row.quantity, unit=row.part.unit,
            serials=row.serials, batch=row.batch, place_id=row.source_id,
            source=row.elsewhere or (row.source.name if row.source else ""), elsewhere=row.elsewhere,
            booked=row.booking is not None, at=int(row.at.timestamp()), by=row.technician.name,
        )  # fmt: skip


class RemovedPartOut(Schema):
    """What came out, and what becomes of it."""

    id: UUID
    code: str
    name: str
    quantity: int
    serial: str
    what: str
    because: str
    at: int
    by: str

    @classmethod
    def of(cls, row: RemovedPart) -> Self:
        return cls(
            id=row.pk, code=row.part.code if row.part else "", name=row.part.name if row.part else row.words,
            quantity=row.quantity, serial=row.serial, what=row.what, because=row.because,
            at=int(row.at.timestamp()), by=row.technician.name,
        )  # fmt: skip


class HeldOut(Schema):
    """A stretch in which the visit was on hold; `until` null: it still is."""

    since: int
    until: int | None


class PresenceOut(Schema):
    """When somebody of the crew set out, came and left, as stamped; `held`: while the visit was on hold."""

    technician_id: int
    name: str
    departed: int | None
    arrived: int | None
    finished: int | None
    held: list[HeldOut]

    @classmethod
    def of(cls, row: Goer) -> Self:
        stamps = row.presence
        return cls(
            technician_id=row.technician_id, name=row.name, departed=stamps.departed, arrived=stamps.arrived,
            finished=stamps.finished, held=[HeldOut(since=since, until=until) for since, until in stamps.held],
        )  # fmt: skip


class SaidTimeOut(Schema):
    """A time that the stamps do not tell; `by` said so."""

    technician_id: int
    sort: str
    minutes: int
    reason: str
    at: int
    by: str

    @classmethod
    def of(cls, row: SaidTime) -> Self:
        return cls(
            technician_id=row.technician_id, sort=row.sort, minutes=row.minutes, reason=row.reason,
            at=int(row.at.timestamp()), by=row.said_by,
        )  # fmt: skip


class ChargeOut(Schema):
    """`quantity` in thousandths."""

    id: UUID
    item: str
    words: str
    quantity: int
    at: int
    by: str

    @classmethod
    def of(cls, row: Charge) -> Self:
        return cls(
            id=row.pk,
            item=row.item,
            words=row.words,
            quantity=row.quantity,
            at=int(row.at.timestamp()),
            by=row.technician.name,
        )


class MileageOut(Schema):
    metres: int
    at: int
    by: str

    @classmethod
    def of(cls, row: Mileage) -> Self:
        return cls(metres=row.metres, at=int(row.at.timestamp()), by=row.technician.name)


class VisitEntriesOut(Schema):
    """What a visit took: parts, times, charges. `nothing_more`: of which somebody said that this is all."""

    planned: list[PlannedPartOut]
    used: list[UsedPartOut]
    removed: list[RemovedPartOut]
    presences: list[PresenceOut]
    times: list[SaidTimeOut]
    charges: list[ChargeOut]
    mileages: list[MileageOut]
    nothing_more: list[str]

    @classmethod
    def of(cls, found: Entries) -> Self:
        return cls(
            planned=[
                PlannedPartOut(
                    code=part.code, name=part.name, quantity=quantity, unit=part.unit, tracking=Tracking(part.tracking)
                )
                for part, quantity in found.planned
            ],
            used=[UsedPartOut.of(row) for row in found.used],
            removed=[RemovedPartOut.of(row) for row in found.removed],
            presences=[PresenceOut.of(row) for row in found.goers],
            times=[SaidTimeOut.of(row) for row in found.times],
            charges=[ChargeOut.of(row) for row in found.charges],
            mileages=[MileageOut.of(row) for row in found.mileages],
            nothing_more=found.nothing_more,
        )  # fmt: skip


class WorkStepOut(Schema):
    kind: str
    must: bool


class StandingOut(Schema):
    """How a step stands, and what it lacks in words."""

    kind: str
    must: bool
    done: bool
    missing: list[str]

    @classmethod
    def of(cls, row: Standing) -> Self:
        return cls(kind=row.kind, must=row.must, done=row.done, missing=list(row.missing))


class LatelyOut(Schema):
    """One line of what happened there lately; `order_id` is where it comes from, `pressing` asks to be minded."""

    words: str
    order_id: int
    at: int
    pressing: bool

    @classmethod
    def of(cls, line: Line) -> Self:
        return cls(words=line.words, order_id=line.order_id, at=line.at, pressing=line.pressing)


class ReportOut(Schema):
    """The report of a visit. `steps` as its job type composes them, `standings` how they stand."""

    visit_id: int
    part: int
    state: str
    technician: str
    steps: list[WorkStepOut]
    standings: list[StandingOut]
    tasks: list[TaskOut]
    questions: list[dict[str, Any]]
    answers: list[GivenOut]
    notes: list[VisitNoteOut]
    pictures: list[VisitPictureOut]
    acceptance: AcceptanceOut | None
    looked: bool
    entries: VisitEntriesOut

    @classmethod
    def of(cls, found: Report) -> Self:
        visit = found.visit
        return cls(
            visit_id=visit.pk, part=visit.part, state=visit.state,
            technician=visit.technician.name if visit.technician else "",
            steps=[WorkStepOut(kind=step.kind, must=step.must) for step in found.steps],
            standings=[StandingOut.of(row) for row in found.standings],
            tasks=[_task(found, words) for words in found.tasks],
            questions=found.questions,
            answers=[
                GivenOut(key=row.key, value=row.value, at=int(row.at.timestamp()), by=row.technician.name)
                for row in found.answers.values()
            ],
            notes=[VisitNoteOut.of(row) for row in found.notes],
            pictures=[VisitPictureOut.of(row) for row in found.pictures],
            acceptance=AcceptanceOut.of(found.acceptance) if found.acceptance else None,
            looked=found.looked, entries=VisitEntriesOut.of(found.entries),
        )  # fmt: skip


def _task(found: Report, words: str) -> TaskOut:
    row = found.done.get(words)
    if row is None:
        return TaskOut(words=words, at=None, by="")
    return TaskOut(words=words, at=int(row.at.timestamp()), by=row.technician.name)


class SentReportOut(Schema):
    """`mailed` null: it is on its way."""

    address: str
    at: int
    by: str
    mailed: int | None

    @classmethod
    def of(cls, row: SentReport) -> Self:
        return cls(address=row.address, at=int(row.at.timestamp()), by=row.by, mailed=to_moment(row.mailed_at))


class ReaderOut(Schema):
    name: str
    address: str


class ReportSendingOut(Schema):
    """To whom a report was sent, and who else might want it."""

    sent: list[SentReportOut]
    readers: list[ReaderOut]


class ReportSendingIn(Schema):
    addresses: list[Annotated[Text, Field(max_length=254)]] = Field(min_length=1, max_length=10)
