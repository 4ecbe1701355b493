"""Roles of the company's own: what they may do, and how far they reach."""

from datetime import date

import pytest
from django.db.models import Q

from apps.company.models import Area, Depot
from apps.customers.models import Site
from apps.orders.models import Visit
from apps.people.models import Account, OwnRole
from apps.scheduling.models import PlanningRun
from apps.scheduling.planner import runs
from core.roles import WHOLE_COMPANY, Action, Role, composed
from foundation.models import AuditEntry
from tests.apps.conftest import MONDAY, at
from tests.apps.foundation.test_access import GUARDED, call

PLANNER = {"name": "Plans the north", "duty": "the north's board", "actions": ["plan", "take_requests"]}


@pytest.fixture
def administrator(as_role):
    return as_role("administrator")


@pytest.fixture
def give(world, administrator):
    """Make a role and give it to the other dispatcher; they go on with it at once."""

    def made(**fields):
        row = administrator.post("/roles", {**PLANNER, **fields})
        assert row.status_code == 201, row.json()
        other = world.accounts["other"]
        other.refresh_from_db()
        body = {"name": other.name, "role": "own", "own_role_id": row.json()["id"], "version": other.version}
        if "work_in_field" in row.json()["actions"]:
            body["technician_id"] = world.ivor.pk
        assert administrator.put(f"/accounts/{other.pk}", body).status_code == 200
        return row.json()

    return made


@pytest.fixture
def other(as_role):
    return as_role("other")


@pytest.fixture
def south(world):
    """A depot, an area with a site and a technician that are not of the north."""
    depot = Depot.objects.create(name="Southgate", address="Depot", lon=world.site.lon, lat=world.site.lat)
    world.ivor.depot = depot
    world.ivor.save()
    area = Area.objects.exclude(pk=world.site.area_id).first()
    site = Site.objects.create(
        customer=world.customer, name="South Hall", address="South 1", lon=world.site.lon, lat=world.site.lat, area=area
    )
    return {"depot": depot, "area": area, "site": site}


def test_a_role_of_ones_own_is_made_given_and_named(world, administrator, give, other):
    role = give()
    assert set(role["actions"]) == composed([Action.PLAN, Action.TAKE_REQUESTS])
    session = other.get("/session").json()
    assert (session["account"]["role"], session["account"]["role_name"]) == ("own", "Plans the north")
    assert set(session["may"]) == set(role["actions"])
    [row] = [row for row in administrator.get("/accounts").json() if row["id"] == world.accounts["other"].pk]
    assert (row["role_name"], row["own_role_id"]) == ("Plans the north", role["id"])
    entry = AuditEntry.objects.filter(entity="account", entity_id=row["id"]).latest("id")
    assert entry.sentence == "made Other Dispatcher Plans the north, no longer dispatcher"
    [told] = administrator.get("/roles").json()["own"]
    assert told["holders"] == ["Other Dispatcher"]


@pytest.mark.parametrize("actions", [["work_in_field"], ["plan", "work_in_field"], ["change_settings", "review"]])
def test_a_role_reaches_what_its_actions_allow_and_nothing_else(give, other, actions):
    role = give(actions=actions)
    other.client.raise_request_exception = False
    wrong = []
    for method, path, operation in GUARDED:
        [needed] = [auth.action for auth in operation.auth_callbacks]
        status = call(other.client, method, path).status_code
        if (needed in role["actions"]) == (status == 403) or status >= 500:
            wrong.append((method, path, status))
    assert wrong == []


def test_another_set_of_actions_holds_from_the_next_thing_they_do(administrator, give, other):
    role = give()
    assert other.get("/board", day=MONDAY.isoformat()).status_code == 200
    body = {**PLANNER, "actions": ["see_orders"], "version": role["version"]}
    assert administrator.put(f"/roles/{role['id']}", body).status_code == 200
    assert other.get("/board", day=MONDAY.isoformat()).status_code == 403
    assert administrator.put(f"/roles/{role['id']}", body).status_code == 409, "seen too long ago"


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"name": " "}, "needs a name"),
        ({"name": "Dispatcher"}, "is a role called dispatcher already"),
        ({"actions": []}, "see work orders"),
        ({"actions": ["see_customers"]}, "see work orders"),
        ({"actions": ["manage_accounts"]}, "cannot be part"),
        ({"area_ids": [10**9]}, "no such area"),
        ({"depot_ids": [10**9]}, "no such depot"),
    ],
)
def test_what_cannot_be_a_role_is_refused_with_the_reason(administrator, fields, words):
    answer = administrator.post("/roles", {**PLANNER, **fields})
    assert answer.status_code == 422
    assert words in answer.json()["title"]
    assert not OwnRole.objects.exists()


