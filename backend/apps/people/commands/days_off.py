"""Days off: asked for from the phone, granted or declined at the desk."""

from datetime import date, datetime, timedelta

from django.db import transaction
from django.db.models import Q

from apps.company.queries import time_zone
from apps.people.commands.absences import note_absence
from apps.people.models import Absence, DaysAsked
from apps.people.reach import check_technicians
from core.calendars import day_interval, local_day
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

MOST_DAYS, AHEAD_DAYS = 92, 730


@transaction.atomic
def ask_for_days(
    *, actor: Actor, now: datetime, first_day: date, last_day: date, kind: str, words: str = ""
) -> DaysAsked:
    """Ask for whole days off, for oneself.

    Raises
    ------
    Rejected
        For days that are over, too many or too far, or that were asked for already.
    """
    require(actor, Action.WORK_IN_FIELD)
    if actor.technician_id is None:
        raise Rejected("Your account belongs to no technician.")
    today = local_day(int(now.timestamp()), time_zone())
    if kind not in dict(Absence.KINDS):
        raise Rejected("Say what for.", field="kind")
    if first_day < today:
        raise Rejected("That day is over.", field="first_day")
    if last_day < first_day:
        raise Rejected("The last day lies before the first one.", field="last_day")
    if (last_day - first_day).days >= MOST_DAYS or (last_day - today).days > AHEAD_DAYS:
        raise Rejected(f"Ask for at most {MOST_DAYS} days, within the next two years.", field="last_day")
    held = Q(state="asked") | Q(state="granted", absence__isnull=False)
    asked = DaysAsked.objects.filter(held, technician_id=actor.technician_id)
    if asked.filter(first_day__lte=last_day, last_day__gte=first_day).exists():
        raise Rejected("You have asked for some of these days already.", field="first_day")
    row = DaysAsked.objects.create(
        technician_id=actor.technician_id, first_day=first_day, last_day=last_day, kind=kind,
        words=words.strip()[:300], asked_at=now,
    )  # fmt: skip
    _tell(actor, now, row, f"asked for days off from {first_day} to {last_day}")
    return row


@transaction.atomic
def withdraw_days(*, actor: Actor, now: datetime, asked_id: int) -> DaysAsked:
    """Take back what one has asked for, while nobody has answered."""
    require(actor, Action.WORK_IN_FIELD)
    row = _waiting(asked_id)
    if row.technician_id != actor.technician_id:
        raise NotFound("There is no such request.", code="no_request")
    return _settle(actor, now, row, "withdrawn", "")


@transaction.atomic
def grant_days(*, actor: Actor, now: datetime, asked_id: int, answer: str = "") -> DaysAsked:
    """Grant days off: they are an absence from midnight to midnight. What is placed then stays, and says so."""
    require(actor, Action.PLAN)
    row = _waiting(asked_id)
    start, end = span_of(row)
    row.absence = note_absence(
        actor=actor, now=now, technician_id=row.technician_id, start=start, end=end, reason=row.kind, kind=row.kind
    )
    return _settle(actor, now, row, "granted", answer)


@transaction.atomic
def decline_days(*, actor: Actor, now: datetime, asked_id: int, answer: str) -> DaysAsked:
    """Decline, with a reason that the technician reads."""
    require(actor, Action.PLAN)
    if not answer.strip():
        raise Rejected("Say why: the technician reads it.", field="answer")
    row = _waiting(asked_id)
    check_technicians(actor, [row.technician_id])
    return _settle(actor, now, row, "declined", answer)


def span_of(row: DaysAsked) -> tuple[int, int]:
    """From when until when (epoch seconds), by the company's clock."""
    tz = time_zone()
    return day_interval(row.first_day, tz).start, day_interval(row.last_day + timedelta(days=1), tz).start


def _waiting(asked_id: int) -> DaysAsked:
    row = DaysAsked.objects.select_for_update(of=("self",)).select_related("technician").filter(pk=asked_id).first()
    if row is None:
        raise NotFound("There is no such request.", code="no_request")
    if row.state != "asked":
        who = f" by {row.answered_by}" if row.answered_by else ""
        raise Conflict(f"It is {row.state}{who} already.", code="answered")
    return row


def _settle(actor: Actor, now: datetime, row: DaysAsked, state: str, answer: str) -> DaysAsked:
    row.state, row.answered_at, row.answered_by, row.answer = state, now, actor.name, answer.strip()[:300]
    row.save()
    _tell(actor, now, row, f"{state} the days off from {row.first_day} to {row.last_day}")
    return row


def _tell(actor: Actor, now: datetime, row: DaysAsked, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action="days off", entity="technician", entity_id=row.technician_id, sentence=sentence
    )
    live.announce("technician", ids=[row.technician_id], technicians=[row.technician_id])
