"""How technicians work: where their days begin and end, what they drive, what an hour costs, what they like to do."""

from datetime import date, datetime

from django.db import transaction

from apps.company.models import Area
from apps.people.commands.ends import checked_from, keep_ends
from apps.people.commands.technicians import locked, tell
from apps.people.inputs import TermsFields
from apps.people.models import Skill, Technician, TechnicianWish, Vehicle
from core.basics import Place
from core.roles import Action
from foundation.actors import Actor, require
from foundation.errors import Rejected


@transaction.atomic
def set_terms(
    *, actor: Actor, now: datetime, technician_id: int, version: int, fields: TermsFields,
    valid_from: date | None = None,
) -> Technician:  # fmt: skip
    """Another start or end of the day, vehicle, cost or wishes. What is placed stays.

    Parameters
    ----------
    valid_from
        From which day on days begin and end there; None: today.

    Raises
    ------
    Rejected
        For a day that is over, when days begin or end at a home that is not known, or for a vehicle, skill or area that
        is not there.
    """
    require(actor, Action.CHANGE_SETTINGS)
    technician = locked(technician_id, version)
    if fields.home is None and (fields.starts_at_home or fields.ends_at_home):
        raise Rejected("Choose the home address from the list first.", field="home_address")
    since, before = checked_from(valid_from, now), _ends_of(technician)
    technician.vehicle = _vehicle(fields.vehicle, technician)
    if before != (fields.home, fields.starts_at_home, fields.ends_at_home):
        keep_ends([technician], until=since)
    technician.home_address = fields.home_address.strip() if fields.home else ""
    technician.home_lon, technician.home_lat = (fields.home.lon, fields.home.lat) if fields.home else (None, None)
    technician.starts_at_home, technician.ends_at_home = fields.starts_at_home, fields.ends_at_home
    technician.cost_per_hour, technician.holiday_days = fields.cost_per_hour, fields.holiday_days
    technician.version += 1
    technician.save()
    _write_wishes(technician, fields)
    tell(actor, now, technician, f"set how {technician.name} works")
    return technician


def _ends_of(technician: Technician) -> tuple[Place | None, bool, bool]:
    lon, lat = technician.home_lon, technician.home_lat
    home = None if lon is None or lat is None else Place(lon, lat)
    return home, technician.starts_at_home, technician.ends_at_home


def _vehicle(code: str | None, technician: Technician) -> Vehicle | None:
    if not code:
        return None
    found = Vehicle.objects.filter(code=code, merged_into="").first()
    if found is None or (found.retired and found.pk != technician.vehicle_id):
        raise Rejected("That vehicle is not there any more.", field="vehicle")
    return found


def _write_wishes(technician: Technician, fields: TermsFields) -> None:
    skills = {row.code: row for row in Skill.objects.filter(code__in=[*fields.liked_skills, *fields.avoided_skills])}
    areas = {row.pk: row for row in Area.objects.filter(pk__in=[*fields.liked_areas, *fields.avoided_areas])}
    if set(fields.liked_skills) & set(fields.avoided_skills) or set(fields.liked_areas) & set(fields.avoided_areas):
        raise Rejected("Nobody both likes and avoids the same.", field="wishes")
    if {*fields.liked_skills, *fields.avoided_skills} - skills.keys():
        raise Rejected("A skill is not there any more.", field="wishes")
    if {*fields.liked_areas, *fields.avoided_areas} - areas.keys():
        raise Rejected("An area is not there any more.", field="wishes")
    TechnicianWish.objects.filter(technician=technician).delete()
    rows: list[TechnicianWish] = []
    for likes, codes in ((True, fields.liked_skills), (False, fields.avoided_skills)):
        rows += [TechnicianWish(technician=technician, likes=likes, skill=skills[code]) for code in codes]
    for likes, keys in ((True, fields.liked_areas), (False, fields.avoided_areas)):
        rows += [TechnicianWish(technician=technician, likes=likes, area=areas[key]) for key in keys]
    TechnicianWish.objects.bulk_create(rows)
