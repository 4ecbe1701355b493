"""The same set-up in Tokyo, Lisbon and Los Angeles, with a night shift and a split shift."""

from datetime import date, datetime, time, timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from apps.company.commands import found_company
from apps.customers.commands import add_customer, add_site
from apps.customers.inputs import CustomerFields, SiteFields
from apps.intake.commands import take_request
from apps.intake.inputs import Wanted
from apps.orders.commands import make_order
from apps.orders.models import Visit
from apps.people.models import Account, Technician
from apps.people.working_days import working_day
from apps.roads.queries import find_addresses, map_layer
from core.calendars import epoch, zone
from core.roles import Role
from foundation import clock
from foundation.moments import to_datetime
from tests.apps.conftest import Api

pytestmark = pytest.mark.django_db
ZONES = ["Asia/Tokyo", "Europe/Lisbon", "America/Los_Angeles"]
MONDAY = date(2026, 10, 19)
FILES = {
    "depots": "name,address\nYard,Millrace Road 20\n",
    "skills": "name\nDoor drives\n",
    "people": "name,depot,skills\nNora Night,Yard,Door drives 3\nSam Split,Yard,Door drives 3\n",
    "shifts": (
        "technician,days,start,end,gap_start,gap_end\n"
        "Nora Night,Mon-Sun,22:00,06:00,,\n"
        "Sam Split,Mon-Sun,07:00,19:00,11:00,15:00\n"
    ),
}


@pytest.fixture(params=ZONES)
def company(request):
    """A company set up by files on a Monday at ten, by its own clock."""
    tz = zone(request.param)
    found_company(name="Vale Doors", time_zone=request.param, areas=map_layer("areas"))
    owner = Account.objects.create_account(
        email="own@er.example", name="Rui Vale", role=Role.ADMINISTRATOR, password="a-long-enough-password"
    )
    client = Client(HTTP_HOST="127.0.0.1")
    with clock.frozen(to_datetime(epoch(MONDAY, time(10), tz))):
        client.force_login(owner, backend="apps.accounts.backends.AccountBackend")
        for kind, text in FILES.items():
            file = SimpleUploadedFile("file.csv", text.encode())
            answer = client.post(f"/api/v1/set-up/files/{kind}", {"file": file, "sure": "true"}).json()
            assert answer["counts"]["refused"] == 0, answer
        yield tz, Api(client), owner


def shift_of(name, day, tz):
    return working_day(Technician.objects.get(name=name).pk, day, tz).shift


def test_shifts_keep_their_wall_clock_times_all_year(company):
    """Over both changes of the clock, where there are any."""
    tz, _api, _owner = company
    for offset in range(190):
        day = MONDAY + timedelta(days=offset)
        night, split = shift_of("Nora Night", day, tz), shift_of("Sam Split", day, tz)
        told = [
            datetime.fromtimestamp(moment, tz).strftime("%a %H:%M") for moment in (night.hours.start, night.hours.end)
        ]
        assert told == [f"{day:%a} 22:00", f"{day + timedelta(days=1):%a} 06:00"]
        assert datetime.fromtimestamp(split.gap.start, tz).hour == 11
        assert split.gap.seconds == 4 * 3600


def a_visit(owner):
    now = clock.now()
    customer = add_customer(actor=owner, now=now, fields=CustomerFields(name="Marram Ferries"))
    place = find_addresses("Millrace Road 22")[0].place
    fields = SiteFields(name="", address="Millrace Road 22", place=place)
    site = add_site(actor=owner, now=now, customer_id=customer.pk, fields=fields)
    wanted = Wanted(what_is_wrong="Door stuck", duration_seconds=3600, contact_phone="+351 1", contact_name="Desk")
    request = take_request(actor=owner, now=now, site_id=site.pk, wanted=wanted)
    order = make_order(actor=owner, now=now, request_id=request.pk, version=request.version)
    return Visit.objects.get(order=order)


def judged(api, visit, name, start):
    who = Technician.objects.get(name=name).pk
    found = api.post("/scheduling/judge", {"visit_id": visit.pk, "technician_id": who, "start": start}).json()
    return [row["sentence"] for row in found["reasons"] if row["weight"] in ("asks", "refuses", "warns")]


def test_work_of_the_night_and_in_the_gap_is_judged_by_the_company_s_clock(company):
    tz, api, owner = company
    visit = a_visit(owner)
    night = epoch(MONDAY + timedelta(days=1), time(2), tz)
    assert judged(api, visit, "Nora Night", night) == []
    assert any(
        "does not work from 11:00 to 15:00" in row
        for row in judged(api, visit, "Sam Split", epoch(MONDAY, time(12), tz))
    )
    nora = Technician.objects.get(name="Nora Night").pk
    placed = api.post(f"/visits/{visit.pk}/place", {"version": visit.version, "technician_id": nora, "start": night})
    assert placed.status_code == 200
    # A night belongs to the day it began on.
    assert [row["id"] for row in api.get("/board", day=MONDAY.isoformat()).json()["visits"]] == [visit.pk]
    tuesday = (MONDAY + timedelta(days=1)).isoformat()
    assert api.get("/board", day=tuesday).json()["visits"] == []
