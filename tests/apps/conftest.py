"""A small company to test with: two technicians, one customer, Monday 23 November 2026, ten in the morning."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time
from typing import Any

import pytest
from django.test import Client, TestCase

from apps.appointments.planner import api as planner_api
from apps.appointments.planner import offers as planner_offers
from apps.catalogue.models import JobType
from apps.company import queries as company_queries
from apps.company.commands import found_company
from apps.company.models import Area, Depot
from apps.company.numbers import take_number
from apps.customers.models import Asset, Customer, Site
from apps.customers.search import make_findable
from apps.orders.models import Visit, WorkOrder
from apps.people.models import Account, Certificate, CertificateKind, Skill, Technician, TechnicianSkill, WeeklyShiftRow
from apps.roads.queries import find_addresses, map_layer
from apps.scheduling import asking
from apps.scheduling.planner import world as planner_world
from apps.stock import commands as stock
from apps.stock.models import Level, Part, StockPlace
from core.calendars import epoch, zone
from core.roles import ALLOWED, EVERYWHERE, Role
from foundation import clock
from foundation.moments import to_datetime
from foundation.named import called

TZ = zone("Atlantic/Azores")
MONDAY = date(2026, 11, 23)
PASSWORD = "a-long-enough-password"


def at(hour: int, minute: int = 0, day: date = MONDAY) -> int:
    return epoch(day, time(hour, minute), TZ)


class Storekeeper:
    """Whoever fills places before a test begins."""

    id, name, technician_id, role_name = 0, "Storekeeper", None, "storekeeper"
    role, actions, reach = Role.ADMINISTRATOR, ALLOWED[Role.ADMINISTRATOR], EVERYWHERE


def lies(where: Technician | Depot, code: str, quantity: int) -> StockPlace:
    """Let so many of a part lie on somebody's van or in a depot, as by a count."""
    place = stock.place_of_van(where) if isinstance(where, Technician) else stock.place_of_depot(where.pk)
    part = Part.objects.get(code=code)
    row = Level.objects.filter(place=place, part=part).first()
    stock.correct(Storekeeper(), clock.now(), place, part, quantity - (row.quantity if row else 0), said="counted")
    if not quantity:
        Level.objects.get_or_create(place=place, part=part)
    return place


def on_vans() -> dict[int, dict[str, int]]:
    """What lies on vans, by the technician whose van it is and by part."""
    found: dict[int, dict[str, int]] = {}
    for row in Level.objects.filter(place__kind="van").select_related("part", "place"):
        found.setdefault(row.place.technician_id or 0, {})[row.part.code] = row.quantity
    return found


@pytest.fixture(autouse=True)
def _quick_passwords(settings: Any) -> None:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture(autouse=True)
def _nothing_kept(monkeypatch: Any) -> None:
    """What a process has kept of one company is nothing to the next test's."""
    monkeypatch.setattr(company_queries, "_zone", None)
    monkeypatch.setattr(planner_offers, "_world", None)
    planner_world._worlds.clear()


@pytest.fixture(autouse=True)
def now() -> Iterator[datetime]:
    moment = to_datetime(at(10))
    with clock.frozen(moment):
        yield moment


@dataclass
class World:
    """Handles on what the tests talk about."""

    accounts: dict[str, Account]
    ines: Technician
    ivor: Technician
    customer: Customer
    site: Site
    asset: Asset
    door_job: JobType

    def visit(self, **fields: Any) -> Visit:
        """An open visit of a new order at the one site."""
        order = WorkOrder.objects.create(
            number=take_number("order", now=clock.now()),
            customer=self.customer, site=self.site, job_type=self.door_job, title="Noisy door",
            contact_phone="+351 296 111 222", made_at=datetime(2026, 11, 20, tzinfo=UTC),
        )  # fmt: skip
        fields.setdefault("duration_seconds", 3600)
        return Visit.objects.create(order=order, **fields)

    def holds(self, technician: Technician, name: str, until: date | None, *, number: str = "") -> Certificate:
        """A certificate of that name."""
        kind, _made = called(CertificateKind, name)
        return Certificate.objects.create(technician=technician, kind=kind, valid_until=until, number=number)

    def placed(self, hour: int, minute: int = 0, *, technician: Technician | None = None, **fields: Any) -> Visit:
        fields.setdefault("state", "placed")
        return self.visit(technician=technician or self.ines, start=to_datetime(at(hour, minute)), **fields)


