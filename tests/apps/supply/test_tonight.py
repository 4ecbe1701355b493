"""Tomorrow's work against tomorrow's vans: what is shown is what the board marks, and what is picked is moved."""

import uuid
from datetime import timedelta

import pytest

from apps.stock import commands as stock
from apps.stock.inputs import Circumstances
from apps.stock.models import Level, Movement, Part, Piece
from apps.supply import commands
from apps.supply.inputs import Picked
from apps.supply.tonight import on_van, tonight
from core.stock import Move, MoveReason
from foundation import clock
from foundation.errors import Conflict, Rejected
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, Storekeeper, at, lies
from tests.apps.stock.test_stock import missing

TUESDAY = MONDAY + timedelta(days=1)
pytestmark = pytest.mark.django_db


def visit_on_tuesday(world, hour=10, *, technician=None, **takes):
    return world.visit(
        technician=technician or world.ines, start=to_datetime(at(hour, day=TUESDAY)), state="placed",
        takes={code.replace("_", "-"): number for code, number in takes.items()},
    )  # fmt: skip


def of(technician, day=TUESDAY):
    return next(row for row in tonight(day) if row.person.id == technician.pk)


def figures(van):
    return {row.part.code: (row.quantity, row.van, row.depot, row.missing) for row in van.parts}


def test_a_day_takes_from_the_van_then_from_the_depot_and_the_rest_is_missing(world, yard):
    lies(world.ines, "door-roller", 1)
    lies(world.ines.depot, "door-roller", 2)
    visit_on_tuesday(world, 9, door_roller=2, car_lamp=1)
    visit_on_tuesday(world, 13, door_roller=3)
    found = of(world.ines)
    assert figures(found) == {"car-lamp": (1, 0, 1, 0), "door-roller": (5, 1, 2, 2)}
    assert [(row.part.code, row.quantity, row.lies) for row in found.picks] == [
        ("car-lamp", 1, 5), ("door-roller", 2, 2),
    ]  # fmt: skip
    assert found.missing == 1


def test_what_is_missing_tonight_is_what_the_board_marks(world, yard, dispatcher):
    lies(world.ines.depot, "door-roller", 2)
    fits = visit_on_tuesday(world, 9, door_roller=2)
    short = visit_on_tuesday(world, 13, door_roller=1)
    other = visit_on_tuesday(world, 11, technician=world.ivor, door_roller=1)
    lacking = {need.visit.id for van in tonight(TUESDAY) for row in van.parts for need in row.visits if need.missing}
    marked = set(missing(dispatcher, world.ines, TUESDAY)) | set(missing(dispatcher, world.ivor, TUESDAY))
    assert lacking == marked == {short.pk, other.pk}
    assert fits.pk not in marked


def test_who_starts_at_home_takes_nothing_along_from_the_depot(world, yard):
    lies(world.ines.depot, "door-roller", 2)
    world.ines.starts_at_home, world.ines.home_lon, world.ines.home_lat = True, -24.6, 47.2
    world.ines.save()
    visit_on_tuesday(world, 9, door_roller=1)
    found = of(world.ines)
    assert (figures(found)["door-roller"], found.depot, list(found.picks)) == ((1, 0, 0, 1), None, [])


def test_whoever_has_set_out_takes_nothing_along_any_more(world, yard, dispatcher):
    lies(world.ines.depot, "door-roller", 2)
    later = world.placed(14, takes={"door-roller": 1})
    assert missing(dispatcher, world.ines) == {}
    world.placed(9, state="en_route", departed_at=to_datetime(at(9)))
    assert set(missing(dispatcher, world.ines)) == {later.pk}


def test_what_is_picked_lies_on_the_van(world, yard):
    lies(world.ines.depot, "door-roller", 2)
    visit_on_tuesday(world, 9, door_roller=2, car_lamp=1)
    key = uuid.uuid4()
    picked = [Picked(code=row.part.code, quantity=row.quantity) for row in of(world.ines).picks]
    for _twice in range(2):
        commands.pick(
            actor=Storekeeper(), now=clock.now(), technician_id=world.ines.pk, day=TUESDAY, picked=picked, key=key
        )
    assert (yard.has(yard.ines), yard.has(yard.ines, "car-lamp"), yard.has(yard.north)) == (2, 1, 0)
    assert figures(of(world.ines)) == {"car-lamp": (1, 1, 0, 0), "door-roller": (2, 2, 0, 0)}
    assert list(of(world.ines).picks) == []


def test_more_than_lies_there_is_not_picked(world, yard):
    lies(world.ines.depot, "door-roller", 2)
    visit_on_tuesday(world, 9, door_roller=2)
    with pytest.raises(Conflict, match="There is only 2 × Door roller at Northlock"):
        commands.pick(
            actor=Storekeeper(), now=clock.now(), technician_id=world.ines.pk, day=TUESDAY,
            picked=[Picked(code="door-roller", quantity=3)],
        )  # fmt: skip
    with pytest.raises(Rejected, match="Nothing was picked"):
        commands.pick(actor=Storekeeper(), now=clock.now(), technician_id=world.ines.pk, day=TUESDAY, picked=[])


