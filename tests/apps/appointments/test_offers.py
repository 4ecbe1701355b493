"""Offering a time over the API: what is sold is held, and no window is sold twice."""

import threading
from datetime import timedelta
from types import SimpleNamespace

import pytest
from django.db import connection
from django.test import Client

from apps.appointments.planner import offers as planner
from apps.customers.models import Site
from apps.messages.models import Message
from apps.orders.models import Visit, WorkOrder
from apps.people.models import Absence, TechnicianSkill, WeeklyShiftRow
from apps.roads.queries import find_addresses
from foundation import audit, clock
from foundation.models import AuditEntry, UndoEntry
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at, lies

TUESDAY = MONDAY + timedelta(days=1)
MORNING = {"start": at(8, day=TUESDAY), "end": at(10, day=TUESDAY)}


pytestmark = pytest.mark.usefixtures("planner_here")


def call(world, **more):
    return {
        "site_id": world.site.pk, "what_is_wrong": "Door squeaks", "job_type_id": world.door_job.pk,
        "contact_phone": "+351 296 111 222", **more,
    }  # fmt: skip


def alone(world):
    """Only Ines works; Ivor is away all week."""
    Absence.objects.create(
        technician=world.ivor, start=to_datetime(at(0)), end=to_datetime(at(0, day=MONDAY + timedelta(days=14)))
    )


@pytest.mark.django_db
def test_windows_are_offered_with_reasons_and_only_ahead(world, as_role):
    found = as_role("intake").post("/appointments/offers", call(world)).json()
    assert found["looked_at"] == len(found["offers"]) > 20
    assert all(offer["start"] > at(10) and offer["reasons"] for offer in found["offers"])
    assert {row["name"] for offer in found["offers"] for row in offer["technicians"]} <= {"Ines Falk", "Ivor Larkin"}


@pytest.mark.django_db
def test_the_days_are_made_ready_as_soon_as_a_call_is_expected_and_not_before(world, as_role, monkeypatch):
    monkeypatch.setattr(planner, "connection", SimpleNamespace(close=lambda: None))
    monkeypatch.setattr(planner, "_asked_at", 0.0)
    monkeypatch.setattr(planner, "_world", None)
    planner.keep_ready()
    assert planner._world is None
    assert as_role("intake").post("/appointments/offers/expected", {}).status_code == 204
    planner.keep_ready()
    assert planner._world.finder is not None


@pytest.mark.django_db
def test_a_wish_narrows_them(world, as_role):
    wish = {"part": "morning", "weekdays": [1], "not_before": "2026-11-24"}
    found = as_role("intake").post("/appointments/offers", call(world, wish=wish)).json()
    assert {offer["start"] for offer in found["offers"]} >= {MORNING["start"]}
    assert found["looked_at"] == 4  # two Tuesdays, two windows each


@pytest.mark.django_db
def test_taking_a_window_makes_everything_at_once_and_tells_the_customer(world, as_role):
    made = as_role("intake").post("/appointments/book", call(world, window=MORNING)).json()
    visit = Visit.objects.get(pk=made["visit_id"])
    assert (visit.state, visit.technician_id, visit.promise.start) == ("open", None, MORNING["start"])
    assert WorkOrder.objects.get(pk=made["order_id"]).promise_start == visit.promise_start
    [message] = Message.objects.filter(visit=visit)
    assert (
        message.text
        == f"Test Lifts: we will be at Seagate Hall on Tue 24 Nov between 08:00 and 10:00 ({made['order']})."
    )


@pytest.mark.django_db
def test_with_the_technician_where_that_is_asked(world, as_role):
    made = as_role("intake").post("/appointments/book", call(world, window=MORNING, assign=True)).json()
    visit = Visit.objects.get(pk=made["visit_id"])
    assert visit.state == "placed"
    assert MORNING["start"] <= visit.start.timestamp() <= MORNING["end"]
    assert made["technician"] in ("Ines Falk", "Ivor Larkin")


@pytest.mark.django_db
def test_a_promise_without_a_technician_is_held_against_the_next_caller(world, as_role):
    alone(world)
    intake = as_role("intake")
    long = {"duration_seconds": 4 * 3600, "window": {"start": at(12, day=TUESDAY), "end": at(12, 30, day=TUESDAY)}}
    assert intake.post("/appointments/book", call(world, **long)).status_code == 201
    gone = intake.post("/appointments/book", call(world, **long))
    assert (gone.status_code, gone.json()["code"]) == (409, "window_gone")
    assert WorkOrder.objects.count() == 1  # and nothing else was made either


