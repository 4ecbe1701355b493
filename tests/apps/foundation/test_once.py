"""A creating call that is sent again under its key is done once."""

from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from apps.intake.models import Request
from apps.open_work.models import OpenWorkFile
from foundation import clock, once
from foundation.models import AnsweredCall

pytestmark = pytest.mark.django_db
KEY = "f2c1c0de-0000-4000-8000-000000000001"


def taken(api, world, key=KEY, **more):
    body = {"site_id": world.site.pk, "what_is_wrong": "Scrapes", **more}
    headers = {"Idempotency-Key": key} if key else {}
    return api.client.post("/api/v1/requests", body, content_type="application/json", headers=headers)


def test_it_is_answered_as_the_first_time_and_made_once(world, as_role):
    api = as_role("intake")
    first, again = taken(api, world), taken(api, world)
    assert first.status_code == again.status_code == 201
    assert again.json() == first.json()
    assert again["Idempotent-Replayed"] == "true"
    assert Request.objects.count() == 1
    assert taken(api, world, key=None).json()["id"] != first.json()["id"]


def test_a_key_names_one_call_of_one_account(world, as_role):
    api = as_role("intake")
    taken(api, world)
    other = taken(api, world, what_is_wrong="Something else")
    assert (other.status_code, other.json()["code"]) == (422, "key_used")
    assert taken(as_role("dispatcher"), world).status_code == 201
    assert Request.objects.count() == 2


def test_what_was_refused_may_be_mended_and_sent_again(world, as_role):
    api = as_role("intake")
    assert taken(api, world, what_is_wrong=" ").status_code == 422
    assert taken(api, world).status_code == 201


def test_what_is_being_done_is_not_done_beside_it_and_what_broke_off_is_said(world, as_role):
    api, account = as_role("intake"), world.accounts["intake"]
    first = taken(api, world)
    AnsweredCall.objects.filter(account_id=account.pk).update(status=None)
    assert (taken(api, world).status_code, taken(api, world).json()["code"]) == (409, "in_progress")
    AnsweredCall.objects.update(at=clock.now() - timedelta(hours=1))
    assert taken(api, world).json()["code"] == "not_known"
    assert Request.objects.filter(pk=first.json()["id"]).exists()
    assert Request.objects.count() == 1


def test_answers_are_kept_two_days(world, as_role):
    taken(as_role("intake"), world)
    assert once.forget(now=clock.now() + timedelta(hours=47)) == 0
    assert once.forget(now=clock.now() + timedelta(hours=49)) == 1


def test_a_key_without_end_is_refused(world, as_role):
    assert taken(as_role("intake"), world, key="k" * 101).status_code == 400


def test_a_file_is_brought_once_too(world, as_role):
    api, files = as_role("dispatcher"), []
    for _ in range(2):
        file = SimpleUploadedFile("work.csv", b"customer,site,address,description\n", "text/csv")
        answer = api.client.post("/api/v1/open-work", {"file": file}, headers={"Idempotency-Key": KEY})
        files.append((answer.status_code, answer.json()))
    assert files[0] == files[1]
    assert OpenWorkFile.objects.count() == (1 if files[0][0] < 300 else 0)
