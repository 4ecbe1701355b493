"""Load the demo world into the database, around today."""

import time as wall
from datetime import date, datetime, time, timedelta

import numpy as np
from django.apps import apps
from django.db import connection, transaction

from apps.catalogue.commands import edition
from apps.catalogue.models import JobType
from apps.company.commands import found_company
from apps.company.models import Company, RecordFields
from apps.customers.models import Asset, Customer, Site
from apps.customers.search import make_findable
from apps.orders.commands.learning import learn_lengths
from apps.orders.models import Visit, WorkOrder
from apps.orders.queries import learned_lengths
from apps.people.models import CertificateKind
from apps.roads.queries import map_layer
from core.calendars import epoch, zone
from demo.world.catalogue import MORE, NEEDS_PO, OWN_FIELDS, WORTH
from demo.world.charging import make_charging, price_orders
from demo.world.customers import make_customers
from demo.world.daylogs import make_day_logs
from demo.world.history import make_history
from demo.world.intake import make_requests
from demo.world.people import People, make_people
from demo.world.pricing import make_prices
from demo.world.quotes import make_quotes
from demo.world.reports import make_reports
from demo.world.standing import PAPERS, make_standing
from demo.world.stock import make_parts, make_stock
from demo.world.supply import make_supply
from demo.world.told import make_messages
from demo.world.week import Week, make_week
from demo.world.work import JOBS
from foundation import clock
from foundation.models import AuditEntry
from foundation.moments import to_datetime

SEED = 4711
TIME_ZONE = "Atlantic/Azores"
# The demo always opens in the middle of a working morning, whatever the clock on the wall says.
OPENS_AT = time(10, 40)
# Varnholm lies on no map; its people keep the holidays of the islands around it.
COMPANY = {
    "address": "Kiln Lane 4\nVarnholm", "phone": "+351 296 55 10 00", "email": "office@hallamreyne.example",
    "tax_number": "PT 500 000 000", "country": "PT", "region": "20",
}  # fmt: skip


@transaction.atomic
def load(*, seed: int = SEED, on: date | None = None) -> str:
    """Throw everything away and make the world anew, around today or the day `on`; a sentence about what was made.

    A weekend is passed over: the demo opens on the next working day.
    """
    _empty()
    random = np.random.default_rng(seed)
    today = _working_day(on or datetime.now(zone(TIME_ZONE)).date())
    now = epoch(today, OPENS_AT, zone(TIME_ZONE))
    clock.set_shift(now - int(wall.time()))
    found_company(name="Hallam & Reyne Lift and Door", time_zone=TIME_ZONE, areas=map_layer("areas"))
    Company.objects.update(**COMPANY)
    RecordFields.objects.bulk_create(RecordFields(record=name, questions=rows) for name, rows in OWN_FIELDS.items())
    CertificateKind.objects.bulk_create(CertificateKind(code=code, name=name) for code, name in PAPERS.items())
    jobs = {
        job.code: row
        for job, row in zip(
            JOBS,
            JobType.objects.bulk_create(
                JobType(
                    code=job.code,
                    name=job.name,
                    duration_seconds=job.minutes * 60 if job.minutes else None,
                    priority=job.priority,
                    needs=job.needs,
                    advice=job.advice,
                    worth=WORTH.get(job.code),
                    **MORE.get(job.code, {}),
                )
                for job in JOBS
            ),
            strict=True,
        )
    }
    people = make_people(random)
    sites = make_customers(random, people.areas)
    make_prices(np.random.default_rng(seed + 15))
    make_parts(np.random.default_rng(seed + 17))
    make_charging(jobs, today)
    editions = {code: edition(job, now=to_datetime(now), by="Ivo Brandt") for code, job in jobs.items()}
    week = Week(
        random=random, tz=zone(TIME_ZONE), today=today, now=now, people=people, sites=sites, jobs=jobs,
        editions=editions,
    )  # fmt: skip
    make_history(week)
    learn_lengths(now=to_datetime(now))
    week.learned = learned_lengths(job.pk for job in jobs.values())
    make_week(week)
    make_standing(week)
    make_stock(week)
    make_requests(random, sites, jobs, now)
    make_messages()
    price_orders()
    make_supply(week)
    make_reports(np.random.default_rng(seed + 18))
    make_day_logs(week, np.random.default_rng(seed + 19))
    make_quotes(np.random.default_rng(seed + 16), jobs, now)
    _particulars(sites, people, now)
    return f"{len(people.technicians)} technicians, {len(sites)} sites, {len(week.visits)} visits on {today}"


