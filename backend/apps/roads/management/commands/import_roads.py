"""Take an OpenStreetMap extract as the region's roads."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from apps.roads.bringing import bring_in
from core.roads import BadRegion


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *_args: Any, file: Path, **_options: Any) -> None:
        if not file.is_file():
            raise CommandError(f"There is no file {file}.")
        try:
            lines = bring_in(file)
        except BadRegion as error:
            raise CommandError(f"{error} The roads stay as they were.") from error
        for line in lines:
            self.stdout.write(line)
        self.stdout.write(f"written to {settings.OWN_REGION_FOLDER}; it is used from now on")
