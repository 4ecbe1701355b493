"""Who is wanted at a site, and who is not."""

from collections import defaultdict
from collections.abc import Iterable

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


def _people(through: object, site_ids: Iterable[int]) -> dict[int, frozenset[int]]:
    found: defaultdict[int, set[int]] = defaultdict(set)
    # Few sites say anything: all that do are read, rather than naming every site of a board.
    wanted = set(site_ids)
    for site_id, technician_id in through.objects.values_list("site_id", "technician_id"):  # type: ignore[attr-defined]
        if site_id in wanted:
            found[site_id].add(technician_id)
    return {site_id: frozenset(people) for site_id, people in found.items()}
