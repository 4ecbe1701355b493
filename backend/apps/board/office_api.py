"""HTTP: reminders of people in the office."""

from datetime import datetime, time, timedelta
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
from foundation.schemas import Key

router = Router()
SEE = Needs(Action.SEE_ORDERS)


@router.get("/office-reminders", response=list[OfficeReminderOut], auth=SEE)
def to_think_of(
    request: HttpRequest, whose: Literal["mine", "everybody"] = "mine", due: bool = False
) -> list[OfficeReminderOut]:
    """What is to be thought of and not done, the earliest first; `due`: only what is of today or before."""
    account_id = actor_of(request).id if whose == "mine" else None
    rows = queries.to_think_of(account_id=account_id, before=_tomorrow() if due else None)
    return [OfficeReminderOut.of(row) for row in rows]


def _tomorrow() -> datetime:
    """The first moment of tomorrow, by the company's clock."""
    local = clock.now().astimezone(time_zone())
    return datetime.combine(local.date() + timedelta(days=1), time(), local.tzinfo)


@router.get("/office-reminders/people", response=list[NamedOut], auth=SEE)
def people(request: HttpRequest) -> list[NamedOut]:
    """Who can be reminded: everybody in the office, by name."""
    return [NamedOut(id=key, name=name) for key, name in queries.people_in_office()]


@router.get("/office-reminders/of/order/{int:order_id}", response=list[OfficeReminderOut], auth=SEE)
def of_order(request: HttpRequest, order_id: Key) -> list[OfficeReminderOut]:
    """Reminders about an order, done ones too."""
    return [OfficeReminderOut.of(row) for row in queries.reminders_about("order", order_id)]


@router.post("/office-reminders", response={201: OfficeReminderOut}, auth=SEE)
def think_of(request: HttpRequest, body: OwnReminderIn) -> Status[OfficeReminderOut]:
    """Something to think of, for oneself or somebody else in the office."""
    row = commands.think_of(actor=actor_of(request), now=clock.now(), **body.dict())
    return Status(201, OfficeReminderOut.of(row))


@router.put("/office-reminders/{int:reminder_id}", response=OfficeReminderOut, auth=SEE)
def settle(request: HttpRequest, reminder_id: Key, body: OfficeReminderChangeIn) -> OfficeReminderOut:
    """Another moment or text, or done with."""
    row = commands.settle_reminder(actor=actor_of(request), now=clock.now(), reminder_id=reminder_id, **body.dict())
    return OfficeReminderOut.of(row)
