"""Two depots made into one: everybody who begins at the first begins at the second."""

from datetime import datetime

from django.db import transaction
from django.db.models import F

from apps.company.commands import locked_depot, tell_of_depot
from apps.company.models import Depot
from apps.company.queries import time_zone
from apps.people.commands.ends import keep_ends
from apps.people.models import Technician, Vehicle
from core.calendars import local_day
from core.roles import Action
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected


@transaction.atomic
def merge_depot(*, actor: Actor, now: datetime, depot_id: int, version: int, into: int) -> Depot:
    """Let whoever is at a depot be at another one from today on, and the first be gone; answers the one that is kept.

    Raises
    ------
    Rejected, NotFound
        When it is the same, or there is no such other one.
    """
    require(actor, Action.CHANGE_SETTINGS)
    if depot_id == into:
        raise Rejected("That is the same one: choose another to merge it into.", field="into")
    # Locked in the order of their keys, so that two opposed merges wait for each other instead of for ever.
    list(Depot.objects.select_for_update().filter(pk__in=(depot_id, into)).order_by("pk"))
    gone = locked_depot(depot_id, version)
    kept = Depot.objects.filter(pk=into).first()
    if kept is None:
        raise NotFound("There is no such depot (any more).", code="no_depot")
    here = list(Technician.objects.select_related("depot").filter(depot=gone))
    keep_ends(here, until=local_day(int(now.timestamp()), time_zone()))
    moved = Technician.objects.filter(depot=gone).update(depot=kept, version=F("version") + 1)
    vans = Vehicle.objects.filter(depot=gone).update(depot=kept, version=F("version") + 1)
    name = gone.name
    gone.delete()
    kept.version += 1
    kept.save(update_fields=["version"])
    tell_of_depot(actor, now, kept, f"merged the depot {name} into {kept.name} ({moved} technicians, {vans} vehicles)")
    return kept
