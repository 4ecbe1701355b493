"""HTTP: prices."""

from datetime import date
from decimal import Decimal
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Status

from apps.pricing import charging, commands, queries, values, wording
from apps.pricing import schemas as shapes
from apps.pricing.inputs import PriceHolder
from apps.pricing.models import CustomerTerms, NamedDiscount, PriceList
from core.pricing import UNITS, Raise
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.actors import may
from foundation.schemas import AskedKey, Key

router = Router()
Quantity = Annotated[Decimal, Query(ge=0, le=10**6)]


@router.get("/pricing/units", response=list[shapes.UnitOut], auth=Needs(Action.USE))
def units(request: HttpRequest) -> list[shapes.UnitOut]:
    """Units of measure."""
    return [shapes.UnitOut(code=code, name=name) for code, name in UNITS.items()]


@router.get("/pricing/tax-codes", response=list[shapes.TaxCodeOut], auth=Needs(Action.USE))
def tax_codes(request: HttpRequest, retired: bool = False) -> list[shapes.TaxCodeOut]:
    """How things are taxed, with today's rates."""
    day = queries.today()
    rows = queries.tax_codes(retired=retired)
    return [shapes.TaxCodeOut.of(row, values.tax_code(row).percent_on(day)) for row in rows]


@router.post("/pricing/tax-codes", response={201: shapes.TaxCodeOut}, auth=Needs(Action.CHANGE_SETTINGS))
def add_tax_code(request: HttpRequest, body: shapes.TaxCodeIn) -> Status[shapes.TaxCodeOut]:
    """A new tax code."""
    row = commands.put_tax_code(actor=actor_of(request), now=clock.now(), fields=body.fields())
    return Status(201, shapes.TaxCodeOut.of(row, values.tax_code(row).percent_on(queries.today())))


