"""Suppliers and parts: what the price list sells, and what is only ever used up."""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np
from stdnum import ean

from apps.company.numbers import take_numbers
from apps.pricing.models import Item
from apps.stock.models import Part, Substitute, Supplier
from demo.world.work import PARTS
from foundation import clock
from foundation.named.rows import key_for

# Name, days until it delivers, what it sells by the first words of a part's name.
SUPPLIERS = (
    ("Norrvik Lift Parts", 4, ("Suspension", "Governor", "Traction", "Brake", "Guide", "Buffer", "Rope", "Safety")),
    ("Abendorf Controls", 6, ("Frequency", "Control", "Emergency", "Relay", "Contactor", "Limit", "Position", "Landing",
                              "Car button", "Fuse", "Terminal", "Encoder", "Cable", "Connector")),
    ("Steyn Door Systems", 3, ("Door", "Light curtain", "Radar", "Floor guide", "Drive belt", "Comb", "Panel")),
    ("Pellam Hydraulics", 5, ("Hydraulic", "Seal", "Hose", "O-ring", "Valve")),
    ("Haldane Springs & Gates", 8, ("Gate", "Spring", "Step chain", "Handrail", "Bearing")),
    ("Ombury Fasteners", 2, ("Hex bolt", "Washer", "Nut", "Anchor", "Cable tie", "Grease", "Cleaner", "Sign", "Lamp",
                             "Car lamp", "Battery", "Screw")),
)  # fmt: skip
# What is used up and not sold by the piece: words, sizes, cost of the smallest in cents.
_USED_UP = (
    ("Hex bolt", [f"M{m} × {length}" for m in (6, 8, 10, 12, 16) for length in (20, 30, 40, 60, 80)], 12),
    ("Washer", [f"M{m}" for m in (6, 8, 10, 12, 16)], 4),
    ("Nut, self-locking,", [f"M{m}" for m in (6, 8, 10, 12, 16)], 9),
    ("Anchor", [f"{d} × {length}" for d in (8, 10, 12, 16) for length in (60, 90, 120)], 85),
    ("Screw", [f"{d} × {length}" for d in (4, 5, 6) for length in (20, 40, 60, 80)], 3),
    ("Cable tie", ["100 mm", "200 mm", "300 mm", "450 mm"], 6),
    ("Cable, metre,", [f"{n} × {size} mm²" for n in (3, 5, 7, 12) for size in ("0.75", "1", "1.5", "2.5")], 95),
    ("Connector", [f"{n} poles" for n in (2, 3, 4, 6, 8, 10, 12, 16)], 180),
    ("Terminal", [f"{size} mm²" for size in ("1.5", "2.5", "4", "6", "10")], 60),
    ("Fuse", [f"{a} A {kind}" for a in (1, 2, 4, 6, 10, 16) for kind in ("quick", "slow")], 45),
    ("Encoder", ["1024 steps", "2048 steps", "absolute"], 18_400),
    ("Bearing", ["6000", "6001", "6002", "6003", "6004", "6005", "6201", "6202", "6203", "6204", "6205"], 420),
    ("O-ring", [f"{d} × {t}" for d in (12, 18, 24, 32, 40, 50, 63) for t in ("2.5", "3.5")], 35),
    ("Hose, metre,", ["6 mm", "8 mm", "10 mm", "12 mm", "16 mm"], 890),
    ("Valve", ["return", "lowering", "emergency lowering", "overpressure"], 9_800),
    ("Seal ring", ["40 mm", "50 mm", "63 mm", "80 mm", "100 mm"], 650),
    ("Spring", ["25 N", "40 N", "60 N", "90 N", "140 N"], 310),
    ("Sign", ["Out of order", "Maintenance", "Load 630 kg", "Load 1000 kg", "Emergency number", "No entry"], 260),
    ("Grease", ["cartridge", "tin 1 kg", "spray"], 690),
    ("Cleaner", ["brake, spray", "contacts, spray", "5 l"], 540),
    ("Panel", ["car, stainless", "car, oak", "landing door, left", "landing door, right"], 38_000),
    ("Rope clamp", ["6 mm", "8 mm", "10 mm", "13 mm"], 310),
    ("Safety gear wedge", ["left", "right"], 21_500),
    ("Door hanger", ["left", "right", "middle"], 5_600),
    ("Door sill", ["800 mm", "900 mm", "1100 mm"], 14_200),
    ("Lamp holder", ["E14", "E27", "GU10"], 240),
    ("Rubber mat", ["900 × 1200", "1100 × 1400", "1400 × 1600"], 4_300),
    ("Rail clip", ["T45", "T70", "T75", "T89", "T127"], 380),
    ("Fish plate", ["T45", "T70", "T89", "T127"], 1_450),
    ("Oiler for guide rails", ["5 mm", "9 mm", "16 mm"], 1_900),
    ("Push plate", ["brass", "steel"], 2_700),
    ("Key switch", ["two positions", "three positions", "fire service"], 3_800),
    ("Magnetic switch", ["normally open", "normally closed", "bistable"], 2_250),
    ("Proximity sensor", ["M8", "M12", "M18"], 2_900),
    ("Transformer", ["60 VA", "100 VA", "160 VA", "250 VA"], 4_100),
    ("Power supply", ["24 V 2.5 A", "24 V 5 A", "24 V 10 A"], 5_200),
    ("Fan", ["car, quiet", "cabinet 80 mm", "cabinet 120 mm"], 2_400),
    ("Motor brush", ["small", "medium", "large"], 560),
    ("Step roller", ["70 mm", "76 mm", "100 mm"], 1_350),
    ("Handrail guide", ["inner", "outer"], 980),
    ("Brush strip, metre,", ["black", "grey"], 1_250),
    ("Dock bumper", ["small", "medium", "large"], 6_800),
    ("Lip hinge", ["left", "right"], 7_900),
    ("Gate roller", ["56 mm", "67 mm", "80 mm"], 890),
    ("Gate cable, metre,", ["3 mm", "4 mm", "5 mm"], 210),
    ("Spring shaft", ["1 inch", "30 mm"], 6_100),
    ("Remote control", ["two keys", "four keys"], 3_700),
    ("Photo cell", ["pair, 12 m", "mirror, 6 m"], 4_600),
    ("Lubricating oil", ["chain, 1 l", "gear, 1 l", "gear, 5 l"], 1_150),
    ("Chain hoist", ["500 kg", "1 t"], 31_000),
    ("Load weights", ["set of 10", "set of 20"], 42_000),
    ("Insulation tester", [""], 38_500),
    ("Torque wrench", ["40–200 Nm", "10–60 Nm"], 16_500),
    ("Temporary door guard", [""], 9_400),
    ("Cable, flat, metre,", ["12 wires", "24 wires", "36 wires"], 640),
)
# Which item of the price list is the price of a part that job types ask for.
PRICED = {
    "safety-contact": "Safety contact, plain", "door-roller": "Door roller, 40 mm",
    "light-curtain": "Light curtain, 32 beams", "car-lamp": "Car lamp, 4 W", "seal-set": "Seal kit, small jack",
    "suspension-rope-m": "Suspension rope, metre, 8 mm",
}  # fmt: skip
_COSTS = {"gate-spring": 18_400, "rope-socket": 2_150}
# What does instead, the first one first; one-way unless it is said.
INSTEAD = (
    ("safety-contact", "Safety contact, with key", True), ("door-roller", "Door roller, 56 mm", False),
    ("light-curtain", "Light curtain, 64 beams", False), ("light-curtain", "Light curtain, 128 beams", False),
    ("car-lamp", "Car lamp, 8 W", True), ("gate-spring", "Spring, 140 N", False),
    ("seal-set", "Seal kit, large jack", False),
)  # fmt: skip
_SERIAL = ("Door drive", "Frequency inverter", "Control board", "Emergency telephone", "Encoder")
_BATCH = ("Brake lining", "Hydraulic oil", "Grease")
_OVERSIZED = ("Panel", "Handrail", "Door sill", "Traction sheave")
_HAZARDOUS = ("Hydraulic oil", "Cleaner", "Battery")
_FITS = {
    "Door drive": ["Steyn Glide 2", "Orrin Swingdrive", "Orrin Slide 90"],
    "Light curtain": ["Steyn Glide 2", "Orrin Slide 90"],
    "Suspension rope": ["Norrvik T4", "Norrvik T6", "Castell Ropeline 630", "Abendorf M2"],
    "Seal": ["Pellam H2", "Pellam H3", "Castell Oilramp 400"],
    "Gate spring": ["Orrin Rollgate 5", "Haldane RG 40"],
    "Step chain": ["Abendorf E100", "Steyn Walkline"], "Handrail": ["Abendorf E100", "Steyn Walkline"],
    "Control board": ["Norrvik T4", "Norrvik T6", "Abendorf M2"],
}  # fmt: skip
# Typed by somebody in a hurry, and never looked at since.
_UNTIDY = ("Thing for the door motor", "Lamp (old type)", "Belt 4 m??")


