"""What is recorded on the phone arrives: each deed once, in its order, and none is dropped."""

import uuid
from concurrent.futures import ThreadPoolExecutor
from unittest.mock import Mock
from uuid import UUID

import pytest
from django.db import connection
from django.test import Client

from apps.field.commands import deeds as taking_in
from apps.field.commands import sign_out_phone
from apps.field.models import FieldDeed, Phone
from apps.orders.models import Visit, VisitEvent
from apps.people.models import Account, Technician
from foundation import clock
from tests.apps.conftest import Api, at

PHONE = "01936f2e-0000-7000-8000-0000000000aa"


class Recorder:
    """A phone that numbers what is done on it."""

    def __init__(self, api, phone=PHONE):
        self.api, self.phone, self.number, self.lasts = api, phone, 0, {}
        self.key = api.post("/field/phones", {"id": phone, "name": "Chromium"}).json()["key"]

    def step(self, visit, name, *, saw, note="", when=None, start=None, **more):
        return self.deed("step", visit, {"step": name, "note": note}, saw=saw, when=when, start=start, **more)

    def deed(self, kind, visit, body, *, saw=None, when=None, start=None, **more):
        self.number += 1
        lane = visit.pk if visit else None
        made = {
            "id": str(uuid.uuid4()), "number": self.number, "previous": self.lasts.get(lane), "kind": kind,
            "visit_id": lane, "body": body, "based_on": {"state": saw, "start": start} if saw else None,
            "device_at": (when or at(10)) * 1000, "happened_at": (when or at(10)) * 1000,
        } | more  # fmt: skip
        self.lasts[lane] = made["id"]
        return made

    def send(self, *deeds):
        return self.api.post("/field/deeds", {"phone": self.phone, "deeds": list(deeds)}).json()

    def outcomes(self, *deeds):
        return [row["outcome"] for row in self.send(*deeds)["answers"]]


@pytest.fixture
def recorder(technician):
    return Recorder(technician)


def morning(recorder, visit):
    return [
        recorder.step(visit, "depart", saw="accepted", when=at(8)),
        recorder.step(visit, "arrive", saw="en_route", when=at(8, 20)),
        recorder.step(visit, "finish", saw="on_site", note="greased", when=at(9, 15)),
    ]


def test_a_morning_without_signal_arrives_with_its_true_times(world, recorder, now):
    visit = world.placed(8, state="accepted")
    assert recorder.outcomes(*morning(recorder, visit)) == ["applied"] * 3
    visit.refresh_from_db()
    assert (visit.state, visit.outcome) == ("done", "greased")
    stamps = [visit.departed_at, visit.arrived_at, visit.finished_at]
    assert [int(one.timestamp()) for one in stamps] == [at(8), at(8, 20), at(9, 15)]
    assert {event.recorded_at for event in VisitEvent.objects.filter(visit=visit)} == {now}


def test_everything_may_come_twice(world, recorder):
    visit = world.placed(8, state="accepted")
    deeds = morning(recorder, visit)
    first = recorder.send(*deeds)["answers"]
    assert recorder.send(*deeds)["answers"] == first
    assert recorder.send(*reversed(deeds))["answers"] == list(reversed(first))
    assert VisitEvent.objects.filter(visit=visit).count() == 3
    assert FieldDeed.objects.count() == 3


def test_what_comes_before_it_must_be_known_first(world, recorder):
    visit = world.placed(8, state="accepted")
    depart, arrive, finish = morning(recorder, visit)
    [answer] = recorder.send(arrive)["answers"]
    assert (answer["outcome"], answer["missing"]) == ("again", depart["id"])
    assert recorder.outcomes(arrive, finish) == ["again", "again"]
    assert not FieldDeed.objects.exists()
    assert recorder.outcomes(depart, arrive, finish) == ["applied"] * 3


def test_one_visit_does_not_wait_for_another(world, recorder):
    held, free = world.placed(8, state="accepted"), world.placed(11, state="sent")
    _depart, arrive, _finish = morning(recorder, held)
    accept = recorder.step(free, "accept", saw="sent")
    assert recorder.outcomes(arrive, accept) == ["again", "applied"]


