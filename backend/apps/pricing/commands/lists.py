"""Lists of prices, and prices that hold from a day on: what held before that day stays as it was."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal

from django.db import transaction
from django.db.models import Q, QuerySet

from apps.customers.models import Customer
from apps.pricing import queries, values
from apps.pricing.inputs import PriceHolder
from apps.pricing.models import CustomerTerms, Item, Price, PriceList
from core.pricing import Raise, raised
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def put_list(*, actor: Actor, now: datetime, name: str, retired: bool = False) -> PriceList:
    """A new list."""
    require(actor, Action.CHANGE_SETTINGS)
    return _write(actor, now, PriceList(version=0), name, retired)


@transaction.atomic
def change_list(*, actor: Actor, now: datetime, list_id: int, version: int, name: str, retired: bool) -> PriceList:
    """Another name, or no longer offered. Whoever belongs to it goes on belonging to it."""
    require(actor, Action.CHANGE_SETTINGS)
    return _write(actor, now, _locked_list(list_id, version), name, retired)


@transaction.atomic
def set_price(
    *, actor: Actor, now: datetime, item_id: int, holder: PriceHolder, price: int, valid_from: date,
    least: Decimal = Decimal(0),
) -> Price:  # fmt: skip
    """What an item costs from a day on; what was to begin later is given up.

    Raises
    ------
    Rejected
        For a day that is over, or an amount or quantity below nothing.
    """
    require(actor, Action.CHANGE_SETTINGS)
    _check_from(valid_from)
    if least < 0:
        raise Rejected("A quantity is not negative.", field="least")
    item = Item.objects.select_for_update(of=("self",)).filter(pk=item_id).first()
    if item is None:
        raise NotFound("There is no such item.", code="no_item")
    if price < 0:
        raise Rejected("A price is not negative.", field="price")
    _check_holder(holder)
    rows = _rows(holder).filter(item=item, least=least)
    rows.filter(valid_from__gte=valid_from).delete()
    rows.filter(Q(valid_until__isnull=True) | Q(valid_until__gt=valid_from)).update(valid_until=valid_from)
    made = Price.objects.create(
        item=item, list_id=holder.list_id, customer_id=holder.customer_id, price=price, valid_from=valid_from,
        least=least,
    )  # fmt: skip
    _tell(actor, now, "item", item.pk, f"set a price of {item.wording} from {valid_from.isoformat()} on")
    return made


@transaction.atomic
def end_price(*, actor: Actor, now: datetime, price_id: int) -> None:
    """Let a price hold no more from today on; what comes next in order holds then."""
    require(actor, Action.CHANGE_SETTINGS)
    row = Price.objects.select_for_update(of=("self",)).select_related("item").filter(pk=price_id).first()
    if row is None:
        raise NotFound("There is no such price (any more).", code="no_price")
    day = queries.today()
    if row.valid_from >= day:
        row.delete()
    else:
        row.valid_until = day
        row.save(update_fields=["valid_until"])
    _tell(actor, now, "item", row.item_id, f"ended a price of {row.item.wording}")


@dataclass(frozen=True, kw_only=True)
class RaisedPrice:
    """A price as it is and as it is from the day on."""

    row: Price
    before: int
    after: int


@transaction.atomic
def raise_list(
    *, actor: Actor, now: datetime, holder: PriceHolder, change: Raise, valid_from: date, sure: bool
) -> list[RaisedPrice]:
    """Change all prices of a list (or everybody's) by percent or amount from a day on.

    Parameters
    ----------
    sure
        Whether it is meant; otherwise nothing is written, and only what would become of each price is told.

    Raises
    ------
    Rejected
        For a day that is over, a change of nothing, or a list without prices.
    """
    require(actor, Action.CHANGE_SETTINGS)
    _check_from(valid_from)
    if not change.percent and not change.amount:
        raise Rejected("Say by how much.", field="percent")
    _check_holder(holder)
    rows = {values.price_row(row, row.item.key): row for row in _with_standard(holder)}
    changes = raised(rows, change, valid_from=valid_from)
    if not changes:
        raise Rejected("There are no prices on it (yet).", field="list_id")
    found = [RaisedPrice(row=rows[one.before], before=one.before.price, after=one.after.price) for one in changes]
    if sure:
        # The first to begin first: what a price ends, the next one sets again.
        for one in sorted(changes, key=lambda one: one.after.valid_from):
            row = rows[one.before]
            set_price(
                actor=actor, now=now, item_id=row.item_id, holder=holder, price=one.after.price,
                valid_from=one.after.valid_from, least=one.after.least,
            )  # fmt: skip
    return found


def _with_standard(holder: PriceHolder) -> Sequence[Price]:
    """The rows that hold from today on. Of everybody's prices also those that items have themselves."""
    held = _rows(holder).filter(Q(valid_until__isnull=True) | Q(valid_until__gt=queries.today()))
    rows = list(held.select_related("item").order_by("valid_from", "pk"))
    if holder != PriceHolder():
        return rows
    named = {row.item_id for row in rows if row.least == 0}
    plain = Item.objects.filter(retired=False).exclude(pk__in=named)
    return [*rows, *(Price(item=item, price=item.price, valid_from=date.min, least=Decimal(0)) for item in plain)]


def _rows(holder: PriceHolder) -> QuerySet[Price]:
    return Price.objects.filter(queries.held_by(holder.list_id, holder.customer_id))


def _check_from(valid_from: date) -> None:
    if valid_from < queries.today():
        raise Rejected("What was told stays as it was: begin today or later.", field="valid_from")


def _check_holder(holder: PriceHolder) -> None:
    if holder.list_id is not None and holder.customer_id is not None:
        raise Rejected("A price is a list's or a customer's.", field="list_id")
    if holder.list_id is not None and not PriceList.objects.filter(pk=holder.list_id).exists():
        raise NotFound("There is no such list (any more).", code="no_list")
    if holder.customer_id is not None and not Customer.objects.filter(pk=holder.customer_id).exists():
        raise NotFound("There is no such customer.", code="no_customer")


@transaction.atomic
def set_terms(
    *, actor: Actor, now: datetime, customer_id: int, list_id: int | None, reads_with_tax: bool = False,
    exempt_reason: str = "", exempt_number: str = "", exempt_until: date | None = None,
) -> CustomerTerms:  # fmt: skip
    """What a customer pays by.

    Raises
    ------
    Rejected
        For a number or end of an exemption that has no reason.
    """
    require(actor, Action.CHANGE_CUSTOMERS)
    _check_holder(PriceHolder(customer_id=customer_id))
    _check_holder(PriceHolder(list_id=list_id))
    if (exempt_number.strip() or exempt_until) and not exempt_reason.strip():
        raise Rejected("Say why no tax is due: documents say it.", field="exempt_reason")
    terms, _made = CustomerTerms.objects.update_or_create(
        customer_id=customer_id,
        defaults={
            "list_id": list_id, "reads_with_tax": reads_with_tax, "exempt_reason": exempt_reason.strip(),
            "exempt_number": exempt_number.strip(), "exempt_until": exempt_until,
        },
    )  # fmt: skip
    _tell(actor, now, "customer", customer_id, "set what the customer pays by")
    return terms


def _locked_list(list_id: int, version: int) -> PriceList:
    row = PriceList.objects.select_for_update().filter(pk=list_id).first()
    if row is None:
        raise NotFound("There is no such list (any more).", code="no_list")
    if row.version != version:
        raise Conflict(f"{row.name} was changed meanwhile. Look at it again.", current_version=row.version)
    return row


def _write(actor: Actor, now: datetime, row: PriceList, name: str, retired: bool) -> PriceList:
    name = " ".join(name.split())
    if not name:
        raise Rejected("A list needs a name.", field="name")
    if PriceList.objects.filter(name__iexact=name).exclude(pk=row.pk).exists():
        raise Rejected(f"There is a list called {name} already.", field="name")
    row.name, row.retired, row.version = name, retired, row.version + 1
    row.save()
    _tell(actor, now, "price list", row.pk, f"set the list of prices {name}")
    return row


def _tell(actor: Actor, now: datetime, entity: str, key: int, sentence: str) -> None:
    audit.record(actor=actor, now=now, action="price", entity=entity, entity_id=key, sentence=sentence[:300])
    live.announce("pricing")
