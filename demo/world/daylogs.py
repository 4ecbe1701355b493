"""Technicians' days of the last weeks: on and off the clock, breaks, odometers, fuel; a few with something missing."""

from collections import defaultdict
from datetime import date, datetime, timedelta
from uuid import uuid4

import numpy as np

from apps.daylogs.models import DayLog, Explained, Fuel, Pause
from apps.orders.models import Assignment
from core.calendars import local_day
from demo.world.week import Week
from foundation.moments import to_datetime

DAYS = 28
SAID = ("Ate in the van between two visits.", "The shop had no receipt printer.", "Stood in the ferry queue.")


def make_day_logs(week: Week, dice: np.random.Generator) -> None:
    """A log for each day on which somebody worked, from what was stamped at its visits."""
    first = to_datetime(week.now) - timedelta(days=DAYS)
    rows = Assignment.objects.filter(departed_at__gte=first).select_related("technician__vehicle")
    worked: defaultdict[tuple[int, date], list[Assignment]] = defaultdict(list)
    for row in rows.order_by("technician_id", "departed_at"):
        if row.departed_at is not None:
            day = local_day(int(row.departed_at.timestamp()), week.tz)
            worked[row.technician_id, day].append(row)
    odometers: dict[int, int] = {}
    for (technician_id, day), stamps in sorted(worked.items()):
        _make(week, dice, technician_id, day, stamps, odometers)


def _make(
    week: Week, dice: np.random.Generator, technician_id: int, day: date, stamps: list[Assignment],
    odometers: dict[int, int],
) -> None:  # fmt: skip
    begun = odometers.setdefault(technician_id, int(dice.integers(18_000, 140_000)))
    driven = int(dice.integers(18, 96))
    odometers[technician_id] = begun + driven
    began = stamps[0].departed_at
    assert began is not None  # asked for
    began -= timedelta(minutes=int(dice.integers(6, 25)))
    today, luck = day == week.today, dice.random()
    last = max(row.finished_at or row.arrived_at or row.departed_at or began for row in stamps)
    vehicle = stamps[0].technician.vehicle
    log = DayLog.objects.create(
        technician_id=technician_id, day=day, began_at=began, began_typed=bool(luck < 0.05), vehicle=vehicle,
        odometer_began=begun if vehicle else None, odometer_ended=None if today or not vehicle else begun + driven,
        ended_at=None if today or luck > 0.96 else last + timedelta(minutes=int(dice.integers(10, 40))),
        checks={"tyres": True, "lights": bool(dice.random() > 0.04), "first_aid": True} if vehicle else {},
    )  # fmt: skip
    if last - began > timedelta(hours=5):
        _pause(log, began, dice)
    if vehicle and dice.random() < 0.15:
        _fuel(log, last, dice)
    if log.ended_at is None and not today and luck > 0.98:
        Explained.objects.create(log=log, key="no end", words="Forgot to press it; left at five.", at=last)


def _pause(log: DayLog, began: datetime, dice: np.random.Generator) -> None:
    since = began + timedelta(minutes=int(dice.integers(190, 260)))
    Pause.objects.create(log=log, since=since, until=since + timedelta(minutes=int(dice.choice([30, 30, 35, 45]))))


def _fuel(log: DayLog, at: datetime, dice: np.random.Generator) -> None:
    litres = int(dice.integers(250, 620))
    Fuel.objects.create(id=uuid4(), log=log, at=at, millilitres=litres * 100, amount=round(litres * 16.7))
    Explained.objects.create(
        log=log, key="no receipt", words=SAID[int(dice.integers(len(SAID)))] if dice.random() < 0.5 else SAID[1], at=at
    )
