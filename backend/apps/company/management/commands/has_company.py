"""Print true when the database holds a company, else false."""

import json
from typing import Any

from apps.company.models import Company
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    help = __doc__

    def handle(self, *_args: Any, **_options: Any) -> None:
        self.stdout.write(json.dumps(Company.objects.exists()))
