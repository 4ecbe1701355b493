"""HTTP: customers."""

from typing import Any

import orjson
from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from apps.customers import commands, queries
from apps.customers.models import Asset, Contact, Customer, Site
from apps.customers.people import Wanted, said_of
from apps.customers.schemas import (
    AssetChangeIn,
    AssetIn,
    AssetOut,
    ContactIn,
    ContactOut,
    CustomerChangeIn,
    CustomerDetailOut,
    CustomerIn,
    CustomerOut,
    HitOut,
    MergeIn,
    NoteIn,
    SaidOfOut,
    SiteChangeIn,
    SiteIn,
    SiteOnMapOut,
    SiteOut,
    TwinOut,
    detail_of,
)
from core.roles import Action
from foundation import audit, clock
from foundation.access import Needs, actor_of
from foundation.audit_schemas import EntriesOut
from foundation.pages import Cursor
from foundation.schemas import Key, Typed

router = Router()


@router.get("/customers", response=list[HitOut], auth=Needs(Action.SEE_CUSTOMERS))
def find(request: HttpRequest, text: Typed) -> list[queries.Hit]:
    """Customers by name, phone, e-mail, address, contact or serial, as one types."""
    return queries.find(text)


@router.get("/customers/latest", response=list[CustomerOut], auth=Needs(Action.SEE_CUSTOMERS))
def latest(request: HttpRequest, tag: Typed = "") -> list[Customer]:
    """The newest customers, or those with a tag."""
    return queries.latest(tag=tag)


@router.get("/sites/on-map", response=list[SiteOnMapOut], auth=Needs(Action.SEE_CUSTOMERS))
def sites_on_map(request: HttpRequest) -> HttpResponse:
    """Every site, for a map."""
    return HttpResponse(orjson.dumps(queries.sites_on_map()), content_type="application/json")


@router.get("/sites/saying-of/{technician_id}", response=list[SaidOfOut], auth=Needs(Action.SEE_CUSTOMERS))
def said_of_technician(request: HttpRequest, technician_id: Key) -> list[Wanted]:
    """Where a technician is required, preferred or refused."""
    return said_of(technician_id)


@router.get("/customers/twins", response=list[TwinOut], auth=Needs(Action.SEE_CUSTOMERS))
def twins(
    request: HttpRequest, name: Typed = "", phone: Typed = "", email: Typed = "", address: Typed = "", but: int = 0
) -> list[TwinOut]:
    """Customers that a new one may duplicate, each with every reason."""
    found = queries.twins(name=name, phone=phone, email=email, address=address, but=but or None)
    return [TwinOut.of(twin) for twin in found]


@router.get("/customers/{int:customer_id}", response=CustomerDetailOut, auth=Needs(Action.SEE_CUSTOMERS))
def customer(request: HttpRequest, customer_id: Key) -> dict[str, Any]:
    """A customer with contacts, sites and assets."""
    return detail_of(queries.customer(customer_id), queries.last_merge(customer_id))


@router.get("/customers/{int:customer_id}/history", response=EntriesOut, auth=Needs(Action.SEE_CUSTOMERS))
def history(request: HttpRequest, customer_id: Key, cursor: Cursor = "") -> EntriesOut:
    """What happened to the customer, its sites and assets, newest first; notes too."""
    return EntriesOut.of(queries.history(customer_id, cursor=cursor))


@router.post("/customers/{int:customer_id}/notes", response={201: None}, auth=Needs(Action.CHANGE_CUSTOMERS))
def note(request: HttpRequest, customer_id: Key, body: NoteIn) -> Status[None]:
    """A note on a customer."""
    queries.customer(customer_id)
    audit.note(actor=actor_of(request), now=clock.now(), entity="customer", entity_id=customer_id, text=body.text)
    return Status(201, None)


@router.post("/customers", response={201: CustomerOut}, auth=Needs(Action.CHANGE_CUSTOMERS))
def add_customer(request: HttpRequest, body: CustomerIn) -> Status[Customer]:
    """A new customer."""
    made = commands.add_customer(
        actor=actor_of(request), now=clock.now(), fields=body.fields(), contact_name=body.contact_name
    )
    return Status(201, made)


