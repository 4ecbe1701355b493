"""Requests from outside: the public form, e-mail, devices; joined, answered, closed."""

from datetime import UTC, datetime, timedelta
from email.message import EmailMessage

import pytest
from django.test import Client

from apps.intake import commands
from apps.intake.commands.alarms import make_device_key
from apps.intake.commands.web import MOST_PER_HOUR
from apps.intake.mailbox import FolderMailbox
from apps.intake.models import Alarm, Request
from apps.messages.models import Message
from foundation import clock, files
from foundation.errors import RelayError

pytestmark = pytest.mark.django_db
SAID = {"name": "Ottilie Marsh", "phone": "+351 296 410 220", "text": "The gate stays open at night."}


def fill_in(now, **changes):
    return commands.send_form(now=now, origin="10.0.0.7", **{"trap": "", "email": "", "address": "", **SAID, **changes})


def test_the_public_form_makes_a_request_and_says_so(world, now):
    client = Client(HTTP_HOST="127.0.0.1")
    form = client.get("/api/v1/intake/form").json()
    with clock.frozen(now + timedelta(seconds=30)):
        answer = client.post("/api/v1/intake/form", {**SAID, "form": form["form"]}, content_type="application/json")
    request = Request.objects.get()
    assert answer.json() == {"number": request.number}
    assert (request.channel, request.from_name, request.customer) == ("web", "Ottilie Marsh", None)
    assert Message.objects.get().text == f"Test Lifts: we have your request {request.number} and will call you back."


def test_a_known_address_is_recognised(world, now):
    form = commands.new_form(now=now)
    request = fill_in(now + timedelta(seconds=9), form=form, email="Office@seagate.example")
    assert (request.customer, request.site) == (world.customer, world.site)


@pytest.mark.parametrize(("changes", "seconds", "code"), [({"trap": "x"}, 30, "machine"), ({}, 1, "too_quick")])
def test_nobody_is_thanked_for_what_was_not_kept(world, now, changes, seconds, code):
    form = commands.new_form(now=now)
    with pytest.raises(RelayError) as refused:
        fill_in(now + timedelta(seconds=seconds), form=form, **changes)
    assert refused.value.code == code
    assert not Request.objects.exists()
    # What was too quick is taken on the second press, a moment later; the form was not used up.
    if not changes:
        assert fill_in(now + timedelta(seconds=seconds + 4), form=form).from_name == "Ottilie Marsh"


def test_a_form_counts_once_and_not_for_ever(world, now):
    client = Client(HTTP_HOST="127.0.0.1")
    form = client.get("/api/v1/intake/form").json()["form"]

    def send(form, at):
        with clock.frozen(at):
            return client.post("/api/v1/intake/form", {**SAID, "form": form}, content_type="application/json")

    assert send(form, now + timedelta(seconds=30)).status_code == 201
    assert send(form, now + timedelta(seconds=40)).status_code == 409
    assert send("made up", now).status_code == 422
    assert send(commands.new_form(now=now), now + timedelta(hours=5)).status_code == 422


def test_not_too_many_come_from_one_address(world, now):
    client = Client(HTTP_HOST="127.0.0.1")
    statuses = []
    with clock.frozen(now + timedelta(seconds=30)):
        for _ in range(MOST_PER_HOUR + 1):
            body = {**SAID, "form": commands.new_form(now=now)}
            statuses.append(client.post("/api/v1/intake/form", body, content_type="application/json").status_code)
    assert statuses == [201] * MOST_PER_HOUR + [429]


# --- e-mail ---------------------------------------------------------------------------------------


def a_mail(folder, name, *, subject, sender="Porter <office@seagate.example>", text="Please come.", photo=None):
    mail = EmailMessage()
    mail["From"], mail["To"], mail["Subject"] = sender, "service@lifts.example", subject
    mail["Message-ID"] = f"<{name}@mail.example>"
    mail.set_content(text)
    if photo:
        mail.add_attachment(photo, maintype="image", subtype="png", filename="door.png")
    (folder / f"{name}.eml").write_bytes(mail.as_bytes())


@pytest.fixture
def mailbox(tmp_path, settings) -> FolderMailbox:
    settings.MEDIA_ROOT = tmp_path / "media"
    return FolderMailbox(tmp_path)


def test_an_email_becomes_a_request_with_its_attachments(world, now, tmp_path, mailbox):
    a_mail(tmp_path, "1", subject="Door stuck", photo=b"\x89PNG picture")
    [request] = commands.read_mailbox(now=now, mailbox=mailbox)
    assert (request.customer, request.site, request.channel) == (world.customer, world.site, "e-mail")
    assert request.what_is_wrong.startswith("Door stuck\n\nPlease come.")
    [file] = files.of("request", request.pk)
    assert (file.name, file.media_type, file.content.read()) == ("door.png", "image/png", b"\x89PNG picture")
    assert commands.read_mailbox(now=now, mailbox=mailbox) == []


def test_the_same_email_counts_once(world, now, tmp_path, mailbox):
    a_mail(tmp_path, "1", subject="Door stuck")
    commands.read_mailbox(now=now, mailbox=mailbox)
    (tmp_path / "read" / "1.eml").rename(tmp_path / "again.eml")
    commands.read_mailbox(now=now, mailbox=mailbox)
    assert Request.objects.count() == 1


