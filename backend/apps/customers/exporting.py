"""Customers in open formats: CSV (RFC 4180), contacts as vCard (RFC 6350), sites as GeoJSON (RFC 7946)."""

import csv
import io
import json
from collections.abc import Iterator
from typing import Any

import vobject

from apps.company.queries import record_fields, tag_names
from apps.customers.models import Asset, Contact, Customer, Site
from core.basics.tables import MARK, safe_cell


def as_csv(kind: str) -> Iterator[str]:
    """The columns that the import of that kind reads, so that a file goes out and in again."""
    own = [q.key for q in record_fields(kind.removesuffix("s"))] if kind != "contacts" else []
    titles, rows = _TABLES[kind]()
    yield MARK + _line([*titles, *(f"extra.{key}" for key in own)])
    for cells, extra in rows:
        yield _line([*cells, *(extra.get(key) for key in own)])


def _line(cells: list[Any]) -> str:
    buffer = io.StringIO()
    csv.writer(buffer).writerow([_cell(cell) for cell in cells])
    return buffer.getvalue()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return safe_cell(", ".join(value) if isinstance(value, list) else str(value))


Rows = Iterator[tuple[list[Any], dict[str, Any]]]


def _customers() -> tuple[list[str], Rows]:
    rows = Customer.objects.filter(merged_into__isnull=True).select_related("payer").order_by("name", "id")
    tags = tag_names()
    return ["name", "phone", "email", "payer", "needs_po_number", "tags"], (
        (
            [
                c.name,
                c.phone,
                c.email,
                c.payer.name if c.payer else "",
                c.needs_po_number,
                [tags.get(code, code) for code in c.tags],
            ],
            c.extra,
        )
        for c in rows.iterator(2000)
    )


def _sites() -> tuple[list[str], Rows]:
    rows = Site.objects.select_related("customer").order_by("customer__name", "id")
    return ["customer", "name", "address", "lon", "lat", "access_notes"], (
        ([s.customer.name, s.name, s.address, s.lon, s.lat, s.access_notes], s.extra) for s in rows.iterator(2000)
    )


def _contacts() -> tuple[list[str], Rows]:
    rows = Contact.objects.select_related("customer", "site").order_by("customer__name", "id")
    return ["customer", "name", "role", "phone", "email", "site"], (
        ([c.customer.name, c.name, c.role, c.phone, c.email, c.site.name if c.site else ""], {})
        for c in rows.iterator(2000)
    )


def _assets() -> tuple[list[str], Rows]:
    rows = Asset.objects.select_related("site__customer").order_by("site__customer__name", "id")
    titles = ["customer", "site", "kind", "make", "model", "serial", "installed_on", "warranty_until", "state"]
    return titles, (
        (
            [a.site.customer.name, a.site.name, a.kind, a.make, a.model, a.serial, a.installed_on, a.warranty_until,
             a.state],
            a.extra,
        )
        for a in rows.iterator(2000)
    )  # fmt: skip


_TABLES = {"customers": _customers, "sites": _sites, "contacts": _contacts, "assets": _assets}


def as_vcards() -> Iterator[str]:
    """Every contact as a vCard; the organisation is the customer."""
    for contact in Contact.objects.select_related("customer").order_by("customer__name", "id").iterator(2000):
        card = vobject.vCard()
        card.add("fn").value = contact.name
        card.add("n").value = vobject.vcard.Name(
            family=contact.name.split()[-1], given=" ".join(contact.name.split()[:-1])
        )
        card.add("org").value = [contact.customer.name]
        for name, value in (("title", contact.role), ("tel", contact.phone), ("email", contact.email)):
            if value:
                card.add(name).value = value
        yield card.serialize()


def as_geojson() -> Iterator[str]:
    """Sites as a FeatureCollection of points, in the shape that the import reads."""
    yield '{"type": "FeatureCollection", "features": ['
    for number, site in enumerate(Site.objects.select_related("customer", "area").order_by("id").iterator(2000)):
        feature = {
            "type": "Feature",
            "geometry": {"type": "Point", "coordinates": [site.lon, site.lat]},
            "properties": {
                "name": site.name, "customer": site.customer.name, "address": site.address,
                "area": site.area.name if site.area else None,
            },
        }  # fmt: skip
        yield ("," if number else "") + json.dumps(feature)
    yield "]}"
