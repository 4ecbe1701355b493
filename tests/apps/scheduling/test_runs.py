"""Planning runs: asked for, computed by the planner, accepted whole or in part, undone in one step."""

import os
import re
import signal
import subprocess
import sys
import time
from datetime import date

import pytest
from asgiref.sync import async_to_sync
from django.conf import settings
from procrastinate.contrib.django import app as queue
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.company.models import Area
from apps.customers.models import Site
from apps.orders.models import Visit, WorkOrder
from apps.people.models import Absence
from apps.scheduling.commands.runs import QUEUE, RUN
from apps.scheduling.models import PlanningRun
from apps.scheduling.planner import world as planner_world
from apps.scheduling.planner.runs import MOST_TRIES, OPERATIONS, compute
from foundation.models import AuditEntry, UndoEntry
from foundation.moments import to_datetime
from ops.machine import free_port
from tests.apps.conftest import MONDAY, at

pytestmark = pytest.mark.django_db
TUESDAY = date(2026, 11, 24)


def a_run(api, kind="plan", day=MONDAY, seconds=0.3, **more):
    """Ask, compute at once, and give the run as the screen gets it."""
    answer = api.post("/runs", {"kind": kind, "day": day.isoformat(), "seconds": seconds, **more})
    assert answer.status_code == 200, answer.json()
    compute(answer.json()["id"])
    return api.get(f"/runs/{answer.json()['id']}").json()


def accept(api, run, *visits):
    ids = [visit.pk for visit in visits] or [change["visit_id"] for change in run["proposal"]["changes"]]
    return api.post(f"/runs/{run['id']}/accept", {"visit_ids": ids})


def test_a_run_is_queued_and_changes_nothing_by_itself(world, dispatcher):
    visit = world.visit()
    run = dispatcher.post("/runs", {"kind": "fill", "day": MONDAY.isoformat()}).json()
    assert run["state"] == "queued"
    assert ProcrastinateJob.objects.filter(queue_name=QUEUE, task_name=RUN, args={"run_id": run["id"]}).exists()
    compute(run["id"])
    visit.refresh_from_db()
    assert visit.state == "open"
    assert dispatcher.get(f"/runs/{run['id']}").json()["state"] == "done"


def test_the_proposal_names_who_when_and_why(world, dispatcher):
    world.visit(promise_start=to_datetime(at(13)), promise_end=to_datetime(at(15)))
    [change] = a_run(dispatcher)["proposal"]["changes"]
    assert change["kind"] == "place"
    assert change["after"][0]["technician"] in ("Ines Falk", "Ivor Larkin")
    assert at(13) <= change["after"][0]["start"] <= at(15)
    assert change["after"][0]["start"] % 300 == 0
    assert any(reason.startswith("Inside the promise") for reason in change["reasons"])


def test_accepting_places_the_visits_and_one_undo_takes_all_back(world, dispatcher):
    visits = [world.visit() for _ in range(3)]
    run = a_run(dispatcher)
    answer = accept(dispatcher, run)
    assert answer.status_code == 200, answer.json()
    assert sorted(answer.json()["changed"]) == sorted(visit.pk for visit in visits)
    assert set(Visit.objects.values_list("state", flat=True)) == {"placed"}
    undone = dispatcher.post("/board/undo").json()
    assert undone["sentence"] == "3 changes made in one step"
    assert set(Visit.objects.values_list("state", flat=True)) == {"open"}
    assert dispatcher.post("/board/undo").status_code == 404
    assert dispatcher.post("/board/redo").status_code == 200
    assert set(Visit.objects.values_list("state", flat=True)) == {"placed"}


def test_undo_of_a_proposal_is_all_or_nothing(world, dispatcher, as_role):
    visits = [world.visit() for _ in range(2)]
    accept(dispatcher, a_run(dispatcher))
    visits[0].refresh_from_db()
    as_role("other").post(f"/visits/{visits[0].pk}/send", {"version": visits[0].version})
    answer = dispatcher.post("/board/undo")
    assert answer.status_code == 409
    assert "has gone on since" in answer.json()["title"]
    visits[1].refresh_from_db()
    assert visits[1].state == "placed"


