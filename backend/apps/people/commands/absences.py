"""Somebody is not there: ill, at a training, at the dentist's."""

from datetime import datetime
from typing import Any

from django.db import transaction

from apps.company.queries import time_zone
from apps.people import queries
from apps.people.models import Absence, DaysAsked
from apps.people.reach import check_technicians
from core.calendars import local_day
from core.roles import Action
from foundation import audit, live, undo
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected
from foundation.moments import to_datetime
from foundation.undo import Values, check_unchanged

LONGEST = 366 * 86_400


@transaction.atomic
def note_absence(
    *, actor: Actor, now: datetime, technician_id: int, start: int, end: int, reason: str = "", kind: str = ""
) -> Absence:
    """Note that a technician is away from one moment (epoch seconds) to another. What is placed then stays there.

    Raises
    ------
    Rejected
        When it ends before it begins, takes longer than a year, or lies over another one.
    """
    require(actor, Action.PLAN)
    technician = queries.technician(technician_id)
    check_technicians(actor, [technician_id])
    if kind and kind not in dict(Absence.KINDS):
        raise Rejected("There is no such kind of absence.", field="kind")
    if end <= start:
        raise Rejected("An absence ends after it begins.", field="end")
    if end - start > LONGEST:
        raise Rejected("An absence is a year long at most.", field="end")
    begins, ends = to_datetime(start), to_datetime(end)
    if Absence.objects.filter(technician=technician, start__lt=ends, end__gt=begins).exists():
        raise Rejected(f"{technician.name} is noted as absent then already.", field="start")
    absence = Absence.objects.create(technician=technician, start=begins, end=ends, reason=reason.strip(), kind=kind)
    _tell(actor, now, absence, f"noted that {technician.name} is away", before={}, after=_values(absence))
    return absence


@transaction.atomic
def remove_absence(*, actor: Actor, now: datetime, absence_id: int) -> None:
    """Somebody is there after all."""
    require(actor, Action.PLAN)
    absence = Absence.objects.select_related("technician").filter(pk=absence_id).first()
    if absence is None:
        raise NotFound("There is no such absence (any more).", code="no_absence")
    check_technicians(actor, [absence.technician_id])
    said = f"took back the absence of {absence.technician.name}"
    _tell(actor, now, absence, said, before=_values(absence), after={})
    absence.delete()


def put_absence_back(*, actor: Actor, now: datetime, key: int, wanted: Values, expected: Values) -> int:
    """See `PutBack`."""
    found = Absence.objects.filter(pk=key).first()
    check_unchanged(_values(found) if found else {}, expected)
    if wanted:
        absence = note_absence(actor=actor, now=now, **wanted)
        # Days off that were granted, taken back and granted again are granted.
        day = local_day(int(absence.start.timestamp()), time_zone())
        again = DaysAsked.objects.filter(technician=absence.technician, state="granted", absence__isnull=True)
        again.filter(first_day=day, kind=absence.kind).update(absence=absence)
        return absence.pk
    remove_absence(actor=actor, now=now, absence_id=key)
    return key


def _values(absence: Absence) -> dict[str, Any]:
    return {
        "technician_id": absence.technician_id, "start": int(absence.start.timestamp()),
        "end": int(absence.end.timestamp()), "reason": absence.reason, "kind": absence.kind,
    }  # fmt: skip


def _tell(actor: Actor, now: datetime, absence: Absence, sentence: str, *, before: Values, after: Values) -> None:
    key = absence.technician_id
    audit.record(
        actor=actor, now=now, action="absence", entity="technician", entity_id=key, sentence=sentence,
        reason=absence.reason,
    )  # fmt: skip
    undo.record(actor=actor, now=now, subject="absence", key=absence.pk, sentence=sentence, before=before, after=after)
    live.announce("technician", ids=[key], technicians=[key])
