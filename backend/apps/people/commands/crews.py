"""Standing crews: who goes together as a rule."""

from collections.abc import Sequence
from datetime import datetime

from django.db import transaction

from apps.people import queries
from apps.people.models import Crew, CrewMember
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

LARGEST = 8


@transaction.atomic
def make_crew(*, actor: Actor, now: datetime, name: str, members: Sequence[int]) -> Crew:
    """A new crew; the first of its members leads it."""
    require(actor, Action.PLAN)
    return _write(actor, now, Crew(version=0), name, members, "made the crew")


@transaction.atomic
def change_crew(*, actor: Actor, now: datetime, crew_id: int, version: int, name: str, members: Sequence[int]) -> Crew:
    """Another name, or other members. Visits that are placed already keep who goes to them."""
    require(actor, Action.PLAN)
    crew = _locked(crew_id)
    if crew.version != version:
        raise Conflict(f"{crew.name} was changed by somebody else meanwhile.", code="stale")
    return _write(actor, now, crew, name, members, "changed the crew")


@transaction.atomic
def remove_crew(*, actor: Actor, now: datetime, crew_id: int) -> None:
    """Its members go their own ways."""
    require(actor, Action.PLAN)
    crew = _locked(crew_id)
    crew.delete()
    _tell(actor, now, crew_id, 0, f"removed the crew {crew.name}")


def _locked(crew_id: int) -> Crew:
    crew = Crew.objects.select_for_update().filter(pk=crew_id).first()
    if crew is None:
        raise NotFound("There is no such crew (any more).", code="no_crew")
    return crew


def _write(actor: Actor, now: datetime, crew: Crew, name: str, members: Sequence[int], did: str) -> Crew:
    name = name.strip()
    if not name:
        raise Rejected("A crew needs a name.", field="name")
    if Crew.objects.filter(name__iexact=name).exclude(pk=crew.pk).exists():
        raise Rejected(f"There is a crew called {name} already.", field="name")
    if not 2 <= len(members) <= LARGEST:
        raise Rejected(f"A crew has two to {LARGEST} members.", field="members")
    if len(set(members)) < len(members):
        raise Rejected("Nobody can be in a crew twice.", field="members")
    names = queries.technicians_named(members)
    crew.name, crew.version = name, crew.version + 1
    crew.save()
    crew.places.all().delete()
    CrewMember.objects.bulk_create(
        CrewMember(crew=crew, technician_id=key, position=position) for position, key in enumerate(members)
    )
    who = ", ".join(names[key] for key in members)
    _tell(actor, now, crew.pk, crew.version, f"{did} {name}: {who}")
    return crew


def _tell(actor: Actor, now: datetime, key: int, version: int, sentence: str) -> None:
    audit.record(actor=actor, now=now, action="crew", entity="crew", entity_id=key, version=version, sentence=sentence)
    live.announce("technician")
