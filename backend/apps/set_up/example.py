"""A small example in an empty company: something to try everything with, and to throw away.

What was there before it is kept as an archive; throwing away brings that back, so nothing of the example is left.
"""

from collections.abc import Sequence
from datetime import datetime, time
from tempfile import TemporaryFile

from django.core.files import File
from django.db import transaction

from apps.catalogue import commands as catalogue
from apps.catalogue.models import JobType
from apps.company import commands as company
from apps.company.models import Company, Depot
from apps.company.queries import time_zone
from apps.customers import commands as customers
from apps.customers.inputs import CustomerFields, SiteFields
from apps.customers.models import Customer, Site
from apps.intake import commands as intake
from apps.intake.inputs import Wanted
from apps.intake.models import Request
from apps.orders import commands as orders
from apps.orders.models import WorkOrder
from apps.people import commands as people
from apps.people.inputs import ShiftFields, TechnicianFields
from apps.people.models import Skill, Technician
from apps.roads.queries import addresses_around
from apps.set_up.archive import is_empty
from apps.set_up.archive.working import read_archive, write_archive
from apps.set_up.models import Archive
from core.basics import Place
from core.calendars import local_day
from core.roads import Match
from core.roles import Action
from core.trades import TRADES
from foundation import audit
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

PEOPLE = ("Example Ana", "Example Ben", "Example Cleo")
CUSTOMERS = ("Example Bakery", "Example School", "Example Hotel", "Example Clinic", "Example Library", "Example Arcade")
CALLS = 10
# Addresses within so many metres of the depot.
AROUND_METRES = 6000


def exists() -> bool:
    """Whether the company has an example in it."""
    return Archive.objects.filter(way="before").exists()


def counts() -> dict[str, int]:
    """What would be thrown away with the example: all there is, also what was added since."""
    return {
        "technicians": Technician.objects.count(), "customers": Customer.objects.count(),
        "requests": Request.objects.count(), "orders": WorkOrder.objects.count(),
    }  # fmt: skip


def fill(*, actor: Actor, now: datetime, trade: str) -> None:
    """Three technicians with their hours, six customers and ten calls, most of them orders that wait to be placed.

    Raises
    ------
    Rejected
        When somebody works here already, for a trade that is not known, or where the region has no addresses.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    jobs = next((row.jobs for row in TRADES if row.key == trade), None)
    if jobs is None:
        raise Rejected("Choose a trade.", field="trade")
    with transaction.atomic():
        Company.objects.select_for_update().first()  # one example at a time
        if not is_empty():
            raise Rejected("There are technicians, customers or requests already: the example is for an empty company.")
        _keep_what_is_there(actor, now)
        depot = _depot(actor, now)
        places = addresses_around(Place(depot.lon, depot.lat), metres=AROUND_METRES, count=len(CUSTOMERS))
        if len(places) < len(CUSTOMERS):
            raise Rejected("There are too few addresses around the depot for an example.")
        made = catalogue.take_starter_jobs(actor=actor, now=now, codes=[job.code for job in jobs])
        _people(actor, now, depot, made)
        _calls(actor, now, places, made or list(JobType.objects.filter(code__in=[job.code for job in jobs])))
        audit.record(
            actor=actor, now=now, action="example", entity="company", entity_id=1, sentence="filled in an example"
        )


def throw_away(*, actor: Actor, now: datetime) -> None:
    """All as it was before the example, also what was added since.

    Raises
    ------
    NotFound
        When there is no example.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    with transaction.atomic():
        before = Archive.objects.select_for_update().filter(way="before").order_by("pk").first()
        if before is None:
            raise NotFound("There is no example here (any more).", code="no_example")
        with before.content.open("rb") as file:
            read_archive(file, everybody_out=False)
        before.content.delete(save=False)
        before.delete()
        audit.record(
            actor=actor, now=now, action="example", entity="company", entity_id=1, sentence="threw the example away"
        )


def _keep_what_is_there(actor: Actor, now: datetime) -> None:
    before = Archive(way="before", state="done", asked_at=now, asked_by=actor.name, moved_at=now)
    with TemporaryFile() as file:
        before.rows = write_archive(file)
        before.size = file.tell()
        file.seek(0)
        before.content.save("before-example.zip", File(file), save=False)
    before.save()


def _depot(actor: Actor, now: datetime) -> Depot:
    if (known := Depot.objects.order_by("pk").first()) is not None:
        return known
    found = addresses_around(None, metres=0, count=1)
    if not found:
        raise Rejected("The region has no addresses: bring in its roads first.")
    return company.add_depot(
        actor=actor, now=now, name="Example depot", address=found[0].address.text, place=found[0].place
    )


def _people(actor: Actor, now: datetime, depot: Depot, jobs: Sequence[JobType]) -> None:
    """Everybody can do what the jobs ask for, in different degrees; they work every day from today on."""
    today = local_day(int(now.timestamp()), time_zone())
    asked = sorted({code for job in jobs for code in job.needs} or set(Skill.objects.values_list("code", flat=True)))
    shifts = [
        ShiftFields(
            weekday=weekday, start=time(8), end=time(16, 30), rest_earliest=time(11, 30), rest_latest=time(14),
            rest_minutes=30, overtime_minutes=60,
        )
        for weekday in range(7)  # whatever day it is tried on
    ]  # fmt: skip
    for number, name in enumerate(PEOPLE):
        skills = {code: 5 if number == 0 else 2 + (place + number) % 3 for place, code in enumerate(asked)}
        fields = TechnicianFields(name=name, phone=f"+351 296 000 00{number}", depot_id=depot.pk, skills=skills)
        row = people.add_technician(actor=actor, now=now, fields=fields)
        people.set_week(
            actor=actor, now=now, technician_id=row.pk, version=row.version, shifts=shifts, valid_from=today
        )


def _calls(actor: Actor, now: datetime, places: Sequence[Match], jobs: Sequence[JobType]) -> None:
    sites = [_site(actor, now, name, match) for name, match in zip(CUSTOMERS, places, strict=True)]
    for number in range(CALLS):
        job, site = jobs[number % len(jobs)], sites[number % len(sites)]
        wanted = Wanted(
            what_is_wrong=f"{job.name} at {site.customer.name}", job_type_id=job.pk, contact_name="The caretaker",
            contact_phone=site.customer.phone,
        )  # fmt: skip
        request = intake.take_request(actor=actor, now=now, site_id=site.pk, wanted=wanted)
        if number < CALLS - 2:  # two are left to be worked on at the desk
            orders.make_order(actor=actor, now=now, request_id=request.pk, version=request.version)


def _site(actor: Actor, now: datetime, name: str, match: Match) -> Site:
    fields = CustomerFields(name=name, phone=f"+351 296 001 {CUSTOMERS.index(name):03}")
    customer = customers.add_customer(actor=actor, now=now, fields=fields, contact_name="The caretaker")
    place = SiteFields(name="", address=match.address.text, place=match.place)
    return customers.add_site(actor=actor, now=now, customer_id=customer.pk, fields=place)
