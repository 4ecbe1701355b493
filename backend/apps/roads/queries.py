"""Asking the region: travel, paths, addresses."""

from collections import OrderedDict
from collections.abc import Sequence
from datetime import datetime
from functools import lru_cache
from itertools import islice, pairwise
from threading import Lock
from typing import Any
from zoneinfo import ZoneInfo

from django.conf import settings
from django.utils.module_loading import import_string

from apps.company.queries import time_zone
from apps.roads.region import network, read
from core.basics import Place
from core.roads import Errand, Geocoder, Match, Path, PeriodClock, paths_between
from core.roads.periods import SPEED_SHARE
from core.roads.travel import TimedTravel


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


def map_layer(name: str) -> dict[str, Any]:
    """A layer of the map as GeoJSON: "roads", "land" or "areas"."""
    return read(name)
