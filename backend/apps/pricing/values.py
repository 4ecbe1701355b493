"""Rows of pricing as values of the core."""

from collections.abc import Iterable, Mapping
from datetime import date
from decimal import Decimal
from typing import Any

from apps.pricing import models
from core.pricing import Category, Holder, Item, ItemKind, PriceBook, PriceRow, Rate, TaxCode


def tax_code(row: models.TaxCode) -> TaxCode:
    return TaxCode(
        key=row.key, name=row.name, category=Category(row.category), reason=row.reason,
        rates=tuple(_rate(one) for one in row.rates),
    )  # fmt: skip


def _rate(stored: Mapping[str, Any]) -> Rate:
    return Rate(percent=Decimal(stored["percent"]), valid_from=date.fromisoformat(stored["valid_from"]))


def item(row: models.Item) -> Item:
    return Item(
        key=row.key, kind=ItemKind(row.kind), wording=row.wording, unit=row.unit, price=row.price, cost=row.cost,
        effort=row.effort, tax_code=row.tax.key, retired=row.retired,
    )  # fmt: skip


def price_row(row: models.Price, key: str) -> PriceRow:
    """`key`: of its item."""
    holder, holder_key = Holder.STANDARD, None
    if row.list_id is not None:
        holder, holder_key = Holder.LIST, row.list_id
    elif row.customer_id is not None:
        holder, holder_key = Holder.CUSTOMER, row.customer_id
    return PriceRow(
        item=key, holder=holder, holder_key=holder_key, price=row.price, valid_from=row.valid_from,
        valid_until=row.valid_until, least=row.least,
    )  # fmt: skip


def book(rows: Iterable[models.Price]) -> PriceBook:
    """Prices with their items, looked up by the core."""
    return PriceBook(price_row(row, row.item.key) for row in rows)
