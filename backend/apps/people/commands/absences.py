"""Somebody is not there: ill, at a training, at the dentist's."""

from datetime import datetime

from django.db import transaction

from apps.people import queries
from apps.people.models import Absence
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected
from foundation.moments import to_datetime

LONGEST = 366 * 86_400


@transaction.atomic
def note_absence(*, actor: Actor, now: datetime, technician_id: int, start: int, end: int, reason: str = "") -> Absence:
    """Note that a technician is away from one moment (epoch seconds) to another. What is placed then stays there.

    Raises
    ------
    Rejected
        When it ends before it begins, takes longer than a year, or lies over another one.
    """
    require(actor, Action.PLAN)
    technician = queries.technician(technician_id)
    if end <= start:
        raise Rejected("An absence ends after it begins.", field="end")
    if end - start > LONGEST:
        raise Rejected("An absence is a year long at most.", field="end")
    begins, ends = to_datetime(start), to_datetime(end)
    if Absence.objects.filter(technician=technician, start__lt=ends, end__gt=begins).exists():
        raise Rejected(f"{technician.name} is noted as absent then already.", field="start")
    absence = Absence.objects.create(technician=technician, start=begins, end=ends, reason=reason.strip())
    _tell(actor, now, technician_id, f"noted that {technician.name} is away", reason=absence.reason)
    return absence


@transaction.atomic
def remove_absence(*, actor: Actor, now: datetime, absence_id: int) -> None:
    """Somebody is there after all."""
    require(actor, Action.PLAN)
    absence = Absence.objects.select_related("technician").filter(pk=absence_id).first()
    if absence is None:
        raise NotFound("There is no such absence (any more).", code="no_absence")
    technician = absence.technician
    absence.delete()
    _tell(actor, now, technician.pk, f"took back the absence of {technician.name}", reason=absence.reason)


def _tell(actor: Actor, now: datetime, technician_id: int, sentence: str, *, reason: str) -> None:
    audit.record(
        actor=actor, now=now, action="absence", entity="technician", entity_id=technician_id, sentence=sentence,
        reason=reason,
    )  # fmt: skip
    live.announce("technician", ids=[technician_id], technicians=[technician_id])
