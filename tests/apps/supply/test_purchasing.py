"""Purchase orders and requests: proposed from the levels, received in part, and whoever waits is served."""

import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from threading import Barrier

import pytest
from django.db import connection

from apps.company.models import Holiday
from apps.messages.models import Call
from apps.orders.models import Visit
from apps.stock import commands as stock
from apps.stock.inputs import LevelFields
from apps.stock.models import Level, Part, Transfer
from apps.supply import commands, levels
from apps.supply.inputs import Asked, Came, LineWanted
from apps.supply.models import PartRequest, PurchaseOrder
from core.orders import VisitState
from foundation import clock
from foundation.errors import Conflict, NotPermitted, Rejected
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, Storekeeper, at, lies

pytestmark = pytest.mark.django_db
WHO = Storekeeper()


def how():
    return {"actor": WHO, "now": clock.now()}


def keep(place, code, least, target):
    return stock.set_level(
        **how(), place_id=place.pk, code=code, version=None, fields=LevelFields(least=least, target=target)
    )


def ordered(yard, quantity=5, code="door-roller", price=None):
    order = commands.new_proposal(
        **how(), supplier_id=yard.supplier.pk, place_id=yard.north.pk,
        lines=[LineWanted(code=code, quantity=quantity, price=price)],
    )  # fmt: skip
    return commands.send_order(**how(), order_id=order.pk, version=order.version)


def receive(order, quantity, *, price=None, key=None, **more):
    [line] = order.lines.all()
    came = [Came(line_id=line.pk, quantity=quantity, price=price, **more)]
    return commands.receive(**how(), order_id=order.pk, version=order.version, came=came, key=key)


def lines_of(order):
    return {row.part.code: row.quantity for row in order.lines.select_related("part")}


def test_what_is_below_its_least_level_is_proposed_once(world, yard):
    keep(yard.north, "car-lamp", 6, 20)  # five are there
    keep(yard.north, "light-curtain", 0, 3)
    for _twice in range(2):
        [order] = commands.propose(**how())
    assert (order.state, order.supplier, order.target, lines_of(order)) == (
        "proposal", yard.supplier, yard.north, {"car-lamp": 15},
    )  # fmt: skip
    assert PurchaseOrder.objects.count() == 1


def test_what_is_coming_and_what_is_spoken_for_count(world, yard):
    keep(yard.north, "car-lamp", 5, 20)
    assert levels.short() == []
    world.placed(13, takes={"car-lamp": 2})
    [(row, number)] = levels.short()
    assert (row.part.code, number) == ("car-lamp", 17)
    ordered(yard, 4, code="car-lamp")
    assert levels.short() == []
    [figures] = levels.figures([row]).values()
    assert (figures.on_hand, figures.reserved, figures.free, figures.coming_quantity) == (5, 2, 3, 4)
    assert figures.next_on == MONDAY + timedelta(days=3)


def test_an_order_comes_in_part_and_then_whole(world, yard):
    order = ordered(yard, 5, price=12_00)
    assert (order.state, order.expected_on) == ("ordered", MONDAY + timedelta(days=3))
    order = receive(order, 2)
    assert (order.state, yard.has(yard.north)) == ("received in part", 2)
    order = receive(order, 3, price=15_00)
    assert (order.state, yard.has(yard.north)) == ("received", 5)
    [line] = order.lines.all()
    assert (line.received, line.price, line.paid) == (5, 12_00, 15_00)
    # Ten at 11 were in the other depot's eight and these: 8 × 11, 2 × 12, 3 × 15.
    assert Part.objects.get(code="door-roller").cost == round((8 * 1100 + 2 * 1200 + 3 * 1500) / 13)
    with pytest.raises(Rejected, match="is received"):
        receive(order, 1)


def test_what_is_received_twice_under_one_key_is_booked_once(world, yard):
    order, key = ordered(yard, 5), uuid.uuid4()
    first = receive(order, 2, key=key)
    again = receive(order, 2, key=key)
    assert (first.pk, again.state, yard.has(yard.north)) == (again.pk, "received in part", 2)


def test_an_order_that_is_sent_stays_as_it_was_sent(world, yard):
    order = ordered(yard, 5)
    with pytest.raises(Rejected, match="is ordered"):
        commands.put_lines(**how(), order_id=order.pk, version=order.version, lines=[])
    with pytest.raises(Rejected, match="Say why"):
        commands.cancel_order(**how(), order_id=order.pk, version=order.version, because=" ")
    assert (
        commands.cancel_order(**how(), order_id=order.pk, version=order.version, because="found some").state
        == "cancelled"
    )
    assert levels.coming_by_place() == {}


