"""The technician's phone."""

import pytest

from apps.messages.models import Message
from apps.orders.models import Assignment, Visit, VisitEvent
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
    assert [row["step"] for row in done["events"]] == ["accept", "depart", "arrive", "hold", "resume", "finish"]
    assert done["events"][0] | here == done["events"][0]
    visit.refresh_from_db()
    assert visit.departed_at == visit.arrived_at == visit.finished_at == now


def test_declining_gives_it_back_to_the_backlog_with_the_reason(world, technician, dispatcher):
    visit = world.placed(11, state="sent")
    assert step(technician, visit, "decline", 1).json()["code"] == "note_missing"
    assert step(technician, visit, "decline", 1, note="no rigging gear").json()["state"] == "open"
    assert dispatcher.post("/board/backlog", {}).json()["total"] == 1
    shown = dispatcher.get(f"/visits/{visit.pk}").json()
    assert shown["events"][-1]["note"] == "no rigging gear"
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


def parts(found):
    return [
        (row["name"], row["leads"], *(row[name] is not None for name in ("accepted_at", "arrived_at", "finished_at")))
        for row in found["assignments"]
    ]


def own(api, visit, name, note="", **more):
    return api.post(f"/field/visits/{visit.pk}/step", {"step": name, "note": note, **more})


def led_by_ivor(world, **fields):
    """Ivor leads, Ines goes along."""
    return world.placed(11, technician=world.ivor, crew=2, mates=[world.ines.pk], **fields)


def test_each_of_a_crew_accepts_arrives_and_leaves_for_themselves(world, technician, dispatcher):
    visit = led_by_ivor(world, state="sent")
    assert [row["id"] for row in technician.get("/field/day").json()["visits"]] == [visit.pk]
    assert technician.get(f"/field/visits/{visit.pk}/way").status_code == 200
    found = own(technician, visit, "accept").json()
    assert parts(found) == [("Ivor Larkin", True, False, False, False), ("Ines Falk", False, True, False, False)]
    assert found["state"] == "sent"  # it follows whoever leads
    for version, name in enumerate(["accept", "depart", "arrive"], start=1):
        body = {"version": version, "step": name, "note": "", "tell": ""}
        assert dispatcher.post(f"/visits/{visit.pk}/step", body).status_code == 200
    assert own(technician, visit, "arrive").status_code == 200
    assert [row["step"] for row in technician.get(f"/field/visits/{visit.pk}").json()["actions"]] == ["finish"]
    left = own(technician, visit, "finish").json()
    assert (left["state"], parts(left)[1]) == ("on_site", ("Ines Falk", False, True, True, True))
    seen = dispatcher.get(f"/visits/{visit.pk}").json()
    hers = [row["step"] for row in seen["events"] if row["technician_id"] == world.ines.pk]
    assert hers == ["accept", "arrive", "finish"]
    assert seen["version"] == 4  # what who goes along does stands in nobody's way


def test_who_goes_along_takes_no_step_of_the_visit(world, technician):
    visit = led_by_ivor(world, state="on_site")
    assert own(technician, visit, "hold", note="no key").json()["code"] == "wrong_state"
    assert own(technician, visit, "finish", note="all done").json()["code"] == "wrong_state"  # not there yet


def test_that_one_of_a_crew_declines_gives_the_visit_back_and_the_others_hear_of_it(world, technician):
    visit = led_by_ivor(world, state="accepted")
    assert own(technician, visit, "decline").json()["code"] == "note_missing"
    assert own(technician, visit, "decline", note="My back").json()["state"] == "open"
    assert not Assignment.objects.filter(visit=visit).exists()
    [told] = Message.objects.filter(visit=visit)
    assert "no longer yours" in told.text
    assert told.name == "Ivor Larkin"


def test_who_leads_finishes_for_all_who_are_still_there(world, technician, dispatcher):
    visit = world.placed(11, crew=2, mates=[world.ivor.pk], state="on_site")
    Assignment.objects.filter(visit=visit).update(arrived_at="2026-11-23T10:00Z")
    assert own(technician, visit, "finish", note="greased", version=1).json()["state"] == "done"
    assert {row.finished_at is not None for row in Assignment.objects.filter(visit=visit)} == {True}


def test_another_plan_is_accepted_anew(world, technician, dispatcher):
    visit = world.placed(11, state="sent")
    assert own(technician, visit, "accept", version=1).status_code == 200
    place = {"version": 2, "technician_id": world.ines.pk, "start": at(13)}
    assert dispatcher.post(f"/visits/{visit.pk}/place", place).status_code == 200
    assert Assignment.objects.get(visit=visit).accepted_at is None


def test_who_goes_is_kept_by_the_database_whoever_writes(world):
    visit = world.placed(11, crew=2, mates=[world.ivor.pk])

    def rows():
        return dict(Assignment.objects.filter(visit=visit).values_list("technician_id", "leads"))

    assert rows() == {world.ines.pk: True, world.ivor.pk: False}
    Visit.objects.filter(pk=visit.pk).update(technician=world.ivor, mates=[world.ines.pk])
    assert rows() == {world.ines.pk: False, world.ivor.pk: True}
    Visit.objects.filter(pk=visit.pk).update(mates=[])
    assert rows() == {world.ivor.pk: True}
    Visit.objects.filter(pk=visit.pk).update(technician=None, start=None)
    assert rows() == {}


