"""The company of the demo and its running week."""

from collections import Counter

import pytest
from django.core.management import CommandError, call_command

from apps.catalogue.models import JobType
from apps.company.queries import time_zone
from apps.customers.models import Asset, Customer, Site
from apps.orders import queries as order_queries
from apps.orders.models import Visit
from apps.people.models import Technician
from apps.scheduling.schedule import safety, schedule
from core.calendars import local_day
from core.scheduling import Lamp
from foundation import clock

pytestmark = pytest.mark.usefixtures("demo")


def test_the_world_is_as_large_as_promised_and_runs():
    assert Technician.objects.count() == 24
    assert Customer.objects.count() == 180
    assert Site.objects.count() == 300
    assert Asset.objects.count() == 700
    assert JobType.objects.count() == 25
    assert Visit.objects.in_backlog().count() == 60 - 1  # the last one waits no more: a crew has it tomorrow

    board = schedule(first=local_day(int(clock.now().timestamp()), time_zone()), now=clock.now())
    states = Counter(visit.state for visit in board.visits)
    assert states["done"] > 20
    assert states["on_site"] > 5
    assert states["accepted"] > 20
    assert Lamp.BROKEN in [shown for shown, _chance in safety(board).values()]  # somebody is late


def test_yesterday_is_finished_and_the_days_ahead_are_partly_full():
    now = clock.now()
    yesterday = Visit.objects.exclude(state="reviewed").filter(start__lt=now.replace(hour=1))
    past = yesterday.values_list("state", flat=True)
    ahead = Visit.objects.filter(start__gt=now.replace(hour=23)).values_list("state", flat=True)
    assert len(past) > 50
    assert set(past) == {"done"}
    assert len(ahead) > 50
    assert set(ahead) <= {"placed", "sent", "accepted"}


def test_a_year_of_finished_visits_teaches_who_takes_how_long():
    assert Visit.objects.filter(state="reviewed").count() == 3000
    jobs = {job.name: job.pk for job in JobType.objects.all()}
    learned = order_queries.learned_lengths(jobs.values())
    assert len(learned) > 15
    upkeep = learned[jobs["Monthly upkeep"]]
    assert upkeep.count > 100
    assert len(upkeep.for_duration(3600)) > 3  # some are quicker, some slower


def test_data_that_is_no_demo_is_never_thrown_away(settings):
    settings.DEMO = False
    with pytest.raises(CommandError, match="not a demo"):
        call_command("load_demo")
