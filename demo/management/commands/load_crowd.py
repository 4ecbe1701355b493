"""Beside the demo: 200 technicians with 1,200 visits a day ahead, for one day or several, and open work; to measure."""

from datetime import time, timedelta
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from apps.company.models import Depot
from apps.company.queries import time_zone
from apps.customers.models import Site
from apps.orders.models import Visit, WorkOrder
from apps.people.models import Technician, WeeklyShiftRow
from core.calendars import epoch, local_day
from core.orders import VisitState
from foundation import clock
from foundation.moments import to_datetime

TECHNICIANS, VISITS_EACH = 200, 6
BATCH = 1000


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("days_ahead", type=int)
        parser.add_argument("--days", type=int, default=1)
        parser.add_argument("--open", type=int, default=0, help="so many visits without a place")

    def handle(self, *_args: Any, **options: Any) -> None:
        if not settings.DEMO:
            raise CommandError("This is not a demo (RELAY_DEMO is not set).")
        depots, sites = list(Depot.objects.all()), list(Site.objects.order_by("id"))
        missing = TECHNICIANS - Technician.objects.count()
        crowd = Technician.objects.bulk_create(
            Technician(name=f"Crowd {number:03d}", depot=depots[number % len(depots)]) for number in range(missing)
        )
        WeeklyShiftRow.objects.bulk_create(
            WeeklyShiftRow(
                technician=technician,
                weekday=weekday,
                start=time(8),
                end=time(17),
                rest_earliest=time(11, 30),
                rest_latest=time(14),
                rest_minutes=30,
                overtime_minutes=60,
            )
            for technician in crowd
            for weekday in range(7)
        )
        for day in range(options["days"]):
            self._visits(sites, options["days_ahead"] + day)
        self._open(sites, options["open"])
        with connection.cursor() as cursor:
            cursor.execute("ANALYZE")  # so much at once: the database has to be told what is there now

    def _open(self, sites: list[Site], count: int) -> None:
        now = clock.now()
        orders = WorkOrder.objects.bulk_create((
            WorkOrder(
                number=f"O-{number}", customer_id=sites[number % len(sites)].customer_id,
                site=sites[number % len(sites)], title="Door upkeep", made_at=now,
            )
            for number in range(count)
        ), batch_size=BATCH)  # fmt: skip
        Visit.objects.bulk_create((
            Visit(order=order, duration_seconds=2400, priority=1 + number % 5) for number, order in enumerate(orders)
        ), batch_size=BATCH)  # fmt: skip

    def _visits(self, sites: list[Site], days_ahead: int) -> None:
        now = clock.now()
        tz = time_zone()
        day = local_day(int(now.timestamp()), tz) + timedelta(days=days_ahead)
        everybody = list(Technician.objects.order_by("id")[:TECHNICIANS])
        orders, visits = [], []
        for position, technician in enumerate(everybody):
            for number in range(VISITS_EACH):
                site = sites[(position * 7 + number * 31) % len(sites)]
                order = WorkOrder(
                    number=f"C-{days_ahead}-{position}-{number}",
                    customer_id=site.customer_id,
                    site=site,
                    title="Door upkeep",
                    made_at=now,
                )
                start = epoch(day, time(8 + number + number // 3, 30), tz)
                orders.append(order)
                visits.append(
                    Visit(
                        order=order,
                        technician=technician,
                        start=to_datetime(start),
                        duration_seconds=2400,
                        state=VisitState.PLACED,
                        promise_start=to_datetime(start - 3600),
                        promise_end=to_datetime(start + 3600),
                    )
                )
        WorkOrder.objects.bulk_create(orders, batch_size=BATCH)
        Visit.objects.bulk_create(visits, batch_size=BATCH)
