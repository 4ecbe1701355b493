"""Wire shapes of intake."""

from dataclasses import replace
from typing import Annotated, Any, Literal, Self

from ninja import Field, Schema

from apps.catalogue.schemas import MAX_DURATION
from apps.customers.schemas import AssetOut, CustomerOut, SiteOut
from apps.intake.inputs import Reading, Wanted
from apps.intake.models import Alarm, MailUnread, Request
from foundation.moments import Moment, to_datetime, to_moment
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]
Needs = Annotated[dict[str, Annotated[int, Field(ge=1, le=5)]], Field(max_length=12)]
__all__ = ["MAX_DURATION", "Needs", "PromiseIn", "PromiseOut"]


class PromiseIn(Schema):
    start: Moment
    end: Moment


class PromiseOut(Schema):
    start: int
    end: int


class OrderDetailsIn(Schema):
    """What of the order is known besides the request; what is left out follows from customer and job type."""

    title: Text | None = Field(None, max_length=160)
    more_asset_ids: list[Id] | None = Field(None, max_length=50)
    payer_id: Id | None = None
    payer_address: Text | None = Field(None, max_length=300)
    billing: Literal["billable", "not billable", "contract"] | None = None
    po_number: Text | None = Field(None, max_length=60)
    tags: list[Annotated[Text, Field(max_length=40)]] | None = Field(None, max_length=20)
    technician_note: Text | None = Field(None, max_length=4000)
    invoice_text: Text | None = Field(None, max_length=4000)
    extra: dict[str, Any] | None = None

    def known(self) -> dict[str, Any]:
        return {name: value for name, value in self.dict().items() if value is not None}


class WantedIn(Schema):
    what_is_wrong: Text = Field(max_length=8000)
    job_type_id: int | None = Field(None, ge=1, le=2**62)
    asset_id: int | None = Field(None, ge=1, le=2**62)
    priority: int | None = Field(None, ge=1, le=5)
    duration_seconds: int | None = Field(None, ge=60, le=MAX_DURATION)
    needs: Needs | None = None
    promise: PromiseIn | None = None
    due: Moment | None = None
    contact_name: Text = Field("", max_length=120)
    contact_phone: Text = Field("", max_length=40)
    source: Text = Field("phone", max_length=40)

    def wanted(self) -> Wanted:
        fields = {name: getattr(self, name) for name in WantedIn.model_fields if name not in ("promise", "due")}
        promise = (to_datetime(self.promise.start), to_datetime(self.promise.end)) if self.promise else None
        return Wanted(**fields, promise=promise, due=to_datetime(self.due) if self.due else None)


class RequestIn(WantedIn):
    site_id: int = Field(ge=1, le=2**62)
    # What is known of the order to come; left out, what was kept of it stays.
    details: OrderDetailsIn | None = None

    def wanted(self) -> Wanted:
        return replace(super().wanted(), details=self.details.known() if self.details else None)


class CompleteIn(RequestIn):
    version: int = Field(ge=1, le=2**31 - 1)


class CloseIn(Schema):
    version: int = Field(ge=1, le=2**31 - 1)
    reason: Text = Field(max_length=300)


class JoinIn(Schema):
    version: int = Field(ge=1, le=2**31 - 1)
    into_id: int = Field(ge=1, le=2**62)


class AnswerIn(Schema):
    text: Text = Field(max_length=2000)


class RequestOut(Schema):
    id: int
    number: str
    version: int
    state: str
    channel: str
    customer: CustomerOut | None
    site: SiteOut | None
    from_name: str
    from_phone: str
    from_email: str
    from_address: str
    asset: AssetOut | None
    job_type_id: int | None
    job_type: str | None
    what_is_wrong: str
    source: str
    priority: int
    duration_seconds: int | None
    needs: dict[str, int]
    promise: PromiseOut | None
    due: int | None
    contact_name: str
    contact_phone: str
    taken_at: int
    taken_by: str
    closed_because: str
    joined_into: str | None
    joined: int
    alarms: int
    order_id: int | None
    order: str | None

    @classmethod
    def of(cls, row: Request) -> Self:
        order: Any = getattr(row, "order", None)
        plain = {
            name: getattr(row, name)
            for name in (
                "number", "version", "state", "channel", "from_name", "from_phone", "from_email", "from_address",
                "job_type_id", "what_is_wrong", "source", "priority", "duration_seconds", "needs", "contact_name",
                "contact_phone", "taken_by", "closed_because",
            )
        }  # fmt: skip
        return cls(
            id=row.pk,
            customer=CustomerOut.from_orm(row.customer) if row.customer else None,
            site=SiteOut.from_orm(row.site) if row.site else None,
            asset=AssetOut.from_orm(row.asset) if row.asset else None,
            job_type=row.job_type.name if row.job_type else None,
            promise=promise_out(row),
            due=to_moment(row.due),
            taken_at=int(row.taken_at.timestamp()),
            joined_into=row.joined_into.number if row.joined_into else None,
            joined=getattr(row, "joined_count", 0),
            alarms=getattr(row, "alarm_count", 0),
            order_id=order.pk if order else None,
            order=order.number if order else None,
            **plain,
        )


class RequestsOut(Schema):
    """`next` is the cursor of the following page; null when there is none."""

    rows: list[RequestOut]
    next: str | None


class AlarmOut(Schema):
    at: int
    kind: str
    text: str
    value: float | None
    unit: str

    @classmethod
    def of(cls, row: Alarm) -> Self:
        return cls(at=int(row.at.timestamp()), kind=row.kind, text=row.text, value=row.value, unit=row.unit)


class RequestDetailOut(RequestOut):
    """A request with what may be about the same, and its alarms."""

    details: OrderDetailsIn
    payer_name: str
    alike: list[RequestOut]
    readings: list[AlarmOut]


class FormOut(Schema):
    """A public form to fill in."""

    form: str
    company: str


class FormIn(Schema):
    form: Text = Field(max_length=400)
    name: Text = Field("", max_length=160)
    phone: Text = Field("", max_length=40)
    email: Text = Field("", max_length=254)
    address: Text = Field("", max_length=240)
    text: Text = Field("", max_length=4000)
    website: Text = Field("", max_length=400)


class FormTakenOut(Schema):
    number: str


class AlarmIn(Schema):
    """What a device service posts."""

    serial: Text = Field(min_length=1, max_length=60)
    kind: Text = Field(min_length=1, max_length=40)
    reference: Text = Field(min_length=1, max_length=80)
    at: Moment
    text: Text = Field("", max_length=300)
    value: float | None = None
    unit: Text = Field("", max_length=20)

    def reading(self) -> Reading:
        return Reading(**{**self.dict(), "at": to_datetime(self.at)})


class AlarmTakenOut(Schema):
    request: str
    new: bool


def promise_out(row: Request) -> PromiseOut | None:
    if row.promise_start is None or row.promise_end is None:
        return None
    return PromiseOut(start=int(row.promise_start.timestamp()), end=int(row.promise_end.timestamp()))


class MailUnreadOut(Schema):
    """An e-mail that could not be read, and why."""

    id: int
    sender: str
    subject: str
    size: int
    why: str
    at: int

    @classmethod
    def of(cls, row: MailUnread) -> Self:
        return cls(
            id=row.pk, sender=row.sender, subject=row.subject, size=row.size, why=row.why, at=int(row.at.timestamp())
        )  # fmt: skip


class MailAgainOut(Schema):
    """The request it made or joined; None when it still cannot be read."""

    request: str | None
