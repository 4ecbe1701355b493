"""The region's files, read once per process."""

import json
from functools import cache
from typing import Any

from django.conf import settings

from core.roads import AddressBook, RoadNetwork, network_from_geojson


@cache
def read(name: str) -> dict[str, Any]:
    """A FeatureCollection of the region: "roads", "houses", "land" or "areas"."""
    loaded: dict[str, Any] = json.loads((settings.REGION_FOLDER / f"{name}.geojson").read_text())
    return loaded


@cache
def network() -> RoadNetwork:
    return network_from_geojson(read("roads"))


@cache
def address_book() -> AddressBook:
    # A region that was brought in before houses were read has none.
    known = (settings.REGION_FOLDER / "houses.geojson").exists()
    return AddressBook(read("roads"), read("houses") if known else None)
