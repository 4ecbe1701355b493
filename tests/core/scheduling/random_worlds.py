"""Made-up problems of every kind, by seed: small enough to run thousands, mixed enough to meet each limit."""

import random
from dataclasses import replace

import numpy as np

from core.basics import Interval, Place
from core.orders.links import Link, LinkKind
from core.roads import PeriodClock, TravelMatrix
from core.roads.travel import TimedTravel
from core.scheduling import Aim, Day, Limit, Load, Playbook, Problem, Setting, Stop, TechnicianSpec, VisitSpec
from core.scheduling.model.reasons import Code, why
from tests.core.worlds import HOUR, MINUTE, PLACES, TZ, at, shift, visit

PACE = (1.0, 1.6, 1.2, 1.5, 1.05)  # of the five periods of the day


def travel_by_hour(dice: np.random.Generator) -> TimedTravel:
    """Places 3 to 40 minutes apart by night, slower by day; no way round is shorter than the way."""
    base = dice.integers(3 * MINUTE, 40 * MINUTE, (PLACES, PLACES))
    np.fill_diagonal(base, 0)
    for via in range(PLACES):
        base = np.minimum(base, base[:, via : via + 1] + base[via : via + 1])
    matrix = TravelMatrix(
        places=tuple(Place(number * 0.01, 0.0) for number in range(PLACES)),
        seconds=np.stack([np.ceil(base * pace).astype(np.int32) for pace in PACE]),
        metres=(base * 8).astype(np.int32),
        estimated=np.zeros((PLACES, PLACES), bool),
    )
    return TimedTravel.among(matrix.places, matrix, PeriodClock(TZ))


def a_technician(dice: random.Random, number: int) -> Day:
    absences: tuple[Interval, ...] = ()
    if dice.random() < 0.3:
        begins = at(dice.randint(8, 14))
        absences = (Interval(start=begins, end=begins + dice.choice([30, 60, 120]) * MINUTE),)
    begins, ends = dice.choice([7, 8, 9, 11]), dice.choice([15, 16, 17])
    on_call = dice.choice([None, None, None, None, 20, 23])
    if on_call and dice.random() < 0.3:
        begins = ends = 8  # on call only
    return Day(
        technician=TechnicianSpec(
            id=number,
            name=f"Technician {number}",
            skills={"Rigging": dice.randint(1, 5)},
            areas=dice.choice([frozenset(), frozenset({"Millrace"})]),
            certificates={"Rescue": at(dice.choice([0, 23]))},
            load=Load(van={"spring": 2}),
        ),
        tz=TZ,
        shift=shift(
            begins,
            ends,
            rest=begins < ends and dice.random() < 0.7,
            overtime=dice.choice([0, 30, 60]) if begins < ends else 0,
            on_call=on_call,
        ),
        start_place=0,
        end_place=dice.choice([0, 1]),
        absences=absences,
        most_visits=dice.choice([None, None, 3]),
    )


def a_visit(dice: random.Random, number: int, technicians: int) -> VisitSpec:
    more: dict[str, object] = {}
    if dice.random() < 0.5:
        begins = at(dice.randint(8, 15))
        more["promise"] = Interval(start=begins, end=begins + dice.choice([1, 2, 3]) * HOUR)
        if dice.random() < 0.3:
            more["other_windows"] = (Interval(start=at(8), end=at(9)),)
    chances = (
        (0.3, "due", lambda: at(dice.randint(10, 16))),
        (0.2, "opening", lambda: (Interval(start=at(9), end=at(12)), Interval(start=at(13), end=at(16)))),
        (0.2, "needs", lambda: {"Rigging": dice.randint(1, 4)}),
        (0.2, "parts", lambda: {"spring": 1}),
        (0.2 if technicians > 1 else 0, "crew", lambda: 2),
        (0.1, "earliest", lambda: at(10)),
        (0.1, "certificates", lambda: frozenset({"Rescue"})),
        (0.1, "forbidden", lambda: frozenset({1})),
        (0.1, "preferred", lambda: frozenset({1})),
        (0.1, "last_technician", lambda: 1),
        (0.2, "durations", lambda: {1: 15 * MINUTE}),
    )
    for chance, name, value in chances:
        if dice.random() < chance:
            more[name] = value()
    area = dice.choice([None, "Millrace", "Saltmarsh"])
    minutes = dice.choice([20, 45, 60, 90])
    return visit(
        number, minutes=minutes, place=dice.randint(1, PLACES - 1), area=area, priority=dice.randint(1, 5), **more
    )


def a_playbook(dice: random.Random) -> Playbook:
    aims = {aim: dice.choice([0, 0.5, 1, 2]) for aim in Aim} | {Aim.SERVED: 1}
    switchable = [Limit.DUE, Limit.PROMISE, Limit.BREAK, Limit.AREA, Limit.OPENING, Limit.SKILL, Limit.ABSENCE]
    limits = {limit: Setting(on=dice.random() < 0.7) for limit in switchable}
    limits[Limit.LONG_DRIVE] = Setting(on=dice.random() < 0.3, number=25)
    limits[Limit.OVERTIME] = Setting(on=dice.random() < 0.9, number=dice.choice([None, 30]))
    return Playbook(name="made up", limits=limits, aims=aims)


def a_problem(seed: int) -> Problem:
    """One to four technicians on one day, up to ten visits, some linked."""
    dice = random.Random(seed)
    technicians = dice.randint(1, 4)
    days = tuple(a_technician(dice, number + 1) for number in range(technicians))
    visits = [a_visit(dice, 100 + number, technicians) for number in range(dice.randint(1, 10))]
    if dice.random() < 0.15:  # all urgent: time on call is planned, too
        visits = [replace(one, priority=1) for one in visits]
    links = []
    if len(visits) >= 2 and dice.random() < 0.5:
        first, second = dice.sample(visits, 2)
        kind = dice.choice(list(LinkKind))
        if kind is not LinkKind.SAME_TECHNICIAN or first.crew == second.crew == 1:
            gaps = {"least": dice.choice([0, 1800]), "greatest": dice.choice([None, 7200])}
            links.append(Link(kind=kind, first=first.id, second=second.id, **(gaps if kind is LinkKind.AFTER else {})))
    return Problem(
        days=days,
        backlog=tuple(visits),
        links=tuple(links),
        playbook=a_playbook(dice),
        travel=travel_by_hour(np.random.default_rng(seed)),
        grain=dice.choice([1, 300]),
    )


def locked(stop: Stop) -> Stop:
    return replace(stop, visit=replace(stop.visit, locked=True, locked_because=why(Code.SENT)))
