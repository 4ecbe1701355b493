"""Technicians: who they are, what they can do, and when they work from which day on."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q

from apps.company.models import Area, Depot
from apps.company.queries import time_zone
from apps.people.commands.ends import checked_from, keep_ends
from apps.people.inputs import MOST_WEEKS, ShiftFields, TechnicianFields
from apps.people.models import Skill, Technician, TechnicianSkill, WeeklyShiftRow
from core.calendars import BreakRule, WeeklyShift, local_day, problem_of_rotation
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def add_technician(*, actor: Actor, now: datetime, fields: TechnicianFields) -> Technician:
    """Somebody new. Without working hours nothing is planned for them."""
    require(actor, Action.CHANGE_SETTINGS)
    technician = Technician(version=0)
    _write(technician, fields)
    tell(actor, now, technician, f"added {technician.name}")
    return technician


@transaction.atomic
def change_technician(
    *, actor: Actor, now: datetime, technician_id: int, version: int, fields: TechnicianFields,
    valid_from: date | None = None,
) -> Technician:  # fmt: skip
    """Another name, depot, areas or skills. What is placed stays, and says what speaks against it.

    Parameters
    ----------
    valid_from
        From which day on days begin at another depot; None: today.

    Raises
    ------
    Conflict
        When somebody else changed the technician since they were seen.
    Rejected
        For a day that is over, or what cannot be.
    """
    require(actor, Action.CHANGE_SETTINGS)
    technician = locked(technician_id, version)
    since = checked_from(valid_from, now)
    if fields.depot_id != technician.depot_id:
        keep_ends([technician], until=since)
    _write(technician, fields)
    tell(actor, now, technician, f"changed {technician.name}")
    return technician


@transaction.atomic
def set_week(
    *, actor: Actor, now: datetime, technician_id: int, version: int, shifts: Sequence[ShiftFields], valid_from: date,
    weeks: int = 1,
) -> Technician:  # fmt: skip
    """The weekly shifts from a day on, of one week or of several in turn. Days before it stay as they were.

    Raises
    ------
    Rejected
        For a day that is over, or a week that cannot be worked.
    """
    require(actor, Action.CHANGE_SETTINGS)
    technician = locked(technician_id, version)
    if valid_from < local_day(int(now.timestamp()), time_zone()):
        raise Rejected("What was worked stays as it was: begin today or later.", field="valid_from")
    if technician.employed_from and valid_from < technician.employed_from:
        raise Rejected(f"{technician.name} begins on {technician.employed_from.isoformat()}.", field="valid_from")
    if technician.employed_until and valid_from > technician.employed_until:
        raise Rejected(
            f"The last day of {technician.name} is {technician.employed_until.isoformat()}.", field="valid_from"
        )
    _check_rotation(shifts, weeks)
    rows = WeeklyShiftRow.objects.filter(technician=technician)
    rows.filter(valid_from__gte=valid_from).delete()
    rows.filter(valid_until__isnull=True).update(valid_until=valid_from)
    rows.filter(valid_until__gt=valid_from).update(valid_until=valid_from)
    WeeklyShiftRow.objects.bulk_create(
        WeeklyShiftRow(technician=technician, valid_from=valid_from, weeks=weeks, **vars(shift)) for shift in shifts
    )
    _end_hours(technician)
    technician.version += 1
    technician.save(update_fields=["version"])
    tell(actor, now, technician, f"set the working hours of {technician.name} from {valid_from.isoformat()} on")
    return technician


@transaction.atomic
def set_skill(
    *, actor: Actor, now: datetime, technician_id: int, version: int, code: str, level: int | None
) -> Technician:
    """How well somebody can do one thing; None: not at all.

    Raises
    ------
    Rejected
        For a skill that is not known, or no level from 1 to 5.
    """
    require(actor, Action.CHANGE_SETTINGS)
    technician = locked(technician_id, version)
    skill = Skill.objects.filter(code=code).first()
    if skill is None:
        raise Rejected(f"There is no skill “{code}”.", field="code")
    if level is not None and not 1 <= level <= 5:
        raise Rejected("A level is 1 to 5.", field="level")
    held = TechnicianSkill.objects.filter(technician=technician, skill=skill)
    held.delete()
    if level is not None:
        TechnicianSkill.objects.create(technician=technician, skill=skill, level=level)
    technician.version += 1
    technician.save(update_fields=["version"])
    what = "is removed" if level is None else f"is at level {level}"
    tell(actor, now, technician, f"{skill.name} of {technician.name} {what}")
    return technician


@transaction.atomic
def set_employment(
    *, actor: Actor, now: datetime, technician_id: int, version: int, first_day: date | None, last_day: date | None
) -> Technician:
    """From when until when somebody is employed. After the last day there are no working hours; what is placed there
    stays, and says so. A last day that is taken back gives no hours back: they are set again.

    Raises
    ------
    Rejected
        For a last day before the first one, or one that would take back hours that were worked.
    """
    require(actor, Action.CHANGE_SETTINGS)
    technician = locked(technician_id, version)
    if first_day and last_day and last_day < first_day:
        raise Rejected("The last day lies before the first one.", field="employed_until")
    yesterday = local_day(int(now.timestamp()), time_zone()) - timedelta(days=1)
    if last_day and last_day != technician.employed_until and last_day < yesterday:
        raise Rejected("What was worked stays as it was: the last day is yesterday or later.", field="employed_until")
    technician.employed_from, technician.employed_until = first_day, last_day
    technician.version += 1
    technician.save(update_fields=["employed_from", "employed_until", "version"])
    _end_hours(technician)
    said = f"until {last_day.isoformat()}" if last_day else "for good"
    tell(actor, now, technician, f"{technician.name} is employed {said}")
    return technician


def _end_hours(technician: Technician) -> None:
    """Nobody works after their last day."""
    if technician.employed_until is None:
        return
    after = technician.employed_until + timedelta(days=1)
    rows = WeeklyShiftRow.objects.filter(technician=technician)
    rows.filter(valid_from__gte=after).delete()
    rows.filter(Q(valid_until__isnull=True) | Q(valid_until__gt=after)).update(valid_until=after)


def locked(technician_id: int, version: int) -> Technician:
    """The technician as it was seen, locked."""
    technician = Technician.objects.select_for_update().filter(pk=technician_id).first()
    if technician is None:
        raise NotFound("There is no such technician.", code="no_technician")
    if technician.version != version:
        newest = audit.since("technician", technician_id, version)
        who = f"{newest[0].actor_name} has" if newest else "Somebody has"
        raise Conflict(f"{who} changed this technician meanwhile.", current_version=technician.version)
    return technician


def _write(technician: Technician, fields: TechnicianFields) -> None:
    name = " ".join(fields.name.split())
    if not name:
        raise Rejected("A technician needs a name.", field="name")
    if Technician.objects.filter(name__iexact=name).exclude(pk=technician.pk).exists():
        raise Rejected(f"There is a technician called {name} already: add something to tell them apart.", field="name")
    if not Depot.objects.filter(pk=fields.depot_id).exists():
        raise Rejected("Choose the depot where the day begins and ends.", field="depot_id")
    if fields.email and "@" not in fields.email:
        raise Rejected(f"“{fields.email}” is no e-mail address.", field="email")
    areas = list(Area.objects.filter(pk__in=fields.area_ids))
    if len(areas) != len(set(fields.area_ids)):
        raise Rejected("There is no such area (any more).", field="area_ids")
    technician.name, technician.phone, technician.email = name, fields.phone.strip(), fields.email.strip()
    technician.depot_id = fields.depot_id
    technician.version += 1
    technician.save()
    technician.areas.set(areas)
    _write_skills(technician, fields)


def _write_skills(technician: Technician, fields: TechnicianFields) -> None:
    if any(not 1 <= level <= 5 for level in fields.skills.values()):
        raise Rejected("A level is 1 to 5.", field="skills")
    known = {row.code: row for row in Skill.objects.filter(code__in=fields.skills)}
    if unknown := sorted(fields.skills.keys() - known.keys()):
        raise Rejected(f"There is no skill “{unknown[0]}”.", field="skills")
    TechnicianSkill.objects.filter(technician=technician).delete()
    TechnicianSkill.objects.bulk_create(
        TechnicianSkill(technician=technician, skill=known[code], level=level)
        for code, level in sorted(fields.skills.items())
    )


def _check_rotation(shifts: Sequence[ShiftFields], weeks: int) -> None:
    if not 1 <= weeks <= MOST_WEEKS:
        raise Rejected(f"Up to {MOST_WEEKS} weeks follow each other in turn.", field="weeks")
    if any(not 0 <= shift.week < weeks for shift in shifts):
        raise Rejected("A shift is in a week that there is not.", field="shifts")
    by_week = [[_weekly(shift) for shift in shifts if shift.week == number] for number in range(weeks)]
    if problem := problem_of_rotation(by_week):
        raise Rejected(f"{problem}.", field="shifts")


def _weekly(shift: ShiftFields) -> WeeklyShift:
    rest = None
    if shift.rest_minutes and shift.rest_earliest and shift.rest_latest:
        rest = BreakRule(earliest=shift.rest_earliest, latest=shift.rest_latest, seconds=60 * shift.rest_minutes)
    gap = (shift.gap_start, shift.gap_end) if shift.gap_start and shift.gap_end else None
    try:
        return WeeklyShift(
            weekday=shift.weekday, start=shift.start, end=shift.end, rest=rest, gap=gap,
            overtime_limit=60 * shift.overtime_minutes, on_call_until=shift.on_call_until,
        )  # fmt: skip
    except ValueError as error:
        raise Rejected(f"{error}.", field="shifts") from error


def tell(actor: Actor, now: datetime, technician: Technician, sentence: str, **changes: Any) -> None:
    """Note it in the history, and tell who looks at technicians."""
    audit.record(
        actor=actor, now=now, action="technician", entity="technician", entity_id=technician.pk,
        version=technician.version, sentence=sentence, **changes,
    )  # fmt: skip
    live.announce("technician", ids=[technician.pk], technicians=[technician.pk])
