"""The same files out again: what is there now, in the columns that are read, to be edited and brought in."""

import csv
import io
from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime
from decimal import Decimal
from typing import Any

from apps.company.models import Depot
from apps.company.queries import company
from apps.people.inputs import ShiftFields
from apps.people.models import Skill, Technician, Vehicle
from apps.people.queries import skill_names
from apps.people.weeks import weeks_of
from apps.pricing.charging import charging
from apps.pricing.models import Item, NamedDiscount, Price, TaxCode
from apps.pricing.queries import day_of
from apps.stock.models import Level, Part, Supplier
from apps.stock.queries import places
from core.basics.tables import MARK, safe_cell
from core.pricing import plain_text
from core.set_up import EXAMPLES, SetUpKind, days_in_words
from core.set_up.files import DAYS, columns_of
from core.stock import Tracking

Cells = Mapping[str, Any]


def lines(kind: SetUpKind, *, now: datetime) -> Iterator[str]:
    """A CSV file of all there are; of none, of an example to fill in."""
    columns = columns_of(kind)
    rows = list(_ROWS[kind](now)) or list(EXAMPLES[kind])
    yield MARK + _line(columns)
    for row in rows:
        yield _line([_text(row.get(name)) for name in columns])


def _line(cells: Sequence[str]) -> str:
    buffer = io.StringIO()
    csv.writer(buffer).writerow([safe_cell(cell) for cell in cells])
    return buffer.getvalue()


