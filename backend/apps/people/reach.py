"""Whether work is in somebody's reach: asked by every command that changes work or plans people, and by what offers it.

Whoever works from the phone reaches the visits they go to. In the office a role of the company's own may be narrowed to
areas (of the sites) and to depots (of the technicians). Seeing is not narrowed.
"""

from collections.abc import Iterable

from apps.people.models import Technician
from core.roles import Reach
from foundation.actors import Actor
from foundation.errors import NotPermitted


def check_area(actor: Actor, area_id: int | None, area: str) -> None:
    """Raise NotPermitted when work in this area is out of the actor's reach."""
    if problem := area_problem(actor, area_id, area):
        raise NotPermitted(f"{problem}.", code="out_of_reach")


def check_technicians(actor: Actor, technicians: Iterable[int | None]) -> None:
    """Raise NotPermitted when one of these technicians is out of the actor's reach."""
    if problem := technicians_problem(actor, technicians):
        raise NotPermitted(f"{problem}.", code="out_of_reach")


def area_problem(actor: Actor, area_id: int | None, area: str) -> str:
    """Why work in this area is out of the actor's reach; nothing when it is not."""
    if actor.reach.area(area_id):
        return ""
    where = f"in {area}" if area else "outside of every area"
    return f"This is {where}, and as {actor.role_name} you change nothing there"


def technicians_problem(actor: Actor, technicians: Iterable[int | None]) -> str:
    """Why one of these technicians is out of the actor's reach; nothing when none is."""
    if not actor.reach.depots:
        return ""
    keys = [key for key in technicians if key is not None]
    outside = Technician.objects.filter(pk__in=keys).exclude(depot_id__in=actor.reach.depots).select_related("depot")
    found = outside.order_by("pk").first()
    if found is None:
        return ""
    return f"{found.name} is of the depot {found.depot.name}, and as {actor.role_name} you plan nobody there"


def within(reach: Reach) -> frozenset[int] | None:
    """The technicians in reach; None: everybody."""
    if not reach.depots:
        return None
    return frozenset(Technician.objects.filter(depot_id__in=reach.depots).values_list("pk", flat=True))