@pytest.mark.django_db(transaction=True)
def test_two_agents_cannot_sell_the_same_last_window(world, as_role):
    alone(world)
    body = call(world, duration_seconds=4 * 3600, window={"start": at(12, day=TUESDAY), "end": at(12, 30, day=TUESDAY)})
    answers = []
    ready = threading.Barrier(2)

    def sell(role):
        client = Client(HTTP_HOST="127.0.0.1")
        client.force_login(world.accounts[role], backend="apps.accounts.backends.AccountBackend")
        ready.wait()
        try:
            answers.append(client.post("/api/v1/appointments/book", body, content_type="application/json").status_code)
        finally:
            connection.close()

    agents = [threading.Thread(target=sell, args=(role,)) for role in ("intake", "dispatcher")]
    for agent in agents:
        agent.start()
    for agent in agents:
        agent.join(60)
    assert sorted(answers) == [201, 409]
    assert Visit.objects.filter(promise_start__isnull=False).count() == 1


@pytest.mark.django_db
def test_nothing_typed_is_lost_when_the_planner_is_away(world, as_role, monkeypatch, settings):
    monkeypatch.undo()
    settings.PLANNER_URL = "http://127.0.0.1:9"  # nobody listens there
    answer = as_role("intake").post("/appointments/book", call(world, window=MORNING))
    assert (answer.status_code, answer.json()["code"]) == (503, "no_planner")
    assert WorkOrder.objects.count() == 0
    assert as_role("intake").post("/appointments/book", call(world)).status_code == 201


@pytest.mark.django_db
def test_small_work_makes_room_for_urgent_work_in_one_step(world, dispatcher):
    alone(world)
    small = world.placed(10, 30, duration_seconds=5 * 3600, priority=5)
    urgent = call(world, priority=1, duration_seconds=3 * 3600)
    window = {"start": at(10, 5), "end": at(11)}
    made = dispatcher.post("/appointments/book", {**urgent, "window": window}).json()
    small.refresh_from_db()
    assert made["technician"] == "Ines Falk"
    assert small.state == "open" or small.start > to_datetime(at(12))
    steps = set(UndoEntry.objects.filter(undone=False).values_list("intention", flat=True))
    assert len(steps) == 1
    undone = dispatcher.post("/board/undo")
    assert undone.status_code == 200, undone.json()
    small.refresh_from_db()
    assert (small.state, small.start) == ("placed", to_datetime(at(10, 30)))


@pytest.mark.django_db
@pytest.mark.parametrize("others_take", [{}, {"car-lamp": 1}])
def test_a_part_that_nothing_else_takes_is_looked_for_as_well(world, as_role, others_take):
    """What the days know of vans comes from the work that is on them; a question may be about another part."""
    world.placed(13, takes=others_take)
    for code, number in (("car-lamp", 2), ("light-curtain", 1)):
        lies(world.ines, code, number)
    lies(world.ivor, "car-lamp", 0)
    intake = as_role("intake")
    has, lacks = world.visit(takes={"light-curtain": 1}), world.visit(takes={"light-curtain": 2})
    offers = intake.post(f"/visits/{has.pk}/offers", {}).json()["offers"]
    assert {row["name"] for offer in offers for row in offer["technicians"]} == {"Ines Falk"}
    window = {"start": offers[0]["start"], "end": offers[0]["end"]}
    taken = intake.post(f"/visits/{has.pk}/promise", {"version": 1, "window": window, "assign": True})
    assert (taken.status_code, taken.json()["technician_id"]) == (200, world.ines.pk)
    found = intake.post(f"/visits/{lacks.pk}/offers", {}).json()
    assert (found["offers"], found["refusals"][0][:32]) == ([], "2 of 2 technicians are kept out ")


@pytest.mark.django_db
@pytest.mark.parametrize("more", [{"crew": 2}, {"takes": {"light-curtain": 1}}, {}])
def test_a_place_where_nobody_goes_yet_is_offered_a_time_too(world, as_role, more):
    world.placed(13)
    where = find_addresses("Kiln Lane 4, Kilnfield")[0]
    site = Site.objects.create(customer=world.customer, name="New Hall", lon=where.place.lon, lat=where.place.lat,
                               address=where.address.text, area=world.site.area)  # fmt: skip
    lies(world.ines, "light-curtain", 1)
    visit = world.visit(**more)
    WorkOrder.objects.filter(pk=visit.order_id).update(site=site)
    found = as_role("intake").post(f"/visits/{visit.pk}/offers", {}).json()
    assert found["offers"], found["refusals"]
    [other] = {len(offer["technicians"]) for offer in found["offers"]}
    assert other == more.get("crew", 1)