def _working_day(day: date) -> date:
    while day.weekday() > 4:
        day += timedelta(days=1)
    return day


def _empty() -> None:
    labels = (
        "foundation", "company", "people", "customers", "catalogue", "stock", "pricing", "intake", "orders",
        "open_work", "scheduling", "appointments", "board", "supply", "quotes", "reports", "daylogs",
        "field", "messages",
    )  # fmt: skip
    tables = [model._meta.db_table for label in labels for model in apps.get_app_config(label).get_models(True)]
    tables += ["django_session", "axes_accessattempt", "procrastinate_jobs"]
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")  # or checks still to come forbid the emptying
        cursor.execute(f"TRUNCATE {', '.join(tables)} RESTART IDENTITY CASCADE")


def _only_these(people: People) -> None:
    """A site that only two technicians may be sent to, with work that waits there and nothing that is planned."""
    taken = Visit.objects.filter(technician__isnull=False, state__in=["placed", "sent", "accepted"])
    waiting = Visit.objects.filter(state="open").exclude(order__site__in=taken.values("order__site")).exclude(needs={})
    visit = waiting.select_related("order__site").order_by("id")[0]
    able = [
        row
        for row in people.technicians
        if all(people.levels[row.pk].get(skill, 0) >= least for skill, least in visit.needs.items())
    ]
    visit.order.site.required.add(*able[:2])


def _particulars(sites: list[Site], people: People, now: int) -> None:
    """What makes records look lived in: tags, purchase orders, hours, people wanted, warranties, parts of parts."""
    Customer.objects.filter(name__in=NEEDS_PO).update(
        needs_po_number=True, tags=["key-account"], extra={"grade": "gold"}
    )
    harbour = Customer.objects.order_by("id")[3]
    Customer.objects.filter(pk__in=[row.pk for row in Customer.objects.order_by("id")[20:23]]).update(payer=harbour)
    for number, site in enumerate(sites[4:40:6]):
        site.opening = ["07:00-18:00"] * 5 + ["", ""]
        site.extra = {"floors": 4 + number}
        site.save(update_fields=["opening", "extra"])
        site.preferred.add(people.technicians[number])
        site.refused.add(people.technicians[-1 - number])
    _only_these(people)
    for asset in Asset.objects.filter(site__in=sites[:12]).order_by("id"):
        asset.warranty_until = to_datetime(now).date() + timedelta(days=30 * (asset.pk % 24))
        asset.extra = {"load": 630 + 370 * (asset.pk % 3)}
        asset.save(update_fields=["warranty_until", "extra"])
    lift = Asset.objects.filter(kind="Traction lift").order_by("id")[0]
    part = Asset.objects.filter(site=lift.site).exclude(pk=lift.pk).order_by("id")[0]
    part.parent, part.kind = lift, "Door drive"
    part.save(update_fields=["parent", "kind"])
    make_findable(Customer.objects.filter(merged_into__isnull=True).values_list("pk", flat=True))
    AuditEntry.objects.bulk_create(
        AuditEntry(
            at=order.made_at, actor_name=order.made_by, action="make", entity="order", entity_id=order.pk, version=1,
            sentence="made the order",
        )
        for order in WorkOrder.objects.order_by("id")
    )  # fmt: skip
    for visit in Visit.objects.filter(state="placed", promise_start__isnull=False).order_by("start")[:40:8]:
        visit.standby = {
            "since": now,
            "not_before": None,
            "weekdays": [],
            "part": "",
            "notice_minutes": 60,
            "words": "",
        }
        visit.save(update_fields=["standby"])
