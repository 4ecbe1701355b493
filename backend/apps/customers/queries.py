"""Reading customers."""

from typing import Any

from django.db.models import F

from apps.customers.duplicates import Twin, twins
from apps.customers.models import Asset, Customer, Merge, Site
from apps.customers.search import Hit, find
from apps.people.models import OwnRole, Technician, TechnicianWish
from core.basics import Place
from foundation import audit
from foundation.errors import NotFound
from foundation.models import AuditEntry
from foundation.pages import Page

__all__ = [
    "Hit",
    "Twin",
    "area_uses",
    "asset",
    "asset_at",
    "customer",
    "find",
    "history",
    "last_merge",
    "latest",
    "place_of",
    "site",
    "sites_on_map",
    "twins",
]


def customer(customer_id: int) -> Customer:
    """A customer with contacts, sites and assets; one that was merged leads to where it went."""
    rows = Customer.objects.select_related("payer", "merged_into").prefetch_related(
        "contacts", "sites__assets", "sites__area", "sites__preferred", "sites__refused", "sites__required"
    )
    found = rows.filter(pk=customer_id).first()
    if found is None:
        raise NotFound("There is no such customer.", code="no_customer")
    return found


def latest(*, limit: int = 60, tag: str = "") -> list[Customer]:
    """The newest customers, or those with a tag."""
    rows = Customer.objects.filter(merged_into__isnull=True).order_by("-id")
    return list((rows.filter(tags__contains=[tag]) if tag else rows)[:limit])


def area_uses(area_id: int) -> list[tuple[str, int]]:
    """Who is in an area, in the plural, and how many; nothing of those of whom nobody is."""
    counted = (
        ("sites", Site.objects.filter(area_id=area_id).count()),
        ("technicians", Technician.objects.filter(areas=area_id).count()),
        ("roles", OwnRole.objects.filter(areas=area_id).count()),
        ("wishes", TechnicianWish.objects.filter(area_id=area_id).count()),
    )
    return [(what, count) for what, count in counted if count]


def site(site_id: int) -> Site:
    found = Site.objects.filter(pk=site_id).select_related("customer__payer", "area").first()
    if found is None:
        raise NotFound("There is no such site.", code="no_site")
    return found


def sites_on_map() -> list[dict[str, Any]]:
    """Every site of customers that were not merged into others: name, address, point, and whose it is."""
    rows = Site.objects.filter(customer__merged_into__isnull=True).order_by("id")
    names = ("id", "name", "address", "lon", "lat", "customer_id")
    return [{**row} for row in rows.values(*names, customer_name=F("customer__name"))]


def asset(asset_id: int) -> Asset:
    found = Asset.objects.filter(pk=asset_id).select_related("site__customer", "site__area", "parent").first()
    if found is None:
        raise NotFound("There is no such asset.", code="no_asset")
    return found


def asset_at(site: Site, asset_id: int) -> Asset:
    found = Asset.objects.filter(pk=asset_id, site=site).first()
    if found is None:
        raise NotFound("There is no such asset at this site.", code="no_asset")
    return found


def last_merge(customer_id: int) -> Merge | None:
    """The last merge into this customer that still stands."""
    rows = Merge.objects.select_related("gone").filter(kept_id=customer_id, undone=False)
    return rows.order_by("-id").first()


def history(customer_id: int, *, cursor: str = "") -> Page[AuditEntry]:
    """What happened to the customer, its sites and assets, the newest first; notes too."""
    sites = Site.objects.filter(customer_id=customer_id).values_list("id", flat=True)
    assets = Asset.objects.filter(site__customer_id=customer_id).values_list("id", flat=True)
    return audit.of({"customer": [customer_id], "site": list(sites), "asset": list(assets)}, cursor)


def place_of(site: Site) -> Place:
    return Place(site.lon, site.lat)
