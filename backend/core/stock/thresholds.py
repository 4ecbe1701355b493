"""How many of a part ought to lie at a place: proposed from a year's use and the supplier's days."""

import math
from dataclasses import dataclass
from statistics import NormalDist

DAYS_OF_A_YEAR = 365
# How long what is ordered at once ought to last.
COVERED_DAYS = 30
# In so many of a hundred deliveries the stock lasts until it comes.
SERVICE = 0.95


@dataclass(frozen=True, kw_only=True)
class Threshold:
    """Below `least` it is ordered or brought, up to `target`."""

    least: int
    target: int


def proposed(*, used: int, days: int = DAYS_OF_A_YEAR, supplier_days: int, covered: int = COVERED_DAYS) -> Threshold:
    """Least and target level of a part at a place.

    Use is taken to come at random (a Poisson process), as single repairs do. Until a delivery is there,
    ``used / days * supplier_days`` pieces go on average, scattered by the root of that; the least level is the average
    plus so many times the scatter that it lasts in 95 of 100 deliveries: the reorder point with safety stock of
    Silver, Pyke and Thomas, Inventory and Production Management in Supply Chains, 4th ed., 6.7. The target adds
    what goes in `covered` days.

    Parameters
    ----------
    used
        Pieces in `days` days.
    supplier_days
        From ordering to having it.

    Raises
    ------
    ValueError
        For a negative number, or no days at all.
    """
    if used < 0 or days <= 0 or supplier_days < 0 or covered < 0:
        raise ValueError("use and days are not negative")
    if used == 0:
        return Threshold(least=0, target=0)
    a_day = used / days
    until_there = a_day * supplier_days
    least = math.ceil(until_there + NormalDist().inv_cdf(SERVICE) * math.sqrt(until_there))
    return Threshold(least=max(1, least), target=max(1, least) + math.ceil(a_day * covered))


def wanted(*, on_hand: int, coming: int, reserved: int, least: int | None, target: int | None) -> int:
    """How many to order or bring: up to the target, once what is free and coming is below the least level."""
    if least is None or target is None:
        return 0
    there = on_hand + coming - reserved
    return max(0, target - there) if there < least else 0
