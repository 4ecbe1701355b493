"""Figures of the core alone."""

import json
from pathlib import Path

import numpy as np

from core.basics import Interval, Place
from core.roads import AddressBook, PeriodClock, compute_matrix, extend_matrix, network_from_geojson
from core.roads.travel import TimedTravel
from core.scheduling import judge
from tests.bench.figures import Figures
from tests.core.worlds import TZ, at, day, shift, stop

ROADS = Path(__file__).parents[2] / "demo" / "region" / "roads.geojson"


def sites(count: int) -> tuple[object, list[Place]]:
    collection = json.loads(ROADS.read_text())
    book = AddressBook(collection, json.loads(ROADS.with_name("houses.geojson").read_text()))
    streets = [row for row in book.addresses() if row[2] > 10]
    random = np.random.default_rng(1)
    places = [
        book.search(f"{street} {int(random.integers(1, last))}, {district}")[0].place
        for street, district, last in (streets[int(i)] for i in random.integers(0, len(streets), count))
    ]
    return network_from_geojson(collection), list(dict.fromkeys(places))


def evaluator(figures: Figures) -> None:
    """One step of a drag: the day before and after, with real roads."""
    network, places = sites(12)
    travel = TimedTravel.among(places, compute_matrix(network, places), PeriodClock(TZ))  # type: ignore[arg-type]
    stops = [
        stop(n, at(8 + n), minutes=40, place=n, promise=Interval(start=at(8 + n), end=at(10 + n)), area=None)
        for n in range(1, 8)
    ]
    planned = day(*stops, shift_=shift(8, 17, rest=True))
    moved = stop(99, at(11, 20), minutes=30, place=9, area=None)
    figures.take(
        "evaluator: one drag step on a day of 7 visits",
        lambda: judge(planned, moved, travel),
        repeat=200,
        wanted="< 5 ms",
    )


def matrix(figures: Figures) -> None:
    """Travel among 300 sites, five periods of the day."""
    network, places = sites(300)
    known = compute_matrix(network, places[:-1])  # type: ignore[arg-type]
    figures.take(
        f"roads: matrix of {len(places)} sites × 5 periods",
        lambda: compute_matrix(network, places),  # type: ignore[arg-type]
        repeat=3,
        warm=0,
    )
    figures.take("roads: one more site", lambda: extend_matrix(network, known, places), repeat=7)  # type: ignore[arg-type]