_FIRST = 10_000


@dataclass
class _Making:
    suppliers: dict[str, Supplier]
    dice: np.random.Generator
    number: int = _FIRST
    codes: set[str] = field(default_factory=set)

    def part(self, name: str, *, code: str = "", unit: str = "C62", cost: int, item: Item | None = None) -> Part:
        self.number += 1
        code = code or key_for(name, self.codes)
        self.codes.add(code)
        supplier = self._supplier(name)
        return Part(
            code=code, name=name, number=f"P-{self.number}", unit=unit, cost=cost, item=item, supplier=supplier,
            supplier_number=f"{supplier.name[:2].upper()}-{int(self.dice.integers(10_000, 99_999))}",
            gtin=_gtin(self.number), tracking=_tracking(name), hazardous=name.startswith(_HAZARDOUS),
            oversized=name.startswith(_OVERSIZED), warranty_months=24 if name.startswith(_SERIAL) else 12,
            fits=next((fits for words, fits in _FITS.items() if name.startswith(words)), []),
        )  # fmt: skip

    def _supplier(self, name: str) -> Supplier:
        own = (row for row, _days, words in SUPPLIERS if name.startswith(words))
        return self.suppliers[next(own, SUPPLIERS[-1][0])]


def make_parts(random: np.random.Generator) -> None:
    """Suppliers and parts, those that job types ask for by the keys they ask with."""
    suppliers = {
        name: Supplier.objects.create(
            name=name, days=days, email=f"orders@{name.split()[0].lower()}.example", our_number=f"HR-{410 + number}",
            phone=f"+351 296 66 {20 + number} 00",
        )
        for number, (name, days, _words) in enumerate(SUPPLIERS)
    }  # fmt: skip
    making = _Making(suppliers=suppliers, dice=random)
    items = {row.wording: row for row in Item.objects.filter(kind="part").order_by("id")}
    asked = [
        making.part(
            name, code=code, unit="MTR" if code.endswith("-m") else "C62", item=items.get(PRICED.get(code, "")),
            cost=items[PRICED[code]].cost or 0 if code in PRICED else _COSTS[code],
        )
        for code, name in PARTS.items()
    ]  # fmt: skip
    sold = [
        making.part(wording, unit=row.unit, cost=row.cost or 0, item=row)
        for wording, row in items.items()
        if wording not in PRICED.values()
    ]
    Part.objects.bulk_create([*asked, *sold, *_used_up(making)])
    for name in _UNTIDY:
        making.number += 1
        Part.objects.create(code=key_for(name, making.codes), name=name, number=f"P-{making.number}", untidy=True)
    # What is named from now on goes on from there.
    take_numbers("part", making.number - _FIRST, now=clock.now())
    _substitutes()


def _used_up(making: _Making) -> Iterator[Part]:
    for words, sizes, cost in _USED_UP:
        unit = "MTR" if words.endswith("metre,") else "C62"
        for number, size in enumerate(sizes):
            joint = " " if words.endswith(",") or words[0] == "H" or words in ("Screw", "Washer", "O-ring") else ", "
            yield making.part(
                f"{words}{joint}{size}" if size else words, unit=unit, cost=round(cost * (1 + 0.12 * number))
            )


def _substitutes() -> None:
    parts = {row.name: row for row in Part.objects.all()}
    by_code = {row.code: row for row in parts.values()}
    ranks: Counter[str] = Counter()
    for code, name, both in INSTEAD:
        ranks[code] += 1
        Substitute.objects.create(part=by_code[code], other=parts[name], rank=ranks[code], both_ways=both)


def _gtin(number: int) -> str:
    """From the range that is nobody's: for use inside a house only."""
    digits = f"20{number:010d}"
    return digits + str(ean.calc_check_digit(digits))


def _tracking(name: str) -> str:
    if name.startswith(_SERIAL):
        return "serial number"
    return "batch" if name.startswith(_BATCH) else "plain"
