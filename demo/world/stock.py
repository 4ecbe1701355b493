"""What lies on the vans: enough for what is planned, but for a few visits."""

from collections import Counter, defaultdict

import numpy as np

from apps.orders.models import Visit
from apps.stock.models import Part, VanPart
from demo.world.week import Week

# How many of each lie on a van without anything planned.
USUAL = {"safety-contact": (3, 9), "door-roller": (3, 9), "light-curtain": (1, 3), "car-lamp": (4, 11),
         "gate-spring": (1, 3), "seal-set": (1, 3)}  # fmt: skip
# Only the riggers carry these.
ROPES = {"suspension-rope-m": 180, "rope-socket": 24}
SHORT = 4


def make_vans(week: Week) -> None:
    """Write the vans. Their own dice: the week stays as it is."""
    dice = np.random.default_rng(17)
    planned: defaultdict[int, Counter[str]] = defaultdict(Counter)
    for visit in _open(week):
        planned[visit.technician_id or 0].update(visit.takes)
    vans = {}
    for place, technician in enumerate(week.people.technicians):
        van = Counter({part: int(dice.integers(*span)) for part, span in USUAL.items()})
        van.update(planned[technician.pk])
        if place in (18, 19):
            van.update(ROPES)
        vans[technician.pk] = van
    _fall_short(week, vans, planned)
    parts = {row.code: row for row in Part.objects.all()}
    VanPart.objects.bulk_create(
        VanPart(technician_id=key, part=parts[part], quantity=quantity)
        for key, van in vans.items()
        for part, quantity in sorted(van.items())
    )


def _fall_short(week: Week, vans: dict[int, Counter[str]], planned: dict[int, Counter[str]]) -> None:
    """Of the next working day's visits, a few find one piece less on the van than they and those before them take."""
    day = week.workday(1)
    short: set[int] = set()
    for visit in _open(week):
        if visit.start is None or visit.start.astimezone(week.tz).date() != day or visit.technician_id in short:
            continue
        key, part = visit.technician_id or 0, min(visit.takes)
        vans[key][part] = planned[key][part] - 1
        short.add(key)
        if len(short) == SHORT:
            return


def _open(week: Week) -> list[Visit]:
    return [v for v in week.visits if v.technician_id is not None and v.takes and v.finished_at is None]
