"""Take areas from a GeoJSON file; every site finds its area anew."""

import json
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction

from apps.company.commands import put_areas
from apps.customers.commands import find_areas
from apps.roads import region
from core.roles import Role
from foundation import clock
from foundation.errors import RelayError
from foundation.outside import Outside

BY_HAND = Outside(name="Command line", role=Role.ADMINISTRATOR)


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    @transaction.atomic
    def handle(self, *_args: Any, file: Path, **_options: Any) -> None:
        try:
            collection = json.loads(file.read_text())
            count = put_areas(actor=BY_HAND, now=clock.now(), collection=collection)
        except (OSError, ValueError) as error:
            raise CommandError(f"{file.name} cannot be read: {error}") from error
        except RelayError as error:
            raise CommandError(f"{error.sentence} Nothing was changed.") from error
        moved = find_areas(actor=BY_HAND, now=clock.now())
        if region.is_own():
            (settings.OWN_REGION_FOLDER / "areas.geojson").write_text(json.dumps(collection))  # the map draws them
        self.stdout.write(f"{count} areas taken; {moved} sites now lie in another one")
