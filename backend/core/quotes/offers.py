"""What a quote offers: worked-out alternatives of which the customer takes one, with lines to tick."""

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from fractions import Fraction
from math import ceil

from core.pricing import Discount, Document, Line, Totals, discount_given, rounded, totals

MOST_OPTIONS = 4


@dataclass(frozen=True, kw_only=True)
class Option:
    """One way to do it. `key` never changes within a quote."""

    key: str
    name: str
    lines: tuple[Line, ...] = ()
    discounts: tuple[Discount, ...] = ()
    summary: str = ""

    def document(self, ticked: Collection[str] | None = None) -> Document:
        """What is paid for it: with these optional lines (by key); None: with those ticked for the customer."""
        if ticked is None:
            return Document(lines=self.lines, discounts=self.discounts)
        lines = [replace(line, chosen=line.key in ticked) if line.optional else line for line in self.lines]
        return Document(lines=lines, discounts=self.discounts)

    def totals(self, ticked: Collection[str] | None = None) -> Totals:
        return totals(self.document(ticked))

    def bought(self, ticked: Collection[str]) -> tuple[Line, ...]:
        """The lines that become work."""
        return tuple(line for line in self.document(ticked).lines if line.counts)


class CannotBeChosen(ValueError):
    """Something that the quote does not offer; with a sentence."""


def chosen(options: Iterable[Option], key: str, ticked: Collection[str]) -> Option:
    """The option that the customer takes.

    Raises
    ------
    CannotBeChosen
        When there is no such option, or a line that is not optional in it was ticked.
    """
    found = next((option for option in options if option.key == key), None)
    if found is None:
        raise CannotBeChosen("Choose one of the ways to do it.")
    if foreign := set(ticked) - {line.key for line in found.lines if line.optional}:
        raise CannotBeChosen(f"There is nothing to tick called {sorted(foreign)[0]} in “{found.name}”.")
    return found


def what_is_missing(options: Sequence[Option]) -> list[str]:
    """Why these cannot be offered yet, in sentences; nothing: they can."""
    found = []
    if not options:
        found.append("Offer at least one way to do it.")
    if len(options) > MOST_OPTIONS:
        found.append(f"More than {MOST_OPTIONS} ways to choose from are too many.")
    names = [option.name.strip().casefold() for option in options]
    if len(set(names)) < len(names):
        found.append("Two of the ways have the same name.")
    for option in options:
        called = f"“{option.name}”" if option.name.strip() else "One of the ways"
        if not option.name.strip() and len(options) > 1:
            found.append("Each of the ways needs a name.")
        if not any(not line.optional for line in option.lines):
            found.append(f"{called} has no line yet.")
        if option.totals(()).net < 0:
            found.append(f"{called} comes to less than nothing.")
    return list(dict.fromkeys(found))


def most_given(options: Iterable[Option]) -> int:
    """The highest discount of any of them in whole percent, rounded up, with everything ticked: what a limit is
    compared with."""
    whole = (option.document({line.key for line in option.lines if line.optional}) for option in options)
    return max((ceil(discount_given(document)) for document in whole), default=0)


@dataclass(frozen=True, kw_only=True)
class Deposit:
    """What is asked for before work begins: percent of the total with tax, or an amount."""

    percent: Decimal = Decimal(0)
    amount: int = 0

    def __post_init__(self) -> None:
        if self.percent and self.amount:
            raise ValueError("a deposit is a percentage or an amount")
        if not 0 <= self.percent <= 100 or self.amount < 0:
            raise ValueError("a deposit is no more than everything")

    def of(self, gross: int) -> int:
        """Of a total with tax; never more than it."""
        if gross <= 0:
            return 0
        return min(gross, rounded(Fraction(self.percent) * gross / 100) if self.percent else self.amount)