def test_what_a_van_does_not_use_is_proposed_to_be_left_and_left(world, yard):
    lies(world.ines, "light-curtain", 2)
    lies(world.ines, "car-lamp", 3)
    visit_on_tuesday(world, 9, car_lamp=1)
    rows = {row.level.part.code: row for row in on_van(yard.ines, now=clock.now())}
    assert {code: (row.level.quantity, row.reserved, row.free, row.leave) for code, row in rows.items()} == {
        "door-roller": (0, 0, 0, False), "light-curtain": (2, 0, 2, True), "car-lamp": (3, 1, 2, False),
    }  # fmt: skip
    assert dict(rows["car-lamp"].by_day) == {TUESDAY: 1}
    done = commands.leave_at_depot(actor=Storekeeper(), now=clock.now(), place_id=yard.ines.pk, codes=["light-curtain"])
    assert (done, yard.has(yard.ines, "light-curtain"), yard.has(yard.north, "light-curtain")) == (1, 0, 2)
    assert Movement.objects.latest("id").reason == MoveReason.TRANSFER


def test_what_came_lately_or_was_used_lately_stays(world, yard):
    lies(world.ines.depot, "light-curtain", 2)
    planned = stock.Planned(
        code="light-curtain", quantity=2, source_id=yard.north.pk, target_id=yard.ines.pk, at=clock.now()
    )
    row = stock.plan_transfer(actor=Storekeeper(), now=clock.now(), planned=planned)
    stock.complete_transfers(actor=Storekeeper(), now=clock.now(), transfer_ids=[row.pk])
    [found] = [row for row in on_van(yard.ines, now=clock.now()) if row.level.part.code == "light-curtain"]
    assert not found.leave
    # Thirteen weeks later it is.
    [found] = [
        row for row in on_van(yard.ines, now=clock.now() + timedelta(weeks=13))
        if row.level.part.code == "light-curtain"
    ]  # fmt: skip
    assert found.leave


def test_what_is_needed_again_is_not_left_behind_though_it_was_proposed(world, yard):
    lies(world.ines, "light-curtain", 2)
    visit_on_tuesday(world, 9, light_curtain=1)
    with pytest.raises(Conflict, match="Light curtain is needed on"):
        commands.leave_at_depot(actor=Storekeeper(), now=clock.now(), place_id=yard.ines.pk, codes=["light-curtain"])
    assert yard.has(yard.ines, "light-curtain") == 2


def test_pieces_with_numbers_that_a_van_does_not_use_go_back_by_their_numbers(world, yard):
    Part.objects.filter(code="light-curtain").update(tracking="serial number")
    part = Part.objects.get(code="light-curtain")
    source = stock.place_of_supplier(yard.supplier.pk)
    one = Move(
        part=part.pk, quantity=2, source=source.pk, target=yard.ines.pk, reason=MoveReason.RECEIPT, serials=("A1", "A2")
    )
    long_ago = clock.now() - timedelta(weeks=60)
    stock.move(actor=Storekeeper(), now=long_ago, moves=[one], how=Circumstances(happened_at=long_ago))
    [row] = [row for row in on_van(yard.ines, now=clock.now()) if row.leave]
    assert row.level.part == part
    commands.leave_at_depot(actor=Storekeeper(), now=clock.now(), place_id=yard.ines.pk, codes=[part.code])
    assert yard.has(yard.north, "light-curtain") == 2
    assert set(Piece.objects.filter(place=yard.north).values_list("serial", flat=True)) == {"A1", "A2"}


def test_levels_that_are_taken_over_are_those_that_were_proposed(world, yard, as_role):
    lies(world.ines.depot, "door-roller", 40)
    for week in range(20):
        how = Circumstances(happened_at=clock.now() - timedelta(weeks=week))
        part = Part.objects.get(code="door-roller")
        one = Move(part=part.pk, quantity=2, source=yard.north.pk, target=yard.south.pk, reason=MoveReason.TRANSFER)
        stock.move(actor=Storekeeper(), now=clock.now(), moves=[one], how=how)
    api, path = as_role("dispatcher"), f"/supply/places/{yard.north.pk}/thresholds"
    shown = {row["code"]: (row["proposed_least"], row["proposed_target"]) for row in api.get(path).json()}
    assert shown["door-roller"][0] > 0
    assert api.post(path, {"codes": ["door-roller"]}).json() == 1
    level = Level.objects.get(place=yard.north, part__code="door-roller")
    assert (level.least, level.target) == shown["door-roller"]
    assert api.post(path, {"codes": ["door-roller"]}).json() == 0
