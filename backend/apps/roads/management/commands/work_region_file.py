"""Bring in an extract that waits: the worker's part, in a process of its own, which gives its memory back."""

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from apps.roads.files import work


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file_id", type=int)

    def handle(self, *_args: Any, file_id: int, **_options: Any) -> None:
        work(file_id)
