"""Sites: places we go to."""

from datetime import datetime
from typing import Any

from django.db import transaction

from apps.company.queries import area_at, areas
from apps.customers.commands.changing import apply, checked_extra, in_words, lock
from apps.customers.inputs import SiteFields
from apps.customers.models import Customer, Site
from apps.customers.search import make_findable
from apps.people.queries import technicians_named
from core.basics import Place
from core.company.settings import parse_span
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

_WORDS = {"lon": "place", "lat": "place", "area_id": "area", "access_notes": "access notes", "extra": "own fields",
          "opening": "opening hours"}  # fmt: skip


@transaction.atomic
def add_site(*, actor: Actor, now: datetime, customer_id: int, fields: SiteFields) -> Site:
    """A new site of a customer; its area follows from the place."""
    require(actor, Action.CHANGE_CUSTOMERS)
    if not Customer.objects.filter(pk=customer_id, merged_into__isnull=True).exists():
        raise NotFound("There is no such customer.", code="no_customer")
    site = Site(customer_id=customer_id)
    apply(site, _checked(fields))
    site.save()
    _set_people(site, fields)
    make_findable([customer_id])
    audit.record(
        actor=actor, now=now, action="add", entity="site", entity_id=site.pk, version=1, sentence="added the site",
        address=site.address,
    )  # fmt: skip
    live.announce("customer", ids=[customer_id])
    return site


@transaction.atomic
def change_site(*, actor: Actor, now: datetime, site_id: int, version: int, fields: SiteFields) -> Site:
    """Change a site; its area follows from the place."""
    require(actor, Action.CHANGE_CUSTOMERS)
    site = lock(Site, site_id, version, "site")
    changed = {**apply(site, _checked(fields)), **_set_people(site, fields)}
    if changed:
        site.version += 1
        site.save()
        make_findable([site.customer_id])
        audit.record(
            actor=actor, now=now, action="change", entity="site", entity_id=site.pk, version=site.version,
            sentence=f"changed {in_words(changed, _WORDS)}", values=changed,
        )  # fmt: skip
        live.announce("customer", ids=[site.customer_id])
        live.announce("visit")
    return site


def _checked(fields: SiteFields) -> dict[str, Any]:
    if not fields.address.strip():
        raise Rejected("A site needs an address.", field="address")
    opening = [text.strip() for text in fields.opening] if any(fields.opening) else []
    if opening and len(opening) != 7:
        raise Rejected("Opening hours are seven spans, Monday first.", field="opening")
    try:
        for text in filter(None, opening):
            parse_span(text)
    except ValueError as error:
        raise Rejected(f"Opening hours: {error}.", field="opening") from error
    area = area_at(fields.place)
    return {
        "name": fields.name.strip() or fields.address.split(",")[0].strip(),
        "address": fields.address.strip(),
        "lon": fields.place.lon,
        "lat": fields.place.lat,
        "area_id": area.pk if area else None,
        "access_notes": fields.access_notes.strip(),
        "opening": opening,
        "extra": checked_extra("site", fields.extra, required=bool(fields.extra)),
    }


def _set_people(site: Site, fields: SiteFields) -> dict[str, list[Any]]:
    """Preferred, refused and required technicians; names before and after where they changed."""
    both = set(fields.preferred) & set(fields.refused)
    if both:
        raise Rejected("Nobody is preferred and refused at once.", field="preferred")
    if set(fields.required) & set(fields.refused):
        raise Rejected("Nobody is required and refused at once.", field="required")
    changed = {}
    for name in ("preferred", "refused", "required"):
        relation, wanted = getattr(site, name), set(getattr(fields, name))
        before = set(relation.values_list("id", flat=True))
        if before != wanted:
            names = technicians_named(before | wanted)
            relation.set(wanted)
            changed[name] = [[names[key] for key in sorted(before)], [names[key] for key in sorted(wanted)]]
    return changed


@transaction.atomic
def find_areas(*, actor: Actor, now: datetime) -> int:
    """Let every site find its area anew, after areas have changed; how many now lie in another one."""
    moved = 0
    names = {area.pk: area.name for area in areas()}
    for site in Site.objects.select_for_update().order_by("id"):
        area = area_at(Place(site.lon, site.lat))
        if (area.pk if area else None) == site.area_id:
            continue
        before = names.get(site.area_id or 0)
        site.area = area
        site.version += 1
        site.save(update_fields=["area", "version"])
        audit.record(
            actor=actor, now=now, action="change", entity="site", entity_id=site.pk, version=site.version,
            sentence=f"changed areas: it lies in {area.name if area else 'none'} now",
            values={"area": [before, area.name if area else None]},
        )  # fmt: skip
        moved += 1
    if moved:
        live.announce("visit")
    return moved
