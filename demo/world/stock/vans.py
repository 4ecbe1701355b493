"""What lies on the vans this morning: enough for what is planned, but for a few visits."""

from collections import Counter, defaultdict

import numpy as np

from apps.orders.models import Visit
from apps.people.models import Technician
from apps.stock.models import StockPlace
from demo.world.stock.books import Books, moment
from demo.world.stock.parts import INSTEAD
from demo.world.week import Week

# How many of each lie on a van without anything planned.
USUAL = {"safety-contact": (3, 9), "door-roller": (3, 9), "light-curtain": (1, 3), "car-lamp": (4, 11),
         "gate-spring": (1, 3), "seal-set": (1, 3)}  # fmt: skip
# Only the riggers carry these.
ROPES = {"suspension-rope-m": 180, "rope-socket": 24}
SHORT = 5


def fill_vans(week: Week, books: Books) -> None:
    """Bring the vans to what they ought to have. Their own dice: the week stays as it is."""
    dice = np.random.default_rng(17)
    planned: defaultdict[int, Counter[str]] = defaultdict(Counter)
    for visit in _open(week):
        planned[visit.technician_id or 0].update(visit.takes)
    wanted: dict[int, Counter[str]] = {}
    for place, technician in enumerate(week.people.technicians):
        van = Counter({part: int(dice.integers(*span)) for part, span in USUAL.items()})
        van.update(planned[technician.pk])
        if place in (18, 19):
            van.update(ROPES)
        wanted[technician.pk] = van
    short = _fall_short(week, wanted, planned)
    for technician in week.people.technicians:
        for code, quantity in sorted(wanted[technician.pk].items()):
            _bring_to(week, books, technician, code, quantity)
    _fill_up(week, books, dice)
    for technician, code in short:
        _empty_depot(week, books, technician, code)
        _substitute_at_hand(week, books, technician, code)


def _fill_up(week: Week, books: Books, dice: np.random.Generator) -> None:
    """What a van used now and then lies on it again, mostly."""
    parts = {row.pk: row for row in books.parts.values()}
    for technician in week.people.technicians:
        van = books.vans[technician.pk]
        for place, key in sorted(books.used):
            if place == van.pk and books.levels[place, key] == 0 and dice.random() < 0.85:
                books.load(technician, parts[key], int(dice.integers(1, 4)), moment(week, 1, 16.8))


def _fall_short(
    week: Week, wanted: dict[int, Counter[str]], planned: dict[int, Counter[str]]
) -> list[tuple[Technician, str]]:  # fmt: skip
    """Of the next working day's visits, a few find one piece less on the van than they and those before them take."""
    day = week.workday(1)
    people = {row.pk: row for row in week.people.technicians}
    short: dict[int, str] = {}
    for visit in _open(week):
        if visit.start is None or visit.start.astimezone(week.tz).date() != day or visit.technician_id in short:
            continue
        key, part = visit.technician_id or 0, min(visit.takes)
        wanted[key][part] = planned[key][part] - 1
        short[key] = part
        if len(short) == SHORT:
            break
    return [(people[key], code) for key, code in short.items()]


def _bring_to(week: Week, books: Books, technician: Technician, code: str, quantity: int) -> None:
    """Last night's filling up, or taking out what is too many."""
    part, van, at = books.parts[code], books.vans[technician.pk], moment(week, 1, 16.75)
    there = books.at(van, part)
    if there < quantity:
        books.load(technician, part, quantity - there, at)
    elif there > quantity:
        books.move(part, there - quantity, van, books.depots[books.depot_of[technician.pk]], "transfer", at)


def _empty_depot(week: Week, books: Books, technician: Technician, code: str) -> None:
    """The depot where the shift starts has none left: they went to the other depots."""
    part, own = books.parts[code], books.depots[books.depot_of[technician.pk]]
    for other in _others(books, own):
        half = books.at(own, part) - books.at(own, part) // 2
        if half:
            books.move(part, half, own, other, "transfer", moment(week, 1, 17.25))
    if left := books.at(own, part):
        books.move(part, left, own, _others(books, own)[0], "transfer", moment(week, 1, 17.5))


def _others(books: Books, own: StockPlace) -> list[StockPlace]:
    return [place for place in books.depots.values() if place.pk != own.pk]


def _substitute_at_hand(week: Week, books: Books, technician: Technician, code: str) -> None:
    """The van has two of what does instead."""
    names = [name for part, name, _both in INSTEAD if part == code]
    for part in books.parts.values():
        if names and part.name == names[0] and books.at(books.vans[technician.pk], part) < 2:
            books.load(technician, part, 2, moment(week, 1, 16.9))


def _open(week: Week) -> list[Visit]:
    return [v for v in week.visits if v.technician_id is not None and v.takes and v.finished_at is None]
