"""Lines of documents (job types, orders, quotes): as they are typed, as they are kept, as the core counts them."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date
from decimal import Decimal
from functools import cached_property
from typing import Any

from apps.pricing import models, queries, values, wording
from apps.pricing.inputs import DiscountFields, LineFields
from core.pricing import UNITS, Category, Discount, Exemption, ItemKind, Line, Taxed, exact_quantity, taxed
from foundation.errors import Rejected

# Without any tax code the company does not tax. The customer reads the reason.
_UNTAXED = Taxed(category=Category.OUTSIDE_SCOPE, percent=Decimal(0), reason="not subject to tax")


@dataclass(frozen=True, kw_only=True)
class Buyer:
    """For whom, and on which day: what decides prices and tax. Reads what it needs once."""

    day: date
    customer_id: int | None = None

    @cached_property
    def terms(self) -> models.CustomerTerms | None:
        return models.CustomerTerms.objects.filter(customer_id=self.customer_id).first() if self.customer_id else None

    @cached_property
    def exemption(self) -> Exemption | None:
        terms = self.terms
        if terms is None or not terms.exempt_reason:
            return None
        return Exemption(reason=terms.exempt_reason, number=terms.exempt_number, valid_until=terms.exempt_until)

    @cached_property
    def codes(self) -> dict[str, models.TaxCode]:
        return {row.key: row for row in models.TaxCode.objects.order_by("retired", "pk")}

    def code(self, key: str) -> str:
        """The key of the tax code that is meant; the first one that is in use where none is named."""
        return key if key in self.codes else next(iter(self.codes), "")

    def taxed(self, key: str) -> Taxed:
        row = self.codes.get(self.code(key))
        return _UNTAXED if row is None else taxed(values.tax_code(row), self.day, self.exemption)


def filled(
    lines: Iterable[LineFields], buyer: Buyer, *, before: Iterable[Mapping[str, Any]] = ()
) -> list[dict[str, Any]]:
    """Lines as they are kept: with wording, unit, price, cost and tax of their items where nobody has said otherwise.

    Parameters
    ----------
    before
        The lines as they were kept: who does not see costs does not lose them. An item that is retired may stay.

    Raises
    ------
    Rejected
        For an item that is not there, or what is no line; with the field.
    """  # fmt: skip
    lines = [line for line in lines if line.wording.strip() or line.item]
    was = {str(row.get("key")): row for row in before}
    wanted = {line.item for line in lines if line.item}
    items = {row.key: row for row in models.Item.objects.select_related("tax").filter(key__in=wanted)}
    for line in lines:
        _check(line, items)
    asked = [(items[line.item], line.quantity) for line in lines if line.item]
    prices = iter(queries.prices_for(asked, day=buyer.day, customer_id=buyer.customer_id) if asked else ())
    names = wording.Holders()
    found = []
    for line in lines:
        item = items.get(line.item)
        price, source = line.unit_price, ""
        if item is not None:
            listed = next(prices)
            price, source = (listed.price, names.source(listed)) if price is None else (price, "")
        found.append(_kept(line, item, price, source, buyer, was.get(line.key, {})))
    return found


def _check(line: LineFields, items: Mapping[str, models.Item]) -> None:
    if line.item and line.item not in items:
        raise Rejected(f"“{line.wording}” is not on the price list any more.", field="lines", code="no_item")
    if line.unit not in UNITS:
        raise Rejected(f"{line.unit} is no unit of the list.", field="lines")
    if exact_quantity(line.quantity) == 0:
        raise Rejected(f"“{line.wording or items[line.item].wording}”: say how many.", field="lines")
    if line.discount is not None:
        _checked_discount(line.discount)


def _checked_discount(fields: DiscountFields) -> Discount:
    try:
        return Discount(name=fields.name, percent=fields.percent, amount=fields.amount, valid_until=fields.valid_until)
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize(), field="discounts") from error


def _kept(
    line: LineFields, item: models.Item | None, price: int | None, source: str, buyer: Buyer, was: Mapping[str, Any]
) -> dict[str, Any]:
    cost = line.cost
    if cost is None:
        cost = item.cost if item is not None else was.get("cost") if not was.get("item") else None
    return {
        "key": line.key,
        "item": line.item,
        "kind": item.kind if item else ItemKind.FIXED.value,
        "wording": " ".join(line.wording.split()) or (item.wording if item else ""),
        "unit": item.unit if item else line.unit,
        "quantity": f"{exact_quantity(line.quantity).normalize():f}",
        "price": price,
        "typed": line.unit_price is not None,
        "source": source,
        "cost": cost,
        "effort": line.effort if line.effort is not None else item.effort if item else None,
        "tax": buyer.code(line.tax or (item.tax.key if item else "")),
        "discount": kept_discount(line.discount) if line.discount else None,
        "tag": line.tag.strip(),
        "optional": line.optional,
        "chosen": line.chosen,
    }


def kept_discount(fields: DiscountFields) -> dict[str, Any]:
    """A discount as it is kept.

    Raises
    ------
    Rejected
        When it is none.
    """
    _checked_discount(fields)
    return {
        **asdict(fields), "name": fields.name.strip(), "percent": f"{fields.percent.normalize():f}",
        "valid_until": fields.valid_until.isoformat() if fields.valid_until else None,
    }  # fmt: skip


def line_fields(row: Mapping[str, Any], number: int = 0) -> LineFields:
    """A kept line as it was typed. Old ones have no more than a description and a quantity."""
    price = row.get("price") if row.get("typed") else None
    discount = row.get("discount")
    return LineFields(
        key=str(row.get("key") or f"l{number}"), wording=str(row.get("wording") or row.get("description") or ""),
        quantity=Decimal(str(row.get("quantity") or 1)), item=str(row.get("item") or ""),
        unit=str(row.get("unit") or "C62"), unit_price=price, cost=row.get("cost"), effort=row.get("effort"),
        tax=str(row.get("tax") or ""), discount=discount_fields(discount) if discount else None,
        tag=str(row.get("tag") or ""), optional=bool(row.get("optional")), chosen=bool(row.get("chosen")),
    )  # fmt: skip


def discount_fields(row: Mapping[str, Any]) -> DiscountFields:
    until = row.get("valid_until")
    return DiscountFields(
        name=str(row["name"]), percent=Decimal(str(row.get("percent") or 0)), amount=int(row.get("amount") or 0),
        valid_until=date.fromisoformat(until) if until else None, key=str(row.get("key") or ""),
    )  # fmt: skip


def counted(rows: Sequence[Mapping[str, Any]], buyer: Buyer) -> tuple[Line, ...]:
    """Kept lines as the core counts them for a buyer; a discount that has ended takes nothing off."""
    return tuple(_line(row, number, buyer) for number, row in enumerate(rows))


def _line(row: Mapping[str, Any], number: int, buyer: Buyer) -> Line:
    discount = row.get("discount")
    return Line(
        key=str(row.get("key") or f"l{number}"), wording=str(row.get("wording") or row.get("description") or ""),
        quantity=Decimal(str(row.get("quantity") or 1)), unit_price=int(row.get("price") or 0),
        tax=taxed_of(row, buyer), unit=str(row.get("unit") or "C62"), item=str(row.get("item") or "") or None,
        kind=ItemKind(row.get("kind") or ItemKind.FIXED),
        discount=next(iter(holding([discount_of(discount)], buyer.day)), None) if discount else None,
        cost=row.get("cost"), effort=row.get("effort"), tag=str(row.get("tag") or ""),
        optional=bool(row.get("optional")), chosen=bool(row.get("chosen")),
    )  # fmt: skip


def taxed_of(row: Mapping[str, Any], buyer: Buyer) -> Taxed:
    """How a kept line is taxed: as it was frozen, else for the buyer on the day."""
    frozen = row.get("taxed")
    if frozen:
        return Taxed(category=Category(frozen["category"]), percent=Decimal(frozen["percent"]), reason=frozen["reason"])
    return buyer.taxed(str(row.get("tax") or ""))


def frozen(rows: Sequence[Mapping[str, Any]], buyer: Buyer) -> list[dict[str, Any]]:
    """Kept lines with their tax as it is now: later changes of codes do not reach them."""
    found = []
    for row in rows:
        tax = taxed_of(row, buyer)
        how = {"category": tax.category.value, "percent": f"{tax.percent.normalize():f}", "reason": tax.reason}
        found.append({**row, "taxed": how})
    return found


def discount_of(row: Mapping[str, Any]) -> Discount:
    return _checked_discount(discount_fields(row))


def holding(discounts: Iterable[Discount], day: date) -> list[Discount]:
    """Those that have not ended."""
    return [discount for discount in discounts if discount.holds_on(day)]


def unpriced(rows: Iterable[Mapping[str, Any]]) -> int:
    """How many lines have no price: nobody typed one, and they are no items."""
    return sum(row.get("price") is None for row in rows)