@pytest.fixture
def world(db: None) -> World:
    found_company(name="Test Lifts", time_zone="Atlantic/Azores", areas=map_layer("areas"))
    accounts = {
        role.value: Account.objects.create_account(
            email=f"{role}@test.example", name=f"The {role}", role=role, password=PASSWORD
        )
        for role in ALLOWED
    }
    accounts["other"] = Account.objects.create_account(
        email="other@test.example", name="Other Dispatcher", role=Role.DISPATCHER, password=PASSWORD
    )
    place = find_addresses("Millrace Road 20")[0].place
    depot = Depot.objects.create(name="Northlock", address="Depot", lon=place.lon, lat=place.lat)
    doors = Skill.objects.create(code="doors", name="Door drives")
    Skill.objects.create(code="rescue", name="Rescue")
    for code, name in (("door-roller", "Door roller"), ("light-curtain", "Light curtain"), ("car-lamp", "Car lamp")):
        Part.objects.create(code=code, name=name)
    ines, ivor = (
        Technician.objects.create(name=name, depot=depot, account=account)
        for name, account in (("Ines Falk", accounts["technician"]), ("Ivor Larkin", None))
    )
    for technician in (ines, ivor):
        TechnicianSkill.objects.create(technician=technician, skill=doors, level=3)
        for weekday in range(5):
            WeeklyShiftRow.objects.create(
                technician=technician, weekday=weekday, start=time(8), end=time(16), overtime_minutes=30
            )
    customer = Customer.objects.create(
        name="Seagate Stores", phone="+351 296 555 100", phone_key="+351296555100", email="office@seagate.example"
    )
    where = find_addresses("Millrace Road 60")[0]
    site = Site.objects.create(
        customer=customer, name="Seagate Hall", address=where.address.text, lon=where.place.lon, lat=where.place.lat,
        area=Area.objects.get(name=where.address.district),
    )  # fmt: skip
    asset = Asset.objects.create(site=site, kind="Automatic door", make="Orrin", serial="OR-12345")
    make_findable([customer.pk])
    job = JobType.objects.create(code="door", name="Noisy door", duration_seconds=2700, priority=4, needs={"doors": 1})
    return World(accounts=accounts, ines=ines, ivor=ivor, customer=customer, site=site, asset=asset, door_job=job)


@pytest.fixture
def planner_here(monkeypatch: Any) -> None:
    """The planner's answers without its process: the same code, on the same database."""

    def ask(path: str, **asked: Any) -> Any:
        if path == "/expect":
            return planner_offers.expect()
        if path == "/openings":
            planner_world._worlds.clear()
            return planner_world.openings(**{**asked, "first": date.fromisoformat(asked["first"])})
        planner_offers._world = None
        return planner_api.offers(None, planner_api.OffersAsked(**asked))  # type: ignore[arg-type]

    monkeypatch.setattr(asking, "ask", ask)


@dataclass
class Api:
    """The API as one account sees it."""

    client: Client

    def get(self, path: str, **query: Any) -> Any:
        return self.client.get(f"/api/v1{path}", query)

    # A request ends with a commit: what waits for it happens here as it does there.
    def post(self, path: str, body: Any = None) -> Any:
        with TestCase.captureOnCommitCallbacks(execute=True):
            return self.client.post(f"/api/v1{path}", body or {}, content_type="application/json")

    def put(self, path: str, body: Any) -> Any:
        with TestCase.captureOnCommitCallbacks(execute=True):
            return self.client.put(f"/api/v1{path}", body, content_type="application/json")


@pytest.fixture
def as_role(world: World) -> Any:
    def make(role: str) -> Api:
        client = Client(HTTP_HOST="127.0.0.1")
        client.force_login(world.accounts[role], backend="apps.accounts.backends.AccountBackend")
        return Api(client)

    return make


@pytest.fixture
def dispatcher(as_role: Any) -> Api:
    api: Api = as_role("dispatcher")
    return api


@pytest.fixture
def technician(as_role: Any) -> Api:
    api: Api = as_role("technician")
    return api
