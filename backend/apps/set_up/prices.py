"""Tax codes and the price list from files."""

from collections.abc import Sequence
from datetime import date
from decimal import Decimal

from apps.company.queries import company
from apps.pricing import commands
from apps.pricing.inputs import ItemFields, TaxFields
from apps.pricing.models import Item, TaxCode
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
