"""Wire shapes of messages."""

from typing import Literal, Self

from ninja import Field, Schema

from apps.messages.models import Call, Message
from core.orders import VisitState
from foundation.moments import to_moment
from foundation.schemas import Text


class MessageOut(Schema):
    id: int
    kind: str
    channel: str
    name: str
    address: str
    text: str
    visit_id: int | None
    order: str | None
    written_at: int
    state: str
    not_before: int | None
    delivered_at: int | None
    reference: str
    failure: str

    @classmethod
    def of(cls, row: Message) -> Self:
        return cls(
            id=row.pk,
            kind=row.kind,
            channel=row.channel,
            name=row.name,
            address=row.address,
            text=row.text,
            visit_id=row.visit_id,
            order=row.visit.order.number if row.visit else row.request.number if row.request else None,
            written_at=int(row.written_at.timestamp()),
            state=row.state,
            not_before=to_moment(row.not_before),
            delivered_at=to_moment(row.delivered_at),
            reference=row.reference,
            failure=row.failure,
        )


class OutboxOut(Schema):
    """`next` is the cursor of the following page, null when there is none; `failed`: how many were not delivered."""

    rows: list[MessageOut]
    next: str | None
    failed: int


class WordsOut(Schema):
    text: str


class CallOut(Schema):
    """Somebody who has to be called by a person, and why."""

    id: int
    visit_id: int
    visit_version: int
    # The visit waits in the backlog: a time can be offered in the same call.
    can_offer: bool
    order: str
    name: str
    phone: str
    why: str
    made_at: int
    done_at: int | None

    @classmethod
    def of(cls, row: Call) -> Self:
        visit = row.visit
        waits = VisitState(visit.state) is VisitState.OPEN and visit.duration_seconds is not None
        return cls(
            id=row.pk, visit_id=visit.pk, visit_version=visit.version, can_offer=waits, order=visit.order.number,
            name=row.name, phone=row.phone, why=row.why, made_at=int(row.made_at.timestamp()),
            done_at=to_moment(row.done_at),
        )  # fmt: skip


class LetterIn(Schema):
    """A few words about a visit, to its customer or its technician."""

    to: Literal["customer", "technician"]
    text: Text = Field(max_length=600)


class DraftOut(Schema):
    kind: str
    channel: str
    name: str
    address: str
    text: str


class WindowOut(Schema):
    start: int
    end: int


class OtherDayOut(Schema):
    """What was promised, when the plan begins, and the window that would be promised for then."""

    promise: WindowOut
    start: int
    window: WindowOut


class SendingOut(Schema):
    """What sending one visit writes. `again`: it was sent before, and has changed since. `elsewhere`: it stands on
    another day than promised, and is sent only when somebody says what becomes of the promise."""

    visit_id: int
    label: str
    site: str
    again: bool
    drafts: list[DraftOut]
    elsewhere: OtherDayOut | None
