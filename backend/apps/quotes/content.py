"""The content of a quote: as it is typed, as it is kept, as the core counts it, as it is frozen for the customer."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any

from apps.pricing.documents import (
    Buyer,
    counted,
    discount_fields,
    discount_of,
    filled,
    frozen,
    holding,
    kept_discount,
    line_fields,
)
from apps.quotes.inputs import ContentFields, OptionFields
from core.quotes import MOST_OPTIONS, Deposit, Option
from foundation.errors import Rejected

Kept = dict[str, Any]


def kept(fields: ContentFields, buyer: Buyer, *, before: Mapping[str, Any] | None = None) -> Kept:
    """The content as it is kept, with prices for the buyer.

    Raises
    ------
    Rejected
        When something in it cannot be.
    """
    if len(fields.options) > MOST_OPTIONS:
        raise Rejected(f"At most {MOST_OPTIONS} ways to choose from.", field="options")
    if len({option.key for option in fields.options}) < len(fields.options):
        raise Rejected("Two of the ways have the same key.", field="options")
    try:
        Deposit(percent=fields.deposit_percent, amount=fields.deposit_amount)
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize(), field="deposit") from error
    was = {option["key"]: option["lines"] for option in (before or {}).get("options", ())}
    return {
        "scope": fields.scope.strip(), "introduction": fields.introduction.strip(),
        "closing": fields.closing.strip(), "terms": fields.terms.strip(),
        "technician_note": fields.technician_note.strip(), "days": fields.days,
        "deposit": {"percent": f"{fields.deposit_percent.normalize():f}", "amount": fields.deposit_amount},
        "pictures": list(fields.pictures),
        "options": [_kept_option(option, buyer, was.get(option.key, ())) for option in fields.options],
    }  # fmt: skip


def _kept_option(option: OptionFields, buyer: Buyer, before: Sequence[Mapping[str, Any]]) -> Kept:
    keys = [line.key for line in option.lines]
    if len(set(keys)) < len(keys):
        raise Rejected("Two lines have the same key.", field="lines")
    return {
        "key": option.key, "name": " ".join(option.name.split()), "summary": option.summary.strip(),
        "lines": filled(option.lines, buyer, before=before),
        "discounts": [kept_discount(one) for one in option.discounts],
        "duration_seconds": option.duration_seconds, "crew": option.crew,
    }  # fmt: skip


def typed(content: Mapping[str, Any]) -> ContentFields:
    """Kept content as it would be typed again: prices that nobody typed are looked up anew."""
    deposit = content["deposit"]
    names = ("scope", "introduction", "closing", "terms", "technician_note", "days")
    return ContentFields(
        **{name: content[name] for name in names}, deposit_percent=Decimal(deposit["percent"]),
        deposit_amount=deposit["amount"], pictures=tuple(content["pictures"]),
        options=tuple(
            OptionFields(
                key=option["key"], name=option["name"], summary=option["summary"],
                lines=tuple(line_fields(row, number) for number, row in enumerate(option["lines"])),
                discounts=tuple(discount_fields(row) for row in option["discounts"]),
                duration_seconds=option["duration_seconds"], crew=option["crew"],
            )
            for option in content["options"]
        ),
    )  # fmt: skip


def options_of(content: Mapping[str, Any], buyer: Buyer) -> tuple[Option, ...]:
    """The options as the core counts them: with the tax that was frozen, else as it is for the buyer."""
    return tuple(
        Option(
            key=option["key"], name=option["name"], summary=option["summary"],
            lines=counted(option["lines"], buyer),
            discounts=tuple(holding([discount_of(row) for row in option["discounts"]], buyer.day)),
        )
        for option in content["options"]
    )  # fmt: skip


def deposit_of(content: Mapping[str, Any]) -> Deposit:
    return Deposit(percent=Decimal(content["deposit"]["percent"]), amount=content["deposit"]["amount"])


@dataclass(frozen=True, kw_only=True)
class Letterhead:
    """Who offers, to whom, as it stands on the paper."""

    number: str
    version: int
    title: str
    day: date
    valid_until: date
    currency: str
    company: Mapping[str, str]
    customer: str
    contact: str
    site: str
    address: str
    equipment: str
    author: str
    with_tax: bool


def frozen_content(content: Mapping[str, Any], buyer: Buyer, head: Letterhead) -> Kept:
    """All the customer reads, for good: no later change of a price, a tax or an address reaches it. What is not for
    customers (costs, efforts, notes to technicians) stays behind."""
    options = []
    for option in content["options"]:
        lines = [
            {name: value for name, value in row.items() if name not in ("cost", "effort", "source", "typed")}
            for row in frozen(option["lines"], buyer)
        ]
        held = [row for row in option["discounts"] if discount_of(row).holds_on(buyer.day)]
        options.append({**option, "lines": lines, "discounts": held})
    plain = {name: content[name] for name in ("scope", "introduction", "closing", "terms", "deposit", "pictures")}
    return {
        **plain, "options": options, "number": head.number, "version": head.version, "title": head.title,
        "day": head.day.isoformat(), "valid_until": head.valid_until.isoformat(), "currency": head.currency,
        "company": dict(head.company), "customer": head.customer, "contact": head.contact, "site": head.site,
        "address": head.address, "equipment": head.equipment, "author": head.author, "with_tax": head.with_tax,
    }  # fmt: skip
