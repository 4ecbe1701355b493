"""Asking the region: travel, paths, addresses."""

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from itertools import islice, pairwise
from pathlib import Path as FilePath
from threading import Lock
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from django.conf import settings
from django.utils.module_loading import import_string

from apps.company.queries import time_zone
from apps.roads import region
from apps.roads.region import network, read
from core.basics import Place
from core.roads import Errand, Geocoder, Match, Path, PeriodClock, paths_between
from core.roads.periods import SPEED_SHARE
from core.roads.travel import TimedTravel
from foundation.errors import Rejected


def travel_among(places: list[Place]) -> TimedTravel:
    """Driving among places; `.index` numbers them, in the order in which they are given."""
    return TimedTravel.among(places, import_string(settings.TRAVEL)(places), _clock(time_zone()))


@lru_cache(maxsize=4)
def _clock(tz: ZoneInfo) -> PeriodClock:
    return PeriodClock(tz)


def path(origin: Place, destination: Place, departs: datetime) -> Path:
    """The road taken when leaving then."""
    return paths([(origin, destination, int(departs.timestamp()))])[0]


# Places do not move, and a board's rounds are asked for again and again: the last roads taken are kept.
KEPT_PATHS = 20_000
_kept: OrderedDict[tuple[str, Errand], Path] = OrderedDict()
_keeping = Lock()


def paths(drives: Sequence[tuple[Place, Place, int]]) -> list[Path]:
    """The roads taken, for many drives at once: from where, to where, leaving when (epoch seconds)."""
    clock, known = _clock(time_zone()), network()
    errands = [Errand(origin=one, destination=two, period=clock.at(at)[0]) for one, two, at in drives]
    with _keeping:
        found = {errand: road for errand in errands if (road := _kept.get((known.fingerprint, errand))) is not None}
    new = [errand for errand in dict.fromkeys(errands) if errand not in found]
    found |= zip(new, paths_between(known, new) if new else (), strict=True)
    with _keeping:
        for errand, road in found.items():
            _kept[known.fingerprint, errand] = road
            _kept.move_to_end((known.fingerprint, errand))
        while len(_kept) > KEPT_PATHS:
            _kept.popitem(last=False)
    return [found[errand] for errand in errands]


def tours(wanted: Sequence[tuple[Sequence[Place], int]]) -> list[list[tuple[float, float]]]:
    """The road through the places of each tour, in their order, driven at about that moment."""
    legs = [(one, two, at) for places, at in wanted for one, two in pairwise(places)]
    roads = iter(paths(legs))
    found = []
    for places, _at in wanted:
        line = [(place.lon, place.lat) for place in places[:1]]
        for road in islice(roads, len(places) - 1):
            line += road.points[1:]
        found.append(line)
    return found


def traffic(at: int) -> tuple[str, dict[str, float]]:
    """The period of the day, and by class of road the share of the free speed that is left in it."""
    period, _end = _clock(time_zone()).at(at)
    return period.name.lower().replace("_", " "), {name: shares[period] for name, shares in SPEED_SHARE.items()}


def geocoder() -> Geocoder:
    """Whoever answers for addresses: the region's own address book, or a service in its place."""
    found: Geocoder = import_string(settings.GEOCODER)()
    return found


def find_addresses(text: str, *, limit: int = 8) -> list[Match]:
    return geocoder().search(text, limit=limit)


def address_at(place: Place) -> Match | None:
    return geocoder().reverse(place)


@dataclass(frozen=True)
class RegionFacts:
    """What there is of the region."""

    kilometres: float
    streets: int
    houses: int
    boundaries: list[dict[str, Any]]


def region_facts() -> RegionFacts:
    """What there is of the region; worked out once for each."""
    return _region_facts(*region.mark())


@lru_cache(maxsize=1)
def _region_facts(_path: FilePath, _mark: int) -> RegionFacts:
    houses = read("houses")["features"]
    rows = enumerate(read("boundaries")["features"])
    return RegionFacts(
        kilometres=round(float(network().metres.sum()) / 1000, 1),
        streets=len(
            {(row["properties"].get("name"), row["properties"].get("district")) for row in read("roads")["features"]}
        ),
        houses=sum(len(row["properties"]["numbers"]) for row in houses),
        boundaries=[{"number": number, **row["properties"]} for number, row in rows],
    )


def boundaries(numbers: Sequence[int]) -> dict[str, Any]:
    """Some of the region's boundaries as GeoJSON, each by the number that `region_facts` gives it.

    Raises
    ------
    Rejected
        For a number that there is not: another region was brought in meanwhile.
    """
    rows = read("boundaries")["features"]
    if any(not 0 <= number < len(rows) for number in numbers):
        raise Rejected("Another region was brought in meanwhile. Look at it again.", field="numbers")
    return {"type": "FeatureCollection", "features": [rows[number] for number in numbers]}


def metres_off_the_roads(places: Sequence[Place]) -> list[float]:
    """How far each place is from the nearest road of the region."""
    return [snap.off_metres for snap in network().snap(places)]


# So many pieces of road a browser draws; of a larger region it gets the main roads only.
DRAWN_ROADS = 60_000


def addresses_around(place: Place | None, *, metres: float, count: int) -> list[Match]:
    """Some addresses by the roads around a place (None: the middle of the region), spread out; fewer where there are
    not so many."""
    known = network()
    off = known.flat(known.nodes) - (known.flat(np.array([place.lon, place.lat])) if place else np.zeros(2))
    far = (off**2).sum(axis=1) ** 0.5
    near = [int(node) for node in far.argsort() if place is None or far[node] <= metres]
    found: dict[str, Match] = {}
    for node in near[:: max(1, len(near) // (6 * count)) if place else 1]:
        lon, lat = known.nodes[node]
        match = address_at(Place(float(lon), float(lat)))
        if match is not None:
            found.setdefault(match.address.text, match)
        if len(found) == count:
            break
    return list(found.values())


def map_layer(name: str) -> dict[str, Any]:
    """A layer of the map as GeoJSON: "roads", "land" or "areas"."""
    found = read(name)
    if name != "roads" or len(found["features"]) <= DRAWN_ROADS:
        return found
    main = [row for row in found["features"] if row["properties"]["class"] in ("ring", "main")]
    return {"type": "FeatureCollection", "features": main[:DRAWN_ROADS]}
