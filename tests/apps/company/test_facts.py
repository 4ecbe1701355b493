"""Who the company is: name, zone, sign; and its public holidays."""

import io
from datetime import date

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from apps.company.commands.facts import LOGO_SIZE
from apps.company.models import Company, Holiday
from apps.company.queries import time_zone
from apps.orders.models import Visit
from apps.orders.printing import work_order_pdf
from foundation.models import AuditEntry


@pytest.fixture
def manager(as_role):
    return as_role("manager")


def change(api, **changes):
    known = api.get("/company").json()
    names = ("version", "name", "time_zone", "currency", "address", "phone", "email", "tax_number", "country", "region")
    return api.put("/company", {**{name: known[name] for name in names}, **changes})


def test_the_company_says_who_it_is_with_an_entry_in_the_history(manager):
    facts = {"name": "Vale & Sons", "address": "Quay 3\n9500 Varnholm", "tax_number": "PT 509 111 222"}
    answer = change(manager, country="pt", region="20", email="office@vale.example", **facts)
    assert answer.status_code == 200
    got = answer.json()
    assert (got["name"], got["country"], got["region"]) == ("Vale & Sons", "PT", "20")
    entry = AuditEntry.objects.filter(entity="company").latest("id")
    assert entry.sentence == "changed the company's name, address, e-mail, tax number, country, region"


def test_only_the_address_has_lines(manager):
    got = change(manager, name="Vale\n& Sons", address="Quay 3\nVarnholm").json()
    assert (got["name"], got["address"]) == ("Vale & Sons", "Quay 3\nVarnholm")


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"name": " "}, "name"),
        ({"time_zone": "Lisbon"}, "time_zone"),
        ({"country": "ZZ"}, "country"),
        ({"currency": "E1R"}, "currency"),
        ({"country": "PT", "region": "99"}, "region"),
        ({"email": "nobody"}, "email"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field_and_changes_nothing(manager, changes, field):
    answer = change(manager, **changes)
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert Company.objects.get().version == 1


def test_of_two_who_change_it_the_second_is_told_who_was_first(manager, as_role):
    seen = manager.get("/company").json()["version"]
    change(manager, phone="+351 296 1")
    answer = change(as_role("administrator"), version=seen, phone="+351 296 2")
    assert (answer.status_code, answer.json()["title"]) == (
        409, "The manager has changed the company meanwhile. Look at it again.",
    )  # fmt: skip


def test_the_zone_is_free_until_there_is_a_visit(manager, world):
    assert change(manager, time_zone="Asia/Tokyo").status_code == 200
    assert str(time_zone()) == "Asia/Tokyo"
    world.visit()
    assert Visit.objects.exists()
    answer = change(manager, time_zone="Europe/Lisbon")
    assert (answer.status_code, answer.json()["field"]) == (422, "time_zone")
    assert "There are visits already." in answer.json()["title"]


def test_only_who_sets_the_company_up_changes_it(dispatcher):
    assert change(dispatcher, name="Mine").status_code == 403


# --- the logo ---------------------------------------------------------------------------------------------


def picture(kind="PNG", size=(1800, 400)):
    written = io.BytesIO()
    Image.new("RGB", size, "#a14a16").save(written, kind)
    return written.getvalue()


def put(api, content, name="logo.png"):
    return api.client.post("/api/v1/company/logo", {"file": SimpleUploadedFile(name, content)})


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP", "GIF"])
def test_a_logo_is_written_anew_and_small_enough(manager, kind):
    answer = put(manager, picture(kind))
    assert answer.status_code == 200
    shown = Client(HTTP_HOST="127.0.0.1").get("/api/v1/company/logo")
    with Image.open(io.BytesIO(shown.content)) as kept:
        assert kept.format == "PNG"
        assert kept.size == (LOGO_SIZE[0], 200)


@pytest.mark.parametrize("content", [b"<svg onload='alert(1)'/>", b"", b"\x89PNG\r\n\x1a\n broken", b"x" * 9_000_000])
def test_what_is_no_picture_is_refused(manager, content):
    answer = put(manager, content)
    assert answer.status_code in (400, 422)
    assert manager.get("/company").json()["logo"] == ""


def test_a_logo_stands_on_the_paper_of_an_order_and_is_taken_off(manager, world):
    visit = world.visit()
    without = len(work_order_pdf(visit.order_id)[1])
    put(manager, picture())
    assert b"/Image" in work_order_pdf(visit.order_id)[1]
    assert manager.client.delete("/api/v1/company/logo").json()["logo"] == ""
    assert abs(len(work_order_pdf(visit.order_id)[1]) - without) < 400
    assert Client(HTTP_HOST="127.0.0.1").get("/api/v1/company/logo").status_code == 404


# --- public holidays --------------------------------------------------------------------------------------

AZORES = {"country": "PT", "region": "20", "year": 2027}


def test_those_that_are_listed_are_those_that_are_taken(manager):
    manager.post("/company/holidays", {"day": "2027-12-25", "name": "Christmas"})
    listed = manager.get("/company/holidays/public", **AZORES).json()
    assert [row["name"] for row in listed if row["is_ours"]] == ["Christmas Day"]
    wanted = [row["day"] for row in listed if not row["is_ours"] and row["name"] != "Easter Sunday"]
    after = manager.post("/company/holidays/public", {**AZORES, "days": wanted}).json()
    assert [row["day"] for row in after if not row["is_ours"]] == [
        row["day"] for row in listed if row["name"] == "Easter Sunday"
    ]
    assert Holiday.objects.get(day=date(2027, 12, 25)).name == "Christmas"
    assert {row.day.isoformat() for row in Holiday.objects.all()} == {*wanted, "2027-12-25"}
    again = manager.post("/company/holidays/public", {**AZORES, "days": wanted})
    assert again.status_code == 200
    assert Holiday.objects.count() == len(wanted) + 1


def test_a_day_that_is_none_and_a_country_that_is_not_known_are_refused(manager):
    strange = manager.post("/company/holidays/public", {**AZORES, "days": ["2027-02-03"]})
    assert (strange.status_code, strange.json()["field"]) == (422, "days")
    unknown = manager.get("/company/holidays/public", country="XX", year=2027)
    assert (unknown.status_code, unknown.json()["field"]) == (422, "country")
    assert not Holiday.objects.exists()


def test_countries_are_listed_with_their_regions(manager):
    rows = {row["code"]: row["regions"] for row in manager.get("/company/countries").json()}
    assert {"key": "20", "name": "Região Autónoma dos Açores"} in rows["PT"]