@pytest.mark.parametrize("action", sorted(WHOLE_COMPANY))
def test_what_holds_for_the_whole_company_is_not_narrowed(world, administrator, action):
    body = {**PLANNER, "actions": [action], "area_ids": [world.site.area_id]}
    answer = administrator.post("/roles", body)
    assert answer.status_code == 422
    assert "whole company" in answer.json()["title"]


def test_a_role_that_somebody_has_stays(administrator, give):
    role = give()
    gone = administrator.client.delete(f"/api/v1/roles/{role['id']}")
    assert (gone.status_code, gone.json()["code"]) == (422, "in_use")
    Account.objects.filter(own_role=role["id"]).update(role=Role.DISPATCHER, own_role=None)
    assert administrator.client.delete(f"/api/v1/roles/{role['id']}").status_code == 204


def test_nobody_but_an_administrator_makes_roles(as_role):
    for role in ("manager", "dispatcher", "technician"):
        assert as_role(role).post("/roles", PLANNER).status_code == 403


def test_an_account_says_which_role_of_ones_own(world, administrator):
    other = world.accounts["other"]
    for role, own in (("own", None), ("dispatcher", 10**9), ("own", 10**9)):
        body = {"name": other.name, "role": role, "own_role_id": own, "version": other.version}
        assert administrator.put(f"/accounts/{other.pk}", body).status_code == 422


def test_who_plans_and_works_from_the_phone_does_both(world, give, other):
    give(actions=["plan", "work_in_field"])
    own = world.placed(12, technician=world.ivor, state="accepted")
    of_ines = world.placed(12, state="accepted")
    deed = {"step": "depart", "version": 1}
    assert other.post(f"/visits/{of_ines.pk}/step", deed).status_code == 200, "stamped from the office"
    assert [row["id"] for row in other.get("/field/day").json()["visits"]] == [own.pk]
    assert other.post(f"/visits/{own.pk}/step", deed).status_code == 200


# --- how far it reaches ------------------------------------------------------------------------------------


def test_work_outside_of_its_areas_is_seen_and_not_changed(world, give, other, south):
    give(area_ids=[world.site.area_id])
    inside, outside = world.visit(), world.visit()
    outside.order.site = south["site"]
    outside.order.save()
    assert other.get(f"/visits/{outside.pk}").status_code == 200
    place = {"version": 1, "technician_id": world.ines.pk, "start": at(12)}
    refused = other.post(f"/visits/{outside.pk}/place", place)
    assert (refused.status_code, refused.json()["code"]) == (403, "out_of_reach")
    assert f"in {south['area'].name}" in refused.json()["title"]
    assert other.post(f"/visits/{outside.pk}/length", {"version": 1, "seconds": 1800}).status_code == 403
    assert other.post(f"/visits/{inside.pk}/place", place).status_code == 200


def test_technicians_of_other_depots_are_not_planned(world, give, other, south):
    give(depot_ids=[world.ines.depot_id])
    visit = world.visit()
    to_ivor = {"version": 1, "technician_id": world.ivor.pk, "start": at(12)}
    assert other.post(f"/visits/{visit.pk}/place", to_ivor).json()["code"] == "out_of_reach"
    with_ivor = {"version": 1, "technician_id": world.ines.pk, "start": at(12), "mates": [world.ivor.pk]}
    assert other.post(f"/visits/{visit.pk}/place", with_ivor).json()["code"] == "out_of_reach"
    his = world.placed(12, technician=world.ivor)
    assert other.post(f"/visits/{his.pk}/unplace", {"version": 1}).json()["code"] == "out_of_reach"
    away = {"technician_id": world.ivor.pk, "start": at(12), "end": at(14)}
    assert other.post("/people/absences", away).json()["code"] == "out_of_reach"
    assert other.post("/people/absences", {**away, "technician_id": world.ines.pk}).status_code in (200, 201)


