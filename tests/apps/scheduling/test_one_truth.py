"""Whatever is offered, dragged, placed or planned has the same length, limits and reasons everywhere: random companies,
asked over HTTP."""

from datetime import date, timedelta

import numpy as np
import pytest

from apps.customers.models import Site
from apps.orders.models import LearnedLength, Visit, VisitLink
from apps.people.models import TechnicianSkill
from apps.scheduling.playbooks import playbook_row
from core.calendars import local_day
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, TZ, at
from tests.apps.scheduling.test_runs import a_run, accept

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("planner_here")]
WORLDS = range(6)
PAPER = "rope-access"


@pytest.fixture
def company(world, request):
    """A world of chance: paces, papers, who is required and refused, and a day with something on it."""
    dice = np.random.default_rng(request.param)
    people = [world.ines, world.ivor]
    pace = {str(row.pk): [float(dice.choice([1800, 2700, 4100])), 9] for row in people}
    LearnedLength.objects.create(job_type=world.door_job, mean=2700, spread=300, count=18, own=pace)
    world.door_job.certificates = [PAPER] if dice.random() < 0.6 else []
    world.door_job.resolve_minutes = int(dice.choice([60 * 30, 60 * 54])) if dice.random() < 0.5 else None
    world.door_job.duration_seconds = None if dice.random() < 0.3 else 2700
    world.door_job.save()
    for row in people:
        if dice.random() < 0.7:
            until = MONDAY + timedelta(days=int(dice.choice([0, 1, 400])))
            world.holds(row, "Rope access", until)
    site = Site.objects.get(pk=world.site.pk)
    if dice.random() < 0.3:
        site.required.add(people[int(dice.integers(2))])
    elif dice.random() < 0.3:
        site.refused.add(people[int(dice.integers(2))])
    for hour in dice.choice([9, 11, 13, 15], size=2, replace=False):
        world.placed(int(hour), technician=people[int(dice.integers(2))], duration_seconds=2700)
    return world


def on_the_board(api, visit_id, day):
    """Where a visit stands on the board: start and end of its work, and what is broken of it."""
    board = api.get("/board", day=day.isoformat()).json()
    for lane in board["lanes"]:
        for stretch in lane["days"][0]["timetable"]["stretches"]:
            if stretch["visit_id"] == visit_id and stretch["kind"] == "work":
                broken = [row["sentence"] for row in board["findings"] if row["visit_id"] == visit_id]
                return lane["technician_id"], stretch["start"], stretch["end"], broken
    raise AssertionError("it stands nowhere")


@pytest.mark.parametrize("company", WORLDS, indirect=True)
def test_an_opening_is_what_a_drag_says_and_what_the_board_shows(company, dispatcher):
    visit = company.visit(duration_seconds=2700)
    found = dispatcher.get(f"/visits/{visit.pk}/openings", day=MONDAY.isoformat(), days=2).json()
    for row in found["excluded"]:
        body = {"visit_id": visit.pk, "technician_id": row["technician_id"], "start": at(15)}
        judged = dispatcher.post("/scheduling/judge", body).json()
        if judged["allowed"] and not any(said["weight"] == "asks" for said in judged["reasons"]):
            assert any("no room" in reason.lower() or "free" in reason.lower() for reason in row["reasons"]), row
    for opening in found["openings"][:2]:
        seat = opening["seats"][0]
        body = {"visit_id": visit.pk, "technician_id": seat["technician_id"], "start": opening["start"]}
        judged = dispatcher.post("/scheduling/judge", body).json()
        assert judged["allowed"], judged
        assert not [row for row in judged["reasons"] if row["weight"] in ("asks", "warns")]
        visit.refresh_from_db()
        answer = dispatcher.post(f"/visits/{visit.pk}/place", {**body, "version": visit.version})
        assert answer.status_code == 200
        day = local_day(opening["start"], TZ)
        shown = on_the_board(dispatcher, visit.pk, day)
        assert shown == (seat["technician_id"], opening["start"], opening["end"], [])


@pytest.mark.parametrize("company", WORLDS, indirect=True)
def test_a_window_that_is_offered_can_be_booked_and_is_kept(company, dispatcher):
    asked = {
        "site_id": company.site.pk, "what_is_wrong": "Door squeaks", "job_type_id": company.door_job.pk,
        "contact_phone": "+351 296 111 222",
    }  # fmt: skip
    for number in range(2):
        offers = dispatcher.post("/appointments/offers", asked).json()["offers"]
        if not offers:
            return
        best = offers[-number]
        window = {"start": best["start"], "end": best["end"]}
        answer = dispatcher.post("/appointments/book", {**asked, "window": window, "assign": True, "details": None})
        assert answer.status_code == 201, answer.json()
        visit = Visit.objects.get(pk=answer.json()["visit_id"])
        start = int(visit.start.timestamp())
        who, begins, _ends, broken = on_the_board(dispatcher, visit.pk, local_day(start, TZ))
        assert (who, begins) == (visit.technician_id, best["starts_at"])
        assert not [sentence for sentence in broken if "No duration" not in sentence]


