"""What the work of Hallam & Reyne costs: lines of their job types, rates, surcharges, journeys, discounts."""

from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from decimal import Decimal
from typing import Any

from apps.catalogue.models import JobType
from apps.company.models import Area, Company
from apps.orders.amounts import buyer_of, lines_for, worth_of
from apps.orders.models import Visit, WorkOrder
from apps.pricing.documents import Buyer, filled
from apps.pricing.inputs import LineFields
from apps.pricing.models import Charging, Item, NamedDiscount
from apps.pricing.queries import with_own_prices
from core.orders.sequences import shared_worth

# Wording of an item, how many, and whether the customer may choose it.
_Line = tuple[str, str, bool]
LINES: Mapping[str, Sequence[_Line]] = {
    "trapped": [("Rescue of trapped people", "1", False)],
    "stopped": [("Hour of a lift mechanic", "2.5", False), ("Small materials", "1", False)],
    "stopped-hyd": [("Hour of a lift mechanic", "2.75", False), ("Small materials", "1", False)],
    "door-open": [
        ("Hour of a fitter", "2", False), ("Door roller, 40 mm", "2", True), ("Small materials", "1", False),
    ],
    "door-noise": [("Adjusting a door drive", "1", False)],
    "leak": [
        ("Hour of a lift mechanic", "5", False), ("Seal kit, small jack", "1", False),
        ("Hydraulic oil, 20 l", "1", True),
    ],
    "upkeep-month": [("Hour of a fitter", "1.5", False)],
    "upkeep-quarter": [("Hour of a fitter", "2.5", False)],
    "upkeep-esc": [("Quarterly service of an escalator", "1", False)],
    "upkeep-door": [("Yearly check of an automatic door", "1", False)],
    "inspection": [("Acceptance with the inspector", "1", False), ("Inspector's fee", "1", False)],
    "rope": [
        ("Hour of a lift mechanic", "16", False), ("Suspension rope, metre, 10 mm", "60", False),
        ("Disposal of an old drive", "1", True),
    ],
    "lamp": [("Hour of a fitter", "0.5", False), ("Car lamp, 8 W", "2", False)],
}  # fmt: skip
_AT_ANY_HOUR = ("Rescue of trapped people",)
_EVENING, _NIGHT = "18:00-22:00", "22:00-06:00"
_SURCHARGES = (
    {"name": "Evening", "percent": "25", "week": [_EVENING] * 5 + ["", ""], "holidays": False},
    {"name": "Night", "percent": "50", "week": [_NIGHT] * 7, "holidays": False},
    {"name": "Weekend", "percent": "50", "week": [""] * 5 + ["06:00-22:00"] * 2, "holidays": False},
    {"name": "Holiday", "percent": "100", "week": [""] * 7, "holidays": True},
)
WANTED_PER_HOUR = 72


def make_charging(jobs: Mapping[str, JobType], today: date) -> None:
    """Lines for the job types, how hours and journeys are charged, and three discounts by name."""
    keys = dict(Item.objects.values_list("wording", "key"))
    buyer = Buyer(day=today)
    for code, lines in LINES.items():
        job = jobs.get(code)
        if job is None:
            continue
        fields = [
            LineFields(key=f"l{number}", wording="", item=keys[words], quantity=Decimal(many), optional=optional)
            for number, (words, many, optional) in enumerate(lines, start=1)
        ]
        job.lines = filled(fields, buyer)
        job.worth = worth_of(job.lines, (), buyer)
        job.save(update_fields=["lines", "worth"])
    _rules(keys)
    NamedDiscount.objects.bulk_create([
        NamedDiscount(key="regular", name="Regular customer", percent=5),
        NamedDiscount(key="autumn", name="Autumn check", percent=10, valid_until=today + timedelta(days=31)),
        NamedDiscount(key="first", name="First order", amount=2_500, times=20, given=7),
    ])  # fmt: skip
    company = Company.objects.get()
    company.settings = {**company.settings, "wanted_per_hour": WANTED_PER_HOUR}
    company.save(update_fields=["settings"])


def _rules(keys: Mapping[str, str]) -> None:
    names = ("Old Quay", "Seagate", "Millrace")
    flat = {str(area.pk): 2_400 for area in Area.objects.filter(name__in=names)}
    Charging.objects.create(
        pk=1, labour_item=keys["Hour of a fitter"], step_minutes=15, least_minutes=30,
        skill_items={"controller": keys["Hour of a controls engineer"], "traction": keys["Hour of a lift mechanic"]},
        surcharges=[dict(one) for one in _SURCHARGES], travel_item=keys["Journey within the city"],
        travel={"way": "flat by area", "rate": 0, "least": 0, "otherwise": 3_500, "flat": flat},
    )  # fmt: skip


def _tagged(lines: Sequence[Mapping[str, Any]], number: int) -> list[dict[str, Any]]:
    """Some work is done once more, for nothing is ever right the first time; some to make up for it."""
    every = next((tag for by, tag in ((11, "warranty"), (17, "complaint")) if number % by == 0), "")
    return [{**line, "tag": every or ("out-of-hours" if line["wording"] in _AT_ANY_HOUR else "")} for line in lines]


_PRICED_ON = date(2026, 11, 1)


def price_orders() -> None:
    """Lines for the orders, and what their visits bring by them."""
    rows = WorkOrder.objects.exclude(state="cancelled")
    orders = list(rows.select_related("edition", "site", "customer", "job_type").order_by("pk"))
    special = with_own_prices({order.payer_id or order.customer_id for order in orders})
    buyers: dict[int | None, Buyer] = {None: Buyer(day=_PRICED_ON, customer_id=None)}
    buyers |= {key: Buyer(day=_PRICED_ON, customer_id=key) for key in special}
    known: dict[tuple[Any, ...], tuple[list[dict[str, Any]], int | None]] = {}
    visits: list[Visit] = []
    by_order: dict[int, list[Visit]] = {}
    for visit in Visit.objects.filter(order__in=orders).order_by("part", "pk"):
        by_order.setdefault(visit.order_id, []).append(visit)
    for order in orders:
        payer = buyer_of(order).customer_id
        buyer = buyers[payer if payer in special else None]
        alike = (order.edition_id, buyer.customer_id, order.site.area_id)
        if alike not in known:
            known[alike] = _priced(order, buyer)
        lines, worth = known[alike]
        order.lines = _tagged(lines, order.pk)
        if worth is not None:
            mine = by_order.get(order.pk, [])
            for visit, share in zip(mine, shared_worth(worth, [one.duration_seconds for one in mine]), strict=True):
                visit.worth = share
            visits += mine
    WorkOrder.objects.bulk_update(orders, ["lines"], batch_size=500)
    Visit.objects.bulk_update(visits, ["worth"], batch_size=500)


def _priced(order: WorkOrder, buyer: Buyer) -> tuple[list[dict[str, Any]], int | None]:
    """The lines of work like an order's, and what they bring."""
    job = order.edition.content["lines"] if order.edition else []
    lines = lines_for(job, buyer, seconds=None, crew=1, needs=(), site=order.site, hours=None) if job else []
    return lines, worth_of(lines, (), buyer)
