"""The demo is equally rich on whatever day it is loaded: what the journeys and the pictures rely on."""

from collections import Counter
from datetime import date

import pytest

from apps.board.models import Reminder
from apps.company.queries import time_zone
from apps.customers.models import Site
from apps.intake.models import Request
from apps.messages.models import Message
from apps.orders.models import Visit
from apps.people.models import Absence, Certificate, Technician
from apps.scheduling.planner import world as planner_world
from apps.scheduling.schedule import safety, schedule
from apps.stock.models import Level
from core.calendars import local_day, local_time
from core.scheduling import Lamp
from demo.world.load import load
from foundation import clock
from tests.demo.conftest import WEDNESDAY

pytestmark = pytest.mark.usefixtures("demo")

LOADED_ON = (
    # The middle of a week, and a Sunday that opens on the end of a month; a Friday is loaded below.
    WEDNESDAY,
    date(2026, 11, 29),
    date(2026, 10, 23),  # clocks go back in the weekend to come
    date(2027, 3, 26),  # clocks go forward in the weekend to come
)
FIRST_SHOWN = 12


@pytest.mark.parametrize("day", LOADED_ON, ids=str)
def test_the_demo_is_as_rich_on_any_day(day):
    if day != WEDNESDAY:
        load(on=day)
    today = local_day(int(clock.now().timestamp()), time_zone())
    assert today.weekday() < 5
    assert 0 <= (today - day).days <= 2
    assert str(local_time(int(clock.now().timestamp()), time_zone())).startswith("10:4")

    board = schedule(first=today, now=clock.now())
    states = Counter(visit.state for visit in board.visits)
    assert states["done"] > 20
    assert states["on_site"] > 5
    assert states["accepted"] > 20
    assert states["en_route"] >= 1
    assert states["on_hold"] >= 1
    lamps = [shown for shown, _chance in safety(board).values()]
    assert {Lamp.BROKEN, Lamp.WATCH, Lamp.DARK} <= set(lamps)

    backlog = list(Visit.objects.in_backlog())
    promised = [visit for visit in backlog if visit.promise_start]
    assert len(backlog) == 59
    assert len(promised) == 9
    assert any(visit.duration_seconds is None for visit in backlog)
    assert any(visit.due and visit.due < clock.now() for visit in backlog)
    assert any(visit.crew > 1 for visit in Visit.objects.filter(start__gt=clock.now()))
    assert Visit.objects.exclude(standby=None).exclude(standby={}).exists()

    assert Counter(Request.objects.values_list("channel", flat=True)) >= Counter(phone=4, web=1, alarm=1)
    assert Message.objects.filter(state="delivered", visit__isnull=False).count() > 50
    assert Message.objects.filter(state="failed").count() == 1
    assert not Message.objects.filter(state="queued").exists()
    assert Absence.objects.exists()
    assert Reminder.objects.filter(at__gte=clock.now().replace(hour=1)).count() >= 3
    assert Certificate.objects.filter(valid_until__lt=today).exists()


def test_most_of_what_waits_first_can_be_taken_by_somebody():
    today = local_day(int(clock.now().timestamp()), time_zone())
    waiting = [visit for visit in Visit.objects.in_backlog().order_by("promise_start", "id") if visit.duration_seconds]
    takers = [
        planner_world.openings(visit_id=visit.pk, first=today, days=5, playbook_id=None)["possible"]
        for visit in waiting[:FIRST_SHOWN]
    ]
    assert sum(possible > 0 for possible in takers) >= FIRST_SHOWN * 3 // 4


def fingerprint() -> tuple[list[tuple[object, ...]], ...]:
    tz = time_zone()
    work = Visit.objects.exclude(state="reviewed").select_related("order").order_by("id")
    return (
        list(Technician.objects.order_by("id").values_list("name", "depot__name", "portrait")),
        list(Site.objects.order_by("id").values_list("name", "address", "lon", "lat")),
        list(Level.objects.order_by("place", "part").values_list("place", "part__code", "quantity", "least", "target")),
        [
            (v.order.title, v.state, v.technician_id, v.start and str(local_time(int(v.start.timestamp()), tz)))
            for v in work
        ],
    )


def test_it_comes_out_the_same_again_and_a_weekend_shifts_nothing_but_the_dates():
    """The same people do the same work at the same hour, whether tomorrow is a Thursday or the Monday after."""
    wednesday = fingerprint()
    load(on=date(2026, 11, 27))
    assert fingerprint() == wednesday
