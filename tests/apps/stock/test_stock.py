"""What lies on vans, what visits take from it, and what is missing where."""

from datetime import timedelta

import pytest

from apps.orders.models import Visit
from apps.stock import commands as stock
from apps.stock.models import Movement, Part
from foundation import clock
from foundation.models import AuditEntry
from foundation.moments import to_datetime
from tests.apps.board.test_placing import edit, place
from tests.apps.conftest import MONDAY, at, lies, on_vans

TUESDAY = MONDAY + timedelta(days=1)
ROLLERS = {"door-roller": 2}


def count(api, technician, part, quantity, version=None):
    body = {"part": part, "quantity": quantity, "version": version}
    return api.put(f"/technicians/{technician.pk}/van", body)


def carries(technician, **parts):
    for part, quantity in parts.items():
        lies(technician, part.replace("_", "-"), quantity)


def missing(api, technician, day=MONDAY, days=1):
    """Sentences about parts on a technician's days, by visit."""
    board = api.get("/board", day=day.isoformat(), days=str(days), technicians=str(technician.pk)).json()
    return {
        row["visit_id"]: row["sentence"]
        for lane_day in board["lanes"][0]["days"]
        for row in lane_day["timetable"]["broken"]
        if row["limit"] == "parts"
    }


def judge(api, visit, technician, start):
    return api.post("/scheduling/judge", {"visit_id": visit.pk, "technician_id": technician.pk, "start": start})


# --- counting -----------------------------------------------------------------------------------------


def test_a_van_is_counted_part_by_part(world, dispatcher):
    assert dispatcher.get(f"/technicians/{world.ines.pk}/van").json() == []
    count(dispatcher, world.ines, "Door roller", 3)
    rows = count(dispatcher, world.ines, "Car lamp", 0).json()
    assert [(row["part"], row["quantity"]) for row in rows] == [("Car lamp", 0), ("Door roller", 3)]
    rows = count(dispatcher, world.ines, "Door roller", 5, version=1).json()
    assert (rows[1]["quantity"], rows[1]["version"]) == (5, 2)
    assert dispatcher.get(f"/technicians/{world.ivor.pk}/van").json() == []
    said = AuditEntry.objects.filter(entity="stock place", action="move").order_by("id")
    assert said.last().sentence == "counted 5 × Door roller on the van of Ines Falk"
    assert [row.quantity for row in Movement.objects.order_by("id")] == [3, 2]


def test_a_part_goes_by_one_name_however_it_is_typed(world, dispatcher):
    count(dispatcher, world.ines, "Door roller", 3)
    assert count(dispatcher, world.ines, " door ROLLER ", 4, version=1).json()[0]["part"] == "Door roller"
    count(dispatcher, world.ivor, "DOOR roller", 1)
    assert on_vans() == {world.ines.pk: {"door-roller": 4}, world.ivor.pk: {"door-roller": 1}}


def test_parts_are_named_once_and_keep_their_key(world, dispatcher):
    assert [row["name"] for row in dispatcher.get("/parts").json()] == [
        "Car lamp",
        "Door roller",
        "Light curtain",
    ]
    made = dispatcher.post("/parts", {"names": ["light CURTAIN", "Brake lining", "Brake  lining"]}).json()
    assert made[:2] == [
        {"code": "light-curtain", "name": "Light curtain", "retired": False},
        {"code": "brake-lining", "name": "Brake lining", "retired": False},
    ]  # fmt: skip
    assert made[2] == made[1]
    assert dispatcher.post("/parts", {"names": ["brake lining", "  "]}).status_code == 422
    assert Part.objects.count() == 4


def test_a_part_is_taken_off_the_list(world, dispatcher):
    count(dispatcher, world.ines, "Door roller", 3)
    assert count(dispatcher, world.ines, "Door roller", None, version=1).json() == []
    assert count(dispatcher, world.ines, "Door roller", None).json() == []


def test_who_counts_what_somebody_else_just_counted_hears_of_it(world, dispatcher):
    count(dispatcher, world.ines, "Door roller", 3)
    count(dispatcher, world.ines, "Door roller", 2, version=1)
    answer = count(dispatcher, world.ines, "Door roller", 9, version=1)
    assert answer.status_code == 409
    assert answer.json()["title"] == "Door roller: 2 on the van by now. Shown as it is."
    assert count(dispatcher, world.ines, "Door roller", 9).status_code == 409  # it is on the list already
    gone = count(dispatcher, world.ines, "Car lamp", 1, version=4)
    assert gone.json()["title"] == "Car lamp is not on the list of this van any more."
    assert on_vans() == {world.ines.pk: {"door-roller": 2}}


