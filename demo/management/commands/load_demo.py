"""Throw away all data and load the demo world around today, or around another day."""

from datetime import date
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from demo.world.load import load


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--on", type=date.fromisoformat, help="the day on which the demo plays, as 2026-11-25")

    def handle(self, *_args: Any, on: date | None, **_options: Any) -> None:
        if not settings.DEMO:
            raise CommandError("This is not a demo (RELAY_DEMO is not set): its data stays.")
        self.stdout.write(load(on=on))
