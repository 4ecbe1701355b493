"""What labour and travel cost: billed time, surcharges by the clock, ways to count a journey."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise

from core.basics import Interval
from core.calendars import ServiceCalendar
from core.pricing.money import rounded


@dataclass(frozen=True, kw_only=True)
class Billing:
    """How time is billed: per started so many seconds, and at least so many."""

    step: int = 900
    least: int = 0

    def billed(self, seconds: int) -> int:
        """Seconds that stand on the document for so many that were worked; nothing for nothing."""
        if seconds <= 0:
            return 0
        return max(self.least, -(-seconds // self.step) * self.step)


@dataclass(frozen=True, kw_only=True)
class Surcharge:
    """So many percent more within a calendar's hours, such as evenings, nights, weekends or holidays."""

    name: str
    percent: Fraction
    calendar: ServiceCalendar


@dataclass(frozen=True, kw_only=True)
class Band:
    """A stretch of work that has one surcharge, or none."""

    hours: Interval
    surcharge: Surcharge | None


def bands(hours: Interval, surcharges: Sequence[Surcharge]) -> list[Band]:
    """The hours cut where a surcharge begins or ends; of several at once the highest holds, they are not added up."""
    spans = [(span, surcharge) for surcharge in surcharges for span in surcharge.calendar.within(hours)]
    edges = sorted({hours.start, hours.end, *(edge for span, _ in spans for edge in (span.start, span.end))})
    found: list[Band] = []
    for start, end in pairwise(edges):
        covering = [surcharge for span, surcharge in spans if span.start <= start and end <= span.end]
        best = max(covering, key=lambda one: (one.percent, one.name), default=None)
        if found and found[-1].surcharge == best:
            found[-1] = Band(hours=Interval(start=found[-1].hours.start, end=end), surcharge=best)
        else:
            found.append(Band(hours=Interval(start=start, end=end), surcharge=best))
    return found


def labour_price(hours: Interval, rate: int, billing: Billing, surcharges: Sequence[Surcharge] = ()) -> int:
    """What work of one person costs at a rate for an hour (smallest units), without tax, rounded once.

    What is billed beyond the time that was worked, because a step was started or by the least charge, has the surcharge
    of the last moment worked.
    """
    worked = bands(hours, surcharges)
    if not worked or not hours.seconds:
        return 0
    more = billing.billed(hours.seconds) - hours.seconds
    total = Fraction(0)
    for number, band in enumerate(worked):
        seconds = band.hours.seconds + (more if number == len(worked) - 1 else 0)
        factor = 1 + (band.surcharge.percent / 100 if band.surcharge else 0)
        total += Fraction(rate * seconds, 3600) * factor
    return rounded(total)


@dataclass(frozen=True, kw_only=True)
class Surcharged:
    """What a surcharge adds to labour, and for how many of its seconds."""

    name: str
    percent: Fraction
    seconds: int
    amount: int


def surcharged(labour: int, hours: Interval, surcharges: Sequence[Surcharge]) -> list[Surcharged]:
    """What surcharges add to labour that comes to so much and is done within these hours, evenly; by name."""
    found: dict[str, tuple[Surcharge, int]] = {}
    for band in bands(hours, surcharges):
        if band.surcharge is not None:
            seconds = found.get(band.surcharge.name, (band.surcharge, 0))[1]
            found[band.surcharge.name] = (band.surcharge, seconds + band.hours.seconds)
    return [
        Surcharged(
            name=name, percent=one.percent, seconds=seconds,
            amount=rounded(Fraction(labour * seconds, hours.seconds) * one.percent / 100),
        )
        for name, (one, seconds) in sorted(found.items())
    ]  # fmt: skip


class TravelWay(StrEnum):
    FLAT = "flat by area"
    PER_KM = "per km"
    PER_HOUR = "per hour"
    NONE = "nothing"


@dataclass(frozen=True, kw_only=True)
class TravelRule:
    """How a journey is counted. `flat` is an amount by area key; `otherwise` where the area has none of its own.
    `rate` is for a km or an hour; `least` is what a journey costs at least."""

    way: TravelWay
    rate: int = 0
    least: int = 0
    otherwise: int = 0
    flat: tuple[tuple[int, int], ...] = ()


def travel_price(rule: TravelRule, *, area: int | None, metres: int, seconds: int) -> int:
    """What a journey there and back costs, without tax."""
    if rule.way is TravelWay.NONE:
        return 0
    if rule.way is TravelWay.FLAT:
        return max(rule.least, dict(rule.flat).get(area if area is not None else -1, rule.otherwise))
    by = Fraction(metres, 1000) if rule.way is TravelWay.PER_KM else Fraction(seconds, 3600)
    return max(rule.least, rounded(by * rule.rate))
