"""Requests that wait this morning: calls, an e-mail, the web page, alarms."""

import numpy as np

from apps.catalogue.models import JobType
from apps.company.numbers import take_number
from apps.customers.models import Asset, Site
from apps.intake.commands import receive_alarm
from apps.intake.commands.alarms import make_device_key
from apps.intake.inputs import Reading
from apps.intake.models import Request
from demo.accounts import DEVICE_TOKEN
from foundation.moments import to_datetime

CALLS = (
    ("door-open", "Main entrance door opens again before it closes. Shop is full."),
    ("lamp", "One light out in the car, not urgent."),
    ("leak", "Caretaker found oil in the pit this morning."),
    ("sensor", "Door hit a pram, nobody hurt. Wants it looked at today."),
)
WRITTEN = (
    ("web", "Ottilie Marsh", "+351 296 410 220", "ottilie.marsh@postbox.example", "Fennel Lane 12, Airfield",
     "The gate of our yard stays open at night since Friday. Please call before you come."),
    ("e-mail", "Ropewalk Estates, accounts", "", "accounts@ropewalk-tenants.example", "",
     "Lift noise in staircase B\n\nTenants on the third floor hear a knocking when the lift passes. Photo attached."),
)  # fmt: skip


def make_requests(random: np.random.Generator, sites: list[Site], jobs: dict[str, JobType], now: int) -> None:
    for number, (code, text) in enumerate(CALLS):
        site, job = sites[int(random.integers(len(sites)))], jobs[code]
        Request.objects.create(
            number=take_number("request", now=to_datetime(now)), customer=site.customer, site=site, job_type=job,
            what_is_wrong=text, priority=job.priority, duration_seconds=job.duration_seconds, needs=job.needs,
            contact_phone=site.customer.phone, taken_at=to_datetime(now - (number + 1) * 1300), taken_by="Ivo Brandt",
        )  # fmt: skip
    for number, (channel, name, phone, email, address, text) in enumerate(WRITTEN):
        Request.objects.create(
            number=take_number("request", now=to_datetime(now)), channel=channel, source=channel, from_name=name,
            from_phone=phone, from_email=email, from_address=address, contact_name=name, contact_phone=phone,
            what_is_wrong=text, taken_at=to_datetime(now - (number + 2) * 2100), taken_by=name,
        )  # fmt: skip
    _alarms(now)


def _alarms(now: int) -> None:
    """One lift gets worse from reading to reading, until it stops."""
    make_device_key(name="Lift monitors", token=DEVICE_TOKEN)
    lift = Asset.objects.filter(kind="Traction lift").order_by("id")[7]
    readings = (
        (5400, "worsening", "Ride vibration", 21.5, "mg"),
        (2700, "worsening", "Ride vibration", 27.0, "mg"),
        (600, "stopped", "Stop fault, door lock open", None, ""),
    )
    for number, (ago, kind, text, value, unit) in enumerate(readings):
        at = to_datetime(now - ago)
        reading = Reading(
            serial=lift.serial, kind=kind, reference=f"demo-{number}", at=at, text=text, value=value, unit=unit
        )
        receive_alarm(now=at, device="Lift monitors", reading=reading)
