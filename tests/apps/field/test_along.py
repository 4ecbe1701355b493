"""What a phone takes along is what its addresses would answer."""

from datetime import date

from foundation.moments import to_datetime
from tests.apps.conftest import at

TUESDAY = date(2026, 11, 24)
PHONE = "0193f0aa-0000-7000-8000-000000000001"


def taken(technician, known=None):
    technician.post("/field/phones", {"id": PHONE, "name": "Chrome on Android"})
    return technician.post("/field/along", {"phone": PHONE, "known": known or {}}).json()


def test_the_days_ahead_and_their_visits_are_taken_along(world, technician):
    own = world.placed(11, state="sent")
    tomorrow = world.visit(technician=world.ines, state="sent", start=to_datetime(at(11, day=TUESDAY)))
    world.placed(12, technician=world.ivor, state="sent")
    rows = {row["name"]: row["content"] for row in taken(technician)["news"]}
    day = technician.get("/field/day").json()
    assert rows[f"day {day['day']}"] == day
    assert {name for name in rows if name.startswith("visit")} == {f"visit {own.pk}", f"visit {tomorrow.pk}"}
    assert rows[f"visit {own.pk}"] == technician.get(f"/field/visits/{own.pk}").json()


def test_what_the_phone_has_is_not_sent_again_until_it_changes(world, technician, dispatcher):
    visit = world.placed(11, state="sent")
    first = taken(technician)
    known = {row["name"]: row["mark"] for row in first["news"]}
    assert taken(technician, known) == {"names": first["names"], "news": []}
    dispatcher.post(f"/visits/{visit.pk}/step", {"version": 1, "step": "accept", "note": "", "tell": ""})
    changed = {row["name"] for row in taken(technician, known)["news"]}
    assert f"visit {visit.pk}" in changed


def test_what_is_not_the_technician_s_any_more_is_not_named(world, technician, dispatcher):
    visit = world.placed(11, state="sent")
    known = {row["name"]: row["mark"] for row in taken(technician)["news"]}
    dispatcher.post(f"/visits/{visit.pk}/unplace", {"version": 1})
    assert f"visit {visit.pk}" not in taken(technician, known)["names"]


def test_the_office_takes_nothing_along(dispatcher):
    assert dispatcher.post("/field/along", {"phone": PHONE, "known": {}}).status_code == 403