def test_a_part_is_accepted_with_what_it_needs(world, dispatcher):
    one, two = world.visit(), world.visit()
    run = a_run(dispatcher)
    assert accept(dispatcher, run, one).json()["changed"] == [one.pk]
    two.refresh_from_db()
    assert two.state == "open"
    shown = dispatcher.get(f"/runs/{run['id']}").json()["proposal"]["changes"]
    assert {change["visit_id"]: change["taken"] for change in shown} == {one.pk: True, two.pk: False}


def test_a_visit_that_changed_meanwhile_stops_the_acceptance(world, dispatcher, as_role):
    visit = world.visit()
    run = a_run(dispatcher)
    body = {"version": 1, "technician_id": world.ivor.pk, "start": at(14)}
    as_role("other").post(f"/visits/{visit.pk}/place", body)
    answer = accept(dispatcher, run)
    assert answer.status_code == 409
    assert "Other Dispatcher" in answer.json()["title"]
    visit.refresh_from_db()
    assert visit.start == to_datetime(at(14))


def test_a_day_that_filled_up_meanwhile_refuses_the_part(world, dispatcher, as_role):
    world.visit(duration_seconds=4 * 3600, needs={"doors": 3})
    Absence.objects.create(technician=world.ivor, start=to_datetime(at(0)), end=to_datetime(at(23)))
    run = a_run(dispatcher)
    assert run["proposal"]["changes"]
    world.placed(11, duration_seconds=4 * 3600)
    answer = accept(dispatcher, run)
    assert answer.status_code == 422
    assert "no longer holds" in answer.json()["title"]
    assert UndoEntry.objects.count() == 0


def test_a_proposal_is_accepted_once(world, dispatcher):
    world.visit()
    run = a_run(dispatcher)
    assert accept(dispatcher, run).status_code == 200
    assert accept(dispatcher, run).status_code == 422


def test_what_was_sent_does_not_move(world, dispatcher):
    sent = world.placed(13, state="sent")
    world.visit(promise_start=to_datetime(at(13)), promise_end=to_datetime(at(13, 30)))
    run = a_run(dispatcher)
    assert sent.pk not in [change["visit_id"] for change in run["proposal"]["changes"]]


def test_repair_moves_the_work_of_somebody_who_is_ill_even_when_it_was_sent(world, dispatcher):
    sent = world.placed(13, state="sent")
    Absence.objects.create(technician=world.ines, start=to_datetime(at(8)), end=to_datetime(at(17)))
    [change] = a_run(dispatcher, kind="repair")["proposal"]["changes"]
    assert change["visit_id"] == sent.pk
    assert change["after"][0]["technician"] == "Ivor Larkin"


def test_improve_needs_to_know_whose_day(world, dispatcher):
    answer = dispatcher.post("/runs", {"kind": "improve", "day": MONDAY.isoformat()})
    assert answer.status_code == 422
    assert "say whose" in answer.json()["title"]
    run = a_run(dispatcher, kind="improve", technician_id=world.ines.pk)
    assert run["proposal"]["changes"] == []


@pytest.mark.parametrize("body", [{"seconds": 0}, {"days": 40}, {"kind": "magic"}, {"technician_id": 999}])
def test_a_wish_that_makes_no_sense_is_refused(world, dispatcher, body):
    answer = dispatcher.post("/runs", {"kind": "fill", "day": MONDAY.isoformat(), **body})
    assert answer.status_code in (404, 422)
    assert PlanningRun.objects.count() == 0


def test_what_stays_has_a_reason(world, dispatcher):
    world.visit(needs={"rescue": 3})
    world.visit(duration_seconds=None)
    world.visit(promise_start=to_datetime(at(9, day=TUESDAY)), promise_end=to_datetime(at(10, day=TUESDAY)))
    reasons = [row["reasons"] for row in a_run(dispatcher)["proposal"]["unserved"]]
    assert ["2 of 2 technicians: Rescue 3 is needed"] in reasons
    assert ["No duration yet: give one before planning it"] in reasons
    assert ["It is promised for another day"] in reasons


