"""Days on which nobody has a shift."""

from collections.abc import Collection
from datetime import date, datetime

from django.db import transaction

from apps.company import queries
from apps.company.models import Holiday
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected


@transaction.atomic
def add_holiday(*, actor: Actor, now: datetime, day: date, name: str) -> Holiday:
    """Make a day one on which nobody has a shift. What is placed on it stays, and says that it stands outside."""
    require(actor, Action.CHANGE_SETTINGS)
    name = name.strip()
    if not name:
        raise Rejected("A holiday needs a name.", field="name")
    if taken := Holiday.objects.filter(day=day).first():
        raise Rejected(f"That day is {taken.name} already.", field="day")
    holiday = Holiday.objects.create(day=day, name=name)
    _tell_of_holiday(actor, now, holiday.pk, f"made {day.isoformat()} a holiday: {name}")
    return holiday


@transaction.atomic
def take_public_holidays(
    *, actor: Actor, now: datetime, country: str, region: str, year: int, days: Collection[date]
) -> int:
    """Make some of a country's public holidays the company's; how many were not there yet.

    Parameters
    ----------
    days
        Which of them: as `queries.public_holidays` lists them.

    Raises
    ------
    Rejected
        For a country whose holidays are not known, or a day that is none of them.
    """
    require(actor, Action.CHANGE_SETTINGS)
    rows = {row.day: row for row in queries.public_holidays(country, region, year)}
    if strange := sorted(set(days) - rows.keys()):
        raise Rejected(f"{strange[0].isoformat()} is no public holiday there.", field="days")
    taken = [rows[day] for day in sorted(set(days)) if not rows[day].is_ours]
    Holiday.objects.bulk_create(Holiday(day=row.day, name=row.name[:60]) for row in taken)
    if taken:
        said = f"took {len(taken)} public holidays of {country} {region} {year}".replace("  ", " ")
        _tell_of_holiday(actor, now, 0, said)
    return len(taken)


@transaction.atomic
def remove_holiday(*, actor: Actor, now: datetime, holiday_id: int) -> None:
    """Make a holiday a day like others again."""
    require(actor, Action.CHANGE_SETTINGS)
    holiday = Holiday.objects.filter(pk=holiday_id).first()
    if holiday is None:
        raise NotFound("There is no such holiday (any more).", code="no_holiday")
    said = f"{holiday.day.isoformat()} ({holiday.name}) is no holiday any more"
    holiday.delete()
    _tell_of_holiday(actor, now, holiday_id, said)


def _tell_of_holiday(actor: Actor, now: datetime, key: int, sentence: str) -> None:
    audit.record(actor=actor, now=now, action="holiday", entity="holiday", entity_id=key, sentence=sentence)
    live.announce("technician")
