"""Ways to a missing part: what is offered is what is done, and only what can be done is offered."""

from datetime import timedelta

import pytest

from apps.board.models import Reminder
from apps.messages.models import Message
from apps.orders.models import Visit
from apps.stock.models import Transfer
from apps.supply import commands
from apps.supply.models import PartRequest, PurchaseLine
from apps.supply.ways import missing_of, ways_for
from core.calendars import local_time
from core.supply import WayKind
from foundation import clock
from foundation.errors import Rejected
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, TZ, at, lies
from tests.apps.stock.test_stock import missing
from tests.apps.supply.test_tonight import TUESDAY, visit_on_tuesday

pytestmark = pytest.mark.django_db


def ways(visit, code="door-roller"):
    return ways_for(missing_of(visit.pk, code), now=clock.now())


def of_kind(found, kind):
    return next((way for way in found if way.kind is kind), None)


def take(world, visit, way, code="door-roller"):
    visit.refresh_from_db()
    return commands.take_way(
        actor=world.accounts["dispatcher"], now=clock.now(), visit_id=visit.pk, version=visit.version, code=code,
        key=way.key,
    )  # fmt: skip


def test_nothing_is_offered_where_nothing_is_missing(world, yard):
    visit = visit_on_tuesday(world, 10, car_lamp=1)
    with pytest.raises(Rejected, match="Nothing of Car lamp is missing"):
        missing_of(visit.pk, "car-lamp")


def test_a_stop_at_a_depot_is_a_stop_of_the_round_and_the_visit_finds_its_part(world, yard, dispatcher):
    visit = visit_on_tuesday(world, 11, door_roller=2)
    way = of_kind(ways(visit), WayKind.DEPOT)
    assert (way.place_id, way.in_time, way.quantity) == (yard.south.pk, True, 2)
    before = dispatcher.get("/board", day=TUESDAY.isoformat(), days="1", technicians=str(world.ines.pk)).json()
    taken = take(world, visit, way)
    errand = taken.errand
    assert (errand.technician, int(errand.start.timestamp()), errand.state) == (world.ines, way.start, "placed")
    assert errand.order.title == "Fetch 2 × Door roller"
    assert missing(dispatcher, world.ines, TUESDAY) == {}
    # It takes what it was said to take.
    after = dispatcher.get("/board", day=TUESDAY.isoformat(), days="1", technicians=str(world.ines.pk)).json()
    assert seconds_of(after) - seconds_of(before) == way.seconds
    transfer = Transfer.objects.get()
    assert (transfer.source, transfer.target, transfer.for_visit, transfer.errand) == (
        yard.south, yard.ines, visit, errand,
    )  # fmt: skip


def seconds_of(board):
    """Driving and work of the one day."""
    [day] = board["lanes"][0]["days"]
    return sum(row["end"] - row["start"] for row in day["timetable"]["stretches"] if row["kind"] in ("drive", "work"))


def test_finishing_the_stop_moves_the_parts_and_calling_it_off_lets_them_go(world, yard, dispatcher):
    visit = visit_on_tuesday(world, 11, door_roller=2)
    errand = take(world, visit, of_kind(ways(visit), WayKind.DEPOT)).errand
    dispatcher.post(f"/visits/{errand.pk}/unplace", {"version": errand.version})
    assert Transfer.objects.get().state == "dropped"
    assert set(missing(dispatcher, world.ines, TUESDAY)) == {visit.pk}
    errand.refresh_from_db()
    body = {"version": errand.version, "technician_id": world.ines.pk, "start": at(9, day=TUESDAY)}
    assert dispatcher.post(f"/visits/{errand.pk}/place", body).status_code == 200
    assert Transfer.objects.get().state == "open"
    assert missing(dispatcher, world.ines, TUESDAY) == {}
    Visit.objects.filter(pk=errand.pk).update(state="on_site", arrived_at=to_datetime(at(9, day=TUESDAY)))
    errand.refresh_from_db()
    body = {"version": errand.version, "step": "finish", "note": "fetched"}
    assert dispatcher.post(f"/visits/{errand.pk}/step", body).status_code == 200
    assert (yard.has(yard.ines), yard.has(yard.south)) == (2, 6)


def test_a_colleague_hands_it_over_where_they_are_and_is_told(world, yard, dispatcher):
    lies(world.ivor, "door-roller", 3)
    visit = visit_on_tuesday(world, 12, door_roller=2)
    visit_on_tuesday(world, 9, technician=world.ivor)
    way = of_kind(ways(visit), WayKind.COLLEAGUE)
    assert (way.technician_id, way.in_time) == (world.ivor.pk, True)
    # Ivor is there from nine to ten.
    assert at(9, day=TUESDAY) <= way.start <= at(10, day=TUESDAY)
    errand = take(world, visit, way).errand
    assert missing(dispatcher, world.ines, TUESDAY) == {}
    reminder = Reminder.objects.get()
    assert (reminder.technician, int(reminder.at.timestamp())) == (world.ivor, way.start)
    assert reminder.text.startswith("Hand over 2 × Door roller to Ines Falk at Seagate Hall")
    assert [row.name for row in Message.objects.filter(visit=errand)] == ["Ivor Larkin"]


def test_what_a_colleague_needs_is_not_offered(world, yard):
    lies(world.ivor, "door-roller", 3)
    visit = visit_on_tuesday(world, 12, door_roller=2)
    visit_on_tuesday(world, 9, technician=world.ivor, door_roller=2)
    assert of_kind(ways(visit), WayKind.COLLEAGUE) is None
    assert of_kind(ways(visit), WayKind.GIVE) is None


