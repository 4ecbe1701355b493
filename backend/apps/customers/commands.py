"""Changing customers."""

from datetime import datetime

from django.db import transaction

from apps.company.queries import area_at
from apps.customers.models import Asset, Contact, Customer, Site
from core.basics import Place
from core.roles import Action
from foundation import audit
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected


@transaction.atomic
def add_customer(
    *, actor: Actor, now: datetime, name: str, phone: str = "", email: str = "", contact_name: str = ""
) -> Customer:
    """A new customer, with a contact where one was named."""
    require(actor, Action.CHANGE_CUSTOMERS)
    if not name.strip():
        raise Rejected("A customer needs a name.", field="name")
    customer = Customer.objects.create(name=name.strip(), phone=phone.strip(), email=email.strip())
    if contact_name.strip():
        Contact.objects.create(customer=customer, name=contact_name.strip(), phone=phone.strip(), email=email.strip())
    audit.record(actor=actor, now=now, action="add", entity="customer", entity_id=customer.pk, name=customer.name)
    return customer


@transaction.atomic
def add_site(
    *, actor: Actor, now: datetime, customer_id: int, name: str, address: str, place: Place, access_notes: str = ""
) -> Site:
    """A new site of a customer; its area follows from the place."""
    require(actor, Action.CHANGE_CUSTOMERS)
    if not Customer.objects.filter(pk=customer_id).exists():
        raise NotFound("There is no such customer.", code="no_customer")
    if not address.strip():
        raise Rejected("A site needs an address.", field="address")
    site = Site.objects.create(
        customer_id=customer_id,
        name=name.strip() or address.split(",")[0].strip(),
        address=address.strip(),
        lon=place.lon,
        lat=place.lat,
        area=area_at(place),
        access_notes=access_notes.strip(),
    )
    audit.record(actor=actor, now=now, action="add", entity="site", entity_id=site.pk, address=site.address)
    return site


@transaction.atomic
def find_areas() -> int:
    """Let every site find its area anew, after areas have changed; how many now lie in another one."""
    moved = 0
    for site in Site.objects.order_by("id").iterator():
        area = area_at(Place(site.lon, site.lat))
        if (area.pk if area else None) != site.area_id:
            site.area = area
            site.version += 1
            site.save(update_fields=["area", "version"])
            moved += 1
    return moved


@transaction.atomic
def add_asset(
    *, actor: Actor, now: datetime, site_id: int, kind: str, make: str = "", model: str = "", serial: str = ""
) -> Asset:
    """A new piece of equipment at a site."""
    require(actor, Action.CHANGE_CUSTOMERS)
    if not Site.objects.filter(pk=site_id).exists():
        raise NotFound("There is no such site.", code="no_site")
    if not kind.strip():
        raise Rejected("Say what kind of equipment it is.", field="kind")
    asset = Asset.objects.create(
        site_id=site_id, kind=kind.strip(), make=make.strip(), model=model.strip(), serial=serial.strip()
    )
    audit.record(actor=actor, now=now, action="add", entity="asset", entity_id=asset.pk, serial=asset.serial)
    return asset