@pytest.mark.django_db
def test_one_piece_in_the_depot_is_offered_from_the_next_day_on_by_any_one_who_starts_there(world, as_role):
    """Both have set out already: today nobody can fetch it there."""
    for number, who in enumerate((world.ines, world.ivor)):
        world.placed(9 + number, technician=who, takes={"car-lamp": 1}, departed_at=to_datetime(at(9)))
        lies(who, "car-lamp", 5)
    lies(world.ines.depot, "light-curtain", 1)
    visit = world.visit(takes={"light-curtain": 1})
    found = as_role("intake").post(f"/visits/{visit.pk}/offers", {}).json()
    assert found["offers"], found["refusals"]
    assert min(offer["start"] for offer in found["offers"]) > at(23)
    window = {"start": found["offers"][0]["start"], "end": found["offers"][0]["end"]}
    answer = as_role("intake").post(f"/visits/{visit.pk}/promise", {"version": 1, "window": window, "assign": True})
    assert answer.status_code == 200, answer.json()
    # The piece is spoken for: nobody is promised it again.
    other = world.visit(takes={"light-curtain": 1})
    assert as_role("intake").post(f"/visits/{other.pk}/offers", {}).json()["offers"] == []


@pytest.mark.django_db
def test_no_window_says_why(world, as_role):
    TechnicianSkill.objects.all().delete()
    found = as_role("intake").post("/appointments/offers", call(world)).json()
    assert found["offers"] == []
    assert found["refusals"] == ["2 of 2 technicians lack Door drives 1"]


@pytest.mark.django_db
def test_what_a_customer_needs_is_asked_before_there_is_an_order(world, as_role):
    world.customer.needs_po_number = True
    world.customer.save()
    answer = as_role("intake").post("/appointments/book", call(world))
    assert (answer.status_code, answer.json()["field"]) == (422, "po_number")
    details = {"po_number": "PO 77", "technician_note": "Ring twice", "invoice_text": "As agreed"}
    made = as_role("intake").post("/appointments/book", call(world, details=details)).json()
    order = as_role("intake").get(f"/orders/{made['order_id']}").json()
    assert (order["po_number"], order["technician_note"], order["invoice_text"]) == ("PO 77", "Ring twice", "As agreed")


@pytest.mark.django_db
def test_a_company_without_anybody_says_so(world, as_role):
    WeeklyShiftRow.objects.all().delete()
    found = as_role("intake").post("/appointments/offers", call(world)).json()
    assert (found["offers"], found["refusals"]) == ([], ["Nobody has a shift on these days"])
    world.visit(promise_start=to_datetime(MORNING["start"]), promise_end=to_datetime(MORNING["end"]))
    found = as_role("intake").get("/appointments/capacity", first="2026-11-23", days=2).json()
    assert {cell["shifts"] for row in (*found["areas"], found["total"]) for cell in row["days"]} == {0}


@pytest.mark.django_db
def test_a_write_that_commits_late_is_noticed(world):
    """Its entry has a lower number than the last one that was seen."""
    AuditEntry.objects.create(id=500, at=clock.now(), action="x", entity="y", entity_id=1)
    seen = audit.mark()
    AuditEntry.objects.create(id=499, at=clock.now(), action="x", entity="y", entity_id=1)
    assert audit.mark() != seen


@pytest.mark.django_db
def test_standby_keeps_the_conditions(world, as_role):
    standby = {"part": "morning", "notice_minutes": 90}
    made = as_role("intake").post("/appointments/book", call(world, window=MORNING, standby=standby)).json()
    visit = Visit.objects.get(pk=made["visit_id"])
    assert (visit.standby["part"], visit.standby["notice_minutes"]) == ("morning", 90)
    assert Message.objects.filter(text__contains="standby list").count() == 1
    off = as_role("intake").post(f"/visits/{visit.pk}/standby/end", {"version": visit.version})
    assert off.json()["standby"] is None


@pytest.mark.django_db
def test_the_days_are_made_ready_again_as_soon_as_something_has_changed(world, as_role, monkeypatch):
    monkeypatch.setattr(planner, "connection", SimpleNamespace(close=lambda: None))
    planner._world, planner._asked_at = None, 0.0
    planner.keep_ready()
    assert planner._world is None  # nobody asks
    as_role("intake").post("/appointments/offers", call(world))
    first = planner._world
    planner.keep_ready()
    assert planner._world is first  # nothing has changed
    as_role("intake").post(f"/customers/{world.customer.pk}/notes", {"text": "x"})
    planner.keep_ready()
    assert planner._world is not first


