"""Is the price right? Revenue for a labour-hour, margin, and what it would take to reach a wanted one."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from statistics import NormalDist

from core.pricing.lines import Line
from core.pricing.money import rounded


@dataclass(frozen=True, kw_only=True)
class Figures:
    """Of a set of lines, in smallest units without tax.

    Attributes
    ----------
    revenue : what they bring.
    hours : labour-hours, people times hours.
    per_hour : revenue of a labour-hour; None: there is no labour in it.
    cost : what they cost us, as far as it is known.
    unknown : how many lines have no cost.
    margin : what is left; None while a cost is not known.
    percent : the margin of the revenue; None where there is none.
    """

    revenue: int
    hours: Fraction
    per_hour: int | None
    cost: int
    unknown: int
    margin: int | None
    percent: Fraction | None


def figures(lines: Sequence[Line], *, off: int = 0, hour_cost: int | None = None) -> Figures:
    """What a set of lines comes to.

    Parameters
    ----------
    off
        What is taken off the whole.
    hour_cost
        What a labour-hour costs us, for labour whose line has no cost of its own; None: not known.
    """
    counted = [line for line in lines if line.counts]
    revenue = sum(line.net for line in counted) - off
    hours = sum((line.labour_hours for line in counted), Fraction(0))
    costs = [_cost(line, hour_cost) for line in counted]
    known, unknown = sum(cost for cost in costs if cost is not None), sum(cost is None for cost in costs)
    margin = None if unknown else revenue - known
    return Figures(
        revenue=revenue, hours=hours, per_hour=rounded(revenue / hours) if hours else None, cost=known,
        unknown=unknown, margin=margin,
        percent=Fraction(100 * margin, revenue) if margin is not None and revenue > 0 else None,
    )  # fmt: skip


def _cost(line: Line, hour_cost: int | None) -> int | None:
    if line.total_cost is not None:
        return line.total_cost
    if line.labour_hours and hour_cost is not None:
        return rounded(line.labour_hours * hour_cost)
    return None


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What reaches a wanted revenue per labour-hour: another price for the same effort, or another effort for the same
    price. `missing` is how much the price would have to rise; negative: it may fall."""

    price: int
    missing: int
    hours: Fraction


def to_reach(found: Figures, per_hour: int) -> Wanted:
    """The price and the effort at which a labour-hour brings so much.

    The price is the least that does, and the effort the most: rounded so that what was wanted is reached.

    Raises
    ------
    ValueError
        For a wish of nothing or less.
    """
    if per_hour <= 0:
        raise ValueError("a labour-hour is wanted to bring something")
    price = math.ceil(found.hours * per_hour)
    # To the minute, downwards.
    minutes = math.floor(Fraction(60 * max(0, found.revenue), per_hour))
    return Wanted(price=price, missing=price - found.revenue, hours=Fraction(minutes, 60))


def scaled(prices: Sequence[int], net: int) -> list[int]:
    """Nets of lines changed in proportion so that they come to another sum, in their order.

    Raises
    ------
    ValueError
        When there is nothing to change in proportion.
    """
    total = sum(prices)
    if total <= 0 or min(prices, default=0) < 0:
        raise ValueError("only lines that cost something can be changed in proportion")
    parts = [rounded(Fraction(price * net, total)) for price in prices]
    # What rounding leaves goes to the largest.
    parts[max(range(len(prices)), key=lambda at: (prices[at], -at))] += net - sum(parts)
    return parts


@dataclass(frozen=True, kw_only=True)
class Known:
    """How long work of a kind has really taken here, in seconds of labour: how often, on average, and its spread."""

    count: int
    mean: float
    spread: float


LEAST_COUNT = 5
LONG = 0.8


@dataclass(frozen=True, kw_only=True)
class Likely:
    """How likely an effort is to suffice, and the effort that suffices four times in five, in labour-hours."""

    suffices: float
    hours_at_80: Fraction


def likely(hours: Fraction, known: Known) -> Likely | None:
    """What finished work says of an estimate; None where too little is known to say anything.

    Lengths of jobs spread to the long side: their logarithm is taken as normal (as in core.learning), with the mean and
    spread of what was measured.
    """
    if known.count < LEAST_COUNT or known.mean <= 0:
        return None
    if known.spread <= 0:
        always = Fraction(known.mean).limit_denominator()
        return Likely(suffices=float(hours * 3600 >= always), hours_at_80=always / 3600)
    ratio = 1 + (known.spread / known.mean) ** 2
    curve = NormalDist(math.log(known.mean / math.sqrt(ratio)), math.sqrt(math.log(ratio)))
    seconds = float(hours * 3600)
    suffices = curve.cdf(math.log(seconds)) if seconds > 0 else 0.0
    at_80 = math.exp(curve.inv_cdf(LONG))
    return Likely(suffices=suffices, hours_at_80=Fraction(round(at_80 / 60), 60))


def repriced(lines: Sequence[Line], net: int, *, off: int = 0) -> list[int]:
    """Unit prices, in the lines' order, at which the lines that count bring at least so much after what is taken off.

    All that cost something rise (or fall) in proportion, each rounded up; what does not count stays as it is.

    Parameters
    ----------
    off
        What is taken off the whole in an amount; percentages are counted anew by whoever asks.

    Raises
    ------
    ValueError
        When there is nothing to change in proportion.
    """
    moving = [line for line in lines if line.counts and line.net > 0]
    fixed = sum(line.net for line in lines if line.counts and line.net <= 0)
    # A percentage of a line rises with it, an amount off does not.
    amounts = sum(line.off for line in moving if line.discount and line.discount.amount)
    now = sum(line.net for line in moving) + amounts
    if now <= 0 or net + off - fixed <= 0:
        raise ValueError("only lines that cost something can be changed in proportion")
    factor = Fraction(net + off - fixed + amounts, now)
    return [math.ceil(line.unit_price * factor) if line in moving else line.unit_price for line in lines]


def replanned(lines: Sequence[Line], hours: Fraction) -> list[int | None]:
    """Effort of one unit in thousandths of a labour-hour, in the lines' order, at which the lines that count take at
    most so many labour-hours: all that have any change in proportion, each rounded down.

    Raises
    ------
    ValueError
        When no line has any labour in it.
    """
    now = sum((line.labour_hours for line in lines if line.counts), Fraction(0))
    if now <= 0:
        raise ValueError("there is no labour in these lines")
    factor = hours / now
    return [_scaled_effort(line, factor) if line.counts and line.labour_hours else line.effort for line in lines]


def _scaled_effort(line: Line, factor: Fraction) -> int:
    each = line.labour_hours / Fraction(line.quantity)
    return max(0, math.floor(each * factor * 1000))