@pytest.mark.parametrize(
    ("part", "quantity", "status"), [("  ", 1, 422), ("Door roller", -1, 422), ("Door roller", 100_001, 422)]
)
def test_what_cannot_be_counted_is_refused(world, dispatcher, part, quantity, status):
    assert count(dispatcher, world.ines, part, quantity).status_code == status
    assert on_vans() == {}


def test_intake_reads_a_van_and_does_not_count_it(world, as_role):
    intake = as_role("intake")
    assert intake.get(f"/technicians/{world.ines.pk}/van").status_code == 200
    assert count(intake, world.ines, "Door roller", 1).status_code == 403
    assert intake.get("/technicians/99999/van").status_code == 404


# --- what is missing where ------------------------------------------------------------------------------


def test_a_visit_whose_parts_are_not_on_the_van_says_so(world, dispatcher):
    visit = world.placed(10, takes=ROLLERS)
    carries(world.ines, door_roller=1)
    assert missing(dispatcher, world.ines) == {visit.pk: "2 × Door roller needed, 1 on the van of Ines Falk"}
    count(dispatcher, world.ines, "Door roller", 2, version=1)
    assert missing(dispatcher, world.ines) == {}


def test_a_van_that_nobody_counts_lacks_nothing(world, dispatcher):
    world.placed(10, takes=ROLLERS)
    assert missing(dispatcher, world.ines) == {}


def test_visits_before_it_take_their_parts_first(world, dispatcher):
    world.placed(9, takes=ROLLERS)
    second = world.placed(13, takes=ROLLERS)
    carries(world.ines, door_roller=3)
    sentence = "2 × Door roller needed, 3 on the van of Ines Falk, 2 of them for visits before it"
    assert missing(dispatcher, world.ines) == {second.pk: sentence}


def test_what_the_days_before_take_is_not_there_any_more(world, dispatcher):
    world.placed(9, takes=ROLLERS)
    later = world.visit(
        technician=world.ines, start=to_datetime(at(10, day=TUESDAY)), state="placed", takes={"door-roller": 1}
    )
    carries(world.ines, door_roller=2)
    sentence = "1 × Door roller needed, 0 on the van of Ines Falk"
    assert missing(dispatcher, world.ines, TUESDAY) == {later.pk: sentence}
    assert missing(dispatcher, world.ines, MONDAY, days=2) == {later.pk: sentence}


def test_what_is_finished_has_taken_its_parts_already(world, dispatcher):
    world.placed(9, takes=ROLLERS, state="done", finished_at=to_datetime(at(10)))
    world.placed(13, takes=ROLLERS)
    carries(world.ines, door_roller=2)
    assert missing(dispatcher, world.ines) == {}


def test_of_a_crew_the_one_who_leads_takes_the_parts_along(world, dispatcher):
    visit = world.placed(10, takes=ROLLERS, crew=2, mates=[world.ivor.pk])
    carries(world.ines, door_roller=2)
    carries(world.ivor, car_lamp=1)
    assert missing(dispatcher, world.ines) == missing(dispatcher, world.ivor) == {}
    carries(world.ines, door_roller=0)
    assert set(missing(dispatcher, world.ines)) == {visit.pk}
    assert missing(dispatcher, world.ivor) == {}


def test_a_drag_says_that_a_part_is_missing_and_still_lets_go(world, dispatcher):
    visit = world.visit(takes=ROLLERS)
    carries(world.ines, door_roller=1)
    verdict = judge(dispatcher, visit, world.ines, at(10)).json()
    assert verdict["allowed"] is True
    [reason] = [row for row in verdict["reasons"] if row["limit"] == "parts"]
    assert (reason["weight"], reason["sentence"]) == ("warns", "2 × Door roller needed, 1 on the van of Ines Falk")
    assert place(dispatcher, visit, world.ines, at(10)).status_code == 200
    assert set(missing(dispatcher, world.ines)) == {visit.pk}


def test_moving_a_visit_to_another_day_does_not_count_its_parts_twice(world, dispatcher):
    visit = world.placed(10, takes=ROLLERS)
    carries(world.ines, door_roller=2)
    verdict = judge(dispatcher, visit, world.ines, at(10, day=TUESDAY)).json()
    assert [row for row in verdict["reasons"] if row["limit"] == "parts"] == []


def test_a_board_without_parts_does_not_look_at_vans(world, dispatcher, django_assert_num_queries):
    from apps.scheduling.vans import NOT_COUNTED, vans_for

    carries(world.ines, door_roller=1)
    with django_assert_num_queries(0):
        assert vans_for([]) is NOT_COUNTED


