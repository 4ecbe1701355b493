"""Sites from GeoJSON: one Point per site."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.customers import commands
from apps.customers.inputs import CustomerFields, SiteFields
from apps.customers.models import Customer, Site
from apps.roads.queries import address_at
from core.basics import Place
from foundation.actors import Actor
from foundation.errors import Rejected


@transaction.atomic
def import_sites(*, actor: Actor, now: datetime, collection: Mapping[str, Any]) -> tuple[int, list[str]]:
    """Make a site of each Point; how many, and what was left out and why.

    Properties: `name` and `customer` (needed), `address`, `phone`. A customer of that name is taken, or made; a
    site of that name at that customer is not made twice.
    """
    features = collection.get("features")
    if not isinstance(features, list):
        raise Rejected("This is no GeoJSON FeatureCollection.", field="file")
    made, problems = 0, []
    for number, feature in enumerate(features, start=1):
        why = _import_one(actor, now, feature if isinstance(feature, Mapping) else {})
        if why is None:
            made += 1
        else:
            problems.append(f"feature {number}: {why}")
    return made, problems


def _import_one(actor: Actor, now: datetime, feature: Mapping[str, Any]) -> str | None:
    properties, geometry = feature.get("properties") or {}, feature.get("geometry") or {}
    name, customer_name = str(properties.get("name") or "").strip(), str(properties.get("customer") or "").strip()
    if geometry.get("type") != "Point":
        return "not a Point"
    if not name or not customer_name:
        return "needs a name and a customer"
    try:
        place = Place(float(geometry["coordinates"][0]), float(geometry["coordinates"][1]))
    except (KeyError, IndexError, TypeError, ValueError) as error:
        return f"no usable point: {error}"
    customer = Customer.objects.filter(name__iexact=customer_name).first()
    if customer is not None and Site.objects.filter(customer=customer, name__iexact=name).exists():
        return f"{customer_name} has a site {name} already"
    if customer is None:
        customer = commands.add_customer(
            actor=actor,
            now=now,
            fields=CustomerFields(name=customer_name, phone=str(properties.get("phone") or "")),
        )
    address = str(properties.get("address") or "").strip()
    if not address and (match := address_at(place)) is not None:
        address = match.address.text
    commands.add_site(
        actor=actor,
        now=now,
        customer_id=customer.pk,
        fields=SiteFields(name=name, address=address, place=place),
    )
    return None
