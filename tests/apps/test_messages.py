"""The outbox: written with the step, delivered by the worker."""

import pytest
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.customers.models import Customer
from apps.messages import commands
from apps.messages.gateways import SimulatedGateway, Undeliverable
from apps.messages.models import Message
from apps.messages.tasks import deliver_message
from apps.orders.models import WorkOrder


@pytest.fixture
def sent(world, dispatcher):
    visit = world.placed(11)
    dispatcher.post(f"/planning/visits/{visit.pk}/send", {"version": 1})
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
    commands.deliver(now=now, message_id=message.pk, gateway=Broken())
    message.refresh_from_db()
    assert (message.state, message.reference) == ("failed", "no such number")


def test_without_an_address_nothing_is_delivered():
    with pytest.raises(Undeliverable):
        SimulatedGateway().send(channel="text", address="", text="hello")


def test_the_outbox_shows_the_newest_first_and_those_of_one_visit(world, dispatcher, sent):
    rows = dispatcher.get("/messages").json()
    assert [row["kind"] for row in rows] == ["customer", "technician"]
    assert rows[0]["order"] == sent.order.number
    assert dispatcher.get("/messages", visit_id=sent.pk + 1).json() == []


def test_a_customer_without_a_phone_gets_an_e_mail(world, dispatcher):
    visit = world.placed(11)
    visit.order.contact_phone = ""
    visit.order.save()
    world.customer.phone = ""
    world.customer.save()
    dispatcher.post(f"/planning/visits/{visit.pk}/send", {"version": 1})
    message = Message.objects.get(kind="customer")
    assert (message.channel, message.address) == ("e-mail", "office@seagate.example")


# --- a few words about a visit ----------------------------------------------------------------------------


def letter(api, visit, to="customer", text="The gate code is 4711."):
    return api.post(f"/messages/visits/{visit.pk}", {"to": to, "text": text})


def test_a_few_words_reach_the_customer_and_stay_with_the_visit(world, dispatcher):
    visit = world.placed(11)
    answer = letter(dispatcher, visit, text="  We come a little later.  ")
    assert answer.status_code == 201
    message = Message.objects.get()
    assert (message.kind, message.channel, message.address) == ("customer", "text", "+351 296 111 222")
    assert message.text == "We come a little later."
    history = dispatcher.get(f"/orders/visits/{visit.pk}").json()["history"]
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