def test_a_run_that_was_stopped_while_it_waited_is_not_computed(world, dispatcher):
    world.visit()
    run = dispatcher.post("/runs", {"kind": "plan", "day": MONDAY.isoformat()}).json()
    assert dispatcher.post(f"/runs/{run['id']}/stop").json()["state"] == "stopped"
    compute(run["id"])
    assert dispatcher.get(f"/runs/{run['id']}").json()["proposal"] is None


def test_a_running_one_stops_at_once_and_keeps_its_best(world, dispatcher):
    world.visit()
    run = dispatcher.post("/runs", {"kind": "plan", "day": MONDAY.isoformat(), "seconds": 60}).json()
    PlanningRun.objects.filter(pk=run["id"]).update(stop_asked=True)
    began = time.monotonic()
    compute(run["id"])
    assert time.monotonic() - began < 10
    found = dispatcher.get(f"/runs/{run['id']}").json()
    assert found["state"] == "stopped"
    assert len(found["proposal"]["changes"]) == 1


def test_a_run_that_killed_its_worker_twice_is_given_up(world, dispatcher):
    run = dispatcher.post("/runs", {"kind": "plan", "day": MONDAY.isoformat()}).json()
    PlanningRun.objects.filter(pk=run["id"]).update(state="running", tries=MOST_TRIES)
    compute(run["id"])
    found = dispatcher.get(f"/runs/{run['id']}").json()
    assert found["state"] == "failed"
    assert "stopped twice" in found["failure"]


def test_an_error_in_the_planner_is_told(world, dispatcher, monkeypatch):
    def broken(*_arguments, **_more):
        raise RuntimeError("the wheel came off")

    monkeypatch.setitem(OPERATIONS, "plan", broken)
    run = a_run(dispatcher)
    assert run["state"] == "failed"
    assert "the wheel came off" in run["failure"]


# --- openings -------------------------------------------------------------------------------------


def test_openings_are_ranked_with_reasons_and_the_others_excluded_with_theirs(world, dispatcher):
    visit = world.visit(needs={"doors": 3}, promise_start=to_datetime(at(13)), promise_end=to_datetime(at(15)))
    world.ivor.skills.all().delete()
    found = planner_world.openings(visit_id=visit.pk, first=MONDAY, days=1, playbook_id=None)
    [opening] = found["openings"]
    assert opening["seats"][0]["technician"] == "Ines Falk"
    assert at(13) <= opening["start"] <= at(15)
    [excluded] = found["excluded"]
    assert excluded == {
        "technician_id": world.ivor.pk,
        "technician": "Ivor Larkin",
        "reasons": ["Door drives 3 needed, Ivor Larkin has none"],
    }


def test_openings_follow_every_change_at_once(world, dispatcher):
    visit = world.visit(promise_start=to_datetime(at(13)), promise_end=to_datetime(at(13, 30)))
    assert len(planner_world.openings(visit_id=visit.pk, first=MONDAY, days=1, playbook_id=None)["openings"]) == 2
    other = world.visit(promise_start=to_datetime(at(13)), promise_end=to_datetime(at(13, 30)))
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(13)}
    assert dispatcher.post(f"/visits/{other.pk}/place", body).status_code == 200
    found = planner_world.openings(visit_id=visit.pk, first=MONDAY, days=1, playbook_id=None)
    assert [row["seats"][0]["technician"] for row in found["openings"]] == ["Ivor Larkin"]


def test_every_write_leaves_an_entry_by_which_the_world_is_renewed(world, dispatcher):
    before = AuditEntry.objects.count()
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(13)}
    dispatcher.post(f"/visits/{world.visit().pk}/place", body)
    assert AuditEntry.objects.count() > before


def test_without_a_planner_the_screen_is_told_so(world, dispatcher, settings):
    settings.PLANNER_URL = "http://127.0.0.1:9"
    answer = dispatcher.get(f"/visits/{world.visit().pk}/openings", day=MONDAY.isoformat())
    assert answer.status_code == 503
    assert answer.json()["code"] == "no_planner"


