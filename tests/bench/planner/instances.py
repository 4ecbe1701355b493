"""Problems to measure on: one public, the others from a seeded generator."""

from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from core.scheduling.engine import fields as f
from core.scheduling.engine.arrays import Arrays

Ints = NDArray[np.int64]
HOUR = 3600


@dataclass(frozen=True, kw_only=True)
class Instance:
    """A routing problem in plain arrays. Places: visits first, then where shifts start.

    `length` is int[shifts, visits], -1 where a technician may not do a visit; `penalty` what leaving a
    visit out costs; a mate is the other half of a visit that takes two.
    """

    name: str
    depot: bool  # every shift starts at place 0, everything must be served, visits have a demand
    drive: Ints
    place: Ints
    length: Ints
    opens: Ints
    closes: Ints
    penalty: Ints
    start_place: Ints
    starts: Ints
    ends: Ints
    demand: Ints | None = None
    capacity: int = 0
    skills: Ints | None = None
    needs: Ints | None = None
    pace: Ints | None = None
    length_by_pace: Ints | None = None
    rest: tuple[int, int, int] | None = None  # from, latest beginning, seconds
    mate: Ints | None = None
    normal_end: Ints | None = None
    due: Ints | None = None
    late_rate: Ints | None = None
    extra: dict[str, Ints] = field(default_factory=dict)

    @property
    def n(self) -> int:
        return len(self.place)

    @property
    def m(self) -> int:
        return len(self.starts)


def rc208(path: Path) -> Instance:
    """Solomon's RC208 in the integer units of the DIMACS challenge (tenths, rounded down)."""
    import vrplib

    data = vrplib.read_instance(str(path))
    drive = np.floor(10 * np.asarray(data["edge_weight"])).astype(np.int64)
    service = np.broadcast_to(np.asarray(data["service_time"]), len(drive)) * 10
    windows = (10 * np.asarray(data["time_window"])).astype(np.int64)
    return _depot(
        "RC208, public, 100 customers", drive, service.astype(np.int64), windows, np.asarray(data["demand"]),
        int(data["capacity"]), int(data["vehicles"]),
    )  # fmt: skip


def _depot(
    name: str, drive: Ints, service: Ints, windows: Ints, demand: Ints, capacity: int, vehicles: int
) -> Instance:
    n = len(drive) - 1
    return Instance(
        name=name, depot=True, drive=drive, place=np.arange(1, n + 1),
        length=np.tile(service[1:], (vehicles, 1)).astype(np.int64), opens=windows[1:, 0], closes=windows[1:, 1],
        penalty=np.full(n, 10**7), start_place=np.zeros(vehicles, np.int64),
        starts=np.full(vehicles, windows[0, 0]), ends=np.full(vehicles, windows[0, 1]),
        demand=np.asarray(demand[1:], np.int64), capacity=capacity,
    )  # fmt: skip


