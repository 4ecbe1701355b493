"""What a technician holds, looks like, and until when they work here."""

import io
import xml.dom.minidom
from datetime import date, timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image

from apps.people.commands.papers import PHOTO_SIDE
from apps.people.models import Certificate, CertificateKind
from apps.people.portraits import initials
from apps.people.working_days import working_day
from core.calendars import day_interval
from foundation.models import AuditEntry
from foundation.named import called
from tests.apps.conftest import MONDAY, TZ


@pytest.fixture
def manager(as_role):
    return as_role("manager")


def record(api, technician):
    return api.get(f"/technicians/{technician.pk}").json()


# --- certificates -----------------------------------------------------------------------------------------


def set_papers(api, technician, rows, version=None):
    seen = version or record(api, technician)["version"]
    return api.put(f"/technicians/{technician.pk}/certificates", {"version": seen, "certificates": rows})


def test_certificates_are_kept_with_number_and_end_and_the_planner_asks_for_them(world, manager):
    ropes, _made = called(CertificateKind, "Rope access")
    answer = set_papers(manager, world.ines, [{"code": ropes.code, "number": " R-1 ", "valid_until": "2026-11-24"}])
    assert answer.json()["certificates"] == [
        {"code": ropes.code, "number": "R-1", "valid_until": "2026-11-24", "file_id": None}
    ]
    last = working_day(world.ines.pk, MONDAY, TZ).spec.certificates["Rope access"]
    assert last == day_interval(date(2026, 11, 24), TZ).end - 1
    assert AuditEntry.objects.filter(sentence="set the certificates of Ines Falk: Rope access").exists()
    assert set_papers(manager, world.ines, []).json()["certificates"] == []


def test_a_certificate_that_is_not_known_or_stands_twice_is_refused_and_nothing_is_lost(world, manager):
    ropes, _made = called(CertificateKind, "Rope access")
    world.holds(world.ines, "Rope access", None, number="R-1")
    for rows in (
        [{"code": "flying", "number": ""}],
        [{"code": ropes.code, "number": "r-2"}, {"code": ropes.code, "number": "R-2"}],
    ):
        answer = set_papers(manager, world.ines, rows)
        assert (answer.status_code, answer.json()["field"]) == (422, "certificates")
    assert [row.number for row in Certificate.objects.filter(technician=world.ines)] == ["R-1"]


def test_the_paper_itself_is_kept_with_its_certificate(world, manager, dispatcher):
    called(CertificateKind, "Lift keys")
    paper = SimpleUploadedFile("keys.pdf", b"%PDF-1.4 of Ines")
    kept = manager.client.post("/api/v1/files/desk", {"file": paper}).json()["id"]
    rows = [{"code": "lift-keys", "number": "12", "valid_until": None, "file_id": kept}]
    assert set_papers(manager, world.ines, rows).json()["certificates"] == rows
    assert b"".join(dispatcher.get(f"/files/{kept}").streaming_content) == b"%PDF-1.4 of Ines"
    renewed = [{**rows[0], "number": "13"}]
    assert set_papers(manager, world.ines, renewed).json()["certificates"] == renewed


def test_a_file_of_somebody_else_s_is_no_paper_of_ones_own(world, manager, dispatcher):
    called(CertificateKind, "Lift keys")
    foreign = dispatcher.client.post("/api/v1/files/desk", {"file": SimpleUploadedFile("a.pdf", b"%PDF")}).json()["id"]
    for file_id in (foreign, 10**9):
        answer = set_papers(manager, world.ines, [{"code": "lift-keys", "file_id": file_id}])
        assert (answer.status_code, answer.json()["field"]) == (422, "certificates")
    assert not Certificate.objects.exists()


def test_who_saw_an_older_technician_is_told_who_was_first(world, manager):
    seen = record(manager, world.ines)["version"]
    set_papers(manager, world.ines, [])
    answer = set_papers(manager, world.ines, [], version=seen)
    assert answer.status_code == 409
    assert "The manager has changed this technician meanwhile" in answer.json()["title"]


# --- portraits --------------------------------------------------------------------------------------------


def picture(kind="JPEG", size=(900, 600)):
    written = io.BytesIO()
    Image.new("RGB", size, "#a14a16").save(written, kind)
    return written.getvalue()


def put_photo(api, technician, content):
    path = f"/api/v1/technicians/{technician.pk}/portrait"
    return api.client.post(path, {"file": SimpleUploadedFile("me.jpg", content)})


