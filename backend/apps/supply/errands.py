"""Stops to fetch parts: visits of our own, at a depot or where a colleague is."""

from datetime import datetime

from apps.catalogue.filling import Work
from apps.company.queries import area_at, company
from apps.customers.models import Customer, Site
from apps.customers.search import make_findable
from apps.orders.commands.creating import create_order
from apps.orders.inputs import NewOrder, OrderFields
from apps.orders.models import Origin, Visit
from core.basics import Place
from foundation.actors import Actor


def make_errand(
    *, actor: Actor, now: datetime, title: str, name: str, address: str, place: Place, seconds: int, note: str
) -> Visit:
    """An order of our own with one visit, in the backlog: fetching something somewhere. Nobody is billed for it."""
    site = _site(name, address, place)
    order = create_order(
        actor=actor, now=now, sentence="made the stop to fetch parts",
        new=NewOrder(
            origin=Origin.OFFICE, customer=site.customer, site=site, job_type=None, lines=(), ours=True,
            fields=OrderFields(title=title[:160], billing="not billable", technician_note=note, description=note),
            work=Work(duration_seconds=seconds, needs={}, priority=3, crew=1, due=None, parts={}, worth=0),
        ),
    )  # fmt: skip
    return Visit.objects.select_related("order__site").get(order=order)


def own_customer() -> Customer:
    """The record that stands for ourselves; made when it is first needed."""
    customer, made = Customer.objects.get_or_create(
        is_us=True, defaults={"name": f"{company().name}, own errands"[:160]}
    )
    if made:
        make_findable([customer.pk])
    return customer


def _site(name: str, address: str, place: Place) -> Site:
    """The site of ours at a place."""
    customer = own_customer()
    found = Site.objects.select_related("customer").filter(customer=customer, name=name[:160], address=address[:240])
    known = found.first()
    if known is not None and (known.lon, known.lat) == (place.lon, place.lat):
        return known
    site = Site.objects.create(
        customer=customer, name=name[:160], address=address[:240], lon=place.lon, lat=place.lat, area=area_at(place)
    )
    make_findable([customer.pk])
    return site
