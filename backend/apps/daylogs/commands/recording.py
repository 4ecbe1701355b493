"""Recording a day: what was written down on the phone is so; what is odd about it is asked later, not refused."""

from datetime import datetime
from typing import Literal
from uuid import UUID

from django.db import transaction

from apps.company.queries import record_fields
from apps.daylogs.inputs import FuelFields, OfDay, VehicleFields
from apps.daylogs.models import DayLog, Explained, Fuel, Pause
from apps.people.models import Vehicle
from core.forms import check_answers
from core.roles import Action
from foundation import audit, live, pictures
from foundation.actors import Actor, may, require
from foundation.errors import NotPermitted, Rejected

FURTHEST_KM = 3_000_000
MOST_MILLILITRES = 1_000_000


def _log(actor: Actor, of: OfDay) -> DayLog:
    """The day's log, locked; made when something is first said of the day.

    Raises
    ------
    NotPermitted
    """
    if actor.technician_id == of.technician_id:
        require(actor, Action.WORK_IN_FIELD)
    elif not may(actor, Action.CHANGE_VISITS):
        raise NotPermitted("That is somebody else's day.")
    DayLog.objects.get_or_create(technician_id=of.technician_id, day=of.day)
    return DayLog.objects.select_for_update().get(technician_id=of.technician_id, day=of.day)


def _tell(actor: Actor, now: datetime, log: DayLog, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action="log", entity="day log", entity_id=log.pk, sentence=f"{log.day}: {sentence}"[:300]
    )
    live.announce("day log", ids=[log.pk], technicians=[log.technician_id])


@transaction.atomic
def clock_on(*, actor: Actor, now: datetime, of: OfDay) -> None:
    """The day begins. A second beginning, as from a second phone, changes nothing: the first stands."""
    log = _log(actor, of)
    if log.began_at is not None and log.began_at <= of.at:
        return
    log.began_at, log.began_typed = of.at, False
    log.began_lon, log.began_lat = (of.where.lon, of.where.lat) if of.where else (None, None)
    log.save()
    _tell(actor, now, log, "began the day")


@transaction.atomic
def clock_off(*, actor: Actor, now: datetime, of: OfDay) -> None:
    """The day ends, and with it a break that was not ended. Said again, the last end stands."""
    log = _log(actor, of)
    Pause.objects.filter(log=log, until=None, since__lte=of.at).update(until=of.at)
    log.ended_at, log.ended_typed = of.at, False
    log.save()
    _tell(actor, now, log, "ended the day")


@transaction.atomic
def type_time(*, actor: Actor, now: datetime, of: OfDay, which: Literal["began", "ended"], at: datetime) -> None:
    """Say when the day began or ended, where that was not stamped.

    Raises
    ------
    Rejected
        When it has not come yet, or the day would end before it began.
    """
    log = _log(actor, of)
    if at > now:
        raise Rejected("That moment is still to come.", field="at")
    began, ended = (at, log.ended_at) if which == "began" else (log.began_at, at)
    if began is not None and ended is not None and ended < began:
        raise Rejected("The day would end before it begins.", field="at")
    setattr(log, f"{which}_at", at)
    setattr(log, f"{which}_typed", True)
    log.save()
    _tell(actor, now, log, f"typed when the day {which}")


@transaction.atomic
def pause(*, actor: Actor, now: datetime, of: OfDay, begins: bool) -> None:
    """A break begins or ends. One that goes on is not begun again."""
    log = _log(actor, of)
    open_ = Pause.objects.filter(log=log, until=None).first()
    if begins and open_ is None:
        Pause.objects.create(log=log, since=of.at)
    elif not begins and open_ is not None:
        open_.until = max(of.at, open_.since)
        open_.save(update_fields=["until"])
    else:
        return
    _tell(actor, now, log, "began a break" if begins else "ended the break")


@transaction.atomic
def say_vehicle(*, actor: Actor, now: datetime, of: OfDay, fields: VehicleFields) -> None:
    """What is driven that day, its odometer, and how it was found.

    Raises
    ------
    Rejected
        When there is no such vehicle, no odometer says that, or a check is not answered like that.
    """
    log = _log(actor, of)
    if fields.vehicle_id is not None:
        if not Vehicle.objects.filter(pk=fields.vehicle_id, merged_into="").exists():
            raise Rejected("There is no such vehicle (any more).", field="vehicle_id")
        log.vehicle_id = fields.vehicle_id
    for name in ("odometer_began", "odometer_ended"):
        said = getattr(fields, name)
        if said is None:
            continue
        if not 0 <= said <= FURTHEST_KM:
            raise Rejected("No odometer says that.", field=name)
        setattr(log, name, said)
    if fields.checks is not None:
        clean, problems = check_answers(record_fields("vehicle"), dict(fields.checks))
        if problems:
            key, words = next(iter(problems.items()))
            raise Rejected(f"{words}.", code="wrong_answer", field=key)
        log.checks = clean
    log.save()
    _tell(actor, now, log, "said what is driven and how it was found")


@transaction.atomic
def add_fuel(*, actor: Actor, now: datetime, of: OfDay, fields: FuelFields) -> None:
    """Fuel was filled in. The photo of its receipt comes later, under the same name.

    Raises
    ------
    Rejected
        When nobody fills in so much, or the photo is too large.
    """
    log = _log(actor, of)
    if not 0 < fields.millilitres <= MOST_MILLILITRES:
        raise Rejected("Nobody fills in so much.", field="millilitres")
    if fields.size > pictures.LARGEST:
        raise Rejected("The photo is too large.", field="size")
    known = Fuel.objects.filter(pk=fields.id).first()
    if known is not None and known.log_id != log.pk:
        raise Rejected("This belongs to another day.", code="key_used")
    said = {"at": of.at, "millilitres": fields.millilitres, "amount": fields.amount}
    if known is None:
        Fuel.objects.create(id=fields.id, log=log, size=fields.size, **said)
    else:
        Fuel.objects.filter(pk=known.pk).update(**said)
    _tell(actor, now, log, f"filled in {fields.millilitres / 1000:.1f} l")


@transaction.atomic
def drop_fuel(*, actor: Actor, now: datetime, of: OfDay, fuel_id: UUID) -> None:
    """It was a mistake."""
    log = _log(actor, of)
    if Fuel.objects.filter(pk=fuel_id, log=log).delete()[0]:
        _tell(actor, now, log, "took fuel off")


@transaction.atomic
def explain(*, actor: Actor, now: datetime, of: OfDay, key: str, words: str) -> None:
    """Answer what was asked about something missing or odd.

    Raises
    ------
    Rejected
        Without words.
    """
    log = _log(actor, of)
    if not words.strip():
        raise Rejected("Say it in a few words.", field="words")
    Explained.objects.update_or_create(log=log, key=key[:40], defaults={"words": words.strip()[:300], "at": of.at})
    _tell(actor, now, log, f"{key}: {words.strip()}")
