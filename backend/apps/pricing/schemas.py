"""Wire shapes of pricing. Amounts are whole numbers of the currency's smallest unit."""

from datetime import date
from decimal import Decimal
from typing import Annotated, Self

from ninja import Field, Schema

from apps.pricing import models
from apps.pricing.inputs import ChargingFields, ItemFields, NamedDiscountFields, TaxFields
from core.pricing import Category, ItemKind, TravelWay
from foundation.schemas import Text

Amount = Annotated[int, Field(ge=-(10**10), le=10**10)]
Cost = Annotated[int, Field(ge=0, le=10**10)]
_Version = Annotated[int, Field(ge=1, le=2**31 - 1)]
_Id = Annotated[int, Field(ge=1, le=2**62)]
_Day = Annotated[date, Field(ge=date(2001, 1, 1), le=date(2099, 12, 1))]


class RateIn(Schema):
    """So many percent from a day on."""

    percent: Decimal = Field(ge=0, lt=100, max_digits=5, decimal_places=2)
    valid_from: _Day


class TaxCodeIn(Schema):
    name: Text = Field(max_length=60)
    category: Category
    reason: Text = Field("", max_length=120)
    rates: list[RateIn] = Field([], max_length=40)
    retired: bool = False

    def fields(self) -> TaxFields:
        return TaxFields(
            name=self.name, category=self.category, reason=self.reason, retired=self.retired,
            rates=[(rate.percent, rate.valid_from) for rate in self.rates],
        )  # fmt: skip


class TaxCodeChangeIn(TaxCodeIn):
    version: _Version


class TaxCodeOut(TaxCodeChangeIn):
    """`percent`: today's."""

    id: int
    key: str
    percent: Decimal

    @classmethod
    def of(cls, row: models.TaxCode, percent: Decimal) -> Self:
        return cls(
            id=row.pk, key=row.key, version=row.version, name=row.name, category=Category(row.category),
            reason=row.reason, retired=row.retired, rates=[RateIn(**rate) for rate in row.rates], percent=percent,
        )  # fmt: skip


class ItemIn(Schema):
    """See core.pricing.Item. `effort` is thousandths of a labour-hour, `tax` the key of a tax code."""

    kind: ItemKind
    wording: Text = Field(max_length=200)
    unit: Text = Field(max_length=3)
    price: Amount
    cost: Cost | None = None
    effort: int | None = Field(None, ge=0, le=10**7)
    tax: Text = Field(max_length=40)
    retired: bool = False

    def fields(self) -> ItemFields:
        return ItemFields(**self.dict(exclude={"version"}))


class ItemChangeIn(ItemIn):
    version: _Version


class ItemOut(ItemChangeIn):
    id: int
    key: str

    @classmethod
    def of(cls, row: models.Item, *, sees_costs: bool) -> Self:
        return cls(
            id=row.pk, key=row.key, version=row.version, kind=ItemKind(row.kind), wording=row.wording, unit=row.unit,
            price=row.price, cost=row.cost if sees_costs else None, effort=row.effort, tax=row.tax.key,
            retired=row.retired,
        )  # fmt: skip


class UnitOut(Schema):
    """A unit of measure by its code in UN/ECE Recommendation 20."""

    code: str
    name: str


class PriceListIn(Schema):
    name: Text = Field(max_length=60)
    retired: bool = False


class PriceListChangeIn(PriceListIn):
    version: _Version


class PriceListOut(PriceListChangeIn):
    """How many prices it has today, and how many customers belong to it."""

    id: int
    price_count: int
    customer_count: int


class HolderIn(Schema):
    """Whose prices: a list's, a customer's, or neither: everybody's."""

    list_id: _Id | None = None
    customer_id: _Id | None = None


class SetPriceIn(HolderIn):
    item_id: _Id
    price: Cost
    valid_from: _Day
    least: Decimal = Field(Decimal(0), ge=0, max_digits=12, decimal_places=3)


