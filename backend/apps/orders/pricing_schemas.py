"""Wire shapes of what orders cost."""

from typing import Annotated, Literal, Self

from ninja import Field, Schema

from apps.intake.schemas import MAX_DURATION, Needs, OrderDetailsIn
from apps.orders.inputs import OneOff, OrderFields
from apps.orders.one_offs import Prospect
from apps.orders.order_schemas import Id
from apps.orders.schemas import Version
from apps.pricing.document_schemas import (
    MOST_LINES,
    DiscountIn,
    DocumentLineIn,
    DocumentLineOut,
    LineKey,
    SumsOut,
    lines_out,
)
from core.orders.sequences import MOST_DAYS
from foundation.moments import Moment, to_datetime, to_moment
from foundation.schemas import Text


class LineSetIn(Schema):
    """Lines and discounts on the whole, that are counted together."""

    lines: list[DocumentLineIn] = Field(default_factory=list, max_length=MOST_LINES)
    discounts: list[DiscountIn] = Field(default_factory=list, max_length=10)


class OrderLinesIn(LineSetIn):
    version: int = Version


class FiguresIn(Schema):
    """Several sets of lines for somebody who would pay them; prices and tax as of today."""

    customer_id: Id | None = None
    job_type_id: Id | None = None
    sets: list[LineSetIn] = Field(min_length=1, max_length=4)


class SumsOfSetsOut(Schema):
    sets: list[SumsOut]


class ReachIn(Schema):
    """One set of lines, and what is to change so that a labour-hour brings what is wanted."""

    customer_id: Id | None = None
    job_type_id: Id | None = None
    lines: LineSetIn
    by: Literal["price", "effort"]


class ReachedLineOut(Schema):
    key: LineKey
    unit_price: int | None
    effort: int | None


class OneOffIn(Schema):
    """A job that is agreed already. `lines` null: what such work costs. See apps.orders.inputs.OneOff."""

    site_id: Id
    asset_id: Id | None = None
    job_type_id: Id | None = None
    title: Text = Field("", max_length=160)
    description: Text = Field("", max_length=8000)
    contact_name: Text = Field("", max_length=120)
    contact_phone: Text = Field("", max_length=40)
    source: Text = Field("", max_length=40)
    details: OrderDetailsIn | None = None
    priority: int | None = Field(None, ge=1, le=5)
    duration_seconds: int | None = Field(None, ge=60, le=MAX_DURATION)
    needs: Needs | None = None
    crew: int | None = Field(None, ge=1, le=8)
    days: int = Field(1, ge=1, le=MOST_DAYS)
    earliest: Moment | None = None
    due: Moment | None = None
    lines: list[DocumentLineIn] | None = Field(None, max_length=MOST_LINES)
    discounts: list[DiscountIn] = Field(default_factory=list, max_length=10)

    def asked(self, *, sees_costs: bool) -> OneOff:
        own = ("title", "description", "contact_name", "contact_phone", "source", "asset_id")
        known = self.details.known() if self.details else {}
        return OneOff(
            site_id=self.site_id, job_type_id=self.job_type_id, priority=self.priority,
            fields=OrderFields(**{**{name: getattr(self, name) for name in own}, **known}),
            duration_seconds=self.duration_seconds, needs=self.needs, crew=self.crew, days=self.days,
            earliest=None if self.earliest is None else to_datetime(self.earliest),
            due=None if self.due is None else to_datetime(self.due),
            lines=None if self.lines is None else [line.fields(sees_costs=sees_costs) for line in self.lines],
            discounts=[one.fields() for one in self.discounts],
        )  # fmt: skip


class ForeseenOut(Schema):
    title: str
    seconds: int | None
    crew: int


class OneOffOut(Schema):
    """What would become of a one-off job. `buyer_id`: whoever pays. See apps.orders.commands.oneoff.Prospect."""

    visits: list[ForeseenOut]
    lines: list[DocumentLineOut]
    buyer_id: int | None
    due: int | None
    problem: str

    @classmethod
    def of(cls, found: Prospect, *, sees_costs: bool) -> Self:
        return cls(
            visits=[ForeseenOut(title=one.title, seconds=one.seconds, crew=one.crew) for one in found.visits],
            lines=lines_out(found.lines, sees_costs=sees_costs), buyer_id=found.buyer.customer_id,
            due=to_moment(found.work.due), problem=found.problem,
        )  # fmt: skip


class EstimateIn(Schema):
    """Work that is asked for. `window`: between which moments (epoch seconds) it would begin."""

    site_id: Id
    payer_id: Id | None = None
    job_type_id: Id | None = None
    duration_seconds: int | None = Field(None, ge=60, le=14 * 86_400)
    needs: dict[str, Annotated[int, Field(ge=1, le=5)]] | None = None
    crew: int | None = Field(None, ge=1, le=8)
    window: Annotated[list[Moment], Field(min_length=2, max_length=2)] | None = None


class EstimateLineOut(Schema):
    wording: str
    net: int


class EstimateOut(Schema):
    """What it costs about; `known` false: there are no prices for it. See apps.orders.estimating.Told."""

    known: bool
    low: int = 0
    high: int = 0
    exact: int = 0
    with_tax: bool = True
    unpriced: int = 0
    lines: list[EstimateLineOut] = Field(default_factory=list)
