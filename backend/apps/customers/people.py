"""Who is wanted at a site, and who is not."""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass

from apps.customers.models import Site


def refused_at(site_ids: Iterable[int]) -> dict[int, frozenset[int]]:
    """Ids of the technicians a site does not want, by site; sites that refuse nobody are left out."""
    return _people(Site.refused.through, site_ids)


def preferred_at(site_ids: Iterable[int]) -> dict[int, frozenset[int]]:
    """Ids of the technicians a site prefers, by site."""
    return _people(Site.preferred.through, site_ids)


def required_at(site_ids: Iterable[int]) -> dict[int, frozenset[int]]:
    """Ids of the only technicians that may be sent to a site, by site; sites that take anybody are left out."""
    return _people(Site.required.through, site_ids)


@dataclass(frozen=True)
class Wanted:
    """A site that says something about a technician: how ("required", "preferred", "refused"), and whose it is."""

    how: str
    site_id: int
    site: str
    customer_id: int
    customer: str


def said_of(technician_id: int) -> list[Wanted]:
    """What sites say of a technician, by customer."""
    found = []
    for how in ("required", "preferred", "refused"):
        sites = Site.objects.filter(**{how: technician_id}, customer__merged_into__isnull=True)
        rows = sites.values_list("id", "name", "address", "customer_id", "customer__name")
        found += [Wanted(how, key, name or address, customer, who) for key, name, address, customer, who in rows]
    return sorted(found, key=lambda row: (row.customer.casefold(), row.site, row.how))


def _people(through: object, site_ids: Iterable[int]) -> dict[int, frozenset[int]]:
    found: defaultdict[int, set[int]] = defaultdict(set)
    # Few sites say anything: all that do are read, rather than naming every site of a board.
    wanted = set(site_ids)
    for site_id, technician_id in through.objects.values_list("site_id", "technician_id"):  # type: ignore[attr-defined]
        if site_id in wanted:
            found[site_id].add(technician_id)
    return {site_id: frozenset(people) for site_id, people in found.items()}
