"""What a piece costs us: the moving average."""

from collections.abc import Iterable

from core.pricing.money import rounded_ratio


def average_after(*, cost: int | None, held: int, quantity: int, unit_cost: int) -> int:
    """What one piece costs on average once more have come in (moving weighted average, IAS 2, paragraphs 25 and 27).

    Parameters
    ----------
    cost
        The average so far, in smallest units; None: not known, so what comes in decides.
    held
        How many lie in all places; none, or less than none, weigh nothing.
    quantity, unit_cost
        How many come in, and what each of them costs.
    """
    if cost is None or held <= 0:
        return unit_cost
    return rounded_ratio(cost * held + unit_cost * quantity, held + quantity)


def value(rows: Iterable[tuple[int, int | None]]) -> int:
    """What quantities are worth at their costs; what has no cost counts nothing."""
    return sum(quantity * (cost or 0) for quantity, cost in rows)
