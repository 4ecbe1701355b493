"""Throw away all data and load the demo world around today."""

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from demo.world.load import load


class Command(BaseCommand):
    help = __doc__

    def handle(self, *_args: Any, **_options: Any) -> None:
        if not settings.DEMO:
            raise CommandError("This is not a demo (RELAY_DEMO is not set): its data stays.")
        self.stdout.write(load())
