"""How technicians work: start and end of the day, vehicle, cost of an hour, wishes; and the vehicles themselves."""

import pytest

from apps.company.models import Area
from apps.people.models import Skill, Technician, TechnicianWish
from apps.people.working_days import working_day
from core.basics import Place
from tests.apps.conftest import MONDAY, TZ

HOME = {"home_address": "Salt Street 3", "home_lon": -24.62, "home_lat": 47.22}


@pytest.fixture
def admin(world, as_role):
    return as_role("administrator")


@pytest.fixture
def van(admin):
    row = admin.post("/people/vehicles", {"name": "Van 7"}).json()
    facts = {"version": row["version"], "plate": " ir-07 ", "inspection_due": "2026-12-01", "cost_per_km": "0.42"}
    return admin.put(f"/people/vehicles/{row['code']}/facts", facts).json()


def set_terms(api, technician, **terms):
    version = Technician.objects.values_list("version", flat=True).get(pk=technician.pk)
    return api.put(f"/technicians/{technician.pk}/terms", {"version": version, **terms})


def test_a_day_begins_and_ends_at_home_where_that_is_agreed(world, admin):
    depot = working_day(world.ines.pk, MONDAY, TZ).start_place
    answer = set_terms(admin, world.ines, **HOME, starts_at_home=True)
    assert answer.status_code == 200
    day = working_day(world.ines.pk, MONDAY, TZ)
    assert (day.start_place, day.end_place) == (Place(-24.62, 47.22), depot)
    set_terms(admin, world.ines, **HOME, ends_at_home=True)
    day = working_day(world.ines.pk, MONDAY, TZ)
    assert (day.start_place, day.end_place) == (depot, Place(-24.62, 47.22))


def test_terms_are_read_as_they_were_set(world, admin, van):
    hale = Area.objects.get(name="Hale")
    terms = {
        **HOME, "starts_at_home": True, "ends_at_home": False, "vehicle": van["code"], "cost_per_hour": "41.50",
        "liked_skills": ["doors"], "avoided_skills": ["rescue"], "liked_areas": [], "avoided_areas": [hale.pk],
    }  # fmt: skip
    set_terms(admin, world.ines, **terms)
    read = admin.get(f"/technicians/{world.ines.pk}/terms").json()
    assert {name: read[name] for name in terms} == terms
    spec = working_day(world.ines.pk, MONDAY, TZ).spec
    assert (spec.likes, spec.avoids) == ({"Door drives"}, {"Rescue", "Hale"})


@pytest.mark.parametrize(
    ("terms", "field"),
    [
        ({"starts_at_home": True}, "home_address"),
        ({"vehicle": "none-such"}, "vehicle"),
        ({"liked_skills": ["juggling"]}, "wishes"),
        ({"avoided_areas": [10**9]}, "wishes"),
        ({"liked_skills": ["doors"], "avoided_skills": ["doors"]}, "wishes"),
    ],
)
def test_terms_that_cannot_be_change_nothing(world, admin, terms, field):
    set_terms(admin, world.ines, liked_skills=["rescue"])
    answer = set_terms(admin, world.ines, **terms)
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert TechnicianWish.objects.get().skill.code == "rescue"


def test_what_an_hour_costs_is_only_for_who_sets_people_up(world, admin, dispatcher):
    assert dispatcher.get(f"/technicians/{world.ines.pk}/terms").status_code == 403
    assert set_terms(dispatcher, world.ines, cost_per_hour="1.00").status_code == 403
    assert "cost_per_hour" not in dispatcher.get(f"/technicians/{world.ines.pk}").json()


def test_terms_carry_the_version_that_was_seen(world, admin):
    body = {"version": 1, "cost_per_hour": "40.00"}
    assert admin.put(f"/technicians/{world.ines.pk}/terms", body).json()["version"] == 2
    assert admin.put(f"/technicians/{world.ines.pk}/terms", body).status_code == 409


@pytest.mark.usefixtures("planner_here")
def test_of_two_who_can_the_one_who_would_rather_not_goes_last(world, admin, dispatcher):
    """The openings of a visit are ranked with the wishes."""
    visit = world.visit(needs={"doors": 1})

    def first():
        found = dispatcher.get(f"/visits/{visit.pk}/openings", day=MONDAY.isoformat()).json()
        return found["openings"][0]["seats"][0]["technician_id"]

    set_terms(admin, world.ines, avoided_skills=["doors"])
    assert first() == world.ivor.pk
    set_terms(admin, world.ines)
    set_terms(admin, world.ivor, avoided_skills=["doors"])
    assert first() == world.ines.pk


def test_a_vehicle_says_who_drives_it_and_keeps_its_drivers_when_it_is_merged(world, admin, van):
    assert (van["plate"], van["cost_per_km"]) == ("IR-07", "0.42")
    set_terms(admin, world.ines, vehicle=van["code"])
    other = admin.post("/people/vehicles", {"name": "Van 8"}).json()
    assert admin.get(f"/people/vehicles/{van['code']}/uses").json() == [{"what": "drivers", "count": 1}]
    merged = admin.post(f"/people/vehicles/{van['code']}/merge", {"version": van["version"], "into": other["code"]})
    assert merged.status_code == 200
    assert admin.get(f"/people/vehicles/{other['code']}").json()["drivers"] == ["Ines Falk"]
    assert admin.get(f"/people/vehicles/{van['code']}").status_code == 404


def test_a_retired_vehicle_stays_with_its_driver_and_goes_to_nobody_else(world, admin, van):
    set_terms(admin, world.ines, vehicle=van["code"])
    admin.put(f"/people/vehicles/{van['code']}", {"name": "Van 7", "version": van["version"], "retired": True})
    assert set_terms(admin, world.ines, vehicle=van["code"]).status_code == 200
    assert set_terms(admin, world.ivor, vehicle=van["code"]).json()["field"] == "vehicle"


def test_a_plate_is_on_one_vehicle_only(world, admin, van):
    other = admin.post("/people/vehicles", {"name": "Van 8"}).json()
    answer = admin.put(f"/people/vehicles/{other['code']}/facts", {"version": other["version"], "plate": "IR-07"})
    assert (answer.status_code, answer.json()["field"]) == (422, "plate")


def test_a_skill_that_is_merged_takes_the_wishes_along(world, admin):
    set_terms(admin, world.ines, liked_skills=["doors"], avoided_skills=["rescue"])
    set_terms(admin, world.ivor, liked_skills=["doors"])
    doors = Skill.objects.get(code="doors")
    answer = admin.post("/people/skills/doors/merge", {"version": doors.version, "into": "rescue"})
    assert answer.status_code == 200
    said = {(wish.technician_id, wish.skill.code, wish.likes) for wish in TechnicianWish.objects.all()}
    assert said == {(world.ines.pk, "rescue", False), (world.ivor.pk, "rescue", True)}
