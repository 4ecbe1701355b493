"""What Hallam & Reyne charge: a price list for lifts and doors, two rates of tax, three lists for some customers."""

from collections.abc import Iterator, Sequence
from datetime import date

import numpy as np

from apps.customers.models import Customer
from apps.pricing.models import CustomerTerms, Item, Price, PriceList, TaxCode
from foundation.named.rows import key_for

TAXES = (
    ("full-rate", "Full rate", "standard", "", "16"),
    ("reduced-rate", "Reduced rate", "reduced", "", "4"),
    ("no-tax-training", "No tax: training", "exempt", "Vocational training", ""),
    ("reverse-charge", "Reverse charge", "reverse charge", "The customer owes the tax", ""),
)

# kind, wording, unit, price and cost in cents, labour-hours in thousandths
_Row = tuple[str, str, str, int, int | None, int | None]
_LABOUR: Sequence[_Row] = (
    ("labour", "Hour of a fitter", "HUR", 5_800, 3_150, None),
    ("labour", "Hour of a lift mechanic", "HUR", 6_900, 3_700, None),
    ("labour", "Hour of an electrician", "HUR", 6_400, 3_450, None),
    ("labour", "Hour of a controls engineer", "HUR", 8_800, 4_900, None),
    ("labour", "Hour of a helper", "HUR", 4_200, 2_300, None),
    ("labour", "Hour of a project lead", "HUR", 9_500, 5_200, None),
)
_TRAVEL: Sequence[_Row] = (
    ("travel", "Journey within the city", "LS", 3_500, 1_400, None),
    ("travel", "Journey to the outer districts", "LS", 5_200, 2_300, None),
    ("travel", "Kilometre beyond the bridge", "KMT", 62, 38, None),
    ("travel", "Travelling time", "HUR", 4_800, 3_150, 1_000),
)
_FIXED: Sequence[_Row] = (
    ("fixed price", "Yearly check of an automatic door", "C62", 14_000, 5_200, 1_250),
    ("fixed price", "Yearly check of a passenger lift", "C62", 26_500, 11_500, 2_500),
    ("fixed price", "Yearly check of a goods lift", "C62", 31_000, 13_400, 3_000),
    ("fixed price", "Yearly check of a fire door", "C62", 4_800, 1_700, 400),
    ("fixed price", "Quarterly service of an escalator", "C62", 38_500, 17_800, 4_000),
    ("fixed price", "Adjusting a door drive", "C62", 11_900, 4_100, 1_000),
    ("fixed price", "Replacing a light curtain, labour", "C62", 19_500, 7_600, 2_000),
    ("fixed price", "Rescue of trapped people", "C62", 24_000, 9_800, 1_500),
    ("fixed price", "Survey before a quote", "C62", 7_500, 3_200, 1_000),
    ("fixed price", "Acceptance with the inspector", "C62", 42_000, 18_500, 4_000),
    ("fixed price", "Training of a lift attendant", "C62", 18_000, 6_500, 2_000),
)
_CHARGES: Sequence[_Row] = (
    ("charge", "Call-out in the evening", "C62", 6_500, None, None),
    ("charge", "Call-out at night", "C62", 12_500, None, None),
    ("charge", "Call-out on a holiday", "C62", 15_000, None, None),
    ("charge", "Small materials", "LS", 950, 400, None),
    ("charge", "Disposal of an old drive", "C62", 2_800, 1_500, None),
    ("fee", "Inspector's fee", "C62", 16_500, 16_500, None),
    ("fee", "Parking and harbour toll", "C62", 1_200, 1_200, None),
    ("fee", "Paper invoice", "C62", 250, 90, None),
)
# What parts are made of: the words of two columns give each a wording, the sizes its price.
_PARTS = (
    ("Door drive", ("type S", "type M", "type L", "type XL"), 48_000, 0.35),
    ("Door roller", ("40 mm", "56 mm", "70 mm"), 1_850, 0.4),
    ("Light curtain", ("16 beams", "32 beams", "64 beams", "128 beams"), 21_000, 0.3),
    ("Door lock", ("single", "double", "with contact"), 8_900, 0.25),
    ("Guide shoe", ("5 mm", "9 mm", "16 mm"), 3_400, 0.3),
    ("Suspension rope, metre", ("6 mm", "8 mm", "10 mm", "13 mm"), 780, 0.25),
    ("Governor rope, metre", ("6 mm", "8 mm"), 620, 0.25),
    ("Traction sheave", ("320 mm", "440 mm", "520 mm"), 68_000, 0.3),
    ("Brake lining, pair", ("small", "large"), 12_500, 0.5),
    ("Car button", ("round", "square", "with Braille"), 2_900, 0.2),
    ("Landing call panel", ("one button", "two buttons", "with display"), 14_500, 0.35),
    ("Position indicator", ("7 segments", "matrix", "colour"), 18_800, 0.4),
    ("Car lamp", ("4 W", "8 W", "12 W"), 1_600, 0.3),
    ("Emergency lamp", ("1 h", "3 h"), 4_700, 0.3),
    ("Safety contact", ("plain", "with key"), 2_200, 0.4),
    ("Limit switch", ("plain", "double"), 3_100, 0.3),
    ("Relay", ("24 V", "110 V", "230 V"), 1_450, 0.2),
    ("Contactor", ("16 A", "32 A", "63 A"), 5_600, 0.45),
    ("Frequency inverter", ("4 kW", "7.5 kW", "11 kW", "15 kW"), 94_000, 0.35),
    ("Control board", ("basic", "group", "with remote line"), 128_000, 0.3),
    ("Emergency telephone", ("line", "mobile network"), 24_500, 0.4),
    ("Buffer", ("spring", "oil", "polyurethane"), 16_800, 0.5),
    ("Step chain, metre", ("narrow", "wide"), 11_400, 0.3),
    ("Handrail, metre", ("black", "coloured"), 6_900, 0.25),
    ("Comb plate", ("left", "middle", "right"), 7_800, 0.1),
    ("Radar sensor", ("one way", "two ways", "with memory"), 15_900, 0.3),
    ("Floor guide", ("600 mm", "900 mm", "1200 mm"), 2_600, 0.35),
    ("Drive belt", ("1.5 m", "2.5 m", "4 m"), 3_300, 0.4),
    ("Battery", ("12 V 7 Ah", "12 V 12 Ah", "24 V 7 Ah"), 3_900, 0.5),
    ("Hydraulic oil", ("5 l", "20 l"), 4_400, 1.6),
    ("Seal kit", ("small jack", "large jack"), 13_700, 0.6),
)
# Name, percent off the standard prices of labour and fixed prices, how many customers belong to it.
_LISTS = (("Harbour", 6, 9), ("Housing", 9, 12), ("Hotels", 4, 6))
_SINCE = date(2026, 10, 1)


