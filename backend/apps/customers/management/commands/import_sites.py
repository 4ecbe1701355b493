"""Make customers and sites from the points of a GeoJSON file."""

import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from apps.customers.geojson import import_sites
from apps.people.queries import an_administrator
from foundation import clock
from foundation.errors import RelayError


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *_args: Any, file: Path, **_options: Any) -> None:
        try:
            collection = json.loads(file.read_text())
            made, problems = import_sites(actor=an_administrator(), now=clock.now(), collection=collection)
        except (OSError, ValueError) as error:
            raise CommandError(f"{file.name} cannot be read: {error}") from error
        except RelayError as error:
            raise CommandError(f"{error.sentence} Nothing was made.") from error
        self.stdout.write(f"{made} sites made")
        for problem in problems:
            self.stdout.write(f"left out: {problem}")