def _text(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return value.strftime("%H:%M") if hasattr(value, "hour") else str(value)


def _depots(_now: datetime) -> Iterator[Cells]:
    return (
        {"name": row.name, "address": row.address, "lon": row.lon, "lat": row.lat}
        for row in Depot.objects.order_by("name")
    )


def _skills(_now: datetime) -> Iterator[Cells]:
    return ({"name": row.name} for row in Skill.objects.filter(retired=False, merged_into="").order_by("name"))


def _vehicles(_now: datetime) -> Iterator[Cells]:
    for row in Vehicle.objects.filter(retired=False, merged_into="").select_related("depot").order_by("name"):
        yield {
            "name": row.name, "plate": row.plate, "depot": row.depot.name if row.depot else "",
            "inspection_due": row.inspection_due, "cost_per_km": row.cost_per_km,
        }  # fmt: skip


def _people(_now: datetime) -> Iterator[Cells]:
    rows = Technician.objects.defer("portrait").select_related("depot", "vehicle")
    for row in rows.prefetch_related("areas", "skills__skill").order_by("name"):
        yield {
            "name": row.name, "phone": row.phone, "email": row.email, "depot": row.depot.name,
            "areas": ", ".join(sorted(area.name for area in row.areas.all())),
            "skills": ", ".join(sorted(f"{held.skill.name} {held.level}" for held in row.skills.all())),
            "employed_from": row.employed_from, "employed_until": row.employed_until,
            "vehicle": row.vehicle.name if row.vehicle else "", "home": row.home_address, "home_lon": row.home_lon,
            "home_lat": row.home_lat, "starts_at_home": row.starts_at_home, "ends_at_home": row.ends_at_home,
            "cost_per_hour": row.cost_per_hour,
        }  # fmt: skip


def _shifts(now: datetime) -> Iterator[Cells]:
    """Of everybody the weeks that hold for good; days alike stand in one line."""
    for key, name in Technician.objects.order_by("name").values_list("pk", "name"):
        for week in weeks_of(key, now=now):
            if week.valid_until is not None:
                continue
            alike: dict[tuple[Any, ...], list[ShiftFields]] = {}
            for shift in week.shifts:
                alike.setdefault((shift.week, *_hours(shift).values()), []).append(shift)
            for shifts in alike.values():
                days = days_in_words([shift.weekday for shift in shifts])
                yield {
                    "technician": name, "from_day": week.valid_from if week.weeks > 1 else None,
                    "week": shifts[0].week + 1, "days": days, **_hours(shifts[0]),
                }  # fmt: skip


def _hours(shift: ShiftFields) -> dict[str, Any]:
    called = shift.start == shift.end and shift.on_call_until is not None
    return {
        "start": shift.start, "end": None if called else shift.end, "gap_start": shift.gap_start,
        "gap_end": shift.gap_end, "on_call_until": shift.on_call_until, "break_minutes": shift.rest_minutes or None,
        "break_earliest": shift.rest_earliest, "break_latest": shift.rest_latest,
        "overtime_minutes": shift.overtime_minutes or None,
    }  # fmt: skip


def _tax_codes(_now: datetime) -> Iterator[Cells]:
    """A line for each rate."""
    for row in TaxCode.objects.filter(retired=False).order_by("name"):
        for rate in row.rates or [{}]:
            yield {
                "name": row.name, "category": row.category, "percent": rate.get("percent"),
                "from_day": rate.get("valid_from"), "reason": row.reason,
            }  # fmt: skip


def _items(_now: datetime) -> Iterator[Cells]:
    currency = company().currency
    for row in Item.objects.select_related("tax").order_by("kind", "wording"):
        yield {
            "kind": row.kind, "wording": row.wording, "unit": row.unit, "price": plain_text(row.price, currency),
            "cost": "" if row.cost is None else plain_text(row.cost, currency),
            "labour_hours": "" if row.effort is None else f"{Decimal(row.effort) / 1000:f}", "tax": row.tax.name,
            "retired": row.retired,
        }  # fmt: skip


def _list_prices(now: datetime) -> Iterator[Cells]:
    """What holds today, or will."""
    currency, day = company().currency, day_of(now)
    held = Price.objects.filter(list__isnull=False).exclude(valid_until__lte=day).select_related("list", "item")
    for row in held.order_by("list__name", "item__wording", "least", "valid_from"):
        yield {
            "list": row.list.name if row.list else "", "item": row.item.wording,
            "price": plain_text(row.price, currency), "from_day": row.valid_from.isoformat(),
            "least": f"{row.least.normalize():f}" if row.least else "",
        }  # fmt: skip


def _discounts(_now: datetime) -> Iterator[Cells]:
    currency = company().currency
    for row in NamedDiscount.objects.filter(retired=False).order_by("name"):
        yield {
            "name": row.name, "percent": f"{row.percent.normalize():f}" if row.percent else "",
            "amount": plain_text(row.amount, currency) if row.amount else "", "until_day": row.valid_until,
            "times": row.times,
        }  # fmt: skip


def _rates(_now: datetime) -> Iterator[Cells]:
    """The usual one first; of items that are still there."""
    rules, wording = charging(), dict(Item.objects.values_list("key", "wording"))
    if rules.labour_item in wording:
        yield {"skill": "", "item": wording[rules.labour_item]}
    for skill, name in sorted(skill_names().items(), key=lambda pair: pair[1]):
        if rules.skill_items.get(skill) in wording:
            yield {"skill": name, "item": wording[rules.skill_items[skill]]}


def _surcharges(_now: datetime) -> Iterator[Cells]:
    for row in charging().surcharges:
        hours = dict(zip(DAYS, row["week"], strict=True))
        yield {"name": row["name"], "percent": row["percent"], **hours, "holidays": bool(row.get("holidays"))}


def _suppliers(_now: datetime) -> Iterator[Cells]:
    columns = columns_of(SetUpKind.SUPPLIERS)
    return ({name: getattr(row, name) for name in columns} for row in Supplier.objects.order_by("name"))


def _parts(_now: datetime) -> Iterator[Cells]:
    currency = company().currency
    for row in Part.objects.filter(merged_into="").select_related("supplier", "item").order_by("name"):
        yield {
            "name": row.name, "number": row.number, "unit": row.unit,
            "supplier": row.supplier.name if row.supplier else "", "supplier_number": row.supplier_number,
            "cost": "" if row.cost is None else plain_text(row.cost, currency),
            "item": row.item.wording if row.item else "", "gtin": row.gtin, "tracking": row.tracking,
            "hazardous": row.hazardous, "oversized": row.oversized, "fits": ", ".join(row.fits),
            "warranty_months": row.warranty_months, "retired": row.retired,
        }  # fmt: skip


def _levels(_now: datetime) -> Iterator[Cells]:
    """By place and part. What is told apart by serial numbers or batches is counted on a sheet, not in a file; neither
    is less than nothing."""
    named = {place.pk: place.name for place in places()}
    rows = Level.objects.filter(place__in=named).select_related("part").order_by("place", "part__name")
    for row in rows.iterator():
        countable = row.part.tracking == Tracking.PLAIN and row.quantity >= 0
        yield {
            "place": named[row.place_id], "part": row.part.number or row.part.name, "shelf": row.shelf,
            "least": row.least, "target": row.target, "quantity": row.quantity if countable else None,
        }  # fmt: skip


_ROWS = {
    SetUpKind.DEPOTS: _depots, SetUpKind.SKILLS: _skills, SetUpKind.VEHICLES: _vehicles, SetUpKind.PEOPLE: _people,
    SetUpKind.SHIFTS: _shifts, SetUpKind.TAX_CODES: _tax_codes, SetUpKind.ITEMS: _items,
    SetUpKind.LIST_PRICES: _list_prices, SetUpKind.DISCOUNTS: _discounts,
    SetUpKind.RATES: _rates, SetUpKind.SURCHARGES: _surcharges,
    SetUpKind.SUPPLIERS: _suppliers, SetUpKind.PARTS: _parts, SetUpKind.LEVELS: _levels,
}  # fmt: skip
