"""Bring the database to the code's state: migrations and the worker's own tables."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    help = __doc__

    def handle(self, *_args: Any, **_options: Any) -> None:
        call_command("migrate", interactive=False, verbosity=0)
