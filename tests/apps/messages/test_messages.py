"""The outbox: written with the step, delivered by the worker."""

from datetime import timedelta

import pytest
from django.db import connection
from django.test import TestCase
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.customers.models import Customer
from apps.messages import delivery
from apps.messages.gateways import SimulatedGateway, Undeliverable
from apps.messages.models import Call, Message
from apps.messages.tasks import deliver_message
from apps.orders.models import WorkOrder


@pytest.fixture
def sent(world, dispatcher):
    visit = world.placed(11)
    dispatcher.post(f"/visits/{visit.pk}/send", {"version": 1})
    return visit


def test_each_message_waits_for_the_worker(sent):
    jobs = ProcrastinateJob.objects.filter(task_name="messages.deliver")
    assert sorted(job.args["message_id"] for job in jobs) == sorted(Message.objects.values_list("pk", flat=True))
    assert set(Message.objects.values_list("state", flat=True)) == {"queued"}


def test_the_worker_s_task_delivers_and_running_twice_delivers_once(sent, now):
    message = Message.objects.first()
    deliver_message(message_id=message.pk)
    deliver_message(message_id=message.pk)
    message.refresh_from_db()
    assert (message.state, message.delivered_at) == ("delivered", now)
    assert message.reference.startswith("sim-")


def test_what_cannot_be_delivered_says_why(sent, now):
    class Broken:
        def send(self, **_message):
            raise Undeliverable("no such number")

    message = Message.objects.first()
    delivery.deliver(now=now, message_id=message.pk, gateway=Broken())
    message.refresh_from_db()
    assert (message.state, message.failure) == ("failed", "no such number")


def test_without_an_address_nothing_is_delivered():
    with pytest.raises(Undeliverable):
        SimulatedGateway().send(key="k", channel="text", address="", text="hello")


def test_the_outbox_shows_the_newest_first_and_those_of_one_visit(world, dispatcher, sent):
    rows = dispatcher.get("/messages").json()["rows"]
    assert [row["kind"] for row in rows] == ["customer", "technician"]
    assert rows[0]["order"] == sent.order.number
    assert dispatcher.get("/messages", visit_id=sent.pk + 1).json()["rows"] == []


def test_a_customer_without_a_phone_gets_an_e_mail(world, dispatcher):
    visit = world.placed(11)
    visit.order.contact_phone = ""
    visit.order.save()
    world.customer.phone = ""
    world.customer.save()
    dispatcher.post(f"/visits/{visit.pk}/send", {"version": 1})
    message = Message.objects.get(kind="customer")
    assert (message.channel, message.address) == ("e-mail", "office@seagate.example")


# --- on the way out: nothing before the commit, nothing lost, nothing twice ---------------------------------


class Service:
    """A gateway that knows its keys, as real ones do, and can fail before or after it has sent."""

    def __init__(self, *, fails: int = 0, dies_after_sending: bool = False) -> None:
        self.fails, self.dies_after_sending = fails, dies_after_sending
        self.sent: dict[str, str] = {}

    def send(self, *, key, channel, address, text):
        if self.fails:
            self.fails -= 1
            raise TimeoutError("no answer")
        self.sent[key] = text
        if self.dies_after_sending:
            self.dies_after_sending = False
            raise KeyboardInterrupt  # the process, not the service: nothing catches it
        return f"ref-{key[:4]}"


def jobs():
    return ProcrastinateJob.objects.filter(task_name="messages.deliver")


def test_a_job_reaches_the_queue_only_when_the_message_is_committed(
    world, dispatcher, django_capture_on_commit_callbacks
):
    with django_capture_on_commit_callbacks() as waiting:
        letter_of = world.placed(11)
        with TestCase.captureOnCommitCallbacks():
            dispatcher.client.post(
                f"/api/v1/visits/{letter_of.pk}/messages", {"to": "customer", "text": "x"},
                content_type="application/json",
            )  # fmt: skip
        assert Message.objects.count() == 1
        assert not jobs().exists()
    for callback in waiting:
        callback()
    assert jobs().count() == 1