class PriceOut(Schema):
    id: int
    item_id: int
    wording: str
    unit: str
    price: int
    standard: int
    valid_from: date
    valid_until: date | None
    least: Decimal

    @classmethod
    def of(cls, row: models.Price) -> Self:
        return cls(
            id=row.pk, item_id=row.item_id, wording=row.item.wording, unit=row.item.unit, price=row.price,
            standard=row.item.price, valid_from=row.valid_from, valid_until=row.valid_until, least=row.least,
        )  # fmt: skip


class RaiseIn(HolderIn):
    """By percent or by an amount, rounded to a multiple of `step`; without `sure` only told."""

    percent: Decimal = Field(Decimal(0), ge=-100, le=1000, max_digits=7, decimal_places=3)
    amount: Amount = 0
    step: int = Field(1, ge=1, le=10**6)
    valid_from: _Day
    sure: bool = False


class RaisedOut(Schema):
    item_id: int
    wording: str
    least: Decimal
    before: int
    after: int


class CustomerTermsIn(Schema):
    list_id: _Id | None = None
    reads_with_tax: bool = False
    exempt_reason: Text = Field("", max_length=120)
    exempt_number: Text = Field("", max_length=60)
    exempt_until: _Day | None = None


class PricedOut(Schema):
    """What one unit costs a customer, and where that comes from, in words."""

    price: int
    source: str


class NamedDiscountIn(Schema):
    """A discount of the company's: percent or an amount; until a day, or so many times."""

    name: Text = Field(max_length=80)
    percent: Decimal = Field(Decimal(0), ge=0, le=100, max_digits=6, decimal_places=3)
    amount: Cost = 0
    valid_until: _Day | None = None
    times: int | None = Field(None, ge=1, le=10**6)
    retired: bool = False

    def fields(self) -> NamedDiscountFields:
        return NamedDiscountFields(**self.dict(exclude={"version"}))


class NamedDiscountChangeIn(NamedDiscountIn):
    version: _Version


class NamedDiscountOut(NamedDiscountChangeIn):
    """`problem`: why it cannot be given now."""

    id: int
    key: str
    given: int
    problem: str


class SurchargeIn(Schema):
    """So many percent more for labour, in hours like "18:00-22:00" by weekday, Monday first, and on holidays."""

    name: Text = Field(max_length=60)
    percent: Decimal = Field(gt=0, le=1000, max_digits=7, decimal_places=2)
    week: list[Annotated[Text, Field(max_length=60)]] = Field(min_length=7, max_length=7)
    holidays: bool = False


class TravelIn(Schema):
    """How a journey is counted: see core.pricing.TravelRule. `flat` is an amount by number of the area."""

    way: TravelWay = TravelWay.NONE
    rate: Cost = 0
    least: Cost = 0
    otherwise: Cost = 0
    flat: dict[Annotated[Text, Field(max_length=12)], Cost] = Field(default_factory=dict, max_length=500)


class ChargingIn(Schema):
    """See apps.pricing.models.Charging."""

    version: int = Field(ge=0, le=2**31 - 1)
    labour_item: Text = Field("", max_length=40)
    skill_items: dict[Annotated[Text, Field(max_length=80)], Annotated[Text, Field(max_length=40)]] = Field(
        default_factory=dict, max_length=200
    )
    step_minutes: int = Field(15, ge=1, le=480)
    least_minutes: int = Field(0, ge=0, le=1440)
    surcharges: list[SurchargeIn] = Field(default_factory=list, max_length=20)
    travel_item: Text = Field("", max_length=40)
    travel: TravelIn = Field(default_factory=lambda: TravelIn.model_validate({}))

    def fields(self) -> ChargingFields:
        values = self.dict(exclude={"version", "surcharges", "travel"})
        return ChargingFields(
            **values, surcharges=[one.model_dump() for one in self.surcharges],
            travel={**self.travel.model_dump(), "way": self.travel.way.value},
        )  # fmt: skip


class ChargingOut(ChargingIn):
    @classmethod
    def of(cls, row: models.Charging) -> Self:
        names = ("labour_item", "skill_items", "step_minutes", "least_minutes", "travel_item")
        return cls(
            version=row.version, surcharges=[SurchargeIn(**one) for one in row.surcharges],
            travel=TravelIn(**row.travel), **{name: getattr(row, name) for name in names},
        )  # fmt: skip
