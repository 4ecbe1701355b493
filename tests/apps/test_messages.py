"""The outbox: written with the step, delivered by the worker."""

import pytest
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.messages import commands
from apps.messages.gateways import SimulatedGateway, Undeliverable
from apps.messages.models import Message
from apps.messages.tasks import deliver_message


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
