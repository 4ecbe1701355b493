"""What is booked by hand, labels, parts made one, and the nightly check."""

import uuid

import pytest

from apps.stock import commands
from apps.stock.inputs import ByHand
from apps.stock.models import Level, LevelAlarm, Movement, Part, Supplier
from apps.stock.tasks import check_levels
from core.stock import MoveReason
from foundation import clock
from foundation.errors import NotFound, Rejected
from tests.apps.conftest import Storekeeper, lies

pytestmark = pytest.mark.django_db


def how():
    return {"actor": Storekeeper(), "now": clock.now()}


def by_hand(reason, quantity=1, *, source=None, target=None, code="door-roller", **more):
    cost = more.pop("cost", None)
    return commands.book_by_hand(
        **how(), reason=reason, rows=[ByHand(code=code, quantity=quantity, cost=cost)], **more,
        source_id=source.pk if source else None, target_id=target.pk if target else None,
    )  # fmt: skip


@pytest.fixture
def depot(world):
    return lies(world.ines.depot, "door-roller", 5)


def level(place, code="door-roller"):
    return Level.objects.get(place=place, part__code=code).quantity


def test_what_comes_in_comes_from_its_supplier_at_its_price(depot):
    supplier = Supplier.objects.create(name="Steyn Door Systems")
    Part.objects.filter(code="door-roller").update(cost=10_00, supplier=supplier)
    [row] = by_hand(MoveReason.RECEIPT, 5, target=depot, cost=20_00)
    assert (row.source.name, level(depot)) == ("Steyn Door Systems", 10)
    assert Part.objects.get(code="door-roller").cost == 15_00  # five at 10 and five at 20


def test_what_is_thrown_away_says_why(depot):
    with pytest.raises(Rejected, match="Say why"):
        by_hand(MoveReason.SCRAP, source=depot)
    [row] = by_hand(MoveReason.SCRAP, 2, source=depot, note="water damage")
    assert (row.target.kind, row.note, level(depot)) == ("scrap", "water damage", 3)


def test_the_same_press_books_once(depot, world):
    key, van = uuid.uuid4(), commands.place_of_van(world.ines)
    for _twice in range(2):
        by_hand(MoveReason.TRANSFER, 2, source=depot, target=van, key=key)
    assert (level(depot), level(van)) == (3, 2)


def test_uses_and_counts_are_not_booked_by_hand(depot, world):
    with pytest.raises(Rejected, match="not booked by hand"):
        by_hand(MoveReason.USE, source=depot, target=commands.place_of_van(world.ines))
    with pytest.raises(NotFound):
        by_hand(MoveReason.TRANSFER, source=depot, target=depot, code="nothing")


def test_two_parts_become_one_and_what_lies_there_is_booked_over(depot, world):
    lies(world.ines.depot, "car-lamp", 3)
    gone = Part.objects.get(code="car-lamp")
    kept = commands.merge_parts(**how(), code="car-lamp", version=gone.version, into="door-roller")
    assert (kept.code, level(depot)) == ("door-roller", 8)
    assert Level.objects.filter(part=gone).exclude(quantity=0).count() == 0
    assert Movement.objects.filter(part=gone).exists()  # what was booked stays
    assert commands.check_levels(now=clock.now()) == []


def test_the_nightly_check_finds_a_level_that_is_not_its_sum_and_puts_nothing_right(depot):
    check_levels(0)
    assert not LevelAlarm.objects.exists()
    Level.objects.filter(place=depot, part__code="door-roller").update(quantity=7)
    for _twice in range(2):
        check_levels(0)
    [alarm] = LevelAlarm.objects.all()
    assert (alarm.kept, alarm.summed, level(depot)) == (7, 5, 7)


@pytest.mark.parametrize("kind", ["code 128", "qr"])
def test_labels_are_printed_for_the_parts_asked_for(as_role, depot, kind):
    path = f"/stock/labels?codes=door-roller,car-lamp&copies=2&kind={kind}"
    answer = as_role("dispatcher").get(path)
    assert answer.status_code == 200, answer.content
    assert answer.content.startswith(b"%PDF")


def test_a_scan_finds_a_part_by_its_gtin_number_or_key(as_role, depot):
    Part.objects.filter(code="door-roller").update(gtin="4006381333931", number="DR-1")
    api = as_role("dispatcher")
    for code in ("4006381333931", "dr-1", "door-roller"):
        found = api.get(f"/stock/scan?code={code}").json()
        assert [row["code"] for row in found] == ["door-roller"], code
    assert api.get("/stock/scan?code=9999").json() == []
