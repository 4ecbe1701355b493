"""Customers, sites, contacts, assets."""

from collections import Counter
from datetime import date

import numpy as np

from apps.company.models import Area
from apps.company.queries import area_at
from apps.customers.models import Asset, Contact, Customer, Site
from apps.customers.search import make_findable
from apps.roads.region import address_book
from core.basics import Place, phone_key
from demo.world.names import ACCESS, BUILDINGS, COMPANIES, FAMILY, GIVEN, KINDS, LANDMARKS
from demo.world.work import DOCK, DOOR, ESCALATOR, GATE, HYDRAULIC, MAKES, TRACTION

CUSTOMERS, SITES, ASSETS = 180, 300, 700
EQUIPMENT = ((TRACTION, 0.42), (HYDRAULIC, 0.2), (DOOR, 0.2), (ESCALATOR, 0.08), (GATE, 0.06), (DOCK, 0.04))
# Villages have fewer customers than the city.
RURAL = {"Hale": 0.25, "Tarn Cross": 0.25, "Little Ombury": 0.25}


def make_customers(random: np.random.Generator, areas: dict[str, Area]) -> list[Site]:
    """All sites, each with its customer; assets and contacts are made too."""
    customers = _customers(random)
    sites = _sites(random, customers, areas)
    Contact.objects.bulk_create(
        Contact(
            customer=customer,
            name=_person(random),
            phone=customer.phone,
            phone_key=customer.phone_key,
            email=customer.email,
            role="Caretaker",
        )
        for customer in customers
    )
    _assets(random, sites)
    make_findable(customer.pk for customer in customers)
    return sites


def _customers(random: np.random.Generator) -> list[Customer]:
    names = list(dict.fromkeys(row[0] for row in LANDMARKS))
    while len(names) < CUSTOMERS:
        if random.random() < 0.25:
            name = _person(random)
        else:
            name = f"{COMPANIES[int(random.integers(len(COMPANIES)))]} {KINDS[int(random.integers(len(KINDS)))]}"
        if name not in names:
            names.append(name)
    rows = []
    for name in names:
        phone = f"+351 296 {int(random.integers(200, 999))} {int(random.integers(100, 999))}"
        address = "".join(letter for letter in name.lower().replace(" ", "-") if letter.isalnum() or letter == "-")
        rows.append(
            Customer(name=name, phone=phone, phone_key=phone_key(phone, "PT"), email=f"office@{address}.example")
        )
    return Customer.objects.bulk_create(rows)


def _sites(random: np.random.Generator, customers: list[Customer], areas: dict[str, Area]) -> list[Site]:
    by_name = {customer.name: customer for customer in customers}
    sites = [_site(random, by_name[owner], name, district, areas) for owner, name, district, _ in LANDMARKS]
    districts = [name for name in areas for _ in range(1 if RURAL.get(name, 1.0) < 1 else 4)]
    owners = [*customers, *customers[: SITES - len(customers) - len(sites)]]
    taken: Counter[str] = Counter(site.name for site in sites)
    for owner in owners[: SITES - len(sites)]:
        district = districts[int(random.integers(len(districts)))]
        name = _building(random)
        taken[name] += 1
        if taken[name] > 1:
            name = f"{name} {taken[name]}"
        sites.append(_site(random, owner, name, district, areas))
    return Site.objects.bulk_create(sites)


def _site(random: np.random.Generator, owner: Customer, name: str, district: str, areas: dict[str, Area]) -> Site:
    streets = [row for row in address_book().addresses() if row[1] == district and row[2] >= 10]
    street, _, last = streets[int(random.integers(len(streets)))]
    match = address_book().search(f"{street} {int(random.integers(1, last))}, {district}")[0]
    place = Place(match.place.lon, match.place.lat)
    area = area_at(place)
    return Site(
        customer=owner,
        name=name,
        address=match.address.text,
        lon=place.lon,
        lat=place.lat,
        area=areas[area.name] if area else None,
        access_notes=ACCESS[int(random.integers(len(ACCESS)))],
    )


def _assets(random: np.random.Generator, sites: list[Site]) -> None:
    wanted = {name: count for _, name, _, count in LANDMARKS}
    counts = [wanted.get(site.name, 1) for site in sites]
    while sum(counts) < ASSETS:
        counts[int(random.integers(len(counts)))] += 1
    kinds, weights = zip(*EQUIPMENT, strict=True)
    rows = []
    for site, count in zip(sites, counts, strict=True):
        for _ in range(count):
            kind = str(random.choice(kinds, p=weights))
            make, model = MAKES[kind][int(random.integers(len(MAKES[kind])))]
            serial = f"{make[:2].upper()}-{int(random.integers(10_000, 99_999))}"
            installed = date(int(random.integers(1985, 2024)), int(random.integers(1, 13)), 1)
            rows.append(Asset(site=site, kind=kind, make=make, model=model, serial=serial, installed_on=installed))
    Asset.objects.bulk_create(rows)


def _person(random: np.random.Generator) -> str:
    return f"{GIVEN[int(random.integers(len(GIVEN)))]} {FAMILY[int(random.integers(len(FAMILY)))]}"


def _building(random: np.random.Generator) -> str:
    first = COMPANIES[int(random.integers(len(COMPANIES)))]
    return f"{first} {BUILDINGS[int(random.integers(len(BUILDINGS)))]}"
