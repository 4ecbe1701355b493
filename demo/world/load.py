"""Load the demo world into the database, around today."""

import time as wall
from datetime import date, datetime, time, timedelta

import numpy as np
from django.apps import apps
from django.db import connection, transaction

from apps.catalogue.models import JobType
from apps.company.commands import found_company
from apps.customers.models import Site
from apps.intake.models import Request
from apps.roads.queries import map_layer
from core.calendars import epoch, zone
from demo.world.customers import make_customers
from demo.world.history import make_history
from demo.world.people import make_people
from demo.world.week import Week, make_week
from demo.world.work import JOBS
from foundation import clock
from foundation.moments import to_datetime

SEED = 4711
TIME_ZONE = "Atlantic/Azores"
# The demo always opens in the middle of a working morning, whatever the clock on the wall says.
OPENS_AT = time(10, 40)


@transaction.atomic
def load(*, seed: int = SEED) -> str:
    """Throw everything away and make the world anew; a sentence about what was made."""
    _empty()
    random = np.random.default_rng(seed)
    today = _working_day()
    now = epoch(today, OPENS_AT, zone(TIME_ZONE))
    clock.set_shift(now - int(wall.time()))
    found_company(name="Hallam & Reyne Lift and Door", time_zone=TIME_ZONE, areas=map_layer("areas"))
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
                )
                for job in JOBS
            ),
            strict=True,
        )
    }
    people = make_people(random)
    sites = make_customers(random, people.areas)
    week = Week(random=random, tz=zone(TIME_ZONE), today=today, now=now, people=people, sites=sites, jobs=jobs)
    make_week(week)
    make_history(week)
    _requests(random, sites, jobs, now)
    return f"{len(people.technicians)} technicians, {len(sites)} sites, {len(week.visits)} visits on {today}"


def _working_day() -> date:
    today = datetime.now(zone(TIME_ZONE)).date()
    while today.weekday() > 4:
        today += timedelta(days=1)
    return today


def _empty() -> None:
    labels = ("foundation", "company", "people", "customers", "catalogue", "intake", "orders", "planning", "messages")
    tables = [model._meta.db_table for label in labels for model in apps.get_app_config(label).get_models(True)]
    tables += ["django_session", "axes_accessattempt", "procrastinate_jobs"]
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")  # or checks still to come forbid the emptying
        cursor.execute(f"TRUNCATE {', '.join(tables)} RESTART IDENTITY CASCADE")


def _requests(random: np.random.Generator, sites: list[Site], jobs: dict[str, JobType], now: int) -> None:
    """A few calls that came in this morning and wait to be made into orders."""
    calls = (
        ("door-open", "Main entrance door opens again before it closes. Shop is full."),
        ("lamp", "One light out in the car, not urgent."),
        ("leak", "Caretaker found oil in the pit this morning."),
        ("sensor", "Door hit a pram, nobody hurt. Wants it looked at today."),
    )
    for number, (code, text) in enumerate(calls):
        site, job = sites[int(random.integers(len(sites)))], jobs[code]
        Request.objects.create(
            customer=site.customer,
            site=site,
            job_type=job,
            what_is_wrong=text,
            priority=job.priority,
            duration_seconds=job.duration_seconds,
            needs=job.needs,
            contact_phone=site.customer.phone,
            taken_at=to_datetime(now - (number + 1) * 1300),
            taken_by="Ivo Brandt",
        )
