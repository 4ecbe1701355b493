"""The report on paper, and sent to whoever is to have it: once, after it holds, and kept with the order."""

import io
from datetime import timedelta

import pytest
from django.core import mail
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from pypdf import PdfReader

from apps.customers.models import Contact
from apps.orders.models import WorkOrder
from apps.reports import commands
from apps.reports.models import SentReport
from apps.reports.papers import report_pdf
from core.roles import Role
from foundation import clock
from foundation.models import StoredFile
from foundation.moments import to_datetime
from foundation.outside import SystemActor
from tests.apps.conftest import at
from tests.apps.field.test_deeds import Recorder
from tests.apps.reports.test_reports import QUESTIONS

WORKER = SystemActor(id=0, name="Iron Relay", role=Role.DISPATCHER)


@pytest.fixture
def recorder(technician):
    return Recorder(technician)


@pytest.fixture
def visit(world):
    made = world.placed(9, state="on_site", arrived_at=to_datetime(at(9)), takes={"door-roller": 2})
    work = {"tasks": ["Grease the rails", "Test ride"], "questions": QUESTIONS}
    WorkOrder.objects.filter(pk=made.order_id).update(work=work, asset=world.asset)
    return made


def words(content):
    return " ".join(page.extract_text() for page in PdfReader(io.BytesIO(content)).pages)


def send(api, visit, *addresses):
    return api.post(f"/reports/of-visit/{visit.pk}/sending", {"addresses": list(addresses)})


def test_the_paper_says_what_was_recorded_and_nothing_that_is_not_for_the_customer(visit, recorder, dispatcher):
    recorder.send(
        recorder.deed("task", visit, {"words": "Grease the rails", "done": True}, when=at(9, 12)),
        recorder.deed("answer", visit, {"key": "gap", "value": 5.5}),
        recorder.deed("note", visit, {"reader": "office", "text": "The hatch is broken"}),
        recorder.deed("note", visit, {"reader": "self", "text": "Bring the long key"}),
        recorder.deed("note", visit, {"reader": "customer", "text": "It runs again"}),
        recorder.deed(
            "part", visit,
            {"id": "01936f2e-0000-7000-8000-0000000000d1", "code": "door-roller", "name": "", "quantity": 2},
        ),
        recorder.deed("acceptance", visit, {"ended": "signed", "name": "Jonas Radley", "rating": 5}),
    )  # fmt: skip
    answer = dispatcher.get(f"/reports/of-visit/{visit.pk}/paper")
    assert answer["Content-Type"] == "application/pdf"
    found = " ".join(words(answer.content).split())
    for said in (
        "Grease the rails 09:12", "Test ride not done", "Door gap 5.5 mm", "It runs again", "2 × Door roller",
        "Signed by Jonas Radley", "5 of 5",
    ):  # fmt: skip
        assert said in found, said
    assert "hatch" not in found
    assert "long key" not in found


def test_photos_stand_in_it_with_their_drawing_and_caption(visit, recorder, technician):
    file = io.BytesIO()
    Image.new("RGB", (1600, 1200), "grey").save(file, "JPEG")
    content, name = file.getvalue(), "01936f2e-0000-7000-8000-0000000000a1"
    body = {"id": name, "size": len(content), "media_type": "image/jpeg", "caption": "The sill", "pair": "before"}
    recorder.send(recorder.deed("picture", visit, body))
    plain = report_pdf(visit.pk)[1]
    assert "The sill" not in words(plain)  # it is told of, and still on the phone
    piece = SimpleUploadedFile("piece", content)
    technician.client.post(f"/api/v1/field/pictures/{name}", {"at": 0, "file": piece})
    label, paper = report_pdf(visit.pk)
    assert "before: The sill" in words(paper)
    assert len(PdfReader(io.BytesIO(paper)).pages[-1].images) == 1
    shown = technician.get(f"/field/visits/{visit.pk}/paper")
    assert shown["Content-Disposition"] == f'inline; filename="Report {label}.pdf"'


