"""What anybody can send without an account: the public form, alarms, sign-ins, bodies of any size."""

import asyncio
from datetime import timedelta

import pytest
from django.test import Client

from apps.customers.models import Asset, Contact
from apps.intake import commands
from apps.intake.commands.alarms import make_device_key
from apps.intake.commands.web import MOST_PER_HOUR
from apps.intake.models import Alarm, Request
from foundation.guard import LARGEST_BODY, LARGEST_FILE, LARGEST_OF_STRANGERS, Guard
from tests.apps.foundation.test_concurrency import at_once  # noqa: F401 - a fixture

SAID = {"name": "Ottilie Marsh", "phone": "+351 296 410 220", "text": "The gate stays open at night."}


def ask(now, *, address="10.0.0.7", **more):
    client = Client(HTTP_HOST="127.0.0.1", REMOTE_ADDR=address)
    body = {**SAID, "form": commands.new_form(now=now - timedelta(seconds=30)), **more}
    return client.post("/api/v1/intake/form", body, content_type="application/json")


# --- the public form --------------------------------------------------------------------------------------


@pytest.mark.django_db(transaction=True)
def test_of_many_at_once_from_one_address_no_more_are_taken_than_the_limit(world, now, at_once):  # noqa: F811
    answers = at_once(*[lambda: ask(now)] * 20)
    statuses = [answer.status_code for answer in answers]
    assert statuses.count(201) == MOST_PER_HOUR
    assert set(statuses) == {201, 429}
    assert Request.objects.count() == MOST_PER_HOUR


@pytest.mark.django_db
def test_nobody_closes_the_form_for_everybody(world, now):
    for number in range(130):
        assert ask(now, address=f"10.1.{number // 100}.{number % 100}").status_code == 201
    assert ask(now, address="10.9.9.9").status_code == 201


@pytest.mark.django_db
def test_whoever_has_a_network_of_addresses_is_one_sender(world, now):
    statuses = [ask(now, address=f"2001:db8:1:2::{number}").status_code for number in range(1, MOST_PER_HOUR + 3)]
    assert statuses == [201] * MOST_PER_HOUR + [429] * 2


@pytest.mark.django_db
def test_a_proxy_is_believed_only_when_the_settings_name_it(world, now, settings):
    def through(said):
        client = Client(HTTP_HOST="127.0.0.1", REMOTE_ADDR="10.0.0.1", headers={"x-forwarded-for": said})
        body = {**SAID, "form": commands.new_form(now=now - timedelta(seconds=30))}
        return client.post("/api/v1/intake/form", body, content_type="application/json").status_code

    assert [through(f"1.2.3.{n}") for n in range(MOST_PER_HOUR + 1)] == [201] * MOST_PER_HOUR + [429]
    settings.TRUSTED_PROXIES = ["10.0.0.0/24"]
    assert through("1.2.3.200") == 201
    # Whatever the sender itself put in front does not count: the last hop before our proxy does.
    assert [through(f"9.9.9.{n}, 1.2.3.201") for n in range(MOST_PER_HOUR + 1)][-1] == 429


# --- alarms -----------------------------------------------------------------------------------------------


def alarm(token, **changes):
    body = {"serial": "OR-12345", "kind": "stopped", "reference": "1", "at": 1795424400, **changes}
    return Client(HTTP_HOST="127.0.0.1").post(
        "/api/v1/intake/alarms", body, content_type="application/json", headers={"authorization": f"Bearer {token}"}
    )


@pytest.mark.django_db
def test_two_devices_may_count_alike(world):
    other = Asset.objects.create(site=world.site, kind="Lift", serial="LF-2")
    one, two = make_device_key(name="Doors"), make_device_key(name="Lifts")
    first = alarm(one).json()
    second = alarm(two, serial="LF-2").json()
    third = alarm(one, serial="LF-2").json()
    assert first["request"] != second["request"]
    assert (second["new"], third["request"]) == (True, second["request"])
    assert Alarm.objects.filter(asset=other).count() == 2


