"""Wire shapes of what orders cost."""

from typing import Annotated, Literal

from ninja import Field, Schema

from apps.orders.order_schemas import Id
from apps.orders.schemas import Version
from apps.pricing.document_schemas import MOST_LINES, DiscountIn, DocumentLineIn, LineKey, SumsOut
from foundation.moments import Moment


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
