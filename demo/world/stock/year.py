"""A year of movements: deliveries, vans filled up every week, parts built in at visits, a few counts and scraps."""

from collections import defaultdict

import numpy as np

from apps.orders.models import Visit
from apps.stock.models import Part
from demo.world.history import DAYS
from demo.world.stock.books import Books, moment
from demo.world.week import Week

# What a visit builds in, by its job type: words that parts begin with, and how likely it is.
BUILT_IN = {
    "stopped": (("Safety contact", 0.5), ("Relay", 0.35), ("Fuse", 0.4), ("Control board", 0.05)),
    "stopped-hyd": (("Valve", 0.25), ("O-ring", 0.5), ("Hydraulic oil", 0.3)),
    "door-open": (("Door roller", 0.6), ("Light curtain", 0.3), ("Door drive", 0.12), ("Floor guide", 0.3)),
    "door-noise": (("Door roller", 0.5), ("Drive belt", 0.3), ("Grease", 0.3)),
    "leak": (("Seal", 0.8), ("Hose", 0.4), ("Hydraulic oil", 0.7)),
    "upkeep-month": (("Car lamp", 0.3), ("Grease", 0.25), ("Guide shoe", 0.15)),
    "upkeep-quarter": (("Brake lining", 0.2), ("Car lamp", 0.3), ("Battery", 0.25)),
    "upkeep-esc": (("Handrail", 0.05), ("Comb plate", 0.25), ("Bearing", 0.3)),
    "upkeep-door": (("Door roller", 0.35), ("Drive belt", 0.25), ("Radar sensor", 0.1)),
    "rope": (("Suspension rope", 0.9), ("Rope", 0.8)),
    "spring": (("Gate spring", 0.8), ("Spring", 0.4)),
    "controller": (("Relay", 0.5), ("Contactor", 0.35), ("Encoder", 0.12), ("Frequency inverter", 0.08)),
    "step-chain": (("Step chain", 0.5), ("Bearing", 0.4)),
    "handrail": (("Handrail", 0.8),),
    "sensor": (("Light curtain", 0.6), ("Radar sensor", 0.4)),
    "lamp": (("Car lamp", 0.9), ("Emergency lamp", 0.2)),
    "commission": (("Cable", 0.4), ("Terminal", 0.5), ("Connector", 0.4)),
}
_USUALLY = ("Hex bolt", "Cable tie", "Screw", "Washer")
# Every so many working days a van is counted, and something is thrown away.
COUNT_EVERY = 65
SCRAP_EVERY = 40


def live_through(week: Week, books: Books) -> None:
    """From a year ago until this morning."""
    dice = np.random.default_rng(1617)
    _first_filling(week, books, dice)
    families = _families(books)
    done = Visit.objects.filter(finished_at__isnull=False).select_related(
        "technician", "order__site", "order__job_type"
    )
    number = 0
    for visit in done.order_by("finished_at", "id"):
        if visit.technician is None or visit.order.job_type is None:
            continue
        number += 1
        for part, quantity in visit_parts(visit, families, dice, books):
            books.use(visit, part, quantity)
        if number % COUNT_EVERY == 0:
            _count(books, visit, dice)
        if number % SCRAP_EVERY == 0:
            _scrap(books, visit, dice)


def _first_filling(week: Week, books: Books, dice: np.random.Generator) -> None:
    """What lay in the depots a year ago."""
    begin = moment(week, DAYS + 2, 7)
    for part in books.parts.values():
        for depot in books.depots.values():
            cheap = (part.cost or 0) < 500
            books.deliver(depot, part, int(dice.integers(8, 40) if cheap else dice.integers(1, 6)), begin)


def _families(books: Books) -> dict[str, list[Part]]:
    """Parts by the words that visits ask for."""
    words = {word for asked in BUILT_IN.values() for word, _share in asked} | set(_USUALLY)
    found: dict[str, list[Part]] = defaultdict(list)
    for part in books.parts.values():
        for word in words:
            if part.name.startswith(word):
                found[word].append(part)
    return found


def visit_parts(
    visit: Visit, families: dict[str, list[Part]], dice: np.random.Generator, books: Books
) -> list[tuple[Part, int]]:  # fmt: skip
    """What a visit used: what it was to take, else what its kind of work usually needs."""
    if visit.takes:
        return [(books.parts[code], quantity) for code, quantity in sorted(visit.takes.items())]
    job = visit.order.job_type
    found: dict[int, tuple[Part, int]] = {}
    asked = BUILT_IN.get(job.code if job else "", ())
    for word, share in (*asked, (_USUALLY[int(dice.integers(len(_USUALLY)))], 0.2)):
        if dice.random() < share and families[word]:
            # The first of a family is what is used most.
            part = families[word][min(int(dice.exponential(0.9)), len(families[word]) - 1)]
            single = part.tracking == "serial number" or (part.cost or 0) > 5_000
            found[part.pk] = (part, 1 if single else int(dice.integers(1, 5)))
    return list(found.values())


def _count(books: Books, visit: Visit, dice: np.random.Generator) -> None:
    """Somebody counts the van and finds one too few, or one too many, of a cheap part."""
    van = books.vans[visit.technician_id or 0]
    own = [row for row in books.parts.values() if row.tracking == "plain" and books.at(van, row) > 0]
    if not own or visit.finished_at is None:
        return
    part, other = own[int(dice.integers(len(own)))], books.nobodys["count difference"]
    source, target = (van, other) if dice.random() < 0.7 else (other, van)
    books.move(part, 1, source, target, "count", visit.finished_at, note="counted the van")


def _scrap(books: Books, visit: Visit, dice: np.random.Generator) -> None:
    """Something was broken in the depot."""
    depot = books.depots[books.depot_of[visit.technician_id or 0]]
    own = [row for row in books.parts.values() if row.tracking == "plain" and books.at(depot, row) > 1]
    if own and visit.finished_at is not None:
        part = own[int(dice.integers(len(own)))]
        books.move(part, 1, depot, books.nobodys["scrap"], "scrap", visit.finished_at, note="fell off the shelf")