@router.put("/pricing/tax-codes/{int:code_id}", response=shapes.TaxCodeOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_tax_code(request: HttpRequest, code_id: Key, body: shapes.TaxCodeChangeIn) -> shapes.TaxCodeOut:
    """Other rates, another name; documents that exist keep theirs."""
    row = commands.put_tax_code(
        actor=actor_of(request), now=clock.now(), fields=body.fields(), code_id=code_id, version=body.version
    )
    return shapes.TaxCodeOut.of(row, values.tax_code(row).percent_on(queries.today()))


@router.get("/pricing/items", response=list[shapes.ItemOut], auth=Needs(Action.USE))
def items(request: HttpRequest, retired: bool = False) -> list[shapes.ItemOut]:
    """The price list."""
    sees = may(actor_of(request), Action.SEE_MARGIN)
    return [shapes.ItemOut.of(row, sees_costs=sees) for row in queries.items(retired=retired)]


@router.post("/pricing/items", response={201: shapes.ItemOut}, auth=Needs(Action.CHANGE_SETTINGS))
def add_item(request: HttpRequest, body: shapes.ItemIn) -> Status[shapes.ItemOut]:
    """A new item of the price list."""
    row = commands.put_item(actor=actor_of(request), now=clock.now(), fields=body.fields())
    return Status(201, shapes.ItemOut.of(row, sees_costs=True))


@router.put("/pricing/items/{int:item_id}", response=shapes.ItemOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_item(request: HttpRequest, item_id: Key, body: shapes.ItemChangeIn) -> shapes.ItemOut:
    """Another price, cost or wording; documents that exist keep theirs."""
    row = commands.put_item(
        actor=actor_of(request), now=clock.now(), fields=body.fields(), item_id=item_id, version=body.version
    )
    return shapes.ItemOut.of(row, sees_costs=True)


@router.get("/pricing/items/{int:item_id}/price", response=shapes.PricedOut, auth=Needs(Action.SEE_ORDERS))
def price_of(
    request: HttpRequest, item_id: Key, quantity: Quantity = Decimal(1), customer_id: AskedKey | None = None,
    day: date | None = None,
) -> shapes.PricedOut:  # fmt: skip
    """What one unit costs a customer on a day, buying so many; and where that comes from."""
    asked = [(queries.item(item_id), quantity)]
    [found] = queries.prices_for(asked, day=day or queries.today(), customer_id=customer_id)
    return shapes.PricedOut(price=found.price, source=wording.source(found))


@router.get("/pricing/lists", response=list[shapes.PriceListOut], auth=Needs(Action.SEE_ORDERS))
def lists(request: HttpRequest) -> list[PriceList]:
    """Lists of prices that customers belong to."""
    return queries.lists()


@router.post("/pricing/lists", response={201: shapes.PriceListOut}, auth=Needs(Action.CHANGE_SETTINGS))
def add_list(request: HttpRequest, body: shapes.PriceListIn) -> Status[PriceList]:
    """A new list."""
    made = commands.put_list(actor=actor_of(request), now=clock.now(), name=body.name, retired=body.retired)
    return Status(201, queries.price_list(made.pk))


@router.put("/pricing/lists/{int:list_id}", response=shapes.PriceListOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_list(request: HttpRequest, list_id: Key, body: shapes.PriceListChangeIn) -> PriceList:
    """Another name, or no longer offered."""
    commands.change_list(
        actor=actor_of(request), now=clock.now(), list_id=list_id, version=body.version, name=body.name,
        retired=body.retired,
    )  # fmt: skip
    return queries.price_list(list_id)


@router.get("/pricing/prices", response=list[shapes.PriceOut], auth=Needs(Action.SEE_ORDERS))
def prices(
    request: HttpRequest, list_id: AskedKey | None = None, customer_id: AskedKey | None = None
) -> list[shapes.PriceOut]:
    """Prices of a list or a customer, or those of everybody, that hold today or will."""
    return [shapes.PriceOut.of(row) for row in queries.prices(list_id=list_id, customer_id=customer_id)]


@router.post("/pricing/prices", response={201: shapes.PriceOut}, auth=Needs(Action.CHANGE_SETTINGS))
def set_price(request: HttpRequest, body: shapes.SetPriceIn) -> Status[shapes.PriceOut]:
    """What an item costs from a day on."""
    row = commands.set_price(
        actor=actor_of(request), now=clock.now(), item_id=body.item_id, price=body.price, valid_from=body.valid_from,
        least=body.least, holder=PriceHolder(list_id=body.list_id, customer_id=body.customer_id),
    )  # fmt: skip
    return Status(201, shapes.PriceOut.of(row))


@router.delete("/pricing/prices/{int:price_id}", response={204: None}, auth=Needs(Action.CHANGE_SETTINGS))
def end_price(request: HttpRequest, price_id: Key) -> Status[None]:
    """Let a price hold no more from today on."""
    commands.end_price(actor=actor_of(request), now=clock.now(), price_id=price_id)
    return Status(204, None)


@router.post("/pricing/raise", response=list[shapes.RaisedOut], auth=Needs(Action.CHANGE_SETTINGS))
def raise_prices(request: HttpRequest, body: shapes.RaiseIn) -> list[shapes.RaisedOut]:
    """Change a list by percent or amount from a day on; told first, then done."""
    found = commands.raise_list(
        actor=actor_of(request), now=clock.now(), valid_from=body.valid_from, sure=body.sure,
        holder=PriceHolder(list_id=body.list_id, customer_id=body.customer_id),
        change=Raise(percent=body.percent, amount=body.amount, step=body.step),
    )  # fmt: skip
    return [
        shapes.RaisedOut(
            item_id=one.row.item_id, wording=one.row.item.wording, least=one.row.least, before=one.before,
            after=one.after,
        )
        for one in found
    ]  # fmt: skip


@router.get("/pricing/terms/{int:customer_id}", response=shapes.CustomerTermsIn, auth=Needs(Action.SEE_CUSTOMERS))
def terms(request: HttpRequest, customer_id: Key) -> CustomerTerms:
    """What a customer pays by."""
    found = CustomerTerms.objects.filter(customer_id=customer_id).first()
    # As quotes do for whom nothing is said: private people read prices with tax.
    return found or CustomerTerms(customer_id=customer_id, reads_with_tax=True)


@router.put("/pricing/terms/{int:customer_id}", response=shapes.CustomerTermsIn, auth=Needs(Action.CHANGE_CUSTOMERS))
def set_terms(request: HttpRequest, customer_id: Key, body: shapes.CustomerTermsIn) -> CustomerTerms:
    """Another list, or a reason why no tax is due."""
    return commands.set_terms(actor=actor_of(request), now=clock.now(), customer_id=customer_id, **body.dict())


@router.get("/pricing/discounts", response=list[shapes.NamedDiscountOut], auth=Needs(Action.USE))
def discounts(request: HttpRequest, retired: bool = False) -> list[shapes.NamedDiscountOut]:
    """Discounts the company gives by name."""
    return [_discount(row) for row in queries.discounts(retired=retired)]


@router.post("/pricing/discounts", response={201: shapes.NamedDiscountOut}, auth=Needs(Action.CHANGE_SETTINGS))
def add_discount(request: HttpRequest, body: shapes.NamedDiscountIn) -> Status[shapes.NamedDiscountOut]:
    """A new discount."""
    row = commands.put_discount(actor=actor_of(request), now=clock.now(), fields=body.fields())
    return Status(201, _discount(row))


@router.put(
    "/pricing/discounts/{int:discount_id}", response=shapes.NamedDiscountOut, auth=Needs(Action.CHANGE_SETTINGS)
)
def change_discount(
    request: HttpRequest, discount_id: Key, body: shapes.NamedDiscountChangeIn
) -> shapes.NamedDiscountOut:
    """Another amount, end or name; documents that exist keep theirs."""
    row = commands.put_discount(
        actor=actor_of(request), now=clock.now(), fields=body.fields(), discount_id=discount_id, version=body.version
    )
    return _discount(row)


def _discount(row: NamedDiscount) -> shapes.NamedDiscountOut:
    names = ("version", "name", "percent", "amount", "valid_until", "times", "retired", "key", "given")
    problem = commands.problem_of(row, queries.today())
    return shapes.NamedDiscountOut(id=row.pk, problem=problem, **{name: getattr(row, name) for name in names})


@router.get("/pricing/charging", response=shapes.ChargingOut, auth=Needs(Action.SEE_ORDERS))
def charging_rules(request: HttpRequest) -> shapes.ChargingOut:
    """How labour and journeys are charged."""
    return shapes.ChargingOut.of(charging.charging())


@router.put("/pricing/charging", response=shapes.ChargingOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_charging(request: HttpRequest, body: shapes.ChargingIn) -> shapes.ChargingOut:
    """Other rules; lines that exist keep theirs."""
    row = commands.put_charging(actor=actor_of(request), now=clock.now(), version=body.version, fields=body.fields())
    return shapes.ChargingOut.of(row)
