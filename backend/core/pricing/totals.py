"""Totals of a document, by the rules of EN 16931-1 (6.4): lines are rounded once, tax is counted on the sum of each
category and rate, and what is taken off or added to the whole is shared among those."""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from fractions import Fraction

from core.pricing.lines import Discount, Line
from core.pricing.money import rounded, share
from core.pricing.tax import Category, Taxed


@dataclass(frozen=True, kw_only=True)
class DocumentCharge:
    """Something added to the whole, such as a fee for paper; taxed as it says."""

    name: str
    amount: int
    tax: Taxed


@dataclass(frozen=True, kw_only=True)
class TaxSum:
    """One category and rate: what is taxed, and the tax (BG-23)."""

    category: Category
    percent: Decimal
    base: int
    tax: int
    reason: str = ""


@dataclass(frozen=True, kw_only=True)
class Totals:
    """A document's sums, in smallest units.

    Attributes
    ----------
    lines : sum of the lines without tax (BT-106).
    off : what discounts on the whole take off (BT-107), by name in `discounts`.
    charges : what is added to the whole (BT-108).
    net : without tax (BT-109).
    tax : all tax (BT-110), by category and rate in `taxes`.
    gross : with tax (BT-112).
    paid : paid already (BT-113).
    due : what is left to pay (BT-115).
    """

    lines: int
    off: int
    charges: int
    net: int
    tax: int
    gross: int
    paid: int
    due: int
    taxes: tuple[TaxSum, ...]
    discounts: tuple[tuple[str, int], ...] = ()


@dataclass(frozen=True, kw_only=True)
class Document:
    """What totals are made of."""

    lines: Sequence[Line]
    discounts: Sequence[Discount] = ()
    charges: Sequence[DocumentCharge] = ()
    paid: int = 0


_Key = tuple[Category, Decimal, str]


@dataclass
class _Sums:
    by_key: defaultdict[_Key, int] = field(default_factory=lambda: defaultdict(int))

    def add(self, tax: Taxed, amount: int) -> None:
        self.by_key[tax.key] += amount

    def ordered(self) -> list[_Key]:
        """In an order that does not depend on the lines'."""
        return sorted(self.by_key, key=lambda key: (key[0].code, -key[1], key[2]))


def totals(document: Document) -> Totals:
    """The sums of a document; lines that are optional and not chosen are no part of them."""
    sums = _Sums()
    counted = [line for line in document.lines if line.counts]
    lines = 0
    for line in counted:
        net = line.net
        sums.add(line.tax, net)
        lines += net
    discounts = tuple(_off(document.discounts, lines))
    off = sum(amount for _name, amount in discounts)
    _take_off(sums, off)
    for charge in document.charges:
        sums.add(charge.tax, charge.amount)
    charges = sum(charge.amount for charge in document.charges)
    taxes = tuple(_taxes(sums))
    net, tax = lines - off + charges, sum(row.tax for row in taxes)
    return Totals(
        lines=lines, off=off, charges=charges, net=net, tax=tax, gross=net + tax, paid=document.paid,
        due=net + tax - document.paid, taxes=taxes, discounts=discounts,
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class WithTax:
    """A document as it is read with tax: what stands at each line (in their order; of those that do not count what they
    would be), and what each discount on the whole takes off, by name. Lines less discounts are the total, to the cent.
    """

    lines: tuple[int, ...]
    discounts: tuple[tuple[str, int], ...]


def read_with_tax(document: Document) -> WithTax:
    """The amounts of a document with their tax, such that they add up to its total.

    Tax is counted on the sum of each rate; what rounding leaves is shared among the lines of that rate by what they
    cost. Lines that give something back keep their own rounding.
    """
    whole = totals(document)
    before = totals(Document(lines=document.lines))
    amounts = [with_tax(line.net, line.tax) for line in document.lines]
    for row in before.taxes:
        at = [number for number, line in enumerate(document.lines) if line.counts and _same_tax(line.tax, row)]
        costs = [number for number in at if document.lines[number].net > 0]
        rest = row.base + row.tax - sum(amounts[number] for number in at if number not in costs)
        if costs and rest >= 0:
            parts = share(rest, [document.lines[number].net for number in costs])
            for number, part in zip(costs, parts, strict=True):
                amounts[number] = part
    charges = sum(with_tax(charge.amount, charge.tax) for charge in document.charges)
    counted = sum(amount for amount, line in zip(amounts, document.lines, strict=True) if line.counts)
    off = counted + charges - whole.gross
    names = [name for name, _amount in whole.discounts]
    parts = share(off, [amount for _name, amount in whole.discounts]) if names and off >= 0 else [0] * len(names)
    return WithTax(lines=tuple(amounts), discounts=tuple(zip(names, parts, strict=True)))


def _same_tax(tax: Taxed, row: TaxSum) -> bool:
    return tax.key == (row.category, row.percent, row.reason)


def discount_given(document: Document) -> Fraction:
    """How much of what its lines cost is taken off, on lines and on the whole, in percent."""
    counted = [line for line in document.lines if line.counts]
    gross = sum(max(0, line.gross) for line in counted)
    off = sum(line.off for line in counted) + totals(document).off
    return Fraction(100 * off, gross) if gross else Fraction(0)


def _off(discounts: Iterable[Discount], lines: int) -> Iterable[tuple[str, int]]:
    """Each is counted on what stood before any: their order is irrelevant; together they take off no more than there
    is."""
    left = max(0, lines)
    # Percentages and amounts in an order of their own, so that the last, which may be cut, is always the same.
    for discount in sorted(discounts, key=lambda one: (one.name, one.percent, one.amount)):
        taken = min(discount.off(lines), left)
        left -= taken
        yield discount.name, taken


def _take_off(sums: _Sums, off: int) -> None:
    """Shared among categories and rates by what each of them has; of a credit nothing is taken."""
    keys = [key for key in sums.ordered() if sums.by_key[key] > 0]
    if not off or not keys:
        return
    for key, part in zip(keys, share(off, [sums.by_key[key] for key in keys]), strict=True):
        sums.by_key[key] -= part


def _taxes(sums: _Sums) -> Iterable[TaxSum]:
    for key in sums.ordered():
        category, percent, reason = key
        base = sums.by_key[key]
        yield TaxSum(
            category=category, percent=percent, base=base, tax=rounded(Fraction(percent) * base / 100), reason=reason
        )


def with_tax(net: int, tax: Taxed) -> int:
    """One amount with its tax, for who reads prices that way."""
    return net + rounded(Fraction(tax.percent) * net / 100)