# --- what happened, told late and told twice ----------------------------------------------------------


KEY = "018f5f2e-6d3a-7c41-9b0e-0f2d6a1b2c3d"


def test_what_is_sent_twice_is_done_once(world, technician):
    visit = world.placed(11, state="sent")
    seen = {"based_on": {"state": "sent", "start": at(11)}, "key": KEY}
    first, again = (own(technician, visit, "accept", **seen) for _ in range(2))
    assert (first.status_code, again.status_code) == (200, 200)
    assert first.json()["events"] == again.json()["events"]
    assert VisitEvent.objects.filter(visit=visit).count() == 1
    assert own(technician, visit, "depart", key=KEY, version=2).json()["code"] == "key_used"


@pytest.mark.parametrize("leads", [True, False], ids=["who leads", "who goes along"])
def test_what_was_declined_is_declined_once_though_the_answer_was_lost(world, technician, leads):
    """After the first it is nobody's: the second is answered all the same."""
    visit = world.placed(11, state="sent") if leads else led_by_ivor(world, state="sent")
    answers = [
        own(technician, visit, "decline", note="My back", key=KEY, based_on={"state": "sent", "start": at(11)})
        for _ in range(2)
    ]
    assert [(row.status_code, row.json()["state"]) for row in answers] == [(200, "open")] * 2
    assert VisitEvent.objects.filter(visit=visit).count() == 1
    stranger = own(technician, world.placed(13, technician=world.ivor, state="sent"), "decline", note="x", key=KEY)
    assert stranger.json()["code"] == "key_used"


def test_who_goes_along_accepts_the_time_they_saw_and_no_other(world, technician):
    visit = led_by_ivor(world, state="accepted")
    moved = own(technician, visit, "accept", based_on={"state": "sent", "start": at(9)})
    assert (moved.status_code, moved.json()["code"]) == (409, "not_as_seen")
    # That whoever leads has accepted meanwhile does not stand in the way.
    assert own(technician, visit, "accept", based_on={"state": "sent", "start": at(11)}).status_code == 200


def test_a_step_is_stamped_with_when_it_happened(world, technician, now):
    visit = world.placed(9, state="en_route", departed_at="2026-11-23T08:40Z")
    moment = at(9, 5)
    done = own(technician, visit, "arrive", version=1, happened_at=moment).json()
    [event] = done["events"]
    assert (event["at"], event["recorded_at"]) == (moment, int(now.timestamp()))
    visit.refresh_from_db()
    assert int(visit.arrived_at.timestamp()) == moment
    assert int(Assignment.objects.get(visit=visit).arrived_at.timestamp()) == moment


@pytest.mark.parametrize(("hour", "code"), [(20, "in_the_future"), (5, "out_of_order")])
def test_a_moment_that_cannot_be_is_refused(world, technician, hour, code):
    visit = world.placed(9, state="en_route", departed_at="2026-11-23T08:40Z")
    assert own(technician, visit, "arrive", version=1, happened_at=at(hour)).json()["code"] == code


def test_what_the_office_changed_besides_does_not_stand_in_the_way(world, technician):
    visit = world.placed(11, state="accepted")
    Visit.objects.filter(pk=visit.pk).update(version=7, notes="Ring twice")
    assert own(technician, visit, "depart", based_on={"state": "accepted", "start": at(11)}).status_code == 200


def test_a_visit_that_is_not_any_more_as_it_was_seen_is_looked_at_again(world, technician):
    visit = world.placed(13, state="sent")
    elsewhere = own(technician, visit, "accept", based_on={"state": "sent", "start": at(11)})
    assert (elsewhere.status_code, elsewhere.json()["code"]) == (409, "not_as_seen")
    ahead = own(technician, visit, "depart", based_on={"state": "accepted"})
    assert ahead.json()["title"] == "This visit is sent now, not accepted."
    assert own(technician, visit, "accept").json()["code"] == "rejected"


def test_an_event_keeps_the_plan_before_and_after(world, dispatcher):
    visit = world.placed(11)
    place = {"version": 1, "technician_id": world.ivor.pk, "start": at(13)}
    assert dispatcher.post(f"/visits/{visit.pk}/place", place).status_code == 200
    event = VisitEvent.objects.get(visit=visit)
    assert event.before == {"technician_id": world.ines.pk, "mates": [], "start": at(11)}
    assert event.after == {"technician_id": world.ivor.pk, "mates": [], "start": at(13)}


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
    dispatcher.post(f"/visits/{visit.pk}/step", {"version": 1, "step": "accept"})
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
    dispatcher.post(f"/visits/{visit.pk}/place", body)
    assert technician.get("/field/day").json()["visits"] == []
    assert "moved to another time" in Message.objects.get().text
    dispatcher.post(f"/visits/{visit.pk}/send", {"version": 2})
    [shown] = technician.get("/field/day").json()["visits"]
    assert shown["start"] == at(14)
