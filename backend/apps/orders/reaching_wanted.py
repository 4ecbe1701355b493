"""What lines would have to cost, or how little effort they would have to take, to bring what is wanted."""

from collections.abc import Mapping, Sequence
from fractions import Fraction
from math import ceil
from typing import Any, Literal

from apps.pricing.documents import Buyer, counted, discount_of, holding
from apps.pricing.figuring import Yardstick
from core.pricing import Document, figures, replanned, repriced, to_reach, totals
from foundation.errors import Rejected


def reached(
    rows: Sequence[Mapping[str, Any]], discounts: Sequence[Mapping[str, Any]], buyer: Buyer, yardstick: Yardstick, *,
    by: Literal["price", "effort"],
) -> list[tuple[str, int | None, int | None]]:  # fmt: skip
    """By key of each line: its unit price where the price changes, its effort where that does.

    Raises
    ------
    Rejected
        When nothing is wanted, or the lines have no labour or cost nothing.
    """
    if not yardstick.per_hour:
        raise Rejected("Say first what a labour-hour is to bring: in the settings, or with the job type.")
    lines = counted(rows, buyer)
    held = holding([discount_of(row) for row in discounts], buyer.day)
    found = totals(Document(lines=lines, discounts=held))
    here = figures(lines, off=found.off)
    wanted = to_reach(here, yardstick.per_hour)
    try:
        if by == "effort":
            efforts = replanned(lines, wanted.hours)
            return [(line.key, None, effort) for line, effort in zip(lines, efforts, strict=True)]
        # Percentages take more off a higher price: what is left of the lines is what has to rise.
        share = sum((Fraction(one.percent) for one in held), Fraction(0))
        amounts = sum(one.amount for one in held)
        net = ceil((wanted.price + amounts) * 100 / (100 - share)) if share < 100 else wanted.price
        prices = repriced(lines, net)
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize()) from error
    return [(line.key, price, None) for line, price in zip(lines, prices, strict=True)]