# --- what visits take, and what they bring ---------------------------------------------------------------


def test_finishing_a_visit_takes_its_parts_from_the_van(world):
    visit = world.placed(10, state="on_site", takes={"door-roller": 2, "car-lamp": 1}, arrived_at=to_datetime(at(10)))
    carries(world.ines, door_roller=1)
    used = stock.Used(
        visit_id=visit.pk, technician_id=world.ines.pk, site_id=world.site.pk, asset_id=None, parts=visit.takes
    )
    stock.take(actor=world.accounts["dispatcher"], now=clock.now(), used=used)
    assert on_vans() == {world.ines.pk: {"door-roller": 0}}  # nobody counts lamps there, and no van owes a roller
    said = AuditEntry.objects.filter(entity="stock place").order_by("-id")
    assert said[1].sentence == "took 1 × Door roller from the van"
    assert said[0].sentence == (
        "used 1 × Car lamp, 1 × Door roller that Van of Ines Falk did not have on the books: count it"
    )
    moved = Movement.objects.get(visit=visit)
    assert (moved.quantity, moved.reason, moved.target.site) == (1, "use", world.site)


def test_the_parts_and_the_worth_of_a_visit_are_edited_and_undone(world, dispatcher):
    visit = world.visit()
    carries(world.ines, door_roller=1)
    assert edit(dispatcher, visit, takes=ROLLERS, worth=320).status_code == 200
    visit.refresh_from_db()
    assert (visit.takes, visit.worth) == (ROLLERS, 320)
    said = AuditEntry.objects.filter(entity="visit", entity_id=visit.pk).latest("id")
    assert said.sentence == "changed its parts, worth"
    assert dispatcher.post("/board/undo", {}).status_code == 200
    visit.refresh_from_db()
    assert (visit.takes, visit.worth) == ({}, None)


@pytest.mark.parametrize(
    "wrong", [{"takes": {"door-roller": 0}}, {"takes": {"what-is-this": 1}}, {"takes": {"": 1}}, {"worth": -5}]
)
def test_impossible_parts_and_worth_are_refused(world, dispatcher, wrong):
    visit = world.visit()
    assert edit(dispatcher, visit, **wrong).status_code == 422
    assert Visit.objects.get(pk=visit.pk).version == visit.version


def test_the_backlog_is_sorted_by_worth(world, dispatcher):
    poor, rich, unknown = world.visit(worth=80), world.visit(worth=3400), world.visit()
    found = dispatcher.post("/board/backlog", {"text": "", "sort": "worth"}).json()["visits"]
    assert [row["id"] for row in found] == [rich.pk, poor.pk, unknown.pk]


def test_an_order_shows_what_all_its_visits_take(world, dispatcher):
    visit = world.visit(takes=ROLLERS)
    Visit.objects.create(
        order=visit.order, part=2, title="Fit", duration_seconds=1800, takes={"door-roller": 1, "car-lamp": 1}
    )
    order = dispatcher.get(f"/orders/{visit.order_id}").json()
    assert order["parts"] == {"door-roller": 3, "car-lamp": 1}


def test_a_technician_who_finishes_has_taken_the_parts(world, technician):
    visit = world.placed(11, state="on_site", takes=ROLLERS, arrived_at=to_datetime(at(10)))
    carries(world.ines, door_roller=3)
    body = {"version": 1, "step": "finish", "note": "rollers changed", "where": None}
    assert technician.post(f"/field/visits/{visit.pk}/step", body).status_code == 200
    assert on_vans() == {world.ines.pk: {"door-roller": 1}}


def test_a_run_gives_work_to_whoever_has_the_part(world, dispatcher):
    from apps.scheduling.playbooks import ensure_playbooks, playbook_of
    from apps.scheduling.problems import load_problem

    crew = world.visit(takes=ROLLERS, crew=2, worth=900)
    visit = world.visit(takes=ROLLERS, worth=320)
    world.placed(9, takes={"door-roller": 1})
    carries(world.ines, door_roller=4)
    playbook = playbook_of(ensure_playbooks()[0])
    problem = load_problem(first=TUESDAY, days=1, playbook=playbook, now=clock.now()).problem
    # What Monday takes is not there on Tuesday; Ivor's van is not counted.
    loads = {day.technician.name: day.technician.load for day in problem.days}
    assert {name: load and load.van for name, load in loads.items()} == {
        "Ines Falk": {"Door roller": 3}, "Ivor Larkin": None,
    }  # fmt: skip
    asked = {spec.id: (dict(spec.parts), spec.value) for spec in problem.backlog}
    assert asked == {visit.pk: ({"Door roller": 2}, 320), crew.pk: ({}, 900)}
