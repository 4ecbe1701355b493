"""An empty company with one administrator, whose password is printed once."""

import secrets
from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from apps.company.commands import found_company
from apps.people.models import Account
from apps.roads.queries import map_layer
from core.roles import Role


class Command(BaseCommand):
    help = __doc__

    @transaction.atomic
    def handle(self, *_args: Any, **_options: Any) -> None:
        found_company(name="New company", time_zone="Atlantic/Azores", areas=map_layer("areas"))
        password = secrets.token_urlsafe(12)
        email = "admin@company.example"
        Account.objects.create_account(email=email, name="Administrator", role=Role.ADMINISTRATOR, password=password)
        self.stdout.write(f"Sign in as {email} with the password {password} - it is not shown again.")