def test_an_answer_joins_the_request_it_answers(world, now, tmp_path, mailbox, dispatcher):
    a_mail(tmp_path, "1", subject="Door stuck")
    [request] = commands.read_mailbox(now=now, mailbox=mailbox)
    a_mail(tmp_path, "2", subject=f"Re: {request.number}", text="It is the back door.")
    commands.read_mailbox(now=now, mailbox=mailbox)
    assert Request.objects.count() == 1
    [entry, *_] = dispatcher.get(f"/requests/{request.pk}/history").json()["rows"]
    assert "It is the back door." in entry["note"]


def test_what_cannot_be_read_stops_nothing(world, now, tmp_path, mailbox):
    (tmp_path / "0.eml").write_bytes(b"\xff\xfe not a mail \x00")
    head = "From: a@b.example\nSubject: =?utf-8?q?T=C3=BCr?=\nContent-Type: text/html\n\n"
    (tmp_path / "1.eml").write_text(f"{head}<style>p{{}}</style><p>Klemmt<br>oft")
    requests = commands.read_mailbox(now=now, mailbox=mailbox)
    assert [row.what_is_wrong for row in requests] == ["Tür\n\nKlemmt\noft"]


# --- devices --------------------------------------------------------------------------------------


def alarm(token, **changes):
    body = {
        "serial": "OR-12345", "kind": "worsening", "reference": "m-1", "at": 1795424400,
        "text": "Vibration", "value": 21.5, "unit": "mg", **changes,
    }  # fmt: skip
    client = Client(HTTP_HOST="127.0.0.1")
    return client.post(
        "/api/v1/intake/alarms", body, content_type="application/json", headers={"authorization": f"Bearer {token}"}
    )


def test_repeated_alarms_of_one_asset_join_one_request_which_gets_more_pressing(world):
    token = make_device_key(name="Monitors")
    assert alarm(token).json()["new"] is True
    assert alarm(token, reference="m-2", kind="stopped", value=None).json()["new"] is False
    assert alarm(token, reference="m-2", kind="stopped").status_code == 201  # sent twice, counts once
    request = Request.objects.get()
    assert (request.priority, request.asset, Alarm.objects.count()) == (2, world.asset, 2)


def test_an_alarm_after_the_work_is_done_is_a_new_request(world, dispatcher):
    token = make_device_key(name="Monitors")
    alarm(token)
    request = Request.objects.get()
    dispatcher.post(f"/requests/{request.pk}/close", {"version": 1, "reason": "was a test"})
    assert alarm(token, reference="m-9").json()["new"] is True


def test_a_device_needs_its_token_and_an_asset_we_know(world):
    token = make_device_key(name="Monitors")
    assert alarm("guessed").status_code == 403
    assert alarm(token, serial="XX-1").status_code == 404
    assert not Request.objects.exists()


# --- what becomes of them -------------------------------------------------------------------------


def a_request(world, **fields):
    fields = {"customer": world.customer, "site": world.site, "priority": 3, **fields}
    number = f"R-{2000 + Request.objects.count()}"
    at = datetime(2026, 11, 23, 9, tzinfo=UTC)
    return Request.objects.create(number=number, what_is_wrong="Squeaks", taken_at=at, taken_by="x", **fields)


def test_duplicates_are_joined_and_lead_to_the_one_that_stays(world, dispatcher):
    stays, gone = a_request(world), a_request(world, priority=1)
    found = dispatcher.get(f"/requests/{gone.pk}").json()
    assert [row["number"] for row in found["alike"]] == [stays.number]
    joined = dispatcher.post(f"/requests/{gone.pk}/join", {"version": 1, "into_id": stays.pk}).json()
    assert (joined["state"], joined["joined_into"]) == ("closed", stays.number)
    stays.refresh_from_db()
    assert stays.priority == 1
    again = dispatcher.post(f"/requests/{stays.pk}/join", {"version": 2, "into_id": gone.pk})
    assert again.status_code == 422


def test_an_answer_goes_out_and_stays(world, dispatcher):
    request = a_request(world, from_email="marsh@postbox.example", from_name="Ottilie Marsh")
    assert dispatcher.post(f"/requests/{request.pk}/answer", {"text": "Tomorrow at ten?"}).status_code == 201
    message = Message.objects.get()
    assert (message.channel, message.address, message.request) == ("e-mail", "marsh@postbox.example", request)
    silent = a_request(world)
    assert dispatcher.post(f"/requests/{silent.pk}/answer", {"text": "Hello?"}).status_code == 422


def test_the_most_pressing_come_first(world, dispatcher):
    late = a_request(world, due=datetime(2026, 11, 24, tzinfo=UTC))
    urgent, plain = a_request(world, priority=1), a_request(world)
    rows = dispatcher.get("/requests", state="new").json()["rows"]
    assert [row["number"] for row in rows] == [urgent.number, late.number, plain.number]


def test_a_request_from_outside_is_completed_before_it_is_ordered(world, dispatcher):
    request = a_request(world, customer=None, site=None)
    refused = dispatcher.post("/orders", {"request_id": request.pk, "version": 1})
    assert refused.json()["title"] == "Say first for which customer and site it is."
    body = {"version": 1, "site_id": world.site.pk, "what_is_wrong": "Squeaks", "source": "web"}
    done = dispatcher.put(f"/requests/{request.pk}", body).json()
    assert done["customer"]["id"] == world.customer.pk
    assert dispatcher.post("/orders", {"request_id": request.pk, "version": done["version"]}).status_code == 201