def test_the_web_process_never_loads_the_compiler():
    code = "import config.asgi, config.api, apps.scheduling.tasks, sys; assert 'numba' not in sys.modules"
    subprocess.run([sys.executable, "-c", code], check=True, env=os.environ | {"PYTHONPATH": "backend:."})


# --- the worker dies ------------------------------------------------------------------------------


def _planner(port: int) -> subprocess.Popen:
    parts = settings.DATABASES["default"]
    url = f"postgres://{parts['USER']}:{parts['PASSWORD']}@{parts['HOST']}:{parts['PORT']}/{parts['NAME']}"
    return subprocess.Popen(
        [sys.executable, "-m", "uvicorn", "config.planner:application", "--app-dir", "backend", "--port", str(port),
         "--host", "127.0.0.1", "--log-level", "warning"],
        env=os.environ | {"DATABASE_URL": url, "PYTHONPATH": "backend:."}, start_new_session=True,
    )  # fmt: skip


def _wait(run_id: int, *states: str, seconds: float = 60) -> str:
    deadline = time.monotonic() + seconds
    while time.monotonic() < deadline:
        state = PlanningRun.objects.values_list("state", flat=True).get(pk=run_id)
        if state in states:
            return state
        time.sleep(0.1)
    raise AssertionError(f"still {state}")


@pytest.mark.django_db(transaction=True)
def test_a_worker_killed_in_the_middle_leaves_nothing_half_done_and_another_one_finishes(world, dispatcher):
    visit = world.visit()
    # A Monday far ahead: the planner's processes go by the real clock.
    run = dispatcher.post("/runs", {"kind": "plan", "day": "2090-01-02", "seconds": 3}).json()
    first = _planner(free_port(18940))
    try:
        _wait(run["id"], "running")
        os.kill(first.pid, signal.SIGKILL)
        first.wait()
        assert PlanningRun.objects.get(pk=run["id"]).proposal is None
        visit.refresh_from_db()
        assert visit.state == "open"
        _hand_over()
        second = _planner(free_port(18950))
        try:
            assert _wait(run["id"], "done", "failed") == "done"
            found = PlanningRun.objects.get(pk=run["id"])
            assert found.tries == 2
            assert len(found.proposal["changes"]) == 1
        finally:
            second.terminate()
            second.wait()
    finally:
        if first.poll() is None:
            first.kill()


def _hand_over() -> None:
    """What the queue's own upkeep does once a worker has not been heard of for a minute."""

    async def retry() -> int:
        with queue.replace_connector(queue.connector.get_worker_connector()) as app:
            async with app.open_async():
                jobs = list(await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=0, queue=QUEUE))
                for job in jobs:
                    assert job.task_name == RUN
                    await app.job_manager.retry_job(job)
                return len(jobs)

    deadline = time.monotonic() + 20
    while time.monotonic() < deadline:
        if async_to_sync(retry)():
            return
        time.sleep(0.5)
    raise AssertionError("no stalled run was found")


def test_the_open_work_of_one_area_is_planned_alone(world, dispatcher):
    here, elsewhere = world.visit(), world.visit()
    other = Area.objects.exclude(pk=world.site.area_id).first()
    site = Site.objects.create(
        customer=world.customer, name="Far", address="x", lon=world.site.lon, lat=world.site.lat, area=other
    )
    WorkOrder.objects.filter(pk=elsewhere.order_id).update(site=site)
    run = a_run(dispatcher, area_id=world.site.area_id)
    assert [change["visit_id"] for change in run["proposal"]["changes"]] == [here.pk]


def test_an_area_in_which_nothing_waits_is_said(world, dispatcher):
    world.visit()
    empty = Area.objects.exclude(pk=world.site.area_id).first()
    answer = dispatcher.post("/runs", {"kind": "plan", "day": MONDAY.isoformat(), "area_id": empty.pk})
    assert answer.status_code == 422
    assert (answer.json()["field"], answer.json()["title"]) == ("area_id", f"Nothing waits in {empty.name}.")