@pytest.mark.parametrize("company", WORLDS, indirect=True)
def test_a_plan_comes_out_as_the_board_shows_it(company, dispatcher):
    visits = [company.visit(duration_seconds=2700, needs={"doors": 1}) for _ in range(3)]
    run = a_run(dispatcher, kind="fill")
    assert accept(dispatcher, run).status_code == 200
    told = len(run["proposal"]["broken_after"])
    assert told == len(dispatcher.get("/board", day=MONDAY.isoformat()).json()["findings"])
    for visit in visits:
        visit.refresh_from_db()
        if visit.start is None:
            continue
        start = int(visit.start.timestamp())
        body = {"visit_id": visit.pk, "technician_id": visit.technician_id, "start": start}
        judged = dispatcher.post("/scheduling/judge", body).json()
        assert judged["allowed"], judged
        assert on_the_board(dispatcher, visit.pk, MONDAY)[1] == start


def test_who_lacks_the_paper_or_is_not_the_one_required_is_said_everywhere(world, dispatcher):
    world.door_job.certificates = [PAPER]
    world.door_job.save()
    world.holds(world.ines, "Rope access", date(2027, 1, 1))
    world.site.required.add(world.ines)
    visit = world.visit()
    found = dispatcher.get(f"/visits/{visit.pk}/openings", day=MONDAY.isoformat()).json()
    assert {row["seats"][0]["technician_id"] for row in found["openings"]} == {world.ines.pk}
    body = {"visit_id": visit.pk, "technician_id": world.ivor.pk, "start": at(13)}
    said = {row["limit"]: row["weight"] for row in dispatcher.post("/scheduling/judge", body).json()["reasons"]}
    assert said["certificate"] == "refuses"
    assert said["required"] == "asks"
    Visit.objects.filter(pk=visit.pk).update(technician=world.ivor, start=to_datetime(at(13)), state="placed")
    findings = dispatcher.get("/board", day=MONDAY.isoformat()).json()["findings"]
    assert {row["limit"] for row in findings} >= {"certificate", "required"}


def test_a_skill_that_is_lost_meanwhile_is_seen_on_the_board(world, dispatcher):
    visit = world.placed(13, needs={"doors": 3})
    TechnicianSkill.objects.filter(technician=world.ines).update(level=1)
    assert "needed" in on_the_board(dispatcher, visit.pk, MONDAY)[3][0]


# --- what is tied, and what the playbook asks ------------------------------------------------------------


def judged(api, visit, technician, start):
    body = {"visit_id": visit.pk, "technician_id": technician.pk, "start": start}
    reasons = api.post("/scheduling/judge", body).json()["reasons"]
    return {row["limit"]: (row["weight"], row["sentence"]) for row in reasons if row["limit"]}


def test_a_follower_before_its_predecessor_is_asked_about_and_then_counted(world, dispatcher):
    first, second = world.placed(13, technician=world.ivor), world.visit()
    VisitLink.objects.create(first=first, second=second, kind="after", least=1800)
    weight, sentence = judged(dispatcher, second, world.ines, at(11))["link"]
    assert weight == "asks"
    assert "too early" in sentence
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(11)}
    answer = dispatcher.post(f"/visits/{second.pk}/place", body)
    assert (answer.status_code, answer.json()["code"]) == (422, "reason_needed")
    answer = dispatcher.post(f"/visits/{second.pk}/place", {**body, "because": "They wait for it"})
    assert answer.status_code == 200
    findings = dispatcher.get("/board", day=MONDAY.isoformat()).json()["findings"]
    assert [(row["limit"], row["sentence"]) for row in findings] == [("link", sentence)]


def test_what_a_move_does_to_its_follower_is_its_price(world, dispatcher):
    first, second = world.placed(10, technician=world.ivor), world.placed(12)
    VisitLink.objects.create(first=first, second=second, kind="after")
    assert "link" not in judged(dispatcher, first, world.ivor, at(10, 30))
    weight, sentence = judged(dispatcher, first, world.ivor, at(14))["link"]
    assert weight == "warns"
    assert sentence.startswith(second.label)


def test_the_first_time_that_fits_waits_for_what_it_follows(world, dispatcher):
    first, second = world.placed(11, technician=world.ivor), world.visit()
    VisitLink.objects.create(first=first, second=second, kind="after", least=3600)
    body = {"version": 1, "technician_id": world.ines.pk, "day": MONDAY.isoformat()}
    placed = dispatcher.post(f"/visits/{second.pk}/place-first", body).json()
    assert placed["visit"]["start"] == at(13)


