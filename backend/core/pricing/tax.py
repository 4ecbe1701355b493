"""Tax codes: categories as electronic invoices name them, and rates that change on days."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from enum import StrEnum
from functools import cached_property


class Category(StrEnum):
    """Kinds of tax; `code` is the one of UNCL 5305 that EN 16931 asks for."""

    STANDARD = "standard"
    REDUCED = "reduced"
    ZERO = "zero"
    EXEMPT = "exempt"
    REVERSE_CHARGE = "reverse charge"
    OUTSIDE_SCOPE = "outside scope"

    @property
    def code(self) -> str:
        return _CODES[self]

    @property
    def has_rate(self) -> bool:
        """Whether a rate above nothing can belong to it."""
        return self in (Category.STANDARD, Category.REDUCED)

    @property
    def needs_reason(self) -> bool:
        """Whether a document has to say why no tax is due (EN 16931: BR-E-10, BR-AE-10, BR-O-10)."""
        return self in (Category.EXEMPT, Category.REVERSE_CHARGE, Category.OUTSIDE_SCOPE)


_CODES = {
    Category.STANDARD: "S",
    Category.REDUCED: "S",
    Category.ZERO: "Z",
    Category.EXEMPT: "E",
    Category.REVERSE_CHARGE: "AE",
    Category.OUTSIDE_SCOPE: "O",
}


@dataclass(frozen=True, kw_only=True)
class Rate:
    """So many percent from a day on."""

    percent: Decimal
    valid_from: date


@dataclass(frozen=True, kw_only=True)
class TaxCode:
    """How something is taxed.

    Attributes
    ----------
    rates : by the day from which they hold; a category without a rate has none.
    reason : why no tax is due, where the category needs one.

    Raises
    ------
    ValueError
        When it cannot be, with a sentence.
    """

    key: str
    name: str
    category: Category
    rates: tuple[Rate, ...] = ()
    reason: str = ""

    def __post_init__(self) -> None:
        if self.category.has_rate and not self.rates:
            raise ValueError(f"{self.name} needs a rate")
        if not self.category.has_rate and any(rate.percent for rate in self.rates):
            raise ValueError(f"{self.category.value} has no rate")
        if any(not 0 <= rate.percent < 100 for rate in self.rates):
            raise ValueError("a rate is from 0 to below 100 percent")
        if len({rate.valid_from for rate in self.rates}) < len(self.rates):
            raise ValueError("two rates begin on one day")
        if self.category.needs_reason and not self.reason.strip():
            raise ValueError(f"{self.category.value} needs a reason, for documents say it")

    def percent_on(self, day: date) -> Decimal:
        """The rate on a day; before the first one begins, that first one."""
        return _on(self.rates, day)


def _on(rates: Sequence[Rate], day: date) -> Decimal:
    if not rates:
        return Decimal(0)
    ordered = sorted(rates, key=lambda rate: rate.valid_from)
    return next((rate.percent for rate in reversed(ordered) if rate.valid_from <= day), ordered[0].percent)


@dataclass(frozen=True, kw_only=True)
class Exemption:
    """Why a customer pays no tax, by which paper, and until when (the last day; None: for good)."""

    reason: str
    number: str = ""
    valid_until: date | None = None
    category: Category = Category.EXEMPT

    def holds_on(self, day: date) -> bool:
        return self.valid_until is None or day <= self.valid_until


@dataclass(frozen=True, kw_only=True)
class Taxed:
    """How a line is taxed in the end: category, percent, and the reason where there is none."""

    category: Category
    percent: Decimal
    reason: str = ""

    @cached_property
    def key(self) -> tuple[Category, Decimal, str]:
        """What is taxed together: 23 % and 23.0 % are the same."""
        return self.category, self.percent.normalize() + 0, self.reason


def taxed(code: TaxCode, day: date, exemption: Exemption | None = None) -> Taxed:
    """How something with this code is taxed on a day for a customer, who may be exempt."""
    if exemption is not None and exemption.holds_on(day) and code.category.has_rate:
        number = f" ({exemption.number})" if exemption.number else ""
        return Taxed(category=exemption.category, percent=Decimal(0), reason=f"{exemption.reason}{number}")
    return Taxed(category=code.category, percent=code.percent_on(day), reason=code.reason)
