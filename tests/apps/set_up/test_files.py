"""Depots, skills, vehicles, people and shifts from files: what is previewed is what comes of it."""

from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from apps.company.models import Depot
from apps.people.models import Skill, Technician, Vehicle, WeeklyShiftRow
from apps.people.working_days import working_day
from core.basics import Place
from foundation.models import AuditEntry
from tests.apps.conftest import MONDAY, TZ, at

PEOPLE = """name,phone,email,depot,skills,vehicle,starts_at_home,home,home_lon,home_lat,cost_per_hour
Rui Vale,+351 1,rui@vale.example,Northlock,"Door drives 3, Rescue 1",Van 1,yes,Salt Street 3,-24.62,47.22,41.50
Ines Falk,+351 2,ines@vale.example,Northlock,Door drives 4,,,,,,
Nobody Known,,,Atlantis,,,,,,,
"""
SHIFTS = """technician,days,start,end,on_call_until,break_minutes,break_earliest,break_latest,overtime_minutes
Ines Falk,Mon-Fri,7:00,15:00,,30,11:00,13:00,60
Ines Falk,Sat,8:00,,20:00,,,,
Ivor Larkin,Mon-Fri,22:00,06:00,,,,,
"""


@pytest.fixture
def admin(world, as_role):
    return as_role("administrator")


@pytest.fixture
def bring(admin):
    def bring(kind, text, *, sure=False):
        file = SimpleUploadedFile("file.csv", text.encode(), content_type="text/csv")
        return admin.client.post(f"/api/v1/set-up/files/{kind}", {"file": file, "sure": "true" if sure else "false"})

    return bring


def becomes(answer):
    return [(row["what"], row["becomes"]) for row in answer.json()["rows"]]


def test_people_are_previewed_and_then_brought_in_as_previewed(world, bring):
    bring("vehicles", "name,plate,depot\nVan 1,ir-01,Northlock", sure=True)
    preview = bring("people", PEOPLE)
    assert becomes(preview) == [("Rui Vale", "new"), ("Ines Falk", "change"), ("Nobody Known", "refused")]
    assert preview.json()["rows"][2]["problems"] == ["There is no depot Atlantis: bring it in first"]
    assert not Technician.objects.filter(name="Rui Vale").exists()  # nothing yet
    assert not AuditEntry.objects.filter(sentence__contains="Rui Vale").exists()
    done = bring("people", PEOPLE, sure=True)
    assert done.json() == preview.json() | {"sure": True}
    rui = working_day(Technician.objects.get(name="Rui Vale").pk, MONDAY, TZ)
    assert (rui.start_place, rui.spec.skills) == (Place(-24.62, 47.22), {"Door drives": 3, "Rescue": 1})
    assert Technician.objects.get(name="Rui Vale").vehicle.plate == "IR-01"
    assert becomes(bring("people", PEOPLE, sure=True))[:2] == [("Rui Vale", "same"), ("Ines Falk", "same")]


def test_columns_that_are_not_there_stay_as_they_are(world, bring):
    Technician.objects.filter(pk=world.ines.pk).update(phone="+351 9")
    bring("people", "name,depot,skills\nInes Falk,Northlock,Rescue 2", sure=True)
    world.ines.refresh_from_db()
    assert world.ines.phone == "+351 9"
    assert dict(world.ines.skills.values_list("skill__code", "level")) == {"rescue": 2}
    bring("people", "name,depot,phone\nInes Falk,Northlock,", sure=True)
    world.ines.refresh_from_db()
    assert world.ines.phone == ""  # an empty cell empties


def test_shifts_hold_from_today_on_and_the_past_stays(world, bring):
    assert becomes(bring("shifts", SHIFTS, sure=True)) == [
        ("Ines Falk", "change"), ("Ines Falk", "change"), ("Ivor Larkin", "change"),
    ]  # fmt: skip
    tuesday, saturday = MONDAY + timedelta(days=1), MONDAY + timedelta(days=5)
    assert working_day(world.ines.pk, tuesday, TZ).shift.hours.start == at(7, day=tuesday)
    on_call = working_day(world.ines.pk, saturday, TZ).shift
    assert (on_call.hours.seconds, on_call.on_call.seconds) == (0, 12 * 3600)
    friday = MONDAY - timedelta(days=3)
    assert working_day(world.ines.pk, friday, TZ).shift.hours.start == at(8, day=friday)
    assert {row for _who, row in becomes(bring("shifts", SHIFTS))} == {"same"}