# --- urgent work ------------------------------------------------------------------------------------------


@pytest.mark.django_db
def test_what_cannot_wait_says_until_when_and_who_could_be_there_first(world, as_role):
    world.door_job.respond_minutes = 45
    world.door_job.save()
    world.placed(10, technician=world.ines, state="on_site", arrived_at=to_datetime(at(10)))
    found = as_role("intake").post("/appointments/offers", call(world, priority=1)).json()
    assert (found["urgent"]["respond_by"], found["urgent"]["minutes"]) == (at(10, 45), 45)
    assert found["urgent"]["first"][0]["name"] == "Ivor Larkin"
    assert not any(offer["recommended"] for offer in found["offers"] if offer["start"] > at(10, 45))
    # Whoever is named first can really be given it, and starts then.
    made = as_role("dispatcher").post("/appointments/book", call(world, priority=1)).json()
    named = found["urgent"]["first"][0]
    rows = as_role("dispatcher").get(f"/visits/{made['visit_id']}/responders").json()
    assert (rows[0]["name"], rows[0]["start"]) == (named["name"], named["start"])


@pytest.mark.django_db
def test_other_work_is_not_urgent_and_off_means_no_points(world, as_role):
    admin = as_role("administrator")
    version = admin.get("/company/settings").json()["version"]
    admin.post("/company/settings", {"version": version, "changes": {"offers_on": False}})
    found = as_role("intake").post("/appointments/offers", call(world)).json()
    assert (found["urgent"], found["recommend"]) == (None, False)
    assert not any(offer["recommended"] for offer in found["offers"])


@pytest.mark.django_db
def test_a_window_that_cannot_be_kept_is_refused_with_the_true_reason(world, as_role):
    sunday = MONDAY + timedelta(days=6)
    window = {"start": at(8, day=sunday), "end": at(10, day=sunday)}
    refused = as_role("intake").post("/appointments/book", call(world, window=window))
    assert refused.status_code == 409
    assert "Nobody has a shift on Sun 29 Nov" in refused.json()["title"]
    long = as_role("intake").post("/appointments/book", call(world, window=MORNING, duration_seconds=20 * 3600))
    assert "the longest shift has 8 h 30" in long.json()["title"]


@pytest.mark.django_db
def test_an_empty_company_gets_a_sentence(world, as_role):
    WeeklyShiftRow.objects.all().delete()
    found = as_role("intake").post("/appointments/offers", call(world))
    assert found.status_code == 200
    assert (found.json()["offers"], found.json()["refusals"]) == ([], ["Nobody has a shift on these days"])


# --- what is open there already -----------------------------------------------------------------------------


@pytest.mark.django_db
def test_what_is_open_at_a_site_is_told_before_a_second_one_is_made(world, as_role):
    api = as_role("intake")
    waits = api.post("/requests", {"site_id": world.site.pk, "what_is_wrong": "Squeaks"}).json()
    world.placed(11, state="done")
    world.placed(13, state="cancelled")
    ahead = world.placed(15)
    requests = api.get("/requests", state="new", site_id=world.site.pk).json()["rows"]
    assert [row["number"] for row in requests] == [waits["number"]]
    rows = api.get(f"/orders/open/site/{world.site.pk}").json()
    assert [(row["visit_id"], row["technician"], row["start"]) for row in rows] == [(ahead.pk, "Ines Falk", at(15))]


@pytest.mark.django_db
def test_the_deadlines_of_a_request_that_came_before_count_from_when_it_came(world, as_role):
    """What is offered for it is what it is booked with: not a day more than was promised when it came in."""
    intake = as_role("intake")
    world.door_job.resolve_minutes = 28 * 60
    world.door_job.save()
    with clock.frozen(to_datetime(at(4))):
        request = intake.post("/requests", call(world)).json()
    asked = {"wish": {"part": "", "weekdays": []}}
    fresh = intake.post("/appointments/offers", call(world, **asked)).json()["offers"]
    known = intake.post("/appointments/offers", call(world, **asked, request_id=request["id"])).json()["offers"]
    due = at(8, day=TUESDAY)
    assert any(row["start"] >= due for row in fresh)
    assert known
    assert all(row["start"] < due for row in known)
    window = {"start": known[-1]["start"], "end": known[-1]["end"]}
    body = call(world, window=window, request_id=request["id"], version=request["version"])
    answer = intake.post("/appointments/book", body)
    assert answer.status_code == 201, answer.json()
    visit = Visit.objects.get(pk=answer.json()["visit_id"])
    assert int(visit.due.timestamp()) == due
