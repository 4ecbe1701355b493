"""Tax codes, the price list, lists of prices and discounts from files."""

from collections.abc import Sequence
from datetime import date
from decimal import Decimal

from apps.company.queries import company
from apps.pricing import commands
from apps.pricing.inputs import ItemFields, NamedDiscountFields, PriceHolder, TaxFields
from apps.pricing.models import Item, NamedDiscount, Price, PriceList, TaxCode
from apps.pricing.queries import today
from apps.set_up.rows import Becomes, Hand, SetUpRow, each
from core.pricing import Category, ItemKind, amount_of
from foundation.errors import Rejected

# A rate that has no day in the file holds since then.
ALWAYS = date(2001, 1, 1)


def write_tax_codes(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By name: one that is known gets the rate from its day on, besides those it has."""

    def write(row: SetUpRow) -> Becomes:
        known = TaxCode.objects.filter(name__iexact=row.text("name")).first()
        kept = None if known is None else _fields_of(known)
        rates = {day: percent for percent, day in kept.rates} if kept else {}
        if (percent := row.get("percent", None)) is not None:
            rates[row.get("from_day", None) or ALWAYS] = percent
        fields = TaxFields(
            name=kept.name if kept else row.text("name"), category=row.cells["category"],
            reason=row.text("reason", kept.reason if kept else ""), retired=kept.retired if kept else False,
            rates=[(percent, day) for day, percent in sorted(rates.items())],
        )  # fmt: skip
        if known is None:
            commands.put_tax_code(**hand.how, fields=fields)
            return Becomes.NEW
        if fields == kept:
            return Becomes.SAME
        commands.put_tax_code(**hand.how, fields=fields, code_id=known.pk, version=known.version)
        return Becomes.CHANGE

    each(rows, write)


def _fields_of(row: TaxCode) -> TaxFields:
    rates = [(Decimal(rate["percent"]), date.fromisoformat(rate["valid_from"])) for rate in row.rates]
    return TaxFields(
        name=row.name, category=Category(row.category), reason=row.reason, rates=rates, retired=row.retired
    )


def write_items(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By wording: one that is known is changed; columns that are not in the file stay as they are."""
    currency = company().currency
    codes = {name.casefold(): row.key for row in TaxCode.objects.all() for name in (row.name, row.key)}

    def write(row: SetUpRow) -> Becomes:
        known = Item.objects.select_related("tax").filter(wording__iexact=row.text("wording")).first()
        fields = _item_fields(row, known, codes, currency)
        if known is None:
            commands.put_item(**hand.how, fields=fields)
            return Becomes.NEW
        if fields == _item_of(known):
            return Becomes.SAME
        commands.put_item(**hand.how, fields=fields, item_id=known.pk, version=known.version)
        return Becomes.CHANGE

    each(rows, write)


def _item_of(row: Item) -> ItemFields:
    return ItemFields(
        kind=ItemKind(row.kind), wording=row.wording, unit=row.unit, price=row.price, tax=row.tax.key, cost=row.cost,
        effort=row.effort, retired=row.retired,
    )  # fmt: skip


def _item_fields(row: SetUpRow, known: Item | None, codes: dict[str, str], currency: str) -> ItemFields:
    tax = codes.get(row.text("tax").casefold())
    if tax is None:
        raise Rejected(f"there is no tax code “{row.text('tax')}”: bring in tax codes first")
    kept = None if known is None else _item_of(known)
    cost = kept.cost if kept and "cost" not in row.cells else _cost(row.text("cost"), currency)
    return ItemFields(
        kind=row.cells["kind"], wording=kept.wording if kept else row.text("wording"),
        unit=row.get("unit", kept.unit if kept else None) or "C62", price=_amount(row.text("price"), currency),
        tax=tax, cost=cost, effort=row.get("labour_hours", kept.effort if kept else None),
        retired=bool(row.get("retired", kept.retired if kept else False)),
    )  # fmt: skip


def _cost(text: str, currency: str) -> int | None:
    return _amount(text, currency) if text else None


def _amount(text: str, currency: str) -> int:
    try:
        return amount_of(text, currency)
    except ValueError as error:
        raise Rejected(str(error)) from error


def write_list_prices(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By list and item: a price from a day on, from a quantity on; a list that is not there yet is made."""
    currency = company().currency

    def write(row: SetUpRow) -> Becomes:
        item = Item.objects.filter(wording__iexact=row.text("item")).first()
        if item is None:
            raise Rejected(f"“{row.text('item')}” is not on the price list: bring that in first")
        listed = PriceList.objects.filter(name__iexact=row.text("list")).first()
        if listed is None:
            listed = commands.put_list(**hand.how, name=row.text("list"))
        price, least = _amount(row.text("price"), currency), row.get("least", None) or Decimal(0)
        since = row.get("from_day", None) or today()
        known = Price.objects.filter(list=listed, item=item, least=least)
        if known.filter(valid_from=since, price=price).exists():
            return Becomes.SAME
        is_new = not known.exists()
        holder = PriceHolder(list_id=listed.pk)
        commands.set_price(**hand.how, item_id=item.pk, holder=holder, price=price, valid_from=since, least=least)
        return Becomes.NEW if is_new else Becomes.CHANGE

    # The first to begin first: a price that is set gives up what was to begin after it.
    each(sorted(rows, key=lambda row: row.get("from_day", None) or today()), write)


def write_discounts(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By name: percent or an amount, until a day, so many times."""
    currency = company().currency

    def write(row: SetUpRow) -> Becomes:
        known = NamedDiscount.objects.filter(name__iexact=row.text("name")).first()
        amount = row.text("amount")
        fields = NamedDiscountFields(
            name=known.name if known else row.text("name"), percent=row.get("percent", None) or Decimal(0),
            amount=_amount(amount, currency) if amount else 0, valid_until=row.get("until_day", None),
            times=row.get("times", None), retired=known.retired if known else False,
        )  # fmt: skip
        if known is None:
            commands.put_discount(**hand.how, fields=fields)
            return Becomes.NEW
        if fields == _discount_of(known):
            return Becomes.SAME
        commands.put_discount(**hand.how, fields=fields, discount_id=known.pk, version=known.version)
        return Becomes.CHANGE

    each(rows, write)


def _discount_of(row: NamedDiscount) -> NamedDiscountFields:
    return NamedDiscountFields(
        name=row.name, percent=row.percent, amount=row.amount, valid_until=row.valid_until, times=row.times,
        retired=row.retired,
    )  # fmt: skip