def shown(api, technician):
    return api.get(f"/technicians/{technician.pk}/portrait")


def test_a_photo_takes_the_place_of_the_initials_and_goes_again(world, manager, technician):
    before = shown(technician, world.ines)
    assert before["Content-Type"] == "image/svg+xml"
    assert b">IF<" in before.content
    assert put_photo(manager, world.ines, picture()).status_code == 204
    photo = shown(technician, world.ines)
    with Image.open(io.BytesIO(photo.content)) as kept:
        assert (kept.format, kept.size) == ("JPEG", (PHOTO_SIDE, PHOTO_SIDE))
    assert record(manager, world.ines)["has_photo"] is True
    assert manager.client.delete(f"/api/v1/technicians/{world.ines.pk}/portrait").status_code == 204
    assert shown(technician, world.ines).content == before.content


@pytest.mark.parametrize("content", [b"<svg onload='alert(1)'/>", b"\xff\xd8\xff broken", b"x" * 9_000_000])
def test_what_is_no_photo_is_refused(world, manager, content):
    assert put_photo(manager, world.ines, content).status_code == 422
    assert record(manager, world.ines)["has_photo"] is False


def test_a_technician_puts_no_photo_of_others(world, technician):
    assert put_photo(technician, world.ivor, picture()).status_code == 403


@given(st.text(min_size=1, max_size=40), st.integers(1, 10**6))
def test_initials_are_a_drawing_whatever_somebody_is_called(name, key):
    printable = "".join(letter for letter in name if letter.isprintable() and ord(letter) < 0xD800)
    drawn = initials(printable, key)
    xml.dom.minidom.parseString(drawn.encode())


# --- employment -------------------------------------------------------------------------------------------


def employ(api, technician, first=None, last=None):
    body = {"version": record(api, technician)["version"], "employed_from": first, "employed_until": last}
    return api.put(f"/technicians/{technician.pk}/employment", body)


def shifts(technician, days):
    return [working_day(technician.pk, day, TZ).shift is not None for day in days]


def test_after_the_last_day_there_are_no_hours_and_before_it_they_stay(world, manager):
    days = [MONDAY + timedelta(days=number) for number in range(-7, 12)]
    before = shifts(world.ines, days)
    friday = MONDAY + timedelta(days=4)
    assert employ(manager, world.ines, last=friday.isoformat()).json()["employed_until"] == friday.isoformat()
    after = shifts(world.ines, days)
    assert after == [was and day <= friday for was, day in zip(before, days, strict=True)]
    assert any(before[-5:])


def test_hours_lie_within_the_employment(world, manager):
    employ(manager, world.ines, first="2026-12-01", last="2026-12-18")
    shift = {"weekday": 2, "start": "08:00", "end": "16:00"}

    def set_week(day):
        body = {"version": record(manager, world.ines)["version"], "valid_from": day, "shifts": [shift]}
        return manager.put(f"/technicians/{world.ines.pk}/week", body)

    assert [set_week(day).status_code for day in ("2026-11-30", "2026-12-19")] == [422, 422]
    assert set_week("2026-12-07").status_code == 200
    assert shifts(world.ines, [date(2026, 12, 9), date(2026, 12, 16), date(2026, 12, 23)]) == [True, True, False]


def test_a_last_day_before_the_first_or_long_ago_is_refused(world, manager):
    answers = [
        employ(manager, world.ines, first="2026-12-10", last="2026-12-01"),
        employ(manager, world.ines, last="2026-11-01"),
    ]
    assert [(answer.status_code, answer.json()["field"]) for answer in answers] == [(422, "employed_until")] * 2


@settings(max_examples=12, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.tuples(st.sampled_from(["week", "last", "back"]), st.integers(-2, 40)), max_size=6))
def test_no_change_of_hours_or_employment_ever_touches_a_day_that_is_over(world, manager, deeds):
    past = [MONDAY - timedelta(days=number) for number in range(1, 15)]
    before = shifts(world.ines, past)
    for deed, ahead in deeds:
        day = (MONDAY + timedelta(days=ahead)).isoformat()
        if deed == "week":
            shift = {"weekday": abs(ahead) % 7, "start": "06:00", "end": "12:00"}
            body = {"version": record(manager, world.ines)["version"], "valid_from": day, "shifts": [shift]}
            answer = manager.put(f"/technicians/{world.ines.pk}/week", body)
        else:
            answer = employ(manager, world.ines, last=day if deed == "last" else None)
        assert answer.status_code in (200, 422)
        assert shifts(world.ines, past) == before
