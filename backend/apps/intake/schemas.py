"""Wire shapes of intake."""

from typing import Annotated, Literal, Self

from ninja import Field, Schema

from apps.customers.schemas import AssetOut, CustomerOut, SiteOut
from apps.intake.commands import Wanted
from apps.intake.models import Request
from foundation.moments import Moment, to_datetime, to_moment
from foundation.schemas import Text

Needs = Annotated[dict[str, Annotated[int, Field(ge=1, le=5)]], Field(max_length=12)]
MAX_DURATION = 14 * 24 * 3600


class PromiseIn(Schema):
    start: Moment
    end: Moment


class PromiseOut(Schema):
    start: int
    end: int


class RequestIn(Schema):
    site_id: int = Field(ge=1, le=2**62)
    what_is_wrong: Text = Field(max_length=4000)
    job_type_id: int | None = Field(None, ge=1, le=2**62)
    asset_id: int | None = Field(None, ge=1, le=2**62)
    priority: int | None = Field(None, ge=1, le=5)
    duration_seconds: int | None = Field(None, ge=60, le=MAX_DURATION)
    needs: Needs | None = None
    promise: PromiseIn | None = None
    due: Moment | None = None
    contact_name: Text = Field("", max_length=120)
    contact_phone: Text = Field("", max_length=40)
    source: Literal["phone", "e-mail", "web", "walk-in", "contract"] = "phone"

    def wanted(self) -> Wanted:
        fields = self.dict(exclude={"site_id", "promise", "due"})
        promise = (to_datetime(self.promise.start), to_datetime(self.promise.end)) if self.promise else None
        return Wanted(**fields, promise=promise, due=to_datetime(self.due) if self.due else None)


class CloseIn(Schema):
    version: int = Field(ge=1, le=2**31 - 1)
    reason: Text = Field(max_length=300)


class RequestOut(Schema):
    id: int
    number: str
    version: int
    state: str
    customer: CustomerOut
    site: SiteOut
    asset: AssetOut | None
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

    @classmethod
    def of(cls, row: Request) -> Self:
        return cls(
            id=row.pk,
            number=row.number,
            version=row.version,
            state=row.state,
            customer=CustomerOut.from_orm(row.customer),
            site=SiteOut.from_orm(row.site),
            asset=AssetOut.from_orm(row.asset) if row.asset else None,
            job_type=row.job_type.name if row.job_type else None,
            what_is_wrong=row.what_is_wrong,
            source=row.source,
            priority=row.priority,
            duration_seconds=row.duration_seconds,
            needs=row.needs,
            promise=promise_out(row),
            due=to_moment(row.due),
            contact_name=row.contact_name,
            contact_phone=row.contact_phone,
            taken_at=int(row.taken_at.timestamp()),
            taken_by=row.taken_by,
        )


def promise_out(row: Request) -> PromiseOut | None:
    if row.promise_start is None or row.promise_end is None:
        return None
    return PromiseOut(start=int(row.promise_start.timestamp()), end=int(row.promise_end.timestamp()))
