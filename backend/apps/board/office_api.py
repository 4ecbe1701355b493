"""HTTP: reminders of people: of a desk, or of a technician, on whose line they stand too."""

from datetime import date, datetime, time, timedelta
from typing import Literal

from django.http import HttpRequest
from ninja import Router, Status

from apps.board import commands, queries
from apps.board.office_schemas import OfficeReminderChangeIn, OfficeReminderOut, OwnReminderIn
from apps.company.queries import time_zone
from apps.customers.schemas import NamedOut
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import Rejected
from foundation.schemas import Key

router = Router()
SEE = Needs(Action.SEE_ORDERS)


@router.get("/office-reminders", response=list[OfficeReminderOut], auth=SEE)
def to_think_of(
    request: HttpRequest, whose: Literal["mine", "everybody"] = "mine", due: bool = False, first: date | None = None,
    last: date | None = None,
) -> list[OfficeReminderOut]:  # fmt: skip
    """What is to be thought of and not done, the earliest first; `due`: only what is of today or before; else of the
    days from `first` to `last`, where they are named."""
    account_id = actor_of(request).id if whose == "mine" else None
    until = clock.now().astimezone(time_zone()).date() if due else last
    rows = queries.to_think_of(
        account_id=account_id, since=_midnight(first) if first else None, before=_midnight(until, 1) if until else None
    )
    return [OfficeReminderOut.of(row) for row in rows]


def _midnight(day: date, later: int = 0) -> datetime:
    """The first moment of a day, or so many days later, by the company's clock.

    Raises
    ------
    Rejected
        For a day that no calendar has.
    """
    try:
        return datetime.combine(day + timedelta(days=later), time(), time_zone())
    except OverflowError as error:
        raise Rejected("Choose a day nearer to today.", field="last") from error


@router.get("/office-reminders/people", response=list[NamedOut], auth=SEE)
def people(request: HttpRequest) -> list[NamedOut]:
    """Who can be reminded: everybody who comes in, by name."""
    return [NamedOut(id=key, name=name) for key, name in queries.people_to_remind()]


@router.get("/office-reminders/of/order/{int:order_id}", response=list[OfficeReminderOut], auth=SEE)
def of_order(request: HttpRequest, order_id: Key) -> list[OfficeReminderOut]:
    """Reminders about an order, done ones too."""
    return [OfficeReminderOut.of(row) for row in queries.reminders_about("order", order_id)]


@router.post("/office-reminders", response={201: OfficeReminderOut}, auth=SEE)
def think_of(request: HttpRequest, body: OwnReminderIn) -> Status[OfficeReminderOut]:
    """Something to think of, for oneself or somebody else."""
    row = commands.think_of(actor=actor_of(request), now=clock.now(), **body.dict())
    return Status(201, OfficeReminderOut.of(row))


@router.put("/office-reminders/{int:reminder_id}", response=OfficeReminderOut, auth=SEE)
def settle(request: HttpRequest, reminder_id: Key, body: OfficeReminderChangeIn) -> OfficeReminderOut:
    """Another moment or text, or done with."""
    row = commands.settle_reminder(actor=actor_of(request), now=clock.now(), reminder_id=reminder_id, **body.dict())
    return OfficeReminderOut.of(row)
