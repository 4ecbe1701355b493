"""50,000 customers and 100,000 orders beside the demo's own: for benchmarks."""

from datetime import timedelta
from itertools import islice
from typing import Any

import numpy as np
from django.core.management.base import BaseCommand, CommandParser

from apps.company.models import Area
from apps.customers.models import Asset, Customer, Site
from apps.customers.search import make_findable
from apps.orders.models import Visit, WorkOrder
from core.basics import phone_key
from demo.world.names import COMPANIES, KINDS
from foundation import clock

CUSTOMERS, ORDERS = 50_000, 100_000
BATCH = 2000
STATES = ("reviewed", "done", "planned", "open", "cancelled")


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--check", action="store_true", help="only say whether it is there, and of today")

    def handle(self, *_args: Any, check: bool, **_options: Any) -> None:
        if check:
            fresh = WorkOrder.objects.filter(made_at__gt=clock.now() - timedelta(hours=12)).exists()
            self.stdout.write("there" if fresh and WorkOrder.objects.count() >= ORDERS else "not there")
            return
        dice = np.random.default_rng(11)
        areas = list(Area.objects.order_by("id"))
        customers = Customer.objects.bulk_create((self._customer(dice, n) for n in range(CUSTOMERS)), batch_size=BATCH)
        sites = Site.objects.bulk_create(
            (
                Site(
                    customer=customer, name=f"{customer.name} House", address=f"Millrace Road {n % 300}, Kilnfield",
                    lon=-24.6 + (n % 97) / 2000, lat=47.2 + (n % 89) / 2000, area=areas[n % len(areas)],
                )
                for n, customer in enumerate(customers)
            ),
            batch_size=BATCH,
        )  # fmt: skip
        Asset.objects.bulk_create(
            (
                Asset(site=site, kind="Traction lift", make="Norrvik", serial=f"NV-{n:06}")
                for n, site in enumerate(sites)
            ),
            batch_size=BATCH,
        )
        ids = iter([customer.pk for customer in customers])
        while batch := list(islice(ids, BATCH)):
            make_findable(batch)
        self._orders(dice, sites)

    def _customer(self, dice: np.random.Generator, number: int) -> Customer:
        first = COMPANIES[int(dice.integers(len(COMPANIES)))]
        kind = KINDS[int(dice.integers(len(KINDS)))]
        phone = f"+351 29{number % 9} {number % 900 + 100:03} {number // 900 + 100:03}"
        return Customer(
            name=f"{first} {kind} {number}", phone=phone, phone_key=phone_key(phone, "PT"),
            email=f"office@{first.lower()}{number}.example",
        )  # fmt: skip

    def _orders(self, dice: np.random.Generator, sites: list[Site]) -> None:
        now = clock.now()
        for first in range(0, ORDERS, BATCH):
            orders = []
            for number in range(first, first + BATCH):
                site = sites[int(dice.integers(len(sites)))]
                state = STATES[int(dice.choice(5, p=[0.7, 0.15, 0.05, 0.05, 0.05]))]
                made = now - timedelta(hours=int(dice.integers(1, 30_000)))
                orders.append(
                    WorkOrder(
                        number=f"M-{number}", customer_id=site.customer_id, site=site, title="Door upkeep", state=state,
                        priority=1 + number % 5, made_at=made, due=now + timedelta(days=number % 60 - 20),
                    )
                )  # fmt: skip
            WorkOrder.objects.bulk_create(orders, batch_size=BATCH)
            # Open visits without a promise: no planner looks at what is overdue by years.
            done = (Visit(order=order, state="reviewed", duration_seconds=2700) for order in orders)
            Visit.objects.bulk_create(done, batch_size=BATCH)