def test_a_proposal_says_what_it_comes_to(world, dispatcher):
    world.visit()
    world.visit(promise_start=to_datetime(at(13)), promise_end=to_datetime(at(15)))
    proposal = a_run(dispatcher)["proposal"]
    before, after = proposal["before"], proposal["after"]
    assert (before["left"], before["promised_left"], before["drive_seconds"]) == (2, 1, 0)
    assert (after["left"], after["promised_left"], after["late"]) == (0, 0, 0)
    assert after["drive_seconds"] > 0
    assert after["drive_metres"] > 0


# --- overdue work -------------------------------------------------------------------------------------------


@pytest.mark.parametrize("late", [{"due": to_datetime(at(17, day=date(2026, 11, 18)))}, {
    "promise_start": to_datetime(at(8)), "promise_end": to_datetime(at(9))}], ids=["deadline", "promise"])  # fmt: skip
def test_what_is_overdue_is_offered_placed_without_a_reason_and_planned(world, dispatcher, late):
    visit = world.visit(**late)
    found = planner_world.openings(visit_id=visit.pk, first=MONDAY, days=1, playbook_id=None)
    assert found["possible"] == 2
    best = found["openings"][0]
    placed = dispatcher.post(
        f"/visits/{visit.pk}/place",
        {"version": 1, "technician_id": best["seats"][0]["technician_id"], "start": best["start"]},
    )
    assert placed.status_code == 200, placed.json()
    dispatcher.post("/board/undo")
    [change] = a_run(dispatcher, kind="fill")["proposal"]["changes"]
    assert (change["visit_id"], change["kind"]) == (visit.pk, "place")


def test_a_playbook_that_makes_the_deadline_a_limit_refuses_what_is_overdue(world, dispatcher):
    from apps.scheduling.models import PlaybookRow

    visit = world.visit(due=to_datetime(at(17, day=date(2026, 11, 18))))
    dispatcher.get("/playbooks")
    row = PlaybookRow.objects.get(is_default=True)
    row.limits = {**row.limits, "due": {"on": True}}
    row.version += 1
    row.save()
    found = planner_world.openings(visit_id=visit.pk, first=MONDAY, days=1, playbook_id=row.pk)
    assert (found["possible"], found["openings"]) == (0, [])


def test_overdue_work_is_done_sooner_rather_than_later_and_never_left_out_for_being_late(world, dispatcher):
    visit = world.visit(due=to_datetime(at(17, day=date(2026, 10, 1))), priority=5)
    found = planner_world.openings(visit_id=visit.pk, first=MONDAY, days=5, playbook_id=None)
    days = [row["seats"][0]["day"] for row in found["openings"]]
    assert days[0] == MONDAY.isoformat()
    run = a_run(dispatcher, kind="fill", day=date(2026, 11, 27))
    assert [change["visit_id"] for change in run["proposal"]["changes"]] == [visit.pk]


# --- somebody is ill ----------------------------------------------------------------------------------------


def ill(technician):
    Absence.objects.create(technician=technician, start=to_datetime(at(0)), end=to_datetime(at(23, 59)), reason="ill")


def test_what_was_sent_to_somebody_who_is_ill_goes_to_others_and_is_accepted(world, dispatcher):
    sent = world.placed(11, state="sent", promise_start=to_datetime(at(10, 30)), promise_end=to_datetime(at(13)))
    world.placed(14, technician=world.ivor)
    ill(world.ines)
    run = a_run(dispatcher, kind="repair", visit_ids=[sent.pk])
    [change] = run["proposal"]["changes"]
    assert (change["visit_id"], change["after"][0]["technician"]) == (sent.pk, "Ivor Larkin")
    answer = accept(dispatcher, run)
    assert answer.status_code == 200, answer.json()
    sent.refresh_from_db()
    assert (sent.technician_id, sent.state) == (world.ivor.pk, "placed")