def test_what_contradicts_the_office_waits_and_so_does_what_was_done_after_it(world, recorder, dispatcher):
    visit = world.placed(8, state="accepted")
    deeds = morning(recorder, visit)
    Visit.objects.filter(pk=visit.pk).update(technician=world.ivor, state="sent")
    assert recorder.outcomes(*deeds) == ["waiting"] * 3
    visit.refresh_from_db()
    assert visit.state == "sent"  # nothing half done
    assert not VisitEvent.objects.filter(visit=visit).exists()
    rows = dispatcher.get("/field/waiting").json()
    assert [row["body"]["step"] for row in rows] == ["depart", "arrive", "finish"]
    first = rows[0]
    assert (first["technician"], first["whose"], first["late"]) == ("Ines Falk", world.ivor.name, True)
    assert (first["saw"]["state"], first["state"]) == ("accepted", "sent")
    assert first["sentence"] == "This visit is not yours (any more)."
    history = dispatcher.get(f"/visits/{visit.pk}").json()["history"]
    assert any("told from the field" in row["sentence"] for row in history)


def settle(api, deed, choice, words=""):
    return api.post(f"/field/waiting/{deed['id']}", {"choice": choice, "words": words})


def test_what_waits_counts_once_the_visit_is_theirs_again_and_the_rest_follows(world, recorder, dispatcher):
    visit = world.placed(8, state="accepted")
    deeds = morning(recorder, visit)
    Visit.objects.filter(pk=visit.pk).update(technician=world.ivor, state="placed")
    recorder.send(*deeds)
    refused = settle(dispatcher, deeds[0], "apply")
    assert refused.status_code == 422
    assert f"The visit is {world.ivor.name}'s now" in refused.json()["title"]
    assert settle(dispatcher, deeds[1], "apply").json()["code"] == "not_the_first"
    Visit.objects.filter(pk=visit.pk).update(technician=world.ines, state="placed")
    assert settle(dispatcher, deeds[0], "apply").json()["outcome"] == "applied"
    visit.refresh_from_db()
    assert (visit.state, visit.outcome) == ("done", "greased")
    assert int(visit.finished_at.timestamp()) == at(9, 15)
    assert dispatcher.get("/field/waiting").json() == []
    assert recorder.outcomes(*deeds) == ["applied"] * 3
    assert settle(dispatcher, deeds[0], "keep").json()["code"] == "settled"


def test_what_is_kept_as_told_changes_nothing_and_stays(world, recorder, dispatcher):
    visit = world.placed(8, state="accepted")
    depart, arrive, _finish = morning(recorder, visit)
    Visit.objects.filter(pk=visit.pk).update(state="cancelled")
    recorder.send(depart, arrive)
    for deed in (depart, arrive):
        assert settle(dispatcher, deed, "keep", "she turned round").json()["outcome"] == "waiting"
    visit.refresh_from_db()
    assert visit.state == "cancelled"
    # Who asks again on the phone is told what was decided.
    [told] = recorder.send(depart)["answers"]
    assert told["outcome"] == "kept"
    assert told["sentence"] == "The dispatcher kept it beside the visit: she turned round"
    row = FieldDeed.objects.get(pk=depart["id"])
    assert (row.choice, row.words) == ("keep", "she turned round")
    assert row.settled_by


def test_what_is_nothing_is_refused_and_does_not_stand_in_the_way(world, recorder):
    visit = world.placed(8, state="accepted")
    [nothing] = recorder.send(recorder.deed("dance", visit, {}))["answers"]
    assert (nothing["outcome"], nothing["sentence"]) == ("refused", "Nobody knows what “dance” is.")
    assert recorder.outcomes(recorder.step(visit, "review", saw="accepted")) == ["refused"]
    assert recorder.outcomes(recorder.deed("step", visit, {"step": "depart", "colour": "red"})) == ["refused"]
    assert recorder.outcomes(recorder.step(visit, "depart", saw="accepted")) == ["applied"]


def test_a_clock_that_is_wrong_by_hours_loses_nothing(world, recorder, now):
    visit = world.placed(8, state="accepted")
    depart = recorder.step(visit, "depart", saw="accepted", when=at(18))
    arrive = recorder.step(visit, "arrive", saw="en_route", when=at(3))
    finish = recorder.step(visit, "finish", saw="on_site", note="done", device_at=-(10**18), happened_at=10**18)
    answers = recorder.send(depart, arrive, finish)["answers"]
    assert [row["outcome"] for row in answers] == ["applied"] * 3
    assert answers[0]["sentence"] == "Its time was out of order and was moved."
    visit.refresh_from_db()
    assert visit.departed_at == visit.arrived_at == visit.finished_at == now