@pytest.mark.django_db(transaction=True)
def test_the_same_alarm_many_times_at_once_counts_once(world, at_once):  # noqa: F811
    token = make_device_key(name="Doors")
    answers = at_once(*[lambda: alarm(token)] * 8)
    assert {answer.status_code for answer in answers} == {201}
    assert len({answer.json()["request"] for answer in answers}) == 1
    assert (Alarm.objects.count(), Request.objects.count()) == (1, 1)


# --- contacts and files -----------------------------------------------------------------------------------


@pytest.mark.django_db(transaction=True)
def test_of_twenty_equal_contacts_at_once_one_is_kept(world, as_role, at_once):  # noqa: F811
    api = as_role("dispatcher")
    body = {"name": "Ben Cole", "phone": "+351 296 000 111"}
    answers = at_once(*[lambda: api.put(f"/customers/{world.customer.pk}/contacts", {**body, "anyway": True})] * 12)
    assert [answer.status_code for answer in answers].count(200) == 1
    assert Contact.objects.count() == 1


@pytest.mark.django_db
def test_a_likely_twin_is_named_and_kept_when_it_is_somebody_else(world, dispatcher):
    path = f"/customers/{world.customer.pk}/contacts"
    dispatcher.put(path, {"name": "Ben Cole", "phone": "+351 296 000 111"})
    refused = dispatcher.put(path, {"name": "B. Cole", "phone": "296 000 111"})
    assert refused.json()["code"] == "twin"
    assert refused.json()["title"] == "Ben Cole is there already with the same phone number."
    assert dispatcher.put(path, {"name": "B. Cole", "phone": "296 000 111", "anyway": True}).status_code == 200


@pytest.mark.django_db
def test_a_contact_changed_meanwhile_is_not_overwritten(world, dispatcher, as_role):
    path = f"/customers/{world.customer.pk}/contacts"
    made = dispatcher.put(path, {"name": "Ben Cole"}).json()
    changed = {"id": made["id"], "version": made["version"], "name": "Ben Cole"}
    assert as_role("other").put(path, {**changed, "phone": "+351 296 1"}).status_code == 200
    stale = dispatcher.put(path, {**changed, "role": "porter"})
    assert (stale.status_code, Contact.objects.get().phone) == (409, "+351 296 1")


@pytest.mark.django_db
@pytest.mark.parametrize("record", ["customer", "site", "asset", "request", "order", "nonsense"])
def test_a_file_belongs_to_something_that_is_there(world, dispatcher, record, tmp_path, settings):
    from django.core.files.uploadedfile import SimpleUploadedFile

    settings.MEDIA_ROOT = tmp_path
    answer = dispatcher.client.post(f"/api/v1/files/{record}/999999", {"file": SimpleUploadedFile("a.txt", b"x")})
    assert answer.status_code == 404
    assert not list(tmp_path.rglob("*.txt"))


# --- signing in -------------------------------------------------------------------------------------------


@pytest.mark.django_db
def test_who_tries_one_account_after_the_other_is_stopped_by_address(world, settings):
    settings.SIGN_IN_FAILURES_PER_ADDRESS = 10

    def attempt(number, address="10.0.0.66"):
        client = Client(HTTP_HOST="127.0.0.1", REMOTE_ADDR=address)
        body = {"email": f"user{number}@test.example", "password": "guess"}
        return client.post("/api/auth/browser/v1/auth/login", body, content_type="application/json").status_code

    assert [attempt(number) for number in range(12)] == [400] * 10 + [429] * 2
    assert attempt(1, address="10.0.0.67") == 400


# --- bodies and addresses ---------------------------------------------------------------------------------


def through_the_guard(*, headers, chunks, path="/api/auth/browser/v1/auth/login"):
    """What the guard answers, and how much of the body the application ever saw."""
    seen, sent = [], []

    async def application(_scope, receive, send):
        while True:
            message = await receive()
            seen.append(len(message.get("body", b"")))
            if message["type"] == "http.disconnect" or not message.get("more_body"):
                break
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b""})

    rest = list(chunks)

    async def receive():
        chunk = rest.pop(0)
        return {"type": "http.request", "body": chunk, "more_body": bool(rest)}

    async def send(message):
        sent.append(message)

    scope = {"type": "http", "path": path, "query_string": b"", "headers": list(headers.items())}
    asyncio.run(Guard(application, session_cookie="relay_session")(scope, receive, send))
    return sent[0]["status"], sum(seen)


