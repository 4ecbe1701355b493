"""Print the API's OpenAPI document."""

import json
from typing import Any

from django.core.management.base import BaseCommand
from django.utils.module_loading import import_string


class Command(BaseCommand):
    help = __doc__

    def handle(self, *_args: Any, **_options: Any) -> None:
        api = import_string("config.api.api")
        self.stdout.write(json.dumps(api.get_openapi_schema(), indent=1, sort_keys=True))
