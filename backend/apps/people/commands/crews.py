"""Standing crews: who goes together as a rule."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.people import queries
from apps.people.models import Crew, CrewMember
from apps.people.reach import check_technicians
from core.roles import Action
from foundation import audit, live, undo
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.undo import Values, check_unchanged

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
    crew = _locked(actor, crew_id)
    if crew.version != version:
        raise Conflict(f"{crew.name} was changed by somebody else meanwhile.", code="stale")
    return _write(actor, now, crew, name, members, "changed the crew")


@transaction.atomic
def remove_crew(*, actor: Actor, now: datetime, crew_id: int) -> None:
    """Its members go their own ways."""
    require(actor, Action.PLAN)
    crew = _locked(actor, crew_id)
    _tell(actor, now, crew, f"removed the crew {crew.name}", before=_values(crew), after={})
    crew.delete()


def _locked(actor: Actor, crew_id: int) -> Crew:
    crew = Crew.objects.select_for_update().filter(pk=crew_id).first()
    if crew is None:
        raise NotFound("There is no such crew (any more).", code="no_crew")
    check_technicians(actor, crew.places.values_list("technician_id", flat=True))
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
    check_technicians(actor, members)
    before = _values(crew) if crew.pk else {}
    crew.name, crew.version = name, crew.version + 1
    crew.save()
    crew.places.all().delete()
    CrewMember.objects.bulk_create(
        CrewMember(crew=crew, technician_id=key, position=position) for position, key in enumerate(members)
    )
    who = ", ".join(names[key] for key in members)
    _tell(actor, now, crew, f"{did} {name}: {who}", before=before, after=_values(crew))
    return crew


def put_crew_back(*, actor: Actor, now: datetime, key: int, wanted: Values, expected: Values) -> int:
    """See `PutBack`."""
    found = Crew.objects.filter(pk=key).first()
    check_unchanged(_values(found) if found else {}, expected)
    if found is None:
        return make_crew(actor=actor, now=now, **wanted).pk
    if wanted:
        change_crew(actor=actor, now=now, crew_id=key, version=found.version, **wanted)
    else:
        remove_crew(actor=actor, now=now, crew_id=key)
    return key


def _values(crew: Crew) -> dict[str, Any]:
    members = crew.places.order_by("position").values_list("technician_id", flat=True)
    return {"name": crew.name, "members": list(members)}


def _tell(actor: Actor, now: datetime, crew: Crew, sentence: str, *, before: Values, after: Values) -> None:
    audit.record(
        actor=actor, now=now, action="crew", entity="crew", entity_id=crew.pk, version=crew.version, sentence=sentence
    )
    undo.record(actor=actor, now=now, subject="crew", key=crew.pk, sentence=sentence, before=before, after=after)
    live.announce("technician")
