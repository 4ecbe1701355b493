"""A technician's day: recorded on the phone, kept once, asked about where it is odd, read at the office."""

import io
import uuid

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from apps.company.models import RecordFields
from apps.daylogs.models import DayLog, Fuel, Pause
from apps.people.models import Vehicle
from tests.apps.conftest import MONDAY, at
from tests.apps.field.test_deeds import Recorder

DAY = MONDAY.isoformat()
CHECKS = [
    {"key": "tyres", "label": "Tyres", "kind": "yes_no", "required": "to close"},
    {"key": "lights", "label": "Lights", "kind": "yes_no"},
]


@pytest.fixture
def recorder(technician):
    return Recorder(technician)


def of_day(recorder, kind, when, **body):
    return recorder.deed(kind, None, {"day": DAY} | body, when=when)


def own(technician):
    return technician.get("/field/log", day=DAY).json()


def office(dispatcher, world):
    return dispatcher.get(f"/day-logs/of-technician/{world.ines.pk}").json()


def test_a_whole_day_is_kept_and_adds_up(world, recorder, technician, dispatcher):
    van = Vehicle.objects.create(code="van-1", name="Van 1")
    outcomes = recorder.outcomes(
        of_day(recorder, "clock on", at(7)),
        of_day(recorder, "vehicle", at(7, 5), vehicle_id=van.pk, name="Van 1", odometer_began=1000),
        of_day(recorder, "pause", at(8), begins=True), of_day(recorder, "pause", at(8, 30), begins=False),
        of_day(recorder, "vehicle", at(9), odometer_ended=1064), of_day(recorder, "clock off", at(9)),
    )  # fmt: skip
    assert outcomes == ["applied"] * 6
    found = office(dispatcher, world)[0]
    assert (found["day"], found["vehicle"], found["began"], found["ended"]) == (DAY, "Van 1", at(7), at(9))
    assert found["summary"] | {"open": None} == {
        "hours": 5400, "pauses": 1800, "driving": 0, "at_visits": 0, "kilometres": 64, "open": None,
    }  # fmt: skip
    assert found["odd"] == []
    assert own(technician)["pauses"] == [{"since": at(8), "until": at(8, 30)}]


def test_everything_may_come_twice_and_from_two_phones(recorder, technician, world):
    deeds = [of_day(recorder, "clock on", at(7)), of_day(recorder, "pause", at(8), begins=True)]
    recorder.send(*deeds)
    recorder.send(*deeds)
    other = Recorder(technician, phone="01936f2e-0000-7000-8000-0000000000bb")
    assert other.outcomes(of_day(other, "clock on", at(7, 30)), of_day(other, "pause", at(8, 1), begins=True)) == [
        "applied", "applied",
    ]  # fmt: skip
    log = DayLog.objects.get()
    assert int(log.began_at.timestamp()) == at(7)
    assert Pause.objects.count() == 1


def test_the_end_of_the_day_ends_a_break_that_goes_on(recorder, technician):
    recorder.send(
        of_day(recorder, "clock on", at(7)), of_day(recorder, "pause", at(8), begins=True),
        of_day(recorder, "clock off", at(9)),
    )  # fmt: skip
    assert own(technician)["pauses"] == [{"since": at(8), "until": at(9)}]


def test_what_was_forgotten_is_asked_about_typed_later_and_says_so(world, recorder, technician, dispatcher):
    world.placed(8, state="done", arrived_at=None)
    recorder.send(of_day(recorder, "clock off", at(9, 50)), of_day(recorder, "clock on", at(9, 55)))
    typed = of_day(recorder, "typed time", at(9, 56), which="began", at=at(6, 45))
    later = of_day(recorder, "typed time", at(9, 56), which="began", at=at(9, 55))
    assert recorder.outcomes(typed, later) == ["applied", "refused"]
    found = own(technician)
    assert (found["began"], found["began_typed"], found["ended_typed"]) == (at(6, 45), True, False)
    assert recorder.outcomes(of_day(recorder, "typed time", at(9, 57), which="ended", at=at(23))) == ["refused"]


