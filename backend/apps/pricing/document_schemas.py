"""Wire shapes of lines and what they come to. Amounts are whole numbers of the currency's smallest unit, without tax
unless it is said."""

from collections.abc import Iterable, Mapping
from datetime import date
from decimal import Decimal
from typing import Annotated, Any, Self

from ninja import Field, Schema

from apps.pricing.figuring import LineSum, Sums
from apps.pricing.inputs import DiscountFields, LineFields
from core.pricing import Category, ItemKind, Totals
from foundation.schemas import Text

LineKey = Annotated[Text, Field(min_length=1, max_length=12, pattern=r"^[A-Za-z0-9_-]+$")]
# Together with the most lines, what they come to fits the tables' whole numbers.
Money = Annotated[int, Field(ge=-(10**10), le=10**10)]
_Quantity = Annotated[Decimal, Field(ge=-(10**5), le=10**5, max_digits=9, decimal_places=3)]
MOST_LINES = 300


class DiscountIn(Schema):
    """Something off under a name: percent or an amount, until a day."""

    name: Text = Field(max_length=80)
    percent: Decimal = Field(Decimal(0), ge=0, le=100, max_digits=6, decimal_places=3)
    amount: int = Field(0, ge=0, le=10**11)
    valid_until: date | None = None
    key: Text = Field("", max_length=40)

    def fields(self) -> DiscountFields:
        return DiscountFields(**self.dict())


class DocumentLineIn(Schema):
    """See apps.pricing.inputs.LineFields. Without `unit_price` it costs what the price list says."""

    key: LineKey
    wording: Text = Field("", max_length=300)
    quantity: _Quantity = Decimal(1)
    item: Text = Field("", max_length=40)
    unit: Text = Field("C62", max_length=3)
    unit_price: Money | None = None
    cost: int | None = Field(None, ge=0, le=10**10)
    effort: int | None = Field(None, ge=0, le=10**7)
    tax: Text = Field("", max_length=40)
    discount: DiscountIn | None = None
    tag: Text = Field("", max_length=40)
    optional: bool = False
    chosen: bool = False

    def fields(self, *, sees_costs: bool) -> LineFields:
        values = {name: getattr(self, name) for name in DocumentLineIn.model_fields}
        values["discount"] = self.discount.fields() if self.discount else None
        return LineFields(**{**values, "cost": self.cost if sees_costs else None})


class DocumentLineOut(DocumentLineIn):
    """A kept line. `unit_price` is there where somebody typed it; `price` is what it costs, `source` where that comes
    from. `cost` is there for whoever may see it."""

    kind: ItemKind
    price: int | None
    source: str

    @classmethod
    def of(cls, row: Mapping[str, Any], number: int, *, sees_costs: bool) -> Self:
        discount = row.get("discount")
        return cls(
            key=str(row.get("key") or f"l{number}"), kind=ItemKind(row.get("kind") or ItemKind.FIXED),
            wording=str(row.get("wording") or row.get("description") or ""),
            quantity=Decimal(str(row.get("quantity") or 1)), item=str(row.get("item") or ""),
            unit=str(row.get("unit") or "C62"), unit_price=row.get("price") if row.get("typed") else None,
            price=row.get("price"), source=str(row.get("source") or ""),
            cost=row.get("cost") if sees_costs else None, effort=row.get("effort"), tax=str(row.get("tax") or ""),
            discount=DiscountIn(**discount) if discount else None, tag=str(row.get("tag") or ""),
            optional=bool(row.get("optional")), chosen=bool(row.get("chosen")),
        )  # fmt: skip


def lines_out(rows: Iterable[Mapping[str, Any]], *, sees_costs: bool) -> list[DocumentLineOut]:
    return [DocumentLineOut.of(row, number, sees_costs=sees_costs) for number, row in enumerate(rows)]


class TaxSumOut(Schema):
    """What is taxed at one rate, and the tax; `reason` where none is due."""

    category: Category
    percent: Decimal
    base: int
    tax: int
    reason: str


class NamedAmountOut(Schema):
    name: str
    amount: int


class TotalsOut(Schema):
    """Sums of a document (EN 16931): `net` is without, `gross` with tax."""

    lines: int
    off: int
    discounts: list[NamedAmountOut]
    net: int
    tax: int
    taxes: list[TaxSumOut]
    gross: int

    @classmethod
    def of(cls, found: Totals) -> Self:
        return cls(
            lines=found.lines, off=found.off, net=found.net, tax=found.tax, gross=found.gross,
            discounts=[NamedAmountOut(name=name, amount=amount) for name, amount in found.discounts],
            taxes=[
                TaxSumOut(
                    category=row.category, percent=row.percent, base=row.base, tax=row.tax, reason=row.reason
                )
                for row in found.taxes
            ],
        )  # fmt: skip


class LineSumOut(Schema):
    key: str
    price: int | None
    source: str
    net: int
    gross: int
    off: int

    @classmethod
    def of(cls, row: LineSum) -> Self:
        return cls(key=row.key, price=row.price, source=row.source, net=row.net, gross=row.gross, off=row.off)


class MarginOut(Schema):
    """What is left. `unknown` lines have no cost; while there are any, nothing is said to be left. `at_80`: what is
    left if the work takes as long as four in five of its kind at most."""

    cost: int
    unknown: int
    margin: int | None
    percent: float | None
    at_80: int | None


class EffortOut(Schema):
    """Labour-hours, what one brings, what would reach the wanted: a price (net) or an effort. `suffices` is how likely
    the effort is to be enough (0-1), `hours_at_80` what is enough four times in five, from `count` finished jobs."""

    hours: float
    per_hour: int | None
    wanted: int | None
    price_to_reach: int | None
    missing: int | None
    hours_to_reach: float | None
    suffices: float | None
    hours_at_80: float | None
    count: int


class SumsOut(Schema):
    """What a set of lines comes to. `margin` is there for whoever may see it."""

    lines: list[LineSumOut]
    totals: TotalsOut
    ended: list[str]
    unpriced: int
    effort: EffortOut
    margin: MarginOut | None

    @classmethod
    def of(cls, found: Sums, *, wanted: int, count: int, sees_costs: bool) -> Self:
        return cls(
            lines=[LineSumOut.of(row) for row in found.lines], totals=TotalsOut.of(found.totals),
            ended=list(found.ended), unpriced=found.unpriced, effort=_effort(found, wanted, count),
            margin=_margin(found) if sees_costs else None,
        )  # fmt: skip


def _effort(found: Sums, wanted: int, count: int) -> EffortOut:
    reach, chance = found.wanted, found.likely
    return EffortOut(
        hours=float(found.figures.hours), per_hour=found.figures.per_hour, wanted=wanted or None,
        price_to_reach=reach.price if reach else None, missing=reach.missing if reach else None,
        hours_to_reach=float(reach.hours) if reach else None, suffices=chance.suffices if chance else None,
        hours_at_80=float(chance.hours_at_80) if chance else None, count=count,
    )  # fmt: skip


def _margin(found: Sums) -> MarginOut:
    here = found.figures
    return MarginOut(
        cost=here.cost, unknown=here.unknown, margin=here.margin,
        percent=None if here.percent is None else float(here.percent), at_80=found.margin_at_80,
    )  # fmt: skip
