"""Depots, technicians, accounts."""

from dataclasses import dataclass, field
from datetime import time, timedelta
from decimal import Decimal
from typing import Any

import numpy as np
from django.contrib.auth.hashers import make_password

from apps.company.models import Area, Depot
from apps.people.models import Account, Skill, Technician, TechnicianSkill, Vehicle, WeeklyShiftRow
from apps.roads.region import address_book
from core.roles import Role
from demo.accounts import PASSWORD, SIGN_INS
from demo.world.names import FAMILY, GIVEN
from demo.world.portraits import portrait
from demo.world.work import SKILLS
from foundation import clock

DEPOTS = {
    "Kilnfield": ("Kilnfield", "Ropewalk", "Westcliff", "Orchard Rise", "Hale", "Tarn Cross"),
    "Northlock": ("Northlock", "Millrace", "Old Quay", "Orchard Rise", "Tarn Cross"),
    "Airfield": ("Airfield", "Saltmarsh", "Gull Point", "Old Quay", "Little Ombury"),
}
HOURS = ((time(7), time(15, 30)), (time(7, 30), time(16)), (time(8), time(16, 30)), (time(9), time(17, 30)))
# What a technician is good at: a trade with its neighbours.
TRADES = (
    {"traction": 4, "doors": 3, "rescue": 2, "controller": 2},
    {"traction": 3, "hydraulic": 3, "doors": 2, "rescue": 2},
    {"hydraulic": 4, "welding": 3, "doors": 2, "traction": 1},
    {"doors": 5, "welding": 2, "escalator": 1},
    {"escalator": 4, "controller": 3, "traction": 2},
    {"inspection": 3, "traction": 3, "hydraulic": 2},
    {"rigging": 4, "traction": 4, "welding": 2, "rescue": 3},
    {"controller": 4, "traction": 3, "rescue": 2, "doors": 2},
)
TECHNICIANS = 24


@dataclass
class People:
    """What the rest of the world needs of them."""

    technicians: list[Technician]
    areas: dict[str, Area]
    area_names: dict[int, list[str]] = field(default_factory=dict)
    levels: dict[int, dict[str, int]] = field(default_factory=dict)
    hours: dict[int, tuple[time, time]] = field(default_factory=dict)


def make_people(random: np.random.Generator) -> People:
    areas = {area.name: area for area in Area.objects.all()}
    depots = Depot.objects.bulk_create(_depot(name) for name in DEPOTS)
    skills = {s.code: s for s in Skill.objects.bulk_create(Skill(code=c, name=n) for c, n in SKILLS.items())}
    accounts = _accounts()
    names = _names(random)
    technicians = [
        Technician(
            name=name,
            phone=f"+351 296 55 {10 + number:02d} {int(random.integers(10, 99))}",
            email=f"{name.lower().replace(' ', '.')}@hallamreyne.example",
            depot=depots[number % len(depots)],
            account=accounts.get(name),
            portrait=portrait(random),
        )
        for number, name in enumerate(names)
    ]
    Technician.objects.bulk_create(technicians)
    _vehicles(technicians)
    people = People(technicians=technicians, areas=areas)
    for number, technician in enumerate(technicians):
        trade = TRADES[(number // 3) % len(TRADES)]
        shifted = {skill: int(np.clip(level + random.integers(-1, 2), 1, 5)) for skill, level in trade.items()}
        people.levels[technician.pk] = shifted
        # Those who get people out of lifts go everywhere.
        everywhere = shifted.get("rescue", 0) >= 3
        people.area_names[technician.pk] = [] if everywhere else list(DEPOTS[technician.depot.name])
        people.hours[technician.pk] = HOURS[number % len(HOURS)]
    _link(people, skills)
    return people


def _link(people: People, skills: dict[str, Skill]) -> None:
    TechnicianSkill.objects.bulk_create(
        TechnicianSkill(technician_id=key, skill=skills[name], level=level)
        for key, levels in people.levels.items()
        for name, level in levels.items()
    )
    through = Technician.areas.through
    through.objects.bulk_create(
        through(technician_id=key, area_id=people.areas[name].pk)
        for key, names in people.area_names.items()
        for name in names
    )
    on_call = [technician.pk for technician in people.technicians[-ON_CALL_WEEKS:]]
    WeeklyShiftRow.objects.bulk_create(
        row
        for key, (start, end) in people.hours.items()
        for row in (_turns(key, start, end, on_call.index(key)) if key in on_call else _week(key, start, end))
    )


# So many take turns, a week each, in being on call at night and at the weekend.
ON_CALL_WEEKS = 4
WEEKEND = time(8)


def _week(key: int, start: time, end: time, **more: Any) -> list[WeeklyShiftRow]:
    return [
        WeeklyShiftRow(
            technician_id=key, weekday=weekday, start=start, end=end, rest_earliest=time(11, 30),
            rest_latest=time(14), rest_minutes=30, overtime_minutes=60, **more,
        )
        for weekday in range(5)
    ]  # fmt: skip


def _turns(key: int, start: time, end: time, own: int) -> list[WeeklyShiftRow]:
    """Four weeks in turn, on call in one of them: through the night, and from Saturday morning to Monday's shift."""
    rows = []
    for week in range(ON_CALL_WEEKS):
        turn = {"week": week, "weeks": ON_CALL_WEEKS}
        called = {"on_call_until": min(start, WEEKEND)} if week == own else {}
        rows += _week(key, start, end, **turn, **called)
        if week == own:
            rows += [
                WeeklyShiftRow(technician_id=key, weekday=5, start=WEEKEND, end=WEEKEND, on_call_until=WEEKEND, **turn),
                WeeklyShiftRow(
                    technician_id=key, weekday=6, start=WEEKEND, end=WEEKEND, on_call_until=min(start, WEEKEND), **turn
                ),
            ]
    return rows


def _vehicles(technicians: list[Technician]) -> None:
    """A van for each, in the order of their depots; some are due for inspection."""
    for number, technician in enumerate(technicians):
        technician.vehicle = Vehicle.objects.create(
            code=f"van-{number + 1}", name=f"Van {number + 1}", plate=f"VH-{101 + number}", depot=technician.depot,
            inspection_due=clock.now().date() + timedelta(days=17 + 23 * number), cost_per_km=Decimal("0.42"),
        )  # fmt: skip
        technician.cost_per_hour = Decimal(38 + number % 5)
    Technician.objects.bulk_update(technicians, ["vehicle", "cost_per_hour"])


def _depot(name: str) -> Depot:
    street = next(row for row in address_book().addresses() if row[1] == name and row[2] > 30)
    match = address_book().search(f"{street[0]} 12, {name}")[0]
    return Depot(name=name, address=match.address.text, lon=match.place.lon, lat=match.place.lat)


def _accounts() -> dict[str, Account]:
    # One hash for all: hashing is slow on purpose, and the password is no secret here.
    password = make_password(PASSWORD)
    rows = [Account(email=s.email, name=s.name, role=Role(s.role), password=password) for s in SIGN_INS]
    return {account.name: account for account in Account.objects.bulk_create(rows) if account.role == Role.TECHNICIAN}


def _names(random: np.random.Generator) -> list[str]:
    """24 names; the first is the one with a sign-in."""
    taken = {sign_in.name for sign_in in SIGN_INS}
    names = [sign_in.name for sign_in in SIGN_INS if sign_in.role == "technician"]
    while len(names) < TECHNICIANS:
        name = f"{GIVEN[int(random.integers(len(GIVEN)))]} {FAMILY[int(random.integers(len(FAMILY)))]}"
        if name not in taken and name not in names:
            names.append(name)
    return names
