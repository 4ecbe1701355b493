"""The technician's phone."""

import pytest

from apps.messages.models import Message
from apps.orders.models import Visit
from tests.apps.conftest import at


def step(api, visit, name, version, note="", where=None):
    body = {"version": version, "step": name, "note": note, "where": where}
    return api.post(f"/field/visits/{visit.pk}/step", body)


def test_the_whole_way_is_stamped_with_time_person_and_place(world, technician, now):
    visit = world.placed(11, state="sent")
    here = {"lon": -24.6, "lat": 47.2}
    for version, name in enumerate(["accept", "depart", "arrive"], start=1):
        assert step(technician, visit, name, version, where=here).status_code == 200
    assert step(technician, visit, "hold", 4, note="waiting for the key").json()["state"] == "on_hold"
    assert step(technician, visit, "resume", 5).json()["state"] == "on_site"
    done = step(technician, visit, "finish", 6, note="greased").json()
    assert (done["state"], done["outcome"]) == ("done", "greased")
    assert [row["step"] for row in done["stamps"]] == ["accept", "depart", "arrive", "hold", "resume", "finish"]
    assert done["stamps"][0] | here == done["stamps"][0]
    visit.refresh_from_db()
    assert visit.departed_at == visit.arrived_at == visit.finished_at == now


def test_declining_gives_it_back_to_the_backlog_with_the_reason(world, technician, dispatcher):
    visit = world.placed(11, state="sent")
    assert step(technician, visit, "decline", 1).json()["code"] == "note_missing"
    assert step(technician, visit, "decline", 1, note="no rigging gear").json()["state"] == "open"
    assert dispatcher.post("/board/backlog", {}).json()["total"] == 1
    shown = dispatcher.get(f"/orders/visits/{visit.pk}").json()
    assert shown["stamps"][-1]["note"] == "no rigging gear"
    assert technician.get("/field/day").json()["visits"] == []


def test_the_day_shows_what_was_sent_in_order_and_nothing_of_others(world, technician):
    later, sooner = world.placed(13, state="sent"), world.placed(9, state="accepted")
    world.placed(11)
    world.placed(12, technician=world.ivor, state="sent")
    ids = [row["id"] for row in technician.get("/field/day").json()["visits"]]
    assert ids == [sooner.pk, later.pk]


def test_another_technician_s_visit_is_not_there(world, technician):
    other = world.placed(11, technician=world.ivor, state="sent")
    assert technician.get(f"/field/visits/{other.pk}").status_code == 404
    assert step(technician, other, "accept", 1).status_code == 404
    assert technician.get(f"/field/visits/{other.pk}/way").status_code == 404


def test_who_goes_along_reads_the_visit_and_its_way_and_who_leads_stamps_it(world, technician):
    visit = world.placed(11, technician=world.ivor, crew=2, mates=[world.ines.pk], state="sent")
    assert [row["id"] for row in technician.get("/field/day").json()["visits"]] == [visit.pk]
    found = technician.get(f"/field/visits/{visit.pk}").json()
    assert (found["technician"], found["goes_along"], found["steps"]) == ("Ivor Larkin", ["Ines Falk"], [])
    assert technician.get(f"/field/visits/{visit.pk}/way").status_code == 200
    assert step(technician, visit, "accept", 1).status_code == 404
    own = world.placed(14, crew=2, mates=[world.ivor.pk], state="sent")
    assert technician.get(f"/field/visits/{own.pk}").json()["steps"]


def test_a_visit_that_is_only_placed_is_not_shown_yet(world, technician):
    assert technician.get(f"/field/visits/{world.placed(11).pk}").status_code == 404


def test_a_step_that_does_not_follow_is_refused_in_words(world, technician):
    visit = world.placed(11, state="sent")
    answer = step(technician, visit, "finish", 1, note="done")
    assert answer.json()["title"] == "A visit that is sent cannot be finished."


def test_a_technician_is_on_one_visit_at_a_time(world, technician):
    world.placed(9, state="on_site", arrived_at="2026-11-23T10:00Z")
    waiting = world.placed(11, state="accepted")
    answer = step(technician, waiting, "depart", 1)
    assert answer.json()["code"] == "another_under_way"
    assert "finish it or put it on hold" in answer.json()["title"]


def test_setting_out_tells_the_customer(world, technician):
    step(technician, world.placed(11, state="accepted"), "depart", 1)
    assert Message.objects.get().text == "Ines Falk from Test Lifts is on the way to you."


def test_a_stale_phone_is_told_and_changes_nothing(world, technician, dispatcher):
    visit = world.placed(11, state="sent")
    dispatcher.post(f"/board/visits/{visit.pk}/step", {"version": 1, "step": "accept"})
    answer = step(technician, visit, "decline", 1, note="ill")
    assert answer.status_code == 409
    assert "The dispatcher was faster: accepted it" in answer.json()["title"]
    assert Visit.objects.get(pk=visit.pk).state == "accepted"


@pytest.mark.parametrize("name", ["place", "send", "cancel", "review"])
def test_the_phone_plans_nothing(world, technician, name):
    assert step(technician, world.placed(11, state="sent"), name, 1, note="x").json()["code"] == "wrong_step"


def test_the_way_there_follows_the_roads(world, technician):
    visit = world.placed(11, state="sent")
    way = technician.get(f"/field/visits/{visit.pk}/way").json()
    assert not way["estimated"]
    assert way["points"][-1] == [world.site.lon, world.site.lat]
    assert way["points"][0] == [world.ines.depot.lon, world.ines.depot.lat]


def test_the_technician_sees_the_board_s_change_of_time(world, technician, dispatcher):
    visit = world.placed(11, state="sent")
    body = {"version": 1, "technician_id": world.ines.pk, "start": at(14)}
    dispatcher.post(f"/board/visits/{visit.pk}/place", body)
    assert technician.get("/field/day").json()["visits"] == []
    assert "moved to another time" in Message.objects.get().text
    dispatcher.post(f"/board/visits/{visit.pk}/send", {"version": 2})
    [shown] = technician.get("/field/day").json()["visits"]
    assert shown["start"] == at(14)
