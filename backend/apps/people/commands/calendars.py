"""The secret link of a technician's calendar: renewed, closed."""

from datetime import datetime

from django.db import transaction

from apps.people.models import Technician
from apps.people.reach import check_technicians
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import NotFound


@transaction.atomic
def renew_calendar(*, actor: Actor, now: datetime, technician_id: int) -> Technician:
    """Give the calendar another link; whoever has the old one reads nothing any more."""
    technician = _locked(actor, technician_id)
    technician.calendar_edition += 1
    technician.calendar_open = True
    return _save(actor, now, technician, "renewed the link to the calendar")


@transaction.atomic
def close_calendar(*, actor: Actor, now: datetime, technician_id: int) -> Technician:
    """Let no link read the calendar until it is renewed."""
    technician = _locked(actor, technician_id)
    technician.calendar_edition += 1
    technician.calendar_open = False
    return _save(actor, now, technician, "closed the link to the calendar")


def _locked(actor: Actor, technician_id: int) -> Technician:
    require(actor, Action.PLAN)
    found = Technician.objects.select_for_update().filter(pk=technician_id).first()
    if found is None:
        raise NotFound("There is no such technician.", code="no_technician")
    check_technicians(actor, [technician_id])
    return found


def _save(actor: Actor, now: datetime, technician: Technician, sentence: str) -> Technician:
    technician.save(update_fields=["calendar_edition", "calendar_open"])
    audit.record(
        actor=actor, now=now, action="calendar", entity="technician", entity_id=technician.pk, sentence=sentence
    )
    live.announce("technician", ids=[technician.pk])
    return technician