def test_it_is_mailed_once_after_it_holds_and_kept_with_order_and_customer(visit, dispatcher, monkeypatch):
    asked = []
    monkeypatch.setattr("foundation.jobs._enqueue", lambda *told: asked.append(told))
    shown = send(dispatcher, visit, "office@seagate.example", " office@seagate.example ", "b@seagate.example")
    assert [row["address"] for row in shown.json()["sent"]] == ["b@seagate.example", "office@seagate.example"]
    assert all(row["mailed"] is None for row in shown.json()["sent"])
    assert len(asked) == 4  # each now, and once more for pictures that never come
    rows = list(SentReport.objects.order_by("pk"))
    done = [commands.mail_report(actor=WORKER, now=clock.now(), sent_id=row.pk) for row in [*rows, *rows]]
    assert done == [True, True, False, False]
    assert [letter.to for letter in mail.outbox] == [["office@seagate.example"], ["b@seagate.example"]]
    (name, content, kind) = mail.outbox[0].attachments[0]
    assert (name.startswith("Report"), kind, content[:4]) == (True, "application/pdf", b"%PDF")
    order = visit.order
    for record, key in (("order", order.pk), ("customer", order.customer_id)):
        assert StoredFile.objects.filter(record=record, record_id=key, name__startswith="Report").count() == 1


def test_an_address_that_is_none_is_refused_and_nothing_goes(visit, dispatcher, monkeypatch):
    asked = []
    monkeypatch.setattr("foundation.jobs._enqueue", lambda *told: asked.append(told))
    answer = send(dispatcher, visit, "office@seagate.example", "not an address")
    assert answer.status_code == 422
    assert answer.json()["title"] == "“not an address” is no e-mail address."
    assert asked == []
    assert not SentReport.objects.exists()


def test_who_might_want_it_is_offered_the_site_s_contacts_first(world, visit, dispatcher, technician):
    customer = visit.order.customer
    Contact.objects.create(customer=customer, name="Ada Head", email="head@seagate.example")
    Contact.objects.create(customer=customer, site=world.site, name="Zed Site", email="site@seagate.example")
    Contact.objects.create(customer=customer, name="No Letter")
    shown = dispatcher.get(f"/reports/of-visit/{visit.pk}/sending").json()["readers"]
    assert [row["address"] for row in shown][:2] == ["site@seagate.example", "head@seagate.example"]
    assert technician.get(f"/field/visits/{visit.pk}").json()["readers"] == shown


def test_whoever_was_there_sends_it_and_others_may_not(visit, recorder, technician, as_role):
    assert send(technician, visit, "a@b.example").status_code == 403
    deed = recorder.deed("send report", visit, {"addresses": ["office@seagate.example"]})
    assert recorder.outcomes(deed, deed) == ["applied", "applied"]
    assert [row.address for row in SentReport.objects.all()] == ["office@seagate.example"]
    sent = technician.get(f"/field/visits/{visit.pk}").json()["sent"]
    assert [(row["address"], row["mailed"]) for row in sent] == [("office@seagate.example", None)]


def test_a_report_waits_for_pictures_that_are_still_on_the_phone_but_not_for_ever(visit, recorder, technician):
    file = io.BytesIO()
    Image.new("RGB", (40, 30), "grey").save(file, "JPEG")
    content, name = file.getvalue(), "01936f2e-0000-7000-8000-0000000000a1"
    recorder.send(
        recorder.deed("picture", visit, {"id": name, "size": len(content), "media_type": "image/jpeg"}),
        recorder.deed("send report", visit, {"addresses": ["office@seagate.example"]}),
    )
    row = SentReport.objects.get()
    assert not commands.mail_report(actor=WORKER, now=clock.now(), sent_id=row.pk)
    assert mail.outbox == []
    piece = SimpleUploadedFile("piece", content)
    technician.client.post(f"/api/v1/field/pictures/{name}", {"at": 0, "file": piece})
    assert commands.mail_report(actor=WORKER, now=clock.now(), sent_id=row.pk)
    # The next one is of a phone that was lost.
    recorder.send(
        recorder.deed(
            "picture",
            visit,
            {"id": "01936f2e-0000-7000-8000-0000000000a2", "size": len(content), "media_type": "image/jpeg"},
        ),
        recorder.deed("send report", visit, {"addresses": ["desk@seagate.example"]}),
    )
    late = SentReport.objects.latest("pk")
    assert not commands.mail_report(actor=WORKER, now=clock.now(), sent_id=late.pk)
    assert commands.mail_report(actor=WORKER, now=clock.now() + timedelta(hours=13), sent_id=late.pk)
