"""How labour and journeys are charged: what lines work gets where its job type has none, and what the clock adds."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import time, timedelta
from decimal import Decimal
from fractions import Fraction
from typing import Any

from apps.company import queries as company
from apps.pricing.inputs import LineFields
from apps.pricing.models import Charging, Item
from core.basics import Interval
from core.calendars import Hours, ServiceCalendar, local_day
from core.pricing import Billing, ItemKind, Line, Surcharge, TravelRule, TravelWay, surcharged, travel_price

# Keys of lines that are put in by rule; what is typed has other ones.
_MIDNIGHT = time(0)
LABOUR_LINE, TRAVEL_LINE, SURCHARGE_LINE = "labour", "travel", "clock"


@dataclass(frozen=True, kw_only=True)
class Journey:
    """The way there and back, from the depot next to it."""

    area_id: int | None = None
    metres: int = 0
    seconds: int = 0


def charging() -> Charging:
    """The company's rules; the defaults where it has none."""
    return Charging.objects.order_by("pk").first() or Charging(version=0)


def billing_of(row: Charging) -> Billing:
    return Billing(step=60 * row.step_minutes, least=60 * row.least_minutes)


def travel_of(row: Charging) -> TravelRule:
    stored: Mapping[str, Any] = row.travel
    flat = stored.get("flat") or {}
    return TravelRule(
        way=TravelWay(stored.get("way") or TravelWay.NONE), rate=int(stored.get("rate") or 0),
        least=int(stored.get("least") or 0), otherwise=int(stored.get("otherwise") or 0),
        flat=tuple((int(area), int(amount)) for area, amount in flat.items()),
    )  # fmt: skip


def surcharges_of(row: Charging, around: Interval) -> list[Surcharge]:
    """Surcharges with the holidays of the days around some hours."""
    tz = company.time_zone()
    first, last = local_day(around.start, tz) - timedelta(days=2), local_day(around.end, tz) + timedelta(days=2)
    off = frozenset(company.holidays_between(first, last)) if row.surcharges else frozenset()
    found = []
    for stored in row.surcharges:
        week = tuple(tuple(hours_of(text)) for text in stored["week"])
        whole: tuple[Hours, ...] = (Hours(start=_MIDNIGHT, end=_MIDNIGHT),)
        exceptions = dict.fromkeys(off, whole) if stored.get("holidays") else {}
        calendar = ServiceCalendar(tz=tz, week=week, exceptions=exceptions)
        found.append(Surcharge(name=stored["name"], percent=Fraction(stored["percent"]), calendar=calendar))
    return found


def hours_of(text: str) -> list[Hours]:
    """ "00:00-06:00, 22:00-24:00" as hours of a day; nothing for an empty text.

    Raises
    ------
    ValueError
    """
    return [_hours(part) for part in text.split(",") if part.strip()]


def _hours(part: str) -> Hours:
    ends = [time.fromisoformat("00:00" if end.strip() == "24:00" else end.strip()) for end in part.split("-")]
    if len(ends) != 2:
        raise ValueError(f"“{part.strip()}” are no hours like 18:00-22:00")
    return Hours(start=ends[0], end=ends[1])


def without_lines(row: Charging, *, seconds: int | None, crew: int, needs: Sequence[str]) -> list[LineFields]:
    """Labour for work whose job type has no lines: billed hours of each one who goes, at the rate of the rarest skill
    that has one. Nothing while no rate is set, or no length is known."""
    item = next((row.skill_items[skill] for skill in needs if skill in row.skill_items), row.labour_item)
    if not item or not seconds or not Item.objects.filter(key=item, retired=False).exists():
        return []
    hours = Fraction(billing_of(row).billed(seconds) * crew, 3600)
    quantity = Decimal(hours.numerator) / Decimal(hours.denominator)
    return [LineFields(key=LABOUR_LINE, wording="", item=item, quantity=quantity.quantize(Decimal("0.001")))]


def travel_line(row: Charging, journey: Journey) -> LineFields | None:
    """The journey, as the rule counts it; None: journeys cost nothing."""
    amount = travel_price(travel_of(row), area=journey.area_id, metres=journey.metres, seconds=journey.seconds)
    if not amount:
        return None
    known = Item.objects.filter(key=row.travel_item, kind=ItemKind.TRAVEL).exists()
    return LineFields(
        key=TRAVEL_LINE, wording="" if known else "Journey", item=row.travel_item if known else "", unit="LS",
        unit_price=amount,
    )  # fmt: skip


def clock_lines(row: Charging, lines: Sequence[Line], hours: Interval) -> list[LineFields]:
    """What evenings, nights, weekends and holidays add to the labour of these lines, done in these hours."""
    if not row.surcharges or not hours.seconds:
        return []
    labour = [line for line in lines if line.counts and line.kind is ItemKind.LABOUR]
    tax = labour[0].item if labour else None
    found = surcharged(sum(line.net for line in labour), hours, surcharges_of(row, hours))
    code = Item.objects.filter(key=tax).values_list("tax__key", flat=True).first() if tax else ""
    return [
        LineFields(
            key=f"{SURCHARGE_LINE}{number}", wording=f"{one.name}: {float(one.percent):g} % more for labour",
            unit="LS", unit_price=one.amount, tax=code or "",
        )
        for number, one in enumerate(found)
        if one.amount
    ]  # fmt: skip
