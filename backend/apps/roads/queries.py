"""Asking the region: travel, paths, addresses."""

from datetime import datetime
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo

from django.conf import settings
from django.utils.module_loading import import_string

from apps.company.queries import time_zone
from apps.roads.region import network, read
from core.basics import Place
from core.roads import Geocoder, Match, Path, PeriodClock, path_between
from core.roads.periods import SPEED_SHARE
from core.roads.travel import TimedTravel


def travel_among(places: list[Place]) -> TimedTravel:
    """Driving among places; indices are those of `.matrix.index`."""
    return TimedTravel(import_string(settings.TRAVEL)(places), _clock(time_zone()))


@lru_cache(maxsize=4)
def _clock(tz: ZoneInfo) -> PeriodClock:
    return PeriodClock(tz)


def path(origin: Place, destination: Place, departs: datetime) -> Path:
    """The road taken when leaving then."""
    period, _end = _clock(time_zone()).at(int(departs.timestamp()))
    return path_between(network(), origin, destination, period)


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