def test_a_fault_of_ours_keeps_only_its_own_visit_waiting(world, recorder, monkeypatch):
    broken, other = world.placed(8, state="sent"), world.placed(11, state="sent")
    real = taking_in.do

    def faulty(**given):
        if given["sent"].visit_id == broken.pk:
            raise RuntimeError("a fault")
        return real(**given)

    monkeypatch.setattr(taking_in, "do", faulty)
    deeds = [recorder.step(broken, "accept", saw="sent"), recorder.step(other, "accept", saw="sent")]
    assert recorder.outcomes(*deeds) == ["again", "applied"]
    monkeypatch.undo()
    assert recorder.outcomes(*deeds) == ["applied", "applied"]


def test_a_lost_phone_is_signed_out_and_gets_its_key_only_by_signing_in_again(world, recorder, as_role, dispatcher):
    visit = world.placed(8, state="sent")
    administrator = as_role("administrator")
    path = f"/field/phones/{PHONE}/sign-out"
    assert dispatcher.post(path, {}).status_code == 403
    assert administrator.post(path, {}).status_code == 200
    [phone] = administrator.get(f"/field/phones/of/{world.ines.account_id}").json()
    assert phone["signed_out_by"]
    assert phone["signed_out_at"]
    accept = recorder.step(visit, "accept", saw="sent")
    # The session of whoever has found it has ended, and the phone learns why without one.
    assert recorder.send(accept)["code"] == "signed_out"
    assert recorder.api.get(f"/field/phones/{PHONE}/stand").json() == {"open": False}
    recorder.api = as_role("technician")
    assert Recorder(recorder.api).key == recorder.key
    assert recorder.api.get(f"/field/phones/{PHONE}/stand").json() == {"open": True}
    assert recorder.outcomes(accept) == ["applied"]


def test_a_session_that_outlived_the_signing_out_does_not_bring_the_key_back(world, recorder, monkeypatch):
    monkeypatch.setattr("apps.field.commands.phones.Session", Mock())
    sign_out_phone(actor=world.accounts["administrator"], now=clock.now(), phone_id=UUID(PHONE))
    again = recorder.api.post("/field/phones", {"id": PHONE, "name": "Chromium"})
    assert (again.status_code, again.json()["code"]) == (403, "phone_signed_out")
    along = recorder.api.post("/field/along", {"phone": PHONE, "known": {}})
    assert (along.status_code, along.json()["code"]) == (403, "phone_signed_out")


def signed_in_as(technician):
    account = Account.objects.create_account(email="i@x.example", name=technician.name, role="technician", password="")
    Technician.objects.filter(pk=technician.pk).update(account=account)
    client = Client(HTTP_HOST="127.0.0.1")
    client.force_login(account, backend="apps.accounts.backends.AccountBackend")
    return Api(client)


def test_a_phone_belongs_to_one_person(world, recorder):
    other = signed_in_as(world.ivor)
    answer = other.post("/field/phones", {"id": PHONE, "name": "mine"})
    assert (answer.status_code, answer.json()["code"]) == (409, "phone_taken")
    visit = world.placed(8, state="sent")
    body = {"phone": PHONE, "deeds": [recorder.step(visit, "accept", saw="sent")]}
    assert other.post("/field/deeds", body).json()["code"] == "no_phone"
    assert Phone.objects.count() == 1


@pytest.mark.django_db(transaction=True)
def test_the_same_batch_at_the_same_time_is_done_once(world, recorder):
    visit = world.placed(8, state="accepted")
    body = {"phone": PHONE, "deeds": morning(recorder, visit)}

    def send(_number):
        try:
            return [row["outcome"] for row in recorder.api.post("/field/deeds", body).json()["answers"]]
        finally:
            connection.close()

    with ThreadPoolExecutor(8) as pool:
        answers = list(pool.map(send, range(8)))
    assert answers == [["applied"] * 3] * 8
    assert VisitEvent.objects.filter(visit=visit).count() == 3
