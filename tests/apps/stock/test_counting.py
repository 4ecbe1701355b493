"""Counts of places: blind, beside the day's work, explained, and booked by two where it is worth it."""

from types import SimpleNamespace

import pytest

from apps.company.models import Company
from apps.stock import commands
from apps.stock.inputs import Found
from apps.stock.models import CountSheet, Level, Movement, Part
from apps.stock.queries import count_sheet
from core.stock import CountScope, Move, MoveReason
from foundation import clock
from foundation.errors import Conflict, Rejected
from tests.apps.conftest import Storekeeper, lies

pytestmark = pytest.mark.django_db
WHO = Storekeeper()
SECOND = SimpleNamespace(**{**{name: getattr(WHO, name) for name in ("role", "actions", "reach", "role_name")},
                            "id": 77, "name": "Second", "technician_id": None})  # fmt: skip


def how(actor=WHO):
    return {"actor": actor, "now": clock.now()}


@pytest.fixture
def depot(world):
    Part.objects.update(cost=11_00)
    lies(world.ines.depot, "door-roller", 5)
    return lies(world.ines.depot, "car-lamp", 8)


def begin(place, scope=CountScope.WHOLE, **more):
    return commands.begin_count(**how(), place_id=place.pk, scope=scope, **more)


def enter(sheet, **found):
    rows = [Found(code=code.replace("_", "-"), quantity=quantity) for code, quantity in found.items()]
    commands.enter_found(**how(), sheet_id=sheet.pk, found=rows)


def finish(sheet):
    return commands.finish_count(**how(), sheet_id=sheet.pk, version=count_sheet(sheet.pk).version)


def explain(sheet, **words):
    sheet.refresh_from_db()
    given = {code.replace("_", "-"): text for code, text in words.items()}
    commands.explain(**how(), sheet_id=sheet.pk, version=sheet.version, words=given)


def booked(sheet, actor=WHO):
    sheet.refresh_from_db()
    return commands.book_count(**how(actor), sheet_id=sheet.pk, version=sheet.version)


def level(place, code):
    return Level.objects.get(place=place, part__code=code).quantity


def test_the_books_say_what_was_found_when_it_is_explained_and_booked(depot):
    sheet = begin(depot)
    enter(sheet, door_roller=4, car_lamp=8)
    assert level(depot, "door-roller") == 5  # not before it is booked
    finish(sheet)
    with pytest.raises(Rejected, match="Say why Door roller differs"):
        booked(sheet)
    explain(sheet, door_roller="one was broken")
    booked(sheet)
    assert (level(depot, "door-roller"), level(depot, "car-lamp")) == (4, 8)
    assert commands.check_levels(now=clock.now()) == []
    with pytest.raises(Rejected):
        booked(sheet)


def test_a_place_goes_on_working_while_it_is_counted(world, depot):
    sheet = begin(depot)
    enter(sheet, door_roller=5)  # five lie there, five were counted
    van = commands.place_of_van(world.ines)
    one = Move(part=Part.objects.get(code="door-roller").pk, quantity=2, source=depot.pk, target=van.pk,
               reason=MoveReason.TRANSFER)  # fmt: skip
    commands.move(**how(), moves=[one])
    lamp = Part.objects.get(code="car-lamp").pk
    taken = Move(part=lamp, quantity=3, source=depot.pk, target=van.pk, reason=MoveReason.TRANSFER)
    commands.move(**how(), moves=[taken])
    enter(sheet, car_lamp=5)  # counted after three were taken
    finish(sheet)
    before = Movement.objects.count()
    booked(sheet)
    assert Movement.objects.count() == before  # nothing differs
    assert (level(depot, "door-roller"), level(depot, "car-lamp")) == (3, 5)


def test_whoever_counts_does_not_see_how_many_there_ought_to_be(as_role, depot):
    api = as_role("dispatcher")
    sheet = api.post("/stock/counts", {"place_id": depot.pk, "scope": "everything"}).json()
    assert {line["part"]: (line["on_books"], line["difference"]) for line in sheet["lines"]} == {
        "Car lamp": (None, None), "Door roller": (None, None),
    }  # fmt: skip
    path = f"/stock/counts/{sheet['id']}"
    found = [{"code": "door-roller", "quantity": 3}, {"code": "car-lamp", "quantity": 8}]
    sheet = api.put(f"{path}/found", {"found": found}).json()
    assert all(line["on_books"] is None for line in sheet["lines"])
    sheet = api.post(f"{path}/finish", {"version": sheet["version"]}).json()
    [roller] = [line for line in sheet["lines"] if line["part"] == "Door roller"]
    assert (roller["on_books"], roller["difference"]) == (5, -2)


def test_a_large_difference_is_booked_by_somebody_else(depot):
    Company.objects.update(settings={"stock_second_person": 20})
    sheet = begin(depot)
    enter(sheet, door_roller=1, car_lamp=8)  # four are missing, 44.00
    finish(sheet)
    explain(sheet, door_roller="not found")
    with pytest.raises(Rejected, match="somebody else has to book them"):
        booked(sheet)
    assert level(depot, "door-roller") == 5
    booked(sheet, SECOND)
    assert level(depot, "door-roller") == 1


def test_a_sheet_is_not_finished_before_all_is_counted_nor_begun_twice(depot):
    sheet = begin(depot)
    with pytest.raises(Rejected, match="being counted already"):
        begin(depot)
    enter(sheet, car_lamp=8)
    with pytest.raises(Rejected, match="1 part is not counted yet"):
        finish(sheet)
    enter(sheet, door_roller=5)
    with pytest.raises(Conflict):
        commands.finish_count(**how(), sheet_id=sheet.pk, version=sheet.version)


def test_a_sample_is_of_the_size_asked_for_and_of_that_place(depot):
    sheet = begin(depot, CountScope.SAMPLE, size=1)
    assert sheet.lines.count() == 1
    assert sheet.lines.get().part.code in {"door-roller", "car-lamp"}


def test_what_is_found_that_nobody_knew_of_is_added(depot):
    sheet = begin(depot)
    enter(sheet, door_roller=5, car_lamp=8, light_curtain=2)
    finish(sheet)
    explain(sheet, light_curtain="was never booked in")
    booked(sheet)
    assert level(depot, "light-curtain") == 2


def test_a_count_that_is_dropped_books_nothing(depot):
    sheet = begin(depot)
    enter(sheet, door_roller=0)
    sheet.refresh_from_db()
    commands.drop_count(**how(), sheet_id=sheet.pk, version=sheet.version)
    assert level(depot, "door-roller") == 5
    assert begin(depot).pk != sheet.pk
    assert CountSheet.objects.get(pk=sheet.pk).state == "dropped"
