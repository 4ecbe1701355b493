"""Another region in place of the one there is: read, checked, and only then put where everybody looks."""

import json
import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from django.conf import settings

from apps.roads.openstreetmap import read_boundaries, read_houses, read_roads
from core.roads import BadRegion

NOTHING = {"type": "FeatureCollection", "features": []}
Said = Callable[[str, float], None]


def bring_in(path: Path, *, said: Said = lambda _step, _share: None) -> list[str]:
    """Take an extract as the region; answers what was read, in lines.

    Parameters
    ----------
    said
        Told what is being done, and how far it is (0 to 1).

    Raises
    ------
    BadRegion
        When it cannot be read, or holds no road. The region stays as it was.
    """
    try:
        said("reading boundaries", 0.05)
        boundaries = read_boundaries(path)
        said("reading roads", 0.15)
        collection, _network, report = read_roads(path, boundaries)
        said("reading house numbers", 0.6)
        houses = read_houses(path, boundaries)
    except (RuntimeError, OSError) as error:
        raise BadRegion(f"{path.name} is no OpenStreetMap extract that can be read: {error}") from error
    said("writing", 0.9)
    folder = Path(settings.OWN_REGION_FOLDER)
    folder.mkdir(parents=True, exist_ok=True)
    for layer in ("land", "areas"):
        if not (folder / f"{layer}.geojson").exists():
            _write(folder / f"{layer}.geojson", NOTHING)
    _write(folder / "boundaries.geojson", boundaries.geojson())
    _write(folder / "houses.geojson", houses)
    # The roads last: the region is another one from the moment it has them.
    _write(folder / "roads.geojson", collection)
    numbers = sum(len(row["properties"]["numbers"]) for row in houses["features"])
    return [
        *report.lines(),
        f"{numbers} house numbers in {len(houses['features'])} streets",
        f"{len(boundaries)} boundaries of districts and towns",
    ]


def _write(path: Path, collection: dict[str, Any]) -> None:
    """Beside and renamed: nobody reads half a file, and a full disk leaves the old one."""
    handle, name = tempfile.mkstemp(dir=path.parent, suffix=".part")
    with os.fdopen(handle, "w") as file:
        json.dump(collection, file)
    os.replace(name, path)