def test_a_job_that_finds_no_message_is_tried_again_not_called_done(db):
    with pytest.raises(delivery.NotThere):
        deliver_message(message_id=4711)


def test_a_service_that_does_not_answer_is_tried_again_and_in_the_end_the_message_failed(sent, now):
    message, service = Message.objects.first(), Service(fails=99)
    for _ in range(delivery.MOST_TRIES - 1):
        with pytest.raises(delivery.NotTaken):
            delivery.deliver(now=now, message_id=message.pk, gateway=service)
    delivery.deliver(now=now, message_id=message.pk, gateway=service)
    message.refresh_from_db()
    assert (message.state, message.failure) == ("failed", "Tried 5 times: no answer")


def test_who_dies_between_sending_and_noting_sends_once(sent, now):
    message, service = Message.objects.first(), Service(dies_after_sending=True)
    with pytest.raises(KeyboardInterrupt):
        delivery.deliver(now=now, message_id=message.pk, gateway=service)
    # While the claim is fresh nobody else takes it; later somebody does, under the same key.
    assert delivery.deliver(now=now + timedelta(seconds=5), message_id=message.pk, gateway=service) is None
    later = now + timedelta(minutes=3)
    delivery.deliver(now=later, message_id=message.pk, gateway=service)
    message.refresh_from_db()
    assert (message.state, len(service.sent)) == ("delivered", 1)


def test_no_lock_is_held_while_the_service_is_asked(sent, now):
    class Looks(Service):
        def send(self, **message):
            # Whoever holds a row lock is inside a transaction: besides the test's own there is none.
            assert len(connection.savepoint_ids) == 0
            return super().send(**message)

    delivery.deliver(now=now, message_id=Message.objects.first().pk, gateway=Looks())


def test_a_message_whose_job_was_lost_is_swept_up_and_one_that_waits_its_turn_is_left(sent, now):
    jobs().delete()
    with TestCase.captureOnCommitCallbacks(execute=True):
        assert delivery.sweep(now=now + timedelta(seconds=30)) == 0
        assert delivery.sweep(now=now + timedelta(minutes=3)) == 2
        assert delivery.sweep(now=now + timedelta(minutes=3)) == 2
    assert jobs().count() == 2  # found twice, queued once


def test_a_failed_message_is_sent_again_to_the_number_that_is_known_now(world, dispatcher, now):
    visit = world.placed(11)
    WorkOrder.objects.update(contact_phone="+351 296 000 000")
    dispatcher.post(f"/visits/{visit.pk}/send", {"version": 1})
    message = Message.objects.get(kind="customer")
    delivery.deliver(now=now, message_id=message.pk, gateway=SimulatedGateway())
    [row] = dispatcher.get("/messages", state="failed").json()["rows"]
    assert row["failure"] == "The number +351 296 000 000 is out of service."
    WorkOrder.objects.update(contact_phone="+351 296 111 333")
    again = dispatcher.post(f"/messages/{message.pk}/again").json()
    assert (again["state"], again["address"], again["failure"]) == ("queued", "+351 296 111 333", "")
    delivery.deliver(now=now, message_id=message.pk, gateway=SimulatedGateway())
    assert dispatcher.post(f"/messages/{message.pk}/again").json()["code"] == "not_failed"
    history = dispatcher.get(f"/visits/{visit.pk}").json()["history"]
    assert history[0]["sentence"] == f"sent the message to {message.name} again"


# --- a moment in which undo calls them back ------------------------------------------------------------------


def states():
    return list(Message.objects.order_by("id").values_list("kind", "state"))


def test_the_reason_of_a_cancellation_is_ours_and_the_customer_reads_what_was_read_before(world, dispatcher, sent):
    Message.objects.all().delete()
    draft = dispatcher.get(f"/messages/cancelling/{sent.pk}").json()
    assert "is cancelled" in draft["text"]
    dispatcher.post(
        f"/visits/{sent.pk}/step",
        {"version": 2, "step": "cancel", "note": "customer is a nuisance", "tell": draft["text"]},
    )
    texts = dict(Message.objects.values_list("kind", "text"))
    assert texts["customer"] == draft["text"]
    assert not any("nuisance" in text for text in texts.values())


