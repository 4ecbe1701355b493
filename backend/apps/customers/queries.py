"""Finding customers."""

from dataclasses import dataclass

from django.db.models import Q

from apps.customers.models import Asset, Customer, Site, digits_of
from core.basics import Place
from foundation.errors import NotFound

LEAST_LETTERS = 2


@dataclass(frozen=True, kw_only=True)
class Hit:
    """A customer found, with the site and asset that were meant, and why it was found."""

    customer: Customer
    site: Site | None
    asset: Asset | None
    because: str


def find(text: str, *, limit: int = 12) -> list[Hit]:
    """Customers by name, phone, site name or address, or asset serial. Every word typed must be found."""
    words = text.split()
    if sum(len(word) for word in words) < LEAST_LETTERS:
        return []
    hits = _by_serial(text.strip(), limit) + _by_site(words, limit) + _by_customer(text, words, limit)
    seen: set[tuple[int, int | None]] = set()
    named: set[int] = set()
    out = []
    for hit in hits:
        key = (hit.customer.pk, hit.site.pk if hit.site else None)
        if key in seen or (hit.site is None and hit.customer.pk in named):
            continue
        seen.add(key)
        named.add(hit.customer.pk)
        out.append(hit)
    return out[:limit]


def _by_serial(text: str, limit: int) -> list[Hit]:
    if len(text) < 3 or not any(letter.isdigit() for letter in text):
        return []
    found = Asset.objects.filter(serial__icontains=text).select_related("site__customer", "site__area")[:limit]
    return [
        Hit(customer=asset.site.customer, site=asset.site, asset=asset, because=f"asset {asset.serial}")
        for asset in found
    ]


def _by_site(words: list[str], limit: int) -> list[Hit]:
    query = Q()
    for word in words:
        query &= Q(address__icontains=word) | Q(name__icontains=word) | Q(customer__name__icontains=word)
    found = Site.objects.filter(query).select_related("customer", "area").order_by("customer__name", "name")[:limit]
    return [Hit(customer=site.customer, site=site, asset=None, because=site.address) for site in found]


def _by_customer(text: str, words: list[str], limit: int) -> list[Hit]:
    query = Q()
    for word in words:
        query &= Q(name__icontains=word) | Q(contacts__name__icontains=word) | Q(email__icontains=word)
    digits = digits_of(text)
    if len(digits) >= 4:
        query |= Q(phone_digits__contains=digits)
    found = Customer.objects.filter(query).distinct().order_by("name")[:limit]
    return [Hit(customer=customer, site=None, asset=None, because=customer.phone) for customer in found]


def similar(*, name: str, phone: str, email: str, limit: int = 4) -> list[tuple[Customer, str]]:
    """Customers that a new one may duplicate, each with the reason in words."""
    rows: list[tuple[Customer, str]] = []
    digits = digits_of(phone)
    if len(digits) >= 6:
        rows += [(row, "has the same phone number") for row in Customer.objects.filter(phone_digits=digits)[:limit]]
    if email:
        rows += [(row, "has the same e-mail address") for row in Customer.objects.filter(email__iexact=email)[:limit]]
    if len(name) >= 3:
        near = Customer.objects.filter(name__trigram_similar=name)[:limit]
        rows += [(row, "has nearly the same name") for row in near]
    unique: dict[int, tuple[Customer, str]] = {}
    for customer, why in rows:
        unique.setdefault(customer.pk, (customer, why))
    return list(unique.values())[:limit]


def customer(customer_id: int) -> Customer:
    found = Customer.objects.filter(pk=customer_id).prefetch_related("contacts", "sites__assets", "sites__area").first()
    if found is None:
        raise NotFound("There is no such customer.", code="no_customer")
    return found


def site(site_id: int) -> Site:
    found = Site.objects.filter(pk=site_id).select_related("customer", "area").first()
    if found is None:
        raise NotFound("There is no such site.", code="no_site")
    return found


def asset_at(site: Site, asset_id: int) -> Asset:
    found = Asset.objects.filter(pk=asset_id, site=site).first()
    if found is None:
        raise NotFound("There is no such asset at this site.", code="no_asset")
    return found


def place_of(site: Site) -> Place:
    return Place(site.lon, site.lat)