def test_an_order_comes_when_the_way_said_it_would(world, yard):
    """Three days from Thursday is a Sunday, and on Monday they have a day off."""
    Holiday.objects.create(day=MONDAY + timedelta(days=7), name="Harbour Day")
    supplier = yard.supplier
    expected = levels.comes_on(supplier, MONDAY + timedelta(days=3))
    assert expected == MONDAY + timedelta(days=8)
    order = commands.new_proposal(
        **how(), supplier_id=supplier.pk, place_id=None, lines=[LineWanted(code="door-roller", quantity=1)]
    )
    thursday = {"actor": how()["actor"], "now": clock.now() + timedelta(days=3)}
    assert commands.send_order(**thursday, order_id=order.pk, version=order.version).expected_on == expected


def test_an_empty_proposal_and_a_part_without_a_supplier_are_refused(world, yard):
    order = commands.new_proposal(**how(), supplier_id=yard.supplier.pk, place_id=None, lines=[])
    with pytest.raises(Rejected, match="nothing on it"):
        commands.send_order(**how(), order_id=order.pk, version=order.version)
    part = Part.objects.get(code="car-lamp")
    part.supplier = None
    with pytest.raises(Rejected, match="has no supplier"):
        commands.add_to_proposal(**how(), part=part, quantity=1)


@pytest.mark.django_db(transaction=True)
def test_of_many_who_propose_at_once_there_is_one_proposal(world, yard):
    ready = Barrier(6)

    def propose(_number):
        ready.wait()
        try:
            part = Part.objects.select_related("supplier").get(code="door-roller")
            from django.db import transaction

            with transaction.atomic():
                commands.add_to_proposal(**how(), part=part, quantity=1, target=yard.north)
        finally:
            connection.close()

    with ThreadPoolExecutor(6) as threads:
        list(threads.map(propose, range(6)))
    assert lines_of(PurchaseOrder.objects.get()) == {"door-roller": 6}


# --- who waits ---------------------------------------------------------------------------------------------


def asked(world, quantity=1, **more):
    more.setdefault("technician_id", world.ines.pk)
    return commands.ask(**how(), asked=Asked(code="door-roller", quantity=quantity, **more))


def on_hold(world):
    return world.placed(
        9, state="on_hold", departed_at=to_datetime(at(9)), arrived_at=to_datetime(at(9)), takes={"car-lamp": 1}
    )


def test_a_visit_on_hold_is_back_in_the_backlog_once_all_it_waits_for_has_come(world, yard):
    visit = on_hold(world)
    row = commands.order_for(**how(), request_id=asked(world, 2, visit_id=visit.pk).pk, version=1)
    order = commands.send_order(**how(), order_id=row.line.order_id, version=row.line.order.version)
    order = receive(order, 1)
    row.refresh_from_db()
    visit.refresh_from_db()
    assert (row.state, visit.state) == ("ordered", "on_hold")  # one of two is not enough
    receive(order, 1)
    row.refresh_from_db()
    visit = Visit.objects.get(pk=visit.pk)
    assert (row.state, visit.state, visit.technician, visit.arrived_at) == ("arrived", VisitState.OPEN, None, None)
    assert visit.takes == {"car-lamp": 1, "door-roller": 2}
    [call] = Call.objects.all()
    assert call.why.startswith(f"2 × Door roller for {visit.label} has come: offer a time")


@pytest.mark.usefixtures("planner_here")
def test_the_time_that_is_proposed_for_what_has_come_is_promised_in_the_call(world, yard, as_role):
    visit = on_hold(world)
    # Another visit takes a part that is nowhere in question; nobody else has a roller.
    world.placed(13, takes={"light-curtain": 1})
    row = commands.order_for(**how(), request_id=asked(world, 1, visit_id=visit.pk).pk, version=1)
    order = commands.send_order(**how(), order_id=row.line.order_id, version=row.line.order.version)
    receive(order, 1)
    api = as_role("intake")
    [call] = as_role("dispatcher").get("/messages/calls").json()
    assert (call["visit_id"], call["can_offer"]) == (visit.pk, True)
    best = api.post(f"/visits/{visit.pk}/offers", {}).json()["offers"][0]
    window = {"start": best["start"], "end": best["end"]}
    body = {"version": call["visit_version"], "window": window, "assign": True}
    assert api.post(f"/visits/{visit.pk}/promise", body).status_code == 200
    visit = Visit.objects.get(pk=visit.pk)
    assert (visit.promise.start, visit.promise.end) == (best["start"], best["end"])
    # Who was named goes, at the time that was named, and finds the part where it was put.
    assert (visit.technician_id, visit.start) == (best["technicians"][0]["id"], to_datetime(best["starts_at"]))
    [call] = as_role("dispatcher").get("/messages/calls").json()
    assert not call["can_offer"]


