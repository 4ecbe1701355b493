"""HTTP: customers."""

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from apps.customers import commands, queries
from apps.customers.models import Asset, Customer, Site
from apps.customers.schemas import (
    AssetIn,
    AssetOut,
    CustomerDetailOut,
    CustomerIn,
    CustomerOut,
    HitOut,
    SimilarOut,
    SiteIn,
    SiteOut,
)
from core.basics import Place
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import Key, Typed

router = Router()


@router.get("", response=list[HitOut], auth=Needs(Action.SEE_CUSTOMERS))
def find(request: HttpRequest, text: Typed) -> list[queries.Hit]:
    """Customers by name, phone, site address or asset serial."""
    return queries.find(text)


@router.get("/similar", response=list[SimilarOut], auth=Needs(Action.SEE_CUSTOMERS))
def similar(
    request: HttpRequest,
    name: Typed = "",
    phone: Typed = "",
    email: Typed = "",
) -> list[dict[str, Any]]:
    """Customers that a new one may duplicate, and why."""
    rows = queries.similar(name=name, phone=phone, email=email)
    return [{"customer": customer, "because": why} for customer, why in rows]


@router.get("/{int:customer_id}", response=CustomerDetailOut, auth=Needs(Action.SEE_CUSTOMERS))
def customer(request: HttpRequest, customer_id: Key) -> Customer:
    """A customer with contacts, sites and assets."""
    return queries.customer(customer_id)


@router.post("", response={201: CustomerOut}, auth=Needs(Action.CHANGE_CUSTOMERS))
def add_customer(request: HttpRequest, body: CustomerIn) -> Status[Customer]:
    """A new customer."""
    return Status(201, commands.add_customer(actor=actor_of(request), now=clock.now(), **body.dict()))


@router.post("/sites", response={201: SiteOut}, auth=Needs(Action.CHANGE_CUSTOMERS))
def add_site(request: HttpRequest, body: SiteIn) -> Status[Site]:
    """A new site of a customer."""
    fields = body.dict(exclude={"lon", "lat"})
    site = commands.add_site(actor=actor_of(request), now=clock.now(), place=Place(body.lon, body.lat), **fields)
    return Status(201, site)


@router.post("/assets", response={201: AssetOut}, auth=Needs(Action.CHANGE_CUSTOMERS))
def add_asset(request: HttpRequest, body: AssetIn) -> Status[Asset]:
    """A new piece of equipment at a site."""
    return Status(201, commands.add_asset(actor=actor_of(request), now=clock.now(), **body.dict()))
