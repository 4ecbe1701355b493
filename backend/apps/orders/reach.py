"""Which visits and orders are in somebody's reach; see apps.people.reach."""

from collections.abc import Collection, Iterable

from apps.customers.models import Site
from apps.orders.models import Visit, WorkOrder
from apps.people import reach
from foundation.actors import Actor
from foundation.errors import NotFound


def check_visit(actor: Actor, visit: Visit) -> None:
    """A visit that is to be changed.

    Raises
    ------
    NotFound
        When the actor reaches only their own visits, and this is none.
    NotPermitted
        When it lies in an area, or stands with a technician, out of the actor's reach.
    """
    technicians = (visit.technician_id, *visit.mates)
    if not actor.reach.goes_to(technicians):
        raise NotFound("This visit is not yours (any more).", code="no_visit")
    check_order(actor, visit.order)
    reach.check_technicians(actor, technicians)


def check_order(actor: Actor, order: WorkOrder) -> None:
    """An order that is made or changed. Raises NotPermitted."""
    if actor.reach.areas:
        area = order.site.area
        reach.check_area(actor, order.site.area_id, area.name if area else "")


def check_site(actor: Actor, site_id: int) -> None:
    """A site for which a time is asked: none is offered that could not be promised. Raises NotPermitted."""
    if actor.reach.areas:
        found = Site.objects.select_related("area").filter(pk=site_id).first()
        if found is not None:
            reach.check_area(actor, found.area_id, found.area.name if found.area else "")


def visit_problem(actor: Actor, visit_id: int) -> str:
    """Why a visit, as it stands, is out of the actor's reach; nothing when it is not."""
    visit = Visit.objects.select_related("order__site__area").get(pk=visit_id)
    area = visit.order.site.area
    return reach.area_problem(actor, visit.order.site.area_id, area.name if area else "") or reach.technicians_problem(
        actor, (visit.technician_id, *visit.mates)
    )


def visits_within(actor: Actor, visit_ids: Iterable[int]) -> Collection[int]:
    """Those of these visits that the actor may change."""
    keys = set(visit_ids)
    if not actor.reach.is_narrow:
        return keys
    found = Visit.objects.filter(pk__in=keys)
    if actor.reach.areas:
        found = found.filter(order__site__area_id__in=actor.reach.areas)
    people = reach.within(actor.reach)
    rows = found.values_list("pk", "technician_id", "mates")
    return {key for key, lead, mates in rows if people is None or people.issuperset(_named(lead, mates))}


def _named(lead: int | None, mates: Iterable[int]) -> set[int]:
    return {key for key in (lead, *mates) if key is not None}
