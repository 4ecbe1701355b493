"""What a set of lines comes to: totals, what each line is, and whether the price is right."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from typing import Any

from django.db.models import Avg

from apps.company.queries import company
from apps.people.models import Technician
from apps.pricing.documents import Buyer, counted, discount_of, holding
from core.pricing import (
    Document,
    Figures,
    Known,
    Likely,
    Line,
    Totals,
    Wanted,
    digits_of,
    figures,
    likely,
    to_reach,
    totals,
    with_tax,
)


@dataclass(frozen=True, kw_only=True)
class LineSum:
    """What one line is: `gross` is its net with its tax."""

    key: str
    price: int | None
    source: str
    net: int
    gross: int
    off: int


@dataclass(frozen=True, kw_only=True)
class Sums:
    """A set of lines, counted.

    Attributes
    ----------
    discounts : the names of those on the whole that have ended, and so take nothing off.
    wanted, likely : None where nothing is wanted, or too little is known.
    margin_at_80 : what is left if the work takes as long as four in five of its kind at most; None: not known.
    """

    lines: tuple[LineSum, ...]
    totals: Totals
    figures: Figures
    ended: tuple[str, ...]
    unpriced: int
    wanted: Wanted | None
    likely: Likely | None
    margin_at_80: int | None


@dataclass(frozen=True, kw_only=True)
class Yardstick:
    """What a price is compared with, in smallest units: `per_hour` is wanted for a labour-hour (0: nothing),
    `hour_cost` is what one costs us, `known` how long such work has taken."""

    per_hour: int = 0
    hour_cost: int | None = None
    known: Known | None = None


def sums(
    rows: Sequence[Mapping[str, Any]], discounts: Sequence[Mapping[str, Any]], buyer: Buyer, yardstick: Yardstick
) -> Sums:
    """Count kept lines and discounts on the whole for a buyer."""
    lines = counted(rows, buyer)
    named = [discount_of(row) for row in discounts]
    held = holding(named, buyer.day)
    found = totals(Document(lines=lines, discounts=held))
    here = figures(lines, off=found.off, hour_cost=yardstick.hour_cost)
    wanted = to_reach(here, yardstick.per_hour) if yardstick.per_hour and here.hours else None
    chance = likely(here.hours, yardstick.known) if yardstick.known and here.hours else None
    return Sums(
        lines=tuple(_line(line, row) for line, row in zip(lines, rows, strict=True)), totals=found, figures=here,
        ended=tuple(one.name for one in named if one not in held),
        unpriced=sum(row.get("price") is None for row in rows), wanted=wanted, likely=chance,
        margin_at_80=_margin_at_80(lines, here, chance, yardstick.hour_cost),
    )  # fmt: skip


def _line(line: Line, row: Mapping[str, Any]) -> LineSum:
    return LineSum(
        key=line.key, price=row.get("price"), source=str(row.get("source") or ""), net=line.net,
        gross=with_tax(line.net, line.tax), off=line.off,
    )  # fmt: skip


def _margin_at_80(lines: Sequence[Line], here: Figures, chance: Likely | None, each: int | None) -> int | None:
    """Labour costs more the longer it takes; all else, and the price, stay as they are."""
    if chance is None or here.margin is None or not here.hours:
        return None
    labour = sum(labour_cost(line, each) for line in lines if line.counts and line.labour_hours)
    return here.margin - round(labour * (chance.hours_at_80 / here.hours - 1))


def labour_cost(line: Line, each: int | None) -> int:
    """What the labour of a line costs: its own cost, else so much for a labour-hour."""
    return line.total_cost if line.total_cost is not None else round(line.labour_hours * (each or 0))


def hour_cost() -> int | None:
    """What a labour-hour costs us on average, in smallest units, as it stands with the technicians; None: unknown."""
    mean = Technician.objects.filter(cost_per_hour__isnull=False).aggregate(mean=Avg("cost_per_hour"))["mean"]
    return None if mean is None else round(Decimal(mean).scaleb(digits_of(company().currency)))


def whole(amount: int) -> int:
    """An amount in smallest units as whole units of the currency, rounded."""
    return round(Fraction(amount, 10 ** digits_of(company().currency)))


def in_smallest(amount: int) -> int:
    """Whole units of the currency in smallest ones."""
    return int(amount * 10 ** digits_of(company().currency))