def test_what_is_offered_to_who_is_narrowed_is_what_they_can_do(world, planner_here, give, other, south):
    """Verdict, fitting people, openings and what fills a gap: none offers what a placement would refuse."""
    give(depot_ids=[world.ines.depot_id], area_ids=[world.site.area_id])
    inside, outside = world.visit(), world.visit()
    outside.order.site = south["site"]
    outside.order.save()
    for visit in (inside, outside):
        for person in (world.ines, world.ivor):
            asked = {"visit_id": visit.pk, "technician_id": person.pk, "start": at(12)}
            verdict = other.post("/scheduling/judge", asked).json()
            place = {"version": 1, "technician_id": person.pk, "start": at(12)}
            fits = {
                row["technician_id"]: row["reasons"]
                for row in other.get(f"/visits/{visit.pk}/fits", day=MONDAY.isoformat()).json()
            }
            can = visit is inside and person is world.ines
            assert verdict["allowed"] == can == (fits[person.pk] == [])
            if not can:
                assert other.post(f"/visits/{visit.pk}/place", place).status_code == 403
        found = other.get(f"/visits/{visit.pk}/openings", day=MONDAY.isoformat(), days=2).json()
        offered = {seat["technician_id"] for row in found["openings"] for seat in row["seats"]}
        assert offered == ({world.ines.pk} if visit is inside else set())
        assert found["possible"] == len(offered)
        assert world.ivor.pk in {row["technician_id"] for row in found["excluded"]}
        gap = other.get("/board/gap", technician_id=world.ines.pk, start=at(12), end=at(15)).json()
        assert {row["visit"]["id"] for row in gap["fillers"]} == {inside.pk}


def test_a_proposal_to_who_is_narrowed_holds_only_what_they_can_accept(world, give, other, south):
    give(depot_ids=[world.ines.depot_id], area_ids=[world.site.area_id])
    inside, outside, his = world.visit(), world.visit(), world.placed(12, technician=world.ivor)
    outside.order.site = south["site"]
    outside.order.save()
    tuesday = date(2026, 11, 24).isoformat()
    run = other.post("/runs", {"kind": "plan", "day": MONDAY.isoformat(), "days": 2, "seconds": 0.4}).json()
    runs.compute(run["id"])
    done = other.get(f"/runs/{run['id']}").json()
    changes = PlanningRun.objects.get(pk=run["id"]).proposal["changes"]
    assert [row["visit_id"] for row in changes] == [inside.pk], done["state"]
    assert {place["technician_id"] for row in changes for place in row["after"]} == {world.ines.pk}
    accepted = other.post(f"/runs/{run['id']}/accept", {"visit_ids": [inside.pk]})
    assert accepted.json()["changed"] == [inside.pk]
    assert not Visit.objects.filter(Q(pk=outside.pk, start__isnull=False) | Q(pk=his.pk, version__gt=1)).exists()
    assert other.post("/runs", {"kind": "improve", "day": tuesday, "technician_id": world.ivor.pk}).status_code == 403


def test_sending_and_locking_a_day_passes_over_what_is_out_of_reach(world, give, other, south):
    give(depot_ids=[world.ines.depot_id])
    hers, his = world.placed(12), world.placed(12, technician=world.ivor)
    read = other.get("/messages/preview", day=MONDAY.isoformat()).json()
    assert [row["visit_id"] for row in read] == [hers.pk]
    assert other.post("/board/send-day", {"day": MONDAY.isoformat()}).json()["sent"] == 1
    letter = other.post(f"/visits/{his.pk}/messages", {"to": "customer", "text": "Hello"})
    assert letter.json()["code"] == "out_of_reach"
    assert other.post("/board/lock-days", {"day": MONDAY.isoformat(), "days": 1, "pinned": True}).json()["changed"] == 1
    hers.refresh_from_db()
    his.refresh_from_db()
    assert (hers.state, hers.pinned, his.state, his.pinned) == ("sent", True, "placed", False)


def test_no_time_is_offered_where_none_could_be_promised(world, planner_here, give, other, south):
    give(area_ids=[world.site.area_id], actions=["plan", "take_requests", "make_orders", "offer_times"])
    inside, outside = world.visit(), world.visit()
    outside.order.site = south["site"]
    outside.order.save()
    assert other.post(f"/visits/{inside.pk}/offers", {}).status_code == 200
    assert other.post(f"/visits/{outside.pk}/offers", {}).json()["code"] == "out_of_reach"
    call = {"site_id": south["site"].pk, "what_is_wrong": "Noise"}
    assert other.post("/appointments/offers", call).json()["code"] == "out_of_reach"


def test_an_order_is_made_and_changed_only_inside_its_areas(world, give, other, south):
    give(area_ids=[south["area"].pk], actions=["make_orders"])
    visit = world.visit()
    answer = other.post(f"/orders/{visit.order_id}/visits", {"version": 1, "title": "Second", "duration_seconds": 3600})
    assert (answer.status_code, answer.json()["code"]) == (403, "out_of_reach")
