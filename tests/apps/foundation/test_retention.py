"""What nobody asks for any more is thrown away at night; the rest stays."""

from datetime import timedelta

import pytest
from asgiref.sync import async_to_sync
from django.contrib.sessions.models import Session
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.customers import importing
from apps.customers.models import CustomerFile
from apps.open_work import commands as open_work
from apps.open_work.models import OpenWorkFile
from apps.scheduling.commands.runs import retire
from apps.scheduling.models import PlanningRun
from foundation import clock, tasks
from foundation.errors import NotFound
from tests.apps.scheduling.test_runs import a_run

pytestmark = pytest.mark.django_db


def test_a_proposal_is_kept_for_a_season_and_its_run_for_good(world, dispatcher):
    world.visit()
    run = a_run(dispatcher, kind="fill")
    assert retire(now=clock.now() + timedelta(days=89)) == 0
    assert retire(now=clock.now() + timedelta(days=91)) == 1
    assert PlanningRun.objects.get(pk=run["id"]).proposal is None
    answer = dispatcher.post(f"/runs/{run['id']}/accept", {"visit_ids": [1]})
    assert answer.json()["code"] == "no_proposal"


def test_files_of_open_work_are_emptied_once_brought_in_and_dropped_when_left(world):
    account, now = world.accounts["dispatcher"], clock.now()
    files = [
        OpenWorkFile.objects.create(
            name=name, text="customer\n", uploaded_at=now, uploaded_by=account, accepted_at=done
        )
        for name, done in (("done.csv", now), ("left.csv", None))
    ]
    assert open_work.retire(now=now + timedelta(days=29)) == 0
    assert open_work.retire(now=now + timedelta(days=31)) == 2
    assert OpenWorkFile.objects.get(pk=files[0].pk).text == ""
    assert not OpenWorkFile.objects.filter(pk=files[1].pk).exists()


def test_customers_files_are_emptied_a_season_after_they_ended_and_dropped_when_left(world, as_role):
    account, now = world.accounts["dispatcher"], clock.now()

    def file(name, state, ended=None):
        return CustomerFile.objects.create(
            kind="customers", name=name, text="name\nSeagate\n", state=state, uploaded_at=now, uploaded_by=account,
            ended_at=ended, counts={"new": 1}, rows=[{"line": 2}],
        )  # fmt: skip

    done, left, working = file("done.csv", "done", now), file("left.csv", "read"), file("big.csv", "importing")
    assert importing.retire(now=now + timedelta(days=29)) == 0
    assert importing.retire(now=now + timedelta(days=89)) == 1  # the one that was only looked at
    assert importing.retire(now=now + timedelta(days=91)) == 1
    assert not CustomerFile.objects.filter(pk=left.pk).exists()
    done.refresh_from_db()
    assert (done.text, done.rows, done.counts) == ("", [], {"new": 1})
    working.refresh_from_db()
    assert working.text
    with pytest.raises(NotFound, match="90 days"):
        list(importing.refused_rows(done.pk))


def test_sessions_that_ended_go_and_open_ones_stay():
    for key, days in (("gone", -1), ("open", 1)):
        Session.objects.create(session_key=key, session_data="", expire_date=timezone.now() + timedelta(days=days))
    tasks.retire_sessions(0)
    assert list(Session.objects.values_list("session_key", flat=True)) == ["open"]


def test_jobs_are_retired_by_the_queue_s_own_rule(monkeypatch):
    asked = []

    async def note(**words):
        asked.append(words)

    monkeypatch.setattr(app.job_manager, "delete_old_jobs", note)
    async_to_sync(tasks.retire_jobs.func)(0)
    assert asked == [{"nb_hours": 24 * tasks.JOB_DAYS}]
    assert ProcrastinateJob.objects.count() == 0
