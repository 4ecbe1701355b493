"""The region's files, read once per process, and anew when another region was brought in."""

import json
from functools import lru_cache
from pathlib import Path
from typing import Any

from django.conf import settings

from core.roads import AddressBook, RoadNetwork, network_from_geojson


def folder() -> Path:
    """Where the files of the region are: one that is set, else a region of one's own, else the one that is shipped."""
    if settings.REGION_FOLDER is not None:
        return Path(settings.REGION_FOLDER)
    own = Path(settings.OWN_REGION_FOLDER)
    return own if not settings.DEMO and (own / "roads.geojson").exists() else Path(settings.SHIPPED_REGION_FOLDER)


def is_own() -> bool:
    """Whether the region is one that was brought in here."""
    return folder() == Path(settings.OWN_REGION_FOLDER)


def read(name: str) -> dict[str, Any]:
    """A FeatureCollection of the region: "roads", "houses", "land", "areas" or "boundaries"; of what it does not have
    an empty one."""
    path = folder() / f"{name}.geojson"
    return _read(path, path.stat().st_mtime_ns) if path.exists() else {"type": "FeatureCollection", "features": []}


@lru_cache(maxsize=8)
def _read(path: Path, _mark: int) -> dict[str, Any]:
    loaded: dict[str, Any] = json.loads(path.read_text())
    return loaded


def mark() -> tuple[Path, int]:
    """Another one when there are other roads."""
    path = folder() / "roads.geojson"
    return path, path.stat().st_mtime_ns


def network() -> RoadNetwork:
    return network_of(mark())


def network_of(roads: tuple[Path, int]) -> RoadNetwork:
    """The network of just these roads, also when others have been brought in since they were looked at."""
    return _network(*roads)


@lru_cache(maxsize=1)
def _network(path: Path, mark: int) -> RoadNetwork:
    return network_from_geojson(_read(path, mark))


def address_book() -> AddressBook:
    return _address_book(*mark())


@lru_cache(maxsize=1)
def _address_book(_path: Path, _mark: int) -> AddressBook:
    return AddressBook(read("roads"), read("houses"))