SIGNED_IN = {b"cookie": b"relay_session=abc"}


@pytest.mark.parametrize(
    ("headers", "length", "status"),
    [
        ({}, LARGEST_OF_STRANGERS, 200),
        ({}, LARGEST_OF_STRANGERS + 1, 413),
        ({b"content-type": b"multipart/form-data; boundary=x"}, 400_000_000, 413),
        (SIGNED_IN, LARGEST_BODY, 200),
        (SIGNED_IN, LARGEST_BODY + 1, 413),
        ({**SIGNED_IN, b"content-type": b"multipart/form-data; boundary=x"}, LARGEST_FILE, 200),
        ({**SIGNED_IN, b"content-type": b"multipart/form-data; boundary=x"}, LARGEST_FILE + 1, 413),
        ({b"content-length": b"-5"}, None, 413),
    ],
)
def test_what_is_too_large_is_refused_before_it_is_read(headers, length, status):
    announced = {} if length is None else {b"content-length": str(length).encode()}
    answered, seen = through_the_guard(headers={**headers, **announced}, chunks=[b"x"])
    assert answered == status
    assert seen == (1 if status == 200 else 0)


def test_without_an_announced_length_it_is_cut_off_where_it_is_too_much():
    chunks = [b"x" * 64_000] * 100
    status, seen = through_the_guard(headers={}, chunks=chunks)
    assert status == 413
    assert seen <= LARGEST_OF_STRANGERS


def test_a_zero_byte_in_an_address_is_no_address():
    assert through_the_guard(headers={}, chunks=[b""], path="/api/v1/areas/\x00")[0] == 400


# --- answers that were errors of ours ---------------------------------------------------------------------


@pytest.mark.django_db
@pytest.mark.parametrize("first", ["9999-12-31", "0001-01-01"])
def test_a_day_out_of_reach_is_refused_in_words(world, dispatcher, first):
    answer = dispatcher.get("/appointments/capacity", first=first)
    assert (answer.status_code, answer.json()["title"]) == (422, "That day is out of reach.")


@pytest.mark.django_db
def test_a_calendar_link_is_renewed_and_closed(world, dispatcher, now):
    path = f"/technicians/{world.ines.pk}/calendar-link"

    def reads(link):
        return Client(HTTP_HOST="127.0.0.1").get(link).status_code

    old = dispatcher.get(path).json()["path"]
    assert reads(old) == 200
    new = dispatcher.post(path).json()["path"]
    assert (reads(old), reads(new)) == (404, 200)
    assert dispatcher.client.delete(f"/api/v1{path}").json() == {"path": None}
    assert (reads(new), dispatcher.get(path).json()["path"]) == (404, None)


@pytest.mark.django_db
def test_an_area_that_was_removed_is_put_back_with_who_works_there(world, as_role):
    api = as_role("administrator")
    area = world.site.area
    world.ines.areas.add(area)
    outlines = {row["id"]: row["geometry"] for row in api.get("/areas.geojson").json()["features"]}
    assert api.client.delete(f"/api/v1/areas/{area.pk}").status_code == 200
    world.site.refresh_from_db()
    assert world.site.area_id != area.pk
    assert list(world.ines.areas.all()) == []
    assert api.post(f"/areas/{area.pk}/back").status_code == 200
    world.site.refresh_from_db()
    assert world.site.area_id == area.pk
    assert list(world.ines.areas.all()) == [area]
    [entry, *_] = api.get(f"/customers/{world.customer.pk}/history").json()["rows"]
    assert entry["sentence"] == f"changed areas: it lies in {area.name} now"
    assert {row["id"]: row["geometry"] for row in api.get("/areas.geojson").json()["features"]} == outlines


def test_the_packed_and_unchanging_files_say_so(db, settings):
    import re

    named = settings.WHITENOISE_IMMUTABLE_FILE_TEST
    assert re.match(named, "/assets/index-BuCtaSh_.js")
    assert re.match(named, "/assets/atkinson-hyperlegible-next-latin-wght-normal-BcXVPD7q.woff2")
    assert not re.match(named, "/index.html")
