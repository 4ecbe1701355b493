"""Pictures that a record needs before it is there: kept at the desk, taken up by the record, by nobody else."""

from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from apps.intake.models import Request
from apps.orders.models import WorkOrder
from foundation import files
from foundation.models import StoredFile

pytestmark = pytest.mark.django_db
PICTURE = b"\x89PNG\r\n\x1a\n" + bytes(40)
QUESTION = {"key": "plate", "label": "Picture of the plate", "kind": "photo", "required": "to create"}


@pytest.fixture(autouse=True)
def _kept_apart(settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path


@pytest.fixture
def job(world):
    world.door_job.fields = [QUESTION]
    world.door_job.save()
    return world.door_job


def keep(api, name="plate.png"):
    answer = api.client.post("/api/v1/files/desk", {"file": SimpleUploadedFile(name, PICTURE, "image/png")})
    assert answer.status_code == 201, answer.content
    return answer.json()["id"]


def call(world, job, picture):
    return {
        "site_id": world.site.pk, "what_is_wrong": "Door squeaks", "job_type_id": job.pk,
        "contact_phone": "+351 296 111 222", "details": {"extra": {} if picture is None else {"plate": picture}},
    }  # fmt: skip


def test_without_the_picture_it_is_said_and_with_it_the_order_is_made(world, job, as_role):
    api = as_role("intake")
    missing = api.post("/appointments/book", call(world, job, None))
    assert (missing.status_code, missing.json()["field"]) == (422, "extra.plate")
    picture = keep(api)
    made = api.post("/appointments/book", call(world, job, picture))
    assert made.status_code == 201, made.json()
    assert StoredFile.objects.get(pk=picture).record != files.DESK
    listed = as_role("dispatcher").get(f"/files/order/{made.json()['order_id']}").json()
    assert [row["name"] for row in listed] == ["plate.png"]
    assert as_role("dispatcher").client.get(f"/api/v1/files/{picture}").status_code == 200


def test_a_picture_at_the_desk_is_seen_by_nobody_else(world, as_role):
    picture = keep(as_role("intake"))
    assert as_role("intake").client.get(f"/api/v1/files/{picture}").status_code == 200
    assert as_role("dispatcher").client.get(f"/api/v1/files/{picture}").status_code == 404
    assert as_role("dispatcher").client.get("/api/v1/files/desk/1").status_code == 404


def test_nobody_points_at_the_picture_of_somebody_else_or_at_none(world, job, as_role):
    theirs = keep(as_role("dispatcher"))
    for number in (theirs, 999_999):
        refused = as_role("intake").post("/appointments/book", call(world, job, number))
        assert (refused.status_code, refused.json()["field"]) == (422, "extra.plate")
        assert "the picture is not there any more" in refused.json()["title"]
    assert not WorkOrder.objects.exists()
    assert StoredFile.objects.get(pk=theirs).record == files.DESK


def test_kept_as_a_request_it_is_there_for_whoever_makes_the_order(world, job, as_role):
    picture = keep(as_role("intake"))
    answer = as_role("intake").post("/requests", call(world, job, picture))
    assert answer.status_code == 201, answer.json()
    request = Request.objects.get()
    assert StoredFile.objects.get(pk=picture).record == "request"
    again = call(world, job, picture) | {"request_id": request.pk, "version": request.version}
    made = as_role("dispatcher").post("/appointments/book", again)
    assert made.status_code == 201, made.json()
    assert WorkOrder.objects.get().extra == {"plate": picture}
    assert as_role("dispatcher").client.get(f"/api/v1/files/{picture}").status_code == 200


def test_a_changed_order_takes_the_new_picture_up_and_keeps_the_old_one(world, job, as_role):
    api = as_role("dispatcher")
    made = api.post("/appointments/book", call(world, job, keep(api))).json()
    order = api.get(f"/orders/{made['order_id']}").json()
    second = keep(api, "second.png")
    names = ("title", "description", "contact_name", "contact_phone", "source", "billing", "priority", "tags")
    body = {name: order[name] for name in names} | {"version": order["version"], "extra": {"plate": second}}
    changed = api.put(f"/orders/{order['id']}", body)
    assert changed.status_code == 200, changed.json()
    assert StoredFile.objects.filter(record="order", record_id=order["id"]).count() == 2


def test_what_nobody_came_back_for_is_thrown_away_after_weeks(world, as_role, now):
    old, new = keep(as_role("intake")), keep(as_role("intake"))
    StoredFile.objects.filter(pk=old).update(at=now - timedelta(days=files.DESK_DAYS + 1))
    assert files.clear_desks(now=now) == 1
    assert list(StoredFile.objects.values_list("pk", flat=True)) == [new]


def test_a_signature_cannot_be_needed_before_there_is_an_order(world, as_role):
    admin = as_role("administrator")
    rows = admin.get("/company/fields").json()
    own = next(row for row in rows if row["record"] == "order")
    question = {"key": "sign", "label": "Signature", "kind": "signature", "required": "to create"}
    refused = admin.put("/company/fields/order", {"version": own["version"], "questions": [question]})
    assert refused.status_code == 422
    assert "nobody can sign before there is an order" in refused.json()["title"]