@router.put("/customers/{int:customer_id}", response=CustomerOut, auth=Needs(Action.CHANGE_CUSTOMERS))
def change_customer(request: HttpRequest, customer_id: Key, body: CustomerChangeIn) -> Customer:
    """Change a customer."""
    return commands.change_customer(
        actor=actor_of(request), now=clock.now(), customer_id=customer_id, version=body.version, fields=body.fields()
    )


@router.put("/customers/{int:customer_id}/contacts", response=ContactOut, auth=Needs(Action.CHANGE_CUSTOMERS))
def put_contact(request: HttpRequest, customer_id: Key, body: ContactIn) -> Contact:
    """Add a contact, or change one."""
    return commands.put_contact(
        actor=actor_of(request), now=clock.now(), customer_id=customer_id, contact_id=body.id,
        **body.dict(exclude={"id"}),
    )  # fmt: skip


@router.delete(
    "/customers/{int:customer_id}/contacts/{int:contact_id}", response={204: None}, auth=Needs(Action.CHANGE_CUSTOMERS)
)
def remove_contact(request: HttpRequest, customer_id: Key, contact_id: Key) -> Status[None]:
    """Take a contact off a customer."""
    commands.remove_contact(actor=actor_of(request), now=clock.now(), customer_id=customer_id, contact_id=contact_id)
    return Status(204, None)


@router.post("/customers/merges", response={201: CustomerDetailOut}, auth=Needs(Action.CHANGE_CUSTOMERS))
def merge(request: HttpRequest, body: MergeIn) -> Status[dict[str, Any]]:
    """Make two customers one; everything moves."""
    commands.merge(actor=actor_of(request), now=clock.now(), kept_id=body.kept_id, gone_id=body.gone_id)
    return Status(201, detail_of(queries.customer(body.kept_id), queries.last_merge(body.kept_id)))


@router.post("/customers/merges/{int:merge_id}/undo", response=CustomerDetailOut, auth=Needs(Action.CHANGE_CUSTOMERS))
def undo_merge(request: HttpRequest, merge_id: Key) -> dict[str, Any]:
    """Take two merged customers apart again."""
    done = commands.undo_merge(actor=actor_of(request), now=clock.now(), merge_id=merge_id)
    return detail_of(queries.customer(done.kept_id), queries.last_merge(done.kept_id))


@router.post("/sites", response={201: SiteOut}, auth=Needs(Action.CHANGE_CUSTOMERS))
def add_site(request: HttpRequest, body: SiteIn) -> Status[Site]:
    """A new site of a customer."""
    made = commands.add_site(
        actor=actor_of(request), now=clock.now(), customer_id=body.customer_id, fields=body.fields()
    )
    return Status(201, made)


@router.put("/sites/{int:site_id}", response=SiteOut, auth=Needs(Action.CHANGE_CUSTOMERS))
def change_site(request: HttpRequest, site_id: Key, body: SiteChangeIn) -> Site:
    """Change a site."""
    return commands.change_site(
        actor=actor_of(request), now=clock.now(), site_id=site_id, version=body.version, fields=body.fields()
    )


@router.post("/assets", response={201: AssetOut}, auth=Needs(Action.CHANGE_CUSTOMERS))
def add_asset(request: HttpRequest, body: AssetIn) -> Status[Asset]:
    """A new piece of equipment at a site."""
    made = commands.add_asset(actor=actor_of(request), now=clock.now(), site_id=body.site_id, fields=body.fields())
    return Status(201, made)


@router.put("/assets/{int:asset_id}", response=AssetOut, auth=Needs(Action.CHANGE_CUSTOMERS))
def change_asset(request: HttpRequest, asset_id: Key, body: AssetChangeIn) -> Asset:
    """Change a piece of equipment."""
    return commands.change_asset(
        actor=actor_of(request), now=clock.now(), asset_id=asset_id, version=body.version, fields=body.fields()
    )