def test_of_two_who_wait_the_one_who_must_have_it_is_served_first(world, yard):
    nice, must = asked(world, 1, must=False), asked(world, 1, technician_id=world.ivor.pk)
    rows = [commands.order_for(**how(), request_id=row.pk, version=1) for row in (nice, must)]
    order = PurchaseOrder.objects.get()
    order = commands.send_order(**how(), order_id=order.pk, version=order.version)
    receive(order, 1)
    states = {row.technician_id: row.state for row in PartRequest.objects.filter(pk__in=[row.pk for row in rows])}
    assert states == {world.ines.pk: "ordered", world.ivor.pk: "arrived"}


def test_a_request_is_answered_from_somewhere_and_handed_over(world, yard):
    row = asked(world, 2)
    row = commands.promise(**how(), request_id=row.pk, version=row.version, place_id=yard.south.pk, at=clock.now())
    assert (row.state, row.transfer.source, row.transfer.target) == ("promised", yard.south, yard.ines)
    with pytest.raises(Conflict, match="promised already"):
        commands.order_for(**how(), request_id=row.pk, version=row.version)
    row = commands.hand_over(**how(), request_id=row.pk, version=row.version)
    assert (row.state, yard.has(yard.ines), yard.has(yard.south)) == ("handed over", 2, 6)


def test_a_refusal_lets_go_what_was_promised(world, yard):
    row = asked(world, 2)
    row = commands.promise(**how(), request_id=row.pk, version=row.version, place_id=yard.south.pk, at=clock.now())
    with pytest.raises(Rejected, match="Say why"):
        commands.refuse(**how(), request_id=row.pk, version=row.version, because="")
    commands.refuse(**how(), request_id=row.pk, version=row.version, because="Use the old one")
    assert (PartRequest.objects.get().state, Transfer.objects.get().state) == ("refused", "dropped")


def test_a_technician_asks_for_themselves_only(world, yard):
    actor = world.accounts["technician"]
    made = commands.ask(
        actor=actor, now=clock.now(), asked=Asked(code="door-roller", quantity=1, technician_id=world.ines.pk)
    )
    assert made.asked_by == actor.name
    with pytest.raises(NotPermitted):
        commands.ask(
            actor=actor, now=clock.now(), asked=Asked(code="door-roller", quantity=1, technician_id=world.ivor.pk)
        )
    with pytest.raises(NotPermitted):
        commands.promise(
            actor=actor, now=clock.now(), request_id=made.pk, version=1, place_id=yard.south.pk, at=clock.now()
        )


def test_nothing_is_promised_twice(world, yard):
    lies(yard.south.depot, "door-roller", 2)
    first, second = asked(world, 2), asked(world, 1, technician_id=world.ivor.pk)
    commands.promise(**how(), request_id=first.pk, version=1, place_id=yard.south.pk, at=clock.now())
    with pytest.raises(Conflict, match="Kilnfield has 0 × Door roller free"):
        commands.promise(**how(), request_id=second.pk, version=1, place_id=yard.south.pk, at=clock.now())


def test_an_order_that_is_late_is_to_be_looked_at_until_all_of_it_has_come(world, yard, as_role):
    api = as_role("dispatcher")
    order = ordered(yard)
    assert api.get("/supply/pressing").json() == []
    PurchaseOrder.objects.filter(pk=order.pk).update(expected_on=MONDAY - timedelta(days=3))
    [row] = api.get("/supply/pressing").json()
    assert row["order_id"] == order.pk
    assert "has not all come" in row["sentence"]
    assert api.get("/supply/counts").json()["late"] == 1
    receive(order, 5)
    assert api.get("/supply/pressing").json() == []


def test_a_level_below_zero_is_to_be_looked_at(world, yard, as_role):
    Level.objects.filter(place=yard.north, part__code="car-lamp").update(quantity=-2)
    [row] = as_role("dispatcher").get("/supply/pressing").json()
    assert row["place_id"] == yard.north.pk
    assert "-2 on the books" in row["sentence"]


# --- what is ordered and does not come ---------------------------------------------------------------------


def waiting(world, quantity=2):
    row = asked(world, quantity)
    return commands.order_for(**how(), request_id=row.pk, version=row.version)


def state_of(row):
    row.refresh_from_db()
    return row.state, row.line_id is None