def delivery(customers: int, seed: int) -> Instance:
    """Half clustered, half scattered customers around one depot, with windows of mixed width."""
    dice = np.random.default_rng(seed)
    side = 100 if customers <= 100 else 140
    centres = dice.uniform(0.1 * side, 0.93 * side, (8, 2))
    half = customers // 2
    clustered = centres[dice.integers(0, 8, half)] + dice.normal(0, 6, (half, 2))
    scattered = dice.uniform(0, side, (customers - half, 2))
    points = np.vstack([[side / 2, side / 2], np.clip(np.vstack([clustered, scattered]), 0, side)]).round()
    drive = np.floor(10 * np.sqrt(((points[:, None] - points[None]) ** 2).sum(-1))).astype(np.int64)
    n = customers + 1
    horizon = 2400 if customers <= 100 else 6340
    windows = np.zeros((n, 2), np.int64)
    windows[0] = (0, horizon)
    for i in range(1, n):
        low, high = drive[0, i], horizon - drive[i, 0] - 100
        width = int(dice.choice([600, 1200, 2400, horizon], p=[0.3, 0.3, 0.2, 0.2]))
        centre = dice.integers(low, high + 1)
        first = max(low, centre - width // 2)
        windows[i] = (first, min(high, first + width))
    service = np.full(n, 100)
    capacity = 200 if customers <= 100 else 400
    demand = dice.integers(5, 36, n)
    return _depot(f"delivery, {customers} customers, seed {seed}", drive, service, windows, demand, capacity, 50)


def field_day(technicians: int, visits: int, seed: int, *, skilled: bool = True, easy: bool = False) -> Instance:
    """A clustered town: technicians from their homes, skills, windows, priorities. Seconds.

    `skilled` off: anybody can do anything. `easy`: short visits, so that everything can be served.
    """
    dice = np.random.default_rng(seed)
    m, n = technicians, visits
    towns = max(5, n // 30)
    radius = 15_000.0 if m <= 30 else 22_000.0
    centres = dice.normal(0, radius * 0.45, (towns, 2))
    share = dice.dirichlet(np.ones(towns) * 2)
    points = centres[dice.choice(towns, n, p=share)] + dice.normal(0, 1500, (n, 2))
    outside = dice.random(n) < 0.2
    points[outside] = dice.uniform(-radius, radius, (int(outside.sum()), 2))
    homes = dice.normal(0, radius * 0.6, (m, 2))
    everything = np.vstack([points, homes])
    places = n + m
    away = np.sqrt(((everything[:, None] - everything[None]) ** 2).sum(-1))
    drive = (away * 1.3 / (35 / 3.6) + np.where(away > 1, 90, 0)) * dice.uniform(0.93, 1.07, (places, places))
    drive = np.round(drive).astype(np.int64)
    np.fill_diagonal(drive, 0)
    for via in range(places):
        drive = np.minimum(drive, drive[:, via : via + 1] + drive[via : via + 1])
    needs, has = np.zeros(n, np.int64), np.zeros(m, np.int64)
    if skilled:
        for j in range(n):
            count = dice.choice([0, 1, 2], p=[0.1, 0.7, 0.2])
            for skill in dice.choice(6, count, replace=False, p=[0.3, 0.2, 0.2, 0.12, 0.1, 0.08]):
                needs[j] |= 1 << int(skill)
        for v in range(m):
            for skill in dice.choice(6, dice.integers(2, 5), replace=False):
                has[v] |= 1 << int(skill)
        for j in range(n):
            if not ((has & needs[j]) == needs[j]).any():
                needs[j] &= -needs[j]
    base = dice.choice([20, 30, 45, 60, 90, 120], n, p=[0.1, 0.25, 0.25, 0.2, 0.15, 0.05]) * 60
    if easy:
        base = base // 3
    pace = dice.integers(0, 3, m)
    factor = np.array([0.85, 1.0, 1.2])
    length = np.round(base[None] * factor[pace][:, None]).astype(np.int64)
    length[(has[:, None] & needs[None]) != needs[None]] = -1
    opens, closes = np.full(n, 7 * HOUR), np.full(n, 18 * HOUR)
    for j in range(n):
        if dice.random() < 0.6:
            opens[j] = HOUR * int(dice.choice([8, 9, 10, 11, 12, 13, 14, 15]))
            closes[j] = opens[j] + 2 * HOUR
    priority = dice.choice([1, 2, 3, 4], n, p=[0.1, 0.25, 0.45, 0.2])
    starts = (dice.choice([7.5, 8, 8, 8.5, 9], m) * HOUR).astype(np.int64)
    name = f"field day {m} × {n}, seed {seed}" + ("" if skilled else ", no skills") + (", easy" if easy else "")
    return Instance(
        name=name, depot=False, drive=drive, place=np.arange(n), length=length, opens=opens, closes=closes,
        penalty=np.array([0, 40000, 20000, 10000, 5000])[priority], start_place=np.arange(n, n + m), starts=starts,
        ends=starts + (dice.choice([8, 8, 8.5, 6], m) * HOUR).astype(np.int64), skills=has, needs=needs, pace=pace,
        length_by_pace=np.round(base[None] * factor[:, None]).astype(np.int64),
    )  # fmt: skip


def with_lunch(one: Instance) -> Instance:
    return replace(one, name=one.name + ", lunch", rest=(int(11.5 * HOUR), int(13.5 * HOUR), 45 * 60))


def with_everything(one: Instance, seed: int = 9) -> Instance:
    """Lunch, overtime at the price of driving, due times for two in five, and one visit in ten takes two."""
    dice = np.random.default_rng(seed)
    lunch = with_lunch(one)
    n = one.n
    two = [int(j) for j in dice.permutation(n) if (one.length[:, j] >= 0).sum() >= 2][: n // 10]
    mate = np.full(n + len(two), -1)
    for number, j in enumerate(two):
        mate[j], mate[n + number] = n + number, j
    every = np.concatenate([np.arange(n), np.array(two, int)])
    penalty = one.penalty[every].copy()
    penalty[n:] = 0
    return replace(
        lunch, name=lunch.name + ", overtime, due times, crews", place=one.place[every], length=one.length[:, every],
        opens=one.opens[every], closes=one.closes[every], penalty=penalty, mate=mate, normal_end=one.ends,
        ends=one.ends + 5400, due=(one.opens + dice.integers(1, 8, n) * 1800)[every],
        late_rate=np.where(dice.random(n) < 0.4, dice.choice([300, 600, 1000], n), 0)[every],
        needs=None if one.needs is None else one.needs[every],
    )  # fmt: skip


def arrays_of(one: Instance) -> Arrays:
    """The instance as the engine takes it."""
    n, m = one.n, one.m
    tasks = np.zeros((n, f.FIRST_WINDOW + 3), np.int64)
    tasks[:, f.PLACE], tasks[:, f.WINDOWS], tasks[:, f.PENALTY] = one.place, 1, one.penalty * 1000
    tasks[:, f.GRAIN] = 1
    tasks[:, f.PIN_LOW], tasks[:, f.PIN_HIGH] = -f.FAR, f.FAR
    tasks[:, f.LEADER], tasks[:, f.CREW_ROW], tasks[:, f.HOME] = np.arange(n), -1, -1
    tasks[:, f.FIRST_WINDOW], tasks[:, f.FIRST_WINDOW + 1] = one.opens, one.closes
    tasks[:, f.FIRST_WINDOW + 2] = f.FAR
    shifts = np.zeros((m, f.FIRST_BLOCK), np.int64)
    shifts[:, f.START_PLACE] = shifts[:, f.END_PLACE] = one.start_place
    shifts[:, f.STARTS], shifts[:, f.ENDS] = one.starts, one.ends
    shifts[:, f.NORMAL_END] = one.ends if one.normal_end is None else one.normal_end
    shifts[:, f.LENGTH], shifts[:, f.TECHNICIAN] = one.ends - one.starts, np.arange(m)
    if one.rest is not None:
        begins, by, seconds = one.rest
        shifts[:, f.REST], shifts[:, f.REST_FROM], shifts[:, f.REST_BY] = seconds, begins, by
        shifts[:, f.REST_END] = by + seconds
    soft = one.due is not None
    if one.due is not None and one.late_rate is not None:
        tasks[:, f.DUE] = one.due + one.length.max(axis=0)
        tasks[:, f.LATE_RATE] = one.late_rate
        shifts[:, f.OVER_RATE] = 1000
    resources = 1 if one.demand is not None else 0
    demand = np.zeros((n, resources), np.int64)
    bucket = np.zeros((m, resources), np.int32)
    room = np.zeros((max(1, m * resources), 2), np.int64)
    if one.demand is not None:
        demand[:, 0], bucket[:, 0], room[:, 0] = one.demand, np.arange(m), one.capacity
    members = np.zeros((n, 2), np.int64)
    members[:, 0], tasks[:, f.MEMBERS] = np.arange(n), 1
    if one.mate is not None:
        for number, j in enumerate(np.flatnonzero(one.mate >= 0)):
            other = int(one.mate[j])
            tasks[j, f.TIED], tasks[j, f.CREW_ROW] = 1, number
            if other > j:
                members[j], tasks[j, f.MEMBERS] = (j, other), 2
            else:
                tasks[j, f.MEMBERS], tasks[j, f.LEADER], tasks[j, f.CREW_ROW] = 0, other, tasks[other, f.CREW_ROW]
    drive = one.drive.astype(np.int32)
    return Arrays(
        drive=np.stack([drive, drive]), metres=np.zeros((1, 1), np.int32),
        spans=np.array([[-f.FAR, f.FAR, 0]], np.int64), tasks=tasks, shifts=shifts,
        length=one.length.astype(np.int32), extra=np.zeros((m, n), np.int64), demand=demand, bucket=bucket, room=room,
        links=np.zeros((n, 0, f.LINK), np.int64), members=members,
        weights={f.DRIVE_SECOND: 1000, f.SIMULATE: int(soft)},
    )  # fmt: skip


def check(one: Instance, routes: list[list[int]]) -> int:
    """Independent of engine and peers: fails when a route does not hold; else driving + what is left out.

    Crews, overtime and due times are not covered: the peers cannot do them.
    """
    seen: set[int] = set()
    driving = 0
    for v, route in enumerate(routes):
        if not route:
            continue
        states = {(int(one.starts[v]), one.rest is None)}
        place, load = int(one.start_place[v]), 0
        for c in [*route, None]:
            to = int(one.start_place[v]) if c is None else int(one.place[c])
            drive = int(one.drive[place, to])
            driving += drive
            arrivals = set()
            for leaves, rested in states:
                arrivals.add((leaves + drive, rested))
                if not rested and one.rest is not None:
                    begins, by, seconds = one.rest
                    for moment, rest_of_drive in ((max(leaves, begins), drive), (max(leaves + drive, begins), 0)):
                        if moment <= by:
                            arrivals.add((moment + seconds + rest_of_drive, True))
            if c is None:
                # Who is home by the end of the window needs no break on the way.
                at_home = one.rest[1] + one.rest[2] if one.rest is not None else 0
                assert any(a <= one.ends[v] and (ok or a <= at_home) for a, ok in arrivals), ("late home", v)
                continue
            assert c not in seen, ("twice", v, c)
            assert one.length[v, c] >= 0, ("unskilled", v, c)
            seen.add(c)
            states = {
                (max(a, int(one.opens[c])) + int(one.length[v, c]), ok) for a, ok in arrivals if a <= one.closes[c]
            }
            assert states, ("late", v, c)
            states = {min(s for s in states if s[1] == ok) for ok in {s[1] for s in states}}
            place = to
            load += int(one.demand[c]) if one.demand is not None else 0
        assert one.demand is None or load <= one.capacity, ("overloaded", v)
    return driving + int(sum(one.penalty[c] for c in range(one.n) if c not in seen))