def test_a_crew_that_is_too_small_is_said_while_it_is_dragged(world, dispatcher):
    visit = world.visit(crew=2)
    assert judged(dispatcher, visit, world.ines, at(13))["crew"][0] == "warns"


def test_a_drag_and_the_board_ask_what_the_playbook_asks(world, dispatcher):
    visit = world.placed(13, due=to_datetime(at(12)))
    assert judged(dispatcher, visit, world.ines, at(13))["due"][0] == "note"  # this playbook weighs it
    assert dispatcher.get("/board", day=MONDAY.isoformat()).json()["findings"] == []
    row = playbook_row(None)
    row.limits = {**row.limits, "due": {"on": True, "number": None}, "skill": {"on": False, "number": None}}
    row.save()
    assert judged(dispatcher, visit, world.ines, at(13))["due"][0] == "asks"
    findings = dispatcher.get("/board", day=MONDAY.isoformat()).json()["findings"]
    assert [found["limit"] for found in findings] == ["due"]
    untaught = world.visit(needs={"rescue": 3})
    assert judged(dispatcher, untaught, world.ines, at(15))["skill"][0] == "note"


def test_too_long_a_drive_is_one_for_a_run_a_drag_and_the_board(world, dispatcher):
    far = Site.objects.create(
        customer=world.customer, name="Far Hall", address="Elsewhere", lon=world.site.lon + 0.1, lat=world.site.lat
    )
    row = playbook_row(None)
    row.limits = {**row.limits, "long_drive": {"on": True, "number": 5}}
    row.save()
    world.placed(10)
    visit = world.visit()
    visit.order.site = far
    visit.order.save()
    assert judged(dispatcher, visit, world.ines, at(13))["long_drive"][0] == "warns"
    Visit.objects.filter(pk=visit.pk).update(technician=world.ines, start=to_datetime(at(13)), state="placed")
    findings = dispatcher.get("/board", day=MONDAY.isoformat()).json()["findings"]
    assert [found["limit"] for found in findings] == ["long_drive"]


def test_a_run_of_one_technician_keeps_what_is_tied_to_others(world, dispatcher):
    first, second = world.placed(13, technician=world.ivor), world.placed(14, 30)
    VisitLink.objects.create(first=first, second=second, kind="after")
    world.placed(15, 30)
    run = a_run(dispatcher, kind="improve", technician_id=world.ines.pk)
    accept(dispatcher, run)
    assert dispatcher.get("/board", day=MONDAY.isoformat()).json()["findings"] == []


def test_what_is_free_is_one_answer_for_the_board_the_weeks_and_the_capacity(world, dispatcher):
    """The clock stands at ten: what has passed is free nowhere, and driving counts everywhere."""
    world.placed(13, technician=world.ines)
    world.placed(14, technician=world.ivor, duration_seconds=1800)
    for day in (MONDAY, MONDAY + timedelta(days=1)):
        board = dispatcher.get("/board", day=day.isoformat()).json()
        lanes = {row["technician_id"]: row["days"][0]["workload"] for row in board["lanes"]}
        weeks = dispatcher.get("/board/load", day=day.isoformat()).json()
        assert {row["technician_id"]: row["days"][0]["left"] for row in weeks} == {
            key: row["left"] for key, row in lanes.items()
        }
        capacity = dispatcher.get("/appointments/capacity", first=day.isoformat(), days=1).json()
        assert capacity["total"]["days"][0]["free"] == sum(row["left"] for row in lanes.values())
    visit = Visit.objects.order_by("id")[0]
    following = dispatcher.get(f"/visits/{visit.pk}/next").json()
    today = dispatcher.get("/board", day=MONDAY.isoformat()).json()["lanes"]
    gaps = next(row for row in today if row["technician_id"] == world.ines.pk)["days"][0]["workload"]["gaps"]
    assert {"start": following["start"], "end": following["end"]} == gaps[-1]


def test_a_standing_crew_on_a_visit_for_one_is_said_as_it_comes_out(world, dispatcher):
    """Placing makes the visit's crew larger, so nothing is wrong with it: neither before nor after."""
    visit = world.visit()
    body = {"technician_id": world.ines.pk, "start": at(13), "mates": [world.ivor.pk]}
    reasons = dispatcher.post("/scheduling/judge", {**body, "visit_id": visit.pk}).json()["reasons"]
    assert "crew" not in [row["limit"] for row in reasons]
    placed = dispatcher.post(f"/visits/{visit.pk}/place", {**body, "version": 1})
    assert placed.status_code == 200
    assert dispatcher.get("/board", day=MONDAY.isoformat()).json()["findings"] == []