def test_what_is_odd_is_explained_and_then_not_asked_again(world, recorder, dispatcher):
    recorder.send(of_day(recorder, "clock on", at(1)), of_day(recorder, "clock off", at(9, 59)))
    keys = {row["key"] for row in office(dispatcher, world)[0]["odd"]}
    assert "no pause" in keys
    recorder.send(of_day(recorder, "explain", at(9, 59), key="no pause", words="ate in the van"))
    found = office(dispatcher, world)[0]
    assert "no pause" not in {row["key"] for row in found["odd"]}
    assert found["explained"] == [{"key": "no pause", "words": "ate in the van"}]


def test_the_vehicle_is_checked_by_the_company_s_own_questions(world, recorder, technician, dispatcher):
    RecordFields.objects.create(record="vehicle", questions=CHECKS)
    van = Vehicle.objects.create(code="van-1", name="Van 1")
    recorder.send(of_day(recorder, "clock on", at(7)), of_day(recorder, "vehicle", at(7), vehicle_id=van.pk))
    assert [row["label"] for row in own(technician)["questions"]] == ["Tyres", "Lights"]
    assert "no checks" in {row["key"] for row in office(dispatcher, world)[0]["odd"]}
    wrong = of_day(recorder, "vehicle", at(7), checks={"tyres": "round"})
    right = of_day(recorder, "vehicle", at(7), checks={"tyres": True})
    assert recorder.outcomes(wrong, right) == ["refused", "applied"]
    assert "no checks" not in {row["key"] for row in office(dispatcher, world)[0]["odd"]}


def test_fuel_is_kept_with_the_photo_of_its_receipt(world, recorder, technician, dispatcher):
    file = io.BytesIO()
    Image.new("RGB", (40, 30), "grey").save(file, "JPEG")
    content, name = file.getvalue(), str(uuid.uuid4())
    body = {"id": name, "millilitres": 41_300, "amount": 6_820, "size": len(content)}
    deed = of_day(recorder, "fuel", at(8), **body)
    assert recorder.outcomes(deed, deed) == ["applied", "applied"]

    def send(begin, end):
        piece = SimpleUploadedFile("piece", content[begin:end])
        return technician.client.post(f"/api/v1/field/pictures/{name}", {"at": begin, "file": piece})

    assert dispatcher.get(f"/day-logs/receipts/{name}").status_code == 404
    assert send(0, 100).json() == {"length": 100}
    assert send(0, len(content)).json() == {"length": len(content)}
    assert send(0, len(content)).json() == {"length": len(content)}
    shown = dispatcher.client.get(f"/api/v1/day-logs/receipts/{name}")
    assert b"".join(shown.streaming_content) == content
    row = own(technician)["fuel"][0]
    assert (row["millilitres"], row["amount"], row["here"]) == (41_300, 6_820, True)
    recorder.send(of_day(recorder, "fuel out", at(8, 5), id=name))
    assert not Fuel.objects.exists()


def test_somebody_else_s_day_is_not_shown_and_the_office_sees_all(world, technician, dispatcher, as_role):
    assert technician.get(f"/day-logs/of-technician/{world.ivor.pk}").status_code == 403
    assert dispatcher.get("/day-logs/of-technician/99999").status_code == 404
    assert dispatcher.get("/field/log").status_code == 403


def test_the_day_is_taken_along_as_its_address_answers(recorder, technician):
    recorder.send(of_day(recorder, "clock on", at(7)))
    news = technician.post("/field/along", {"phone": recorder.phone, "known": {}}).json()["news"]
    taken = {row["name"]: row["content"] for row in news}
    assert taken[f"log {DAY}"] == own(technician)
    assert len(taken[f"log {DAY}"]["known"]) == 1


def test_a_day_that_was_never_ended_is_asked_about_on_the_next(recorder, technician):
    recorder.send(of_day(recorder, "clock on", at(7)))
    asked = technician.get("/field/log", day="2026-11-24").json()["earlier"]
    assert [(row["day"], [odd["key"] for odd in row["odd"]]) for row in asked] == [(DAY, ["no end"])]
    recorder.send(of_day(recorder, "typed time", at(9, 59), which="ended", at=at(9)))
    assert technician.get("/field/log", day="2026-11-24").json()["earlier"] == []
    found = own(technician)
    assert (found["ended"], found["ended_typed"]) == (at(9), True)
