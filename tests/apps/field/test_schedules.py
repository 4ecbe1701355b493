"""Whatever the network, the office and two phones do: each deed is taken in once, in its order, or waits to be seen."""

import uuid
from contextlib import suppress
from datetime import timedelta

from django.db import transaction
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from apps.field.commands import register_phone, settle, take_in
from apps.field.inputs import SentDeed
from apps.field.models import FieldDeed
from apps.orders.inputs import Base
from apps.orders.models import Visit, VisitEvent
from core.field import Choice, Outcome
from core.orders import VisitState
from foundation.errors import RelayError

VISITS = 2
STEPS = ["accept", "depart", "arrive", "hold", "resume", "finish"]
SEEN = dict(zip(STEPS, ["sent", "accepted", "en_route", "on_site", "on_hold", "on_site"], strict=True))

phones, visits = st.integers(0, 1), st.integers(0, VISITS - 1)
acts = st.lists(
    st.one_of(
        st.tuples(st.just("do"), phones, visits, st.sampled_from(STEPS), st.integers(-7200, 7200)),
        # Sends a batch from somewhere in what was written: from the first that is not answered, or an old one again.
        st.tuples(st.just("send"), phones, st.integers(0, 4), st.integers(1, 6)),
        st.tuples(st.just("office"), visits, st.sampled_from(["take away", "give back", "cancel"])),
        st.tuples(st.just("decide"), st.sampled_from(list(Choice))),
    ),
    min_size=3,
    max_size=25,
)


class Handset:
    """What a phone has written down and what it was answered."""

    def __init__(self, actor, now):
        self.id, self.actor, self.now = uuid.uuid4(), actor, now
        self.deeds: list[SentDeed] = []
        self.answers: dict[uuid.UUID, str] = {}
        register_phone(actor=actor, now=now, phone_id=self.id, name="phone", session="s")

    def write(self, visit, step, off):
        before = [deed for deed in self.deeds if deed.visit_id == visit.pk]
        self.deeds.append(
            SentDeed(
                id=uuid.uuid4(), number=len(self.deeds) + 1, previous=before[-1].id if before else None, kind="step",
                visit_id=visit.pk, body={"step": step, "note": "as seen"},
                based_on=Base(state=VisitState(SEEN[step])), happened_at=self.now + timedelta(seconds=off),
                device_at=self.now,
            )
        )  # fmt: skip

    def send(self, back, count):
        first = next((at for at, deed in enumerate(self.deeds) if deed.id not in self.answers), len(self.deeds))
        batch = self.deeds[max(0, first - back) :][:count]
        if batch:
            told = take_in(actor=self.actor, now=self.now, phone_id=self.id, deeds=batch)
            self.answers |= {one.id: str(one.outcome) for one in told if one.outcome != "again"}


def play(world, now, acts):
    ines, office = world.accounts["technician"], world.accounts["dispatcher"]
    handsets = [Handset(ines, now) for _number in range(2)]
    own = [world.placed(hour, state="sent") for hour in (9, 12)]
    for act in acts:
        if act[0] == "do":
            _name, phone, visit, step, off = act
            handsets[phone].write(own[visit], step, off)
        elif act[0] == "send":
            handsets[act[1]].send(act[2], act[3])
        elif act[0] == "office":
            changed = {
                "take away": {"technician": world.ivor}, "give back": {"technician": world.ines},
                "cancel": {"state": "cancelled"},
            }[act[2]]  # fmt: skip
            Visit.objects.filter(pk=own[act[1]].pk).update(**changed)
        else:
            decide(office, now, act[1])
    return handsets


def decide(office, now, choice):
    waiting = FieldDeed.objects.filter(outcome=Outcome.WAITING, settled_at=None).order_by("number").first()
    if waiting is None:
        return
    with suppress(RelayError):
        settle(actor=office, now=now, deed_id=waiting.pk, choice=choice)


def check(handsets):
    rows = {row.pk: row for row in FieldDeed.objects.all()}
    written = [deed for handset in handsets for deed in handset.deeds]
    assert rows.keys() == {deed.id for deed in written}  # nothing lost, nothing from nowhere
    events = list(VisitEvent.objects.order_by("id").values_list("key", flat=True))
    told = [key for key in events if key in rows]
    assert len(told) == len(set(told))
    applied = {key for key, row in rows.items() if row.outcome == Outcome.APPLIED}
    assert applied == set(told)  # what counts has happened, and what waits has not
    for handset in handsets:
        numbers = {deed.id: (deed.visit_id, deed.number) for deed in handset.deeds}
        for visit in {deed.visit_id for deed in handset.deeds}:
            order = [numbers[key][1] for key in told if key in numbers and numbers[key][0] == visit]
            assert order == sorted(order)


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow])
@given(acts=acts)
def test_nothing_is_lost_or_done_twice(world, now, acts):
    with transaction.atomic():
        handsets = play(world, now, acts)
        for handset in handsets:
            while len(handset.answers) < len(handset.deeds):
                handset.send(0, 50)
        check(handsets)
        transaction.set_rollback(True)
