"""Reading prices."""

from collections.abc import Collection, Iterable
from datetime import date, datetime
from decimal import Decimal

from django.db.models import Count, Q

from apps.company.queries import time_zone
from apps.pricing import values
from apps.pricing.models import CustomerTerms, Item, NamedDiscount, Price, PriceList, TaxCode
from core.calendars import local_day
from core.pricing import PriceFound
from foundation import clock
from foundation.errors import NotFound


def today() -> date:
    return day_of(clock.now())


def day_of(moment: datetime) -> date:
    """The company's date at a moment."""
    return local_day(int(moment.timestamp()), time_zone())


def tax_codes(*, retired: bool = False) -> list[TaxCode]:
    """By name; retired ones only where they are asked for."""
    rows = TaxCode.objects.order_by("name")
    return list(rows if retired else rows.filter(retired=False))


def items(*, retired: bool = False) -> list[Item]:
    """The price list, by kind and wording; retired items only where they are asked for."""
    rows = Item.objects.select_related("tax").order_by("kind", "wording")
    return list(rows if retired else rows.filter(retired=False))


def item(item_id: int) -> Item:
    found = Item.objects.select_related("tax").filter(pk=item_id).first()
    if found is None:
        raise NotFound("There is no such item.", code="no_item")
    return found


def discounts(*, retired: bool = False) -> list[NamedDiscount]:
    """Discounts by name; retired ones only where they are asked for."""
    rows = NamedDiscount.objects.order_by("name")
    return list(rows if retired else rows.filter(retired=False))


def lists() -> list[PriceList]:
    """By name, with how many prices they have today and how many customers belong to them."""
    day = today()
    holds = Q(prices__valid_from__lte=day) & (Q(prices__valid_until__isnull=True) | Q(prices__valid_until__gt=day))
    counted = PriceList.objects.annotate(
        price_count=Count("prices", filter=holds, distinct=True), customer_count=Count("customers", distinct=True)
    )
    return list(counted.order_by("name"))


def price_list(list_id: int) -> PriceList:
    for row in lists():
        if row.pk == list_id:
            return row
    raise NotFound("There is no such list.", code="no_list")


def held_by(list_id: int | None, customer_id: int | None) -> Q:
    """Prices of a list or a customer; of neither, everybody's."""
    of_list = Q(list__isnull=True) if list_id is None else Q(list_id=list_id)
    return of_list & (Q(customer__isnull=True) if customer_id is None else Q(customer_id=customer_id))


def prices(*, list_id: int | None = None, customer_id: int | None = None) -> list[Price]:
    """Prices of a list or a customer, or those of everybody, that hold today or will, by item, quantity and day."""
    rows = Price.objects.filter(held_by(list_id, customer_id)).select_related("item__tax")
    held = rows.filter(Q(valid_until__isnull=True) | Q(valid_until__gt=today()))
    return list(held.order_by("item__kind", "item__wording", "least", "valid_from"))


def with_own_prices(customer_ids: Collection[int]) -> set[int]:
    """Those of these customers who do not simply pay what everybody does."""
    listed = CustomerTerms.objects.filter(customer_id__in=customer_ids).values_list("customer_id", flat=True)
    own = Price.objects.filter(customer_id__in=customer_ids).values_list("customer_id", flat=True)
    return {key for key in (*listed, *own) if key is not None}


def prices_for(asked: Iterable[tuple[Item, Decimal]], *, day: date, customer_id: int | None = None) -> list[PriceFound]:
    """What one unit of each item costs a customer on a day, buying so many; in three queries however many there are."""
    asked = list(asked)
    list_id, holders = None, held_by(None, None)
    if customer_id is not None:
        list_id = CustomerTerms.objects.filter(customer_id=customer_id).values_list("list_id", flat=True).first()
        holders |= held_by(None, customer_id)
    if list_id is not None:
        holders |= held_by(list_id, None)
    rows = Price.objects.filter(holders, item__in={row.pk for row, _quantity in asked}).select_related("item")
    book = values.book(rows)
    return [book.price(values.item(row), quantity, day, customer=customer_id, list_=list_id) for row, quantity in asked]