def test_only_what_was_theirs_moves_promises_first_and_it_is_said_who_must_be_called(world, dispatcher):
    # Ivor has one hour left, and both could go there: the promised one does.
    full = [world.placed(hour, technician=world.ivor) for hour in (10, 11, 12, 15)]
    promised = world.placed(13, promise_start=to_datetime(at(12, 30)), promise_end=to_datetime(at(14, 30)))
    plain = world.placed(14, priority=1)
    lost = world.placed(10, 30, promise_start=to_datetime(at(10)), promise_end=to_datetime(at(11)))
    ill(world.ines)
    run = a_run(dispatcher, kind="repair", visit_ids=[promised.pk, plain.pk, lost.pk])
    changes = {row["visit_id"]: row for row in run["proposal"]["changes"]}
    assert changes.keys() <= {promised.pk, plain.pk, lost.pk}
    assert not changes.keys() & {visit.pk for visit in full}
    assert changes[promised.pk]["after"]
    [call] = run["proposal"]["to_call"]
    assert (call["visit_id"], call["customer"]) == (lost.pk, "Seagate Stores")
    assert call["why"] == "promised Mon 23 Nov 10:00–11:00, and nobody has time for it"


def test_every_change_says_what_it_helps_and_one_that_helps_nothing_is_not_made(world, dispatcher):
    for hour in (11, 13):
        world.placed(hour)
    world.visit()
    run = a_run(dispatcher, kind="plan")
    for change in run["proposal"]["changes"]:
        first = change["reasons"][0]
        assert re.search(r"less|Done|instead|keeps|spreads|goes to|room|Mends|stays|leaves", first), change["reasons"]
    quiet = a_run(dispatcher, kind="repair")
    assert quiet["proposal"]["changes"] == []


def test_the_time_that_is_given_is_the_whole_wait(world, dispatcher):
    for number in range(60):
        world.visit(priority=1 + number % 5)
    asked = dispatcher.post("/runs", {"kind": "plan", "day": MONDAY.isoformat(), "seconds": 2.0}).json()
    began = time.monotonic()
    compute(asked["id"])
    waited = time.monotonic() - began
    run = dispatcher.get(f"/runs/{asked['id']}").json()
    assert len(run["proposal"]["unserved"]) > 30
    assert all(row["reasons"] for row in run["proposal"]["unserved"])
    # Searching ends early enough for the words; what it took besides is in the figures, not asserted in seconds.
    assert run["proposal"]["seconds"] < 2.0
    assert waited < 2 * 2.0


# --- a storm ------------------------------------------------------------------------------------------------


def test_many_are_spread_over_days_and_people_and_who_must_be_called_is_listed(world, dispatcher):
    promise = {"promise_start": to_datetime(at(10)), "promise_end": to_datetime(at(15))}
    promised = [world.placed(hour, state="sent", **promise) for hour in (11, 13)]
    plain = [world.placed(hour, technician=world.ivor) for hour in (11, 12, 13, 14)]
    other = world.visit()
    ids = [visit.pk for visit in (*promised, *plain)]
    run = a_run(dispatcher, kind="spread", day=TUESDAY, days=2, visit_ids=ids)
    changes = {row["visit_id"]: row for row in run["proposal"]["changes"]}
    assert changes.keys() == set(ids)
    assert {row["after"][0]["day"] for row in changes.values()} <= {"2026-11-24", "2026-11-25"}
    assert len({row["after"][0]["technician_id"] for row in changes.values()}) == 2
    assert {row["visit_id"] for row in run["proposal"]["to_call"]} == {visit.pk for visit in promised}
    answer = accept(dispatcher, run)
    assert answer.status_code == 200, answer.json()
    assert set(answer.json()["changed"]) == set(ids)
    for visit in Visit.objects.filter(pk__in=ids):
        after = changes[visit.pk]["after"][0]
        assert (visit.technician_id, int(visit.start.timestamp())) == (after["technician_id"], after["start"])
    other.refresh_from_db()
    assert other.state == "open"
    calls = dispatcher.get("/messages/calls").json()
    assert {row["visit_id"] for row in calls} == {visit.pk for visit in promised}
    assert calls[0]["why"].startswith("promised Mon 23 Nov 10:00–15:00, would be ")
    assert dispatcher.post("/board/undo").status_code == 200
    assert dispatcher.get("/messages/calls").json() == []
    assert set(Visit.objects.filter(pk__in=ids).values_list("start__day", flat=True)) == {23}