def test_who_waits_for_an_order_that_is_called_off_asks_again(world, yard):
    row = waiting(world)
    order = commands.send_order(**how(), order_id=row.line.order_id, version=row.line.order.version)
    commands.cancel_order(**how(), order_id=order.pk, version=order.version, because="they have none")
    assert state_of(row) == ("asked", True)


def test_who_waits_for_a_line_that_is_taken_off_a_proposal_asks_again(world, yard):
    row = waiting(world)
    order = PurchaseOrder.objects.get()
    commands.put_lines(
        **how(), order_id=order.pk, version=order.version, lines=[LineWanted(code="car-lamp", quantity=1, price=None)]
    )
    assert state_of(row) == ("asked", True)


def test_who_was_promised_more_than_was_ordered_asks_again_once_all_has_come(world, yard):
    row = waiting(world, 3)
    order = PurchaseOrder.objects.get()
    fewer = [LineWanted(code="door-roller", quantity=1, price=None)]
    order = commands.put_lines(**how(), order_id=order.pk, version=order.version, lines=fewer)
    order = commands.send_order(**how(), order_id=order.pk, version=order.version)
    assert receive(order, 1).state == "received"
    assert state_of(row) == ("asked", True)


def test_whoever_edits_a_proposal_does_not_take_off_what_was_put_on_it_meanwhile(world, yard):
    commands.new_proposal(
        **how(), supplier_id=yard.supplier.pk, place_id=yard.north.pk,
        lines=[LineWanted(code="car-lamp", quantity=1, price=None)],
    )  # fmt: skip
    seen = PurchaseOrder.objects.get().version
    row = waiting(world)
    with pytest.raises(Conflict, match="Look at it again"):
        commands.put_lines(
            **how(), order_id=row.line.order_id, version=seen,
            lines=[LineWanted(code="car-lamp", quantity=4, price=None)],
        )  # fmt: skip
    assert lines_of(PurchaseOrder.objects.get()) == {"car-lamp": 1, "door-roller": 2}


def test_a_supplier_is_written_to_once_with_the_order_as_paper_and_table(world, yard, mailoutbox):
    order = ordered(yard)
    assert commands.mail_order(now=clock.now(), order_id=order.pk)
    assert not commands.mail_order(now=clock.now(), order_id=order.pk)
    [letter] = mailoutbox
    assert letter.to == ["orders@steyn.example"]
    assert [kind for _name, _content, kind in letter.attachments] == ["application/pdf", "text/csv"]
    assert order.number in letter.extra_headers["Message-ID"]


def test_a_letter_that_could_not_be_handed_over_is_written_again_and_no_order_says_it_was(
    world, yard, mailoutbox, monkeypatch
):
    order = ordered(yard)

    def away(self):
        raise OSError("no way out")

    monkeypatch.setattr("apps.supply.commands.purchasing.EmailMessage.send", away)
    with pytest.raises(OSError, match="no way out"):
        commands.mail_order(now=clock.now(), order_id=order.pk)
    assert PurchaseOrder.objects.get().mailed_at is None
    monkeypatch.undo()
    assert commands.mail_order(now=clock.now(), order_id=order.pk)
    assert len(mailoutbox) == 1


def test_what_arrived_is_handed_over_from_where_it_was_ordered_to(world, yard):
    row = waiting(world, 2)
    order = PurchaseOrder.objects.get()
    order = commands.send_order(**how(), order_id=order.pk, version=order.version)
    receive(order, 2)
    world.ines.depot = yard.south.depot  # moved meanwhile
    world.ines.save(update_fields=["depot"])
    row.refresh_from_db()
    commands.hand_over(**how(), request_id=row.pk, version=row.version)
    assert (yard.has(yard.ines), yard.has(yard.north), yard.has(yard.south)) == (2, 0, 8)


def test_a_piece_with_a_number_is_handed_over_by_its_number(world, yard, as_role):
    Part.objects.filter(code="light-curtain").update(tracking="serial number")
    wanted = Asked(code="light-curtain", quantity=1, technician_id=world.ines.pk)
    row = commands.ask(**how(), asked=wanted)
    row = commands.order_for(**how(), request_id=row.pk, version=row.version)
    order = commands.send_order(**how(), order_id=row.line.order_id, version=row.line.order.version)
    receive(order, 1, serials=["C9"])
    api = as_role("dispatcher")
    [shown] = api.get("/part-requests").json()
    assert (shown["state"], shown["tracking"]) == ("arrived", "serial number")
    path = f"/part-requests/{row.pk}/hand-over"
    assert api.post(path, {"version": shown["version"]}).status_code == 422
    assert api.post(path, {"version": shown["version"], "serials": ["C9"]}).status_code == 204
    assert yard.has(yard.ines, "light-curtain") == 1
