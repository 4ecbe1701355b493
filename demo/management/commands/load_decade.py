"""Ten years of a large company beside the demo's own: for benchmarks."""

from itertools import islice
from typing import Any

import numpy as np
from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from apps.company.models import Area
from apps.customers.models import Asset, Customer, Site
from apps.customers.search import make_findable
from apps.orders.models import Assignment, Visit, VisitEvent, WorkOrder
from core.basics import phone_key
from demo.world.bulk import insert, without_indexes
from demo.world.names import COMPANIES, KINDS
from foundation import clock
from foundation.models import AuditEntry

CUSTOMERS, VISITS = 50_000, 1_000_000
YEARS = 10
BATCH = 2000
# What each visit goes through, and how many minutes after it was ordered.
STEPS = (
    ("place", 30), ("send", 60), ("accept", 70), ("depart", 1440), ("arrive", 1465), ("hold", 1480), ("resume", 1490),
    ("finish", 1525),
)  # fmt: skip
# Entries of the trail for each visit.
ACTIONS = ("made", "changed", "reviewed")


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--check", action="store_true", help="only say whether it is there, and of today")
        parser.add_argument("--visits", type=int, default=VISITS)

    def handle(self, *_args: Any, check: bool, visits: int, **_options: Any) -> None:
        if check:
            with connection.cursor() as cursor:
                cursor.execute("SELECT max(made_at) FROM orders_workorder WHERE number LIKE 'D-%%'")
                newest = cursor.fetchone()[0]
            fresh = newest is not None and (clock.now() - newest).days < 1
            self.stdout.write("there" if fresh else "not there")
            return
        if not settings.DEMO:
            raise CommandError("This is not a demo (RELAY_DEMO is not set).")
        if WorkOrder.objects.filter(number__startswith="D-").exists():
            raise CommandError("There is a decade already.")
        self._customers()
        with without_indexes(WorkOrder, Visit, VisitEvent, Assignment, AuditEntry):
            _orders(visits)
            _visits()
            _events()
            _trail()

    def _customers(self) -> None:
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

    def _customer(self, dice: np.random.Generator, number: int) -> Customer:
        first = COMPANIES[int(dice.integers(len(COMPANIES)))]
        kind = KINDS[int(dice.integers(len(KINDS)))]
        phone = f"+351 29{number % 9} {number % 900 + 100:03} {number // 900 + 100:03}"
        return Customer(
            name=f"{first} {kind} {number}", phone=phone, phone_key=phone_key(phone, "PT"),
            email=f"office@{first.lower()}{number}.example",
        )  # fmt: skip


# A permutation of the sites, so that neighbouring orders are not neighbours on the map.
_SITES = "(SELECT *, row_number() OVER (ORDER BY md5(id::text)) - 1 AS place FROM customers_site)"
_TYPES = "(SELECT id, row_number() OVER (ORDER BY id) - 1 AS place FROM catalogue_jobtype)"
_PEOPLE = "(SELECT id, row_number() OVER (ORDER BY id) - 1 AS place FROM people_technician)"


def _orders(count: int) -> None:
    now = f"timestamptz '{clock.now().isoformat()}'"
    insert(
        WorkOrder,
        f"FROM generate_series(0, {count} - 1) n"
        f" JOIN {_SITES} site ON site.place = (n::bigint * 7919) %% (SELECT count(*) FROM customers_site)"
        f" JOIN {_TYPES} job ON job.place = n %% (SELECT count(*) FROM catalogue_jobtype)",
        number="'D-' || n", customer="site.customer_id", site="site.id", job_type="job.id", title="'Door upkeep'",
        description="'Rattles when it closes, floor ' || n %% 40",
        # One in five hundred is still open, all of the last weeks.
        state=f"CASE WHEN n %% 500 = 499 AND n > {count} * 0.98 THEN 'open' WHEN n %% 29 = 0 THEN 'cancelled'"
        " ELSE 'reviewed' END",
        priority="1 + n %% 5", made_at=f"{now} - interval '1 minute' * ((({count} - n)::float8 / {count}) * {YEARS}"
        " * 365 * 1440)",
        due=f"CASE WHEN n %% 500 = 499 AND n > {count} * 0.98 THEN {now} + interval '1 day' * (n %% 60 - 20) END",
    )  # fmt: skip


def _visits() -> None:
    """One of each order: those that are over were done two days after they were ordered."""
    insert(
        Visit,
        "FROM (SELECT *, row_number() OVER (ORDER BY id) AS n FROM orders_workorder WHERE number LIKE 'D-%%') made"
        f" JOIN {_PEOPLE} person ON person.place = made.n %% (SELECT count(*) FROM people_technician)",
        order="made.id", state="made.state", duration_seconds="1800 + 600 * (made.n %% 6)", priority="made.priority",
        technician="CASE WHEN made.state <> 'open' THEN person.id END",
        start="CASE WHEN made.state <> 'open' THEN made.made_at + interval '1440 minutes' END",
        departed_at="CASE WHEN made.state = 'reviewed' THEN made.made_at + interval '1440 minutes' END",
        arrived_at="CASE WHEN made.state = 'reviewed' THEN made.made_at + interval '1465 minutes' END",
        finished_at="CASE WHEN made.state = 'reviewed' THEN made.made_at + interval '1 minute' *"
        " (1490 + made.n %% 45) END",
        due="made.due",
    )  # fmt: skip
    insert(
        Assignment,
        "FROM orders_visit visit JOIN orders_workorder made ON made.id = visit.order_id"
        " WHERE made.number LIKE 'D-%%' AND visit.technician_id IS NOT NULL",
        visit="visit.id", technician="visit.technician_id", leads="true", arrived_at="visit.arrived_at",
        finished_at="visit.finished_at",
    )  # fmt: skip


def _events() -> None:
    for step, minutes in STEPS:
        at = f"made.made_at + interval '{minutes} minutes'"
        in_the_field = step in ("depart", "arrive", "hold", "resume", "finish")
        insert(
            VisitEvent,
            "FROM orders_visit visit JOIN orders_workorder made ON made.id = visit.order_id"
            " WHERE made.number LIKE 'D-%%' AND visit.technician_id IS NOT NULL",
            key="gen_random_uuid()", visit="visit.id", step=f"'{step}'", technician="visit.technician_id",
            actor_name="'Somebody'", happened_at=at, recorded_at=at,
            **({"lon": "-24.6", "lat": "47.2", "accuracy_metres": "12"} if in_the_field else {}),
        )  # fmt: skip


def _trail() -> None:
    for number, action in enumerate(ACTIONS):
        insert(
            AuditEntry,
            "FROM orders_visit visit JOIN orders_workorder made ON made.id = visit.order_id"
            " WHERE made.number LIKE 'D-%%'",
            at=f"made.made_at + interval '{700 * number} minutes'", actor_name="'Somebody'", action=f"'{action}'",
            entity="'order'" if number == 0 else "'visit'", entity_id="made.id" if number == 0 else "visit.id",
            version=str(number + 1), sentence="'placed it'",
        )  # fmt: skip