def test_without_words_for_the_customer_a_cancellation_tells_the_technician_only(world, dispatcher, sent):
    Message.objects.all().delete()
    dispatcher.post(f"/visits/{sent.pk}/step", {"version": 2, "step": "cancel", "note": "made twice"})
    assert [kind for kind, _state in states()] == ["technician"]


def test_undo_within_the_moment_calls_the_messages_back(world, dispatcher, sent, now):
    Message.objects.all().delete()
    dispatcher.post(f"/visits/{sent.pk}/step", {"version": 2, "step": "cancel", "note": "x", "tell": "It is off."})
    assert {row.not_before for row in Message.objects.all()} == {now + timedelta(seconds=20)}
    assert dispatcher.post("/board/undo").status_code == 200
    assert states() == [("technician", "withdrawn"), ("customer", "withdrawn")]
    for row in Message.objects.all():
        assert delivery.deliver(now=now, message_id=row.pk, gateway=SimulatedGateway()) is None
    assert not Call.objects.exists()


def test_what_was_told_and_then_undone_is_listed_to_be_called_until_somebody_did(world, dispatcher, sent, now):
    Message.objects.all().delete()
    dispatcher.post(f"/visits/{sent.pk}/step", {"version": 2, "step": "cancel", "note": "x", "tell": "It is off."})
    for row in Message.objects.all():
        delivery.deliver(now=now, message_id=row.pk, gateway=SimulatedGateway())
    dispatcher.post("/board/undo")
    [call] = dispatcher.get("/messages/calls").json()
    assert (call["phone"], call["order"]) == ("+351 296 111 222", sent.order.number)
    assert call["why"] == "This was sent and has been undone since: “It is off.”"
    assert dispatcher.post(f"/messages/calls/{call['id']}/done").status_code == 200
    assert dispatcher.get("/messages/calls").json() == []


# --- a few words about a visit ----------------------------------------------------------------------------


def letter(api, visit, to="customer", text="The gate code is 4711."):
    return api.post(f"/visits/{visit.pk}/messages", {"to": to, "text": text})


def test_a_few_words_reach_the_customer_and_stay_with_the_visit(world, dispatcher):
    visit = world.placed(11)
    answer = letter(dispatcher, visit, text="  We come a little later.  ")
    assert answer.status_code == 201
    message = Message.objects.get()
    assert (message.kind, message.channel, message.address) == ("customer", "text", "+351 296 111 222")
    assert message.text == "We come a little later."
    history = dispatcher.get(f"/visits/{visit.pk}").json()["history"]
    assert (history[0]["sentence"], history[0]["note"]) == ("wrote to Seagate Stores", "We come a little later.")


def test_a_few_words_reach_the_technician_s_phone(world, dispatcher):
    letter(dispatcher, world.placed(11), to="technician")
    message = Message.objects.get()
    assert (message.kind, message.channel, message.name) == ("technician", "push", "Ines Falk")


def test_without_a_phone_number_it_goes_by_e_mail_and_without_both_it_is_refused(world, dispatcher):
    visit = world.placed(11)
    WorkOrder.objects.update(contact_phone="")
    Customer.objects.update(phone="")
    assert letter(dispatcher, visit).json()["channel"] == "e-mail"
    Customer.objects.update(email="")
    refused = letter(dispatcher, visit)
    assert refused.status_code == 422
    assert refused.json()["title"] == "Neither a phone number nor an e-mail address of Seagate Stores is known."
    assert Message.objects.count() == 1


@pytest.mark.parametrize(("to", "text"), [("customer", "   "), ("technician", "Call me."), ("everybody", "x")])
def test_nothing_to_say_and_nobody_to_say_it_to_are_refused(world, dispatcher, to, text):
    assert letter(dispatcher, world.visit(), to=to, text=text).status_code == 422
    assert not Message.objects.exists()
