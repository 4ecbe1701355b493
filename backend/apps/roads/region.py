"""The region's files, read once per process."""

import json
from functools import cache
from typing import Any

from django.conf import settings

from core.roads import AddressBook, RoadNetwork, network_from_geojson


@cache
def read(name: str) -> dict[str, Any]:
    """A FeatureCollection of the region: "roads", "land" or "areas"."""
    loaded: dict[str, Any] = json.loads((settings.REGION_FOLDER / f"{name}.geojson").read_text())
    return loaded


@cache
def network() -> RoadNetwork:
    return network_from_geojson(read("roads"))


@cache
def address_book() -> AddressBook:
    return AddressBook(read("roads"))