def test_all_of_somebody_s_lines_are_taken_or_none(world, bring):
    wrong = SHIFTS.replace("Sat,8:00", "Fri,8:00")  # twice a Friday
    answer = bring("shifts", wrong, sure=True)
    assert becomes(answer) == [("Ines Falk", "refused"), ("Ines Falk", "refused"), ("Ivor Larkin", "change")]
    assert answer.json()["rows"][0]["problems"] == ["Friday has two shifts: write one, with a gap"]
    assert working_day(world.ines.pk, MONDAY, TZ).shift.hours.start == at(8)
    late = SHIFTS.replace("7:00,15:00", "7:00,never")
    rows = bring("shifts", late).json()["rows"]
    assert [row["problems"] for row in rows[:2]] == [
        ["end: “never” is no time like 8:30"], ["another line of the same is wrong"],
    ]  # fmt: skip


def test_weeks_in_turn_say_when_they_begin(world, bring):
    rows = "technician,week,days,start,end{}\nInes Falk,1,Mon-Fri,6,14{}\nInes Falk,2,Mon-Fri,14,22{}\n"
    answer = bring("shifts", rows.format("", "", ""))
    assert "from_day" in answer.json()["rows"][0]["problems"][0]
    dated = rows.format(",from_day", ",2026-11-23", ",2026-11-23")
    assert bring("shifts", dated, sure=True).json()["counts"]["change"] == 2
    later = MONDAY + timedelta(days=7)
    assert working_day(world.ines.pk, MONDAY, TZ).shift.hours.start == at(6)
    assert working_day(world.ines.pk, later, TZ).shift.hours.start == at(14, day=later)


def test_depots_are_found_on_the_map_by_their_address(world, bring):
    text = "name,address,lon,lat\nYard,Millrace Road 20,,\nFar yard,Nowhere 1,,\nNorthlock,Depot,-24.7,47.3\n"
    answer = bring("depots", text, sure=True)
    assert becomes(answer) == [("Yard", "new"), ("Far yard", "refused"), ("Northlock", "change")]
    assert "is not on the map" in answer.json()["rows"][1]["problems"][0]
    assert Depot.objects.get(name="Northlock").lon == -24.7


def test_what_is_taken_out_comes_in_again_as_the_same(world, admin, bring):
    bring("vehicles", "name,plate\nVan 1,IR-01", sure=True)
    bring("people", PEOPLE, sure=True)
    bring("shifts", SHIFTS, sure=True)
    rotation = (
        "technician,week,days,start,end,from_day\nRui Vale,1,Mon,6,14,2026-11-23\nRui Vale,2,Mon,14,22,2026-11-23\n"
    )
    bring("shifts", rotation, sure=True)
    bring(
        "tax-codes",
        "name,category,percent,from_day\nFull,standard,23,2026-01-01\nFull,standard,24,2027-01-01",
        sure=True,
    )
    bring("items", "kind,wording,unit,price,cost,labour_hours,tax\nlabour,Hour,HUR,58,31.5,1.25,Full", sure=True)
    before = list(WeeklyShiftRow.objects.order_by("pk").values())
    for kind in ("depots", "skills", "vehicles", "people", "shifts", "tax-codes", "items"):
        file = admin.get(f"/set-up/files/{kind}")
        text = b"".join(file.streaming_content).decode("utf-8-sig")
        counts = bring(kind, text, sure=True).json()["counts"]
        assert (counts["new"], counts["change"], counts["refused"], counts["same"] > 0) == (0, 0, 0, True), (kind, text)
    assert list(WeeklyShiftRow.objects.order_by("pk").values()) == before


def test_of_none_an_example_is_given_to_fill_in(world, admin):
    Vehicle.objects.all().delete()
    file = admin.get("/set-up/files/vehicles")
    assert b"Van 1,IR-01" in b"".join(file.streaming_content)


def test_a_skill_comes_in_once(world, bring):
    answer = bring("skills", "name\nRope access\nrope access\nRescue\n", sure=True)
    assert [row["becomes"] for row in answer.json()["rows"]] == ["new", "same", "same"]
    assert Skill.objects.filter(name="Rope access").count() == 1


def test_a_file_that_cannot_be_read_says_so(world, bring):
    answer = bring("people", "phone\n1\n")
    assert (answer.status_code, answer.json()["field"]) == (422, "file")


def test_only_who_changes_settings_brings_files_in(world, dispatcher):
    file = SimpleUploadedFile("file.csv", b"name\nx", content_type="text/csv")
    assert dispatcher.client.post("/api/v1/set-up/files/skills", {"file": file}).status_code == 403
    assert dispatcher.get("/set-up/files/people").status_code == 403
