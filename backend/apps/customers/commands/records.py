"""Customers and their contacts."""

from dataclasses import asdict
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.company.models import Tag
from apps.company.queries import settings
from apps.customers.commands.changing import apply, checked_extra, in_words, lock
from apps.customers.inputs import CustomerFields
from apps.customers.models import Contact, Customer, Site
from apps.customers.search import make_findable
from core.basics import phone_key
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.named import resolved

_WORDS = {
    "phone_key": "phone",
    "payer_id": "payer",
    "payer_address": "payer",
    "needs_po_number": "purchase order rule",
    "extra": "own fields",
}


@transaction.atomic
def add_customer(*, actor: Actor, now: datetime, fields: CustomerFields, contact_name: str = "") -> Customer:
    """A new customer, with a contact where one was named."""
    require(actor, Action.CHANGE_CUSTOMERS)
    customer = Customer()
    apply(customer, _checked(customer, fields))
    customer.save()
    if contact_name.strip():
        Contact.objects.create(
            customer=customer, name=contact_name.strip(), phone=customer.phone, phone_key=customer.phone_key,
            email=customer.email,
        )  # fmt: skip
    make_findable([customer.pk])
    audit.record(
        actor=actor, now=now, action="add", entity="customer", entity_id=customer.pk, version=1,
        sentence="added the customer", name=customer.name,
    )  # fmt: skip
    live.announce("customer", ids=[customer.pk])
    return customer


@transaction.atomic
def change_customer(*, actor: Actor, now: datetime, customer_id: int, version: int, fields: CustomerFields) -> Customer:
    """Change a customer.

    Raises
    ------
    Conflict
        When it was changed since it was seen.
    """
    require(actor, Action.CHANGE_CUSTOMERS)
    customer = lock(Customer, customer_id, version, "customer")
    changed = apply(customer, _checked(customer, fields))
    if changed:
        customer.version += 1
        customer.save()
        make_findable([customer.pk])
        audit.record(
            actor=actor, now=now, action="change", entity="customer", entity_id=customer.pk, version=customer.version,
            sentence=f"changed {in_words(changed, _WORDS)}", values=changed,
        )  # fmt: skip
        live.announce("customer", ids=[customer.pk])
    return customer


def _checked(customer: Customer, fields: CustomerFields) -> dict[str, Any]:
    if not fields.name.strip():
        raise Rejected("A customer needs a name.", field="name")
    if fields.payer_id is not None:
        if fields.payer_id == customer.pk:
            raise Rejected("The customer pays for itself already: leave the payer empty.", field="payer")
        if fields.payer_address.strip():
            raise Rejected("The payer is another customer or a typed address, not both.", field="payer")
        if not Customer.objects.filter(pk=fields.payer_id, merged_into__isnull=True).exists():
            raise NotFound("There is no such payer.", code="no_customer")
    values = {name: value.strip() if isinstance(value, str) else value for name, value in asdict(fields).items()}
    values["phone_key"] = phone_key(fields.phone, settings().phone_country)
    values["tags"] = resolved(Tag, fields.tags, field="tags")
    values["extra"] = checked_extra("customer", fields.extra, required=customer.pk is not None or bool(fields.extra))
    return values


@transaction.atomic
def put_contact(
    *, actor: Actor, now: datetime, customer_id: int, contact_id: int | None, name: str, role: str = "",
    phone: str = "", email: str = "", channel: str = "text", site_id: int | None = None, version: int = 0,
    anyway: bool = False,
) -> Contact:  # fmt: skip
    """A new contact of a customer, or one of its contacts changed.

    Raises
    ------
    Conflict
        When it was changed since it was seen.
    Rejected
        When nobody is named, or somebody there has the same name, phone or e-mail ("twin", unless `anyway`).
    """
    require(actor, Action.CHANGE_CUSTOMERS)
    if not name.strip():
        raise Rejected("A contact needs a name.", field="name")
    # Locked, so that of two at the same moment the second one sees the first as its twin.
    if not Customer.objects.select_for_update().filter(pk=customer_id).exists():
        raise NotFound("There is no such customer.", code="no_customer")
    if site_id is not None and not Site.objects.filter(pk=site_id, customer_id=customer_id).exists():
        raise NotFound("This customer has no such site.", code="no_site")
    contact = Contact(customer_id=customer_id)
    if contact_id is not None:
        found = Contact.objects.select_for_update().filter(pk=contact_id, customer_id=customer_id).first()
        if found is None:
            raise NotFound("There is no such contact (any more).", code="no_contact")
        contact = found
        if contact.version != version:
            raise Conflict(
                f"{contact.name} was changed meanwhile. It is shown as it is now.", current_version=contact.version
            )
        contact.version += 1
    values = {"name": name.strip(), "role": role.strip(), "phone": phone.strip(), "email": email.strip()}
    changed = apply(contact, {**values, "channel": channel, "site_id": site_id})
    contact.phone_key = phone_key(contact.phone, settings().phone_country)
    _check_twins(contact, anyway=anyway or not changed)
    contact.save()
    make_findable([customer_id])
    audit.record(
        actor=actor, now=now, action="contact", entity="customer", entity_id=customer_id,
        sentence=f"{'changed' if contact_id else 'added'} the contact {contact.name}", values=changed,
    )  # fmt: skip
    live.announce("customer", ids=[customer_id])
    return contact


def _check_twins(contact: Contact, *, anyway: bool) -> None:
    """Somebody of the customer who looks like the same person; the very same in everything is never made twice."""
    for other in Contact.objects.filter(customer_id=contact.customer_id).exclude(pk=contact.pk).order_by("id"):
        alike = [
            words
            for words, same in (
                ("name", other.name.casefold() == contact.name.casefold()),
                ("phone number", len(contact.phone_key) > 6 and other.phone_key == contact.phone_key),
                ("e-mail address", bool(contact.email) and other.email.casefold() == contact.email.casefold()),
            )
            if same
        ]
        if alike and all(getattr(other, name) == getattr(contact, name) for name in _WHO):
            raise Rejected(f"{other.name} is there already, the same in everything.", code="same", field="name")
        if alike and not anyway:
            said = f"{other.name} is there already with the same {' and '.join(alike)}."
            raise Rejected(said, code="twin", field="name", reasons=[said])


_WHO = ("name", "role", "phone_key", "email", "site_id")


@transaction.atomic
def remove_contact(*, actor: Actor, now: datetime, customer_id: int, contact_id: int) -> None:
    """Take a contact off a customer. Orders keep the name and phone they were made with."""
    require(actor, Action.CHANGE_CUSTOMERS)
    contact = Contact.objects.filter(pk=contact_id, customer_id=customer_id).first()
    if contact is None:
        raise NotFound("There is no such contact (any more).", code="no_contact")
    contact.delete()
    make_findable([customer_id])
    audit.record(
        actor=actor, now=now, action="contact", entity="customer", entity_id=customer_id,
        sentence=f"removed the contact {contact.name}", phone=contact.phone, email=contact.email,
    )  # fmt: skip
    live.announce("customer", ids=[customer_id])
