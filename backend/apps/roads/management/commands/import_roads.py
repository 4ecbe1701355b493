"""Take an OpenStreetMap extract as the region's roads."""

import json
import os
import tempfile
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from apps.roads.openstreetmap import read_houses, read_roads
from core.roads import BadRegion

NOTHING = {"type": "FeatureCollection", "features": []}


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *_args: Any, file: Path, **_options: Any) -> None:
        if not file.is_file():
            raise CommandError(f"There is no file {file}.")
        try:
            collection, _network, report = read_roads(file)
            houses = read_houses(file)
        except BadRegion as error:
            raise CommandError(f"{error} The roads stay as they were.") from error
        folder = settings.OWN_REGION_FOLDER
        folder.mkdir(parents=True, exist_ok=True)
        for layer in ("land", "areas"):
            if not (folder / f"{layer}.geojson").exists():
                _write(folder / f"{layer}.geojson", NOTHING)
        _write(folder / "houses.geojson", houses)
        # The roads last: the folder counts as a region from the moment it has them.
        _write(folder / "roads.geojson", collection)
        for line in report.lines():
            self.stdout.write(line)
        known = sum(len(row["properties"]["numbers"]) for row in houses["features"])
        self.stdout.write(f"{known} house numbers in {len(houses['features'])} streets")
        self.stdout.write(f"written to {folder}; it is used from the next start on")


def _write(path: Path, collection: dict[str, Any]) -> None:
    """Beside and renamed: nobody reads half a file, and a full disk leaves the old one."""
    handle, name = tempfile.mkstemp(dir=path.parent, suffix=".part")
    with os.fdopen(handle, "w") as file:
        json.dump(collection, file)
    os.replace(name, path)
