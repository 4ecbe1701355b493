"""Depots: where technicians' days begin and end."""

from datetime import datetime

from django.db import transaction

from apps.company.events import DepotMoves
from apps.company.models import Depot
from apps.company.queries import time_zone
from core.basics import Place
from core.calendars import local_day
from core.roles import Action
from foundation import audit, events, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def add_depot(*, actor: Actor, now: datetime, name: str, address: str, place: Place) -> Depot:
    """A new depot."""
    require(actor, Action.CHANGE_SETTINGS)
    return _write(actor, now, Depot(version=0), name, address, place)


@transaction.atomic
def change_depot(
    *, actor: Actor, now: datetime, depot_id: int, version: int, name: str, address: str, place: Place
) -> Depot:
    """Another name, or another place: days from today on that begin there begin at the new one.

    Raises
    ------
    Conflict
        When somebody else changed the depot since it was seen.
    """
    require(actor, Action.CHANGE_SETTINGS)
    depot = locked_depot(depot_id, version)
    if (depot.lon, depot.lat) != (place.lon, place.lat):
        events.publish(DepotMoves(depot_id=depot.pk, until=local_day(int(now.timestamp()), time_zone())))
    return _write(actor, now, depot, name, address, place)


@transaction.atomic
def retire_depot(*, actor: Actor, now: datetime, depot_id: int, version: int, retired: bool) -> Depot:
    """Offer a depot no longer, or again. Who begins there goes on.

    Raises
    ------
    Conflict
        When somebody else changed the depot since it was seen.
    """
    require(actor, Action.CHANGE_SETTINGS)
    depot = locked_depot(depot_id, version)
    if depot.retired == retired:
        return depot
    depot.retired = retired
    depot.version += 1
    depot.save(update_fields=["retired", "version"])
    tell_of_depot(actor, now, depot, f"{'retired' if retired else 'took back'} the depot {depot.name}")
    return depot


def locked_depot(depot_id: int, version: int) -> Depot:
    """The depot as it was seen, locked."""
    depot = Depot.objects.select_for_update().filter(pk=depot_id).first()
    if depot is None:
        raise NotFound("There is no such depot.", code="no_depot")
    if depot.version != version:
        raise Conflict(f"{depot.name} was changed meanwhile. Look at it again.", current_version=depot.version)
    return depot


def tell_of_depot(actor: Actor, now: datetime, depot: Depot, sentence: str) -> None:
    """Note it in the history, and tell who looks at depots and technicians."""
    audit.record(
        actor=actor, now=now, action="depot", entity="depot", entity_id=depot.pk, version=depot.version,
        sentence=sentence,
    )  # fmt: skip
    live.announce("company")
    live.announce("technician")


def _write(actor: Actor, now: datetime, depot: Depot, name: str, address: str, place: Place) -> Depot:
    name = " ".join(name.split())
    if not name:
        raise Rejected("A depot needs a name.", field="name")
    if Depot.objects.filter(name__iexact=name).exclude(pk=depot.pk).exists():
        raise Rejected(f"There is a depot called {name} already.", field="name")
    did = "changed" if depot.pk else "added"
    depot.name, depot.address, depot.lon, depot.lat = name, address.strip(), place.lon, place.lat
    depot.version += 1
    depot.save()
    tell_of_depot(actor, now, depot, f"{did} the depot {name}")
    return depot
