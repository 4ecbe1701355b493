"""Customers that a new one may duplicate, and why."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import chain

from apps.company.queries import settings
from apps.customers.models import Contact, Customer, Site
from core.basics import digits_of, phone_key

LEAST_DIGITS = 6
LOOKED_AT = 8


@dataclass(kw_only=True)
class Twin:
    """A customer that may be the same, with every reason."""

    customer: Customer
    because: list[str] = field(default_factory=list)
    sites: list[Site] = field(default_factory=list)


def twins(
    *, name: str, phone: str = "", email: str = "", address: str = "", but: int | None = None, limit: int = 4
) -> list[Twin]:
    """Probable duplicates, the likeliest (with most reasons) first."""
    found: dict[int, Twin] = {}
    reasons = chain(_by_phone(phone), _by_email(email), _by_name(name), _by_address(address))
    for customer, why in reasons:
        if customer.pk != but and customer.merged_into_id is None:
            twin = found.setdefault(customer.pk, Twin(customer=customer))
            if why not in twin.because:
                twin.because.append(why)
    best = sorted(found.values(), key=lambda twin: -len(twin.because))[:limit]
    by_customer = {twin.customer.pk: twin for twin in best}
    for site in Site.objects.filter(customer_id__in=by_customer).order_by("id"):
        by_customer[site.customer_id].sites.append(site)
    return best


Reason = tuple[Customer, str]


def _by_phone(phone: str) -> Iterator[Reason]:
    if len(digits_of(phone)) < LEAST_DIGITS:
        return
    key = phone_key(phone, settings().phone_country)
    for customer in Customer.objects.filter(phone_key=key)[:LOOKED_AT]:
        yield customer, "has the same phone number"
    for contact in Contact.objects.filter(phone_key=key).select_related("customer")[:LOOKED_AT]:
        yield contact.customer, f"{contact.name} there has the same phone number"


def _by_email(email: str) -> Iterator[Reason]:
    if "@" not in email:
        return
    for customer in Customer.objects.filter(email__iexact=email.strip())[:LOOKED_AT]:
        yield customer, "has the same e-mail address"
    for contact in Contact.objects.filter(email__iexact=email.strip()).select_related("customer")[:LOOKED_AT]:
        yield contact.customer, f"{contact.name} there has the same e-mail address"


def _by_name(name: str) -> Iterator[Reason]:
    name = name.strip()
    if len(name) < 3:
        return
    for customer in Customer.objects.filter(name__trigram_similar=name)[:LOOKED_AT]:
        same = customer.name.casefold() == name.casefold()
        yield customer, "has the same name" if same else "has nearly the same name"


def _by_address(address: str) -> Iterator[Reason]:
    if len(address.strip()) < 6:
        return
    sites = Site.objects.filter(address__trigram_similar=address.strip()).select_related("customer")
    for site in sites[:LOOKED_AT]:
        if _alike(site.address, address):
            yield site.customer, f"has a site at {site.address}"


def _alike(one: str, two: str) -> bool:
    """Same street and the same house number."""
    first, second = (text.casefold().split(",")[0].split() for text in (one, two))
    return first == second