def _parts() -> Iterator[_Row]:
    for name, sizes, base, step in _PARTS:
        for number, size in enumerate(sizes):
            price = round(base * (1 + step) ** number / 50) * 50
            unit = "MTR" if name.endswith(", metre") else "PR" if name.endswith(", pair") else "C62"
            yield "part", f"{name}, {size}", unit, price, round(price * 0.62), None


def make_prices(random: np.random.Generator) -> None:
    """The price list, lists with prices of their own from last autumn on, and who belongs to them."""
    codes = {
        key: TaxCode.objects.create(
            key=key, name=name, category=category, reason=reason,
            rates=[{"percent": percent, "valid_from": "2020-01-01"}] if percent else [],
        )
        for key, name, category, reason, percent in TAXES
    }  # fmt: skip
    taken: set[str] = set()
    rows = [*_LABOUR, *_TRAVEL, *_FIXED, *_CHARGES, *_parts()]
    items = Item.objects.bulk_create(_item(row, codes, taken) for row in rows)
    customers = list(Customer.objects.filter(merged_into__isnull=True).order_by("pk"))
    belonging = iter(random.permutation(len(customers)))
    for name, off, count in _LISTS:
        listed = PriceList.objects.create(name=name)
        Price.objects.bulk_create(
            Price(item=item, list=listed, price=round(item.price * (100 - off) / 500) * 5, valid_from=_SINCE)
            for item in items
            if item.kind in ("labour", "fixed price")
        )
        CustomerTerms.objects.bulk_create(
            CustomerTerms(customer=customers[next(belonging)], list=listed) for _ in range(count)
        )


def _item(row: _Row, codes: dict[str, TaxCode], taken: set[str]) -> Item:
    kind, wording, unit, price, cost, effort = row
    key = key_for(wording, taken)
    taken.add(key)
    tax = "no-tax-training" if wording.startswith("Training") else "full-rate"
    return Item(key=key, kind=kind, wording=wording, unit=unit, price=price, cost=cost, effort=effort, tax=codes[tax])