def test_a_substitute_is_taken_instead(world, yard, instead, dispatcher):
    lies(world.ines, "light-curtain", 2)
    visit = visit_on_tuesday(world, 11, door_roller=2, car_lamp=1)
    found = ways(visit)
    assert found[0].kind is WayKind.SUBSTITUTE  # the other ways cost a drive
    take(world, visit, found[0])
    visit.refresh_from_db()
    assert visit.takes == {"light-curtain": 2, "car-lamp": 1}
    assert missing(dispatcher, world.ines, TUESDAY) == {}
    assert dispatcher.post("/board/undo", {}).status_code == 200
    visit.refresh_from_db()
    assert visit.takes == {"door-roller": 2, "car-lamp": 1}


def test_a_substitute_that_others_need_is_not_offered(world, yard, instead):
    lies(world.ines, "light-curtain", 2)
    visit = visit_on_tuesday(world, 11, door_roller=2)
    visit_on_tuesday(world, 14, light_curtain=1)
    assert of_kind(ways(visit), WayKind.SUBSTITUTE) is None


def test_somebody_who_has_it_does_the_visit(world, yard, dispatcher):
    lies(world.ivor, "door-roller", 3)
    visit = visit_on_tuesday(world, 11, door_roller=2)
    way = of_kind(ways(visit), WayKind.GIVE)
    assert way.in_time
    take(world, visit, way)
    visit.refresh_from_db()
    assert (visit.technician, visit.start) == (world.ivor, to_datetime(at(11, day=TUESDAY)))
    assert missing(dispatcher, world.ivor, TUESDAY) == {}


def test_who_may_not_do_the_visit_is_not_offered(world, yard):
    lies(world.ivor, "door-roller", 3)
    world.ivor.skills.all().delete()
    visit = visit_on_tuesday(world, 11, door_roller=2)
    visit.needs = {"doors": 2}
    visit.save()
    assert of_kind(ways(visit), WayKind.GIVE) is None


def test_the_supplier_is_in_time_when_it_comes_the_day_before(world, yard):
    near = visit_on_tuesday(world, 11, door_roller=9)
    assert of_kind(ways(near), WayKind.SUPPLIER).in_time is False
    friday = MONDAY + timedelta(days=4)
    far = world.visit(
        technician=world.ines, start=to_datetime(at(10, day=friday)), state="placed", takes={"door-roller": 9}
    )
    way = of_kind(ways(far), WayKind.SUPPLIER)
    assert way.in_time
    take(world, far, way)
    line = PurchaseLine.objects.get()
    assert (line.quantity, line.order.state, line.order.supplier) == (9, "proposal", yard.supplier)
    asked = PartRequest.objects.get()
    assert (asked.visit, asked.state, asked.line) == (far, "ordered", line)


def test_a_way_that_is_gone_is_not_taken(world, yard):
    visit = visit_on_tuesday(world, 11, door_roller=2)
    way = of_kind(ways(visit), WayKind.DEPOT)
    lies(yard.south.depot, "door-roller", 1)
    with pytest.raises(Rejected, match="That way is not open any more"):
        take(world, visit, way)
    assert not Transfer.objects.exists()


def test_a_way_that_would_break_a_promise_is_shown_as_too_late_and_not_taken(world, yard):
    start = at(8, day=TUESDAY)
    visit = world.visit(
        technician=world.ines, start=to_datetime(start), state="placed", takes={"door-roller": 2},
        promise_start=to_datetime(start), promise_end=to_datetime(start + 600),
    )  # fmt: skip
    way = of_kind(ways(visit), WayKind.DEPOT)
    assert not way.in_time
    with pytest.raises(Rejected, match="not in time"):
        take(world, visit, way)


def test_every_way_that_is_offered_in_time_can_be_taken(world, yard, instead, dispatcher):
    """Each in a company of its own, taken back after."""
    from django.db import transaction

    lies(world.ivor, "door-roller", 3)
    lies(world.ines, "light-curtain", 2)
    visit = visit_on_tuesday(world, 12, door_roller=2)
    visit_on_tuesday(world, 9, technician=world.ivor)
    found = [way for way in ways(visit) if way.in_time]
    assert {way.kind for way in found} == {WayKind.DEPOT, WayKind.COLLEAGUE, WayKind.SUBSTITUTE, WayKind.GIVE}
    for way in found:
        with transaction.atomic():
            take(world, visit, way)
            lacking = missing(dispatcher, world.ines, TUESDAY) | missing(dispatcher, world.ivor, TUESDAY)
            assert lacking == {}, way
            transaction.set_rollback(True)


def test_what_a_drag_says_of_who_has_the_part_is_the_way_that_is_offered_then(world, yard, dispatcher):
    visit = world.visit(takes={"door-roller": 2})
    where = {"technician_id": world.ines.pk, "start": at(11, day=TUESDAY)}
    verdict = dispatcher.post("/scheduling/judge", {"visit_id": visit.pk, **where}).json()
    [said] = [row["sentence"] for row in verdict["reasons"] if "off the route" in row["sentence"]]
    body = {"version": visit.version, "reason": "somebody fetches it", **where}
    assert dispatcher.post(f"/visits/{visit.pk}/place", body).status_code == 200
    way = of_kind(ways(visit), WayKind.DEPOT)
    assert way.in_time
    assert said.startswith("Door roller: Kilnfield has 8 free, ")
    assert said.endswith(f"at {local_time(way.start, TZ)}")
